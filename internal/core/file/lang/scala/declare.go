package scala

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// packageClause says the package of a file; of several, each is in the one
// before, whose names are known as well.
func packageClause(r *reader.Reader, n syntax.Node) {
	said := n.Part("name").Text()
	if before := r.Facts().Package; before != "" {
		r.Import(facts.Imported{Path: before, Name: "*", At: n.Part("name").Range()})
		said = before + "." + said
	}
	r.SetPackage(said)
	r.All(n.Part("body"))
}

// packageObject holds what belongs to a package.
func packageObject(r *reader.Reader, n syntax.Node) {
	said := n.Part("name").Text()
	if before := r.Facts().Package; before != "" {
		said = before + "." + said
	}
	r.SetPackage(said)
	r.All(n.Part("body"))
}

// imports reads the paths of an import, which commas part.
func imports(r *reader.Reader, n syntax.Node) {
	var path []syntax.Node
	done := func() {
		if len(path) > 0 {
			one(r, n, path)
		}
		path = nil
	}
	for c := range n.Children() {
		switch c.Type() {
		case "identifier", "operator_identifier":
			path = append(path, c)
		case ",":
			done()
		case "namespace_wildcard", "wildcard":
			all(r, path)
			path = nil
		case "as_renamed_identifier", "arrow_renamed_identifier":
			renamed(r, n, path, c)
			path = nil
		case "namespace_selectors":
			selectors(r, n, path, c)
			path = nil
		}
	}
	done()
}

// written is the path of some names, and where it stands.
func written(path []syntax.Node) (text string, at place.Range) {
	names := make([]string, len(path))
	for i, p := range path {
		names[i] = strings.Trim(p.Text(), "`")
	}
	if len(path) > 0 {
		at = place.Range{Start: path[0].Range().Start, End: path[len(path)-1].Range().End}
	}
	return strings.Join(names, "."), at
}

// one brings in what the whole of a path names.
func one(r *reader.Reader, n syntax.Node, path []syntax.Node) {
	id := path[len(path)-1]
	bring(r, n, path[:len(path)-1], id, id)
}

// bring brings in a name behind a path under another one, which may be the same.
func bring(r *reader.Reader, n syntax.Node, path []syntax.Node, from, to syntax.Node) {
	imp := facts.Imported{Name: strings.Trim(from.Text(), "`"), Alias: to.Text(), At: from.Range()}
	imp.Path, _ = written(path)
	r.Def(facts.Def{Name: to.Text(), Kind: facts.Import, At: to.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
	if from != to {
		r.Use(from.Text(), facts.ImportUse, from.Range(), facts.NoExpr)
	}
}

// all brings in all names behind a path.
func all(r *reader.Reader, path []syntax.Node) {
	imp := facts.Imported{Name: "*"}
	imp.Path, imp.At = written(path)
	r.Import(imp)
}

func renamed(r *reader.Reader, n syntax.Node, path []syntax.Node, c syntax.Node) {
	from, to := c.Part("name"), c.Part("alias")
	if from.OK() && to.OK() && to.Type() == "identifier" { // else it is hidden
		bring(r, n, path, from, to)
	}
}

// selectors are what is brought in between braces.
func selectors(r *reader.Reader, n syntax.Node, path []syntax.Node, list syntax.Node) {
	for c := range list.NamedChildren() {
		switch c.Type() {
		case "identifier":
			bring(r, n, path, c, c)
		case "namespace_wildcard", "wildcard", "namespace_given":
			all(r, path)
		default:
			renamed(r, n, path, c)
		}
	}
}

// begin starts a definition, leaving annotations out of its head.
func begin(r *reader.Reader, n, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := r.Begin(n, id, body, kind)
	for c := range n.NamedChildren() {
		if c.Type() == "annotation" {
			r.SkipHead(&d, c)
			r.Visit(c)
		}
	}
	return d
}

// declares reads a type, or an object, which is one with a single value.
func declares(kind facts.Kind) func(r *reader.Reader, n syntax.Node) {
	return func(r *reader.Reader, n syntax.Node) {
		body := n.Part("body")
		id := r.Def(begin(r, n, n.Part("name"), body, kind))
		r.Enter(id, facts.TypeScope, n, func() {
			typeParameters(r, n)
			for c := range n.NamedChildren() {
				switch c.Type() {
				case "class_parameters":
					classParameters(r, c)
				case "extends_clause":
					supers(r, id, c)
				case "derives_clause":
					r.UseType(c)
				}
			}
			r.All(body)
		})
	}
}

// supers are the types behind extends, of which the first may be given arguments.
func supers(r *reader.Reader, id facts.DefID, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "arguments" {
			r.Visit(c)
			continue
		}
		for _, t := range parts(c) {
			r.UseType(t)
			if e := r.Expression(t); e != facts.NoExpr {
				r.At(id).Supers = append(r.At(id).Supers, e)
			}
		}
	}
}

// parts are the types that one is put together of.
func parts(n syntax.Node) (types []syntax.Node) {
	if n.Type() != "compound_type" {
		return []syntax.Node{n}
	}
	for c := range n.NamedChildren() {
		types = append(types, parts(c)...)
	}
	return types
}

// classParameters are values of the class, which all code in it can name.
func classParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.NamedChildren() {
		if p.Type() != "class_parameter" {
			continue
		}
		d := begin(r, p, p.Part("name"), syntax.Node{}, facts.Property)
		d.Type = r.TypeOf(p.Part("type"))
		r.Visit(p.Part("default_value"))
		r.Def(d)
	}
}

// typeParameters defines those of a list, each with what it is bound to.
func typeParameters(r *reader.Reader, n syntax.Node) {
	param := facts.NoDef
	define := func(id syntax.Node) {
		if id.Type() == "identifier" || id.Type() == "type_identifier" {
			param = r.Local(id, id, facts.TypeParameter, facts.NoExpr, facts.NoExpr)
		}
	}
	for c := range n.Part("type_parameters").NamedChildren() {
		switch c.Type() {
		case "covariant_type_parameter", "contravariant_type_parameter":
			define(c.Part("name"))
		case "upper_bound":
			if bound := r.TypeOf(c.Part("type")); param != facts.NoDef {
				r.At(param).Type = bound
			}
		case "identifier", "type_identifier":
			define(c)
		default:
			r.UseType(c)
		}
	}
}

func enumCase(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, n.Part("name"), syntax.Node{}, facts.EnumMember)
	d.Type = r.OwnerType()
	id := r.Def(d)
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		for c := range n.NamedChildren() {
			switch c.Type() {
			case "class_parameters":
				classParameters(r, c)
			case "extends_clause":
				r.UseType(c)
			}
		}
	})
}

func typeDefinition(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, n.Part("name"), syntax.Node{}, facts.Type))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		t := r.TypeOf(n.Part("type"))
		r.At(id).Type = t
	})
}

// function reads a function or a method, written out or only declared.
func function(r *reader.Reader, n syntax.Node) {
	kind := facts.Function
	if r.InType() {
		kind = facts.Method
	}
	id, body := n.Part("name"), n.Part("body")
	d := begin(r, n, id, body, kind)
	if owner := r.Owner(facts.TypeScope); id.Text() == "this" && owner != facts.NoDef && r.InType() {
		d.Kind, d.Name = facts.Constructor, r.At(owner).Name
	}
	lists := reader.Named(n, "parameters")
	countParameters(&d, lists)
	f := r.Def(d)
	r.Enter(f, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		for i, list := range lists {
			types := parameters(r, list)
			if i == 0 {
				r.At(f).Params = types
			}
		}
		t := r.TypeOf(n.Part("return_type"))
		r.At(f).Type = t
		var result facts.ExprID
		if body.Type() == "block" || body.Type() == "indented_block" { // its names are those of the function
			r.All(body)
			result = r.Expression(last(body))
		} else {
			r.Visit(body)
			result = r.Expression(body)
		}
		if t == facts.NoExpr {
			r.At(f).Init = result
		}
	})
}

// countParameters notes how many parameters the first list has. One that has a
// value already need not be given.
func countParameters(d *facts.Def, lists []syntax.Node) {
	d.Parameters = 1
	if len(lists) == 0 {
		return
	}
	for p := range lists[0].NamedChildren() {
		if p.Type() != "parameter" {
			continue
		}
		d.Parameters++
		if p.Part("default_value").OK() || p.Part("type").Type() == "repeated_parameter_type" {
			d.Variadic = true
		}
	}
}

func parameters(r *reader.Reader, list syntax.Node) (types []facts.ExprID) {
	for p := range list.NamedChildren() {
		if p.Type() != "parameter" {
			continue
		}
		t := r.TypeOf(p.Part("type"))
		r.Visit(p.Part("default_value"))
		r.Local(p, p.Part("name"), facts.Parameter, t, facts.NoExpr)
		types = append(types, t)
	}
	return types
}

// value reads a val or a var, of a type, of a file or of a function, which may
// take a value apart.
func value(r *reader.Reader, n syntax.Node) {
	v := n.Part("value")
	if v.Type() == "block" || v.Type() == "indented_block" {
		r.Block(v)
	} else {
		r.Visit(v)
	}
	init := r.Expression(v)
	t := r.TypeOf(n.Part("type"))
	if t != facts.NoExpr {
		init = facts.NoExpr
	}
	kind := facts.Variable
	if r.InType() {
		kind = facts.Property
	}
	pattern := n.Part("pattern")
	if pattern.Type() != "identifier" {
		bind(r, pattern, kind, init)
		return
	}
	d := property(r, n, pattern, t, init)
	if d.Kind = kind; r.InFunction() {
		d.From = n.Range().End
	}
	if n.Type() == "val_definition" && capital(d.Name) {
		d.Kind = facts.Constant
	}
	r.Def(d)
}

// property is a value of a type.
func property(r *reader.Reader, whole, id syntax.Node, t, init facts.ExprID) facts.Def {
	d := begin(r, whole, id, syntax.Node{}, facts.Property)
	if v := whole.Part("value"); v.OK() && v.Range().Start > d.Head.Start {
		d.Head.End = v.Range().Start
	}
	d.Type, d.Init = t, init
	return d
}

func valueDeclaration(r *reader.Reader, n syntax.Node) {
	t := r.TypeOf(n.Part("type"))
	for c := range n.NamedChildren() {
		if c.FieldName() == "name" || c.Type() == "identifier" {
			r.Def(property(r, n, c, t, facts.NoExpr))
		}
	}
}

// given is a value that is found by its type; it need not have a name.
func given(r *reader.Reader, n syntax.Node) {
	id, body := n.Part("name"), n.Part("body")
	t := r.TypeOf(n.Part("return_type"))
	if !id.OK() {
		r.Visit(body)
		return
	}
	d := begin(r, n, id, body, facts.Property)
	if !r.InType() {
		d.Kind = facts.Variable
	}
	d.Type = t
	f := r.Def(d)
	r.Enter(f, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		for _, list := range reader.Named(n, "parameters") {
			parameters(r, list)
		}
		r.Visit(body)
	})
}

// extension gives a type methods that stand outside of it.
func extension(r *reader.Reader, n syntax.Node) {
	list := n.Part("parameters")
	r.MembersOf(base(first(list).Part("type")).Text(), n.Range(), func() {
		typeParameters(r, n)
		parameters(r, list)
		r.Visit(n.Part("body"))
	})
}

// base is the name of a type without its arguments.
func base(t syntax.Node) syntax.Node {
	for t.Type() == "generic_type" {
		t = t.Part("type")
	}
	return t
}

// selfType gives the inside of a type another name for its value.
func selfType(r *reader.Reader, n syntax.Node) {
	id := first(n)
	t := facts.NoExpr
	for c := range n.NamedChildren() {
		if c != id {
			t = r.TypeOf(c)
		}
	}
	if id.Type() != "identifier" || id.Text() == "this" {
		return
	}
	if t == facts.NoExpr {
		t = r.OwnerType()
	}
	d := r.Begin(n, id, syntax.Node{}, facts.Property)
	d.Type = t
	r.Def(d)
}
