package python

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Which value a name has depends on what was done before: which parts of the code are done only
// now and then is noted, and what conditions say about the class of a value.

// block reads statements that are done one after the other.
func block(r *reader.Reader, n syntax.Node) {
	s := stateOf(r)
	was := s.until
	s.until = n.Range().End
	r.All(n)
	s.until = was
}

// conditions reads an if with all that belongs to it.
func conditions(r *reader.Reader, n syntax.Node) {
	s := stateOf(r)
	arms, last := 0, false
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "block", "elif_clause":
			arms++
		case "else_clause":
			arms++
			last = true
		}
	}
	if !last {
		arms = 0
	}
	branch := func(at syntax.Node) {
		r.Branch(facts.Branch{At: at.Range(), Whole: n.Range(), Arms: arms, Leaves: leaves(at)})
	}
	condition, then := n.Part("condition"), n.Part("consequence")
	branch(then)
	r.Holds(then.Range(), says(r, condition, false))
	not := says(r, condition, true)
	if leaves(then) && s.until > n.Range().End {
		r.Holds(place.Range{Start: n.Range().End, End: s.until}, not)
	}
	r.Visit(condition)
	r.Visit(then)
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "elif_clause":
			r.Holds(c.Range(), not)
			branch(c.Part("consequence"))
			r.Holds(c.Part("consequence").Range(), says(r, c.Part("condition"), false))
			not = append(not, says(r, c.Part("condition"), true)...)
			r.All(c)
		case "else_clause":
			r.Holds(c.Range(), not)
			branch(c.Part("body"))
			r.All(c)
		}
	}
}

// tested reads what has a condition in it.
func tested(r *reader.Reader, n syntax.Node) {
	switch n.Type() {
	case "conditional_expression":
		parts := []syntax.Node{}
		for c := range n.NamedChildren() {
			parts = append(parts, c)
		}
		if len(parts) == 3 {
			r.Holds(parts[0].Range(), says(r, parts[1], false))
			r.Holds(parts[2].Range(), says(r, parts[1], true))
		}
	case "boolean_operator":
		r.Holds(n.Part("right").Range(), says(r, n.Part("left"), n.Has("or")))
	}
	r.All(n)
}

func repeated(r *reader.Reader, n syntax.Node) {
	body := n.Part("body")
	r.Branch(facts.Branch{At: body.Range(), Whole: n.Range(), Loop: true, Beside: true})
	r.Holds(body.Range(), says(r, n.Part("condition"), false))
	r.All(n)
}

func tried(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if t := c.Type(); t == "block" || t == "except_clause" || t == "except_group_clause" || t == "else_clause" {
			r.Branch(facts.Branch{At: c.Range(), Whole: n.Range(), Beside: true, Leaves: leaves(c)})
		}
	}
	r.All(n)
}

func asserted(r *reader.Reader, n syntax.Node) {
	r.All(n)
	if end := stateOf(r).until; end > n.Range().End {
		r.Holds(place.Range{Start: n.Range().End, End: end}, says(r, reader.Nth(0)(n), false))
	}
}

// leaves says whether a statement always ends what it stands in.
func leaves(n syntax.Node) bool {
	switch n.Type() {
	case "return_statement", "raise_statement", "continue_statement", "break_statement":
		return true
	case "block", "except_clause", "else_clause":
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

// says is what a condition tells about the classes of values, if it holds, or if it does not.
func says(r *reader.Reader, n syntax.Node, not bool) []facts.Narrowing {
	switch n.Type() {
	case "parenthesized_expression":
		return says(r, reader.Nth(0)(n), not)
	case "not_operator":
		return says(r, n.Part("argument"), !not)
	case "boolean_operator":
		if n.Has("and") != not { // all of it is known
			return append(says(r, n.Part("left"), not), says(r, n.Part("right"), not)...)
		}
	case "call":
		if n.Part("function").Text() != "isinstance" {
			return nil
		}
		of := reader.Nth(0)(n.Part("arguments"))
		class := reader.Nth(1)(n.Part("arguments"))
		if pathOf(of) == "" || !class.OK() {
			return nil
		}
		return []facts.Narrowing{{Of: pathOf(of), Is: classes(r, class), Not: not}}
	}
	return nil
}

// classes are those named by an expression, or a tuple of them.
func classes(r *reader.Reader, n syntax.Node) (all []facts.ExprID) {
	if n.Type() != "tuple" {
		return []facts.ExprID{typ(r, n)}
	}
	for c := range n.NamedChildren() {
		all = append(all, typ(r, c))
	}
	return all
}

// pathOf writes a chain of names with dots between them; "" for anything else.
func pathOf(n syntax.Node) string {
	switch n.Type() {
	case "identifier":
		return n.Text()
	case "attribute":
		if before := pathOf(n.Part("object")); before != "" {
			return before + "." + n.Part("attribute").Text()
		}
	}
	return ""
}
