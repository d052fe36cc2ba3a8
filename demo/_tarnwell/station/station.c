#include "station.h"

#include <string.h>

enum address { ADDRESS_TEMPERATURE = 0x10, ADDRESS_WIND, ADDRESS_SNOW };

static void probe_init(probe_t *probe, const probe_kind_t *kind, int address, double offset)
{
    memset(probe, 0, sizeof *probe);
    probe->kind = kind;
    probe->address = address;
    probe->offset = offset;
}

void station_init(station_t *station, uint16_t hut, send_fn send, void *radio)
{
    station->hut = hut;
    station->send = send;
    station->radio = radio;
    probe_init(&station->temperature, &probe_thermometer, ADDRESS_TEMPERATURE, 0);
    probe_init(&station->wind, &probe_anemometer, ADDRESS_WIND, 0);
    probe_init(&station->snow, &probe_snow_gauge, ADDRESS_SNOW, 4000);
}

/* Measures everything once. */
void station_tick(station_t *station)
{
    probe_t *probes[] = {&station->temperature, &station->wind, &station->snow};

    for (size_t i = 0; i < sizeof probes / sizeof probes[0]; i++)
        probe_measure(probes[i]);
}

static void send_often(station_t *station, const frame_t *frame)
{
    uint8_t bytes[FRAME_SIZE];

    frame_encode(frame, bytes);
    for (int i = 0; i < SEND_TIMES; i++)
        station->send(bytes, sizeof bytes, station->radio);
}

/* Sends what was measured; without any snow it is the weather alone. */
void station_report(station_t *station)
{
    frame_t frame = {.kind = FRAME_WEATHER, .hut = station->hut};
    double snow;

    probe_value(&station->temperature, &frame.temperature);
    probe_value(&station->wind, &frame.wind);
    if (probe_value(&station->snow, &snow) && snow > 0) {
        frame.kind = FRAME_SNOW;
        frame.snow = (uint16_t)snow;
    }
    send_often(station, &frame);
}
