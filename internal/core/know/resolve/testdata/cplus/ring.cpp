#include "ring.hpp"
void Ring::strike(int times) { count += times; mute(); } // @def strike @use count @use mute
void Ring::mute() { this->count = 0; } // @def mute @use count
int main() { Ring r; r.strike(2); auto p = new Ring(); p->mute(); } // @use strike @use mute
