/* Probes measure one thing each. What they have in common is a table of
 * functions, so that the station need not know what kind it talks to. */
#ifndef TARN_PROBE_H
#define TARN_PROBE_H

#include "ring.h"

typedef struct probe probe_t;

/* What a kind of probe can do. */
typedef struct probe_kind {
    const char *name;
    bool (*read)(probe_t *probe, double *value);
    double (*correct)(const probe_t *probe, double value);
} probe_kind_t;

struct probe {
    const probe_kind_t *kind;
    ring_t last;
    int address;
    double offset; /* found when it was put up */
    unsigned failures;
};

extern const probe_kind_t probe_thermometer;
extern const probe_kind_t probe_anemometer;
extern const probe_kind_t probe_snow_gauge;

/* Measures once and keeps the value; false if the probe did not answer. */
bool probe_measure(probe_t *probe);

/* The mean of the last values; false if there are none. */
bool probe_value(const probe_t *probe, double *value);

/* Reads a register of the bus; the board support package has the real one. */
extern bool (*bus_read)(int address, int *raw);

#endif
