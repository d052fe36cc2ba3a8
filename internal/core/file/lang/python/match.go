package python

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// matched reads a match statement: in each of its cases the subject is of the class that the case names.
func matched(r *reader.Reader, n syntax.Node) {
	subject := n.Part("subject")
	for c := range n.Part("body").NamedChildren() {
		if c.Type() != "case_clause" {
			continue
		}
		r.Branch(facts.Branch{At: c.Range(), Whole: n.Range(), Leaves: leaves(c.Part("consequence"))})
		pattern := c.First("case_pattern")
		if as := pattern.First("as_pattern"); as.OK() {
			pattern = as.First("case_pattern")
		}
		if class := pattern.First("class_pattern").First("dotted_name"); class.OK() && pathOf(subject) != "" {
			r.Holds(c.Range(), []facts.Narrowing{{Of: pathOf(subject), Is: []facts.ExprID{chain(r, class)}}})
		}
	}
	r.All(n)
}

// captured reads a pattern of a case: single names in it are defined, names with dots and those of classes are used.
func captured(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		capture(r, c, binding{})
	}
}

func capture(r *reader.Reader, n syntax.Node, b binding) {
	switch n.Type() {
	case "identifier":
		if n.Text() != "_" {
			target(r, n, b)
		}
	case "dotted_name":
		if id := firstChild(n); n.Text() == id.Text() {
			capture(r, id, b)
		} else {
			used(r, n)
		}
	case "class_pattern":
		class := n.First("dotted_name")
		used(r, class)
		for c := range n.NamedChildren() {
			if c.Index() != class.Index() {
				capture(r, c, binding{})
			}
		}
	case "keyword_pattern": // the name in front is that of a member
		first := firstChild(n)
		for c := range n.NamedChildren() {
			if c.Index() != first.Index() {
				capture(r, c, binding{})
			}
		}
	case "as_pattern":
		b := binding{}
		if class := n.First("case_pattern").First("class_pattern").First("dotted_name"); class.OK() {
			b.taken = r.Expr(facts.Expr{Kind: facts.Value, Base: chain(r, class), At: class.Range()})
		}
		for c := range n.NamedChildren() {
			capture(r, c, b)
		}
	case "case_pattern", "union_pattern", "list_pattern", "tuple_pattern", "dict_pattern", "splat_pattern":
		for c := range n.NamedChildren() {
			capture(r, c, binding{})
		}
	default:
		r.Visit(n)
	}
}

// used notes the names of a path.
func used(r *reader.Reader, path syntax.Node) {
	base := facts.NoExpr
	for id := range path.NamedChildren() {
		r.Use(id.Text(), facts.Read, id.Range(), base)
		base = link(r, id, base)
	}
}

// chain is what a path of names means.
func chain(r *reader.Reader, path syntax.Node) facts.ExprID {
	base := facts.NoExpr
	for id := range path.NamedChildren() {
		base = link(r, id, base)
	}
	return base
}

func link(r *reader.Reader, id syntax.Node, base facts.ExprID) facts.ExprID {
	kind := facts.Name
	if base != facts.NoExpr {
		kind = facts.Member
	}
	return r.Expr(facts.Expr{Kind: kind, Name: id.Text(), Base: base, Scope: r.Scope(), At: id.Range()})
}
