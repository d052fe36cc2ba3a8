// Package python reads the facts of Python files and stubs.
package python

import (
	"github.com/smacker/go-tree-sitter/python"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "Python"

var grammar = syntax.NewGrammar(python.GetLanguage())

var (
	fName  = grammar.Field("name")
	fValue = grammar.Field("value")
	fLeft  = grammar.Field("left")
	fRight = grammar.Field("right")
)

var language = reader.New(reader.Language{Name: name, Grammar: grammar, Rules: rules, Signs: signs, Once: true,
	State: func() any {
		return &state{signatures: map[scopedName][]facts.DefID{}, outer: map[scopedName]facts.ScopeID{}, declared: map[facts.ScopeID]map[string]bool{}}
	}})

// state is what is noted while a file is read.
type state struct {
	// outer are the names that a function declares global or nonlocal, with the scope they belong to.
	outer map[scopedName]facts.ScopeID
	doc   place.Range // a comment above the decorators of the next definition
	head  uint32      // where those decorators begin, if decorated
	marks []string    // the names of those decorators
	// returns are what the functions around give back, the innermost last.
	returns [][]facts.ExprID
	// yields are what they hand out one after the other.
	yields [][]facts.ExprID
	// until is where the statements end that are being read.
	until uint32
	// declared are the functions that classes have, by the scopes of their members.
	declared map[facts.ScopeID]map[string]bool
	// signatures are those that a function may be called by, which stand in front of it.
	signatures map[scopedName][]facts.DefID
}

type scopedName struct {
	scope facts.ScopeID
	name  string
}

func stateOf(r *reader.Reader) *state { return r.State.(*state) }

var part = reader.Part

// rules are those of statements and of values. What a node stands for where a type belongs, typ
// says.
var rules = reader.Rules{
	"identifier":               reader.Name(),
	"attribute":                attribute,
	"call":                     {Visit: call, Type: (*reader.Reader).Visit, Expr: called},
	"string":                   {Type: quoted, Expr: reader.Literal("str").Expr},
	"concatenated_string":      {Expr: reader.Literal("str").Expr},
	"integer":                  reader.Literal("int"),
	"float":                    reader.Literal("float"),
	"true":                     reader.Literal("bool"),
	"false":                    reader.Literal("bool"),
	"none":                     reader.Literal("None"),
	"comparison_operator":      reader.Literal("bool"),
	"not_operator":             reader.Literal("bool"),
	"list":                     {Expr: holding("list")},
	"dictionary":               {Expr: holding("dict")},
	"set":                      {Expr: holding("set")},
	"tuple":                    {Expr: tuple},
	"expression_list":          {Expr: tuple},
	"list_comprehension":       {Visit: comprehension("list"), Expr: reader.Literal("list").Expr},
	"set_comprehension":        {Visit: comprehension("set"), Expr: reader.Literal("set").Expr},
	"dictionary_comprehension": {Visit: comprehension("dict"), Expr: reader.Literal("dict").Expr},
	"generator_expression":     {Visit: comprehension("list"), Expr: reader.Literal("list").Expr},
	"subscript":                {Visit: (*reader.Reader).All, Expr: subscript},
	"await":                    {Expr: awaited},
	"yield":                    reader.Do(yielded),
	"parenthesized_expression": {Expr: reader.First},
	"boolean_operator":         {Visit: tested, Expr: either},
	"conditional_expression":   {Visit: tested, Expr: conditional},
	"with_item":                {Expr: reader.First},
	"as_pattern":               {Visit: asPattern, Expr: reader.First},
	"named_expression":         {Visit: named, Expr: reader.Same(part("value")).Expr},
	"lambda":                   {Visit: lambda, Expr: function},
	"keyword_argument":         {Visit: func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("value")) }, Expr: labelled},
	"type":                     reader.Do((*reader.Reader).UseType),

	"decorated_definition":    reader.Do(decorated),
	"function_definition":     reader.Do(define),
	"class_definition":        reader.Do(class),
	"assignment":              reader.Do(assignment),
	"augmented_assignment":    reader.Do(augmented),
	"for_statement":           reader.Do(forEach),
	"import_statement":        reader.Do(importModules),
	"import_from_statement":   reader.Do(importNames),
	"future_import_statement": reader.Nothing(),
	"return_statement":        reader.Do(returned),
	"global_statement":        reader.Do(outside),
	"nonlocal_statement":      reader.Do(outside),

	"if_statement":     reader.Do(conditions),
	"while_statement":  reader.Do(repeated),
	"try_statement":    reader.Do(tried),
	"match_statement":  reader.Do(matched),
	"case_pattern":     reader.Do(captured),
	"assert_statement": reader.Do(asserted),
	"block":            reader.Do(block),
}

func augmented(r *reader.Reader, n syntax.Node) {
	left, right := n.Part("left"), n.Part("right")
	r.Visit(right)
	target(r, left, binding{role: facts.ReadWrite})
	if n.Has("+=") || n.Has("|=") {
		putAll(r, left, right)
	}
}

func named(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("value"))
	target(r, n.Part("name"), binding{value: n.Part("value")})
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("right"))
	target(r, n.Part("left"), binding{value: n.Part("right"), each: true, from: n.Part("right").Range().End})
	r.Branch(facts.Branch{At: n.Part("body").Range(), Whole: n.Range(), Loop: true, Beside: true})
	for c := range n.NamedChildren() {
		if f := c.Field(); f != fLeft && f != fRight {
			r.Visit(c)
		}
	}
}

// mostReturns is how many of the values a function gives back are kept.
const mostReturns = 4

func returned(r *reader.Reader, n syntax.Node) {
	r.All(n)
	s := stateOf(r)
	if at := len(s.returns) - 1; at >= 0 {
		if e := reader.First(r, n); e != facts.NoExpr && len(s.returns[at]) < mostReturns {
			s.returns[at] = append(s.returns[at], e)
		}
	}
}

// outside reads the names that a function takes from around it.
func outside(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		name, of := c.Text(), facts.ScopeID(0)
		if n.Type() == "nonlocal_statement" {
			for s := r.Scope(); s != 0; {
				s = r.Facts().Scopes[s].Parent
				if r.Defined(s, name) != facts.NoDef {
					of = s
					break
				}
			}
		}
		stateOf(r).outer[scopedName{r.Scope(), name}] = of
		r.Use(name, facts.Read, c.Range(), facts.NoExpr)
	}
}

// comprehension reads what has a scope of its own, but for the first of the things it goes
// through, which is looked up outside; it makes a collection of the name.
func comprehension(collection string) func(r *reader.Reader, n syntax.Node) {
	return func(r *reader.Reader, n syntax.Node) {
		first := n.First("for_in_clause")
		r.Visit(first.Part("right"))
		r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
			for _, c := range reader.Named(n, "for_in_clause") {
				if c != first {
					r.Visit(c.Part("right"))
				}
				target(r, c.Part("left"), binding{value: c.Part("right"), each: true})
			}
			for c := range n.NamedChildren() {
				if c.Type() == "if_clause" {
					r.All(c)
					r.Holds(n.Range(), says(r, reader.Nth(0)(c), false))
				}
			}
			for c := range n.NamedChildren() {
				if t := c.Type(); t != "for_in_clause" && t != "if_clause" {
					r.Visit(c)
				}
			}
			held := []syntax.Node{n.Part("body")}
			if held[0].Type() == "pair" {
				held = []syntax.Node{held[0].Part("key"), held[0].Part("value")}
			}
			r.Keep(n, r.Collection(collection, n.Range(), values(r, held)...))
		})
	}
}

func asPattern(r *reader.Reader, n syntax.Node) {
	var value syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "as_pattern_target" {
			b := binding{value: value}
			if value.Type() == "tuple" { // one of several exceptions
				b.taken = oneOf(r, entries(value), value.Range())
			}
			for t := range c.NamedChildren() {
				target(r, t, b)
			}
			continue
		}
		r.Visit(c)
		value = c
	}
}

func entries(n syntax.Node) (all []syntax.Node) {
	for c := range n.NamedChildren() {
		all = append(all, c)
	}
	return all
}
