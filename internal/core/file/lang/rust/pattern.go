package rust

import (
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// bound is what a pattern takes apart.
type bound struct {
	kind    facts.Kind
	t, init facts.ExprID
	// from is where the names are known from on; 0 for where they stand.
	from uint32
}

func (b bound) define(r *reader.Reader, whole, id syntax.Node) {
	if d := r.Local(whole, id, b.kind, b.t, b.init); b.from > 0 {
		r.At(d).From = b.from
	}
}

// pattern defines the names in a pattern. A name that begins with a capital
// letter is taken for one that the value is compared with.
func pattern(r *reader.Reader, n syntax.Node, b bound) {
	inner := bound{kind: b.kind, from: b.from}
	switch n.Type() {
	case "identifier", "shorthand_field_identifier":
		if first, _ := utf8.DecodeRuneInString(n.Text()); unicode.IsUpper(first) {
			r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
			return
		}
		b.define(r, n, n)
	case "mut_pattern", "ref_pattern", "reference_pattern", "match_pattern":
		for c := range n.NamedChildren() {
			if c.FieldName() != "condition" && c.Type() != "mutable_specifier" {
				pattern(r, c, b)
			}
		}
		r.Visit(n.Part("condition"))
	case "captured_pattern":
		for c := range n.NamedChildren() {
			pattern(r, c, inner)
		}
	case "tuple_struct_pattern":
		t := n.Part("type")
		r.Visit(t)
		for c := range n.NamedChildren() {
			if c != t {
				pattern(r, c, inner)
			}
		}
	case "struct_pattern":
		t := n.Part("type")
		r.UseType(t)
		made := r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(t), At: t.Range()})
		for c := range n.NamedChildren() {
			if c.Type() != "field_pattern" {
				continue
			}
			id := c.Part("name")
			r.Use(id.Text(), facts.Read, id.Range(), made)
			if p := c.Part("pattern"); p.OK() {
				pattern(r, p, inner)
			} else {
				inner.define(r, c, id)
			}
		}
	case "tuple_pattern", "slice_pattern", "or_pattern":
		for c := range n.NamedChildren() {
			pattern(r, c, inner)
		}
	default:
		r.Visit(n)
	}
}

func let(r *reader.Reader, n syntax.Node) {
	value, t := n.Part("value"), n.Part("type")
	r.Visit(value)
	b := bound{kind: facts.Variable, t: r.TypeOf(t), from: n.Range().End}
	if b.t == facts.NoExpr {
		b.init = r.Expression(value)
	}
	pattern(r, n.Part("pattern"), b)
	r.Visit(n.Part("alternative"))
}

// condition reads an if: what its condition defines is not known in what is done otherwise.
func condition(r *reader.Reader, n syntax.Node) {
	consequence, alternative := n.Part("consequence"), n.Part("alternative")
	r.In(facts.BlockScope, place.Range{Start: n.Range().Start, End: consequence.Range().End}, facts.NoDef, func() {
		for c := range n.NamedChildren() {
			if c != alternative {
				r.Visit(c)
			}
		}
	})
	r.Visit(alternative)
}

func matchArm(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		p := n.Part("pattern")
		pattern(r, p, bound{kind: facts.Variable})
		r.Visit(n.Part("value"))
	})
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		over := n.Part("value")
		r.Visit(over)
		each := facts.NoExpr
		if e := r.Expression(over); e != facts.NoExpr {
			each = r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: over.Range()})
		}
		pattern(r, n.Part("pattern"), bound{kind: facts.Variable, init: each, from: over.Range().End})
		r.Visit(n.Part("body"))
	})
}

func parameters(r *reader.Reader, list syntax.Node) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "self_parameter", "attribute_item", "line_comment", "block_comment", "variadic_parameter":
		case "parameter":
			b := bound{kind: facts.Parameter, t: r.TypeOf(p.Part("type"))}
			pattern(r, p.Part("pattern"), b)
		default:
			pattern(r, p, bound{kind: facts.Parameter})
		}
	}
}
