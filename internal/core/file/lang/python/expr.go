package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// attribute is a member of a value. In front of a type, too, that is a value.
var attribute = reader.Rule{
	Visit: func(r *reader.Reader, n syntax.Node) { member(r, n, facts.Read) },
	Type:  func(r *reader.Reader, n syntax.Node) { member(r, n, facts.TypeUse) },
	Expr:  reader.Member(part("object"), part("attribute")).Expr,
}

func member(r *reader.Reader, n syntax.Node, role facts.Role) {
	object, id := n.Part("object"), n.Part("attribute")
	r.Visit(object)
	r.Use(id.Text(), role, id.Range(), r.Expression(object))
}

func call(r *reader.Reader, n syntax.Node) {
	switch f := n.Part("function"); f.Type() {
	case "identifier":
		r.Use(f.Text(), facts.Call, f.Range(), facts.NoExpr)
	case "attribute":
		member(r, f, facts.Call)
	default:
		r.Visit(f)
	}
	if a := n.Part("arguments"); a.Type() == "generator_expression" { // sum(x for x in list)
		r.Visit(a)
	} else {
		r.All(a)
	}
}

// called keeps a call with its arguments.
func called(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(n.Part("function")), At: n.Range()}
	if list := n.Part("arguments"); list.Type() != "generator_expression" {
		for a := range list.NamedChildren() {
			e.Args = append(e.Args, r.Expression(a))
		}
	}
	return r.Expr(e)
}

func awaited(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Awaited, Base: reader.First(r, n), At: n.Range()})
}

func lambda(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		parameters(r, n.Part("parameters"), facts.NoDef)
		r.Visit(n.Part("body"))
	})
}

func function(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Func, At: n.Range()})
}

// typ keeps an annotation or a base class.
func typ(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	switch n.Type() {
	case "type":
		for c := range n.NamedChildren() {
			return typ(r, c)
		}
		return facts.NoExpr
	case "identifier", "attribute":
		return r.Expression(n)
	case "subscript":
		e.Kind, e.Base = facts.GenericOf, typ(r, n.Part("value"))
		for c := range n.NamedChildren() {
			if c.Field() != fValue {
				e.Args = append(e.Args, typ(r, c))
			}
		}
	case "generic_type":
		e.Kind = facts.GenericOf
		for c := range n.NamedChildren() {
			if c.Type() != "type_parameter" {
				e.Base = typ(r, c)
				continue
			}
			for a := range c.NamedChildren() {
				e.Args = append(e.Args, typ(r, a))
			}
		}
	case "binary_operator", "union_type":
		e.Kind = facts.EitherOf
		for c := range n.NamedChildren() {
			if t := typ(r, c); t != facts.NoExpr {
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
	return r.Expr(e)
}

func isName(s string) bool {
	for i, r := range s {
		if r != '_' && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && (i == 0 || r < '0' || r > '9') && r < 0x80 {
			return false
		}
	}
	return s != ""
}

// quoted notes the name of a type that stands in quotes because it is only defined further down.
func quoted(r *reader.Reader, n syntax.Node) {
	at := n.Range()
	if name := strings.Trim(n.Text(), `"'`); isName(name) && at.Len() == len(name)+2 {
		at.Start, at.End = at.Start+1, at.End-1
		r.Use(name, facts.TypeUse, at, facts.NoExpr)
	}
}

// holding keeps a collection that is written out as one of what its first entry is.
func holding(name string) func(r *reader.Reader, n syntax.Node) facts.ExprID {
	return func(r *reader.Reader, n syntax.Node) facts.ExprID {
		entry := entryOf(n)
		held := []syntax.Node{entry}
		if entry.Type() == "pair" {
			held = []syntax.Node{entry.Part("key"), entry.Part("value")}
		}
		of := facts.Expr{Kind: facts.GenericOf, At: n.Range()}
		for _, h := range held {
			value := r.Expression(h)
			if value == facts.NoExpr {
				return r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: n.Range()})
			}
			of.Args = append(of.Args, r.Expr(facts.Expr{Kind: facts.TypeOf, Base: value, At: h.Range()}))
		}
		of.Base = r.Expr(facts.Expr{Kind: facts.Name, Name: name, At: n.Range()})
		return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expr(of), At: n.Range()})
	}
}

// entryOf is the first of what a collection is written out of.
func entryOf(n syntax.Node) syntax.Node {
	for c := range n.NamedChildren() {
		if c.Type() != "comment" {
			return c
		}
	}
	return syntax.Node{}
}
