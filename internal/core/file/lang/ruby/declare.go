package ruby

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// class opens a class or a module, whose name may stand behind others.
func class(r *reader.Reader, n syntax.Node, kind facts.Kind) {
	id, body := n.Part("name"), n.Part("body")
	for c := range n.Children() { // a comment may take the field of the name
		if k := c.Type(); k == "constant" || k == "scope_resolution" {
			id = c
			break
		}
	}
	if id.Type() == "scope_resolution" {
		r.UseType(id.Part("scope"))
		id = id.Part("name")
	}
	d := r.Begin(n, id, body, kind)
	d.Head.End = id.Range().End
	super := first(n.Part("superclass"))
	if super.OK() {
		d.Head.End = super.Range().End
	}
	c := r.Def(d)
	if super.OK() {
		if e := r.TypeOf(super); e != facts.NoExpr {
			r.At(c).Supers = append(r.At(c).Supers, e)
		}
	}
	r.Enter(c, facts.TypeScope, n, func() { r.All(body) })
}

func method(r *reader.Reader, n syntax.Node) {
	id, params, body := n.Part("name"), n.Part("parameters"), n.Part("body")
	kind := facts.Function
	if r.InType() {
		kind = facts.Method
	}
	if kind == facts.Method && id.Text() == "initialize" {
		kind = facts.Constructor
	}
	d := r.Begin(n, id, body, kind)
	d.Head.End = id.Range().End
	if params.OK() {
		d.Head.End = params.Range().End
	}
	d.Static = n.Type() == "singleton_method"
	d.Parameters = 1
	for p := range params.NamedChildren() {
		switch p.Type() {
		case "identifier", "destructured_parameter":
			d.Parameters++
		case "block_parameter":
		default:
			d.Parameters++
			d.Variadic = true
		}
	}
	if d.Variadic { // those that may be left out do not count
		d.Parameters = max(d.Parameters, 2)
	}
	r.Visit(n.Part("object"))
	m := r.Def(d)
	r.Enter(m, facts.FunctionScope, n, func() {
		parameters(r, params)
		r.Visit(body)
	})
}

func parameters(r *reader.Reader, list syntax.Node) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "identifier":
			r.Local(p, p, facts.Parameter, facts.NoExpr, facts.NoExpr)
		case "destructured_parameter":
			parameters(r, p)
		default:
			value := p.Part("value")
			r.Visit(value)
			r.Local(p, p.Part("name"), facts.Parameter, facts.NoExpr, r.Expression(value))
		}
	}
}

// alias gives a method another name.
func alias(r *reader.Reader, n syntax.Node) {
	id, old := n.Part("name"), n.Part("alias")
	if id.Type() == "identifier" {
		r.Def(r.Begin(n, id, syntax.Node{}, facts.Method))
	}
	if old.Type() == "identifier" {
		r.Use(old.Text(), facts.Read, old.Range(), facts.NoExpr)
	}
}

// block reads a block or a lambda, which sees what is around it.
func block(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		params := n.Part("parameters")
		parameters(r, params)
		for c := range n.NamedChildren() {
			if c != params {
				r.Visit(c)
			}
		}
	})
}

func forEach(r *reader.Reader, n syntax.Node) {
	over, id := n.Part("value"), n.Part("pattern")
	r.Visit(over)
	if e := r.Expression(first(over)); e != facts.NoExpr && id.Type() == "identifier" {
		bind(r, id, id, facts.Write, r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: over.Range()}))
	} else {
		r.Write(id, facts.Write)
	}
	r.Visit(n.Part("body"))
}

func asPattern(r *reader.Reader, n syntax.Node) {
	r.Visit(n.Part("value"))
	r.Write(n.Part("name"), facts.Write)
}

// keywordPattern takes the value of a key apart, or gives it the key's name.
func keywordPattern(r *reader.Reader, n syntax.Node) {
	if v := n.Part("value"); v.OK() {
		r.Visit(v)
		return
	}
	r.Write(n.Part("key"), facts.Write)
}
