#include "hut.h"
namespace huts {
struct Hut::Rep { int rows; }; // @def rows @use Hut
Hut::Hut(int n) : mast_(nullptr), depth_(n) {} // @use mast_ @use depth_
int Hut::snow() const { return depth_ + mast_->gust() + rep_->rows; } // @use Hut @use depth_ @use mast_ @use gust @use rep_ @use rows @def snow
int total(int n) { // @def total
  log::Line log; // @use Line
  return n + log.size; // @use size
}
}
