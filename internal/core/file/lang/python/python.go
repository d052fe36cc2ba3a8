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

var language = reader.New(reader.Language{Name: name, Grammar: grammar, Rules: rules, Signs: signs, State: func() any { return &state{outer: map[scopedName]bool{}} }})

// state is what is noted while a file is read.
type state struct {
	outer map[scopedName]bool // names a function declares global or nonlocal
	doc   place.Range         // a comment above the decorators of the next definition
	head  uint32              // where those decorators begin, if decorated
	marks []string            // the names of those decorators
	// returns are what the functions around give back, the innermost last.
	returns [][]facts.ExprID
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
	"comparison_operator":      reader.Literal("bool"),
	"not_operator":             reader.Literal("bool"),
	"list":                     {Expr: holding("list")},
	"dictionary":               {Expr: holding("dict")},
	"set":                      {Expr: holding("set")},
	"list_comprehension":       {Visit: comprehension, Expr: reader.Literal("list").Expr},
	"set_comprehension":        {Visit: comprehension, Expr: reader.Literal("set").Expr},
	"dictionary_comprehension": {Visit: comprehension, Expr: reader.Literal("dict").Expr},
	"generator_expression":     reader.Do(comprehension),
	"subscript":                reader.Element(part("value")),
	"await":                    {Expr: awaited},
	"parenthesized_expression": {Expr: reader.First},
	"boolean_operator":         {Expr: reader.First},
	"conditional_expression":   {Expr: reader.First},
	"with_item":                {Expr: reader.First},
	"as_pattern":               {Visit: asPattern, Expr: reader.First},
	"named_expression":         {Visit: named, Expr: reader.Same(part("value")).Expr},
	"lambda":                   {Visit: lambda, Expr: function},
	"keyword_argument":         reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("value")) }),
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
}

func augmented(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("right"))
	target(r, n.Part("left"), binding{role: facts.ReadWrite})
}

func named(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("value"))
	target(r, n.Part("name"), binding{value: n.Part("value")})
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("right"))
	target(r, n.Part("left"), binding{value: n.Part("right"), each: true})
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
		stateOf(r).outer[scopedName{r.Scope(), c.Text()}] = true
		r.Use(c.Text(), facts.Read, c.Range(), facts.NoExpr)
	}
}

// comprehension reads what has a scope of its own, but for the first of the things it goes
// through, which is looked up outside.
func comprehension(r *reader.Reader, n syntax.Node) {
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
			if c.Type() != "for_in_clause" {
				r.Visit(c)
			}
		}
	})
}

func asPattern(r *reader.Reader, n syntax.Node) {
	var value syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "as_pattern_target" {
			for t := range c.NamedChildren() {
				target(r, t, binding{value: value})
			}
			continue
		}
		r.Visit(c)
		value = c
	}
}
