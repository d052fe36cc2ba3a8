package resolve_test

// casesOfC are of C and C++ as their preprocessor leaves them.
var casesOfC = map[string]string{
	"a header that is of C++ by nothing but the paths of what it defines": `
-- a.hpp --
namespace spire { class bell { void ring(int m); void ‹=stop›stop(); }; }
-- a-inl.h --
#include "a.hpp"
TOWER_INLINE void spire::bell::‹=ring›ring(int m) { ‹stop›stop(); ‹ring›ring(m); }
`,
	"a parameter of the name of its type": `
-- a.cc --
struct ‹=type›node { int v; };
int f(‹type›node& ‹=it›node, int w) { return ‹it›node.v + w; }
int g(int w, ‹type›node* node);
`,
	"a macro that looks like a declaration, stands for one, or is defined again by what is included": `
-- u.cc --
#define ‹=plain›SAME(type, value) do { type v; } while (0)
void f() {
  ‹plain›SAME(short,              -1);
  ‹plain›SAME(unsigned short,     9999);
  ‹plain›SAME(int,                -1000);
}
-- table.h --
#undef of
#define ‹=other›of(l) L_##l:
-- w.c --
#define ‹=own›of(l) case l:
int g(int L) { switch (L) { ‹own›of(OP_ADD) return 1; } return 2; }
int f(int L) {
#include "table.h"
  ‹other›of(OP_SUB)
  return 3;
}
-- v.c --
#define ‹=set›SETUP(L,iop,fop) {  \
  int *v1 = near(i);  \
  far(L, v1, iop, fop); }
#define of(l) case l:
int f(int L) {
  switch (L) {
      of(OP_ADD) {
        ‹set›SETUP(L, near, far);
        break;
      }
  }
}
`,
	"c++: macros on lines of their own": `
-- begin.h --
#define HUT_BEGIN namespace hut { inline namespace v1 {
#define HUT_END } }
#define HUT_PURE __attribute__((pure))
#define FIELD(type, name) type name##_; type get_##name() const { return name##_; }
-- hut.hpp --
#include "begin.h"
namespace far {
FAR_BEGIN
namespace inner { struct ‹=point›Point { int ‹=x›x; }; }
FAR_END
}
HUT_BEGIN
EXPORTED class ‹=bell›Bell {
	OBJECT_MACRO
public:
	EXPLICIT Bell(int n);
	HUT_PURE int ‹=ring›ring() NOTHROW;
	FIELD(int, ‹=depth›depth)
};
HUT_END
-- use.cpp --
#include "hut.hpp"
int use(hut::‹bell›Bell& b, far::inner::‹point›Point p) {
	return b.‹ring›ring() + p.‹x›x;
}
`,
	"c++: using what another one has": `
-- a.cpp --
struct Base { int ‹=grow›grow(int n); int ‹=width›width; };
struct Own : Base {
	using Base::‹grow›grow;
	int more() { return ‹grow›grow(1) + this->‹width›width; }
};
namespace tools { inline namespace v1 { struct ‹=saw›Saw { int ‹=teeth›teeth; }; } int ‹=cut›cut(Saw); }
using tools::‹saw›Saw;
using tools::‹cut›cut;
int all(Own o) {
	‹saw›Saw s;
	::tools::v1::‹saw›Saw t;
	return ‹cut›cut(s) + o.‹grow›grow(2) + t.‹teeth›teeth;
}
`,
	"c: of several branches the one that is built": `
-- a.h --
#ifndef A_H
#define A_H
#define VERSION(a, b) ((a) * 100 + (b))
#define NOW VERSION(4, 2)
#if defined(_WIN32) || NOW < VERSION(3, 0)
#define OPEN(x) 0
int level(void);
#elif NOW >= VERSION(4, 0) && defined(__linux__)
#define ‹=open›OPEN(x) x
int ‹=level›level(void);
#else
#define OPEN(x)
#endif
#endif
-- a.c --
#include "a.h"
int f(void) {
#ifdef _WIN32
	if (1) {
#else
	if (‹open›OPEN(2)) {
#endif
		return ‹level›level();
	}
	return 0;
}
`,
	"c++: which of several is called": `
-- a.cpp --
struct Hut {
	void ‹=number›set(int);
	void ‹=text›set(const char*);
	void ‹=both›set(double, int = 0);
	void ‹=other›set(const Hut&);
};
void all(Hut h, Hut o) {
	h.‹text›set("x"); h.‹number›set(1); h.‹both›set(1.5, 2); h.‹other›set(o);
}
`,
	"c++: values that point to others, and what containers hold": `
-- a.cpp --
#include <vector>
struct Hut { int ‹=depth›depth; Hut& ‹=self›self(); Hut* next; };
template <typename T> struct Box { T* operator->(); T& operator*(); T& operator[](int); T value; T* begin(); T* end(); };
struct Bag { Hut first(); std::vector<Hut> rows; std::unique_ptr<Hut> own; std::map<std::string, Hut> by; };
Bag make();
int all(Bag& b, Box<Hut> box) {
	auto a = b.first(); a.‹depth›depth;
	make().first().next->‹depth›depth;
	box->‹depth›depth; (*box).‹depth›depth; box[1].‹depth›depth; box.value.‹depth›depth;
	for (auto& r : b.rows) r.‹depth›depth;
	for (auto& r : box) r.‹depth›depth;
	b.rows[0].‹depth›depth; b.rows.front().‹depth›depth; b.rows.back().‹self›self().‹depth›depth;
	b.own->‹depth›depth; b.by["x"].‹depth›depth;
	for (auto& [key, hut] : b.by) hut.‹depth›depth;
	for (auto& p : b.by) p.second.‹depth›depth;
	auto it = b.rows.begin(); it->‹depth›depth;
	auto found = b.by.find("x"); found->second.‹depth›depth;
	auto p = std::make_unique<Hut>(); p->‹depth›depth;
	auto q = static_cast<Hut*>(p.get()); q->‹depth›depth;
	decltype(a) k; k.‹depth›depth;
	if (auto r = b.first(); true) r.‹depth›depth;
	if (auto* r = b.own.get()) return r->‹depth›depth;
	return 0;
}
`,
	"c++: parameters of templates, friends, conversions, and names along paths": `
-- a.cpp --
namespace detail {
template <typename ‹=t1›T, int ‹=n1›N> struct ‹=holder›Holder { using type = ‹t1›T; T row[‹n1›N]; };
template <typename ‹=t2›T, int ‹=n2›N> struct Holder<‹t2›T*, ‹n2›N> { ‹t2›T one; int n = ‹n2›N; };
enum class ‹=kind›type { ‹=nothing›none, some };
template <typename Char> Char ‹=sign›sign(int s);
}
template <typename ‹=c›C> class Row {
	C held;
public:
	void push(‹c›C);
	friend bool operator==(const Row& ‹=left›left, const Row& right) { return ‹left›left.held == right.held; }
	operator const ‹c›C&() const { return held; }
};
template <typename ‹=it›It> auto format(It ‹=out›out, int ‹=n›n) -> ‹it›It {
	int sign = ‹n›n;
	if (auto ‹=p›p = reach<char>(‹out›out, n)) return *‹p›p;
	detail::‹kind›type t = detail::‹kind›type::‹nothing›none;
	return detail::‹sign›sign<char>(sign);
}
detail::‹holder›Holder<int, 3> all;
`,
	"c++: titles are no names": `
-- a.cpp --
// ---------------------------------------------------------------------
// Hut
// ---------------------------------------------------------------------

struct ‹=hut›Hut { int n; };

// ---------------------------------------------------------------------
// Missing
// ---------------------------------------------------------------------
‹hut›Hut one;
`,
	"c++: the same type for two builds": `
-- a.h --
namespace hut { struct Bell; struct Row { Bell* first; }; }
-- a.cpp --
#include "a.h"
namespace hut {
#ifdef SMALL
struct Bell { short ring; };
#else
struct ‹=bell›Bell { int ‹=ring›ring; };
#endif
int all(‹bell›Bell* b, Row r) { return b->‹ring›ring + r.first->‹ring›ring; }
}
`,
	"c++: parameters that may be left out, and what may not be changed": `
-- a.cpp --
bool ‹=text›test(const char* name, const char* want, const char* got, bool echo = true, bool line = false);
bool ‹=truth›test(const char* name, bool want, bool got, bool echo = true, bool line = false);
template <class T> bool ‹=any›test(const char* name, T want, T got, bool echo = true);
struct Row {
	const Row* ‹=kept›first() const;
	Row* ‹=open›first();
	int level() const { return ‹kept›first() ? 1 : 0; }
	int more() { return ‹open›first() ? 1 : 0; }
	const char* name();
};
void all(const Row* fixed, Row* row, int n) {
	‹truth›test("a", true, n != 0);
	‹text›test("b", "x", row->name());
	‹any›test("c", 1, n);
	fixed->‹kept›first();
	row->‹open›first()->‹open›first();
	fixed->first()->‹kept›first();
}
class Bell { class Clapper { int ‹=weight›weight; void swing(); }; };
void Bell::Clapper::swing() { ‹weight›weight = 1; }
`,
	"c++: functions that differ in what they may change": `
-- a.h --
class Row;
class Node {
public:
	const Row* first(const char* name = 0) const;
	Row* ‹=open›first(const char* name = 0) { return 0; }
	Row* row() { return ‹open›first(); }
	const Row* row() const { return ‹kept›first(); }
};
class Handle {
	const Node* node;
	const Row* row(const char* n) { return node ? node->‹kept›first(n) : 0; }
};
template <class T> class Array {
public:
	const T* ‹=amem›mem() const { return m; }
	T* ‹=omem›mem() { return m; }
};
class Log {
	const char* text() const { return buffer.‹amem›mem(); }
	char* text() { return buffer.‹omem›mem(); }
	Array<char> buffer;
};
class Util {
public:
	static const char* ‹=cskip›skip(const char* p, int* line) { return p; }
	static char* ‹=oskip›skip(char* const p, int* line) { return const_cast<char*>(‹?cskip›skip(const_cast<const char*>(p), line)); }
};
char* f(char* p, const char* q, int* l) {
	p = Util::‹oskip›skip(p, l);
	q = Util::‹cskip›skip(q, l);
	Util::‹cskip›skip("x", 0);
	return p;
}
-- a.cpp --
#include "a.h"
const Row* Node::‹=kept›first(const char* name) const {
	return 0;
}
`,
	"c: functions as they were once written": `
-- a.c --
#define OF(args) args
int ‹=check›check OF((int a, char *b));
struct log { int ‹=n›n; };
int f(struct log *log) {
	return check(log->‹n›n, "x");
Again:
	;
	int *p = 0;
	return p != 0;
}
`,
}
