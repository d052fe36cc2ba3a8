#pragma once
#define HUT_EXPORT
#define GUARDED_BY(x)
namespace huts {
class Mast; // made known
class HUT_EXPORT Hut { // @def Hut
 public:
  explicit Hut(int n);
  ~Hut();
  int snow() const; // made known
  Mast* mast() const { return mast_; } // @use Mast @use mast_
 private:
  Mast* const mast_ GUARDED_BY(lock_); // @def mast_
  int depth_ GUARDED_BY(lock_); // @def depth_
  int lock_;
  struct Rep;
  Rep* rep_; // @def rep_
};
class Mast { public: int gust() { return 1; } }; // @def Mast @def gust
namespace log { struct Line { int size; }; } // @def Line @def size
int total(int n);
}
