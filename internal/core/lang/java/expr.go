package java

import (
	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/syntax"
)

// expression notes the names used in an expression, and what is defined in it.
func (w *walker) expression(n syntax.Node) {
	switch n.Type() {
	case "identifier":
		w.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	case "field_access":
		w.fieldAccess(n, facts.Read)
	case "method_invocation":
		w.invocation(n)
	case "object_creation_expression":
		w.creation(n)
	case "assignment_expression":
		w.node(n.Child(fRight))
		role := facts.Write
		if !n.Has("=") {
			role = facts.ReadWrite
		}
		w.target(n.Child(fLeft), role)
	case "update_expression":
		for c := range n.NamedChildren() {
			w.target(c, facts.ReadWrite)
		}
	case "instanceof_expression":
		w.node(n.Child(fLeft))
		w.useType(n.Child(fRight))
		if id := n.Child(fName); id.OK() {
			w.variable(id, id, w.typ(n.Child(fRight)), facts.NoExpr, facts.Variable)
		}
		w.all(n.First("record_pattern", "type_pattern"))
	case "type_pattern", "record_pattern_component":
		w.pattern(n)
	case "marker_annotation", "annotation":
		w.useType(n.Child(fName))
		w.all(n.Child(fArguments))
	case "element_value_pair":
		w.node(n.Child(fValue))
	case "type_identifier", "generic_type", "scoped_type_identifier", "array_type", "type_arguments":
		w.useType(n)
	case "method_reference":
		w.methodReference(n)
	default:
		w.all(n)
	}
}

func (w *walker) fieldAccess(n syntax.Node, role facts.Role) {
	object, id := n.Child(fObject), n.Child(fField)
	w.node(object)
	if id.Type() == "identifier" {
		w.Use(id.Text(), role, id.Range(), w.expr(object))
	}
}

func (w *walker) invocation(n syntax.Node) {
	object, id := n.Child(fObject), n.Child(fName)
	base := facts.NoExpr
	if object.OK() {
		w.node(object)
		base = w.expr(object)
	}
	w.useType(n.First("type_arguments"))
	arguments := 0
	for a := range n.Child(fArguments).NamedChildren() {
		if t := a.Type(); t != "line_comment" && t != "block_comment" {
			arguments++
		}
	}
	w.Call(id.Text(), id.Range(), base, arguments)
	w.all(n.Child(fArguments))
}

func (w *walker) creation(n syntax.Node) {
	t := n.Child(fType)
	if t.Type() == "type_identifier" {
		w.Use(t.Text(), facts.Call, t.Range(), facts.NoExpr)
	} else {
		w.useType(t)
	}
	w.all(n.Child(fArguments))
	if body := n.First("class_body"); body.OK() {
		w.In(facts.TypeScope, body.Range(), facts.NoDef, func() { w.members(body) })
	}
}

func (w *walker) target(n syntax.Node, role facts.Role) {
	switch n.Type() {
	case "identifier":
		w.Use(n.Text(), role, n.Range(), facts.NoExpr)
	case "field_access":
		w.fieldAccess(n, role)
	default:
		w.node(n)
	}
}

// pattern reads a type with a name behind it.
func (w *walker) pattern(n syntax.Node) {
	var t syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "identifier" {
			w.variable(c, c, w.typ(t), facts.NoExpr, facts.Variable)
			continue
		}
		t = c
		w.node(c)
	}
}

func (w *walker) methodReference(n syntax.Node) {
	var object syntax.Node
	for c := range n.NamedChildren() {
		if !object.OK() {
			object = c
			w.node(c)
			continue
		}
		if c.Type() == "identifier" {
			w.Use(c.Text(), facts.Call, c.Range(), w.expr(object))
		}
	}
}

// expr keeps of an expression what helps to find out its type.
func (w *walker) expr(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	first := func() facts.ExprID {
		for c := range n.NamedChildren() {
			return w.expr(c)
		}
		return facts.NoExpr
	}
	switch n.Type() {
	case "identifier", "type_identifier", "this", "super":
		e.Kind, e.Name = facts.Name, n.Text()
	case "field_access":
		id := n.Child(fField)
		e.Kind, e.Name, e.Base, e.At = facts.Member, id.Text(), w.expr(n.Child(fObject)), id.Range()
	case "scoped_identifier", "scoped_type_identifier", "generic_type", "array_type":
		return w.typ(n)
	case "method_invocation":
		id := n.Child(fName)
		callee := facts.Expr{Kind: facts.Name, Name: id.Text(), At: id.Range()}
		if object := n.Child(fObject); object.OK() {
			callee.Kind, callee.Base = facts.Member, w.expr(object)
		}
		e.Kind, e.Base = facts.CallOf, w.Expr(callee)
	case "object_creation_expression":
		e.Kind, e.Base = facts.Value, w.typ(n.Child(fType))
	case "cast_expression":
		e.Kind, e.Base = facts.Value, w.typ(n.Child(fType))
	case "array_access":
		e.Kind, e.Base = facts.Index, first()
	case "parenthesized_expression", "ternary_expression", "assignment_expression":
		return first()
	case "string_literal", "text_block":
		e.Kind, e.Name = facts.Literal, "String"
	case "decimal_integer_literal", "hex_integer_literal", "decimal_floating_point_literal", "character_literal", "true", "false":
		e.Kind, e.Name = facts.Literal, "number"
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

// typ keeps a type.
func (w *walker) typ(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "type_identifier", "identifier":
		e.Kind, e.Name = facts.Name, n.Text()
	case "scoped_type_identifier", "scoped_identifier":
		var parts []syntax.Node
		for c := range n.NamedChildren() {
			parts = append(parts, c)
		}
		if len(parts) < 2 {
			return facts.NoExpr
		}
		last := parts[len(parts)-1]
		e.Kind, e.Name, e.Base, e.At = facts.Member, last.Text(), w.typ(parts[0]), last.Range()
	case "generic_type":
		e.Kind = facts.GenericOf
		for c := range n.NamedChildren() {
			if c.Type() != "type_arguments" {
				e.Base = w.typ(c)
				continue
			}
			for a := range c.NamedChildren() {
				e.Args = append(e.Args, w.typ(a))
			}
		}
	case "wildcard", "catch_type", "annotated_type":
		for c := range n.NamedChildren() {
			if t := w.typ(c); t != facts.NoExpr {
				return t
			}
		}
		return facts.NoExpr
	case "array_type":
		for c := range n.NamedChildren() {
			e.Kind, e.Base = facts.ListOf, w.typ(c)
			break
		}
	case "integral_type", "floating_point_type", "boolean_type", "void_type":
		e.Kind, e.Name = facts.Literal, n.Text()
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

// useType notes the names used in a type.
func (w *walker) useType(n syntax.Node) {
	switch n.Type() {
	case "type_identifier", "identifier":
		if n.Text() != "var" {
			w.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr)
		}
	case "scoped_type_identifier", "scoped_identifier":
		var before syntax.Node
		for c := range n.NamedChildren() {
			if before.OK() {
				w.Use(c.Text(), facts.TypeUse, c.Range(), w.typ(before))
			} else {
				w.useType(c)
			}
			before = c
		}
	case "marker_annotation", "annotation":
		w.node(n)
	default:
		for c := range n.NamedChildren() {
			w.useType(c)
		}
	}
}
