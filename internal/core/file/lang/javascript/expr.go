package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// expression notes the names used in an expression, and those defined by the
// functions and classes in it.
func (w *walker) expression(n syntax.Node) {
	switch n.Type() {
	case "identifier", "shorthand_property_identifier":
		w.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	case "member_expression":
		w.memberUse(n, facts.Read)
	case "call_expression":
		w.callee(n.Child(w.f.function), facts.Call)
		w.useType(n.First("type_arguments"))
		w.arguments(n, w.f.function)
	case "new_expression":
		w.callee(n.Child(w.f.constructor), facts.Call)
		w.useType(n.First("type_arguments"))
		w.arguments(n, w.f.constructor)
	case "assignment_expression":
		w.node(n.Child(w.f.right))
		w.target(n.Child(w.f.left), facts.Write)
	case "augmented_assignment_expression":
		w.node(n.Child(w.f.right))
		w.target(n.Child(w.f.left), facts.ReadWrite)
	case "update_expression":
		for c := range n.NamedChildren() {
			w.target(c, facts.ReadWrite)
		}
	case "arrow_function", "function", "function_expression", "generator_function":
		w.functionBody(n, facts.NoDef)
	case "object":
		w.objectLiteral(n)
	case "as_expression", "satisfies_expression":
		value := true
		for c := range n.NamedChildren() {
			if value {
				w.node(c)
			} else {
				w.useType(c)
			}
			value = false
		}
	case "type_arguments", "type_annotation":
		w.useType(n)
	case "jsx_opening_element", "jsx_self_closing_element", "jsx_closing_element":
		w.element(n)
	case "jsx_attribute":
		for c := range n.NamedChildren() {
			if c.Type() != "property_identifier" {
				w.node(c)
			}
		}
	case "property_identifier", "statement_identifier":
	default:
		w.all(n)
	}
}

func (w *walker) memberUse(n syntax.Node, role facts.Role) {
	object, name := n.Child(w.f.object), n.Child(w.f.property)
	w.node(object)
	w.Use(name.Text(), role, name.Range(), w.expr(object))
}

// arguments reads those of a call; functions among them get their parameters
// from what is called.
func (w *walker) arguments(n syntax.Node, called syntax.Field) {
	callee := facts.NoExpr
	var before []facts.ExprID
	for a := range n.Child(w.f.arguments).NamedChildren() {
		switch a.Type() {
		case "comment":
			continue
		case "arrow_function", "function", "function_expression":
			if callee == facts.NoExpr {
				callee = w.expr(n.Child(called))
			}
			w.functionGiven(a, facts.NoDef, callee, before)
		default:
			w.node(a)
		}
		before = append(before[:len(before):len(before)], w.expr(a))
	}
}

// callee notes what is called or constructed.
func (w *walker) callee(n syntax.Node, role facts.Role) {
	switch n.Type() {
	case "identifier":
		w.Use(n.Text(), role, n.Range(), facts.NoExpr)
	case "member_expression":
		w.memberUse(n, role)
	default:
		w.node(n)
	}
}

// target notes what an assignment writes to.
func (w *walker) target(n syntax.Node, role facts.Role) {
	switch n.Type() {
	case "identifier", "shorthand_property_identifier_pattern":
		w.Use(n.Text(), role, n.Range(), facts.NoExpr)
	case "member_expression":
		if !w.selfField(n, role) {
			w.memberUse(n, role)
		}
	case "object_pattern", "array_pattern", "rest_pattern", "assignment_pattern":
		for c := range n.NamedChildren() {
			w.target(c, role)
		}
	case "pair_pattern":
		w.target(n.Child(w.f.value), role)
	default:
		w.node(n)
	}
}

// selfField remembers this.x = … in a class, which may define x, and says
// whether it did.
func (w *walker) selfField(n syntax.Node, role facts.Role) bool {
	class := w.Owner(facts.TypeScope)
	if n.Child(w.f.object).Type() != "this" || w.selfOfFunction(n, role) {
		return n.Child(w.f.object).Type() == "this"
	}
	if class == facts.NoDef {
		return false
	}
	a := assigned{id: n.Child(w.f.property), whole: n, scope: w.Scope(), role: role}
	w.assigned[class] = append(w.assigned[class], a)
	return true
}

// selfOfFunction lets this.x = … define x for what a function makes that is
// called with new, and says whether it did.
func (w *walker) selfOfFunction(n syntax.Node, role facts.Role) bool {
	scope := w.Enclosing(facts.FunctionScope, facts.TypeScope)
	owner := w.Facts().Scopes[scope].Owner
	if w.typed || owner == facts.NoDef || w.Facts().Scopes[scope].Kind != facts.FunctionScope || w.At(owner).Kind != facts.Function {
		return false
	}
	id, container := n.Child(w.f.property), w.At(owner).Name
	m := member{scope, container, id.Text()}
	if w.members[m] {
		w.memberUse(n, role)
		return true
	}
	w.members[m] = true
	w.Inner(scope, func() {
		w.Def(facts.Def{Name: id.Text(), Kind: facts.Property, Container: container, At: id.Range(), Full: n.Range(), Head: n.Range()})
	})
	return true
}

// shape keeps an object literal or an object type, by where its members stand.
func (w *walker) shape(n syntax.Node) facts.ExprID {
	return w.Expr(facts.Expr{Kind: facts.Shape, At: n.Range()})
}

// objectLiteral reads an object literal that no name is given to.
func (w *walker) objectLiteral(n syntax.Node) {
	w.In(facts.TypeScope, n.Range(), facts.NoDef, func() { w.objectMembers(n) })
}

// objectMembers defines the members of an object literal that has a name.
func (w *walker) objectMembers(n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "method_definition":
			w.method(c)
		case "pair":
			w.pair(c)
		case "shorthand_property_identifier":
			w.node(c)
			d := facts.Def{Name: c.Text(), Kind: facts.Property, At: c.Range(), Full: c.Range(), Head: c.Range()}
			d.Init = w.Expr(facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()})
			w.Def(d)
		default:
			w.node(c)
		}
	}
}

func (w *walker) pair(n syntax.Node) {
	key, value := n.Child(w.f.key), n.Child(w.f.value)
	if key.Type() != "property_identifier" {
		w.all(key)
		w.node(value)
		return
	}
	d := facts.Def{Name: key.Text(), Kind: facts.Property, At: key.Range(), Full: n.Range(), Head: n.Range()}
	d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
	switch value.Type() {
	case "arrow_function", "function", "function_expression":
		d.Kind = facts.Method
		d.Head.End = trimEnd(w.text, d.Head.Start, value.Child(w.f.body).Range().Start)
		w.functionBody(value, w.Def(d))
	case "object":
		id := w.Def(d)
		w.In(facts.TypeScope, value.Range(), id, func() { w.objectMembers(value) })
	default:
		id := w.Def(d)
		w.node(value)
		init := w.expr(value)
		w.At(id).Init = init
	}
}

// element reads the tag of a JSX element. A name in small letters is one of
// the page's own elements, which nothing here defines.
func (w *walker) element(n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Field() != w.f.name {
			w.node(c)
			continue
		}
		switch t := c.Text(); {
		case c.Type() != "identifier":
			w.node(c)
		case t[0] < 'a' || t[0] > 'z':
			w.Use(t, facts.Call, c.Range(), facts.NoExpr)
		}
	}
}

// expr keeps of an expression what helps to find out its type. What stands in
// it must have been read before.
func (w *walker) expr(n syntax.Node) facts.ExprID {
	if !n.OK() {
		return facts.NoExpr
	}
	if e, ok := w.exprs[n.Index()]; ok {
		return e
	}
	e := w.keep(n)
	w.exprs[n.Index()] = e
	return e
}

func (w *walker) keep(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "identifier", "type_identifier", "this", "super", "shorthand_property_identifier":
		e.Kind, e.Name = facts.Name, n.Text()
	case "member_expression", "nested_identifier":
		id := n.Child(w.f.property)
		e.Kind, e.Name, e.Base, e.At = facts.Member, id.Text(), w.expr(n.Child(w.f.object)), id.Range()
	case "call_expression":
		if path, ok := w.requiredPath(n); ok {
			return w.Expr(facts.Expr{Kind: facts.ModuleOf, Name: path, At: n.Range()})
		}
		e.Kind, e.Base = facts.CallOf, w.expr(n.Child(w.f.function))
		if t := n.First("type_arguments"); t.OK() {
			e.Base = w.generic(e.Base, t)
		}
		for a := range n.Child(w.f.arguments).NamedChildren() {
			e.Args = append(e.Args, w.expr(a))
		}
	case "new_expression":
		e.Kind, e.Base = facts.CallOf, w.expr(n.Child(w.f.constructor))
		if t := n.First("type_arguments"); t.OK() {
			e.Base = w.generic(e.Base, t)
		}
		for a := range n.Child(w.f.arguments).NamedChildren() {
			e.Args = append(e.Args, w.expr(a))
		}
	case "object":
		return w.shape(n)
	case "array":
		e.Kind, e.Base = facts.ListOf, w.valueType(n)
	case "subscript_expression":
		e.Kind, e.Base = facts.Index, w.expr(n.Child(w.f.object))
	case "await_expression":
		e.Kind, e.Base = facts.Awaited, w.firstExpr(n)
	case "parenthesized_expression", "non_null_expression", "satisfies_expression":
		return w.firstExpr(n)
	case "ternary_expression":
		i := 0
		for c := range n.NamedChildren() {
			if i > 0 {
				e.Args = append(e.Args, w.expr(c))
			}
			i++
		}
		e.Kind = facts.OneOf
	case "as_expression":
		var last syntax.Node
		for c := range n.NamedChildren() {
			last = c
		}
		e.Kind, e.Base = facts.Value, w.typ(last)
	case "assignment_expression":
		return w.expr(n.Child(w.f.right))
	case "binary_expression":
		switch {
		case n.Has("||") || n.Has("??"):
			e.Kind, e.Args = facts.OneOf, []facts.ExprID{w.expr(n.Child(w.f.left)), w.expr(n.Child(w.f.right))}
		case n.Has("&&"):
			return w.expr(n.Child(w.f.right))
		default:
			return facts.NoExpr
		}
	case "string", "template_string":
		e.Kind, e.Name = facts.Literal, "string"
	case "number":
		e.Kind, e.Name = facts.Literal, "number"
	case "true", "false":
		e.Kind, e.Name = facts.Literal, "boolean"
	case "class":
		e.Kind, e.Name = facts.Name, n.Child(w.f.name).Text()
	case "arrow_function", "function", "function_expression":
		e.Kind, e.Base = facts.Func, w.typ(n.Child(w.f.returnType))
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

// generic is what is called with type arguments.
func (w *walker) generic(base facts.ExprID, arguments syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.GenericOf, Base: base, At: arguments.Range()}
	for a := range arguments.NamedChildren() {
		e.Args = append(e.Args, w.typ(a))
	}
	return w.Expr(e)
}

// valueType is the type of the elements of a list that is written out: that of
// the first, as far as it says what it is.
func (w *walker) valueType(n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		if c.Type() == "comment" {
			continue
		}
		if c.Type() == "spread_element" {
			return w.Expr(facts.Expr{Kind: facts.Index, Base: w.firstExpr(c), At: c.Range()})
		}
		v := w.expr(c)
		if v == facts.NoExpr {
			return v
		}
		return w.Expr(facts.Expr{Kind: facts.TypeOf, Base: v, At: c.Range()})
	}
	return facts.NoExpr
}

func (w *walker) firstExpr(n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		return w.expr(c)
	}
	return facts.NoExpr
}
