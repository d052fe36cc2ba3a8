package resolve

import (
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// leadsTo says whether a use means the target, and how that is known; possible says that it was not resolved, but could.
func (q *question) leadsTo(src *source, use facts.Use, t *target) (c Certainty, possible, ok bool) {
	f := q.meant(src, use)
	if len(t.modules) > 0 {
		return f.certainty(), false, t.isModule(f)
	}
	if f.several && t.isAmong(f.refs) {
		return f.certainty(), false, true
	}
	if len(f.refs) > 0 {
		if f.unsure && t.scope.Value && !slices.ContainsFunc(f.refs, func(r ref) bool { return !t.same[r.at()] }) {
			return Inferred, false, true // whichever it is
		}
		if t.same[f.refs[0].at()] {
			return f.certainty(), false, true
		}
		if f.exact {
			return 0, false, false
		}
		if t.best.ok() && t.best.def().Kind == facts.Constructor && use.Role == facts.Call {
			if c := q.constructors(f.refs, use); len(c) > 0 {
				return Inferred, false, t.same[c[0].at()]
			}
		}
		return ByName, true, f.unsure && t.scope.Possible && q.couldMean(src, use, t)
	}
	if src.Quoted(use) {
		return 0, false, false
	}
	if f.outside != "" && (!f.vague || !t.best.ok()) {
		return ByName, false, t.outside == f.outside && !t.best.ok()
	}
	if len(f.modules) > 0 || !t.best.ok() || src.lang.Scopes.Builtin[use.Name] && use.Base == facts.NoExpr {
		return 0, false, false
	}
	if t.alone[member(use)] && f.outside == "" {
		return ByName, false, true
	}
	return ByName, true, t.scope.Unsure || t.scope.Possible && q.couldMean(src, use, t)
}

// couldMean says whether a use that was not resolved could be one of the target, by how it is written: a member has
// something in front of it where it cannot be named without that, and anything else nothing but a name that may be that of
// a module.
func (q *question) couldMean(src *source, use facts.Use, t *target) bool {
	d := t.best.def()
	if use.Role == facts.TypeUse && !d.Kind.IsType() && !d.Kind.IsSpace() || use.Role == facts.ImportUse {
		return false
	}
	if use.Arguments > 0 && d.Kind.IsCallable() && !d.Takes(use.Arguments) {
		return false
	}
	if use.Base == facts.NoExpr {
		return d.Container == "" || src.lang.Members.Named == lang.Anywhere
	}
	if d.Container != "" || isMember(t.best) {
		return true
	}
	before := src.Exprs[use.Base]
	if before.Kind != facts.Name {
		return false
	}
	f := q.meaning(src, use.Base, 0)
	return len(f.refs) == 0 || f.refs[0].def().Kind == facts.Import
}

// member is 1 for a use with something in front of it, else 0.
func member(use facts.Use) int {
	if use.Base != facts.NoExpr {
		return 1
	}
	return 0
}
