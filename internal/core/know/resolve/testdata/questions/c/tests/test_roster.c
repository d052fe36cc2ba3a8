#include "../roster.h"

void test_alert(void) { // @is test_alert
    alert(0, 1); // @value level @tests alert = test_alert
}
