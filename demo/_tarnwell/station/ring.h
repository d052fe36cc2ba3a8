/* The last readings of a probe, the oldest overwritten first. */
#ifndef TARN_RING_H
#define TARN_RING_H

#include <stdbool.h>
#include <stddef.h>

#define RING_SIZE 16

typedef struct ring {
    double values[RING_SIZE];
    size_t next;
    size_t count;
} ring_t;

void ring_push(ring_t *ring, double value);

/* The mean of what is there; false if nothing is. */
bool ring_mean(const ring_t *ring, double *mean);

#endif
