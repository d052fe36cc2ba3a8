package swift

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

func imported(r *reader.Reader, n syntax.Node) {
	path := n.First("identifier")
	r.Import(facts.Imported{Path: path.Text(), Name: "*", At: path.Range()})
}

// begin starts a definition, leaving attributes out of its head.
func begin(r *reader.Reader, n, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := r.Begin(n, id, body, kind)
	for c := range n.First("modifiers").NamedChildren() {
		switch {
		case c.Type() == "attribute":
			r.SkipHead(&d, c)
		case c.Text() == "static" || c.Text() == "class":
			d.Static = true
		}
	}
	return d
}

var classKinds = map[string]facts.Kind{"class": facts.Class, "actor": facts.Class, "struct": facts.Struct, "enum": facts.Enum, "protocol": facts.Interface}

// class reads a type, or members added to one that is defined elsewhere.
func class(r *reader.Reader, n syntax.Node) {
	r.All(n.First("modifiers"))
	name, body := n.Part("name"), n.Part("body")
	if n.Has("extension") {
		extension(r, n, name, body)
		return
	}
	kind := facts.Class
	for c := range n.Children() {
		if k, ok := classKinds[c.Type()]; ok && !c.Named() {
			kind = k
		}
	}
	id := r.Def(begin(r, n, name, body, kind))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		for _, s := range reader.Named(n, "inheritance_specifier") {
			if e := r.TypeOf(s.Part("inherits_from")); e != facts.NoExpr {
				r.At(id).Supers = append(r.At(id).Supers, e)
			}
		}
		r.All(body)
	})
}

func extension(r *reader.Reader, n, name, body syntax.Node) {
	of := name.Text()
	if ids := reader.Named(name, "type_identifier"); len(ids) > 0 {
		of = ids[len(ids)-1].Text()
	}
	r.UseType(name)
	r.MembersOf(of, body.Range(), func() {
		for _, s := range reader.Named(n, "inheritance_specifier") {
			if super := r.TypeOf(s.Part("inherits_from")); super != facts.NoExpr {
				r.Builder.Derived(facts.Derivation{Name: of, Of: r.Expression(name), Super: super})
			}
		}
		r.UseType(n.First("type_constraints"))
		r.All(body)
	})
}

func typeParameters(r *reader.Reader, n syntax.Node) {
	for _, p := range reader.Named(n.First("type_parameters"), "type_parameter") {
		r.Local(p, p.First("type_identifier"), facts.TypeParameter, r.TypeOf(p.Part("name")), facts.NoExpr)
	}
	for c := range n.First("type_constraints").NamedChildren() {
		r.UseType(c)
	}
}

func enumEntry(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		switch {
		case c.FieldName() == "name":
			d := begin(r, n, c, syntax.Node{}, facts.EnumMember)
			d.Type = r.OwnerType()
			r.Def(d)
		case c.FieldName() == "data_contents":
			r.UseType(c)
		default:
			r.Visit(c)
		}
	}
}

func alias(r *reader.Reader, n syntax.Node) {
	id := n.First("type_identifier")
	a := r.Def(begin(r, n, id, syntax.Node{}, facts.Type))
	r.Enter(a, facts.TypeScope, n, func() {
		typeParameters(r, n)
		for c := range n.NamedChildren() {
			if c != id && c.FieldName() == "name" {
				t := r.TypeOf(c)
				r.At(a).Type = t
			}
		}
	})
}

func function(r *reader.Reader, n syntax.Node) {
	r.All(n.First("modifiers"))
	kind := facts.Function
	if r.InType() {
		kind = facts.Method
	}
	id := n.Part("name")
	callable(r, n, begin(r, n, id, n.Part("body"), kind))
}

func initializer(r *reader.Reader, n syntax.Node) {
	r.All(n.First("modifiers"))
	word := n.First("init")
	if !word.OK() {
		nameless(r, n)
		return
	}
	callable(r, n, begin(r, n, word, n.Part("body"), facts.Constructor))
}

// callable adds a function and reads its parameters, its result and its body.
func callable(r *reader.Reader, n syntax.Node, d facts.Def) {
	d.Parameters = 1 + len(reader.Named(n, "parameter"))
	d.Variadic = n.Part("default_value").OK() || n.Has("...")
	id := r.Def(d)
	r.Enter(id, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		for c := range n.NamedChildren() {
			switch {
			case c.Type() == "parameter", c.FieldName() == "default_value":
				r.Visit(c)
			case c.FieldName() == "name" && c.Range() != d.At:
				t := r.TypeOf(c)
				r.At(id).Type = t
			}
		}
		r.All(n.Part("body"))
	})
}

// nameless reads what nothing can name: what is done at the end, or by
// brackets.
func nameless(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		for c := range n.NamedChildren() {
			if c.FieldName() == "name" {
				r.UseType(c)
			} else {
				r.Visit(c)
			}
		}
	})
}

func inFunction(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() { r.All(n) })
}

// parameter has its name and its type in fields of the same name.
func parameter(r *reader.Reader, n syntax.Node) {
	var id syntax.Node
	t := facts.NoExpr
	for c := range n.NamedChildren() {
		switch {
		case c.FieldName() != "name":
		case c.Type() == "simple_identifier":
			id = c
		default:
			t = r.TypeOf(c)
		}
	}
	if n.Has("...") && t != facts.NoExpr {
		t = r.Expr(facts.Expr{Kind: facts.ListOf, Base: t, At: n.Range()})
	}
	r.Local(n, id, facts.Parameter, t, facts.NoExpr)
}

// properties reads names with their types and values, which follow each other
// in one declaration.
func properties(r *reader.Reader, n syntax.Node) {
	r.All(n.First("modifiers"))
	kind := facts.Variable
	switch {
	case r.InType():
		kind = facts.Property
	case r.Scope() == 0 && strings.HasPrefix(n.First("value_binding_pattern").Text(), "let"):
		kind = facts.Constant
	}
	var id syntax.Node
	var t, init facts.ExprID
	var body syntax.Node
	flush := func() {
		if !id.OK() {
			return
		}
		if name := id.Part("bound_identifier"); name.OK() {
			d := begin(r, n, name, body, kind)
			d.Type, d.Init = t, init
			if kind == facts.Variable && r.Scope() != 0 {
				d.From = n.Range().End
			}
			p := r.Def(d)
			if body.OK() {
				r.Enter(p, facts.FunctionScope, n, func() { r.All(body) })
			}
		} else {
			pattern(r, id, true, facts.NoExpr)
		}
		id, t, init, body = syntax.Node{}, facts.NoExpr, facts.NoExpr, syntax.Node{}
	}
	for c := range n.NamedChildren() {
		switch {
		case c.Type() == "pattern":
			flush()
			id = c
		case c.Type() == "type_annotation":
			t = r.TypeOf(c.Part("name"))
		case c.FieldName() == "value":
			r.Visit(c)
			init = r.Expression(c)
		case c.FieldName() == "computed_value", c.Type() == "willset_didset_block":
			body = c
		}
	}
	flush()
}
