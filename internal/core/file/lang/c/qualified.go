package c

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// step is one of the names of a path, with the arguments that it has as that of a template.
type step struct{ id, arguments syntax.Node }

// steps are the names that a path leads along, as in a::b<int>::c or in rows.front<T>.
func steps(n syntax.Node) []step {
	switch n.Type() {
	case "qualified_identifier":
		return append(steps(n.Part("scope")), steps(n.Part("name"))...)
	case "template_type", "template_function", "template_method":
		all := steps(n.Part("name"))
		if len(all) > 0 {
			all[len(all)-1].arguments = n.Part("arguments")
		}
		return all
	case "dependent_name":
		return steps(reader.Nth(0)(n))
	}
	if !n.OK() {
		return nil
	}
	return []step{{id: n}}
}

// along notes the names of a path, the last of them in a role; base is what is in front of it.
func along(r *reader.Reader, path []step, base facts.ExprID, role facts.Role, arguments int) {
	for i, s := range path {
		last := i == len(path)-1
		switch {
		case !reader.Plain(s.id):
			r.Visit(s.id)
		case !last && base == facts.NoExpr && i == 0 && role == facts.TypeUse:
			r.UseType(s.id)
		case !last && base == facts.NoExpr && i == 0:
			r.Visit(s.id)
		case !last:
			r.MemberUse(s.id, facts.Read, base, -1)
		case base == facts.NoExpr && i == 0 && role == facts.Call:
			r.Called(s.id, arguments)
		default:
			r.MemberUse(s.id, role, base, arguments)
		}
		r.UseType(s.arguments)
		base = leads(r, s, base)
	}
}

// leads keeps what a name is behind a base, or by itself if there is none.
func leads(r *reader.Reader, s step, base facts.ExprID) facts.ExprID {
	e := facts.NoExpr
	switch {
	case base != facts.NoExpr:
		e = r.Expr(facts.Expr{Kind: facts.Member, Name: s.id.Text(), Base: base, At: s.id.Range()})
	case reader.Plain(s.id):
		e = r.NameOf(s.id)
	default:
		return r.Expression(s.id)
	}
	if !s.arguments.OK() {
		return e
	}
	of := facts.Expr{Kind: facts.GenericOf, Base: e, At: s.arguments.Range()}
	for a := range s.arguments.NamedChildren() {
		of.Args = append(of.Args, r.Expression(a))
	}
	return r.Expr(of)
}

// qualified is a name behind others.
func qualified() reader.Rule {
	return reader.Rule{
		Visit: func(r *reader.Reader, n syntax.Node) { along(r, steps(n), facts.NoExpr, facts.Read, -1) },
		Write: func(r *reader.Reader, n syntax.Node, role facts.Role) { along(r, steps(n), facts.NoExpr, role, -1) },
		Call: func(r *reader.Reader, n syntax.Node, arguments int) {
			along(r, steps(n), facts.NoExpr, facts.Call, arguments)
		},
		Type: func(r *reader.Reader, n syntax.Node) { along(r, steps(n), facts.NoExpr, facts.TypeUse, -1) },
		Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID {
			base := facts.NoExpr
			for _, s := range steps(n) {
				base = leads(r, s, base)
			}
			return base
		},
	}
}

// member is a name behind a value.
func member() reader.Rule {
	use := func(r *reader.Reader, n syntax.Node, role facts.Role, arguments int) {
		value := n.Part("argument")
		r.Visit(value)
		along(r, steps(n.Part("field")), r.Expression(value), role, arguments)
	}
	return reader.Rule{
		Visit: func(r *reader.Reader, n syntax.Node) { use(r, n, facts.Read, -1) },
		Write: func(r *reader.Reader, n syntax.Node, role facts.Role) { use(r, n, role, -1) },
		Call:  func(r *reader.Reader, n syntax.Node, arguments int) { use(r, n, facts.Call, arguments) },
		Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID {
			base := r.Expression(n.Part("argument"))
			for _, s := range steps(n.Part("field")) {
				base = leads(r, s, base)
			}
			return base
		},
	}
}
