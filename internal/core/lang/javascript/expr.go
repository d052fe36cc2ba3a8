package javascript

import (
	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/syntax"
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
		w.all(n.Child(w.f.arguments))
	case "new_expression":
		w.callee(n.Child(w.f.constructor), facts.Call)
		w.useType(n.First("type_arguments"))
		w.all(n.Child(w.f.arguments))
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
		if !w.selfField(n) {
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

// selfField lets the first this.x = … of a class without a declaration of x
// define it, as is usual in JavaScript, and says whether it did.
func (w *walker) selfField(n syntax.Node) bool {
	class := w.Owner(facts.TypeScope)
	if n.Child(w.f.object).Type() != "this" || class == facts.NoDef {
		return false
	}
	id := n.Child(w.f.property)
	if w.Defined(w.At(class).Body, id.Text()) != facts.NoDef {
		return false
	}
	w.Inner(w.At(class).Body, func() {
		d := facts.Def{Name: id.Text(), Kind: facts.Property, At: id.Range(), Full: n.Range(), Head: n.Range()}
		w.At(w.Def(d)).Parent = class
	})
	return true
}

// objectLiteral reads an object literal that no name is given to.
func (w *walker) objectLiteral(n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "pair":
			if key := c.Child(w.f.key); key.Type() == "computed_property_name" {
				w.all(key)
			}
			w.node(c.Child(w.f.value))
		case "method_definition":
			w.functionBody(c, facts.NoDef)
		default:
			w.node(c)
		}
	}
}

// objectMembers defines the members of an object literal that has a name.
func (w *walker) objectMembers(n syntax.Node) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "method_definition":
			w.method(c)
		case "pair":
			w.pair(c)
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
		d.Kind, d.Type = facts.Method, w.typ(value.Child(w.f.returnType))
		d.Head.End = trimEnd(w.text, d.Head.Start, value.Child(w.f.body).Range().Start)
		w.functionBody(value, w.Def(d))
	case "object":
		id := w.Def(d)
		w.In(facts.TypeScope, value.Range(), id, func() { w.objectMembers(value) })
	default:
		d.Init = w.expr(value)
		w.Def(d)
		w.node(value)
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

// expr keeps of an expression what helps to find out its type.
func (w *walker) expr(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "identifier", "type_identifier", "this", "super", "shorthand_property_identifier":
		e.Kind, e.Name = facts.Name, n.Text()
	case "member_expression", "nested_identifier":
		id := n.Child(w.f.property)
		e.Kind, e.Name, e.Base, e.At = facts.Member, id.Text(), w.expr(n.Child(w.f.object)), id.Range()
	case "call_expression":
		e.Kind, e.Base = facts.CallOf, w.expr(n.Child(w.f.function))
		for a := range n.Child(w.f.arguments).NamedChildren() {
			e.Args = append(e.Args, w.expr(a))
		}
	case "new_expression":
		e.Kind, e.Base = facts.Value, w.expr(n.Child(w.f.constructor))
	case "subscript_expression":
		e.Kind, e.Base = facts.Index, w.expr(n.Child(w.f.object))
	case "await_expression":
		e.Kind, e.Base = facts.Awaited, w.firstExpr(n)
	case "parenthesized_expression", "non_null_expression", "satisfies_expression", "ternary_expression":
		return w.firstExpr(n)
	case "as_expression":
		var last syntax.Node
		for c := range n.NamedChildren() {
			last = c
		}
		e.Kind, e.Base = facts.Value, w.typ(last)
	case "assignment_expression":
		return w.expr(n.Child(w.f.right))
	case "binary_expression":
		if n.Has("||") || n.Has("??") || n.Has("&&") {
			return w.expr(n.Child(w.f.left))
		}
		return facts.NoExpr
	case "string", "template_string":
		e.Kind, e.Name = facts.Literal, "string"
	case "number":
		e.Kind, e.Name = facts.Literal, "number"
	case "true", "false":
		e.Kind, e.Name = facts.Literal, "boolean"
	case "arrow_function", "function", "function_expression":
		e.Kind, e.Base = facts.Func, w.typ(n.Child(w.f.returnType))
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

func (w *walker) firstExpr(n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		return w.expr(c)
	}
	return facts.NoExpr
}
