// Package php reads the facts of PHP files.
package php

import (
	"strings"

	"github.com/smacker/go-tree-sitter/php"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "PHP"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(php.GetLanguage()), Rules: rules, Signs: signs, Ease: ease})

var part, first = reader.Part, reader.Nth(0)

var rules = reader.Rules{
	"name":                  reader.Name(),
	"qualified_name":        qualified(),
	"variable_name":         {Visit: func(r *reader.Reader, n syntax.Node) { variable(r, n, facts.Read) }, Write: variable, Call: callVariable, Expr: (*reader.Reader).NameOf},
	"dynamic_variable_name": reader.Do(dynamic),
	"relative_scope":        reader.Self(),
	"primitive_type":        reader.BuiltIn(),
	"comment":               reader.Nothing(),
	"text_interpolation":    reader.Nothing(),
	"php_tag":               reader.Nothing(),

	"member_access_expression":          reader.Member(part("object"), part("name")),
	"nullsafe_member_access_expression": reader.Member(part("object"), part("name")),
	"scoped_property_access_expression": {Visit: func(r *reader.Reader, n syntax.Node) { staticProperty(r, n, facts.Read) }, Write: staticProperty, Expr: staticExpr},
	"class_constant_access_expression":  {Visit: classConstant, Expr: reader.Member(first, reader.Nth(1)).Expr},
	"function_call_expression":          {Visit: call, Expr: called},
	"member_call_expression":            {Visit: memberCall, Expr: memberCallExpr},
	"nullsafe_member_call_expression":   {Visit: memberCall, Expr: memberCallExpr},
	"scoped_call_expression":            {Visit: memberCall, Expr: memberCallExpr},
	"object_creation_expression":        {Visit: creation, Expr: reader.Creation(first).Expr},
	"assignment_expression":             {Visit: assignment, Expr: reader.Same(part("right")).Expr},
	"reference_assignment_expression":   {Visit: assignment, Expr: reader.Same(part("right")).Expr},
	"augmented_assignment_expression":   reader.Assignment(part("left"), part("right")),
	"update_expression":                 reader.Update(reader.Nth(0)),
	"subscript_expression":              reader.Element(first),
	"parenthesized_expression":          reader.Same(first),
	"clone_expression":                  {Expr: reader.Same(first).Expr},
	"list_literal":                      {Write: list},
	"array_creation_expression":         {Write: list, Expr: array},
	"binary_expression":                 {Visit: binary, Expr: oneSide},
	"conditional_expression":            {Expr: conditional},
	"if_statement":                      reader.Do(parted),
	"while_statement":                   reader.Do(parted),
	"for_statement":                     reader.Do(parted),
	"do_statement":                      reader.Do(parted),
	"try_statement":                     reader.Do(parted),
	"switch_statement":                  reader.Do(parted),
	"string":                            reader.Literal("string"),
	"encapsed_string":                   {Expr: reader.Literal("string").Expr},
	"integer":                           reader.Literal("int"),
	"float":                             reader.Literal("float"),
	"boolean":                           reader.Literal("bool"),
	"named_type":                        reader.Type(first),
	"optional_type":                     reader.Type(first),
	"union_type":                        {Visit: (*reader.Reader).UseType, Expr: either},
	"type_list":                         {Visit: (*reader.Reader).UseType, Expr: either},
	"attribute":                         reader.Do(func(r *reader.Reader, n syntax.Node) { r.UseType(first(n)); r.Visit(n.Part("parameters")) }),

	"namespace_definition":                   reader.Do(namespace),
	"namespace_use_declaration":              reader.Do(use),
	"const_declaration":                      reader.Do(constants),
	"class_declaration":                      declares(facts.Class),
	"interface_declaration":                  declares(facts.Interface),
	"trait_declaration":                      declares(facts.Trait),
	"enum_declaration":                       declares(facts.Enum),
	"enum_case":                              reader.Do(enumCase),
	"use_declaration":                        reader.Do(useTrait),
	"property_declaration":                   reader.Do(properties),
	"method_declaration":                     reader.Do(function),
	"function_definition":                    reader.Do(function),
	"simple_parameter":                       reader.Do(parameter),
	"variadic_parameter":                     reader.Do(parameter),
	"property_promotion_parameter":           reader.Do(parameter),
	"anonymous_function_creation_expression": reader.Do(closure),
	"arrow_function":                         reader.Do(closure),

	"global_declaration":          reader.Do(global),
	"static_variable_declaration": reader.Do(staticVariable),
	"foreach_statement":           reader.Do(forEach),
	"catch_clause":                reader.Do(catch),
	"named_label_statement":       reader.Nothing(),
	"goto_statement":              reader.Nothing(),
}

// qualified is a name behind a namespace; the name itself is what counts.
func qualified() reader.Rule {
	rule := reader.Name()
	final := func(n syntax.Node) syntax.Node { return reader.Nth(-1)(n) }
	return reader.Rule{
		Visit: func(r *reader.Reader, n syntax.Node) { rule.Visit(r, final(n)) },
		Call:  func(r *reader.Reader, n syntax.Node, arguments int) { rule.Call(r, final(n), arguments) },
		Type:  func(r *reader.Reader, n syntax.Node) { rule.Type(r, final(n)) },
		Expr:  func(r *reader.Reader, n syntax.Node) facts.ExprID { return r.NameOf(final(n)) },
	}
}

// variable reads a name with a dollar sign. What is given a value for the
// first time in a function, or outside of all, is defined by that.
func variable(r *reader.Reader, n syntax.Node, role facts.Role) {
	if n.Text() == "$this" {
		return
	}
	if role == facts.Write && bind(r, n, n, facts.NoExpr) != facts.NoDef {
		return
	}
	r.Use(n.Text(), role, n.Range(), facts.NoExpr)
}

// bind defines a variable in the function around unless it is defined there
// already; then it gives NoDef.
func bind(r *reader.Reader, whole, id syntax.Node, init facts.ExprID) (made facts.DefID) {
	scope := r.Enclosing(facts.FunctionScope)
	if r.Defined(scope, id.Text()) != facts.NoDef {
		return facts.NoDef
	}
	r.Inner(scope, func() {
		made = r.Def(facts.Def{Name: id.Text(), Kind: facts.Variable, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Init: init})
	})
	return made
}

func assignment(r *reader.Reader, n syntax.Node) {
	left, right := n.Part("left"), n.Part("right")
	r.Visit(right)
	value := r.Expression(right)
	if left.Type() == "variable_name" && left.Text() != "$this" {
		if made := bind(r, n, left, value); made != facts.NoDef {
			r.At(made).Type = said(r, lang.CommentAbove(r.Text, n.Range().Start), varSaid, "")
			return
		}
	}
	r.Write(left, facts.Write)
	set(r, left, value, n.Range().End)
}

func callVariable(r *reader.Reader, n syntax.Node, arguments int) {
	r.Builder.Call(n.Text(), n.Range(), facts.NoExpr, arguments)
}

// dynamic is ${name} in a string.
func dynamic(r *reader.Reader, n syntax.Node) {
	if id := n.First("name"); id.OK() {
		r.Use("$"+id.Text(), facts.Read, id.Range(), facts.NoExpr)
		return
	}
	r.All(n)
}

// bare is the name of a property without its dollar sign.
func bare(n syntax.Node) (string, place.Range) {
	at := n.Range()
	text := n.Text()
	if strings.HasPrefix(text, "$") {
		at.Start++
	}
	return strings.TrimPrefix(text, "$"), at
}

func staticProperty(r *reader.Reader, n syntax.Node, role facts.Role) {
	scope := n.Part("scope")
	classUse(r, scope)
	if id := n.Part("name"); id.Type() == "variable_name" {
		text, at := bare(id)
		r.Use(text, role, at, r.Expression(scope))
	} else {
		r.Visit(id)
	}
}

func staticExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	text, at := bare(n.Part("name"))
	return r.Expr(facts.Expr{Kind: facts.Member, Name: text, Base: r.Expression(n.Part("scope")), At: at})
}

// classUse reads what stands in front of :: as a type, unless it is worked out.
func classUse(r *reader.Reader, n syntax.Node) {
	switch n.Type() {
	case "name", "qualified_name", "relative_scope":
		r.UseType(n)
	default:
		r.Visit(n)
	}
}

func classConstant(r *reader.Reader, n syntax.Node) {
	scope, id := first(n), reader.Nth(1)(n)
	classUse(r, scope)
	if id.Text() != "class" && id.OK() {
		r.Use(id.Text(), facts.Read, id.Range(), r.Expression(scope))
	}
}

// call is a call of a function; define is one that defines a constant.
func call(r *reader.Reader, n syntax.Node) {
	f, arguments := n.Part("function"), n.Part("arguments")
	if f.Text() == "define" {
		if text := first(first(arguments)); text.Type() == "string" && text.Range().Len() > 2 {
			at := text.Range()
			at.Start, at.End = at.Start+1, at.End-1
			d := facts.Def{Name: strings.Trim(text.Text(), `'"`), Kind: facts.Constant, At: at, Full: n.Range(), Head: n.Range()}
			r.Inner(0, func() { r.Def(d) })
		}
	}
	if k := f.Type(); k == "name" {
		r.Builder.CallWith(f.Text(), f.Range(), facts.NoExpr, r.Expression(n))
	} else {
		r.Called(f, reader.Count(arguments))
	}
	if all := values(r, arguments); f.Text() == "array_push" && len(all) > 1 {
		put(r, reader.Nth(-1)(first(arguments)), facts.NoExpr, all[1])
	}
	r.Visit(arguments)
}

// called keeps a call of a function with its arguments.
func called(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.CallOf, Base: r.Expression(n.Part("function")), Args: values(r, n.Part("arguments")), At: n.Range()})
}

func memberCall(r *reader.Reader, n syntax.Node) {
	object := n.Part("object")
	if !object.OK() {
		object = n.Part("scope")
		classUse(r, object)
	} else {
		r.Visit(object)
	}
	arguments := n.Part("arguments")
	if id := n.Part("name"); id.Type() == "name" {
		r.Builder.CallWith(id.Text(), id.Range(), r.Expression(object), r.Expression(n))
	} else {
		r.Visit(id)
	}
	r.Visit(arguments)
}

func memberCallExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	id, object := n.Part("name"), n.Part("object")
	if !object.OK() {
		object = n.Part("scope")
	}
	member := r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(object), At: id.Range()})
	return r.Expr(facts.Expr{Kind: facts.CallOf, Base: member, Args: values(r, n.Part("arguments")), At: n.Range()})
}

// values are what arguments are.
func values(r *reader.Reader, arguments syntax.Node) (all []facts.ExprID) {
	for a := range arguments.NamedChildren() {
		if a.Type() == "argument" {
			all = append(all, r.Expression(reader.Nth(-1)(a)))
		}
	}
	return all
}

func creation(r *reader.Reader, n syntax.Node) {
	t := first(n)
	switch t.Type() {
	case "name", "qualified_name":
		id := t
		if t.Type() == "qualified_name" {
			id = reader.Nth(-1)(t)
		}
		made := r.Expr(facts.Expr{Kind: facts.CallOf, Base: r.Expression(t), Args: values(r, n.First("arguments")), At: n.Range()})
		r.Builder.CallWith(id.Text(), id.Range(), facts.NoExpr, made)
	case "declaration_list": // a class without a name
		r.In(facts.TypeScope, t.Range(), facts.NoDef, func() { r.All(t) })
	default:
		r.Visit(t)
	}
	for c := range n.NamedChildren() {
		switch {
		case c == t:
		case c.Type() == "declaration_list":
			r.In(facts.TypeScope, c.Range(), facts.NoDef, func() { r.All(c) })
		case c.Type() == "base_clause" || c.Type() == "class_interface_clause":
			r.UseType(c)
		default:
			r.Visit(c)
		}
	}
}

// list gives values to several names at once.
func list(r *reader.Reader, n syntax.Node, role facts.Role) {
	for c := range n.NamedChildren() {
		if c.Type() == "array_element_initializer" {
			r.Write(reader.Nth(-1)(c), role)
			continue
		}
		r.Write(c, role)
	}
}

func binary(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("left"))
	if right := n.Part("right"); n.Has("instanceof") {
		classUse(r, right)
	} else {
		r.Visit(right)
	}
}

func either(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.EitherOf, At: n.Range()}
	for c := range n.NamedChildren() {
		e.Args = append(e.Args, r.Expression(c))
	}
	return r.Expr(e)
}
