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
	f, a := n.Part("function"), n.Part("arguments")
	if f.Type() == "attribute" {
		r.Visit(f.Part("object"))
	} else if f.Type() != "identifier" {
		r.Visit(f)
	}
	if a.Type() == "generator_expression" { // sum(x for x in list)
		r.Visit(a)
	} else {
		r.All(a)
	}
	switch f.Type() {
	case "identifier":
		r.CallWith(f.Text(), f.Range(), facts.NoExpr, r.Expression(n))
	case "attribute":
		id := f.Part("attribute")
		r.CallWith(id.Text(), id.Range(), r.Expression(f.Part("object")), r.Expression(n))
	}
	puts(r, n)
}

// called keeps a call with its arguments.
func called(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(n.Part("function")), At: n.Range()}
	list := n.Part("arguments")
	if list.Type() == "generator_expression" {
		e.Args = []facts.ExprID{r.Expression(list)}
		return r.Expr(e)
	}
	for a := range list.NamedChildren() {
		if a.Type() != "comment" {
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
		parameters(r, n.Part("parameters"), facts.NoDef, documented{r: r})
		r.Visit(n.Part("body"))
		f := facts.Expr{Kind: facts.Func, At: n.Range()}
		if e := r.Expression(n.Part("body")); e != facts.NoExpr {
			f.Args = []facts.ExprID{e}
		}
		r.Keep(n, r.Expr(f))
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
		if isEither(n.Part("value")) {
			e.Kind, e.Base = facts.EitherOf, facts.NoExpr
		}
		for c := range n.NamedChildren() {
			if c.Field() != fValue {
				e.Args = append(e.Args, typ(r, c))
			}
		}
	case "generic_type":
		e.Kind = facts.GenericOf
		for c := range n.NamedChildren() {
			if c.Type() != "type_parameter" {
				if e.Base = typ(r, c); isEither(c) {
					e.Kind, e.Base = facts.EitherOf, facts.NoExpr
				}
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

// isEither says whether a type stands for one of its arguments.
func isEither(n syntax.Node) bool {
	return n.Text() == "Union" || n.Text() == "typing.Union"
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
