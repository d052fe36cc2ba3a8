package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// begin starts the definition of a named declaration.
func begin(r *reader.Reader, n syntax.Node, kind facts.Kind) facts.Def {
	noted := stateOf(r)
	outer := n
	if noted.exported.OK() {
		outer, noted.exported = noted.exported, syntax.Node{}
	}
	id := n.Part("name")
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: outer.Range(), Head: outer.Range()}
	if body := n.Part("body"); body.OK() {
		d.Head.End = trimEnd(r.Text, d.Head.Start, body.Range().Start)
	}
	d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
	return d
}

// trimEnd moves an end back over blanks.
func trimEnd(text []byte, start, end uint32) uint32 {
	for end > start && (text[end-1] == ' ' || text[end-1] == '\n' || text[end-1] == '\t' || text[end-1] == '\r') {
		end--
	}
	return end
}

func function(r *reader.Reader, n syntax.Node) {
	functionBody(r, n, r.Def(begin(r, n, facts.Function)))
}

// returned reads a return statement and keeps what it gives back.
func returned(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	r.All(n)
	if len(noted.around) == 0 {
		return
	}
	for v := range n.NamedChildren() {
		noted.givesBack(r, v)
		return
	}
}

// givesBack notes that the innermost function gives a value back.
func (s *state) givesBack(r *reader.Reader, value syntax.Node) {
	f := &s.around[len(s.around)-1]
	expect(r, value, f.result)
	if f.result == facts.NoExpr && holdsObject(value) {
		s.giveBack[f.node] = append(s.giveBack[f.node], value)
	}
	if e := r.Expression(value); e != facts.NoExpr {
		f.values = append(f.values, e)
	}
}

// mostReturns is how many of the values a function gives back are kept.
const mostReturns = 4

// one is the value of one of several expressions.
func one(r *reader.Reader, list []facts.ExprID, at place.Range) facts.ExprID {
	switch {
	case len(list) == 0:
		return facts.NoExpr
	case len(list) == 1:
		return list[0]
	}
	return r.Expr(facts.Expr{Kind: facts.OneOf, Args: list[:min(len(list), mostReturns)], At: at})
}

// functionBody reads parameters, result type and body of anything that has
// them; owner is its definition, or NoDef.
func functionBody(r *reader.Reader, n syntax.Node, owner facts.DefID) {
	functionGiven(r, n, owner, facts.NoExpr, nil)
}

// functionGiven is functionBody for a function that is the argument behind those
// before of a call of callee, which gives its parameters their values.
func functionGiven(r *reader.Reader, n syntax.Node, owner facts.DefID, callee facts.ExprID, before []facts.ExprID) {
	noted := stateOf(r)
	at := n.Range()
	if id := n.Part("name"); id.OK() {
		at.Start = id.Range().End
	}
	r.In(facts.FunctionScope, at, owner, func() {
		r.Facts().Scopes[r.Scope()].Open = n.Type() == "arrow_function"
		typeParameters(r, n)
		result, comment := r.Expression(resultType(r, n)), documentedBy(r, owner)
		if result == facts.NoExpr {
			result = comment.result()
		}
		if owner != facts.NoDef {
			signature(r, owner, n, result)
			if len(comment.all) > 0 && r.At(owner).Kind.IsCallable() {
				r.At(owner).Params = comment.parameters(n.Part("parameters"))
			}
		}
		part := 0
		given := func() facts.ExprID {
			part++
			if callee == facts.NoExpr && isValue(n) && part <= 255 {
				return r.Expr(facts.Expr{Kind: facts.WantedOf, Part: uint8(part - 1), At: at})
			}
			if callee == facts.NoExpr || len(before) > 255 || part > 255 {
				return facts.NoExpr
			}
			return r.Expr(facts.Expr{Kind: facts.Given, Base: callee, Args: before, Arg: uint8(len(before)), Part: uint8(part - 1)})
		}
		if p := n.Part("parameter"); p.OK() { // x => …
			pattern(r, p, facts.Def{Kind: facts.Parameter, Init: given(), Type: comment.parameter(p, 0)})
		}
		number := 0
		for p := range n.Part("parameters").NamedChildren() {
			parameterNode(r, p, given, comment.parameter(p, number))
			number++
		}
		r.UseType(resultType(r, n))
		noted.around = append(noted.around, giving{node: n.Index(), result: givenBack(r, n, result)})
		body := n.Part("body")
		if body.Type() == "statement_block" {
			block(r, body)
		} else if body.OK() {
			r.Visit(body)
			noted.givesBack(r, body)
		}
		gives := one(r, noted.around[len(noted.around)-1].values, at)
		noted.around = noted.around[:len(noted.around)-1]
		if gives != facts.NoExpr && n.Has("async") {
			gives = r.Expr(facts.Expr{Kind: facts.Awaited, Base: gives, At: at})
		}
		if owner != facts.NoDef && result == facts.NoExpr && r.At(owner).Kind.IsCallable() {
			r.At(owner).Init = gives
		}
		f := facts.Expr{Kind: facts.Func, Base: result, At: n.Range()}
		if params := paramTypes(r, n.Part("parameters")); gives != facts.NoExpr || len(params) > 0 {
			f.Args = append([]facts.ExprID{gives}, params...)
		}
		if isValue(n) {
			r.Keep(n, r.Expr(f))
		}
	})
}

// isValue says whether what has parameters is a function that is a value, rather than a type or a
// declaration.
func isValue(n syntax.Node) bool {
	switch n.Type() {
	case "arrow_function", "function", "function_expression", "generator_function":
		return true
	}
	return false
}

// resultType is what a function or a signature says of its result.
func resultType(r *reader.Reader, n syntax.Node) syntax.Node {
	if t := n.Part("return_type"); t.OK() || n.Type() != "construct_signature" && n.Type() != "call_signature" {
		return t
	}
	return n.Part("type")
}

// signature notes the types of what a function takes and gives.
func signature(r *reader.Reader, owner facts.DefID, n syntax.Node, result facts.ExprID) {
	params := paramTypes(r, n.Part("parameters"))
	d := r.At(owner)
	if d.Kind.IsCallable() || result != facts.NoExpr && d.Type == facts.NoExpr {
		d.Type = result
	}
	d.Params = params
	if len(params) > 0 && d.Kind.IsCallable() {
		d.Variadic = r.Facts().Exprs[params[len(params)-1]].Kind == facts.ListOf && n.Part("parameters").Has("rest_pattern")
	}
}

// paramTypes are the declared types of parameters, none if none is declared.
func paramTypes(r *reader.Reader, list syntax.Node) (types []facts.ExprID) {
	some := false
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "required_parameter", "optional_parameter":
			if p.Part("pattern").Type() == "this" {
				continue
			}
			t := r.Expression(p.Part("type"))
			some = some || t != facts.NoExpr
			types = append(types, t)
		case "identifier", "assignment_pattern", "object_pattern", "array_pattern", "rest_pattern":
			types = append(types, facts.NoExpr)
		}
	}
	if !some {
		return nil
	}
	return types
}

func typeParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.First("type_parameters").NamedChildren() {
		id := p.Part("name")
		if !id.OK() {
			id = p.First("type_identifier")
		}
		r.Def(facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: p.Range(), Head: p.Range(),
			Type: r.Expression(p.Part("constraint")), Init: r.Expression(reader.Nth(0)(p.Part("value")))})
		for c := range p.NamedChildren() {
			if c.Index() != id.Index() {
				r.UseType(c)
			}
		}
	}
}

// parameterNode reads one parameter: a pattern, in TypeScript with a type around
// it.
func parameterNode(r *reader.Reader, p syntax.Node, given func() facts.ExprID, said facts.ExprID) {
	switch p.Type() {
	case "required_parameter", "optional_parameter":
		r.UseType(p.Part("type"))
		d := facts.Def{Kind: facts.Parameter, Type: r.Expression(p.Part("type")), Full: p.Range(), Head: p.Range()}
		if p.Part("pattern").Type() != "this" {
			if g := given(); d.Type == facts.NoExpr {
				d.Init = g
			}
		}
		if v := p.Part("value"); v.OK() {
			r.Visit(v)
			expect(r, v, d.Type)
			if d.Init == facts.NoExpr {
				d.Init = r.Expression(v)
			}
		}
		pattern(r, p.Part("pattern"), d)
		parameterProperty(r, p)
	case "decorator", "comment":
		r.All(p)
	default:
		pattern(r, p, facts.Def{Kind: facts.Parameter, Init: given(), Type: said})
	}
}

// parameterProperty makes a parameter with a modifier, as in
// constructor(private store: Store), a property of the class too.
func parameterProperty(r *reader.Reader, p syntax.Node) {
	id, class := p.Part("pattern"), r.Owner(facts.TypeScope)
	if class == facts.NoDef || id.Type() != "identifier" || !p.First("accessibility_modifier", "readonly", "override_modifier").OK() {
		return
	}
	r.Inner(r.At(class).Body, func() {
		d := facts.Def{Name: id.Text(), Kind: facts.Property, At: id.Range(), Full: p.Range(), Head: p.Range(), Type: r.Expression(p.Part("type"))}
		r.At(r.Def(d)).Parent = class
	})
}

// pattern defines the names of a pattern; d says all that is known of them.
func pattern(r *reader.Reader, n syntax.Node, d facts.Def) {
	define := func(id syntax.Node) {
		d.Name, d.At = id.Text(), id.Range()
		if d.Full.Len() == 0 {
			d.Full, d.Head = id.Range(), id.Range()
		}
		if existing := r.Defined(r.Scope(), d.Name); existing != facts.NoDef && hasValue(r.At(existing).Kind) {
			r.Use(d.Name, facts.Write, d.At, facts.NoExpr)
			return
		}
		r.Def(d)
	}
	switch n.Type() {
	case "identifier", "shorthand_property_identifier_pattern", "this":
		define(n)
	case "assignment_pattern", "object_assignment_pattern":
		r.Visit(n.Part("right"))
		pattern(r, n.Part("left"), d)
	case "object_pattern":
		for c := range n.NamedChildren() {
			propertyPattern(r, c, d)
		}
	case "array_pattern":
		part := 0
		for c := range n.NamedChildren() {
			inner := d
			inner.Type, inner.Init, inner.Part = facts.NoExpr, partOf(r, d, part), 0
			if c.Type() == "rest_pattern" {
				inner.Init = whole(r, d)
				c = reader.Nth(0)(c)
			}
			part++
			pattern(r, c, inner)
		}
	case "rest_pattern":
		for c := range n.NamedChildren() {
			pattern(r, c, facts.Def{Kind: d.Kind, Type: d.Type, Full: d.Full, Head: d.Head})
		}
	default:
		r.Write(n, facts.Write)
	}
}

// propertyPattern reads one part of an object pattern, which takes a property
// of the value apart.
func propertyPattern(r *reader.Reader, c syntax.Node, d facts.Def) {
	key, inner := c, c
	switch c.Type() {
	case "pair_pattern":
		key, inner = c.Part("key"), c.Part("value")
	case "object_assignment_pattern":
		key = c.Part("left")
	case "rest_pattern":
		pattern(r, c, facts.Def{Kind: d.Kind})
		return
	}
	base := d.Init
	if d.Type != facts.NoExpr {
		base = r.Expr(facts.Expr{Kind: facts.Value, Base: d.Type, At: c.Range()})
	}
	part := facts.Def{Kind: d.Kind}
	if base != facts.NoExpr {
		part.Init = r.Expr(facts.Expr{Kind: facts.Member, Name: key.Text(), Base: base, At: key.Range()})
		r.Use(key.Text(), facts.Read, key.Range(), base)
	}
	pattern(r, inner, part)
}

// whole is the value that d stands for.
func whole(r *reader.Reader, d facts.Def) facts.ExprID {
	if d.Type != facts.NoExpr {
		return r.Expr(facts.Expr{Kind: facts.Value, Base: d.Type})
	}
	return d.Init
}

// partOf is one of the elements of what d stands for, counted from 0.
func partOf(r *reader.Reader, d facts.Def, part int) facts.ExprID {
	base := whole(r, d)
	if base == facts.NoExpr || part > 255 {
		return facts.NoExpr
	}
	return r.Expr(facts.Expr{Kind: facts.PartOf, Base: base, Part: uint8(part)})
}

// variables reads the declarators of const, let and var.
func variables(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	outer := n
	if noted.exported.OK() {
		outer, noted.exported = noted.exported, syntax.Node{}
	}
	kind := facts.Variable
	if n.Has("const") {
		kind = facts.Constant
	}
	scope := r.Scope()
	if n.Has("var") {
		scope = r.Enclosing(facts.FunctionScope)
	}
	for c := range n.NamedChildren() {
		if c.Type() == "variable_declarator" {
			declarator(r, c, outer, kind, scope)
		}
	}
}

func declarator(r *reader.Reader, n, outer syntax.Node, kind facts.Kind, scope facts.ScopeID) {
	id, value := n.Part("name"), n.Part("value")
	r.UseType(n.Part("type"))
	if required(r, id, value, outer) {
		return
	}
	d := facts.Def{Kind: kind, Type: r.Expression(n.Part("type")), Full: outer.Range(), Head: outer.Range()}
	d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
	if d.Type == facts.NoExpr {
		d.Type = valueSaidBefore(r, id, d.Doc)
	}
	declared := d.Type
	defer func() { expect(r, value, declared) }()
	if id.Type() != "identifier" {
		r.Visit(value)
		d.Init = r.Expression(value)
		r.Inner(scope, func() { pattern(r, id, facts.Def{Kind: kind, Type: d.Type, Init: d.Init}) })
		return
	}
	d.Name, d.At = id.Text(), id.Range()
	if existing := r.Defined(scope, d.Name); existing != facts.NoDef && r.At(existing).Container == "" && hasValue(r.At(existing).Kind) {
		r.Use(d.Name, facts.Write, d.At, facts.NoExpr)
		r.Visit(value)
		return
	}
	body := value.Part("body")
	switch value.Type() {
	case "arrow_function", "function", "function_expression", "generator_function":
		d.Kind, d.Type = facts.Function, facts.NoExpr
		d.Head.End = trimEnd(r.Text, d.Head.Start, body.Range().Start)
		var def facts.DefID
		r.Inner(scope, func() { def = r.Def(d) })
		functionBody(r, value, def)
	case "class":
		d.Kind = facts.Class
		d.Head.End = trimEnd(r.Text, d.Head.Start, body.Range().Start)
		var def facts.DefID
		r.Inner(scope, func() { def = r.Def(d) })
		classBody(r, value, def)
	case "object":
		d.Head.End = value.Range().Start
		var def facts.DefID
		r.Inner(scope, func() { def = r.Def(d) })
		r.In(facts.TypeScope, value.Range(), def, func() { objectMembers(r, value) })
		r.Keep(value, shape(r, value))
	default:
		var def facts.DefID
		r.Inner(scope, func() { def = r.Def(d) })
		r.Visit(value)
		init := r.Expression(value)
		r.At(def).Init = init
	}
}

// hasValue says whether what is defined has a value, rather than being only a
// type, which may share a name with a value.
func hasValue(k facts.Kind) bool {
	return k != facts.TypeParameter && k != facts.Interface && k != facts.Type
}

func forIn(r *reader.Reader, n syntax.Node) {
	parted(r, n)
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		right, left := n.Part("right"), n.Part("left")
		r.Visit(right)
		kind := facts.Each
		if n.Has("in") {
			kind = facts.EachKey
		}
		if n.Part("kind").OK() || n.Has("const") || n.Has("let") || n.Has("var") {
			pattern(r, left, facts.Def{Kind: facts.Variable, Init: r.Expr(facts.Expr{Kind: kind, Base: r.Expression(right), At: right.Range()}), Full: place.Range{Start: n.Range().Start, End: right.Range().End}})
		} else {
			r.Write(left, facts.Write)
		}
		r.Visit(n.Part("body"))
	})
}
