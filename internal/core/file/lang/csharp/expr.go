package csharp

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// memberAccess has words such as this in front of the dot, which the grammar
// does not name.
var memberAccess = reader.Member(object, part("name"))

func object(n syntax.Node) syntax.Node {
	if o := n.Part("expression"); o.OK() {
		return o
	}
	return n.First("this", "base", "predefined_type")
}

// typeMember is a name in a namespace or a type, as in a.b.C.
var typeMember = reader.Member(part("qualifier"), part("name"))

// generic is a name with type arguments, which have no field.
var generic = reader.Generic(reader.Nth(0), func(n syntax.Node) syntax.Node { return n.First("type_argument_list") })

func awaited(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Awaited, Base: r.Expression(reader.Nth(0)(n)), At: n.Range()})
}

// conditional is a?.b: the part behind it begins with a binding to a.
func conditional(r *reader.Reader, n syntax.Node) {
	o := n.Part("condition")
	r.Visit(o)
	base := r.Expression(o)
	for c := range n.NamedChildren() {
		if c != o {
			bound(r, c, base)
		}
	}
}

// bound reads what stands behind ?. up to the member it begins with.
func bound(r *reader.Reader, n syntax.Node, base facts.ExprID) {
	switch n.Type() {
	case "member_binding_expression":
		if id := n.Part("name"); id.OK() {
			r.MemberUse(id, facts.Read, base, -1)
		}
	case "invocation_expression":
		if f := n.Part("function"); f.Type() == "member_binding_expression" {
			r.MemberUse(f.Part("name"), facts.Call, base, reader.Count(n.Part("arguments")))
		} else {
			bound(r, f, base)
		}
		r.Visit(n.Part("arguments"))
	case "member_access_expression", "element_access_expression":
		bound(r, n.Part("expression"), base)
		if id := n.Part("name"); id.OK() {
			r.MemberUse(id, facts.Read, facts.NoExpr, -1)
		}
		r.Visit(n.Part("subscript"))
	default:
		r.Visit(n)
	}
}

// creation makes a value and may set members of it by name.
func creation(r *reader.Reader, n syntax.Node) {
	t := n.Part("type")
	if t.Type() == "identifier" {
		r.Called(t, reader.Count(n.Part("arguments")))
	} else {
		r.UseType(t)
	}
	r.Visit(n.Part("arguments"))
	made := facts.NoExpr
	for c := range n.Part("initializer").NamedChildren() {
		if left := c.Part("left"); c.Type() == "assignment_expression" && left.Type() == "identifier" {
			if made == facts.NoExpr {
				made = r.Expression(n)
			}
			r.Use(left.Text(), facts.Write, left.Range(), made)
			r.Visit(c.Part("right"))
			continue
		}
		r.Visit(c)
	}
}

// argument may be one that is given back.
func argument(r *reader.Reader, n syntax.Node) {
	value := reader.Nth(-1)(n)
	switch {
	case n.Has("out"):
		r.Write(value, facts.Write)
	case n.Has("ref"):
		r.Write(value, facts.ReadWrite)
	default:
		r.Visit(value)
	}
}

// declared reads a type with the name of a new variable.
func declared(r *reader.Reader, n syntax.Node) {
	t, id := n.Part("type"), n.Part("name")
	typ := r.TypeOf(t)
	for c := range n.NamedChildren() {
		if c != t && c != id {
			r.Visit(c)
		}
	}
	r.Local(n, id, facts.Variable, typ, facts.NoExpr)
}

// invoke reads a call, which gives the functions among its arguments their values.
func invoke(r *reader.Reader, n syntax.Node) {
	f, arguments := n.Part("function"), n.Part("arguments")
	r.Called(f, reader.Count(arguments))
	r.Passing(r.Expression(f), arguments.NamedChildren(), r.Visit)
}

// invoked keeps a call with its arguments.
func invoked(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(n.Part("function")), At: n.Range()}
	if e.Base == facts.NoExpr {
		return facts.NoExpr
	}
	for a := range n.Part("arguments").NamedChildren() {
		e.Args = append(e.Args, r.Expression(reader.Nth(-1)(a)))
	}
	return r.Expr(e)
}

// lambda reads a function without a name, whose parameters are what it is given by the call that it is an argument of.
func lambda(r *reader.Reader, n syntax.Node) {
	params := n.Part("parameters")
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		switch params.Type() {
		case "implicit_parameter":
			r.Local(params, params, facts.Parameter, facts.NoExpr, r.Given(params.Range(), 0))
		default:
			number := 0
			for p := range params.NamedChildren() {
				if id := p.Part("name"); id.OK() && !p.Part("type").OK() {
					r.Local(p, id, facts.Parameter, facts.NoExpr, r.Given(p.Range(), number))
				} else {
					r.Visit(p)
				}
				number++
			}
		}
		r.Taken(func() {
			for c := range n.NamedChildren() {
				if c != params {
					r.Visit(c)
				}
			}
		})
	})
}

// given keeps a function without a name by what it gives.
func given(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.Func, At: n.Range()}
	if body := n.Part("body"); body.Type() != "block" {
		e.Args = []facts.ExprID{r.Expression(body)}
	}
	return r.Expr(e)
}

// from names what a query goes through.
func from(r *reader.Reader, n syntax.Node) {
	id := n.Part("name")
	if !id.OK() {
		id = n.First("identifier")
	}
	t := n.Part("type")
	typ := r.TypeOf(t)
	init := facts.NoExpr
	for c := range n.NamedChildren() {
		if c != id && c != t {
			r.Visit(c)
			if init == facts.NoExpr && n.Type() == "from_clause" {
				init = r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(c), At: c.Range()})
			}
		}
	}
	r.Local(n, id, facts.Variable, typ, init)
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		over := n.Part("right")
		r.Visit(over)
		t := r.TypeOf(n.Part("type"))
		init := facts.NoExpr
		if t == facts.NoExpr {
			init = r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(over), At: over.Range()})
		}
		if left := n.Part("left"); left.Type() == "identifier" {
			r.Local(left, left, facts.Variable, t, init)
		} else {
			r.Visit(left)
		}
		r.Visit(n.Part("body"))
	})
}
