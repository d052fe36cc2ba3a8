package c

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// namespace opens one, or several inside each other as in a::b.
func namespace(r *reader.Reader, n syntax.Node) {
	name, body := n.Part("name"), n.Part("body")
	if name.Type() == "nested_namespace_specifier" {
		var names []syntax.Node
		for c := range name.NamedChildren() {
			names = append(names, c)
		}
		namespaces(r, n, names, body)
		return
	}
	if !name.OK() {
		r.All(body)
		return
	}
	namespaces(r, n, []syntax.Node{name}, body)
}

func namespaces(r *reader.Reader, n syntax.Node, names []syntax.Node, body syntax.Node) {
	if len(names) == 0 {
		r.All(body)
		return
	}
	id, outer := r.Def(r.Begin(n, names[0], body, facts.Namespace)), r.Scope()
	r.Enter(id, facts.TypeScope, n, func() {
		if n.Has("inline") { // what is in it is in the one around it
			if around := r.Facts().Scopes[outer].Owner; around != facts.NoDef {
				r.At(id).Type = r.Expr(facts.Expr{Kind: facts.Name, Name: r.At(around).Name, At: r.At(id).At})
			}
			r.Inner(outer, func() { namespaces(r, n, names[1:], body) })
			return
		}
		namespaces(r, n, names[1:], body)
	})
}

func namespaceAlias(r *reader.Reader, n syntax.Node) {
	d := r.Begin(n, n.Part("name"), syntax.Node{}, facts.Namespace)
	var t facts.ExprID
	for c := range n.NamedChildren() {
		if c != n.Part("name") {
			t = pathOf(r, c)
		}
	}
	d.Type = t
	r.Def(d)
}

// pathOf reads names with :: between them that are no expression of their own.
func pathOf(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Type() != "nested_namespace_specifier" {
		r.UseType(n)
		return r.Expression(n)
	}
	base := facts.NoExpr
	for c := range n.NamedChildren() {
		r.Use(c.Text(), facts.TypeUse, c.Range(), base)
		e := facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()}
		if base != facts.NoExpr {
			e.Kind, e.Base = facts.Member, base
		}
		base = r.Expr(e)
	}
	return base
}

// using brings one name in from elsewhere, or tells to look there for all.
func using(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		e := pathOf(r, c)
		id := c
		for id.Type() == "qualified_identifier" || id.Type() == "template_type" {
			id = id.Part("name")
		}
		if n.Has("namespace") {
			r.Import(facts.Imported{Path: strings.TrimPrefix(strings.ReplaceAll(c.Text(), " ", ""), "::"), Name: "::", At: c.Range()})
			continue
		}
		if id.OK() && c != id {
			r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Init: e})
		}
	}
}

func alias(r *reader.Reader, whole, n, params syntax.Node) {
	id := r.Def(r.Begin(whole, n.Part("name"), syntax.Node{}, facts.Type))
	r.Enter(id, facts.TypeScope, whole, func() {
		templateParameters(r, params)
		t := r.TypeOf(n.Part("type"))
		r.At(id).Type = t
	})
}

// template hands its parameters to what it is a template of.
func template(r *reader.Reader, n syntax.Node) {
	params := n.Part("parameters")
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "template_parameter_list":
		case "function_definition":
			function(r, n, c, params)
		case "declaration", "field_declaration":
			if t := c.Part("type"); t.Part("body").OK() && !c.Part("declarator").OK() {
				templateType(r, n, t, params)
				continue
			}
			declaration(r, n, c, params)
		case "class_specifier", "struct_specifier", "union_specifier":
			templateType(r, n, c, params)
		case "alias_declaration":
			alias(r, n, c, params)
		default:
			r.Visit(c)
		}
	}
}

func templateType(r *reader.Reader, whole, n, params syntax.Node) {
	kind := facts.Class
	switch n.Type() {
	case "struct_specifier":
		kind = facts.Struct
	case "union_specifier":
		kind = facts.Union
	}
	defineType(r, whole, n, params, kind)
}

func templateParameters(r *reader.Reader, list syntax.Node) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "type_parameter_declaration", "variadic_type_parameter_declaration", "optional_type_parameter_declaration":
			id := p.First("type_identifier")
			if !id.OK() { // one with a name of its own and a default
				id = p.Part("name")
			}
			r.Local(p, id, facts.TypeParameter, facts.NoExpr, facts.NoExpr)
			r.UseType(p.Part("default_type"))
		case "template_template_parameter_declaration":
			if inner := p.First("type_parameter_declaration"); inner.OK() {
				r.Local(p, inner.First("type_identifier"), facts.TypeParameter, facts.NoExpr, facts.NoExpr)
			}
		default:
			r.Visit(p)
		}
	}
}

// friend reads a function that may see what is hidden here, which may be written out, or the name of a type.
func friend(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "function_definition", "declaration":
			r.Visit(c)
		case "type_identifier", "qualified_identifier", "template_type":
			r.UseType(c)
		}
	}
}

func concept(r *reader.Reader, n syntax.Node) {
	if id := n.Part("name"); id.OK() {
		r.Def(r.Begin(n, id, syntax.Node{}, facts.Type))
	}
	for c := range n.NamedChildren() {
		if c != n.Part("name") {
			r.Visit(c)
		}
	}
}

func forRange(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		over := n.Part("right")
		r.Visit(n.Part("initializer"))
		r.Visit(over)
		if t := n.Part("type"); !nameless(t) {
			r.UseType(t)
		}
		d := n.Part("declarator")
		if d.Type() == "reference_declarator" && d.First("structured_binding_declarator").OK() {
			d = d.First("structured_binding_declarator")
		}
		if d.Type() == "structured_binding_declarator" {
			bindings(r, d, d, r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(over), At: over.Range()}))
		} else {
			init := facts.NoExpr
			what := declarator(r, d)
			t := typeOf(r, n, what)
			if t == facts.NoExpr {
				init = r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(over), At: over.Range()})
			}
			r.Local(d, what.id, facts.Variable, t, init)
		}
		r.Visit(n.Part("body"))
	})
}

func lambda(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		for c := range n.Part("captures").NamedChildren() {
			if c.Type() == "assignment_expression" {
				value := c.Part("right")
				r.Visit(value)
				r.Local(c, c.Part("left"), facts.Variable, facts.NoExpr, r.Expression(value))
				continue
			}
			r.Visit(c)
		}
		d := n.Part("declarator")
		r.All(d.Part("parameters"))
		r.UseType(d.First("trailing_return_type"))
		r.All(n.Part("body"))
	})
}

// fieldInitializer sets a member, or the part that a base class has.
func fieldInitializer(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "field_identifier":
			this := r.Expr(facts.Expr{Kind: facts.Name, Name: "this", At: c.Range()})
			r.Use(c.Text(), facts.Write, c.Range(), this)
		default:
			r.Visit(c)
		}
	}
}
