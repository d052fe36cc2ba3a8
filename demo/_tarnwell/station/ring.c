#include "ring.h"

void ring_push(ring_t *ring, double value)
{
    ring->values[ring->next] = value;
    ring->next = (ring->next + 1) % RING_SIZE;
    if (ring->count < RING_SIZE)
        ring->count++;
}

bool ring_mean(const ring_t *ring, double *mean)
{
    double sum = 0;

    if (ring->count == 0)
        return false;
    for (size_t i = 0; i < ring->count; i++)
        sum += ring->values[i];
    *mean = sum / (double)ring->count;
    return true;
}
