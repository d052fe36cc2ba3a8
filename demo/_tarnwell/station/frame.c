#include "frame.h"

/* Puts a number of two bytes, the most significant first. */
static void put16(uint8_t *at, uint16_t value)
{
    at[0] = (uint8_t)(value >> 8);
    at[1] = (uint8_t)value;
}

static uint16_t tenths(double value)
{
    return (uint16_t)(int16_t)(value * 10);
}

uint16_t frame_checksum(const uint8_t *bytes, size_t length)
{
    uint16_t sum = 0;
    for (size_t i = 0; i < length; i++) {
        sum = (uint16_t)(sum << 1 | sum >> 15);
        sum = (uint16_t)(sum + bytes[i]);
    }
    return sum;
}

void frame_encode(const frame_t *frame, uint8_t *out)
{
    out[0] = FRAME_START;
    out[1] = (uint8_t)frame->kind;
    put16(out + 2, frame->hut);
    put16(out + 4, tenths(frame->temperature));
    put16(out + 6, tenths(frame->wind));
    put16(out + 8, frame->snow);
    put16(out + 10, frame_checksum(out, 10));
}
