package c

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// declared is what a declarator comes to: a name inside out, as in
// int *(*f[3])(void).
type declared struct {
	id syntax.Node
	// owner is the type in front of the name where a member stands outside.
	owner syntax.Node
	// around are what is in front of that, the outermost first, as in Hut::Bell::ring.
	around []syntax.Node
	// function holds the parameters if it is a function, or a pointer to one.
	function syntax.Node
	pointer  bool // to a function
	star     bool // it is a pointer, or gives one
	list     bool
}

func declarator(r *reader.Reader, n syntax.Node) (d declared) {
	for n.OK() {
		switch n.Type() {
		case "function_declarator", "abstract_function_declarator":
			if !d.function.OK() {
				d.function = n
			}
			n = n.Part("declarator")
		case "parenthesized_declarator", "pointer_declarator", "reference_declarator", "attributed_declarator", "pointer_type_declarator", "variadic_declarator":
			d.pointer = d.pointer || d.function.OK() && n.Type() == "pointer_declarator"
			d.star = d.star || n.Type() == "pointer_declarator"
			inner := n.Part("declarator")
			if !inner.OK() {
				for c := range n.NamedChildren() {
					if t := c.Type(); t != "type_qualifier" && t != "ms_call_modifier" && t != "attribute_declaration" {
						inner = c
					}
				}
			}
			n = inner
		case "array_declarator":
			d.list = true
			r.Visit(n.Part("size"))
			n = n.Part("declarator")
		case "init_declarator":
			n = n.Part("declarator")
		case "qualified_identifier":
			if d.owner.OK() {
				d.around = append(d.around, d.owner)
			}
			d.owner = n.Part("scope")
			n = n.Part("name")
		case "template_function":
			n = n.Part("name")
		case "operator_cast":
			r.UseType(n.Part("type"))
			d.id, d.function = n, n.Part("declarator")
			return d
		case "identifier", "field_identifier", "type_identifier", "operator_name", "destructor_name":
			d.id = n
			return d
		default:
			return d
		}
	}
	return d
}

// nameless says whether a type is to be found out from the value.
func nameless(t syntax.Node) bool {
	return t.Type() == "placeholder_type_specifier" || t.Type() == "auto"
}

func declaration(r *reader.Reader, whole, n, params syntax.Node) {
	t := n.Part("type")
	later := params.OK() && !t.Part("body").OK() // it may name the parameters of the template
	if !nameless(t) && !later {
		r.Declaring(n.Part("declarator").OK(), func() { r.UseType(t) })
	}
	for c := range n.Children() {
		switch {
		case c.FieldName() == "declarator" && c.Part("declarator").Type() == "structured_binding_declarator":
			value := c.Part("value")
			r.Visit(value)
			bindings(r, whole, c.Part("declarator"), r.Expression(value))
		case c.Type() == "structured_binding_declarator":
			bindings(r, whole, c, r.Expression(n.Part("value")))
		case c.FieldName() == "declarator" && (c.Type() == "init_declarator" || isDeclarator(c)):
			declare(r, whole, n, c, params)
		case c.Type() == "bitfield_clause":
			r.All(c)
		}
	}
	if value := n.Part("default_value"); value.OK() {
		initial(r, value, facts.NoExpr)
	}
}

func isDeclarator(n syntax.Node) bool {
	switch n.Type() {
	case "identifier", "field_identifier", "pointer_declarator", "reference_declarator", "array_declarator", "function_declarator",
		"parenthesized_declarator", "qualified_identifier", "attributed_declarator", "operator_name", "operator_cast":
		return !nameless(n)
	}
	return false
}

func isStatic(n syntax.Node) bool {
	for c := range n.NamedChildren() {
		if c.Type() == "storage_class_specifier" && c.Text() == "static" {
			return true
		}
	}
	return false
}

// declare defines one of the names of a declaration.
func declare(r *reader.Reader, whole, n, c, params syntax.Node) {
	if c.Type() == "qualified_identifier" && n.Part("type") == c {
		return // the type itself
	}
	what := declarator(r, c)
	if !what.id.OK() {
		return
	}
	if what.function.OK() && !what.pointer && c.Type() != "init_declarator" {
		prototype(r, whole, n, what, params)
		return
	}
	if params.OK() {
		templateVariable(r, whole, n, c, what, params)
		return
	}
	d := r.Begin(whole, what.id, syntax.Node{}, valueKind(r, n))
	d.Type = typeOf(r, n, what)
	if r.Enclosing(facts.FunctionScope) != 0 && r.InFunction() {
		d.From = what.id.Range().Start
	}
	d.Static = r.InType() && isStatic(n)
	value := n.Part("value") // as in the condition of an if
	if c.Type() == "init_declarator" {
		value = c.Part("value")
	}
	if t := n.Part("type"); nameless(t) {
		d.Init = r.Expression(value)
	}
	t := d.Type
	if what.owner.OK() {
		d.Container = what.owner.Text()
		useOwner(r, what)
	}
	r.Def(d)
	if what.function.OK() { // the parameters of what is pointed to
		r.In(facts.FunctionScope, what.function.Range(), facts.NoDef, func() { r.All(what.function.Part("parameters")) })
	}
	initial(r, value, t)
}

// templateVariable defines a variable, or a member of a template that stands outside of it.
func templateVariable(r *reader.Reader, whole, n, c syntax.Node, what declared, params syntax.Node) {
	d := r.Begin(whole, what.id, syntax.Node{}, valueKind(r, n))
	if what.owner.OK() {
		d.Container = baseName(what.owner)
	}
	d.Static = r.InType() && isStatic(n)
	id := r.Def(d)
	r.In(facts.BlockScope, place.Range{Start: whole.Range().Start, End: whole.Range().End}, facts.NoDef, func() {
		templateParameters(r, params)
		if t := n.Part("type"); !nameless(t) {
			r.UseType(t)
		}
		useOwner(r, what)
		arguments(r, c)
		r.At(id).Type = typeOf(r, n, what)
		if c.Type() == "init_declarator" {
			initial(r, c.Part("value"), r.At(id).Type)
		}
	})
}

// arguments reads those for which a template is written otherwise.
func arguments(r *reader.Reader, n syntax.Node) {
	for n.OK() {
		if n.Type() == "template_function" || n.Type() == "template_type" {
			r.UseType(n.Part("arguments"))
			return
		}
		if n.Type() == "qualified_identifier" {
			n = n.Part("name")
			continue
		}
		n = n.First("template_function", "template_type", "init_declarator", "function_declarator", "reference_declarator", "pointer_declarator", "qualified_identifier")
	}
}

// initial reads the value something is set to at first.
func initial(r *reader.Reader, value syntax.Node, t facts.ExprID) {
	if value.Type() == "initializer_list" {
		if t != facts.NoExpr {
			t = r.Expr(facts.Expr{Kind: facts.Value, Base: t, At: value.Range()})
		}
		initializer(r, value, t)
		return
	}
	r.Visit(value)
}

func valueKind(r *reader.Reader, n syntax.Node) facts.Kind {
	if r.InType() {
		return facts.Field
	}
	for c := range n.NamedChildren() {
		if c.Type() == "type_qualifier" && (c.Text() == "const" || c.Text() == "constexpr") && n.First("init_declarator").OK() && !n.First("pointer_declarator").OK() {
			if d := n.First("init_declarator"); d.Part("declarator").Type() == "identifier" {
				return facts.Constant
			}
		}
	}
	return facts.Variable
}

// typeOf is the type that a declaration gives to one of its names.
func typeOf(r *reader.Reader, n syntax.Node, what declared) facts.ExprID {
	t := n.Part("type")
	if nameless(t) {
		return facts.NoExpr
	}
	e := r.Expression(t)
	if body := t.Part("body"); e == facts.NoExpr && body.OK() && !t.Part("name").OK() && t.Type() != "enum_specifier" {
		e = r.Expr(facts.Expr{Kind: facts.Shape, At: body.Range()})
	}
	if e == facts.NoExpr {
		return e
	}
	if what.star && t.Type() == "primitive_type" {
		e = r.Expr(facts.Expr{Kind: facts.Literal, Name: t.Text() + "*", At: t.Range()})
	}
	if what.list {
		e = r.Expr(facts.Expr{Kind: facts.ListOf, Base: e, At: t.Range()})
	}
	if what.pointer {
		e = r.Expr(facts.Expr{Kind: facts.FuncOf, Base: e, At: t.Range()})
	}
	return e
}

// bindings defines the names for the parts of a value.
func bindings(r *reader.Reader, whole, n syntax.Node, value facts.ExprID) {
	part := 0
	for id := range n.NamedChildren() {
		init := facts.NoExpr
		if value != facts.NoExpr {
			init = r.Expr(facts.Expr{Kind: facts.PartOf, Base: value, Part: uint8(min(part, 255)), At: id.Range()})
		}
		r.Local(whole, id, facts.Variable, facts.NoExpr, init)
		part++
	}
}

// prototype defines a function that has no body here.
func prototype(r *reader.Reader, whole, n syntax.Node, what declared, params syntax.Node) {
	id := callable(r, whole, n, what, syntax.Node{}, params.OK())
	r.Enter(id, facts.FunctionScope, whole, func() {
		templateParameters(r, params)
		if params.OK() {
			resultOf(r, id, n, what)
		}
		r.All(what.function.Part("parameters"))
		trailing(r, id, what)
		if r.Facts().Language == plusName {
			params := parameterTypes(r, what.function.Part("parameters"))
			r.At(id).Params = params
		}
	})
}

// resultOf reads what a template of a function gives back and belongs to, both of which may name its parameters.
func resultOf(r *reader.Reader, id facts.DefID, n syntax.Node, what declared) {
	if t := n.Part("type"); !nameless(t) && !t.Part("body").OK() {
		r.UseType(t)
	}
	useOwner(r, what)
	arguments(r, n.Part("declarator"))
	r.At(id).Type = typeOf(r, n, declared{star: what.star})
}

// trailing reads what stands behind the parameters: what a function gives back, which may name them.
func trailing(r *reader.Reader, id facts.DefID, what declared) {
	for c := range what.function.NamedChildren() {
		switch c.Type() {
		case "trailing_return_type":
			if t := c.First("type_descriptor"); t.OK() {
				r.At(id).Type = r.TypeOf(t)
			} else {
				r.Visit(c)
			}
		case "noexcept", "requires_clause":
			r.All(c)
		}
	}
}

// useOwner notes the names of the type that a member belongs to which stands outside of it.
func useOwner(r *reader.Reader, what declared) {
	if !what.owner.OK() {
		return
	}
	var path []step
	for _, n := range append(what.around, what.owner) {
		path = append(path, steps(n)...)
	}
	along(r, path, facts.NoExpr, facts.TypeUse, -1)
}

// callable adds a function, a method or a constructor. What its types are is read later if it has parameters of a template.
func callable(r *reader.Reader, whole, n syntax.Node, what declared, body syntax.Node, later bool) facts.DefID {
	kind := facts.Function
	owner := ""
	switch {
	case what.owner.OK():
		owner = baseName(what.owner)
		kind = facts.Method
		if !later {
			useOwner(r, what)
		}
	case r.InType():
		kind = facts.Method
		if o := r.Owner(facts.TypeScope); o != facts.NoDef {
			if r.At(o).Kind.IsSpace() {
				kind = facts.Function
			} else {
				owner = r.At(o).Name
			}
		}
	}
	if owner != "" && what.id.Text() == owner {
		kind = facts.Constructor
	}
	d := r.Begin(whole, what.id, body, kind)
	if what.owner.OK() {
		d.Container = owner
	}
	d.Parameters = 1
	for p := range what.function.Part("parameters").NamedChildren() {
		switch p.Type() {
		case "variadic_parameter", "variadic_parameter_declaration", "optional_parameter_declaration":
			if !d.Variadic { // however many may be left out, or come in place of the last
				d.Parameters++
			}
			d.Variadic = true
		case "identifier": // whose type stands behind, as was once the way
			d.Parameters++
		case "parameter_declaration":
			if p.Text() != "void" {
				d.Parameters++
			}
		}
	}
	if what.function.Part("parameters").Has("...") && !d.Variadic {
		d.Variadic = true
		d.Parameters++
	}
	if !later {
		d.Type = typeOf(r, n, declared{star: what.star})
	}
	d.Static = r.InType() && isStatic(n)
	return r.Def(d)
}

// baseName is the last name of a qualified one, without type arguments.
func baseName(n syntax.Node) string {
	for {
		switch n.Type() {
		case "template_type", "qualified_identifier":
			n = n.Part("name")
		default:
			return n.Text()
		}
	}
}

// function reads one with a body. For a template, whole holds all of it.
func function(r *reader.Reader, whole, n, params syntax.Node) {
	t := n.Part("type")
	if !nameless(t) && (!params.OK() || t.Part("body").OK()) {
		r.UseType(t)
	}
	what := declarator(r, n.Part("declarator"))
	body := n.Part("body")
	if !what.id.OK() {
		r.All(n)
		return
	}
	if !what.function.OK() && !body.OK() { // int rings = 0; which the grammar takes for a function without code
		declare(r, whole, n, n.Part("declarator"), params)
		return
	}
	id := callable(r, whole, n, what, body, params.OK())
	r.Enter(id, facts.FunctionScope, whole, func() {
		templateParameters(r, params)
		if params.OK() {
			resultOf(r, id, n, what)
		}
		r.All(what.function.Part("parameters"))
		trailing(r, id, what)
		if r.Facts().Language == plusName {
			params := parameterTypes(r, what.function.Part("parameters"))
			r.At(id).Params = params
		}
		for c := range n.NamedChildren() {
			switch c.Type() {
			case "field_initializer_list":
				r.All(c)
			case "declaration": // how C once gave parameters their types
				r.Visit(c)
			}
		}
		r.All(body)
	})
}

func parameter(r *reader.Reader, n syntax.Node) {
	t := n.Part("type")
	if !nameless(t) {
		r.UseType(t)
	}
	what := declarator(r, n.Part("declarator"))
	if id := r.Local(n, what.id, facts.Parameter, typeOf(r, n, what), facts.NoExpr); id != facts.NoDef {
		r.At(id).From = what.id.Range().Start // its type may have its name
	}
	r.Visit(n.Part("default_value"))
}

// typedef names a type, and defines it too if it is written there.
func typedef(r *reader.Reader, n syntax.Node) {
	t := n.Part("type")
	kind, unnamed := facts.Type, t.Part("body").OK() && !t.Part("name").OK()
	for c := range n.NamedChildren() {
		what := declarator(r, c)
		if c.FieldName() != "declarator" || !what.id.OK() || !isTypedefName(c) {
			continue
		}
		if unnamed {
			unnamed = false
			switch t.Type() {
			case "struct_specifier":
				kind = facts.Struct
			case "union_specifier":
				kind = facts.Union
			case "enum_specifier":
				kind = facts.Enum
			case "class_specifier":
				kind = facts.Class
			}
			id := r.Def(r.Begin(n, what.id, t.Part("body"), kind))
			inside(r, id, t)
			continue
		}
		d := r.Begin(n, what.id, syntax.Node{}, facts.Type)
		d.Echo = t.Part("name").Text() == what.id.Text() && t.Part("body").OK()
		d.Type = typeOf(r, n, what)
		r.Def(d)
		if what.function.OK() {
			r.In(facts.FunctionScope, what.function.Range(), facts.NoDef, func() { r.All(what.function.Part("parameters")) })
		}
	}
	if t.Part("name").OK() || !t.Part("body").OK() {
		r.UseType(t)
	}
}

func isTypedefName(n syntax.Node) bool {
	return n.Type() == "type_identifier" || isDeclarator(n)
}

// specifier is a struct, class or union: the definition of one if it has a
// body, or else the use of its name.
func specifier(kind facts.Kind) reader.Rule {
	read := func(r *reader.Reader, n syntax.Node) { defineType(r, n, n, syntax.Node{}, kind) }
	return reader.Rule{Visit: read, Type: read, Expr: specified}
}

func specified(r *reader.Reader, n syntax.Node) facts.ExprID { return r.Expression(n.Part("name")) }

func defineType(r *reader.Reader, whole, n, params syntax.Node, kind facts.Kind) {
	name, body := n.Part("name"), n.Part("body")
	if !body.OK() {
		if params.OK() && name.OK() { // a template made known before it is defined
			if name.Type() == "template_type" { // of what there is already
				r.In(facts.BlockScope, whole.Range(), facts.NoDef, func() {
					templateParameters(r, params)
					r.UseType(name)
				})
				return
			}
			r.Def(r.Begin(whole, name, syntax.Node{}, kind))
			r.In(facts.BlockScope, whole.Range(), facts.NoDef, func() { templateParameters(r, params) })
			return
		}
		r.UseType(name)
		return
	}
	container, special := "", syntax.Node{}
	for name.Type() == "qualified_identifier" || name.Type() == "template_type" {
		if name.Type() == "template_type" {
			special = name.Part("arguments")
		}
		if in := name.Part("scope"); in.OK() {
			container = in.Text()
			r.UseType(in)
		}
		name = name.Part("name")
	}
	if !name.OK() {
		// The members of a struct without a name belong to what is around it, if
		// nothing is of that type.
		if r.InType() && !r.Declares() {
			r.All(body)
		} else {
			r.In(facts.TypeScope, body.Range(), facts.NoDef, func() { r.All(body) })
		}
		return
	}
	d := r.Begin(whole, name, body, kind)
	d.Container, d.Special = container, special.OK()
	id := r.Def(d)
	r.Enter(id, facts.TypeScope, whole, func() {
		templateParameters(r, params)
		r.UseType(special)
		supers(r, id, n.First("base_class_clause"))
		r.All(body)
	})
}

func supers(r *reader.Reader, id facts.DefID, clause syntax.Node) {
	for c := range clause.NamedChildren() {
		if c.Type() == "access_specifier" {
			continue
		}
		if t := r.TypeOf(c); t != facts.NoExpr {
			r.At(id).Supers = append(r.At(id).Supers, t)
		}
	}
}

// inside reads the body of a type that got its name from a typedef.
func inside(r *reader.Reader, id facts.DefID, t syntax.Node) {
	if t.Type() == "enum_specifier" {
		outer := r.Scope()
		r.In(facts.TypeScope, t.Range(), id, func() { r.Inner(outer, func() { enumerators(r, id, t) }) })
		return
	}
	r.In(facts.TypeScope, t.Range(), id, func() { r.All(t.Part("body")) })
}

// enum defines an enumeration. Unless it is a class of its own, its members
// are known where it is known itself.
func enum(r *reader.Reader, n syntax.Node) {
	name, body := n.Part("name"), n.Part("body")
	r.UseType(n.Part("base"))
	if !body.OK() {
		r.UseType(name)
		return
	}
	if !name.OK() {
		enumerators(r, facts.NoDef, n)
		return
	}
	id := r.Def(r.Begin(n, name, body, facts.Enum))
	outer := r.Scope()
	r.Enter(id, facts.TypeScope, n, func() {
		if n.Has("class") || n.Has("struct") {
			enumerators(r, id, n)
			return
		}
		r.Inner(outer, func() { enumerators(r, id, n) })
	})
}

func enumerators(r *reader.Reader, owner facts.DefID, n syntax.Node) {
	for c := range n.Part("body").NamedChildren() {
		id := c.Part("name")
		if c.Type() != "enumerator" {
			r.Visit(c)
			continue
		}
		d := r.Begin(c, id, syntax.Node{}, facts.EnumMember)
		if owner != facts.NoDef {
			d.Type = r.Expr(facts.Expr{Kind: facts.Name, Name: r.At(owner).Name, At: r.At(owner).At})
		}
		r.Def(d)
		r.Visit(c.Part("value"))
	}
}
