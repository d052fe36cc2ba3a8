package resolve

import (
	"context"
	"slices"
	"strconv"
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
	if d.Kind == facts.Method && calledByLibrary(r) {
		return true
	}
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

// librarysMethods are, by language, the methods by which values fit what its own
// library expects of them, each with how many parameters it has.
var librarysMethods = map[string]map[string]bool{
	"Go": words(`String/0 GoString/0 Error/0 Unwrap/0 Is/1 As/1 Format/2 Read/1 Write/1 Close/0 Seek/2 ReadAt/2 WriteAt/2 ReadFrom/1
		WriteTo/1 ReadByte/0 UnreadByte/0 WriteByte/1 ReadRune/0 UnreadRune/0 WriteString/1 Len/0 Less/2 Swap/2 Push/1 Pop/0
		MarshalJSON/0 UnmarshalJSON/1 MarshalText/0 UnmarshalText/1 AppendText/1 MarshalBinary/0 UnmarshalBinary/1 AppendBinary/1
		MarshalXML/2 UnmarshalXML/2 GobEncode/0 GobDecode/1 ServeHTTP/2 RoundTrip/1 Flush/0 Hijack/0 Scan/1 Scan/2 Value/0 Set/1 Type/0 IsBoolFlag/0
		Lock/0 Unlock/0 Done/0 Deadline/0 Err/0 Timeout/0 Temporary/0 Network/0 Addr/0 Accept/0 LocalAddr/0 RemoteAddr/0
		SetDeadline/1 SetReadDeadline/1 SetWriteDeadline/1 Open/1 Stat/0 ReadDir/1 Name/0 Size/0 Mode/0 ModTime/0 IsDir/0 Sys/0
		Sum/1 Reset/0 BlockSize/0 Handle/2 Enabled/2 WithAttrs/1 WithGroup/1 LogValue/0 Visit/1 Generate/2`),
	"Java": words(`toString/0 equals/1 hashCode/0 compareTo/1 compare/2 run/0 call/0 close/0 clone/0 finalize/0 iterator/0 hasNext/0 next/0
		readObject/1 writeObject/1 readResolve/0 writeReplace/0 get/0 accept/1 apply/1 test/1`),
	"Rust":   words("drop/0 fmt/1 next/0 clone/0 eq/1 cmp/1 partial_cmp/1 hash/1 from/1 into/0 deref/0 index/1 poll/1 default/0"),
	"Ruby":   words("to_s/0 inspect/0 each/0 initialize/0 hash/0 eql?/1 method_missing/1 respond_to_missing?/1 coerce/1 to_str/0 to_a/0 to_h/0"),
	"Swift":  words("encode/1 hash/1"),
	"Kotlin": words("toString/0 equals/1 hashCode/0 compareTo/1 iterator/0 invoke/0 run/0 close/0"),
	"C#":     words("ToString/0 Equals/1 GetHashCode/0 Dispose/0 CompareTo/1 GetEnumerator/0 MoveNext/0"),
}

// calledByLibrary says whether the library of the language is likely to call a
// method, which the type need not say there.
func calledByLibrary(r ref) bool {
	d := r.def()
	known := librarysMethods[r.src.Language]
	if isScript(r.src) {
		return d.Name == "toString" || d.Name == "toJSON" || d.Name == "valueOf"
	}
	return known[d.Name+"/"+strconv.Itoa(max(0, d.Parameters-1))]
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
