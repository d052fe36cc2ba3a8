#include "probe.h"
#include <stdio.h>

enum band { LOW, HIGH }; /* @def LOW */

static int scale(int raw) { return raw * 2; } /* @def scale */

int probe_read(probe_t *p, int tries) /* @def probe_read @use probe_t */
{
    int depth = 0; /* @def depth:local */
    for (int i = 0; i < tries && i < LIMIT; i++) /* @use LIMIT */
        depth += scale(p->next->depth); /* @use depth:local @use scale @use next @use depth#2 */
    if (!depth) goto out; /* @use depth:local */
    printf("%d", LOW); /* @use LOW */
out:
    return depth + total; /* @use depth:local @use total */
}
