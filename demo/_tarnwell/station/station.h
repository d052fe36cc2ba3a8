/* The station in a hut: measures now and then, and reports by radio. */
#ifndef TARN_STATION_H
#define TARN_STATION_H

#include "frame.h"
#include "probe.h"

/* How often a frame is sent, since some are lost. */
#define SEND_TIMES 3

typedef void (*send_fn)(const uint8_t *bytes, size_t length, void *radio);

typedef struct station {
    uint16_t hut;
    probe_t temperature, wind, snow;
    send_fn send;
    void *radio;
} station_t;

void station_init(station_t *station, uint16_t hut, send_fn send, void *radio);
void station_tick(station_t *station);
void station_report(station_t *station);

#endif
