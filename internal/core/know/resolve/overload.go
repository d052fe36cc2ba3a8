package resolve

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Which of several functions of one name is called depends on how many
// arguments there are, then on their types. An argument whose type is not known
// suits any parameter.

// The ranks of how well an argument suits a parameter, from the best down.
const (
	same     = 4
	widened  = 3 // a number of a larger type
	derived  = 3
	boxed    = 2
	anything = 1 // Object, or a type parameter
	unknown  = 0
	unsuited = -1
)

// overloaded puts those first that a call suits best. sure is false if what is
// known does not decide between several.
func (q *question) overloaded(src *source, refs []ref, call facts.Expr, depth int) (best []ref, sure bool) {
	types := make([]Type, len(call.Args))
	for i, a := range call.Args {
		types[i] = q.typeOf(src, a, depth+1)
	}
	ranks := make([]int, len(refs))
	top, tied, first := -1, false, 0
	for i, r := range refs {
		ranks[i] = q.rank(r, types, depth)
		switch {
		case ranks[i] > top:
			top, tied, first = ranks[i], false, i
		case ranks[i] == top && top >= 0 && !q.sameParameters(refs[first], r): // else it is overridden
			tied = true
		}
	}
	order := make([]int, len(refs))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return ranks[b] - ranks[a] })
	for _, i := range order {
		best = append(best, refs[i])
	}
	return best, top >= 0 && !tied
}

// rank says how well the arguments suit the parameters; unsuited if they do
// not.
func (q *question) rank(r ref, args []Type, depth int) int {
	d := r.def()
	if !d.Takes(len(args) + 1) {
		return unsuited
	}
	total := fixed
	for i, arg := range args {
		p := parameterType(d, i)
		if p == facts.NoExpr {
			continue
		}
		param := subst(q.typeNamed(r.src, p, depth+1), r.env)
		if spread := param.expr(); d.Variadic && i >= len(d.Params)-1 && spread.Kind == facts.ListOf && (len(args) != len(d.Params) || arg.expr().Kind != facts.ListOf) {
			param = q.inside(param, spread.Base, depth+1)
			total %= fixed
		}
		if r.src.sees() == lang.SeesIncludes {
			n := q.suitsFreely(arg, param, depth+1)
			if n == unsuited {
				return unsuited
			}
			total += n
			continue
		}
		n := q.suits(arg, param, depth+1)
		switch n {
		case unsuited:
			return unsuited
		case boxed:
			total = max(total-unboxing, total%unboxing)
		}
		total += n
	}
	if d.Variadic && len(args) < len(d.Params) {
		total %= fixed
	}
	return total
}

// What takes a fixed number of arguments goes before what takes any, and what
// takes them as they are before what puts numbers into boxes.
const (
	fixed    = 4000
	unboxing = 1000
)

// suits says how well a value of one type can be passed for a parameter of
// another.
func (q *question) suits(arg, param Type, depth int) int {
	if !arg.known() || !param.known() || depth > deepest || arg.src == nil && name(arg) == "" || param.src == nil && name(param) == "" {
		return unknown
	}
	if variable(param) {
		if bound := param.named.def().Type; bound != facts.NoExpr {
			if b := q.typeNamed(param.named.src, bound, depth+1); b.named.ok() && q.suits(arg, b, depth+10) == unsuited {
				return unsuited
			}
		}
		if primitive[arg.name] {
			return unknown
		}
		return anything
	}
	if name(param) == "Object" || name(param) == "any" {
		if primitive[arg.name] {
			return unknown
		}
		return anything
	}
	if arg.name == "null" {
		if primitive[param.name] {
			return unsuited
		}
		return unknown
	}
	a, p := arg.expr(), param.expr()
	switch {
	case a.Kind == facts.Func || a.Kind == facts.FuncOf:
		return q.suitsFunction(arg, param, depth)
	case a.Kind == facts.ListOf && p.Kind == facts.ListOf:
		return q.suitsList(q.inside(arg, a.Base, depth+1), q.inside(param, p.Base, depth+1), depth+1)
	case arg.src != nil || param.src != nil:
		if arg.src != nil && param.src != nil || arg.src != nil && primitive[param.name] || param.src != nil && primitive[arg.name] ||
			(a.Kind == facts.ListOf || p.Kind == facts.ListOf) && (name(arg) != "" || name(param) != "") {
			return unsuited
		}
		return unknown
	}
	return q.suitsNamed(arg, param, depth)
}

// numeric are the types of numbers that are made into each other without a word.
var numeric = lang.WordsOf("int float double long short char bool unsigned signed size_t wchar_t char8_t char16_t char32_t int8_t int16_t int32_t int64_t uint8_t uint16_t uint32_t uint64_t ptrdiff_t ssize_t intptr_t uintptr_t")

func isNumeric(name string) bool {
	if numeric[name] {
		return true
	}
	first, _, several := strings.Cut(name, " ")
	return several && numeric[first] && !strings.HasSuffix(name, "*")
}

// How well an argument suits a parameter where types of one's own can be made of others without a word, below same.
const (
	fits      = 3 // a parameter of a template becomes just that
	above     = 2 // a type that it is derived from
	converted = 1
)

// suitsFreely is suits where little is out of the question.
func (q *question) suitsFreely(arg, param Type, depth int) int {
	x, y := name(arg), name(param)
	switch {
	case !arg.known() || !param.known() || depth > deepest:
		return unknown
	case variable(param):
		return fits
	case arg.named.ok() && param.named.ok():
		if arg.named.at() == param.named.at() {
			return same
		}
		if q.asType(arg, param.named, depth+1).known() {
			return above
		}
		return unknown
	case x == "" || y == "":
		return unknown
	case x == y && !arg.named.ok() && !param.named.ok():
		return same
	case isNumeric(x) && isNumeric(y):
		return converted
	case strings.HasSuffix(x, "*") && isNumeric(y) && y != "bool", isNumeric(x) && strings.HasSuffix(y, "*") && x != "int":
		return unsuited
	case strings.HasSuffix(x, "*") && !isNumeric(y):
		return converted
	}
	return unknown
}

// suitsList compares the elements of lists, which have to be the same where
// they are numbers.
func (q *question) suitsList(arg, param Type, depth int) int {
	if primitive[arg.name] || primitive[param.name] {
		if arg.name == param.name {
			return same
		}
		return unsuited
	}
	return q.suits(arg, param, depth)
}

// suitsFunction says whether a function without a name can be passed.
func (q *question) suitsFunction(arg, param Type, depth int) int {
	if param.expr().Kind == facts.FuncOf {
		return same
	}
	if param.named.ok() {
		sam := q.singleMethod(param.named, depth)
		if !sam.ok() {
			return unsuited
		}
		if n := int(arg.expr().Part); n > 0 && sam.def().Parameters != n {
			return unsuited
		}
		return same
	}
	if primitive[param.name] || param.name == "String" {
		return unsuited
	}
	return unknown
}

// suitsNamed compares types that have names.
func (q *question) suitsNamed(arg, param Type, depth int) int {
	x, y := name(arg), name(param)
	if arg.named.ok() && param.named.ok() {
		switch {
		case arg.named.at() == param.named.at():
			return same
		case variable(arg):
			return q.suitsBound(arg, param, depth)
		case q.asType(arg, param.named, depth+1).known():
			return derived
		case q.openEnded(arg.named, depth):
			return unknown
		}
		return unsuited
	}
	switch {
	case x == y:
		return same
	case primitive[x] && primitive[y]:
		return widening(x, y)
	case primitive[x] || primitive[y]:
		if wrapper[x] == y || wrapper[y] == x {
			return boxed
		}
		if primitive[x] && (y == "Number" || y == "Comparable") && x != "boolean" {
			return anything
		}
		if primitive[y] && variable(arg) {
			return unknown
		}
		return unsuited
	case final[x] && (final[y] || param.named.ok()):
		if x == "String" && param.named.ok() && param.named.def().Kind == facts.Interface {
			return unknown
		}
		return unsuited
	case final[y]:
		if arg.named.ok() && !variable(arg) {
			return unsuited
		}
		if arg.name != "" && arg.outside != "" {
			return unsuited
		}
	case x == "String" && y == "CharSequence", wrapper["int"] == x && y == "Number":
		return derived
	}
	if arg.named.ok() && !variable(arg) && !q.openEnded(arg.named, depth) {
		return unsuited
	}
	return unknown
}

// suitsBound compares what a type parameter is bound to.
func (q *question) suitsBound(arg, param Type, depth int) int {
	bound := arg.named.def().Type
	if bound == facts.NoExpr {
		return unsuited
	}
	return q.suits(q.typeNamed(arg.named.src, bound, depth+1), param, depth+10)
}

// openEnded says whether a type is derived from something that is not known.
func (q *question) openEnded(t ref, depth int) bool {
	if depth > deepest {
		return true
	}
	for _, s := range t.def().Supers {
		super := q.typeNamed(t.src, s, depth+1)
		if !super.named.ok() || super.named.at() != t.at() && q.openEnded(super.named, depth+10) {
			return true
		}
	}
	return false
}

// name is what a type is called.
func name(t Type) string {
	if t.named.ok() {
		return t.named.def().Name
	}
	return t.name
}

var (
	primitive = lang.WordsOf("byte short char int long float double boolean bool void")
	final     = lang.WordsOf("String Integer Long Short Byte Character Boolean Double Float Class")
	wrapper   = map[string]string{"int": "Integer", "long": "Long", "short": "Short", "byte": "Byte", "char": "Character", "boolean": "Boolean", "double": "Double", "float": "Float"}
	unboxed   = map[string]string{"Integer": "int", "Long": "long", "Short": "short", "Byte": "byte", "Character": "char", "Boolean": "boolean", "Double": "double", "Float": "float"}
	wideness  = map[string]int{"byte": 1, "short": 2, "char": 2, "int": 3, "long": 4, "float": 5, "double": 6}
)

// widening says whether a number fits into a larger type; the nearest is the
// best.
func widening(from, to string) int {
	a, b := wideness[from], wideness[to]
	switch {
	case a == 0 || b == 0 || a >= b:
		return unsuited
	case b-a == 1:
		return widened
	}
	return boxed
}
