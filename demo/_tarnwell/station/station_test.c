/* Tests of the station, to be run on the desk: make -C station test. */
#include "station.h"

#include <assert.h>
#include <stdio.h>

static int depth = 2500;

static bool fake_bus(int address, int *raw)
{
    switch (address) {
    case 0x10:
        *raw = -85;
        return true;
    case 0x12:
        *raw = depth;
        return true;
    default:
        return false;
    }
}

struct heard {
    int times;
    uint8_t last[FRAME_SIZE];
};

static void listen(const uint8_t *bytes, size_t length, void *radio)
{
    struct heard *heard = radio;

    assert(length == FRAME_SIZE);
    for (size_t i = 0; i < length; i++)
        heard->last[i] = bytes[i];
    heard->times++;
}

int main(void)
{
    struct heard heard = {0};
    station_t station;

    bus_read = fake_bus;
    station_init(&station, 7, listen, &heard);
    station_tick(&station);
    depth = 2700;
    station_tick(&station);
    station_report(&station);
    assert(heard.times == SEND_TIMES);
    assert(heard.last[0] == FRAME_START && heard.last[1] == FRAME_SNOW && heard.last[3] == 7);
    assert((heard.last[8] << 8 | heard.last[9]) == 1400);
    assert(station.wind.failures == 2);
    puts("the station works");
    return 0;
}
