package resolve

import (
	"context"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/facts"
)

// Unused finds the definitions in the files that nothing in the project refers
// to, and hands them over as they are found, until report is false. An answer is
// inferred if nothing outside the project can refer to it either, and else by
// name. Left out is what is used without being named: entry points, tests, and
// what overrides or implements something. all are the files of the project,
// whose names for tests are as isTest says.
func (r *Resolver) Unused(ctx context.Context, all, files []string, isTest func(path string) bool, report func(Answer) bool) {
	used := r.namesUsed(ctx, all)
	var mu sync.Mutex
	r.inFiles(ctx, files, func(q *question, path string) bool {
		src := q.source(path)
		if src == nil || !codeLanguage(src) || isTest(path) {
			return true
		}
		for _, id := range src.Symbols() {
			ref := src.ref(id)
			if ctx.Err() != nil {
				return false
			}
			if !wanted(ref) || q.isUsed(ctx, ref, used) {
				continue
			}
			a := answer(ref, Inferred)
			if visible(ref) {
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

// codeLanguage says whether a file is in a language whose names are resolved.
func codeLanguage(src *source) bool {
	switch src.Language {
	case "Go", "Python", "JavaScript", "TypeScript", "Java", "C", "C++", "C#", "Rust", "Kotlin", "PHP", "Ruby", "Swift", "Lua", "Bash":
		return true
	}
	return false
}

// namesUsed are the names that files use, each with the files.
func (r *Resolver) namesUsed(ctx context.Context, files []string) map[string][]string {
	var mu sync.Mutex
	used := map[string][]string{}
	r.inFiles(ctx, files, func(q *question, path string) bool {
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
		mu.Lock()
		defer mu.Unlock()
		for n := range names {
			used[n] = append(used[n], path)
		}
		return true
	})
	return used
}

// wanted says whether it says something that a definition is not used.
func wanted(r ref) bool {
	d := r.def()
	if entryPoints[d.Name] || strings.HasPrefix(d.Name, "__") {
		return false
	}
	switch d.Kind {
	case facts.Function, facts.Method:
		if isTestName(d.Name) {
			return false
		}
	case facts.Class, facts.Interface, facts.Struct, facts.Enum, facts.Type, facts.Trait, facts.Union,
		facts.Field, facts.Property, facts.EnumMember, facts.Variable, facts.Constant, facts.Macro:
	default:
		return false
	}
	return d.Name != "" && d.Name != "_" && !marked(r)
}

// entryPoints are the names that are used from outside of all code.
var entryPoints = words("main init Main TestMain serialVersionUID")

func isTestName(name string) bool {
	for _, p := range []string{"Test", "Benchmark", "Example", "Fuzz", "test_"} {
		if strings.HasPrefix(name, p) {
			return true
		}
	}
	return false
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
	last := strings.TrimSpace(lines[len(lines)-1])
	if strings.HasPrefix(last, "@Override") {
		return false
	}
	return strings.HasPrefix(last, "@") || strings.HasPrefix(last, "#[") || strings.HasPrefix(last, "[")
}

// isUsed says whether anything refers to a definition, other than itself.
func (q *question) isUsed(ctx context.Context, r ref, used map[string][]string) bool {
	d := r.def()
	if (d.Kind == facts.Method || d.Kind == facts.Property) && (len(q.overridden(r)) > 0 || q.inherits(r)) {
		return true
	}
	t := &target{best: r, name: d.Name, same: map[definedAt]bool{r.at(): true}, family: familyOf(r.src.path), scope: Scope{Unsure: true}}
	for _, o := range q.again(r) {
		t.same[o.at()] = true
	}
	for _, path := range used[d.Name] {
		if familyOf(path) != t.family || ctx.Err() != nil {
			continue
		}
		src := q.source(path)
		if src == nil {
			continue
		}
		if slices.ContainsFunc(q.usesIn(src, t), func(u Reference) bool {
			return u.Path != r.src.path || u.At.Start < d.Full.Start || u.At.End > d.Full.End || !d.Kind.IsCallable() && u.At != d.At
		}) {
			return true
		}
	}
	return false
}

// inherits says whether the type of a member is derived from something outside
// the project, which may call the member.
func (q *question) inherits(r ref) bool {
	owner := q.owner(r)
	if !owner.ok() {
		return false
	}
	for _, t := range append([]ref{owner}, q.reach(context.Background(), owner, All, q.supertypes)...) {
		for _, s := range t.def().Supers {
			if !q.typeNamed(t.src, s, 0).named.ok() {
				return true
			}
		}
	}
	return false
}

// visible says whether code outside the project can name a definition.
func visible(r ref) bool {
	d := r.def()
	modifiers := d.Modifiers(r.src.text)
	has := func(word string) bool { return slices.Contains(modifiers, word) }
	switch r.src.Language {
	case "Go":
		return exported(d.Name) && r.src.Package != "main" && !strings.Contains("/"+r.src.path, "/internal/")
	case "Java", "C#", "PHP", "Swift":
		return has("public") || has("protected") || has("open")
	case "TypeScript", "JavaScript":
		return has("export") || d.Container != "" && !has("private")
	case "Rust":
		return has("pub")
	case "Kotlin":
		return !has("private") && !has("internal")
	case "C", "C++":
		return !has("static")
	}
	return !strings.HasPrefix(d.Name, "_")
}
