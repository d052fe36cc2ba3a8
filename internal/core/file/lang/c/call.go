package c

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// textType is what the type of a text between quotes is called here.
const textType = "char*"

// numberType keeps the type of a number by how it is written.
func numberType(r *reader.Reader, n syntax.Node) facts.ExprID {
	text := strings.ToLower(n.Text())
	name := "int"
	switch hex := strings.HasPrefix(text, "0x"); {
	case !hex && strings.HasSuffix(text, "f"):
		name = "float"
	case !hex && strings.ContainsAny(text, ".e"):
		name = "double"
	case strings.HasSuffix(text, "l"):
		name = "long"
	}
	return r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: n.Range()})
}

// typeOfValue keeps the type that a value has.
func typeOfValue(r *reader.Reader, n syntax.Node) facts.ExprID {
	of := r.Expression(reader.Nth(0)(n))
	if of == facts.NoExpr {
		return of
	}
	return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: of, At: n.Range()})
}

// call is a call, with its arguments where these decide what is called.
func call() reader.Rule {
	plain := reader.Invocation(part("function"), part("arguments"))
	rule := plain
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		if r.Facts().Language != plusName {
			plain.Visit(r, n)
			return
		}
		f := n.Part("function")
		before := len(r.Facts().Uses)
		r.Called(f, reader.Count(n.Part("arguments")))
		// What is called is noted last, but for the arguments that it has as a template.
		for i := len(r.Facts().Uses) - 1; i >= before; i-- {
			if u := &r.Facts().Uses[i]; u.Role == facts.Call && reader.Count(n.Part("arguments")) > 0 {
				u.Call = r.Expression(n)
				break
			}
		}
		for c := range n.NamedChildren() {
			if c != f {
				r.Visit(c)
			}
		}
	}
	rule.Expr = func(r *reader.Reader, n syntax.Node) facts.ExprID {
		if r.Facts().Language != plusName {
			return plain.Expr(r, n)
		}
		f := r.Expression(n.Part("function"))
		if f == facts.NoExpr {
			return f
		}
		e := facts.Expr{Kind: facts.CallOf, Base: f, At: n.Range()}
		for a := range n.Part("arguments").NamedChildren() {
			if a.Type() != "comment" {
				e.Args = append(e.Args, r.Expression(a))
			}
		}
		return r.Expr(e)
	}
	return rule
}

// parameterTypes keeps those of a function, as far as they can decide which of several is called.
func parameterTypes(r *reader.Reader, list syntax.Node) (all []facts.ExprID) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "parameter_declaration", "optional_parameter_declaration":
			what := declarator(r, p.Part("declarator"))
			what.star = what.star || isPointer(p.Part("declarator"))
			e := typeOf(r, p, what)
			all = append(all, e)
		case "variadic_parameter_declaration":
			all = append(all, facts.NoExpr)
		}
	}
	return all
}

func isPointer(n syntax.Node) bool {
	for n.OK() {
		if strings.Contains(n.Type(), "pointer_declarator") || strings.Contains(n.Type(), "array_declarator") {
			return true
		}
		if n.Type() != "reference_declarator" && n.Type() != "abstract_reference_declarator" {
			return false
		}
		n = reader.Nth(0)(n)
	}
	return false
}
