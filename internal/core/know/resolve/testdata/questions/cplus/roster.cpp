#include "roster.h"

class Pager { // @is Pager @under Pager = Bell,Horn
public:
    virtual void page(int times) = 0; // @is page @under page = page:bell,page:horn
};

class Bell : public Pager { // @is Bell @over Bell = Pager
public:
    int rings = 0; // @is rings @value rings
    void page(int times) override { // @is page:bell @over page:bell = page
        this->rings += times; // @ref rings readwrite @value rings
    }
    int heard() { return rings; } // @is heard @ref rings read @value rings @called heard = alert
};

class Horn : public Bell { // @is Horn @over Horn = Bell,Pager
public:
    void page(int times) override { Bell::page(times); } // @is page:horn @over page:horn = page:bell,page
};

static int quiet() { return 1; } // @is quiet @called quiet = alert

int alert(Pager *pager, int level) { // @is alert @is pager @is level @calls alert = quiet,page,heard
    if (level > quiet()) // @value level
        pager->page(level); // @type pager = Pager @ref pager read @value level
    Horn horn;
    return horn.heard(); // @type horn = Horn
}

static void forgotten() {} // @unused

int main() {
    Bell bell;
    return alert(&bell, 3); // @value level
}
