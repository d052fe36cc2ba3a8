#include "hut.h"
struct Board { // another of the same shape
  struct Rep { int columns; }; // @def columns
  Rep* rep_; // @def rep_:board
  int wide() { return rep_->columns; } // @use columns @use rep_:board
};
int show(huts::Hut* h) { return h->snow() + huts::total(2); } // @use Hut @use snow @use total
namespace huts { int again(Hut& h) { return h.mast()->gust(); } } // @use Hut @use gust
using namespace huts;
int open(Hut& h) { return h.snow() + total(3); } // @use Hut @use snow @use total
