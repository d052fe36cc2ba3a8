#include "probe.h"

int main(void)
{
    probe_t one = { .depth = 1 }; /* @use probe_t @use depth */
    return probe_read(&one, 3) + one.depth; /* @use probe_read @use depth */
}
