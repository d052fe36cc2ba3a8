package c

import (
	"strconv"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// What stands between #if and #endif is all read, but where a name is defined
// in several branches, it matters which of them a compiler would take. With no
// word on how the project is built, it is the one that a compiler on a common
// system takes without any options.

// known are macros that such a compiler defines.
var known = map[string]int{
	"__GNUC__": 12, "__STDC__": 1, "__STDC_VERSION__": 201710, "__linux__": 1, "__linux": 1, "linux": 1, "__unix__": 1, "__unix": 1, "unix": 1,
	"__x86_64__": 1, "__LP64__": 1, "__gnu_linux__": 1, "__ELF__": 1, "__CHAR_BIT__": 8, "__SIZEOF_POINTER__": 8, "__STDC_HOSTED__": 1,
}

// plusVersion is what __cplusplus stands for in C++.
const plusVersion = 201703

func conditional(r *reader.Reader, n syntax.Node) {
	holds := false
	switch n.Type() {
	case "preproc_ifdef", "preproc_elifdef":
		name := n.Part("name")
		r.Use(name.Text(), facts.Read, name.Range(), facts.NoExpr)
		_, holds = macroValue(r, name.Text())
		if n.Has("#ifndef") || n.Has("#elifndef") {
			holds = !holds
		}
	default:
		condition := n.Part("condition")
		r.Visit(condition)
		holds = value(r, condition) != 0
	}
	alternative := n.Part("alternative")
	outer := r.SetInactive(r.Inactive() || !holds)
	for c := range n.NamedChildren() {
		if f := c.FieldName(); f != "condition" && f != "name" && f != "alternative" {
			r.Visit(c)
		}
	}
	r.SetInactive(outer || holds)
	if alternative.OK() {
		r.Visit(alternative)
	}
	r.SetInactive(outer)
}

// macroValue is what a macro stands for and whether it is defined.
func macroValue(r *reader.Reader, name string) (n int, defined bool) {
	if name == "__cplusplus" {
		if r.Facts().Language == "C++" {
			return plusVersion, true
		}
		return 0, false
	}
	if n, ok := known[name]; ok {
		return n, true
	}
	if id := r.Defined(0, name); id != facts.NoDef && r.At(id).Kind == facts.Macro && !r.At(id).Inactive {
		text := strings.TrimSpace(strings.TrimPrefix(string(r.At(id).Full.In(r.Text)), string(r.Text[r.At(id).Full.Start:r.At(id).At.End])))
		n, _ := strconv.Atoi(text)
		return n, true
	}
	return 0, false
}

// value works out a condition.
func value(r *reader.Reader, n syntax.Node) int {
	switch n.Type() {
	case "preproc_defined":
		_, ok := macroValue(r, n.First("identifier").Text())
		return truth(ok)
	case "identifier":
		v, _ := macroValue(r, n.Text())
		return v
	case "number_literal":
		v, _ := strconv.ParseInt(strings.TrimRight(n.Text(), "uUlL"), 0, 64)
		return int(v)
	case "parenthesized_expression":
		for c := range n.NamedChildren() {
			return value(r, c)
		}
	case "unary_expression":
		inner := value(r, n.Part("argument"))
		if n.Has("!") {
			return truth(inner == 0)
		}
		if n.Has("-") {
			return -inner
		}
		return inner
	case "binary_expression":
		return combined(n, value(r, n.Part("left")), value(r, n.Part("right")))
	}
	return 0
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}

// combined applies an operator.
func combined(n syntax.Node, a, b int) int {
	for c := range n.Children() {
		switch c.Type() {
		case "&&":
			return truth(a != 0 && b != 0)
		case "||":
			return truth(a != 0 || b != 0)
		case "==":
			return truth(a == b)
		case "!=":
			return truth(a != b)
		case "<":
			return truth(a < b)
		case ">":
			return truth(a > b)
		case "<=":
			return truth(a <= b)
		case ">=":
			return truth(a >= b)
		case "+":
			return a + b
		case "-":
			return a - b
		case "*":
			return a * b
		case "&":
			return a & b
		}
	}
	return 0
}
