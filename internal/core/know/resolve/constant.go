package resolve

import (
	"bytes"
	"regexp"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Of functions that differ in nothing but what they may change, that is called which suits whether what it is called of, and
// what is passed, may be changed.

// asConst puts that one of several functions first that suits best what may be changed, of those that differ from the first in
// nothing else.
func (q *question) asConst(src *source, use facts.Use, refs []ref) []ref {
	if len(refs) < 2 || src.sees() != lang.SeesIncludes || !src.lang.Members.Overloads.Is() || !refs[0].def().Kind.IsCallable() {
		return refs
	}
	best, least := 0, -1
	var given []constness
	for i, r := range refs {
		if i > 0 && (!r.def().Kind.IsCallable() || !sameParameterTypes(r, refs[0]) || !q.isSibling(r, refs[0])) {
			continue
		}
		if i > 0 && given == nil {
			given = q.constnessOf(src, use)
			least = mismatch(given, takenBy(refs[0]))
		}
		if given != nil {
			if n := mismatch(given, takenBy(r)); n < least {
				best, least = i, n
			}
		}
	}
	if best == 0 {
		return refs
	}
	refs = slices.Clone(refs)
	chosen := refs[best]
	copy(refs[1:best+1], refs[:best])
	refs[0] = chosen
	return refs
}

// isSibling says whether two functions are alternatives: members of the same type, or neither a member.
func (q *question) isSibling(a, b ref) bool {
	x, y := q.owner(a), q.owner(b)
	return !x.ok() && !y.ok() || x.ok() && y.ok() && x.def().Name == y.def().Name
}

// constness says whether something may not be changed.
type constness uint8

// The kinds of constness.
const (
	unclear constness = iota
	free
	fixedly
)

func constant(is bool) constness {
	if is {
		return fixedly
	}
	return free
}

// constnessOf is that of what a function is called of, and then of its arguments.
func (q *question) constnessOf(src *source, use facts.Use) []constness {
	all := []constness{constant(q.isFixed(src, use.Base, use.Scope))}
	if use.Call != facts.NoExpr {
		for _, a := range src.Exprs[use.Call].Args {
			all = append(all, q.argumentConstness(src, a, use.Scope))
		}
	}
	return all
}

func (q *question) argumentConstness(src *source, id facts.ExprID, scope facts.ScopeID) constness {
	e := src.Exprs[id]
	switch text := e.At.In(src.text); {
	case e.Kind == facts.Literal && bytes.HasPrefix(text, []byte(`"`)):
		return fixedly
	case e.Kind == facts.CallOf && constCast.Match(text):
		return constant(pointsToConst(text[:bytes.IndexByte(text, '>')]))
	case e.Kind == facts.Name || e.Kind == facts.Member || e.Kind == facts.CallOf:
		return constant(q.isFixed(src, id, scope))
	}
	return unclear
}

var constCast = regexp.MustCompile(`^const_cast\s*<[^<>]*>`)

// takenBy is what a function says of what it is called of, and of each parameter.
func takenBy(r ref) []constness {
	all := []constness{constant(isConst(r))}
	text := r.src.text[r.def().At.End:max(r.def().At.End, r.def().Head.End)]
	begin := bytes.IndexByte(text, '(')
	depth, from := 0, begin+1
	for i := max(begin, 0); i < len(text); i++ {
		switch text[i] {
		case '(', '<', '[', '{':
			depth++
		case ')', '>', ']', '}':
			depth--
		}
		if depth == 0 && text[i] == ')' || depth == 1 && text[i] == ',' {
			p, _, _ := bytes.Cut(text[from:i], []byte("="))
			if from = i + 1; bytes.ContainsAny(p, "*&") {
				all = append(all, constant(pointsToConst(p)))
			} else {
				all = append(all, unclear) // it is a copy
			}
		}
		if depth == 0 {
			break
		}
	}
	return all
}

// mismatch says how badly what is given suits what is taken.
func mismatch(given, taken []constness) (n int) {
	const impossible = 100
	for i := range min(len(given), len(taken)) {
		switch {
		case given[i] == fixedly && taken[i] == free:
			n += impossible
		case given[i] == free && taken[i] == fixedly:
			n++
		}
	}
	return n
}

var constWord = regexp.MustCompile(`\bconst\b`)

// pointsToConst says whether what the type of a declaration points or refers to may not be changed.
func pointsToConst(declared []byte) bool {
	at := constWord.FindIndex(declared)
	if at == nil {
		return false
	}
	last := bytes.LastIndexAny(declared, "*&")
	return last < 0 || at[0] < last
}

// isFixed says whether an expression, or what a name without any is a member of, may not be changed, as far as its declaration or
// the function around says.
func (q *question) isFixed(src *source, id facts.ExprID, scope facts.ScopeID) bool {
	e := src.Exprs[id]
	if id == facts.NoExpr || e.Name == "this" {
		return src.inConst(scope)
	}
	f := q.meaning(src, id, 0)
	if e.Kind == facts.CallOf {
		f = q.callee(src, e.Base, 0)
		if of := src.Exprs[e.Base]; of.Kind == facts.Member {
			f.refs = q.asConst(src, facts.Use{Name: of.Name, Base: of.Base, Scope: scope}, f.refs)
		}
	}
	if len(f.refs) == 0 {
		return false
	}
	d := f.refs[0].def()
	front := f.refs[0].src.text[d.Full.Start:max(d.Full.Start, d.At.Start)]
	front = front[bytes.LastIndexAny(front, ";{}")+1:]
	if d.Kind == facts.Field && e.Kind == facts.Name && !bytes.ContainsAny(front, "*&") && !bytes.Contains(front, []byte("mutable")) && src.inConst(scope) {
		return true // it is a part of what may not be changed
	}
	return pointsToConst(front)
}

// inConst says whether a scope lies in a member that leaves what it belongs to as it is.
func (src *source) inConst(scope facts.ScopeID) bool {
	for s := scope; s != 0; s = src.Scopes[s].Parent {
		if o := src.Scopes[s].Owner; o != facts.NoDef && src.Defs[o].Kind.IsCallable() {
			return isConst(src.ref(o))
		}
	}
	return false
}
