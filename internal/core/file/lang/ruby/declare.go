package ruby

import (
	"strings"

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
	container := ""
	if id.Type() == "scope_resolution" {
		scope := id.Part("scope")
		r.UseType(scope)
		container = scope.Text()[strings.LastIndexByte(scope.Text(), ':')+1:]
		id = id.Part("name")
	}
	d := r.Begin(n, id, body, kind)
	d.Head.End = id.Range().End
	super := first(n.Part("superclass"))
	if super.OK() {
		d.Head.End = super.Range().End
	}
	c := r.Def(d)
	if container != "" {
		r.At(c).Container = container
	}
	if super.OK() {
		if e := r.TypeOf(super); e != facts.NoExpr {
			r.At(c).Supers = append(r.At(c).Supers, e)
		}
	}
	r.Enter(c, facts.TypeScope, n, func() { r.All(body) })
	withoutVariables(r, c)
}

// withoutVariables takes back what is said of properties of which the variable is never given a value.
func withoutVariables(r *reader.Reader, class facts.DefID) {
	for id := class + 1; int(id) < len(r.Facts().Defs); id++ {
		if p := r.At(id); p.Kind == facts.Property && p.Parent == class && r.Defined(p.Scope, "@"+p.Name) == facts.NoDef {
			p.Init = facts.NoExpr
		}
	}
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
	d.Abstract = kind == facts.Method && onlyRaises(body)
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
		if r.At(m).Kind != facts.Constructor {
			r.At(m).Init = given(r, body)
		}
	})
}

// onlyRaises says whether a method does nothing but say that it is not there.
func onlyRaises(body syntax.Node) bool {
	raises := false
	for c := range body.NamedChildren() {
		if c.Type() == "comment" {
			continue
		}
		if text := c.Text(); raises || !strings.HasPrefix(text, "raise NotImplementedError") && !strings.HasPrefix(text, "fail NotImplementedError") {
			return false
		}
		raises = true
	}
	return raises
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
func block(r *reader.Reader, n syntax.Node) { blockGiven(r, n, syntax.Node{}) }

// blockGiven reads a block that is given to a call, which gives its parameters their values.
func blockGiven(r *reader.Reader, n, call syntax.Node) {
	callee := facts.NoExpr
	if id := call.Part("method"); id.OK() && call.Part("receiver").OK() {
		callee = r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(call.Part("receiver")), At: id.Range()})
	}
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		params := n.Part("parameters")
		number := 0
		for p := range params.NamedChildren() {
			if p.Type() != "identifier" {
				parameters(r, params)
				break
			}
			init := facts.NoExpr
			if callee != facts.NoExpr {
				init = r.Expr(facts.Expr{Kind: facts.Given, Base: callee, Part: uint8(min(number, 255)), At: p.Range()})
			}
			r.Local(p, p, facts.Parameter, facts.NoExpr, init)
			number++
		}
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
