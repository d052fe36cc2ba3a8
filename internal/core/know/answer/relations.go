package answer

import (
	"cmp"
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// TypeDefinition finds the type of the value at a byte offset of a file.
func (g *Guide) TypeDefinition(ctx context.Context, path string, offset int) (resolve.Result, []Spot) {
	r := g.resolver.TypeDefinition(path, offset)
	return r, g.Spots(ctx, r.Answers)
}

// Implementations finds what implements the type or method at an offset.
func (g *Guide) Implementations(ctx context.Context, path string, offset int) (resolve.Result, []Spot) {
	r := g.resolver.Implementations(ctx, path, offset)
	return r, g.Spots(ctx, r.Answers)
}

// Supertypes finds what the type at an offset is derived from, or what the
// method there overrides or implements.
func (g *Guide) Supertypes(ctx context.Context, path string, offset int, level resolve.Level) (resolve.Result, []Spot) {
	r := g.resolver.Supertypes(ctx, path, offset, level)
	return r, g.Spots(ctx, r.Answers)
}

// Subtypes finds what is derived from the type at an offset, or overrides the
// method there.
func (g *Guide) Subtypes(ctx context.Context, path string, offset int, level resolve.Level) (resolve.Result, []Spot) {
	r := g.resolver.Subtypes(ctx, path, offset, level)
	return r, g.Spots(ctx, r.Answers)
}

// Reference is a use of a definition, with its line.
type Reference struct {
	resolve.Reference
	Line, Col int // counted from 1, Col in bytes
	Text      string
}

// Place is where the reference is.
func (r *Reference) Place() place.Place { return place.Place{Path: r.Path, Line: r.Line, Col: r.Col} }

// EachReference hands over the references to what the name at an offset means,
// file by file, until report is false.
func (g *Guide) EachReference(ctx context.Context, path string, offset int, scope resolve.Scope, report func([]Reference) bool) resolve.Result {
	return g.resolver.References(ctx, path, offset, scope, func(refs []resolve.Reference) bool {
		f, err := g.code.Load(ctx, refs[0].Path)
		if err != nil {
			return true // it has gone since
		}
		lines := make([]Reference, 0, len(refs))
		for _, r := range refs {
			line, col := f.Text.Position(int(r.At.Start))
			lines = append(lines, Reference{Reference: r, Line: line, Col: col, Text: search.LineText(f.Text, line)})
		}
		return report(lines)
	})
}

// References finds all references to what the name at an offset means: those
// that are sure first, then the near ones, each file in the order of its lines.
func (g *Guide) References(ctx context.Context, path string, offset int, scope resolve.Scope) (resolve.Result, []Reference) {
	var all []Reference
	res := g.EachReference(ctx, path, offset, scope, func(refs []Reference) bool {
		all = append(all, refs...)
		return true
	})
	slices.SortFunc(all, func(a, b Reference) int {
		return cmp.Or(cmp.Compare(a.Certainty, b.Certainty), cmp.Compare(far(path, a.Path), far(path, b.Path)),
			strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	return res, all
}

// far is how far apart two files are; 0 is the same file.
func far(a, b string) int {
	if a == b {
		return 0
	}
	return 1 + place.Distance(a, b)
}

// Caller is a function that calls or is called, with its line and the places of
// the calls.
type Caller struct {
	Spot
	// Through is the method of an interface or supertype that may stand for the
	// one called; "" for a call that is said outright.
	Through string
	Sites   []place.Place
}

// Calls finds the functions that call what the name at an offset means, or
// else those that it calls.
func (g *Guide) Calls(ctx context.Context, path string, offset int, incoming bool) (resolve.Result, []Caller) {
	ask := g.resolver.Outgoing
	if incoming {
		ask = g.resolver.Incoming
	}
	res, calls := ask(ctx, path, offset)
	var callers []Caller
	for _, c := range calls {
		spots := g.Spots(ctx, []resolve.Answer{c.Answer})
		f, err := g.code.Load(ctx, c.SitePath)
		if len(spots) == 0 || err != nil {
			continue
		}
		caller := Caller{Spot: spots[0], Through: c.Through}
		for _, s := range c.Sites {
			line, col := f.Text.Position(int(s.Start))
			caller.Sites = append(caller.Sites, place.Place{Path: c.SitePath, Line: line, Col: col})
		}
		callers = append(callers, caller)
	}
	return res, callers
}

// Unused hands over the definitions in a folder that nothing in the project
// refers to, in no particular order, until report is false; see
// resolve.Resolver.Unused.
func (g *Guide) Unused(ctx context.Context, folder string, report func(Spot) bool) {
	var all, files []string
	for f := range g.code.Listing().Files() {
		if g.code.Languages().Of(f.Path) == nil {
			continue
		}
		all = append(all, f.Path)
		if folder == "." || f.Path == folder || strings.HasPrefix(f.Path, folder+"/") {
			files = append(files, f.Path)
		}
	}
	slices.Sort(all)
	slices.Sort(files)
	g.resolver.Unused(ctx, all, files, g.code.Languages().IsTest, func(a resolve.Answer) bool {
		spots := g.Spots(ctx, []resolve.Answer{a})
		return len(spots) == 0 || report(spots[0])
	})
}

// Tests finds the tests of what the name at an offset means; inside a test, what
// that tests. What is named alike comes first, then what is used.
func (g *Guide) Tests(ctx context.Context, p string, offset int) (resolve.Result, []Spot) {
	res := g.resolver.Definition(p, offset)
	if len(res.Answers) == 0 {
		return res, nil
	}
	best := res.Answers[0]
	var found []resolve.Answer
	if g.isTestCode(best) {
		found = g.tested(ctx, best)
	} else {
		found = g.testsOf(ctx, p, offset, best)
	}
	res.Answers = found
	return res, g.Spots(ctx, found)
}

// isTestCode says whether a definition belongs to tests.
func (g *Guide) isTestCode(a resolve.Answer) bool {
	if g.code.Languages().IsTest(a.Path) {
		return true
	}
	f, err := g.code.Load(context.Background(), a.Path)
	if err != nil || f.Facts == nil {
		return false
	}
	for _, id := range f.Facts.Around(int(a.At.Start)) {
		if d := &f.Facts.Defs[id]; d.Kind.IsSpace() && (d.Name == "tests" || d.Name == "test") {
			return true
		}
	}
	return false
}

// testsOf finds the functions in tests that use a definition, and those that
// are called like it.
func (g *Guide) testsOf(ctx context.Context, p string, offset int, of resolve.Answer) (found []resolve.Answer) {
	seen := map[place.Place]bool{}
	add := func(a resolve.Answer) {
		key := place.Place{Path: a.Path, Line: int(a.At.Start)}
		if a.Name != "" && !seen[key] && g.isTestCode(a) {
			seen[key] = true
			found = append(found, a)
		}
	}
	for _, name := range testNames(of) {
		for _, s := range g.code.Index().Named(name) {
			if path.Ext(s.Path) == path.Ext(of.Path) {
				add(resolve.Answer{Path: s.Path, At: place.Range{Start: uint32(s.Offset), End: uint32(s.Offset + len(s.Name))},
					Name: s.Name, Container: s.Container, Kind: s.Kind, Certainty: resolve.ByName})
			}
		}
	}
	var using []resolve.Answer
	g.resolver.References(ctx, p, offset, resolve.Scope{}, func(refs []resolve.Reference) bool {
		for _, r := range refs {
			if r.Access != facts.ImportUse {
				r.In.Certainty = r.Certainty
				using = append(using, r.In)
			}
		}
		return true
	})
	slices.SortFunc(using, func(a, b resolve.Answer) int {
		return cmp.Or(cmp.Compare(far(of.Path, a.Path), far(of.Path, b.Path)), strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	for _, a := range using {
		add(a)
	}
	return found
}

// testNames are what the languages call the tests of something by custom.
func testNames(of resolve.Answer) []string {
	name := of.Name
	upper := strings.ToUpper(name[:1]) + name[1:]
	names := []string{"Test" + upper, "Test_" + name, "test_" + name, "test" + upper, upper + "Test", upper + "Tests", "Benchmark" + upper, "Example" + upper, "Fuzz" + upper}
	if of.Container != "" {
		names = append([]string{"Test" + of.Container + "_" + name, "Test" + of.Container + upper, "Example" + of.Container + "_" + name, "test_" + of.Container + "_" + name}, names...)
	}
	return names
}

// tested finds what a test uses of the code that is no test, that first which
// it is called after.
func (g *Guide) tested(ctx context.Context, test resolve.Answer) (found []resolve.Answer) {
	_, calls := g.resolver.Outgoing(ctx, test.Path, int(test.At.Start))
	for _, c := range calls {
		if a := c.Answer; a.Name != "" && !g.isTestCode(a) && !path.IsAbs(a.Path) {
			found = append(found, a)
		}
	}
	slices.SortStableFunc(found, func(a, b resolve.Answer) int {
		return cmp.Compare(calledAfter(test.Name, a), calledAfter(test.Name, b))
	})
	return found
}

// calledAfter is 0 if a test is named after a definition, else 1.
func calledAfter(test string, of resolve.Answer) int {
	if slices.Contains(testNames(of), test) || len(of.Name) > 3 && strings.Contains(strings.ToLower(test), strings.ToLower(of.Name)) {
		return 0
	}
	return 1
}

// TestFiles are the files that test a file, by what they are called; of a file
// of tests, the files that it tests. The near ones come first.
func (g *Guide) TestFiles(p string) (files []string) {
	stem, test := subject(p)
	l := g.code.Languages().Of(p)
	for f := range g.code.Listing().Files() {
		if other, isTest := subject(f.Path); other == stem && isTest != test && l != nil && g.code.Languages().Of(f.Path) == l {
			files = append(files, f.Path)
		}
	}
	slices.SortFunc(files, func(a, b string) int {
		return cmp.Or(cmp.Compare(far(p, a), far(p, b)), strings.Compare(a, b))
	})
	return files
}

// subject is what a file is about, by its name, and whether it tests that.
func subject(p string) (stem string, test bool) {
	stem, _, _ = strings.Cut(path.Base(p), ".")
	for _, end := range []string{"_test", "_tests", "_spec", "Tests", "Test", "Spec", "-test", "-spec"} {
		if s, ok := strings.CutSuffix(stem, end); ok && s != "" {
			return s, true
		}
	}
	for _, begin := range []string{"test_", "Test"} {
		if s, ok := strings.CutPrefix(stem, begin); ok && s != "" {
			return s, true
		}
	}
	return stem, catalog.Set().IsTest(p)
}
