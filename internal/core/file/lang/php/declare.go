package php

import (
	"bytes"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

func namespace(r *reader.Reader, n syntax.Node) {
	r.SetPackage(n.Part("name").Text())
	r.All(n.Part("body"))
}

// use brings in classes, functions or constants.
func use(r *reader.Reader, n syntax.Node) {
	before := n.First("namespace_name").Text()
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "namespace_use_clause":
			bring(r, n, c, "")
		case "namespace_use_group":
			for g := range c.NamedChildren() {
				bring(r, n, g, before+"\\")
			}
		}
	}
}

func bring(r *reader.Reader, whole, n syntax.Node, before string) {
	path := n.First("qualified_name", "namespace_name", "name")
	if !path.OK() {
		return
	}
	full := strings.TrimPrefix(before+path.Text(), "\\")
	id := reader.Nth(-1)(path)
	if !id.OK() {
		id = path
	}
	imp := facts.Imported{Name: id.Text(), At: path.Range()}
	if i := strings.LastIndexByte(full, '\\'); i >= 0 {
		imp.Path = full[:i]
	}
	if a := n.First("namespace_aliasing_clause"); a.OK() {
		id = first(a)
	}
	imp.Alias = id.Text()
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Import: r.Import(imp)})
}

func constants(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() != "const_element" {
			continue
		}
		d := r.Begin(n, first(c), syntax.Node{}, facts.Constant)
		d.Static = r.InType()
		value := reader.Nth(1)(c)
		r.Visit(value)
		d.Init = r.Expression(value)
		r.Def(d)
	}
}

func declares(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		body := n.Part("body")
		r.All(n.Part("attributes"))
		id := r.Def(r.Begin(n, n.Part("name"), body, kind))
		r.Enter(id, facts.TypeScope, n, func() {
			for c := range n.NamedChildren() {
				if k := c.Type(); k == "base_clause" || k == "class_interface_clause" {
					for t := range c.NamedChildren() {
						e := r.TypeOf(t)
						r.At(id).Supers = append(r.At(id).Supers, e)
					}
				}
			}
			r.All(body)
		})
	})
}

// useTrait takes the members of traits into a class, much as those of a class
// it is derived from.
func useTrait(r *reader.Reader, n syntax.Node) {
	owner := r.Owner(facts.TypeScope)
	for c := range n.NamedChildren() {
		if k := c.Type(); k != "name" && k != "qualified_name" {
			continue
		}
		e := r.TypeOf(c)
		if owner != facts.NoDef {
			r.At(owner).Supers = append(r.At(owner).Supers, e)
		}
	}
}

func enumCase(r *reader.Reader, n syntax.Node) {
	d := r.Begin(n, n.Part("name"), syntax.Node{}, facts.EnumMember)
	if d.Type = r.OwnerType(); bytes.HasPrefix(bytes.ToLower(n.Range().In(r.Text)), []byte("const")) {
		d.Kind, d.Type, d.Init = facts.Constant, facts.NoExpr, r.Expression(n.Part("value"))
	}
	d.Static = true
	r.Def(d)
	r.Visit(n.Part("value"))
}

func properties(r *reader.Reader, n syntax.Node) {
	t := r.TypeOf(n.Part("type"))
	for c := range n.NamedChildren() {
		id := c.First("variable_name")
		if c.Type() != "property_element" || !id.OK() {
			continue
		}
		value := first(c.First("property_initializer"))
		r.Visit(value)
		d := r.Begin(n, id, syntax.Node{}, facts.Property)
		d.Name, d.At = bare(id)
		d.Type, d.Static = t, n.First("static_modifier").OK()
		if t == facts.NoExpr || inComments.Basic[n.Part("type").Text()] {
			if of := said(r, d.Doc, varSaid, ""); of != facts.NoExpr {
				d.Type = of
			}
		}
		if d.Type == facts.NoExpr {
			d.Init = r.Expression(value)
		}
		r.Def(d)
	}
}

func function(r *reader.Reader, n syntax.Node) {
	id, body, params := n.Part("name"), n.Part("body"), n.Part("parameters")
	kind := facts.Function
	if r.InType() {
		kind = facts.Method
	}
	if kind == facts.Method && strings.EqualFold(id.Text(), "__construct") {
		kind = facts.Constructor
	}
	r.All(n.Part("attributes"))
	d := r.Begin(n, id, body, kind)
	d.Static = n.First("static_modifier").OK()
	count(&d, params)
	// A function is known in the whole file, wherever in it it stands.
	f := r.Def(d)
	r.Enter(f, facts.FunctionScope, n, func() {
		for p := range params.NamedChildren() {
			parameterSaid(r, p, r.At(f).Doc)
		}
		t := r.TypeOf(n.Part("return_type"))
		if t == facts.NoExpr {
			t = said(r, r.At(f).Doc, returnSaid, "")
		}
		r.At(f).Type = t
		r.All(body)
		var gives []facts.ExprID
		if returned(r, body, &gives); r.At(f).Kind != facts.Constructor {
			r.At(f).Init = r.OneOf(gives, n.Range())
		}
	})
}

// count notes how many parameters there are. One that has a value already need
// not be given.
func count(d *facts.Def, list syntax.Node) {
	d.Parameters = 1
	for p := range list.NamedChildren() {
		if p.Type() == "comment" {
			continue
		}
		d.Parameters++
		d.Variadic = d.Variadic || p.Type() == "variadic_parameter" || p.Part("default_value").OK()
	}
}

func parameter(r *reader.Reader, n syntax.Node) { parameterSaid(r, n, place.Range{}) }

// parameterSaid reads a parameter of a function with a comment, which may say its type.
func parameterSaid(r *reader.Reader, n syntax.Node, doc place.Range) {
	id := n.Part("name")
	if !id.OK() {
		r.Visit(n)
		return
	}
	r.All(n.Part("attributes"))
	t := r.TypeOf(n.Part("type"))
	if t == facts.NoExpr || inComments.Basic[n.Part("type").Text()] {
		if of := said(r, doc, paramSaid, id.Text()); of != facts.NoExpr {
			t = of
		}
	}
	r.Visit(n.Part("default_value"))
	if n.Type() == "variadic_parameter" && t != facts.NoExpr {
		t = r.Expr(facts.Expr{Kind: facts.ListOf, Base: t, At: n.Range()})
	}
	if n.Type() == "property_promotion_parameter" {
		r.Inner(r.Enclosing(facts.TypeScope), func() {
			d := r.Begin(n, id, syntax.Node{}, facts.Property)
			d.Name, d.At = bare(id)
			d.Type, d.Doc = t, place.Range{}
			r.Def(d)
		})
	}
	r.Local(n, id, facts.Parameter, t, facts.NoExpr)
}

func closure(r *reader.Reader, n syntax.Node) {
	captured := n.First("anonymous_function_use_clause")
	r.All(captured)
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		r.All(n.Part("parameters"))
		r.UseType(n.Part("return_type"))
		if body := n.Part("body"); body.Type() == "compound_statement" {
			r.All(body)
		} else {
			r.Visit(body)
		}
	})
}

func global(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		r.Use(c.Text(), facts.Read, c.Range(), facts.NoExpr)
	}
}

func staticVariable(r *reader.Reader, n syntax.Node) {
	value := n.Part("value")
	r.Visit(value)
	bind(r, n, n.Part("name"), r.Expression(value))
}

// forEach goes through a list, naming its elements and perhaps its keys.
func forEach(r *reader.Reader, n syntax.Node) {
	over, body := first(n), n.Part("body")
	branches(r, n)
	r.Visit(over)
	for c := range n.NamedChildren() {
		if c == over || c == body {
			continue
		}
		each := func() facts.ExprID {
			if e := r.Expression(over); e != facts.NoExpr {
				return r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: over.Range()})
			}
			return facts.NoExpr
		}
		value := c
		if c.Type() == "pair" {
			r.Write(first(c), facts.Write)
			value = reader.Nth(1)(c)
		}
		if value.Type() == "by_ref" {
			value = first(value)
		}
		if value.Type() != "variable_name" || bind(r, c, value, each()) == facts.NoDef {
			r.Write(value, facts.Write)
			set(r, value, each(), c.Range().End)
		}
	}
	r.Visit(body)
}

func catch(r *reader.Reader, n syntax.Node) {
	t := r.TypeOf(n.Part("type"))
	if id := n.Part("name"); id.OK() {
		if d := bind(r, id, id, facts.NoExpr); d != facts.NoDef {
			r.At(d).Type = t
		}
	}
	r.Visit(n.Part("body"))
}
