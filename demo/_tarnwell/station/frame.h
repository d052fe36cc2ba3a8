/* Frames as they go over the radio; see docs/radio-protocol.md. */
#ifndef TARN_FRAME_H
#define TARN_FRAME_H

#include <stddef.h>
#include <stdint.h>

#define FRAME_START 0x7E
#define FRAME_SIZE 12

enum frame_kind { FRAME_WEATHER = 1, FRAME_SNOW = 2, FRAME_HELLO = 3 };

/* What one frame reports. */
typedef struct frame {
    enum frame_kind kind;
    uint16_t hut;
    double temperature; /* degrees */
    double wind;        /* metres per second */
    uint16_t snow;      /* millimetres */
} frame_t;

/* Adds the bytes up, turning the sum by a bit before each. */
uint16_t frame_checksum(const uint8_t *bytes, size_t length);

/* Writes a frame; out has room for FRAME_SIZE bytes. */
void frame_encode(const frame_t *frame, uint8_t *out);

#endif
