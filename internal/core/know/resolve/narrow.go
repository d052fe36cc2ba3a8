package resolve

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// narrowed are the types of which a value is one, at the place where an expression
// names it, after the tests in the code around; nil if these say nothing.
func (q *question) narrowed(src *source, base facts.ExprID, t Type, depth int) []Type {
	if len(src.Narrowed) == 0 || src.lang.Values.Passed.Is() {
		return nil // narrowedTo has done that
	}
	of, at := dotted(src, base), int(src.Exprs[base].At.Start)
	if of == "" {
		return nil
	}
	var tests []facts.Narrowing
	for _, n := range src.tests[of] {
		if int(n.At.Start) > at {
			break
		}
		if n.At.Holds(at) {
			tests = append(tests, n)
		}
	}
	if len(tests) == 0 {
		return nil
	}
	left := q.choices(t, depth+1)
	all := len(left)
	for _, n := range tests {
		var kept []Type
		for _, arm := range left {
			if q.passes(src, n, arm, depth+1) {
				kept = append(kept, arm)
			}
		}
		if len(kept) > 0 {
			left = kept
		}
	}
	if len(left) == all {
		return nil
	}
	return left
}

// narrowedTo is the type of a value after the tests in the code around, by which it may be one that was not known.
func (q *question) narrowedTo(src *source, id facts.ExprID, t Type, depth int) Type {
	if len(src.Narrowed) == 0 || !src.lang.Values.Passed.Is() {
		return t
	}
	of, at := dotted(src, id), int(src.Exprs[id].At.Start)
	for _, n := range src.tests[of] {
		if int(n.At.Start) > at {
			break
		}
		if !n.At.Holds(at) || n.Member != "" || n.Not || src.givenBetween(of, n.At.Start, at) {
			continue
		}
		var all []Type
		for _, is := range n.Is {
			class := q.typeNamed(src, is, depth+1)
			kept := false
			for _, one := range t.each() {
				if one.named.ok() && class.named.ok() && q.asType(one, class.named, depth+1).known() {
					all, kept = append(all, one), true
				}
			}
			if !kept {
				all = append(all, class)
			}
		}
		if is := oneOf(all); is.known() {
			t = is
		}
	}
	return t
}

// givenBetween says whether a name is given another value between two offsets.
func (s *source) givenBetween(name string, from uint32, to int) bool {
	for _, g := range s.set[name] {
		if g.At > from && int(g.From) <= to {
			return true
		}
	}
	return false
}

// mostChoices bounds how many types a value may be one of.
const mostChoices = 200

// choices are the types a value may be one of, through all names of such choices.
func (q *question) choices(t Type, depth int) (all []Type) {
	if depth > deepest {
		return nil
	}
	if t.named.ok() {
		if d := t.named.def(); d.Kind == facts.Type && d.Type != facts.NoExpr {
			if of := subst(q.typeNamed(t.named.src, d.Type, depth+1), q.bindingsOf(t)); of.expr().Kind == facts.EitherOf || of.named.ok() {
				return q.choices(of, depth+1)
			}
		}
		return []Type{t}
	}
	if t.expr().Kind != facts.EitherOf {
		return []Type{t}
	}
	for _, a := range q.arms(t, depth) {
		if all = append(all, q.choices(a, depth+10)...); len(all) > mostChoices {
			return all[:mostChoices]
		}
	}
	return all
}

// passes says whether a value of a type may have passed a test. What is not known
// counts as that it may.
func (q *question) passes(src *source, n facts.Narrowing, t Type, depth int) bool {
	if n.Member == "" { // an instance of a class
		if !t.named.ok() {
			return true
		}
		for _, is := range n.Is {
			if c := q.typeOf(src, is, depth+1); c.named.ok() {
				return (c.named.at() == t.named.at()) != n.Not
			}
		}
		return true
	}
	m := q.memberOfType(t, n.Member, depth+1)
	if n.Has {
		return (len(m.refs) > 0) != n.Not
	}
	if len(m.refs) == 0 {
		return n.Not || m.outside != ""
	}
	equal, sure := q.equals(src, n, m.refs[0], depth+1)
	return !sure || equal != n.Not
}

// equals says whether a member is declared to be one of the values of a test, and
// whether that is known.
func (q *question) equals(src *source, n facts.Narrowing, m ref, depth int) (equal, sure bool) {
	declared := []facts.ExprID{m.def().Type}
	if declared[0] == facts.NoExpr {
		return false, false
	}
	if e := m.src.Exprs[declared[0]]; e.Kind == facts.EitherOf {
		declared = e.Args
	}
	among := 0
	for _, d := range declared {
		e := m.src.Exprs[d]
		switch e.Kind {
		case facts.Literal:
			if !isValue(e.Name) {
				return false, false
			}
			if slices.Contains(n.Literals, strings.Trim(e.Name, "'\"`")) {
				among++
			}
		case facts.Name, facts.Member:
			f := q.meaning(m.src, d, depth+1)
			if len(f.refs) == 0 || f.refs[0].def().Kind.IsType() && f.refs[0].def().Kind != facts.Enum {
				return false, false
			}
			for _, is := range n.Is {
				if v := q.meaning(src, is, depth+1); len(v.refs) > 0 && v.refs[0].at() == f.refs[0].at() {
					among++
					break
				}
			}
		default:
			return false, false
		}
	}
	if slices.Contains(n.Literals, "") {
		return false, false
	}
	if n.Not {
		return among == len(declared), true // some value is left otherwise
	}
	return among > 0, true
}

// isValue says whether a literal type stands for one value, not for all of a kind.
func isValue(name string) bool {
	if name == "" {
		return false
	}
	switch name {
	case "true", "false", "null", "undefined":
		return true
	}
	return strings.IndexByte("'\"`-0123456789", name[0]) >= 0
}
