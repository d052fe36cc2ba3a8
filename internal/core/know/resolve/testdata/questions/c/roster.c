#include "roster.h"

struct bell { int rings; }; // @is bell @is rings

static int quiet(void) { return 1; } // @is quiet @called quiet = alert

static void page(struct bell *b, int times) { // @is page @called page = alert
    b->rings += times; // @ref rings readwrite @value rings @type b = bell
}

int alert(struct bell *b, int level) { // @is alert @is level @calls alert = quiet,page
    if (level > quiet()) // @value level
        page(b, level); // @value level
    return b->rings; // @ref rings read @value rings
}

static void forgotten(void) {} // @unused

int main(void) {
    struct bell b;
    return alert(&b, 3); // @value level
}
