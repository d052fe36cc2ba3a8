package csharp

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// using brings in the names of a namespace or the members of a type, or gives
// a name to either.
func using(r *reader.Reader, n syntax.Node) {
	alias := n.Part("name")
	for c := range n.NamedChildren() {
		if c == alias {
			continue
		}
		imp := facts.Imported{Path: c.Text(), Name: "*", At: c.Range()}
		if alias.OK() {
			imp.Name, imp.Alias = "", alias.Text()
			r.Def(facts.Def{Name: alias.Text(), Kind: facts.Import, At: alias.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
			return
		}
		r.Import(imp)
	}
}

func namespace(r *reader.Reader, n syntax.Node) {
	name := n.Part("name")
	r.SetPackage(name.Text())
	if !name.OK() {
		r.All(n)
		return
	}
	id := r.Def(r.Begin(n, name, n.Part("body"), facts.Namespace))
	r.Enter(id, facts.TypeScope, n, func() { r.All(n.Part("body")) })
}

// begin starts a definition, leaving attributes out of its head.
func begin(r *reader.Reader, n, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := r.Begin(n, id, body, kind)
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "attribute_list":
			r.SkipHead(&d, c)
		case "modifier":
			d.Static = d.Static || c.Text() == "static" || c.Text() == "const"
		}
	}
	return d
}

func declares(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		if !n.Part("name").OK() {
			r.All(n)
			return
		}
		attributes(r, n)
		id := r.Def(begin(r, n, n.Part("name"), n.Part("body"), kind))
		r.Enter(id, facts.TypeScope, n, func() {
			typeParameters(r, n)
			for p := range n.First("parameter_list").NamedChildren() { // of a record
				if p.Type() == "parameter" {
					d := r.Begin(p, p.Part("name"), syntax.Node{}, facts.Property)
					d.Type = r.TypeOf(p.Part("type"))
					r.Def(d)
				}
			}
			bases(r, id, n.First("base_list"))
			r.All(n.Part("body"))
		})
	})
}

func attributes(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "attribute_list" {
			r.All(c)
		}
	}
}

func bases(r *reader.Reader, id facts.DefID, list syntax.Node) {
	for c := range list.NamedChildren() {
		if c.Type() == "argument_list" {
			r.Visit(c)
			continue
		}
		t := c
		if c.Type() == "primary_constructor_base_type" {
			t = c.Part("type")
			r.Visit(c.First("argument_list"))
		}
		if e := r.TypeOf(t); e != facts.NoExpr {
			r.At(id).Supers = append(r.At(id).Supers, e)
		}
	}
}

// typeParameters defines them, with the first type each is bound to.
func typeParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.First("type_parameter_list").NamedChildren() {
		id := p.Part("name")
		bound := facts.NoExpr
		for c := range n.NamedChildren() {
			if c.Type() == "type_parameter_constraints_clause" && c.First("identifier").Text() == id.Text() && id.OK() {
				bound = r.Expression(c.First("type_parameter_constraint").Part("type"))
			}
		}
		r.Local(p, id, facts.TypeParameter, bound, facts.NoExpr)
	}
	for c := range n.NamedChildren() {
		if c.Type() == "type_parameter_constraints_clause" {
			r.UseType(c)
		}
	}
}

func enumMember(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, n.Part("name"), syntax.Node{}, facts.EnumMember)
	d.Type = r.OwnerType()
	r.Def(d)
	r.Visit(n.Part("value"))
}

func delegate(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, n.Part("name"), syntax.Node{}, facts.Type))
	r.Enter(id, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		result := r.TypeOf(n.Part("type"))
		r.At(id).Type = r.Expr(facts.Expr{Kind: facts.FuncOf, Base: result, At: n.Range()})
		r.Visit(n.Part("parameters"))
	})
}

func callable(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		name := n.Part("name")
		if !name.OK() {
			r.All(n)
			return
		}
		attributes(r, n)
		d := begin(r, n, name, n.Part("body"), kind)
		if n.Type() == "destructor_declaration" {
			d.Name = "~" + d.Name
			d.At.Start--
			d.At.End = d.At.Start + uint32(len(d.Name))
		}
		count(&d, n.Part("parameters"))
		id := r.Def(d)
		r.Enter(id, facts.FunctionScope, n, func() {
			typeParameters(r, n)
			result := n.Part("returns")
			if !result.OK() {
				result = n.Part("type")
			}
			t := r.TypeOf(result)
			r.At(id).Type = t
			r.Visit(n.Part("parameters"))
			r.All(n.First("constructor_initializer"))
			r.Visit(n.Part("body"))
		})
	})
}

// count notes how many parameters there are. One that has a value already need
// not be given.
func count(d *facts.Def, list syntax.Node) {
	d.Parameters = 1
	for p := range list.Children() {
		switch {
		case p.Type() == "params":
			d.Parameters++
			d.Variadic = true
		case p.Type() == "parameter":
			d.Parameters++
			d.Variadic = d.Variadic || p.Has("=") || p.First("equals_value_clause").OK()
		}
	}
}

// nameless reads an operator or an indexer, which nothing can name.
func nameless(r *reader.Reader, n syntax.Node) {
	r.UseType(n.Part("type"))
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		r.Visit(n.Part("parameters"))
		r.All(n.Part("accessors"))
		r.Visit(n.Part("body"))
		r.Visit(n.Part("value"))
	})
}

func property(r *reader.Reader, n syntax.Node) {
	attributes(r, n)
	kind := facts.Property
	if n.Type() == "event_declaration" {
		kind = facts.Event
	}
	body := n.Part("accessors")
	if !body.OK() {
		body = n.Part("value")
	}
	d := begin(r, n, n.Part("name"), body, kind)
	d.Type = r.TypeOf(n.Part("type"))
	if d.Name == "" {
		return
	}
	id := r.Def(d)
	r.Enter(id, facts.FunctionScope, n, func() {
		r.All(n.Part("accessors"))
		r.Visit(n.Part("value"))
	})
}

// variables reads a declaration with modifiers in front.
func variables(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	attributes(r, n)
	static := false
	for c := range n.NamedChildren() {
		if c.Type() == "modifier" {
			if c.Text() == "const" {
				kind = facts.Constant
			}
			static = static || c.Text() == "static" || c.Text() == "const"
		}
	}
	variable(r, n, n.First("variable_declaration"), kind, static)
}

func variable(r *reader.Reader, whole, n syntax.Node, kind facts.Kind, static bool) {
	t := r.TypeOf(n.Part("type"))
	for c := range n.NamedChildren() {
		if c.Type() != "variable_declarator" {
			continue
		}
		id := c.Part("name")
		if !id.OK() {
			r.All(c)
			continue
		}
		d := r.Begin(whole, id, syntax.Node{}, kind)
		d.Type, d.Static = t, static && r.InType()
		var value syntax.Node
		for v := range c.NamedChildren() {
			if v != id {
				r.Visit(v)
				value = v
			}
		}
		if t == facts.NoExpr {
			d.Init = r.Expression(value)
		}
		if !r.InType() {
			d.From = id.Range().End
		}
		r.Def(d)
	}
}

func parameter(r *reader.Reader, n syntax.Node) {
	attributes(r, n)
	id, t := n.Part("name"), n.Part("type")
	r.Local(n, id, facts.Parameter, r.TypeOf(t), facts.NoExpr)
	for c := range n.NamedChildren() {
		if c != id && c != t && c.Type() != "attribute_list" {
			r.Visit(c)
		}
	}
}

// parameters may end with one that stands for any number, which the grammar
// does not wrap.
func parameters(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.FieldName() == "" {
			r.Visit(c)
		}
	}
	if id := n.Part("name"); id.OK() {
		r.Local(id, id, facts.Parameter, r.TypeOf(n.Part("type")), facts.NoExpr)
	}
}
