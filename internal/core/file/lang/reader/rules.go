package reader

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
)

// Name is a node that is a name and stands for a value, or, where a type
// belongs, for a type.
func Name() Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) { r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr) },
		Write: func(r *Reader, n syntax.Node, role facts.Role) { r.Use(n.Text(), role, n.Range(), facts.NoExpr) },
		Call: func(r *Reader, n syntax.Node, arguments int) {
			r.Builder.Call(n.Text(), n.Range(), facts.NoExpr, arguments)
		},
		Type: func(r *Reader, n syntax.Node) { r.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr) },
		Expr: (*Reader).NameOf,
	}
}

// TypeName is a node that is the name of a type wherever it stands.
func TypeName() Rule {
	rule := Name()
	rule.Visit = rule.Type
	return rule
}

// Self is a node that stands for the value or the type around it.
func Self() Rule {
	return Rule{Visit: func(*Reader, syntax.Node) {}, Type: func(*Reader, syntax.Node) {}, Expr: (*Reader).NameOf}
}

// Pick chooses one of the nodes below a node; no node if it is not there.
type Pick func(syntax.Node) syntax.Node

// Part picks the node in the field of that name.
func Part(field string) Pick { return func(n syntax.Node) syntax.Node { return n.Part(field) } }

// Nth picks the named child of that number, counted from 0; a negative one is
// counted from the end, -1 being the last.
func Nth(number int) Pick {
	return func(n syntax.Node) syntax.Node {
		if number < 0 {
			number := number
			for range n.NamedChildren() {
				number++
			}
			return Nth(max(number, 0))(n)
		}
		i := 0
		for c := range n.NamedChildren() {
			if i == number {
				return c
			}
			i++
		}
		return syntax.Node{}
	}
}

// Kind picks the first of the nodes in a node that is of a type.
func Kind(of string) Pick { return func(n syntax.Node) syntax.Node { return n.First(of) } }

// First keeps what is known of the first of the nodes in a node.
func First(r *Reader, n syntax.Node) facts.ExprID { return r.Expression(Nth(0)(n)) }

// Member is a node that is a member of a value or a type: an object in front,
// and a name.
func Member(object, name Pick) Rule {
	use := func(r *Reader, n syntax.Node, role facts.Role, arguments int) {
		o, id := object(n), name(n)
		if !o.OK() {
			o = syntax.Node{}
		}
		r.Visit(o)
		if !id.OK() {
			return
		}
		if r.rule(id).Call == nil || !Plain(id) { // it is worked out
			r.Visit(id)
			return
		}
		r.MemberUse(id, role, r.Expression(o), arguments)
	}
	return Rule{
		Visit: func(r *Reader, n syntax.Node) { use(r, n, facts.Read, -1) },
		Write: func(r *Reader, n syntax.Node, role facts.Role) { use(r, n, role, -1) },
		Call:  func(r *Reader, n syntax.Node, arguments int) { use(r, n, facts.Call, arguments) },
		Type: func(r *Reader, n syntax.Node) {
			o, id := object(n), name(n)
			r.UseType(o)
			if Plain(id) {
				r.MemberUse(id, facts.TypeUse, r.Expression(o), -1)
			} else {
				r.UseType(id)
			}
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID {
			id := name(n)
			if !Plain(id) {
				return r.Expression(id)
			}
			o := object(n)
			if !o.OK() {
				return r.NameOf(id)
			}
			return r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(o), At: id.Range()})
		},
	}
}

// Plain says whether a node is a bare word, not something put together.
func Plain(n syntax.Node) bool {
	for range n.NamedChildren() {
		return false
	}
	return n.OK()
}

// MemberUse notes the use of a member of base; arguments is negative if it is
// not called.
func (r *Reader) MemberUse(id syntax.Node, role facts.Role, base facts.ExprID, arguments int) {
	if role == facts.Call && arguments >= 0 {
		r.Builder.Call(id.Text(), id.Range(), base, arguments)
		return
	}
	r.Use(id.Text(), role, id.Range(), base)
}

// Invocation is a node that calls what is in front of the arguments.
func Invocation(function, arguments Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) {
			f, a := function(n), arguments(n)
			r.Called(f, Count(a))
			for c := range n.NamedChildren() {
				if c != f {
					r.Visit(c)
				}
			}
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID {
			if f := r.Expression(function(n)); f != facts.NoExpr {
				return r.Expr(facts.Expr{Kind: facts.CallOf, Base: f, At: n.Range()})
			}
			return facts.NoExpr
		},
	}
}

// Count is how many arguments a list of them has.
func Count(list syntax.Node) int {
	n := 0
	for c := range list.NamedChildren() {
		switch c.Type() {
		case "comment", "line_comment", "block_comment", "multiline_comment", "annotated_lambda":
		default:
			n++
		}
	}
	return n
}

// Creation is a node that makes a value of a type.
func Creation(typ Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) {
			t := typ(n)
			arguments := -1
			for c := range n.NamedChildren() {
				if k := c.Type(); k == "argument_list" || k == "arguments" {
					arguments = Count(c)
				}
			}
			switch {
			case Plain(t) && r.rule(t).Call != nil:
				r.Called(t, arguments)
			default:
				r.UseType(t)
			}
			for c := range n.NamedChildren() {
				if c != t {
					r.Visit(c)
				}
			}
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID {
			return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(typ(n)), At: n.Range()})
		},
	}
}

// Assignment is a node that gives a value to what stands on its left. With any
// sign but =, what stands there is read as well.
func Assignment(left, right Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) {
			l := left(n)
			role := facts.Write
			if !n.Has("=") {
				role = facts.ReadWrite
			}
			r.Visit(right(n))
			r.Write(l, role)
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID { return r.Expression(right(n)) },
	}
}

// Update is a node that reads and changes what stands in it, such as i++; the
// other signs of the same type of node only read.
func Update(argument Pick, signs ...string) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) {
			if len(signs) == 0 || n.First(signs...).OK() {
				r.Write(argument(n), facts.ReadWrite)
				return
			}
			r.All(n)
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID { return r.Expression(argument(n)) },
	}
}

// Same is a node whose value is that of a node in it, such as one in
// parentheses.
func Same(inner Pick) Rule {
	return Rule{
		Write: func(r *Reader, n syntax.Node, role facts.Role) {
			in := inner(n)
			r.Write(in, role)
			for c := range n.NamedChildren() {
				if c != in {
					r.Visit(c)
				}
			}
		},
		Call: func(r *Reader, n syntax.Node, arguments int) { r.Called(inner(n), arguments) },
		Expr: func(r *Reader, n syntax.Node) facts.ExprID { return r.Expression(inner(n)) },
	}
}

// Element is a node that is one of the elements of what it begins with. To give the element a value is to read and to write
// that.
func Element(list Pick) Rule {
	return Rule{Write: func(r *Reader, n syntax.Node, _ facts.Role) {
		of := list(n)
		r.Write(of, facts.ReadWrite)
		for c := range n.NamedChildren() {
			if c != of {
				r.Visit(c)
			}
		}
	}, Expr: func(r *Reader, n syntax.Node) facts.ExprID {
		return r.Expr(facts.Expr{Kind: facts.Index, Base: r.Expression(list(n)), At: n.Range()})
	}}
}

// Cast is a node that makes a value one of another type.
func Cast(typ, value Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) {
			r.UseType(typ(n))
			r.Visit(value(n))
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID {
			return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(typ(n)), At: n.Range()})
		},
	}
}

// ListOf is a type of many values of another one.
func ListOf(element Pick) Rule {
	return Rule{Expr: func(r *Reader, n syntax.Node) facts.ExprID {
		return r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expression(element(n)), At: n.Range()})
	}}
}

// Generic is a type with type arguments. A name in front of them stands for a
// type.
func Generic(base, arguments Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) { r.UseType(n) },
		Call: func(r *Reader, n syntax.Node, count int) {
			r.Called(base(n), count)
			r.UseType(arguments(n))
		},
		Expr: func(r *Reader, n syntax.Node) facts.ExprID {
			e := facts.Expr{Kind: facts.GenericOf, Base: r.Expression(base(n)), At: n.Range()}
			for a := range arguments(n).NamedChildren() {
				e.Args = append(e.Args, r.Expression(a))
			}
			return r.Expr(e)
		},
	}
}

// Literal is a node that is a value of a type of the language itself.
func Literal(name string) Rule {
	return Rule{Expr: func(r *Reader, n syntax.Node) facts.ExprID {
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: n.Range()})
	}}
}

// BuiltIn is a node that is a type of the language itself.
func BuiltIn() Rule {
	return Rule{Visit: func(*Reader, syntax.Node) {}, Type: func(*Reader, syntax.Node) {}, Expr: func(r *Reader, n syntax.Node) facts.ExprID {
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: n.Text(), At: n.Range()})
	}}
}

// Type is a node that stands for a type wherever it is, by what is in it.
func Type(inner Pick) Rule {
	return Rule{
		Visit: func(r *Reader, n syntax.Node) { r.UseType(n) },
		Expr:  func(r *Reader, n syntax.Node) facts.ExprID { return r.Expression(inner(n)) },
	}
}

// Do is a node that a language reads in its own way.
func Do(visit func(r *Reader, n syntax.Node)) Rule { return Rule{Visit: visit} }

// Block is a node whose inside is a scope of its own.
func Block() Rule { return Rule{Visit: (*Reader).Block} }

// Nothing is a node in which nothing is to be found.
func Nothing() Rule {
	return Rule{Visit: func(*Reader, syntax.Node) {}, Type: func(*Reader, syntax.Node) {}}
}

// Named are the children of a node that are of a type.
func Named(n syntax.Node, of string) (nodes []syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == of {
			nodes = append(nodes, c)
		}
	}
	return nodes
}

// Dotted is a type whose name is made of words, side by side in one node, with
// type arguments behind them.
func Dotted(word, arguments string) Rule {
	use := func(r *Reader, n syntax.Node) {
		base := facts.NoExpr
		for _, id := range Named(n, word) {
			r.Use(id.Text(), facts.TypeUse, id.Range(), base)
			base = r.Behind(id, base)
		}
		for _, list := range Named(n, arguments) {
			r.UseType(list)
		}
	}
	return Rule{Visit: use, Type: use, Expr: func(r *Reader, n syntax.Node) facts.ExprID {
		base := facts.NoExpr
		for _, id := range Named(n, word) {
			base = r.Behind(id, base)
		}
		list := n.First(arguments)
		if !list.OK() {
			return base
		}
		e := facts.Expr{Kind: facts.GenericOf, Base: base, At: n.Range()}
		for a := range list.NamedChildren() {
			e.Args = append(e.Args, r.Expression(a))
		}
		return r.Expr(e)
	}}
}

// Behind keeps a name, or a member of what stands in front of it if there is
// anything.
func (r *Reader) Behind(id syntax.Node, base facts.ExprID) facts.ExprID {
	e := facts.Expr{Kind: facts.Name, Name: id.Text(), At: id.Range(), Base: base}
	if base != facts.NoExpr {
		e.Kind = facts.Member
	}
	return r.Expr(e)
}
