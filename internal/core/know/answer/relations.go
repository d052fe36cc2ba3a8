package answer

import (
	"cmp"
	"context"
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
)

// references hands over the uses of what a name means, file by file.
func (g *Guide) references(ctx context.Context, q Question, report func([]Answer) bool) resolve.Result {
	told, more := map[place.Place]bool{}, true
	res := g.resolver.References(ctx, q.Path, q.Offset, q.Scope, func(refs []resolve.Reference) bool {
		f, err := g.code.Load(ctx, refs[0].Path)
		if err != nil {
			return true // it has gone since
		}
		some := make([]Answer, 0, len(refs))
		for _, r := range refs {
			a := used(f, r)
			if r.Access == facts.ImportUse {
				told[place.Place{Path: a.Path, Line: a.Line}] = true
			}
			some = append(some, a)
		}
		more = report(some)
		return more
	})
	if module, ok := moduleOf(res); ok && more {
		g.importers(ctx, module, told, report)
	}
	return res
}

// moduleOf is the file or folder that a name or the path of an import stands for, if it stands for one of the project.
func moduleOf(res resolve.Result) (p string, ok bool) {
	if len(res.Answers) == 0 {
		return "", false
	}
	a := res.Answers[0]
	return a.Path, a.Kind == facts.Package && a.At.Len() == 0 && a.Certainty != resolve.ByName && !path.IsAbs(a.Path)
}

// importers hands over where files import a file or a folder, but for the lines that were told of already.
func (g *Guide) importers(ctx context.Context, module string, told map[place.Place]bool, report func([]Answer) bool) {
	all, err := g.imports.All(ctx)
	if err != nil {
		return // nobody wants to know any more
	}
	for _, file := range slices.Sorted(maps.Keys(all)) {
		var some []Answer
		for _, imp := range all[file] {
			if imp.To != module {
				continue
			}
			f, err := g.code.Load(ctx, file)
			if err != nil || f.Facts == nil {
				break // it has gone since
			}
			said := slices.IndexFunc(f.Facts.Imports, func(i facts.Imported) bool { return i.Path == imp.Path && i.Level == imp.Level && i.At.Len() > 0 })
			if said < 0 {
				continue
			}
			at := f.Facts.Imports[said].At
			a := used(f, resolve.Reference{Path: file, At: at, Name: string(at.In(f.Text.Bytes())), Access: facts.ImportUse, Certainty: resolve.Inferred})
			if key := (place.Place{Path: file, Line: a.Line}); !told[key] {
				told[key] = true
				some = append(some, a)
			}
		}
		if len(some) > 0 && !report(some) {
			return
		}
	}
}

// acrossFiles hands over who imports a file, or the folder it is a part of where that is what is imported; or what it imports of
// the project.
func (g *Guide) acrossFiles(ctx context.Context, q Question, report func([]Answer) bool) resolve.Result {
	res := resolve.Result{Name: path.Base(q.Path)}
	all, err := g.imports.All(ctx)
	if err != nil {
		return res // nobody wants to know any more
	}
	if q.Way == ToImporters {
		told, more := map[place.Place]bool{}, true
		once := func(some []Answer) bool {
			more = report(some)
			return more
		}
		if g.importers(ctx, q.Path, told, once); more {
			g.importers(ctx, path.Dir(q.Path), told, once)
		}
		for _, r := range g.resolver.Rendering(ctx, q.Path) {
			if f, err := g.code.Load(ctx, r.Path); err == nil && more {
				once([]Answer{used(f, r)})
			}
		}
		return res
	}
	seen := map[string]bool{}
	for _, imp := range all[q.Path] {
		if imp.To == "" || seen[imp.To] || ctx.Err() != nil {
			continue
		}
		seen[imp.To] = true
		to := g.module(ctx, resolve.Answer{Path: imp.To, Name: path.Base(imp.To), Kind: facts.Module, Certainty: resolve.Inferred})
		to.Symbol = ""
		if !report([]Answer{to}) {
			break
		}
	}
	return res
}

// calls hands over the functions that call what a name means, or else those that it
// calls.
func (g *Guide) calls(ctx context.Context, q Question, report func([]Answer) bool) resolve.Result {
	res, calls := resolve.Result{}, []resolve.Calls(nil)
	if q.Way == ToCallers {
		res, calls = g.resolver.Incoming(ctx, q.Path, q.Offset, q.Scope)
	} else {
		res, calls = g.resolver.Outgoing(ctx, q.Path, q.Offset)
	}
	for _, c := range calls {
		some := g.defined(ctx, []resolve.Answer{c.Answer})
		f, err := g.code.Load(ctx, c.SitePath)
		if len(some) == 0 || err != nil {
			continue
		}
		some[0].Possible, some[0].Certainty = c.Possible, c.Certainty
		if some[0].Through = c.Through; c.Through != "" {
			some[0].Why = "through " + c.Through
		}
		for _, s := range c.Sites {
			line, col := f.Text.Position(int(s.Start))
			some[0].Sites = append(some[0].Sites, place.Place{Path: c.SitePath, Line: line, Col: col})
		}
		if !report(some) {
			break
		}
	}
	return res
}

// Unused hands over the definitions in a folder that nothing in the project
// refers to, in no particular order, until report is false; see
// resolve.Resolver.Unused.
func (g *Guide) Unused(ctx context.Context, folder string, report func(Answer) bool) {
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
	g.resolver.Unused(ctx, all, files, g.code.Languages(), func(a resolve.Answer) bool {
		found := g.defined(ctx, []resolve.Answer{a})
		return len(found) == 0 || report(found[0])
	})
}

// tests finds the tests of what the name at an offset means; inside a test, what
// that tests. What is named alike comes first, then what is used.
func (g *Guide) tests(ctx context.Context, p string, offset int) (resolve.Result, []Answer) {
	res := g.resolver.Definition(ctx, p, offset)
	if len(res.Answers) == 0 {
		return res, []Answer{}
	}
	best := res.Answers[0]
	if g.isTestCode(ctx, best) {
		return res, g.defined(ctx, g.tested(ctx, best))
	}
	return res, g.testsOf(ctx, p, offset, best)
}

// isTestCode says whether a definition belongs to tests.
func (g *Guide) isTestCode(ctx context.Context, a resolve.Answer) bool {
	if g.code.Languages().IsTest(a.Path) {
		return true
	}
	f, err := g.code.Load(ctx, a.Path)
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

// testsOf finds the functions in tests that use a definition, those that are called like it first, then those that reach
// it through other functions.
func (g *Guide) testsOf(ctx context.Context, p string, offset int, of resolve.Answer) []Answer {
	t := testing{guide: g, of: of, seen: map[place.Place]bool{}}
	for _, name := range testNames(of) {
		for _, s := range g.code.Index().Named(name) {
			if path.Ext(s.Path) == path.Ext(of.Path) {
				t.add(ctx, resolve.Answer{Path: s.Path, At: place.Range{Start: uint32(s.Offset), End: uint32(s.Offset + len(s.Name))},
					Name: s.Name, Container: s.Container, Kind: s.Kind, Certainty: resolve.ByName}, nil, false)
			}
		}
	}
	t.uses(ctx, p, offset, nil)
	t.through(ctx)
	return t.found
}

// How far tests are looked for that reach a function through others: in so many steps, by way of so many functions, until
// there are so many.
const (
	mostSteps     = 4
	mostReached   = 40
	mostTestsThen = 60
)

// testing is the search for the tests of something.
type testing struct {
	guide *Guide
	of    resolve.Answer
	seen  map[place.Place]bool
	found []Answer
	// next are functions that are no tests, through which some may reach it, each with the way on from there.
	next []reaching
}

// reaching is a function with those through which it reaches what is tested, and how that is known.
type reaching struct {
	resolve.Answer
	by       []string
	possible bool
}

// add takes a test, or notes another function.
func (t *testing) add(ctx context.Context, a resolve.Answer, by []string, possible bool) {
	key := place.Place{Path: a.Path, Line: int(a.At.Start)}
	if a.Name == "" || t.seen[key] {
		return
	}
	t.seen[key] = true
	if !t.guide.isTestCode(ctx, a) {
		if a.Kind.IsCallable() && len(by) < mostSteps && !possible && !path.IsAbs(a.Path) {
			t.next = append(t.next, reaching{a, append([]string{qualified(a)}, by...), possible})
		}
		return
	}
	for _, d := range t.guide.defined(ctx, []resolve.Answer{a}) {
		if len(by) > 0 {
			d.Why = "through " + strings.Join(by, ", ")
		}
		d.Possible = possible
		t.found = append(t.found, d)
	}
}

// uses takes the functions that use what stands at an offset.
func (t *testing) uses(ctx context.Context, p string, offset int, by []string) {
	var using []reaching
	t.guide.resolver.References(ctx, p, offset, resolve.Scope{Possible: len(by) == 0}, func(refs []resolve.Reference) bool {
		for _, r := range refs {
			if r.Access == facts.ImportUse || len(by) > 0 && r.Access != facts.Call {
				continue
			}
			if r.In.Name == "" && t.guide.code.Languages().IsTest(r.Path) { // outside of all functions
				r.In = resolve.Answer{Path: r.Path, At: r.At, Name: r.Name, Kind: facts.Module}
			}
			r.In.Certainty = r.Certainty
			using = append(using, reaching{r.In, by, r.Possible})
		}
		return true
	})
	slices.SortStableFunc(using, func(a, b reaching) int {
		return cmp.Or(compare(a.possible, b.possible), cmp.Compare(far(t.of.Path, a.Path), far(t.of.Path, b.Path)), strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	for _, a := range using {
		t.add(ctx, a.Answer, by, a.possible)
	}
}

// through goes on from the functions that use it to those that call these.
func (t *testing) through(ctx context.Context) {
	for n := 0; n < len(t.next) && n < mostReached && len(t.found) < mostTestsThen && ctx.Err() == nil; n++ {
		f := t.next[n]
		t.uses(ctx, f.Path, int(f.At.Start), f.by)
	}
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
		if a := c.Answer; a.Name != "" && !g.isTestCode(ctx, a) && !path.IsAbs(a.Path) {
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
