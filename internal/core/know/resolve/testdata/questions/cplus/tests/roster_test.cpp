#include "../roster.h"

void test_alert() { // @is test_alert
    alert(nullptr, 1); // @value level @tests alert = test_alert
}
