package java

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

func imported(r *reader.Reader, n syntax.Node) {
	path := n.First("scoped_identifier", "identifier")
	if !path.OK() {
		return
	}
	imp := facts.Imported{Path: path.Text(), At: path.Range()}
	if n.First("asterisk").OK() {
		imp.Name = "*"
		r.Import(imp)
		typesOnTheWay(r, path)
		return
	}
	typesOnTheWay(r, path.Part("scope"))
	id := path.Part("name")
	if !id.OK() {
		id = path
	}
	if n.Has("static") {
		imp.Path, imp.Name = strings.TrimSuffix(strings.TrimSuffix(path.Text(), id.Text()), "."), id.Text()
	}
	imp.Alias = id.Text()
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
}

// begin starts a definition whose body may follow.
func begin(r *reader.Reader, n syntax.Node, kind facts.Kind) facts.Def {
	id, body := n.Part("name"), n.Part("body")
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: n.Range(), Head: n.Range(), Doc: lang.CommentAbove(r.Text, n.Range().Start, "//")}
	if body.OK() {
		d.Head.End = body.Range().Start
		for d.Head.End > d.Head.Start && strings.IndexByte(" \t\r\n", r.Text[d.Head.End-1]) >= 0 {
			d.Head.End--
		}
	}
	if m := n.First("modifiers"); m.OK() {
		d.Static = m.Has("static")
		for c := range m.Children() { // annotations are above the head that people read
			if t := c.Type(); t == "marker_annotation" || t == "annotation" {
				r.SkipHead(&d, c)
			}
		}
	}
	return d
}

func declares(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) { typeDeclaration(r, n, kind) })
}

func typeDeclaration(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	r.All(n.First("modifiers"))
	id := r.Def(begin(r, n, kind))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		for _, clause := range []syntax.Node{n.Part("superclass"), n.First("super_interfaces"), n.First("extends_interfaces")} {
			supers(r, clause, id)
		}
		for p := range n.Part("parameters").NamedChildren() { // of a record
			if p.Type() == "formal_parameter" {
				variable(r, p, p.Part("name"), r.TypeOf(p.Part("type")), facts.NoExpr, facts.Field)
			}
		}
		members(r, n.Part("body"))
	})
}

func members(r *reader.Reader, body syntax.Node) {
	for m := range body.NamedChildren() {
		switch m.Type() {
		case "enum_body_declarations":
			members(r, m)
		case "static_initializer", "block":
			r.In(facts.FunctionScope, m.Range(), facts.NoDef, func() { r.All(m) })
		default:
			r.Visit(m)
		}
	}
}

// supers reads the types that a type extends or implements, which may stand in
// a list.
func supers(r *reader.Reader, clause syntax.Node, owner facts.DefID) {
	for t := range clause.NamedChildren() {
		if k := t.Type(); k == "type_list" || k == "interface_type_list" {
			supers(r, t, owner)
			continue
		}
		if super := r.TypeOf(t); super != facts.NoExpr {
			d := r.At(owner)
			d.Supers = append(d.Supers, super)
		}
	}
}

func typeParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.First("type_parameters").NamedChildren() {
		id := p.First("type_identifier", "identifier")
		d := facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: p.Range(), Head: p.Range()}
		for b := range p.First("type_bound").NamedChildren() {
			r.UseType(b)
			if d.Type == facts.NoExpr {
				d.Type = r.Expression(b)
			}
		}
		if id.OK() {
			r.Def(d)
		}
	}
}

func callable(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) { method(r, n, kind) })
}

func method(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	r.All(n.First("modifiers"))
	d, list := begin(r, n, kind), n.Part("parameters")
	d.Parameters = 1
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "spread_parameter":
			d.Variadic = true
			d.Parameters++
		case "formal_parameter":
			d.Parameters++
		}
	}
	id := r.Def(d)
	// The type parameters stand before the name, and the result's type may be
	// one of them.
	r.In(facts.FunctionScope, place.Range{Start: d.Head.Start, End: n.Range().End}, id, func() {
		typeParameters(r, n)
		t := r.TypeOf(n.Part("type"))
		r.At(id).Type = t
		params := paramTypes(r, list)
		r.At(id).Params = params
		parameters(r, list)
		r.UseType(n.First("throws"))
		r.All(n.Part("body"))
	})
}

// paramTypes are the declared types of parameters.
func paramTypes(r *reader.Reader, list syntax.Node) (types []facts.ExprID) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "formal_parameter":
			types = append(types, dimensioned(r, p, r.Expression(p.Part("type"))))
		case "spread_parameter":
			for c := range p.NamedChildren() {
				if k := c.Type(); k != "modifiers" && k != "variable_declarator" {
					types = append(types, r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expression(c), At: p.Range()}))
				}
			}
		}
	}
	return types
}

// dimensioned is a type with the brackets that may stand behind the name of what
// has it.
func dimensioned(r *reader.Reader, n syntax.Node, t facts.ExprID) facts.ExprID {
	if n.First("dimensions").OK() {
		return r.Expr(facts.Expr{Kind: facts.ListOf, Base: t, At: n.Range()})
	}
	return t
}

func parameters(r *reader.Reader, list syntax.Node) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "formal_parameter", "receiver_parameter":
			r.All(p.First("modifiers"))
			variable(r, p, p.Part("name"), dimensioned(r, p, r.TypeOf(p.Part("type"))), facts.NoExpr, facts.Parameter)
		case "spread_parameter":
			spread(r, p)
		case "identifier": // of a lambda
			variable(r, p, p, facts.NoExpr, facts.NoExpr, facts.Parameter)
		}
	}
}

// spread reads a parameter that takes any number of arguments.
func spread(r *reader.Reader, p syntax.Node) {
	var t syntax.Node
	for c := range p.NamedChildren() {
		switch c.Type() {
		case "variable_declarator":
			list := r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expression(t), At: p.Range()})
			variable(r, p, c.Part("name"), list, facts.NoExpr, facts.Parameter)
		case "modifiers":
			r.All(c)
		default:
			t = c
			r.UseType(c)
		}
	}
}

// variable defines a name with what is known of its type.
func variable(r *reader.Reader, whole, id syntax.Node, t, init facts.ExprID, kind facts.Kind) {
	if id.OK() {
		r.Def(facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Type: t, Init: init})
	}
}

// variables are fields or variables declared together.
func variables(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) { declarators(r, n, kind) })
}

func declarators(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	m, typ := n.First("modifiers"), n.Part("type")
	r.All(m)
	r.UseType(typ)
	for _, c := range reader.Named(n, "variable_declarator") {
		id, value := c.Part("name"), c.Part("value")
		d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: m.Has("static")}
		if kind == facts.Field {
			d.Doc = lang.CommentAbove(r.Text, n.Range().Start, "//")
			if m.Has("static") && m.Has("final") {
				d.Kind = facts.Constant
			}
		} else {
			d.From = id.Range().End
		}
		if typ.Text() != "var" {
			d.Type = dimensioned(r, c, r.Expression(typ))
		}
		def := r.Def(d)
		r.Visit(value)
		init := r.Expression(value)
		r.At(def).Init = init
	}
}

func enumConstant(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, facts.EnumMember)
	d.Type = r.OwnerType()
	r.Def(d)
	r.All(n.Part("arguments"))
	if body := n.Part("body"); body.OK() { // a class of its own
		anonymous(r, r.OwnerType(), body)
	}
}

// anonymous reads the body of a class without a name that is derived from the
// type t.
func anonymous(r *reader.Reader, t facts.ExprID, body syntax.Node) {
	at := place.Range{Start: body.Range().Start, End: body.Range().Start}
	d := facts.Def{Kind: facts.Class, At: at, Full: body.Range(), Head: at}
	if t != facts.NoExpr {
		d.Supers = []facts.ExprID{t}
	}
	r.In(facts.TypeScope, body.Range(), r.Def(d), func() { members(r, body) })
}

// typesOnTheWay notes the types that an import goes through to something in them: by habit they begin with a capital,
// as packages do not.
func typesOnTheWay(r *reader.Reader, n syntax.Node) {
	for n.OK() && n.Type() == "scoped_identifier" {
		id := n.Part("name")
		if first, _ := utf8.DecodeRuneInString(id.Text()); unicode.IsUpper(first) {
			r.Use(id.Text(), facts.ImportUse, id.Range(), r.Expression(n.Part("scope")))
		}
		n = n.Part("scope")
	}
}
