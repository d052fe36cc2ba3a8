#ifndef PROBE_H
#define PROBE_H
#define LIMIT 8 /* @def LIMIT */
typedef struct probe { /* @def probe */
    int depth; /* @def depth */
    struct probe *next; /* @def next @use probe */
} probe_t; /* @def probe_t */
int probe_read(probe_t *p, int tries);
extern int total; /* @def total */
#endif
