package javascript

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// A value that may be of one of several types is often asked which of them it is,
// by a member that differs: in switch (issue.code), if (shape.kind === "hut"),
// result.ok && …, "error" in answer. What such a test says is kept for the part of
// the text in which it holds.

// tests notes what the conditions of a statement or an expression say about values.
func (w *walker) tests(n syntax.Node) {
	switch n.Type() {
	case "if_statement":
		condition := n.Part("condition")
		w.holds(n.Part("consequence").Range(), w.condition(condition, false))
		w.holds(n.Part("alternative").Range(), w.condition(condition, true))
		if leaves(n.Part("consequence")) && w.until > n.Range().End {
			w.holds(place.Range{Start: n.Range().End, End: w.until}, w.condition(condition, true))
		}
	case "ternary_expression":
		condition := n.Part("condition")
		w.holds(n.Part("consequence").Range(), w.condition(condition, false))
		w.holds(n.Part("alternative").Range(), w.condition(condition, true))
	case "while_statement":
		w.holds(n.Child(w.f.body).Range(), w.condition(n.Part("condition"), false))
	case "binary_expression":
		switch operator(n) {
		case "&&":
			w.holds(n.Child(w.f.right).Range(), w.condition(n.Child(w.f.left), false))
		case "||":
			w.holds(n.Child(w.f.right).Range(), w.condition(n.Child(w.f.left), true))
		}
	case "switch_statement":
		w.cases(n)
	}
}

// block reads statements that are done one after the other; a test after which one
// does not go on holds for those that follow.
func (w *walker) block(n syntax.Node) {
	was := w.until
	w.until = n.Range().End
	w.all(n)
	w.until = was
}

func operator(n syntax.Node) string { return n.Part("operator").Type() }

// branches reads an if. What follows it does not know how a test in its alternative
// ended if the other branch goes on to there as well.
func (w *walker) branches(n syntax.Node) {
	w.tests(n)
	was := w.until
	for c := range n.NamedChildren() {
		if c == n.Part("alternative") && !leaves(n.Part("consequence")) {
			w.until = 0
		}
		w.node(c)
	}
	w.until = was
}

// leaves says whether a statement always ends the block that it stands in.
func leaves(n syntax.Node) bool {
	switch n.Type() {
	case "return_statement", "throw_statement", "continue_statement", "break_statement":
		return true
	case "statement_block":
		last := syntax.Node{}
		for c := range n.NamedChildren() {
			if c.Type() != "comment" {
				last = c
			}
		}
		return last.OK() && leaves(last)
	}
	return false
}

func (w *walker) holds(at place.Range, list []facts.Narrowing) {
	if at.Len() == 0 {
		return
	}
	for _, n := range list {
		n.At = at
		w.Narrow(n)
	}
}

// cases notes what each branch of a switch says of the value.
func (w *walker) cases(n syntax.Node) {
	of, member := w.asked(n.Child(w.f.value))
	if of == "" {
		return
	}
	var is facts.Narrowing // of the labels that share the next statements
	for c := range n.Child(w.f.body).NamedChildren() {
		if c.Type() != "switch_case" {
			is = facts.Narrowing{}
			continue
		}
		w.equals(&is, c.Child(w.f.value))
		is.Of, is.Member = of, member
		if body := c.Child(w.f.body); body.OK() {
			at := place.Range{Start: c.Child(w.f.value).Range().End, End: c.Range().End}
			w.holds(at, []facts.Narrowing{is})
			is = facts.Narrowing{}
		}
	}
}

// asked is the value, and the member of it, by which a test tells apart types.
func (w *walker) asked(n syntax.Node) (of, member string) {
	for n.Type() == "parenthesized_expression" || n.Type() == "non_null_expression" {
		n = inner(n)
	}
	if n.Type() != "member_expression" {
		return "", ""
	}
	if of = pathOf(n.Child(w.f.object), w.f); of == "" {
		return "", ""
	}
	return of, n.Child(w.f.property).Text()
}

func inner(n syntax.Node) syntax.Node {
	for c := range n.NamedChildren() {
		return c
	}
	return syntax.Node{}
}

// pathOf writes a chain of names with dots between them; "" for anything else.
func pathOf(n syntax.Node, f *dialect) string {
	switch n.Type() {
	case "identifier", "this":
		return n.Text()
	case "member_expression":
		if before := pathOf(n.Child(f.object), f); before != "" {
			return before + "." + n.Child(f.property).Text()
		}
	}
	return ""
}

// equals adds a value that a member is said to equal.
func (w *walker) equals(is *facts.Narrowing, value syntax.Node) {
	switch value.Type() {
	case "string":
		is.Literals = append(is.Literals, strings.Trim(value.Text(), "'\"`"))
	case "number", "true", "false", "null", "undefined":
		is.Literals = append(is.Literals, value.Text())
	default:
		if e := w.expr(value); e != facts.NoExpr {
			is.Is = append(is.Is, e)
		} else {
			is.Literals = append(is.Literals, "") // something unknown
		}
	}
}

// condition is what a condition says if it holds, or if it does not.
func (w *walker) condition(n syntax.Node, not bool) []facts.Narrowing {
	switch n.Type() {
	case "parenthesized_expression":
		return w.condition(inner(n), not)
	case "unary_expression":
		if operator(n) == "!" {
			return w.condition(n.Part("argument"), !not)
		}
	case "member_expression":
		if of, member := w.asked(n); of != "" && not {
			return []facts.Narrowing{{Of: of, Member: member, Not: true, Literals: []string{"true"}}}
		} else if of != "" {
			return []facts.Narrowing{{Of: of, Member: member, Not: true, Literals: []string{"false", "null", "undefined", "0"}}}
		}
	case "binary_expression":
		return w.comparison(n, not)
	}
	return nil
}

func (w *walker) comparison(n syntax.Node, not bool) []facts.Narrowing {
	left, right := n.Child(w.f.left), n.Child(w.f.right)
	switch op := operator(n); op {
	case "&&":
		if !not {
			return append(w.condition(left, false), w.condition(right, false)...)
		}
	case "||":
		if not {
			return append(w.condition(left, true), w.condition(right, true)...)
		}
		return eitherOf(w.condition(left, false), w.condition(right, false))
	case "===", "==", "!==", "!=":
		of, member := w.asked(left)
		if of == "" {
			of, member = w.asked(right)
			right = left
		}
		if of == "" || right.Type() == "undefined" || right.Type() == "null" {
			return nil
		}
		is := facts.Narrowing{Of: of, Member: member, Not: not != (op[0] == '!')}
		w.equals(&is, right)
		return []facts.Narrowing{is}
	case "in":
		if of := pathOf(right, w.f); of != "" && left.Type() == "string" {
			return []facts.Narrowing{{Of: of, Member: strings.Trim(left.Text(), "'\"`"), Has: true, Not: not}}
		}
	case "instanceof":
		if of := pathOf(left, w.f); of != "" {
			if e := w.expr(right); e != facts.NoExpr {
				return []facts.Narrowing{{Of: of, Is: []facts.ExprID{e}, Not: not}}
			}
		}
	}
	return nil
}

// eitherOf is what two conditions say of one value if one of them holds.
func eitherOf(a, b []facts.Narrowing) []facts.Narrowing {
	if len(a) != 1 || len(b) != 1 || a[0].Of != b[0].Of || a[0].Member != b[0].Member || a[0].Not || b[0].Not || a[0].Has || b[0].Has {
		return nil
	}
	a[0].Literals = append(slices.Clone(a[0].Literals), b[0].Literals...)
	a[0].Is = append(slices.Clone(a[0].Is), b[0].Is...)
	return a
}
