package java

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// firstKnown is the first of the types in a node of which something is known; the word
// super stands in front of one.
func firstKnown(r *reader.Reader, n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		if c.Type() == "super" {
			continue
		}
		if t := r.Expression(c); t != facts.NoExpr {
			return t
		}
	}
	return facts.NoExpr
}

// scoped keeps a name behind what it is in.
func scoped(r *reader.Reader, n syntax.Node) facts.ExprID {
	front, last := reader.Nth(0)(n), reader.Nth(-1)(n)
	if front == last {
		return facts.NoExpr
	}
	return r.Expr(facts.Expr{Kind: facts.Member, Name: last.Text(), Base: r.Expression(front), At: last.Range()})
}

// dotted notes the names of a type, each in what stands in front of it.
func dotted(r *reader.Reader, n syntax.Node) {
	var before syntax.Node
	for c := range n.NamedChildren() {
		if before.OK() {
			r.Use(c.Text(), facts.TypeUse, c.Range(), r.Expression(before))
		} else {
			r.UseType(c)
		}
		before = c
	}
}

// invocation reads a call. A function without a name among the arguments gets what
// the callee gives it for its parameters.
func invocation(r *reader.Reader, n syntax.Node) {
	object, id := n.Part("object"), n.Part("name")
	base := facts.NoExpr
	if object.OK() {
		r.Visit(object)
		base = r.Expression(object)
	}
	r.UseType(n.First("type_arguments"))
	called := facts.NoExpr
	var before []facts.ExprID
	for a := range n.Part("arguments").NamedChildren() {
		switch a.Type() {
		case "line_comment", "block_comment":
			continue
		case "lambda_expression":
			if called == facts.NoExpr {
				called = callee(r, n)
			}
			lambda(r, a, called, before)
		default:
			r.Visit(a)
		}
		before = append(before[:len(before):len(before)], r.Expression(a))
	}
	r.CallWith(id.Text(), id.Range(), base, r.Expression(n))
}

// callee keeps what a call calls.
func callee(r *reader.Reader, n syntax.Node) facts.ExprID {
	base := facts.NoExpr
	if object := n.Part("object"); object.OK() {
		id := n.Part("name")
		return r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(object), At: id.Range()})
	}
	return r.Behind(n.Part("name"), base)
}

// called keeps a call with its arguments, which decide what is called.
func called(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.CallOf, Base: callee(r, n), At: n.Range()}
	e.Args = arguments(r, n)
	return r.Expr(e)
}

// created keeps a value of a type with what it is made of.
func created(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.Value, Base: r.Expression(n.Part("type")), At: n.Range()}
	e.Args = arguments(r, n)
	return r.Expr(e)
}

// arguments keeps those of a call.
func arguments(r *reader.Reader, n syntax.Node) (args []facts.ExprID) {
	for a := range n.Part("arguments").NamedChildren() {
		if t := a.Type(); t != "line_comment" && t != "block_comment" {
			args = append(args, r.Expression(a))
		}
	}
	return args
}

func creation(r *reader.Reader, n syntax.Node) {
	t := n.Part("type")
	for c := range n.NamedChildren() { // outer.new Inner()
		if c.Range().End <= t.Range().Start && c.Type() != "type_arguments" {
			r.Visit(c)
		}
	}
	r.All(n.Part("arguments"))
	makes(r, t, n)
	if body := n.First("class_body"); body.OK() {
		anonymous(r, r.Expression(t), body)
	}
}

// makes notes the use of the type of which a value is made.
func makes(r *reader.Reader, t, whole syntax.Node) {
	switch t.Type() {
	case "type_identifier":
		r.CallWith(t.Text(), t.Range(), facts.NoExpr, r.Expression(whole))
	case "generic_type":
		for c := range t.NamedChildren() {
			if c.Type() == "type_arguments" {
				r.UseType(c)
			} else {
				makes(r, c, whole)
			}
		}
	case "scoped_type_identifier":
		var before syntax.Node
		for c := range t.NamedChildren() {
			if c.Range().End == t.Range().End && before.OK() {
				r.CallWith(c.Text(), c.Range(), r.Expression(before), r.Expression(whole))
			} else {
				r.UseType(c)
			}
			before = c
		}
	default:
		r.UseType(t)
	}
}

func instanceOf(r *reader.Reader, n syntax.Node) {
	typ := n.Part("right")
	r.Visit(n.Part("left"))
	r.UseType(typ)
	if id := n.Part("name"); id.OK() {
		variable(r, id, id, r.Expression(typ), facts.NoExpr, facts.Variable)
	}
	r.All(n.First("record_pattern", "type_pattern"))
}

// pattern reads a type with a name behind it.
func pattern(r *reader.Reader, n syntax.Node) {
	var t syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "identifier" {
			variable(r, c, c, r.Expression(t), facts.NoExpr, facts.Variable)
			continue
		}
		t = c
		r.Visit(c)
	}
}

func methodReference(r *reader.Reader, n syntax.Node) {
	object := reader.Nth(0)(n)
	r.Visit(object)
	for _, id := range reader.Named(n, "identifier") {
		if id != object {
			r.Use(id.Text(), facts.Call, id.Range(), r.Expression(object))
		}
	}
}

// referred keeps a method reference as a function, with what calling it gives.
func referred(r *reader.Reader, n syntax.Node) facts.ExprID {
	e, object := facts.Expr{Kind: facts.Func, At: n.Range()}, reader.Nth(0)(n)
	method := reader.Nth(-1)(n)
	switch {
	case method != object && method.Type() == "identifier":
		callee := r.Expr(facts.Expr{Kind: facts.Member, Name: method.Text(), Base: r.Expression(object), At: method.Range()})
		e.Args = []facts.ExprID{r.Expr(facts.Expr{Kind: facts.CallOf, Base: callee, At: n.Range()})}
	case n.Has("new"):
		e.Args = []facts.ExprID{r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(object), At: n.Range()})}
	}
	return r.Expr(e)
}

// annotation reads one, and what it is given by the names of its elements.
func annotation(r *reader.Reader, n syntax.Node) {
	r.UseType(n.Part("name"))
	for c := range n.Part("arguments").NamedChildren() {
		if key := c.Part("key"); c.Type() == "element_value_pair" && key.OK() {
			r.Use(key.Text(), facts.Write, key.Range(), r.Expression(n.Part("name")))
		}
		r.Visit(c)
	}
}

// lambda reads a function without a name, which given is called with: the
// parameters get what that gives to its argument behind those before. given may
// be none.
func lambda(r *reader.Reader, n syntax.Node, given facts.ExprID, before []facts.ExprID) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		gets := func(id syntax.Node, part int) {
			init := facts.NoExpr
			if given != facts.NoExpr && len(before) <= 255 && part <= 255 {
				init = r.Expr(facts.Expr{Kind: facts.Given, Base: given, Args: before, Arg: uint8(len(before)), Part: uint8(part)})
			}
			variable(r, id, id, facts.NoExpr, init, facts.Parameter)
		}
		switch p := n.Part("parameters"); p.Type() {
		case "identifier":
			gets(p, 0)
		case "inferred_parameters":
			part := 0
			for id := range p.NamedChildren() {
				gets(id, part)
				part++
			}
		default:
			parameters(r, p)
		}
		body := n.Part("body")
		r.Visit(body)
		if results := stateOf(r).results; body.Type() == "block" {
			results[n.Index()] = returned(r, body)
		} else {
			results[n.Index()] = r.Expression(body)
		}
	})
}

// returned is what the first return statement of a body gives back.
func returned(r *reader.Reader, n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		e := facts.NoExpr
		switch c.Type() {
		case "return_statement":
			e = r.Kept(reader.Nth(0)(c))
		case "lambda_expression", "class_body":
		default:
			e = returned(r, c)
		}
		if e != facts.NoExpr {
			return e
		}
	}
	return facts.NoExpr
}

// function keeps a lambda: how many parameters it has, and what it gives back.
func function(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.Func, At: n.Range()}
	if p := n.Part("parameters"); p.Type() == "identifier" {
		e.Part = 1
	} else {
		for range p.NamedChildren() {
			e.Part++
		}
	}
	if result := stateOf(r).results[n.Index()]; result != facts.NoExpr {
		e.Args = []facts.ExprID{result}
	}
	return r.Expr(e)
}

// newArray keeps an array of as many dimensions as are written.
func newArray(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.ListOf, Base: r.Expression(n.Part("type")), At: n.Range()}
	dimensions := 0
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "dimensions_expr":
			dimensions++
		case "dimensions":
			dimensions += strings.Count(c.Text(), "[")
		}
	}
	for range max(0, dimensions-1) {
		e.Base = r.Expr(facts.Expr{Kind: facts.ListOf, Base: e.Base, At: n.Range()})
	}
	return r.Expr(e)
}

// unary keeps what an operator in front of a value gives.
func unary(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Has("!") {
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: "boolean", At: n.Range()})
	}
	return reader.First(r, n)
}

// binary keeps what an operator gives: text as soon as one side is text, the
// larger of two numbers, or whether something is so.
func binary(r *reader.Reader, n syntax.Node) facts.ExprID {
	for _, op := range []string{"==", "!=", "<", ">", "<=", ">=", "&&", "||"} {
		if n.Has(op) {
			return r.Expr(facts.Expr{Kind: facts.Literal, Name: "boolean", At: n.Range()})
		}
	}
	left, right := r.Expression(n.Part("left")), r.Expression(n.Part("right"))
	if n.Has("<<") || n.Has(">>") || n.Has(">>>") {
		return left
	}
	return r.Expr(facts.Expr{Kind: facts.Joined, Args: []facts.ExprID{left, right}, At: n.Range()})
}

// either keeps one of the two values behind a condition.
func either(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.OneOf, At: n.Range()}
	i := 0
	for c := range n.NamedChildren() {
		if i > 0 && c.Type() != "null_literal" {
			e.Args = append(e.Args, r.Expression(c))
		}
		i++
	}
	return r.Expr(e)
}

// number is one of the first type, or of the second with a letter behind it.
func number(plain, marked string, mark byte) reader.Rule {
	return reader.Rule{Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID {
		name := plain
		if t := n.Text(); t[len(t)-1]|0x20 == mark {
			name = marked
		}
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: n.Range()})
	}}
}
