package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

func memberUse(r *reader.Reader, n syntax.Node, role facts.Role) {
	object, name := n.Part("object"), n.Part("property")
	r.Visit(object)
	r.Use(name.Text(), role, name.Range(), r.Expression(object))
}

// arguments reads those of a call; functions among them get their parameters
// from what is called.
func arguments(r *reader.Reader, n syntax.Node, called string) {
	callee := facts.NoExpr
	what := func() facts.ExprID {
		if callee == facts.NoExpr {
			if callee = r.Expression(n.Part(called)); callee != facts.NoExpr {
				if t := n.First("type_arguments"); t.OK() {
					callee = generic(r, callee, t)
				}
			}
		}
		return callee
	}
	var before []facts.ExprID
	for a := range n.Part("arguments").NamedChildren() {
		switch a.Type() {
		case "comment":
			continue
		case "arrow_function", "function", "function_expression", "ternary_expression", "parenthesized_expression":
			passed(r, a, what(), before)
		default:
			r.Visit(a)
		}
		if holdsObject(a) && (a.Type() != "string" || stateOf(r).typed) {
			expectArgument(r, a, what(), before)
		}
		before = append(before[:len(before):len(before)], r.Expression(a))
	}
}

// passed reads an argument that is a function, or one of several.
func passed(r *reader.Reader, n syntax.Node, callee facts.ExprID, before []facts.ExprID) {
	switch n.Type() {
	case "arrow_function", "function", "function_expression":
		functionGiven(r, n, facts.NoDef, callee, before)
	case "ternary_expression":
		r.Visit(n.Part("condition"))
		passed(r, n.Part("consequence"), callee, before)
		passed(r, n.Part("alternative"), callee, before)
	case "parenthesized_expression":
		for c := range n.NamedChildren() {
			passed(r, c, callee, before)
		}
	default:
		r.Visit(n)
	}
}

// selfField remembers this.x = … in a class, which may define x, and says
// whether it did.
func selfField(r *reader.Reader, n syntax.Node, role facts.Role) bool {
	noted := stateOf(r)
	class := r.Owner(facts.TypeScope)
	if n.Part("object").Type() != "this" || selfOfFunction(r, n, role) {
		return n.Part("object").Type() == "this"
	}
	if class == facts.NoDef {
		return false
	}
	a := assigned{id: n.Part("property"), whole: n, scope: r.Scope(), role: role, init: noted.given}
	noted.assigned[class] = append(noted.assigned[class], a)
	return true
}

// selfOfFunction lets this.x = … define x for what a function makes that is
// called with new, and says whether it did.
func selfOfFunction(r *reader.Reader, n syntax.Node, role facts.Role) bool {
	noted := stateOf(r)
	scope := ownerOfThis(r)
	owner := r.Facts().Scopes[scope].Owner
	if noted.typed || owner == facts.NoDef || r.Facts().Scopes[scope].Kind != facts.FunctionScope || r.At(owner).Kind != facts.Function {
		return false
	}
	id, container := n.Part("property"), r.At(owner).Name
	m := memberOf{scope, container, id.Text()}
	if noted.members[m] {
		memberUse(r, n, role)
		return true
	}
	noted.members[m] = true
	r.Inner(scope, func() {
		r.Def(facts.Def{Name: id.Text(), Kind: facts.Property, Container: container, At: id.Range(), Full: n.Range(), Head: n.Range(), Init: noted.given})
	})
	return true
}

// ownerOfThis is the inside of the type, or of the function, that this belongs to: not of one that has none of its own.
func ownerOfThis(r *reader.Reader) facts.ScopeID {
	scopes := r.Facts().Scopes
	s := r.Scope()
	for s != 0 && scopes[s].Kind != facts.TypeScope && (scopes[s].Kind != facts.FunctionScope || scopes[s].Open) {
		s = scopes[s].Parent
	}
	return s
}

// shape keeps an object literal or an object type, by where its members stand, and what it takes its others from.
func shape(r *reader.Reader, n syntax.Node) facts.ExprID {
	if of := mappedFrom(r, n); of != facts.NoExpr {
		return of
	}
	e := facts.Expr{Kind: facts.Shape, At: n.Range()}
	for c := range n.NamedChildren() {
		if c.Type() == "spread_element" {
			e.Args = append(e.Args, reader.First(r, c))
		}
	}
	return r.Expr(e)
}

// objectLiteral reads an object literal that no name is given to.
func objectLiteral(r *reader.Reader, n syntax.Node) {
	r.In(facts.TypeScope, n.Range(), facts.NoDef, func() { objectMembers(r, n) })
}

// objectMembers defines the members of an object literal that has a name.
func objectMembers(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "method_definition":
			method(r, c)
		case "pair":
			pair(r, c)
		case "shorthand_property_identifier":
			r.Visit(c)
			d := facts.Def{Name: c.Text(), Kind: facts.Property, At: c.Range(), Full: c.Range(), Head: c.Range()}
			d.Init = r.Expr(facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()})
			r.Def(d)
		default:
			r.Visit(c)
		}
	}
}

func pair(r *reader.Reader, n syntax.Node) {
	key, value := n.Part("key"), n.Part("value")
	if key.Type() != "property_identifier" {
		r.All(key)
		r.Visit(value)
		return
	}
	d := facts.Def{Name: key.Text(), Kind: facts.Property, At: key.Range(), Full: n.Range(), Head: n.Range()}
	d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
	switch value.Type() {
	case "arrow_function", "function", "function_expression":
		d.Kind = facts.Method
		d.Head.End = trimEnd(r.Text, d.Head.Start, value.Part("body").Range().Start)
		functionBody(r, value, r.Def(d))
	case "object":
		id := r.Def(d)
		r.In(facts.TypeScope, value.Range(), id, func() { objectMembers(r, value) })
	default:
		id := r.Def(d)
		r.Visit(value)
		init := r.Expression(value)
		r.At(id).Init = init
	}
}

// generic is what is called with type arguments.
func generic(r *reader.Reader, base facts.ExprID, arguments syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.GenericOf, Base: base, At: arguments.Range()}
	for a := range arguments.NamedChildren() {
		e.Args = append(e.Args, r.Expression(a))
	}
	return r.Expr(e)
}

// valueType is the type of the elements of a list that is written out: that of
// the first, as far as it says what it is.
func valueType(r *reader.Reader, n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		if c.Type() == "comment" {
			continue
		}
		if c.Type() == "spread_element" {
			return r.Expr(facts.Expr{Kind: facts.Index, Base: reader.First(r, c), At: c.Range()})
		}
		v := r.Expression(c)
		if v == facts.NoExpr {
			return v
		}
		return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: v, At: c.Range()})
	}
	return facts.NoExpr
}

// named keeps a node as a name.
func named(r *reader.Reader, n syntax.Node, name string) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Name, Name: name, At: n.Range()})
}

// member keeps a member of a value.
func member(r *reader.Reader, n syntax.Node) facts.ExprID {
	id := n.Part("property")
	return r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(n.Part("object")), At: id.Range()})
}

// memberWrite reads a member that is given a value, which may define it.
func memberWrite(r *reader.Reader, n syntax.Node, role facts.Role) {
	if !selfField(r, n, role) {
		memberUse(r, n, role)
	}
}

// writeAll reads a pattern, all parts of which are given values.
func writeAll(r *reader.Reader, n syntax.Node, role facts.Role) {
	for c := range n.NamedChildren() {
		r.Write(c, role)
	}
}

// writeParts reads the pattern of an assignment that takes a value apart: each part of it reads a member of that.
func writeParts(r *reader.Reader, n syntax.Node, value facts.ExprID, role facts.Role) {
	for c := range n.NamedChildren() {
		key, to := c, c
		switch c.Type() {
		case "pair_pattern":
			key, to = c.Part("key"), c.Part("value")
		case "object_assignment_pattern":
			key, to = c.Part("left"), c.Part("left")
			r.Visit(c.Part("right"))
		}
		if t := key.Type(); value != facts.NoExpr && (t == "property_identifier" || t == "shorthand_property_identifier_pattern") {
			r.Use(key.Text(), facts.Read, key.Range(), value)
		}
		r.Write(to, role)
	}
}

// write reads what an assignment gives a value.
func write(r *reader.Reader, n, left syntax.Node, role facts.Role) {
	noted := stateOf(r)
	if noted.typed || role != facts.Write {
		r.Write(left, role)
		return
	}
	was := noted.given
	value := r.Expression(n.Part("right"))
	if noted.given = value; left.Type() == "subscript_expression" {
		noted.given = facts.NoExpr // what holds it is given nothing
	}
	r.Write(left, role)
	set(r, left, value, n.Range().End)
	noted.given = was
}

func assignment(role facts.Role) reader.Rule {
	return reader.Rule{
		Visit: func(r *reader.Reader, n syntax.Node) {
			r.Visit(n.Part("right"))
			if left := n.Part("left"); left.Type() == "object_pattern" {
				writeParts(r, left, r.Expression(n.Part("right")), role)
			} else {
				write(r, n, left, role)
			}
			if left := n.Part("left"); left.Type() == "member_expression" && left.Part("property").Text() == "defaultProps" && holdsObject(n.Part("right")) {
				props := r.Expr(facts.Expr{Kind: facts.PropsOf, Base: r.Expression(left.Part("object")), At: left.Range()})
				expect(r, n.Part("right"), r.Expr(facts.Expr{Kind: facts.TypeOf, Base: props, At: left.Range()}))
			} else if holdsObject(n.Part("right")) {
				expect(r, n.Part("right"), r.Expr(facts.Expr{Kind: facts.TypeOf, Base: r.Expression(n.Part("left")), At: n.Part("left").Range()}))
			}
		},
		Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID { return r.Expression(n.Part("right")) },
	}
}

// call reads a call of what is in a field.
func call(callee string) func(r *reader.Reader, n syntax.Node) {
	return func(r *reader.Reader, n syntax.Node) {
		if testCall(r, n, callee) {
			return
		}
		r.Called(n.Part(callee), -1)
		use := len(r.Facts().Uses) - 1
		r.UseType(n.First("type_arguments"))
		arguments(r, n, callee)
		if stateOf(r).typed {
			return
		}
		if use >= 0 && r.Facts().Uses[use].At.End == n.Part(callee).Range().End {
			r.Facts().Uses[use].Call = r.Expression(n)
		}
		puts(r, n)
	}
}

// called keeps a call of what is in a field, with its arguments.
func called(callee string) func(r *reader.Reader, n syntax.Node) facts.ExprID {
	return func(r *reader.Reader, n syntax.Node) facts.ExprID {
		if path, ok := requiredPath(r, n); ok {
			return r.Expr(facts.Expr{Kind: facts.ModuleOf, Name: path, At: n.Range()})
		}
		e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(n.Part(callee)), At: n.Range()}
		if t := n.First("type_arguments"); t.OK() {
			e.Base = generic(r, e.Base, t)
		}
		for a := range n.Part("arguments").NamedChildren() {
			e.Args = append(e.Args, r.Expression(a))
		}
		return r.Expr(e)
	}
}

// cast reads a value with a type behind it.
func cast(r *reader.Reader, n syntax.Node) {
	value := true
	for c := range n.NamedChildren() {
		if value {
			r.Visit(c)
		} else {
			r.UseType(c)
			if object := reader.Nth(0)(n); holdsObject(object) && object != c {
				expect(r, object, r.Expression(c))
			}
		}
		value = false
	}
}

// functionType keeps a function that was not read, as far as it says what it gives.
func functionType(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Func, Base: r.Expression(n.Part("return_type")), At: n.Range()})
}

// list keeps a list that is written out.
func list(r *reader.Reader, n syntax.Node) facts.ExprID {
	if !stateOf(r).typed && !reader.Nth(0)(n).OK() { // of which it is not known yet what it holds
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: "Array", At: n.Range()})
	}
	return r.Expr(facts.Expr{Kind: facts.ListOf, Base: valueType(r, n), At: n.Range()})
}

// eitherValue keeps one of the two values behind a condition.
func eitherValue(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.OneOf, At: n.Range()}
	i := 0
	for c := range n.NamedChildren() {
		if i > 0 {
			e.Args = append(e.Args, r.Expression(c))
		}
		i++
	}
	return r.Expr(e)
}

// binary keeps what an operator gives that gives one of its sides.
func binary(r *reader.Reader, n syntax.Node) facts.ExprID {
	switch {
	case n.Has("||") || n.Has("??"):
		return r.Expr(facts.Expr{Kind: facts.OneOf, Args: []facts.ExprID{r.Expression(n.Part("left")), r.Expression(n.Part("right"))}, At: n.Range()})
	case n.Has("&&"):
		return r.Expression(n.Part("right"))
	}
	return facts.NoExpr
}

// asType keeps a value that is said to be of a type. With the word const behind it, it
// is of its own.
func asType(r *reader.Reader, n syntax.Node) facts.ExprID {
	value, typ := reader.Nth(0)(n), reader.Nth(-1)(n)
	if value == typ {
		return r.Expression(value)
	}
	return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(typ), At: n.Range()})
}
