package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
)

// expr keeps of an expression what helps to find out its type.
func (w *walker) expr(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "identifier":
		e.Kind, e.Name = facts.Name, n.Text()
	case "attribute":
		e.Kind, e.Name, e.Base = facts.Member, n.Child(fAttribute).Text(), w.expr(n.Child(fObject))
		e.At = n.Child(fAttribute).Range()
	case "call":
		e.Kind, e.Base = facts.CallOf, w.expr(n.Child(fFunction))
		for a := range n.Child(fArguments).NamedChildren() {
			if n.Child(fArguments).Type() == "generator_expression" {
				break
			}
			e.Args = append(e.Args, w.expr(a))
		}
	case "subscript":
		e.Kind, e.Base = facts.Index, w.expr(n.Child(fValue))
	case "await":
		e.Kind, e.Base = facts.Awaited, w.firstOf(n)
	case "parenthesized_expression", "boolean_operator", "conditional_expression", "as_pattern", "with_item":
		return w.firstOf(n)
	case "named_expression":
		return w.expr(n.Child(fValue))
	case "string", "concatenated_string":
		e.Kind, e.Name = facts.Literal, "str"
	case "integer":
		e.Kind, e.Name = facts.Literal, "int"
	case "float":
		e.Kind, e.Name = facts.Literal, "float"
	case "true", "false", "comparison_operator", "not_operator":
		e.Kind, e.Name = facts.Literal, "bool"
	case "list", "list_comprehension":
		e.Kind, e.Name = facts.Literal, "list"
	case "dictionary", "dictionary_comprehension":
		e.Kind, e.Name = facts.Literal, "dict"
	case "set", "set_comprehension":
		e.Kind, e.Name = facts.Literal, "set"
	case "lambda":
		e.Kind = facts.Func
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

func (w *walker) firstOf(n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		return w.expr(c)
	}
	return facts.NoExpr
}

// typ keeps an annotation or a base class.
func (w *walker) typ(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "type":
		for c := range n.NamedChildren() {
			return w.typ(c)
		}
		return facts.NoExpr
	case "identifier", "attribute":
		return w.expr(n)
	case "subscript":
		e.Kind, e.Base = facts.GenericOf, w.typ(n.Child(fValue))
		for c := range n.NamedChildren() {
			if c.Field() != fValue {
				e.Args = append(e.Args, w.typ(c))
			}
		}
	case "generic_type":
		e.Kind = facts.GenericOf
		for c := range n.NamedChildren() {
			if c.Type() != "type_parameter" {
				e.Base = w.typ(c)
				continue
			}
			for a := range c.NamedChildren() {
				e.Args = append(e.Args, w.typ(a))
			}
		}
	case "binary_operator", "union_type":
		e.Kind = facts.EitherOf
		for c := range n.NamedChildren() {
			if t := w.typ(c); t != facts.NoExpr {
				e.Args = append(e.Args, t)
			}
		}
	case "string":
		name := strings.Trim(n.Text(), `"'`)
		if !isName(name) {
			return facts.NoExpr
		}
		e.Kind, e.Name = facts.Name, name
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

func isName(s string) bool {
	for i, r := range s {
		if r != '_' && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && (i == 0 || r < '0' || r > '9') && r < 0x80 {
			return false
		}
	}
	return s != ""
}

// useType notes the names used in an annotation, also in one that stands in
// quotes because it is only defined further down.
func (w *walker) useType(n syntax.Node) {
	switch n.Type() {
	case "identifier":
		w.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr)
	case "attribute":
		object, name := n.Child(fObject), n.Child(fAttribute)
		w.node(object)
		w.Use(name.Text(), facts.TypeUse, name.Range(), w.expr(object))
	case "string":
		r := n.Range()
		if name := strings.Trim(n.Text(), `"'`); isName(name) && r.Len() == len(name)+2 {
			r.Start, r.End = r.Start+1, r.End-1
			w.Use(name, facts.TypeUse, r, facts.NoExpr)
		}
	case "call":
		w.node(n)
	default:
		for c := range n.NamedChildren() {
			w.useType(c)
		}
	}
}
