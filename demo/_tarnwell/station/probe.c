#include "probe.h"

#define GIVE_UP_AFTER 5

static bool bus_silent(int address, int *raw)
{
    (void)address;
    (void)raw;
    return false;
}

bool (*bus_read)(int address, int *raw) = bus_silent;

/* ---- reading ---- */

static bool read_scaled(probe_t *probe, double scale, double *value)
{
    int raw;

    if (!bus_read(probe->address, &raw))
        return false;
    *value = raw * scale;
    return true;
}

static bool read_thermometer(probe_t *probe, double *value)
{
    return read_scaled(probe, 0.1, value);
}

static bool read_anemometer(probe_t *probe, double *value)
{
    return read_scaled(probe, 0.05, value);
}

static bool read_snow_gauge(probe_t *probe, double *value)
{
    return read_scaled(probe, 1, value);
}

/* ---- correcting ---- */

static double add_offset(const probe_t *probe, double value)
{
    return value + probe->offset;
}

/* Snow is measured from above: what is nearer is more of it. */
static double from_above(const probe_t *probe, double value)
{
    double snow = probe->offset - value;

    return snow > 0 ? snow : 0;
}

/* ---- kinds ---- */

const probe_kind_t probe_thermometer = {
    .name = "thermometer",
    .read = read_thermometer,
    .correct = add_offset,
};

const probe_kind_t probe_anemometer = {
    .name = "anemometer",
    .read = read_anemometer,
    .correct = add_offset,
};

const probe_kind_t probe_snow_gauge = {
    .name = "snow gauge",
    .read = read_snow_gauge,
    .correct = from_above,
};

bool probe_measure(probe_t *probe)
{
    double value;

    if (probe->failures >= GIVE_UP_AFTER)
        return false;
    if (!probe->kind->read(probe, &value)) {
        probe->failures++;
        return false;
    }
    probe->failures = 0;
    ring_push(&probe->last, probe->kind->correct(probe, value));
    return true;
}

bool probe_value(const probe_t *probe, double *value)
{
    return ring_mean(&probe->last, value);
}
