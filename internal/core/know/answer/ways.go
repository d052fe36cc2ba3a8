package answer

import (
	"context"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/resolve"
)

// mostCounted is how many references are counted before it is enough to say that
// there are more.
const mostCounted = 2000

// Ways are the numbers of places to which ways lead from a name.
type Ways struct {
	// References are all uses, with how many of them read, write and call, in so
	// many Files; Callers are the functions in which the calls stand, InTests the uses
	// in tests.
	References, Reads, Writes, Calls, Files, Callers, InTests int
	// Tests counts the tests of it, of a test what that tests; TestsThrough those among them that reach it through others.
	Tests, TestsThrough int
	// Possible counts the uses that were not resolved and could be meant, which are not among the References,
	// PossibleCallers the functions in which calls of those stand.
	Possible, PossibleCallers int
	// Related says that what follows was counted, too.
	Related bool
	// More says that there are more references than were counted.
	More bool
	// Implementations and Supers count what is below and above; Abstract says that
	// those below are what does the work, as of an interface or a method in one.
	Implementations, Supers int
	// PossibleBelow counts what may be below it, but is derived from something that was not resolved.
	PossibleBelow int
	Abstract      bool
	// Extended says that those below do not do the work either: they are interfaces.
	Extended bool
	// Through counts the functions that call it by way of what it overrides or implements, such as a method of an
	// interface, without saying it outright.
	Through int
	// Super is the name of the nearest of those above.
	Super string
	// Called counts what it calls.
	Called int
}

// CountWays counts where the ways from the name at an offset lead. What cannot be
// from a name of its kind stays 0.
func (g *Guide) CountWays(ctx context.Context, p string, offset int) Ways {
	return g.CountRelated(ctx, p, offset, g.CountUses(ctx, p, offset))
}

// CountUses counts no more than the references, which is the quick part.
func (g *Guide) CountUses(ctx context.Context, p string, offset int) Ways {
	var n Ways
	callers, possible := map[string]bool{}, map[string]bool{}
	g.Ask(ctx, Question{Way: ToReferences, Path: p, Offset: offset, Scope: resolve.Scope{Possible: true}}, func(refs []Answer) bool {
		n.count(refs, callers, possible)
		return n.References < mostCounted
	})
	n.More, n.Callers, n.PossibleCallers = n.References >= mostCounted, len(callers), len(possible)
	return n
}

// CountRelated adds to the counted references what is above, below and called.
func (g *Guide) CountRelated(ctx context.Context, p string, offset int, n Ways) Ways {
	n.Related = true
	res := g.resolver.Definition(ctx, p, offset)
	if len(res.Answers) == 0 || ctx.Err() != nil {
		return n
	}
	if kind := res.Answers[0].Kind; kind.IsCallable() || kind.IsType() || n.InTests > 0 {
		n.tests(ctx, g, p, offset)
	}
	switch kind := res.Answers[0].Kind; {
	case kind.IsType():
		n.related(ctx, g, p, offset)
		n.Abstract = isAbstract(kind)
	case kind == facts.Field:
		n.Implementations = len(g.resolver.Implementations(ctx, p, offset).Answers)
	case kind == facts.Method:
		n.related(ctx, g, p, offset)
		if n.Supers > 0 {
			n.through(ctx, g, p, offset)
		}
		if f, id := g.definitionOf(ctx, res.Answers[0]); id != facts.NoDef {
			around := f.Facts.Defs[id].Parent
			n.Abstract = around != facts.NoDef && isAbstract(f.Facts.Defs[around].Kind)
		}
		fallthrough
	case kind.IsCallable():
		if l := g.code.Languages().Of(res.Answers[0].Path); kind == facts.Function && l != nil && l.Scopes.Sees == lang.SeesIncludes { // where it may be put into fields
			n.through(ctx, g, p, offset)
		}
		_, calls := g.resolver.Outgoing(ctx, p, offset)
		n.Called = len(calls)
	}
	return n
}

func isAbstract(k facts.Kind) bool { return k == facts.Interface || k == facts.Trait }

// related counts what is above and below.
func (n *Ways) related(ctx context.Context, w *Guide, p string, offset int) {
	res := w.resolver.Implementations(ctx, p, offset)
	below := res.Answers
	n.Implementations, n.PossibleBelow = len(below), len(res.Possible)
	n.Extended = len(below) > 0 && isAbstract(below[0].Kind)
	above := w.resolver.Supertypes(ctx, p, offset, resolve.All).Answers
	if n.Supers = len(above); n.Supers > 0 {
		n.Super = above[0].Name
		if above[0].Kind == facts.Method && above[0].Container != "" {
			n.Super = above[0].Container + "." + n.Super
		}
	}
}

// tests counts the tests, as they are listed.
func (n *Ways) tests(ctx context.Context, g *Guide, p string, offset int) {
	_, all := g.tests(ctx, p, offset)
	for i := range all {
		if all[i].Possible {
			continue
		}
		if n.Tests++; all[i].Why != "" {
			n.TestsThrough++
		}
	}
}

// through counts the functions whose calls may lead to a method that it overrides or implements.
func (n *Ways) through(ctx context.Context, g *Guide, p string, offset int) {
	_, calls := g.resolver.Incoming(ctx, p, offset, resolve.Scope{})
	for _, c := range calls {
		if c.Through != "" {
			n.Through++
		}
	}
}

// count adds the references of one file.
func (n *Ways) count(all []Answer, callers, possible map[string]bool) {
	refs := make([]*Answer, 0, len(all))
	for i := range all {
		r := &all[i]
		if !r.Possible {
			refs = append(refs, r)
			continue
		}
		if n.Possible++; r.Access == facts.Call {
			possible[r.caller()] = true
		}
	}
	if len(refs) == 0 {
		return
	}
	n.Files++
	n.References += len(refs)
	for _, r := range refs {
		switch r.Access {
		case facts.Write:
			n.Writes++
		case facts.ReadWrite:
			n.Writes++
			n.Reads++
		case facts.Call:
			n.Calls++
			callers[r.caller()] = true
		case facts.Read:
			n.Reads++
		}
	}
	if catalog.Set().IsTest(refs[0].Path) {
		n.InTests += len(refs)
	}
}

// caller is the function that a use stands in, to be told apart from others.
func (a *Answer) caller() string { return a.Path + "\x00" + a.In.Container + "." + a.In.Name }
