package answer

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
)

// Way is a direction in which one can go from a name.
type Way uint8

// The ways.
const (
	ToDefinition Way = iota
	ToType
	ToImplementations
	ToSupers // what it is derived from, overrides or implements
	ToReferences
	ToCallers
	ToCalled
	ToValues
	ToTests
	ToSubs // what is derived from it, overrides or implements it
	// Two lead from a file, wherever in it one asks.
	ToImporters // who imports it
	ToImported  // what it imports
)

var wayNames = [...]string{"definition", "type", "implementations", "supers", "references", "callers", "called", "values", "tests", "subs", "importers", "imported"}

// OfFile says whether the way leads from a file, and not from a name in it.
func (w Way) OfFile() bool { return w == ToImporters || w == ToImported }

// String names the way as it is kept.
func (w Way) String() string { return wayNames[w] }

// ParseWay reads the name of a way.
func ParseWay(name string) (Way, bool) {
	i := slices.Index(wayNames[:], name)
	return Way(max(i, 0)), i >= 0
}

// Question asks where a way leads from a name.
type Question struct {
	Way Way
	// Path is the file of the name, Offset a byte offset in it.
	Path   string
	Offset int
	// Scope says how much counts as a reference.
	Scope resolve.Scope
	// Level says how far to go up or down, of ToSupers and ToSubs.
	Level resolve.Level
}

// On asks where a way leads from the name at a byte offset of a file, as far as it goes.
func (w Way) On(path string, offset int) Question {
	return Question{Way: w, Path: path, Offset: offset, Level: resolve.All}
}

// Ask finds where a way leads. The answers are handed over as they are found, those of a
// file together where there may be many, until report is false; the result says what
// the name means. It is the one door for whoever asks about a name.
func (g *Guide) Ask(ctx context.Context, q Question, report func([]Answer) bool) resolve.Result {
	res, definitions, others := resolve.Result{}, []resolve.Answer(nil), []Answer(nil)
	switch q.Way {
	case ToDefinition:
		res, others = g.definitions(ctx, q.Path, q.Offset)
	case ToType:
		res = g.resolver.TypeDefinition(ctx, q.Path, q.Offset)
		definitions = res.Answers
	case ToImplementations:
		res = g.resolver.Implementations(ctx, q.Path, q.Offset)
		others = g.defined(ctx, res.Answers)
		possible := g.defined(ctx, res.Possible)
		for i := range possible {
			possible[i].Possible = true
		}
		others = append(others, possible...)
	case ToSupers:
		res = g.resolver.Supertypes(ctx, q.Path, q.Offset, q.Level)
		definitions = res.Answers
	case ToSubs:
		res = g.resolver.Subtypes(ctx, q.Path, q.Offset, q.Level)
		definitions = res.Answers
	case ToReferences:
		return g.references(ctx, q, report)
	case ToImporters, ToImported:
		return g.acrossFiles(ctx, q, report)
	case ToCallers, ToCalled:
		return g.calls(ctx, q, report)
	case ToValues:
		res, others = g.values(ctx, q.Path, q.Offset)
	case ToTests:
		res, others = g.tests(ctx, q.Path, q.Offset)
	}
	if others == nil {
		others = g.defined(ctx, definitions)
	}
	if len(others) > 0 {
		report(others)
	}
	return res
}

// All is Ask with all answers at once: those that are the best first, of references
// those that are sure, then the near ones, each file in the order of its lines.
func (g *Guide) All(ctx context.Context, q Question) (resolve.Result, []Answer) {
	var all []Answer
	res := g.Ask(ctx, q, func(some []Answer) bool {
		all = append(all, some...)
		return true
	})
	if q.Way == ToReferences {
		slices.SortFunc(all, func(a, b Answer) int {
			return cmp.Or(cmp.Compare(a.Certainty, b.Certainty), cmp.Compare(far(q.Path, a.Path), far(q.Path, b.Path)),
				strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
		})
	}
	return res, all
}

// MostFound is how many references are looked for before it is enough for a list: a
// list of more is no help, and the names of basic types have tens of thousands.
const MostFound = 20000

// Along is All as a list has it, grouped by file: the file itself first, then the near
// ones, those of tests last; what is sure before what is not. Of functions that call,
// it has the calls. It stops at MostFound references. Asked at a declaration, files that
// write come before those that only read. What has an order of its own keeps it. Answers that are
// only possible come last.
func (g *Guide) Along(ctx context.Context, way Way, p string, offset int) (resolve.Result, []Answer) {
	var all []Answer
	res := g.Ask(ctx, Question{Way: way, Path: p, Offset: offset, Level: resolve.All, Scope: resolve.Scope{Possible: true}}, func(some []Answer) bool {
		if way == ToCallers {
			some = g.sites(ctx, some)
		}
		all = append(all, some...)
		return len(all) < MostFound
	})
	switch way {
	case ToReferences, ToCallers, ToImplementations, ToValues, ToImporters:
		sortByFile(all, p, g.isDeclaration(ctx, p, offset))
	}
	return res, all
}

// calledThrough is the role of a call that may lead elsewhere, as one of a method of an interface may.
const calledThrough = "may call"

// sites are the calls in functions that call.
func (g *Guide) sites(ctx context.Context, callers []Answer) (all []Answer) {
	for _, c := range callers {
		for _, s := range c.Sites {
			f, err := g.code.Load(ctx, s.Path)
			if err != nil {
				continue // it has gone since
			}
			a := at(f, nameAt(f, f.Text.Offset(s.Line, s.Col)))
			a.Role, a.Access, a.In, a.Symbol, a.Certainty, a.Through, a.Why = facts.Call.String(), facts.Call, c.Answer, qualified(c.Answer), c.Certainty, c.Through, c.Why
			a.Possible = c.Possible
			if c.Through != "" {
				a.Role = calledThrough
			}
			all = append(all, a)
		}
	}
	return all
}

// isDeclaration says whether what stands at an offset is a definition itself.
func (g *Guide) isDeclaration(ctx context.Context, p string, offset int) bool {
	f, err := g.code.Load(ctx, p)
	return err == nil && f.Facts != nil && f.Facts.DefAt(offset) != facts.NoDef
}

// sortByFile groups answers by file, in the order that Along promises.
func sortByFile(all []Answer, from string, writesFirst bool) {
	type group struct {
		certainty resolve.Certainty
		writes    bool
	}
	groups := map[string]*group{}
	for i := range all {
		of := groups[all[i].Path]
		if of == nil {
			of = &group{certainty: all[i].Certainty}
			groups[all[i].Path] = of
		}
		of.certainty = min(of.certainty, all[i].Certainty)
		of.writes = of.writes || all[i].gives()
	}
	rank := func(a *Answer) int {
		of, n := groups[a.Path], 0
		if a.Test && a.Path != from {
			n += 4
		}
		if of.certainty == resolve.ByName {
			n += 2
		}
		if writesFirst && !of.writes {
			n++
		}
		return n
	}
	slices.SortStableFunc(all, func(a, b Answer) int {
		return cmp.Or(compare(a.Possible, b.Possible), cmp.Compare(rank(&a), rank(&b)), cmp.Compare(far(from, a.Path), far(from, b.Path)),
			strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
	})
}

// compare puts what is so behind what is not.
func compare(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// gives says whether something is given a value there.
func (a *Answer) gives() bool {
	return a.Access == facts.Write || a.Access == facts.ReadWrite || a.flow.gives()
}

// far is how far apart two files are; 0 is the same file.
func far(a, b string) int {
	if a == b {
		return 0
	}
	return 1 + place.Distance(a, b)
}
