package javascript

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// A value that may be of one of several types is often asked which of them it is,
// by a member that differs: in switch (issue.code), if (shape.kind === "hut"),
// result.ok && …, "error" in answer. What such a test says is kept for the part of
// the text in which it holds.

// tests notes what the conditions of a statement or an expression say about values.
func tests(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	switch n.Type() {
	case "if_statement":
		condition := n.Part("condition")
		r.Holds(n.Part("consequence").Range(), says(r, condition, false))
		r.Holds(n.Part("alternative").Range(), says(r, condition, true))
		if leaves(n.Part("consequence")) && noted.until > n.Range().End {
			r.Holds(place.Range{Start: n.Range().End, End: noted.until}, says(r, condition, true))
		}
	case "ternary_expression":
		condition := n.Part("condition")
		r.Holds(n.Part("consequence").Range(), says(r, condition, false))
		r.Holds(n.Part("alternative").Range(), says(r, condition, true))
	case "while_statement":
		r.Holds(n.Part("body").Range(), says(r, n.Part("condition"), false))
	case "binary_expression":
		switch operator(n) {
		case "&&":
			r.Holds(n.Part("right").Range(), says(r, n.Part("left"), false))
		case "||":
			r.Holds(n.Part("right").Range(), says(r, n.Part("left"), true))
		}
	case "switch_statement":
		cases(r, n)
	}
}

// block reads statements that are done one after the other; a test after which one
// does not go on holds for those that follow.
func block(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	was := noted.until
	noted.until = n.Range().End
	r.All(n)
	noted.until = was
}

func operator(n syntax.Node) string { return n.Part("operator").Type() }

// branches reads an if. What follows it does not know how a test in its alternative
// ended if the other branch goes on to there as well.
func branches(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	tests(r, n)
	parted(r, n)
	was := noted.until
	for c := range n.NamedChildren() {
		if c == n.Part("alternative") && !leaves(n.Part("consequence")) {
			noted.until = 0
		}
		r.Visit(c)
	}
	noted.until = was
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

// cases notes what each branch of a switch says of the value.
func cases(r *reader.Reader, n syntax.Node) {
	of, member := asked(r, n.Part("value"))
	if of == "" {
		return
	}
	var is facts.Narrowing // of the labels that share the next statements
	for c := range n.Part("body").NamedChildren() {
		if c.Type() != "switch_case" {
			is = facts.Narrowing{}
			continue
		}
		equals(r, &is, c.Part("value"))
		is.Of, is.Member = of, member
		if body := c.Part("body"); body.OK() {
			at := place.Range{Start: c.Part("value").Range().End, End: c.Range().End}
			r.Holds(at, []facts.Narrowing{is})
			is = facts.Narrowing{}
		}
	}
}

// asked is the value, and the member of it, by which a test tells apart types.
func asked(r *reader.Reader, n syntax.Node) (of, member string) {
	for n.Type() == "parenthesized_expression" || n.Type() == "non_null_expression" {
		n = reader.Nth(0)(n)
	}
	if n.Type() != "member_expression" {
		return "", ""
	}
	if of = pathOf(n.Part("object")); of == "" {
		return "", ""
	}
	return of, n.Part("property").Text()
}

// pathOf writes a chain of names with dots between them; "" for anything else.
func pathOf(n syntax.Node) string {
	switch n.Type() {
	case "identifier", "this":
		return n.Text()
	case "member_expression":
		if before := pathOf(n.Part("object")); before != "" {
			return before + "." + n.Part("property").Text()
		}
	}
	return ""
}

// equals adds a value that a member is said to equal.
func equals(r *reader.Reader, is *facts.Narrowing, value syntax.Node) {
	switch value.Type() {
	case "string":
		is.Literals = append(is.Literals, strings.Trim(value.Text(), "'\"`"))
	case "number", "true", "false", "null", "undefined":
		is.Literals = append(is.Literals, value.Text())
	default:
		if e := r.Expression(value); e != facts.NoExpr {
			is.Is = append(is.Is, e)
		} else {
			is.Literals = append(is.Literals, "") // something unknown
		}
	}
}

// says is what a condition says if it holds, or if it does not.
func says(r *reader.Reader, n syntax.Node, not bool) []facts.Narrowing {
	switch n.Type() {
	case "parenthesized_expression":
		return says(r, reader.Nth(0)(n), not)
	case "unary_expression":
		if operator(n) == "!" {
			return says(r, n.Part("argument"), !not)
		}
	case "member_expression":
		if of, member := asked(r, n); of != "" && not {
			return []facts.Narrowing{{Of: of, Member: member, Not: true, Literals: []string{"true"}}}
		} else if of != "" {
			return []facts.Narrowing{{Of: of, Member: member, Not: true, Literals: []string{"false", "null", "undefined", "0"}}}
		}
	case "binary_expression":
		return comparison(r, n, not)
	}
	return nil
}

func comparison(r *reader.Reader, n syntax.Node, not bool) []facts.Narrowing {
	left, right := n.Part("left"), n.Part("right")
	switch op := operator(n); op {
	case "&&":
		if !not {
			return append(says(r, left, false), says(r, right, false)...)
		}
	case "||":
		if not {
			return append(says(r, left, true), says(r, right, true)...)
		}
		return eitherOf(says(r, left, false), says(r, right, false))
	case "===", "==", "!==", "!=":
		of, member := asked(r, left)
		if of == "" {
			of, member = asked(r, right)
			right = left
		}
		if of == "" || right.Type() == "undefined" || right.Type() == "null" {
			return nil
		}
		is := facts.Narrowing{Of: of, Member: member, Not: not != (op[0] == '!')}
		equals(r, &is, right)
		return []facts.Narrowing{is}
	case "in":
		if of := pathOf(right); of != "" && left.Type() == "string" {
			return []facts.Narrowing{{Of: of, Member: strings.Trim(left.Text(), "'\"`"), Has: true, Not: not}}
		}
	case "instanceof":
		if of := pathOf(left); of != "" {
			if e := r.Expression(right); e != facts.NoExpr {
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
