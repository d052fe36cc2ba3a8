#include <radio.h>

struct radio { packet *queue; struct mode mode; }; //@def queue //@use packet //@use mode
int radio_errors; //@def radio_errors:own
static int full(radio *r); //@use radio:name

RADIO_API int radio_send(radio *r, packet *p) { //@def radio_send
    if (full(r)) radio_errors++; //@use full //@use radio_errors:own
    r->queue->next->u.half.low = p->u.whole; //@use queue //@use next:packet //@use half //@use low //@use whole
    return r->mode.quiet; //@use quiet
}

static int full(radio *r) { return r->queue != 0; } //@def full

static const struct mode modes[] = { { .quiet = 1 }, [1] = { .quiet = 0 } }; //@use quiet
