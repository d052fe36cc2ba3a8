package resolve

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/file/facts"
)

// A parameter that says nothing of its type is of that of the arguments with which its function is called.

// How much is looked at to find out what a parameter is: how many files, how many calls, and how many parameters in turn.
const (
	mostPassingFiles = 6
	mostPassingCalls = 60
	mostPassed       = 3
)

// passed is the type of what is passed for a parameter.
func (q *question) passed(param ref, depth int) Type {
	if !param.src.lang.Values.Passed.Is() || q.passing >= mostPassed || depth > deepest {
		return Type{}
	}
	function, number := q.parameterOf(param)
	if !function.ok() {
		return Type{pending: param.def().Init != facts.NoExpr} // it is given its parameters by what it is passed to
	}
	at := param.at()
	if t, ok := q.handed[at]; ok {
		return t
	}
	if q.handed == nil {
		q.handed = map[definedAt]Type{}
	}
	q.handed[at] = Type{pending: true}
	q.passing++
	t := q.passedAs(function, param.def().Name, number, depth+1)
	q.passing--
	q.handed[at] = t
	return t
}

// parameterOf is the function that has a parameter, and which argument is given for it, counted from 0.
func (q *question) parameterOf(param ref) (function ref, number int) {
	scope := param.def().Scope
	owner := param.src.Scopes[scope].Owner
	if owner == facts.NoDef || !param.src.Defs[owner].Kind.IsCallable() {
		return ref{}, 0
	}
	for id := owner + 1; id < param.id; id++ {
		if d := &param.src.Defs[id]; d.Scope == scope && d.Kind == facts.Parameter {
			number++
		}
	}
	function = param.src.ref(owner)
	if isOwn(param.src, scope, owner) {
		number--
	}
	if number < 0 {
		return ref{}, 0
	}
	return function, number
}

// isOwn says whether the first parameter of a function is the value that it is called on.
func isOwn(src *source, scope facts.ScopeID, owner facts.DefID) bool {
	for id := int(owner) + 1; id < len(src.Defs); id++ {
		if d := &src.Defs[id]; d.Scope == scope && d.Kind == facts.Parameter {
			return d.Type != facts.NoExpr && src.Exprs[d.Type].Kind == facts.Own
		}
	}
	return false
}

// passedAs is the type of an argument of the calls of a function.
func (q *question) passedAs(function ref, label string, number, depth int) Type {
	names, called := map[string]bool{function.def().Name: true}, map[definedAt]bool{function.at(): true}
	name := function.def().Name
	if function.def().Kind == facts.Constructor {
		owner := q.owner(function)
		if !owner.ok() {
			return Type{}
		}
		name = owner.def().Name // it is called by that, by a name that it has inside, or from what is derived from it
		names[name], names[ownName(function)] = true, true
		for maker := range function.src.lang.Values.Makers {
			names[maker] = true
		}
		called[owner.at()] = true
	}
	files := q.code.Mentioning(name)
	slices.SortStableFunc(files, func(a, b string) int {
		return cmp.Compare(distance(function.src.path, a), distance(function.src.path, b))
	})
	var all []Type
	calls := 0
	if len(files) > mostPassingFiles {
		files, all = files[:mostPassingFiles], append(all, Type{})
	}
	for _, file := range files {
		if q.family(file) != q.family(function.src.path) || q.ctx.Err() != nil {
			continue
		}
		src := q.source(file)
		if src == nil {
			continue
		}
		uses, _ := src.mentions(names)
		for _, i := range uses {
			u := src.Uses[i]
			if u.Role != facts.Call || u.Call == facts.NoExpr {
				continue
			}
			if calls++; calls > mostPassingCalls {
				return oneOf(append(all, Type{}))
			}
			arg := argumentFor(src, src.Exprs[u.Call], label, number)
			if arg == facts.NoExpr {
				continue
			}
			if function.def().Kind == facts.Constructor && src.lang.Values.Makers[u.Name] {
				if t := q.typeOf(src, u.Base, depth+1); t.named.ok() && (called[t.named.at()] || q.asType(t, q.owner(function), depth+1).known() && len(q.own(t.named, function.def().Name)) == 0) {
					all = append(all, q.typeOf(src, arg, depth+1))
				}
				continue
			}
			f := q.meant(src, u)
			if slices.ContainsFunc(f.refs, func(r ref) bool { return called[r.at()] || q.standsFor(r, called, depth) }) {
				all = append(all, q.typeOf(src, arg, depth+1))
			}
		}
	}
	if len(all) == 0 {
		return Type{pending: true} // nobody passes anything
	}
	return oneOf(all)
}

// ownName is what a class is called inside of the functions that are called on it.
func ownName(function ref) string {
	for _, w := range function.src.lang.Values.Itself {
		return w
	}
	return function.def().Name
}

// standsFor says whether a definition is a parameter that stands for one of some types.
func (q *question) standsFor(r ref, types map[definedAt]bool, depth int) bool {
	d := r.def()
	if d.Kind != facts.Parameter || d.Type == facts.NoExpr || r.src.Exprs[d.Type].Kind != facts.Own {
		return false
	}
	t := q.typeNamed(r.src, d.Type, depth+1)
	return t.named.ok() && types[t.named.at()]
}

// argumentFor is the argument of a call that is given for a parameter, by its name or its number.
func argumentFor(src *source, call facts.Expr, label string, number int) facts.ExprID {
	for i, a := range call.Args {
		e := src.Exprs[a]
		if e.Kind == facts.Labelled {
			if e.Name == label {
				return a
			}
			continue
		}
		if i == number {
			return a
		}
	}
	return facts.NoExpr
}
