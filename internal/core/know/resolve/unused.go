package resolve

import (
	"bytes"
	"context"
	"slices"
	"strconv"
	"strings"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
)

// Unused finds the definitions in the files that nothing in the project refers
// to, and hands them over as they are found, until report is false. An answer is
// inferred if nothing outside the project can refer to it either, and else by
// name. Left out is what is used without being named: entry points, tests, and
// what overrides or implements something; and what a program has written, which nobody
// takes out by hand. all are the files of the project.
func (r *Resolver) Unused(ctx context.Context, all, files []string, languages *lang.Set, report func(Answer) bool) {
	asked := r.ask(ctx)
	used := asked.namesUsed(all)
	var mu sync.Mutex
	asked.inFiles(files, func(q *question, path string) bool {
		src := q.source(path)
		if src == nil || !src.lang.Outside.Unused.Is() || languages.IsTest(path) || languages.IsGenerated(path, src.text) {
			return true
		}
		for _, id := range src.Symbols() {
			ref := src.ref(id)
			if !wanted(ref) || q.isUsed(ref, used) {
				continue
			}
			if ctx.Err() != nil { // then not all that might use it was looked into
				return false
			}
			a := answer(ref, Inferred)
			if src.visible(ref.def()) {
				a.Certainty = ByName
			}
			mu.Lock()
			more := report(a)
			mu.Unlock()
			if !more {
				return false
			}
		}
		return true
	})
}

// namesUsed are the names that files use.
type namesUsed struct {
	// by are the files that use a name.
	by map[string][]string
	// directed are names that stand in lines which are read before all others, as in the body of a macro: nobody knows what they mean
	// where that is used. They are told apart by the families of languages.
	directed map[string]map[string]bool
}

func (q *question) namesUsed(files []string) *namesUsed {
	var mu sync.Mutex
	used := &namesUsed{map[string][]string{}, map[string]map[string]bool{}}
	q.inFiles(files, func(q *question, path string) bool {
		src := q.source(path)
		if src == nil {
			return true
		}
		names := map[string]bool{}
		for i := range src.Uses {
			names[src.Uses[i].Name] = true
		}
		for _, imp := range src.Imports {
			names[imp.Name] = true
		}
		var directed []string
		if signs := q.code.Languages().Signs(path); signs != nil && signs.Directives != "" {
			directed = directedWords(src.text, signs.Directives)
		}
		mu.Lock()
		defer mu.Unlock()
		for n := range names {
			used.by[n] = append(used.by[n], path)
		}
		for _, n := range directed {
			if used.directed[src.lang.Family] == nil {
				used.directed[src.lang.Family] = map[string]bool{}
			}
			used.directed[src.lang.Family][n] = true
		}
		return true
	})
	return used
}

// directedWords are the words of a text in lines that begin with a sign, and in those that go on such a line, without the two
// first of each: what the line does, and the name that it defines.
func directedWords(data []byte, sign string) (words []string) {
	goesOn := false
	for line := range bytes.Lines(data) {
		rest := bytes.TrimLeft(line, " \t")
		if !goesOn && !bytes.HasPrefix(rest, []byte(sign)) {
			continue
		}
		all := bytes.FieldsFunc(rest, func(r rune) bool { return !text.InWord(r) })
		if !goesOn {
			all = all[min(2, len(all)):]
		}
		for _, w := range all {
			words = append(words, string(w))
		}
		goesOn = bytes.HasSuffix(bytes.TrimRight(line, " \t\r\n"), []byte("\\"))
	}
	return words
}

// wanted says whether it says something that a definition is not used.
func wanted(r ref) bool {
	d := r.def()
	if r.src.lang.Outside.Entries[d.Name] || strings.HasPrefix(d.Name, "__") {
		return false
	}
	switch d.Kind {
	case facts.Function, facts.Method:
		if r.src.isTest(d.Name) {
			return false
		}
	case facts.Class, facts.Interface, facts.Struct, facts.Enum, facts.Type, facts.Trait, facts.Union,
		facts.Field, facts.Property, facts.EnumMember, facts.Variable, facts.Constant, facts.Macro:
	default:
		return false
	}
	return d.Name != "" && d.Name != "_" && !marked(r) && !holdsEntry(r)
}

// holdsEntry says whether a type is used from outside of all code, by what it holds.
func holdsEntry(r ref) bool {
	d := r.def()
	if !d.Kind.IsType() || d.Body == 0 {
		return false
	}
	for name := range r.src.lang.Outside.Entries {
		for _, id := range r.src.scoped[scopedName{d.Body, name}] {
			if r.src.Defs[id].Kind.IsCallable() {
				return true
			}
		}
	}
	return false
}

// isTest says whether a function is a test by its name.
func (s *source) isTest(name string) bool {
	return slices.ContainsFunc(s.lang.Tests.Functions, func(p string) bool { return strings.HasPrefix(name, p) })
}

// marked says whether an annotation or a decorator stands before a definition,
// which may mean that something finds it by that.
func marked(r ref) bool {
	d := r.def()
	from := max(0, int(d.Head.Start)-200)
	if int(d.Full.Start) < int(d.Head.Start) {
		from = int(d.Full.Start)
	}
	before := strings.TrimRight(string(r.src.text[from:min(len(r.src.text), int(d.Head.Start)+1)]), " \t\r\n")
	lines := strings.Split(before, "\n")
	return slices.ContainsFunc(lines[max(0, len(lines)-2):], func(line string) bool { // it may stand on the line before
		begins := func(mark string) bool { return strings.HasPrefix(strings.TrimSpace(line), mark) }
		return slices.ContainsFunc(r.src.lang.Outside.Marks, begins) && !slices.ContainsFunc(r.src.lang.Outside.Unmarked, begins)
	})
}

// isUsed says whether anything refers to a definition, other than itself.
func (q *question) isUsed(r ref, used *namesUsed) bool {
	d := r.def()
	if used.directed[r.src.lang.Family][d.Name] {
		return true
	}
	if d.Kind == facts.Method && calledByLibrary(r) {
		return true
	}
	if (d.Kind == facts.Method || d.Kind == facts.Property) && (len(q.overridden(r)) > 0 || q.inherits(r)) {
		return true
	}
	t := &target{best: r, name: d.Name, names: []string{d.Name}, same: map[definedAt]bool{r.at(): true}, family: q.family(r.src.path), scope: Scope{Unsure: true}}
	for _, o := range q.again(r) {
		t.same[o.at()] = true
	}
	for _, path := range used.by[d.Name] {
		if q.family(path) != t.family || q.ctx.Err() != nil {
			continue
		}
		src := q.source(path)
		if src == nil {
			continue
		}
		refs, _ := q.usesIn(src, t)
		if slices.ContainsFunc(refs, func(u Reference) bool {
			return u.Path != r.src.path || u.At.Start < d.Full.Start || u.At.End > d.Full.End || !d.Kind.IsCallable() && u.At != d.At
		}) {
			return true
		}
	}
	return d.Kind == facts.Method && len(q.overriding(r)) > 0 // it is used by way of those
}

// calledByLibrary says whether the library of the language is likely to call a
// method, which the type need not say there.
func calledByLibrary(r ref) bool {
	d, called := r.def(), r.src.lang.Outside.Called
	return called[d.Name] || called[d.Name+"/"+strconv.Itoa(max(0, d.Parameters-1))]
}

// inherits says whether the type of a member is derived from something outside
// the project, which may call the member.
func (q *question) inherits(r ref) bool {
	owner := q.owner(r)
	if !owner.ok() {
		return false
	}
	for _, t := range append([]ref{owner}, q.reach(owner, All, q.supertypes)...) {
		for _, s := range t.def().Supers {
			if !q.typeNamed(t.src, s, 0).named.ok() {
				return true
			}
		}
	}
	return false
}

// visible says whether code outside the project can name a definition.
func (s *source) visible(d *facts.Def) bool {
	return s.lang.Outside.Visible(lang.Symbol{Def: d, Path: s.path, Package: s.Package, Modifiers: d.Modifiers(s.text)})
}
