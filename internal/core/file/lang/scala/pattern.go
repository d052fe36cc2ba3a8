package scala

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// bind defines the names of a pattern that is compared with a value.
func bind(r *reader.Reader, n syntax.Node, kind facts.Kind, value facts.ExprID) {
	switch n.Type() {
	case "identifier":
		if capital(n.Text()) {
			r.Visit(n)
			return
		}
		local(r, n, n, kind, facts.NoExpr, value)
	case "typed_pattern":
		t := r.TypeOf(n.Part("type"))
		if id := n.Part("pattern"); id.Type() == "identifier" {
			local(r, n, id, kind, t, facts.NoExpr)
		}
	case "capture_pattern":
		local(r, n, n.Part("name"), kind, taken(r, n.Part("pattern")), value)
		bind(r, n.Part("pattern"), kind, value)
	case "case_class_pattern":
		t := n.Part("type")
		r.UseType(t)
		i := 0
		for c := range n.NamedChildren() {
			if c != t {
				bind(r, c, kind, facts.NoExpr)
				i++
			}
		}
	case "tuple_pattern":
		bindAll(r, n, kind)
	case "infix_pattern":
		bind(r, n.Part("left"), kind, facts.NoExpr)
		bind(r, n.Part("right"), kind, facts.NoExpr)
	case "alternative_pattern", "parenthesized_pattern", "given_pattern", "identifiers":
		for c := range n.NamedChildren() {
			bind(r, c, kind, value)
		}
	default:
		r.Visit(n)
	}
}

func bindAll(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	for c := range n.NamedChildren() {
		bind(r, c, kind, facts.NoExpr)
	}
}

// taken is the type that a pattern says its value is of.
func taken(r *reader.Reader, pattern syntax.Node) facts.ExprID {
	if t := pattern.Part("type"); t.OK() {
		return r.Expression(t)
	}
	return facts.NoExpr
}

// local defines a name of a pattern, which in a type is one of its values.
func local(r *reader.Reader, whole, id syntax.Node, kind facts.Kind, t, init facts.ExprID) {
	if kind == facts.Property {
		r.Def(property(r, whole, id, t, init))
		return
	}
	r.Local(whole, id, kind, t, init)
}

func match(r *reader.Reader, n syntax.Node) {
	v := n.Part("value")
	r.Visit(v)
	of := r.Expression(v)
	for c := range n.Part("body").NamedChildren() {
		caseClause(r, c, of)
	}
}

// cases are a function that takes its parameter apart.
func cases(r *reader.Reader, n syntax.Node) {
	of := r.Given(n.Range(), 0)
	r.Taken(func() {
		for c := range n.NamedChildren() {
			caseClause(r, c, of)
		}
	})
}

func caseClause(r *reader.Reader, n syntax.Node, of facts.ExprID) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		pattern := n.Part("pattern")
		bind(r, pattern, facts.Variable, of)
		for c := range n.NamedChildren() {
			if c != pattern {
				r.Visit(c)
			}
		}
	})
}

func lambda(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		parameters := n.Part("parameters")
		i := 0
		take := func(whole, id syntax.Node, t facts.ExprID) {
			init := facts.NoExpr
			if t == facts.NoExpr {
				init = r.Given(id.Range(), i)
			}
			r.Local(whole, id, facts.Parameter, t, init)
			i++
		}
		if parameters.Type() == "identifier" {
			take(parameters, parameters, facts.NoExpr)
		}
		for p := range parameters.NamedChildren() {
			if id := p.Part("name"); id.OK() {
				take(p, id, r.TypeOf(p.Part("type")))
			} else if p.Type() == "identifier" {
				take(p, p, facts.NoExpr)
			}
		}
		r.Taken(func() {
			for c := range n.NamedChildren() {
				if c != parameters {
					r.Visit(c)
				}
			}
		})
	})
}

// forEach reads what values are taken from, in turn, and then what is done with
// them.
func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		steps := n.First("enumerators")
		for e := range steps.NamedChildren() {
			enumerator(r, e)
		}
		for c := range n.NamedChildren() {
			if c != steps {
				r.Visit(c)
			}
		}
	})
}

func enumerator(r *reader.Reader, n syntax.Node) {
	if n.Type() != "enumerator" {
		r.Visit(n)
		return
	}
	var pattern, value syntax.Node
	var guards []syntax.Node
	for c := range n.NamedChildren() {
		switch {
		case !pattern.OK() && c.Type() != "guard":
			pattern = c
		case c.Type() == "guard":
			guards = append(guards, c)
		default:
			value = c
		}
	}
	if !value.OK() {
		pattern, value = syntax.Node{}, pattern
	}
	r.Visit(value)
	of := r.Expression(value)
	if of != facts.NoExpr && !n.Has("=") {
		of = r.Expr(facts.Expr{Kind: facts.Each, Base: of, At: value.Range()})
	}
	if pattern.OK() {
		bind(r, pattern, facts.Variable, of)
	}
	for _, g := range guards {
		r.Visit(g)
	}
}
