package kotlin

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

func imported(r *reader.Reader, n syntax.Node) {
	path := n.First("identifier")
	imp := facts.Imported{Path: path.Text(), At: path.Range()}
	if n.First("wildcard_import").OK() {
		imp.Name = "*"
		r.Import(imp)
		return
	}
	id := last(path)
	if i := strings.LastIndexByte(imp.Path, '.'); i >= 0 {
		imp.Path, imp.Name = imp.Path[:i], imp.Path[i+1:]
	}
	if a := n.First("import_alias"); a.OK() {
		id = first(a)
	}
	imp.Alias = id.Text()
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
}

// begin starts a definition, leaving annotations out of its head.
func begin(r *reader.Reader, n, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := r.Begin(n, id, body, kind)
	for c := range n.First("modifiers").NamedChildren() {
		if c.Type() == "annotation" {
			r.SkipHead(&d, c)
		}
	}
	return d
}

func modifiers(r *reader.Reader, n syntax.Node) { r.All(n.First("modifiers")) }

func class(r *reader.Reader, n syntax.Node) {
	kind := facts.Class
	switch {
	case n.Has("interface"):
		kind = facts.Interface
	case n.Has("enum"):
		kind = facts.Enum
	}
	modifiers(r, n)
	body := n.First("class_body", "enum_class_body")
	id := r.Def(begin(r, n, n.First("type_identifier"), body, kind))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		primary(r, n.First("primary_constructor"))
		supers(r, id, n)
		r.All(body)
	})
}

// primary reads the parameters behind the name of a class, some of which are
// properties as well.
func primary(r *reader.Reader, n syntax.Node) {
	for p := range n.NamedChildren() {
		if p.Type() != "class_parameter" {
			continue
		}
		kind := facts.Parameter
		if p.First("binding_pattern_kind").OK() {
			kind = facts.Property
		}
		modifiers(r, p)
		id := p.First("simple_identifier")
		d := begin(r, p, id, syntax.Node{}, kind)
		for c := range p.NamedChildren() {
			switch c.Type() {
			case "modifiers", "binding_pattern_kind":
			case "user_type", "nullable_type", "function_type":
				d.Type = r.TypeOf(c)
			default:
				if c != id {
					r.Visit(c)
				}
			}
		}
		r.Def(d)
	}
}

func supers(r *reader.Reader, id facts.DefID, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() != "delegation_specifier" {
			continue
		}
		t := first(c)
		r.Visit(t)
		if t.Type() == "constructor_invocation" || t.Type() == "explicit_delegation" {
			t = first(t)
		}
		if e := r.Expression(t); e != facts.NoExpr {
			r.At(id).Supers = append(r.At(id).Supers, e)
		}
	}
}

func typeParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.First("type_parameters").NamedChildren() {
		if id := p.First("type_identifier"); id.OK() {
			r.Local(p, id, facts.TypeParameter, r.TypeOf(p.First("user_type", "nullable_type")), facts.NoExpr)
		}
	}
	r.UseType(n.First("type_constraints"))
}

// companion holds what belongs to a class rather than to its values.
func companion(r *reader.Reader, n syntax.Node) {
	if id := n.First("type_identifier"); id.OK() {
		class(r, n)
		return
	}
	from := r.Scope()
	owner := r.Owner(facts.TypeScope)
	body := n.First("class_body")
	if owner == facts.NoDef {
		r.All(n)
		return
	}
	r.Inner(from, func() {
		for c := range body.NamedChildren() {
			r.Visit(c)
		}
	})
}

func enumEntry(r *reader.Reader, n syntax.Node) {
	body := n.First("class_body")
	d := begin(r, n, n.First("simple_identifier"), body, facts.EnumMember)
	d.Type = r.OwnerType()
	r.Def(d)
	r.Visit(n.First("value_arguments"))
	if body.OK() {
		r.In(facts.TypeScope, body.Range(), facts.NoDef, func() { r.All(body) })
	}
}

func alias(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, n.First("type_identifier"), syntax.Node{}, facts.Type))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		t := r.TypeOf(last(n))
		r.At(id).Type = t
	})
}

func function(r *reader.Reader, n syntax.Node) {
	modifiers(r, n)
	kind := facts.Function
	if r.InType() {
		kind = facts.Method
	}
	id, params, body := n.First("simple_identifier"), n.First("function_value_parameters"), n.First("function_body")
	var receiver, result syntax.Node
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "user_type", "nullable_type", "function_type", "parenthesized_type":
			if c.Range().End <= id.Range().Start {
				receiver = c
			} else {
				result = c
			}
		}
	}
	d := begin(r, n, id, body, kind)
	if ids := names(first(receiver)); len(ids) > 0 && receiver.Type() == "nullable_type" {
		d.Container = ids[len(ids)-1].Text()
	} else if ids := names(receiver); len(ids) > 0 {
		d.Container = ids[len(ids)-1].Text()
	}
	count(&d, params)
	f := r.Def(d)
	r.Enter(f, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		r.UseType(receiver)
		t := r.TypeOf(result)
		if t == facts.NoExpr && body.Has("=") {
			r.At(f).Init = r.Expression(last(body))
		} else {
			r.At(f).Type = t
		}
		r.All(params)
		r.All(body)
	})
}

// count notes how many parameters there are. One that has a value already need
// not be given.
func count(d *facts.Def, list syntax.Node) {
	d.Parameters = 1
	for p := range list.Children() {
		switch {
		case p.Type() == "parameter":
			d.Parameters++
		case p.Type() == "=" || strings.Contains(p.Text(), "vararg") && p.Type() == "parameter_modifiers":
			d.Variadic = true
		}
	}
}

func constructor(r *reader.Reader, n syntax.Node) {
	owner := r.Owner(facts.TypeScope)
	params := n.First("function_value_parameters")
	walk := func() {
		r.All(params)
		for c := range n.NamedChildren() {
			if c != params && c.Type() != "modifiers" {
				r.Visit(c)
			}
		}
	}
	word := n.First("constructor")
	if owner == facts.NoDef || !word.OK() {
		r.In(facts.FunctionScope, n.Range(), facts.NoDef, walk)
		return
	}
	d := r.Begin(n, word, n.First("statements"), facts.Constructor)
	d.Name = r.At(owner).Name
	count(&d, params)
	r.Enter(r.Def(d), facts.FunctionScope, n, walk)
}

func parameter(r *reader.Reader, n syntax.Node) {
	id := n.First("simple_identifier")
	var t facts.ExprID
	for c := range n.NamedChildren() {
		if c != id {
			t = r.TypeOf(c)
		}
	}
	r.Local(n, id, facts.Parameter, t, facts.NoExpr)
}

// property reads a val or var, of a type, of a file or of a function.
func property(r *reader.Reader, n syntax.Node) {
	modifiers(r, n)
	kind := facts.Variable
	if r.InType() {
		kind = facts.Property
	}
	if strings.Contains(n.First("modifiers").Text(), "const") {
		kind = facts.Constant
	}
	var value, receiver syntax.Node
	v := n.First("variable_declaration", "multi_variable_declaration")
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "modifiers", "binding_pattern_kind", "variable_declaration", "multi_variable_declaration", "getter", "setter", "type_parameters", "type_constraints":
		case "user_type", "nullable_type":
			receiver = c
		default:
			value = c
		}
	}
	r.UseType(receiver)
	r.Visit(value)
	init := r.Expression(value)
	if v.Type() == "multi_variable_declaration" {
		variables(r, v, kind, facts.NoExpr)
		return
	}
	id := v.First("simple_identifier")
	d := begin(r, n, id, n.First("getter", "setter"), kind)
	if ids := names(receiver); len(ids) > 0 {
		d.Container = ids[len(ids)-1].Text()
	}
	d.Type = declaredType(r, v)
	if d.Type == facts.NoExpr {
		d.Init = init
	}
	if kind == facts.Variable && r.InFunction() {
		d.From = n.Range().End
	}
	p := r.Def(d)
	if n.First("getter", "setter").OK() {
		r.Enter(p, facts.FunctionScope, n, func() {
			r.Visit(n.First("getter"))
			r.Visit(n.First("setter"))
		})
	}
}

// declaredType is the type behind the name in a variable_declaration.
func declaredType(r *reader.Reader, v syntax.Node) facts.ExprID {
	return r.TypeOf(v.First("user_type", "nullable_type", "function_type", "parenthesized_type"))
}

// variables defines each name that is declared in a node.
func variables(r *reader.Reader, n syntax.Node, kind facts.Kind, init facts.ExprID) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "variable_declaration":
			r.Local(c, c.First("simple_identifier"), kind, declaredType(r, c), init)
		case "multi_variable_declaration":
			variables(r, c, kind, facts.NoExpr)
		}
	}
}

func accessor(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		for c := range n.NamedChildren() {
			r.Visit(c)
		}
	})
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		var over syntax.Node
		for c := range n.NamedChildren() {
			switch c.Type() {
			case "variable_declaration", "multi_variable_declaration", "control_structure_body", "annotation":
			default:
				over = c
			}
		}
		r.Visit(over)
		init := facts.NoExpr
		if e := r.Expression(over); e != facts.NoExpr {
			init = r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: over.Range()})
		}
		variables(r, n, facts.Variable, init)
		r.Visit(n.First("control_structure_body"))
	})
}

func whenSubject(r *reader.Reader, n syntax.Node) {
	value := last(n)
	r.Visit(value)
	if n.First("variable_declaration").OK() {
		variables(r, n, facts.Variable, r.Expression(value))
	}
}

func catch(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		t := r.TypeOf(n.First("user_type"))
		r.Local(n.First("simple_identifier"), n.First("simple_identifier"), facts.Parameter, t, facts.NoExpr)
		r.All(n.First("statements"))
	})
}
