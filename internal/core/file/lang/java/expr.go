package java

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
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
		w.elements(n)
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
	callee := facts.NoExpr
	var before []facts.ExprID
	for a := range n.Child(fArguments).NamedChildren() {
		switch a.Type() {
		case "line_comment", "block_comment":
			continue
		case "lambda_expression":
			if callee == facts.NoExpr {
				callee = w.callee(n)
			}
			w.lambda(a, callee, before)
		default:
			w.node(a)
		}
		before = append(before[:len(before):len(before)], w.expr(a))
	}
	w.CallWith(id.Text(), id.Range(), base, w.expr(n))
}

// callee keeps what a call calls.
func (w *walker) callee(n syntax.Node) facts.ExprID {
	id := n.Child(fName)
	callee := facts.Expr{Kind: facts.Name, Name: id.Text(), At: id.Range()}
	if object := n.Child(fObject); object.OK() {
		callee.Kind, callee.Base = facts.Member, w.expr(object)
	}
	return w.Expr(callee)
}

// arguments keeps those of a call.
func (w *walker) arguments(list syntax.Node) (args []facts.ExprID) {
	for a := range list.NamedChildren() {
		if t := a.Type(); t != "line_comment" && t != "block_comment" {
			args = append(args, w.expr(a))
		}
	}
	return args
}

func (w *walker) creation(n syntax.Node) {
	t := n.Child(fType)
	for c := range n.NamedChildren() { // outer.new Inner()
		if c.Range().End <= t.Range().Start && c.Type() != "type_arguments" {
			w.node(c)
		}
	}
	w.all(n.Child(fArguments))
	w.created(t, n)
	if body := n.First("class_body"); body.OK() {
		w.anonymous(w.typ(t), body)
	}
}

// created notes the use of the type of which a value is made.
func (w *walker) created(t, whole syntax.Node) {
	switch t.Type() {
	case "type_identifier":
		w.CallWith(t.Text(), t.Range(), facts.NoExpr, w.expr(whole))
	case "generic_type":
		for c := range t.NamedChildren() {
			if c.Type() == "type_arguments" {
				w.useType(c)
			} else {
				w.created(c, whole)
			}
		}
	case "scoped_type_identifier":
		var before syntax.Node
		for c := range t.NamedChildren() {
			if c.Range().End == t.Range().End && before.OK() {
				w.CallWith(c.Text(), c.Range(), w.typ(before), w.expr(whole))
			} else {
				w.useType(c)
			}
			before = c
		}
	default:
		w.useType(t)
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

// elements reads what an annotation is given, by the names of its elements.
func (w *walker) elements(n syntax.Node) {
	for c := range n.Child(fArguments).NamedChildren() {
		if key := c.Child(fKey); c.Type() == "element_value_pair" && key.OK() {
			w.Use(key.Text(), facts.Write, key.Range(), w.typ(n.Child(fName)))
		}
		w.node(c)
	}
}

// expr keeps of an expression what helps to find out its type. What stands in
// it must have been read before.
func (w *walker) expr(n syntax.Node) facts.ExprID {
	if e, ok := w.exprs[n.Index()]; ok {
		return e
	}
	e := w.keep(n)
	w.exprs[n.Index()] = e
	return e
}

func (w *walker) keep(n syntax.Node) facts.ExprID {
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
		e.Kind, e.Base = facts.CallOf, w.callee(n)
		e.Args = w.arguments(n.Child(fArguments))
	case "object_creation_expression":
		e.Kind, e.Base = facts.Value, w.typ(n.Child(fType))
		e.Args = w.arguments(n.Child(fArguments))
	case "lambda_expression":
		e.Kind, e.Part = facts.Func, lambdaParameters(n)
		if r := w.results[n.Index()]; r != facts.NoExpr {
			e.Args = []facts.ExprID{r}
		}
	case "method_reference":
		e.Kind = facts.Func
		if r := w.referred(n); r != facts.NoExpr {
			e.Args = []facts.ExprID{r}
		}
	case "array_creation_expression":
		e.Kind, e.Base = facts.ListOf, w.typ(n.Child(fType))
		for range max(0, dimensions(n)-1) {
			e.Base = w.Expr(facts.Expr{Kind: facts.ListOf, Base: e.Base, At: n.Range()})
		}
	case "class_literal":
		e.Kind, e.Name = facts.Literal, "Class"
	case "instanceof_expression":
		e.Kind, e.Name = facts.Literal, "boolean"
	case "unary_expression":
		if n.Has("!") {
			e.Kind, e.Name = facts.Literal, "boolean"
			break
		}
		return first()
	case "update_expression":
		return first()
	case "binary_expression":
		return w.binary(n)
	case "cast_expression":
		e.Kind, e.Base = facts.Value, w.typ(n.Child(fType))
	case "array_access":
		e.Kind, e.Base = facts.Index, first()
	case "parenthesized_expression", "assignment_expression":
		return first()
	case "ternary_expression":
		e.Kind = facts.OneOf
		i := 0
		for c := range n.NamedChildren() {
			if i > 0 && c.Type() != "null_literal" {
				e.Args = append(e.Args, w.expr(c))
			}
			i++
		}
	case "null_literal":
		e.Kind, e.Name = facts.Literal, "null"
	case "string_literal", "text_block":
		e.Kind, e.Name = facts.Literal, "String"
	case "true", "false":
		e.Kind, e.Name = facts.Literal, "boolean"
	case "character_literal":
		e.Kind, e.Name = facts.Literal, "char"
	case "decimal_integer_literal", "hex_integer_literal", "octal_integer_literal", "binary_integer_literal":
		e.Kind, e.Name = facts.Literal, "int"
		if t := n.Text(); t[len(t)-1]|0x20 == 'l' {
			e.Name = "long"
		}
	case "decimal_floating_point_literal", "hex_floating_point_literal":
		e.Kind, e.Name = facts.Literal, "double"
		if t := n.Text(); t[len(t)-1]|0x20 == 'f' {
			e.Name = "float"
		}
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

// lambdaParameters counts the parameters of a lambda.
func lambdaParameters(n syntax.Node) (count uint8) {
	p := n.Child(fParameters)
	if p.Type() == "identifier" {
		return 1
	}
	for range p.NamedChildren() {
		count++
	}
	return count
}

// referred is what calling a method reference gives.
func (w *walker) referred(n syntax.Node) facts.ExprID {
	var object syntax.Node
	for c := range n.NamedChildren() {
		switch {
		case !object.OK():
			object = c
		case c.Type() == "identifier":
			callee := w.Expr(facts.Expr{Kind: facts.Member, Name: c.Text(), Base: w.expr(object), At: c.Range()})
			return w.Expr(facts.Expr{Kind: facts.CallOf, Base: callee, At: n.Range()})
		}
	}
	if n.Has("new") {
		return w.Expr(facts.Expr{Kind: facts.Value, Base: w.expr(object), At: n.Range()})
	}
	return facts.NoExpr
}

// dimensions counts those of a new array.
func dimensions(n syntax.Node) (count int) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "dimensions_expr":
			count++
		case "dimensions":
			count += strings.Count(c.Text(), "[")
		}
	}
	return count
}

// binary keeps what an operator gives: text as soon as one side is text, the
// larger of two numbers, or whether something is so.
func (w *walker) binary(n syntax.Node) facts.ExprID {
	for _, op := range []string{"==", "!=", "<", ">", "<=", ">=", "&&", "||"} {
		if n.Has(op) {
			return w.Expr(facts.Expr{Kind: facts.Literal, Name: "boolean", At: n.Range()})
		}
	}
	left, right := w.expr(n.Child(fLeft)), w.expr(n.Child(fRight))
	if n.Has("<<") || n.Has(">>") || n.Has(">>>") {
		return left
	}
	return w.Expr(facts.Expr{Kind: facts.Joined, Args: []facts.ExprID{left, right}, At: n.Range()})
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
