// Package swift reads the facts of Swift files.
package swift

import (
	"iter"
	"slices"
	"strings"

	"github.com/smacker/go-tree-sitter/swift"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "Swift"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(swift.GetLanguage()), Rules: rules, Signs: signs})

var part, first = reader.Part, reader.Nth(0)

var rules = reader.Rules{
	"simple_identifier": {Visit: identifier, Write: reader.Name().Write, Call: reader.Name().Call, Type: reader.Name().Type, Expr: (*reader.Reader).NameOf},
	"type_identifier":   reader.TypeName(),
	"self_expression":   reader.Self(),
	"super_expression":  reader.Self(),
	"comment":           reader.Nothing(),
	"multiline_comment": reader.Nothing(),

	"navigation_expression":          navigation(),
	"call_expression":                {Visit: call, Write: subscript, Expr: callExpr},
	"constructor_expression":         reader.Creation(first),
	"directly_assignable_expression": reader.Same(first),
	"assignment":                     reader.Assignment(part("target"), part("result")),
	"try_expression":                 reader.Same(part("expr")),
	"await_expression":               reader.Same(part("expr")),
	"postfix_expression":             reader.Same(part("target")),
	"tuple_expression":               reader.Same(first),
	"as_expression":                  reader.Cast(part("name"), part("expr")),
	"check_expression":               reader.Cast(part("name"), part("target")),
	"value_argument":                 {Visit: func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("value")) }, Expr: reader.Same(part("value")).Expr},
	"value_argument_label":           reader.Nothing(),
	"lambda_literal":                 reader.Do(lambda),
	"line_string_literal":            {Expr: reader.Literal("String").Expr},
	"multi_line_string_literal":      {Expr: reader.Literal("String").Expr},
	"integer_literal":                reader.Literal("Int"),
	"real_literal":                   reader.Literal("Double"),
	"boolean_literal":                reader.Literal("Bool"),

	"user_type":       reader.Dotted("type_identifier", "type_arguments"),
	"optional_type":   reader.Type(part("wrapped")),
	"array_type":      reader.ListOf(part("name")),
	"dictionary_type": {Visit: (*reader.Reader).UseType, Expr: dictionary},
	"function_type":   {Visit: (*reader.Reader).UseType, Expr: functionType},
	"tuple_type":      {Visit: (*reader.Reader).UseType, Expr: tuple},
	"opaque_type":     reader.Type(first),
	"attribute":       reader.Do(func(r *reader.Reader, n syntax.Node) { r.UseType(n.First("user_type")) }),

	"import_declaration":            reader.Do(imported),
	"class_declaration":             reader.Do(class),
	"protocol_declaration":          reader.Do(class),
	"enum_entry":                    reader.Do(enumEntry),
	"typealias_declaration":         reader.Do(alias),
	"associatedtype_declaration":    reader.Do(alias),
	"function_declaration":          reader.Do(function),
	"protocol_function_declaration": reader.Do(function),
	"init_declaration":              reader.Do(initializer),
	"deinit_declaration":            reader.Do(nameless),
	"subscript_declaration":         reader.Do(nameless),
	"property_declaration":          reader.Do(properties),
	"protocol_property_declaration": reader.Do(properties),
	"parameter":                     reader.Do(parameter),
	"computed_property":             reader.Do(inFunction),
	"computed_getter":               reader.Do(inFunction),
	"computed_setter":               reader.Do(inFunction),
	"willset_didset_block":          reader.Do(inFunction),

	"if_statement":    reader.Do(conditional),
	"while_statement": reader.Do(conditional),
	"guard_statement": reader.Do(func(r *reader.Reader, n syntax.Node) { conditions(r, n.NamedChildren()) }),
	"for_statement":   reader.Do(forEach),
	"do_statement":    reader.Do(func(r *reader.Reader, n syntax.Node) { r.All(n) }),
	"statements":      reader.Do((*reader.Reader).All),
	"switch_entry":    reader.Block(),
	"switch_pattern":  reader.Do(func(r *reader.Reader, n syntax.Node) { pattern(r, first(n), false, facts.NoExpr) }),
	"catch_block":     reader.Do(catch),
	"statement_label": reader.Nothing(),
}

// identifier leaves out the parameters that a closure has without naming them.
func identifier(r *reader.Reader, n syntax.Node) {
	if !strings.HasPrefix(n.Text(), "$") {
		r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	}
}

// call reads one; brackets instead of parentheses ask for an element.
func call(r *reader.Reader, n syntax.Node) {
	f, suffix := first(n), n.First("call_suffix")
	list := suffix.First("value_arguments")
	if list.Has("[") {
		r.Visit(f)
	} else {
		arguments := reader.Count(list)
		arguments += len(reader.Named(suffix, "lambda_literal"))
		r.Called(f, arguments)
	}
	callee := r.Expression(f)
	for c := range suffix.NamedChildren() {
		if c.Type() == "lambda_literal" {
			r.Passing(callee, func(yield func(syntax.Node) bool) { yield(c) }, r.Visit)
		} else {
			r.Visit(c)
		}
	}
}

func subscript(r *reader.Reader, n syntax.Node, role facts.Role) { r.Visit(n) }

func callExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(first(n)), At: n.Range()}
	if n.First("call_suffix").First("value_arguments").Has("[") {
		e.Kind = facts.Index
	}
	if e.Base == facts.NoExpr {
		return facts.NoExpr
	}
	return r.Expr(e)
}

func lambda(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		t := n.Part("type")
		for number, p := range reader.Named(t.First("lambda_function_type_parameters"), "lambda_parameter") {
			if id := p.First("simple_identifier"); id.OK() && !reader.Nth(1)(p).OK() {
				r.Local(p, id, facts.Parameter, facts.NoExpr, r.Given(p.Range(), number))
			} else {
				parameter(r, p)
			}
		}
		r.UseType(t.Part("name"))
		r.Taken(func() {
			for c := range n.NamedChildren() {
				if c != t {
					r.Visit(c)
				}
			}
		})
	})
}

func dictionary(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.MapOf, Args: []facts.ExprID{r.Expression(first(n))}, Base: r.Expression(reader.Nth(-1)(n)), At: n.Range()})
}

func functionType(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.FuncOf, Base: r.Expression(reader.Nth(-1)(n)), At: n.Range()})
}

func tuple(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for _, item := range reader.Named(n, "tuple_type_item") {
		e.Args = append(e.Args, r.Expression(reader.Nth(-1)(item)))
	}
	return r.Expr(e)
}

// pattern defines the names that take a value apart. Where one compares, a
// name is defined only behind let or var.
func pattern(r *reader.Reader, n syntax.Node, binding bool, init facts.ExprID) {
	dot := false
	for c := range n.Children() {
		switch {
		case c.Type() == ".":
			dot = true
			continue
		case c.Type() == "value_binding_pattern":
			binding = true
		case c.Type() == "pattern":
			pattern(r, c, binding, facts.NoExpr)
		case c.FieldName() == "bound_identifier", c.Type() == "simple_identifier" && binding && !dot:
			r.Local(c, c, facts.Variable, facts.NoExpr, init)
		case c.FieldName() == "name":
			r.UseType(c)
		case c.Named():
			r.Visit(c)
		}
		dot = false
	}
}

// conditional reads what is done on a condition: what that defines is not known in what is done otherwise.
func conditional(r *reader.Reader, n syntax.Node) {
	end := n.Range().End
	var done, otherwise []syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "else" || len(otherwise) > 0 {
			end = min(end, c.Range().Start)
			otherwise = append(otherwise, c)
		} else {
			done = append(done, c)
		}
	}
	r.In(facts.BlockScope, place.Range{Start: n.Range().Start, End: end}, facts.NoDef, func() { conditions(r, slices.Values(done)) })
	for _, c := range otherwise {
		if c.Type() == "statements" {
			r.Block(c)
		} else {
			r.Visit(c)
		}
	}
}

// conditions reads what is tested one by one, as the names that a test defines
// are known to those behind it.
func conditions(r *reader.Reader, parts iter.Seq[syntax.Node]) {
	binding := false
	var pending syntax.Node
	define := func(value syntax.Node) {
		if pending.OK() {
			init := r.Expression(value)
			if !value.OK() { // if let x: the x around
				init = r.NameOf(pending)
			}
			id := pending
			if d := r.Local(id, id, facts.Variable, facts.NoExpr, init); value.OK() {
				r.At(d).From = value.Range().End
			}
			pending = syntax.Node{}
		}
		binding = false
	}
	for c := range parts {
		switch {
		case c.Type() == "value_binding_pattern":
			define(syntax.Node{})
			binding = true
		case c.FieldName() == "bound_identifier":
			pending = c
		case c.Type() == "type_annotation":
			r.UseType(c)
		case c.Type() == "statements":
			define(syntax.Node{})
			r.Block(c)
		case c.Type() == "pattern":
			pattern(r, c, binding, facts.NoExpr)
		default:
			r.Visit(c)
			define(c)
		}
	}
	define(syntax.Node{})
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		item, over := n.Part("item"), n.Part("collection")
		r.Visit(over)
		init := facts.NoExpr
		if e := r.Expression(over); e != facts.NoExpr {
			init = r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: over.Range()})
		}
		pattern(r, item, true, init)
		for c := range n.NamedChildren() {
			if c != item && c != over {
				r.Visit(c)
			}
		}
	})
}

func catch(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		e := n.Part("error")
		pattern(r, e, false, facts.NoExpr)
		for c := range n.NamedChildren() {
			if c != e {
				r.Visit(c)
			}
		}
	})
}

// navigation is a member of a value. The grammar takes all of a + b for what stands in front of the
// dot in a + b.c.
func navigation() reader.Rule {
	reckoned := func(n syntax.Node) bool {
		return n.Type() == "additive_expression" || n.Type() == "multiplicative_expression"
	}
	object := func(n syntax.Node) syntax.Node {
		in := n.Part("target")
		for reckoned(in) {
			in = in.Part("rhs")
		}
		return in
	}
	before := func(r *reader.Reader, n syntax.Node) {
		for in := n.Part("target"); reckoned(in); in = in.Part("rhs") {
			r.Visit(in.Part("lhs"))
		}
	}
	rule := reader.Member(object, func(n syntax.Node) syntax.Node { return n.Part("suffix").Part("suffix") })
	visit, write, call := rule.Visit, rule.Write, rule.Call
	rule.Visit = func(r *reader.Reader, n syntax.Node) { before(r, n); visit(r, n) }
	rule.Write = func(r *reader.Reader, n syntax.Node, role facts.Role) { before(r, n); write(r, n, role) }
	rule.Call = func(r *reader.Reader, n syntax.Node, arguments int) { before(r, n); call(r, n, arguments) }
	return rule
}
