package resolve

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/file/facts"
)

// Where calls and names are written alike, what a bare name means depends on whether it stands in a type or in a value of it, and
// what makes values is called otherwise than it is defined.

// lastOnes puts the member of a type that is defined last in front of those that it takes the place of.
func lastOnes(refs []ref) []ref {
	if len(refs) < 2 || refs[0].def().Container == "" {
		return refs
	}
	refs = slices.Clone(refs)
	slices.SortStableFunc(refs, func(a, b ref) int {
		if a.src != b.src || a.def().Scope != b.def().Scope || a.def().Static != b.def().Static {
			return 0
		}
		return cmp.Compare(b.def().At.Start, a.def().At.Start)
	})
	return refs
}

// inBranches says whether members of a name are defined in different branches of their type, so that either may be meant.
func inBranches(refs []ref) bool {
	if len(refs) < 2 || !refs[0].src.lang.Values.Passed.Is() || !refs[0].def().Kind.IsCallable() {
		return false
	}
	a, b := refs[0], refs[1]
	if a.src != b.src || a.def().Scope != b.def().Scope || a.def().Static != b.def().Static || a.src.lang.Members.Prototypes.Is() {
		return false
	}
	for _, br := range a.src.Branches {
		if x, y := br.At.Holds(int(a.def().At.Start)), br.At.Holds(int(b.def().At.Start)); x != y && br.Whole.Holds(int(a.def().At.Start)) && br.Whole.Holds(int(b.def().At.Start)) {
			return true
		}
	}
	return false
}

// made are the constructors of the type that an expression names, or that type if it has none.
func (q *question) made(src *source, of facts.ExprID, depth int) []ref {
	t := q.typeOf(src, of, depth+1)
	if !t.named.ok() || !t.named.def().Kind.IsType() {
		return nil
	}
	for _, name := range src.lang.Members.Constructors {
		if f := q.members(t.named, name, map[*facts.Def]bool{}, depth+1); len(f.refs) > 0 {
			return f.refs
		}
		if refs := q.reopened(t.named, name); len(refs) > 0 {
			return refs
		}
	}
	return []ref{t.named}
}

// ofSelf puts those members first that what a name stands in has itself: a type, in its body and in the functions that belong to
// it, or a value of it.
func (q *question) ofSelf(src *source, use facts.Use, refs []ref) []ref {
	if len(refs) == 0 || refs[0].def().Container == "" {
		return refs
	}
	static := true
	for s := use.Scope; s != 0; s = src.Scopes[s].Parent {
		if owner := src.Scopes[s].Owner; src.Scopes[s].Kind == facts.FunctionScope && owner != facts.NoDef {
			static = src.Defs[owner].Static
			break
		}
		if src.Scopes[s].Kind == facts.TypeScope {
			break
		}
	}
	if refs[0].def().Static == static {
		return refs
	}
	if owner := q.owner(refs[0]); owner.ok() {
		for _, m := range q.ownMembers(owner, use.Name) {
			if m.def().Static == static {
				return append([]ref{m}, refs...)
			}
		}
	}
	return refs
}
