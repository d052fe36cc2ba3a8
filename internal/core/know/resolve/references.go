package resolve

import (
	"cmp"
	"context"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/work"
)

// Reference is a use of a definition.
type Reference struct {
	Path string
	// At is the name that is used, in bytes.
	At   place.Range
	Name string
	// Access is what is done with it there.
	Access    facts.Role
	Certainty Certainty
	// Possible says that it has the name and could be meant, but was not resolved.
	Possible bool
	// In is the function, or else the type, in which the use stands; its Name
	// is "" outside of all.
	In Answer
}

// Scope says which uses count as references.
type Scope struct {
	// Family counts those of the methods too that a method overrides, or that
	// override it, so that calls through an interface are among them.
	Family bool
	// Unsure counts all uses that could not be resolved, which may mean anything of
	// that name; Possible those among them that could mean this by how they are written.
	Unsure, Possible bool
	// Value looks, where { name } makes a member of a value of that name, for the uses of
	// the value alone; without it, for those of both.
	Value bool
}

// target is what references are looked for: a definition, together with those
// that declare the same thing again.
type target struct {
	best ref
	name string
	// names are those under which it is looked for: its own, or those under which files
	// hand it on.
	names []string
	same  map[definedAt]bool
	scope Scope
	// outside is where it lies if there is no definition to be had.
	outside string
	// modules are the paths of the package or module that it is, which no definition stands for.
	modules []string
	// also is what they are called by their paths; "" for no name.
	also   string
	family string
	// alone says that no other definition of the name suits a use without
	// anything in front of it, and with something.
	alone [2]bool
}

// definedAt is where a name is defined.
type definedAt struct {
	path  string
	start uint32
}

func (r ref) at() definedAt { return definedAt{r.src.path, r.def().At.Start} }

// References finds the uses of what the name at a byte offset means, and hands
// them over file by file, in no particular order of the files, until report is
// false or the context is cancelled. The result names what was looked for.
func (r *Resolver) References(ctx context.Context, path string, offset int, scope Scope, report func([]Reference) bool) Result {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	seen := map[definedAt]bool{}
	if len(res.Shared) > 0 && !q.sharedUses(q.source(path), res.Shared, false, seen, report) {
		return res
	}
	report = unseen(seen, report)
	t := q.target(path, res, scope)
	if t == nil {
		return res
	}
	if src := q.source(path); src != nil && !scope.Value {
		// In { name } a name is used and defines a member at once.
		if id := src.DefAt(offset); id != facts.NoDef && src.Defs[id].At == res.At && src.Defs[id].Name == t.name {
			t.same[src.ref(id).at()] = true
		}
	}
	q.uses(t, report)
	if scope.Possible && t.best.ok() && t.best.def().Kind.IsValue() {
		q.sharedUses(t.best.src, q.keysOf(t.best), true, seen, report)
	}
	return res
}

// unseen reports what was not seen before.
func unseen(seen map[definedAt]bool, report func([]Reference) bool) func([]Reference) bool {
	if len(seen) == 0 {
		return report
	}
	return func(refs []Reference) bool {
		refs = slices.DeleteFunc(refs, func(r Reference) bool { return seen[definedAt{r.Path, r.At.Start}] })
		return len(refs) == 0 || report(refs)
	}
}

func isVariable(k facts.Kind) bool {
	return k == facts.Variable || k == facts.Constant || k == facts.Parameter
}

// target makes what to look for of the answers to a question; nil if there is
// nothing.
func (q *question) target(path string, res Result, scope Scope) *target {
	t := &target{name: res.Name, names: []string{res.Name}, same: map[definedAt]bool{}, scope: scope, outside: res.Outside, family: q.family(path)}
	for i, a := range res.Answers {
		if a.Kind == facts.Package && a.At.Len() == 0 && !t.best.ok() && a.Certainty != ByName {
			t.modules = append(t.modules, a.Path)
			continue
		}
		if a.Certainty == ByName && i > 0 || a.Kind == facts.Package && a.At.Len() == 0 {
			break
		}
		r := q.refAt(a)
		if !r.ok() || i > 0 && (r.def().Kind != t.best.def().Kind || !q.oneThing(t.best, r)) {
			continue
		}
		if i == 0 {
			t.best, t.name, t.family = r, r.def().Name, q.family(r.src.path)
		}
		t.same[r.at()] = true
	}
	if !t.best.ok() && len(t.modules) > 0 {
		t.name = q.moduleNamed(path, res)
		t.also, _ = (&facts.Imported{Path: t.modules[0]}).ModuleNames()
		return t
	}
	if !t.best.ok() {
		if t.outside == "" || t.name == "" {
			return nil
		}
		return t
	}
	for _, r := range q.again(t.best) {
		t.same[r.at()] = true
	}
	if t.names = []string{t.name}; t.best.def().Kind == facts.Constructor {
		t.names = append(t.names, slices.Sorted(maps.Keys(t.best.src.lang.Values.Makers))...)
	}
	if bare, ok := strings.CutSuffix(t.name, "="); ok && t.best.src.lang.Values.Bare.Is() { // it is called by setting that
		t.names = append(t.names, bare)
	}
	if scope.Family && t.best.def().Kind == facts.Method {
		for _, r := range append(q.overridden(t.best), q.overriding(t.best)...) {
			t.same[r.at()] = true
		}
	}
	t.alone = q.alone(t)
	return t
}

// moduleNamed is what a file calls the package or module that an answer is about: the path of an
// import was asked about, or the name already.
func (q *question) moduleNamed(path string, res Result) string {
	if src := q.source(path); src != nil {
		for i := range src.Defs {
			if d := &src.Defs[i]; d.Kind == facts.Import && d.Import > 0 && src.Imports[d.Import-1].At == res.At {
				return d.Name
			}
		}
	}
	return res.Name
}

// refAt is the definition that an answer names.
func (q *question) refAt(a Answer) ref {
	src := q.source(a.Path)
	if src == nil {
		return ref{}
	}
	if id := src.DefAt(int(a.At.Start)); id != facts.NoDef && src.Defs[id].At == a.At {
		return src.ref(id)
	}
	return ref{}
}

// oneThing says whether two definitions declare the same thing.
func (q *question) oneThing(a, b ref) bool {
	for _, r := range q.again(a) {
		if r.at() == b.at() {
			return true
		}
	}
	return false
}

// alone says whether the target is all that uses of its name can mean, without
// something in front and with it.
func (q *question) alone(t *target) (alone [2]bool) {
	alone = [2]bool{true, true}
	for _, s := range q.code.Named(t.name) {
		if s.Kind == facts.Section || q.family(s.Path) != t.family || t.same[definedAt{s.Path, uint32(s.Offset)}] {
			continue
		}
		if s.Container == "" {
			alone[0] = false
		}
		alone[1] = false
	}
	if t.best.def().Container == "" {
		alone[1] = false
	} else {
		alone[0] = false
	}
	return alone
}

// filesAtOnce is how many files one question looks into before it is begun
// anew, which bounds what it remembers.
const filesAtOnce = 64

// uses finds the uses of the target in the files that mention its name, several
// at a time.
func (q *question) uses(t *target, report func([]Reference) bool) {
	if t.best.ok() && t.best.src.Local(t.best.def()) && !(isMember(t.best) && t.best.src.lang.Members.Prototypes.Is()) {
		if refs, _ := q.usesIn(t.best.src, t); len(refs) > 0 {
			report(refs)
		}
		return
	}
	p := passing{target: t, report: report, known: map[string]bool{t.name: true}, told: map[definedAt]bool{}}
	more := *t
	for files := q.files(t); ; files = q.mentioning(more.names) {
		if ended := p.pass(q, &more, files); ended || len(p.next) == 0 {
			return
		}
		more.names, p.next = p.next, nil
	}
}

// mostNames is how many names a target is looked for under at the most.
const mostNames = 16

// passing is the search for the uses of a target: at first under its own name, then under
// those under which files that import it hand it on.
type passing struct {
	target *target
	report func([]Reference) bool

	mu    sync.Mutex
	known map[string]bool // the names that were or will be looked for
	next  []string        // those of the next pass
	told  map[definedAt]bool
	ended bool
}

// pass looks for the uses under some of the names; it is true if no more are wanted.
func (p *passing) pass(asked *question, t *target, files []string) bool {
	asked.inFiles(files, func(q *question, path string) bool {
		if q.family(path) != t.family {
			return true
		}
		src := q.source(path)
		if src == nil {
			return true
		}
		refs, handed := q.usesIn(src, t)
		return p.take(refs, handed)
	})
	return p.ended || asked.ctx.Err() != nil
}

// take reports references and notes under which other names a file hands the target on.
func (p *passing) take(refs []Reference, handed []string) (goOn bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, name := range handed {
		if !p.known[name] && len(p.known) < mostNames {
			p.known[name] = true
			p.next = append(p.next, name)
		}
	}
	refs = slices.DeleteFunc(refs, func(r Reference) bool {
		if r.Name == p.target.name {
			return false
		}
		at := definedAt{r.Path, r.At.Start} // a file may be looked into once for each name
		again := p.told[at]
		p.told[at] = true
		return again
	})
	if p.ended || len(refs) > 0 && !p.report(refs) {
		p.ended = true
	}
	return !p.ended
}

// mentioning are the files that mention one of several names, each once.
func (q *question) mentioning(names []string) (files []string) {
	for _, name := range names {
		files = append(files, q.code.Mentioning(name)...)
	}
	slices.Sort(files)
	return slices.Compact(files)
}

// files are those that may use the target.
func (q *question) files(t *target) []string {
	names := slices.Clone(t.names)
	if t.also != "" {
		names = append(names, t.also)
	}
	files := q.mentioning(names)
	if !t.best.ok() {
		return files
	}
	book := q.code.Checked(t.best.src.lang)
	if book == nil {
		return files
	}
	folders := map[string]bool{}
	for at := range t.same {
		folders[path.Dir(at.path)] = true
	}
	return book.Using(files, func(o check.Target) bool { return o.Name == t.name && folders[o.Folder] })
}

// inFiles visits many files, with as many workers as there
// are processors, until visit returns false for one of them. It is called from several
// goroutines at the same time, each with a question of its own that ends with this one.
func (q *question) inFiles(paths []string, visit func(q *question, path string) bool) {
	var mu sync.Mutex
	next, done := 0, false
	chunk := func() []string {
		mu.Lock()
		defer mu.Unlock()
		if done || q.ctx.Err() != nil {
			return nil
		}
		from := next
		next = min(len(paths), next+filesAtOnce)
		return paths[from:next]
	}
	var wg work.Group
	for range max(1, min(work.Processors(), (len(paths)+filesAtOnce-1)/filesAtOnce)) {
		wg.Go(func() {
			for part := chunk(); len(part) > 0; part = chunk() {
				own := q.resolver.ask(q.ctx)
				for _, path := range part {
					if q.ctx.Err() != nil {
						return
					}
					if !visit(own, path) {
						mu.Lock()
						done = true
						mu.Unlock()
						return
					}
				}
			}
		})
	}
	wg.Wait()
}

// usesIn finds the uses of the target in one file, and under which other names that file hands it
// on to those who import it from there.
func (q *question) usesIn(src *source, t *target) (refs []Reference, handed []string) {
	names := t.namesIn(src)
	uses, imports := src.mentions(names)
	for _, i := range uses {
		u := &src.Uses[i]
		if c, possible, ok := q.leadsTo(src, *u, t); ok {
			refs = append(refs, Reference{Path: src.path, At: u.At, Name: u.Name, Access: u.Role, Certainty: c, Possible: possible, In: q.around(src, int(u.At.Start))})
		}
	}
	refs = append(refs, q.givenIn(src, t, names)...)
	for _, i := range imports {
		d := &src.Defs[i]
		if d.At.Len() == 0 || t.same[definedAt{src.path, d.At.Start}] {
			continue
		}
		if f := q.follow(src.ref(facts.DefID(i)), 0); t.isAmong(f.refs) || t.isModule(f) || len(f.refs) == 0 && t.outside != "" && f.outside == t.outside {
			refs = append(refs, Reference{Path: src.path, At: d.At, Name: d.Name, Access: facts.ImportUse, Certainty: Inferred, In: q.around(src, int(d.At.Start))})
			if d.Scope == 0 && d.Name != t.name && t.isAmong(f.refs) {
				handed = append(handed, d.Name)
			}
		}
	}
	return refs, handed
}

// givenIn are the places in objects that are written out at which the target is given a value, by the type that is expected
// there.
func (q *question) givenIn(src *source, t *target, names map[string]bool) (refs []Reference) {
	if len(src.Expected) == 0 || !t.best.ok() || !isMember(t.best) {
		return nil
	}
	for name := range names {
		for _, id := range src.named(name) {
			d := &src.Defs[id]
			if t.same[definedAt{src.path, d.At.Start}] {
				continue
			}
			if members, _ := q.wantedMember(src, id); !t.isAmong(members) {
				continue
			}
			refs = append(refs, Reference{Path: src.path, At: d.At, Name: d.Name, Access: facts.Write, Certainty: Inferred, In: q.around(src, int(d.At.Start))})
		}
	}
	return refs
}

// named are the properties and methods of a name in objects that are written out where a type is expected.
func (s *source) named(name string) []facts.DefID {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.written == nil {
		s.written = map[string][]facts.DefID{}
		scopes := make(map[facts.ScopeID]bool, len(s.wanted))
		for i := range s.Scopes {
			if x, ok := s.wanted[s.Scopes[i].At.Start]; ok && !x.Function && s.Scopes[i].Kind == facts.TypeScope {
				scopes[facts.ScopeID(i)] = true
			}
		}
		for i := range s.Defs {
			if d := &s.Defs[i]; scopes[d.Scope] {
				s.written[d.Name] = append(s.written[d.Name], facts.DefID(i))
			}
		}
	}
	return s.written[name]
}

// mentioned are the uses and the imports of a file, by the name.
type mentioned struct{ uses, imports map[string][]int32 }

// mentions are the numbers of the uses and of the imports of some names, each in order. They are
// looked up in a table once a file is asked about several times.
func (s *source) mentions(names map[string]bool) (uses, imports []int32) {
	const fewTimes = 8
	s.mu.Lock()
	if s.asked++; s.asked > fewTimes && s.mentioned == nil {
		s.mentioned = s.tableOfMentions()
	}
	table := s.mentioned
	s.mu.Unlock()
	if table != nil {
		for name := range names {
			uses, imports = append(uses, table.uses[name]...), append(imports, table.imports[name]...)
		}
		slices.Sort(uses)
		slices.Sort(imports)
		return uses, imports
	}
	for i := range s.Uses {
		if names[s.Uses[i].Name] {
			uses = append(uses, int32(i))
		}
	}
	for i := range s.Defs {
		if s.Defs[i].Kind == facts.Import && names[s.Defs[i].Name] {
			imports = append(imports, int32(i))
		}
	}
	return uses, imports
}

func (s *source) tableOfMentions() *mentioned {
	m := &mentioned{map[string][]int32{}, map[string][]int32{}}
	for i := range s.Uses {
		m.uses[s.Uses[i].Name] = append(m.uses[s.Uses[i].Name], int32(i))
	}
	for i := range s.Defs {
		if d := &s.Defs[i]; d.Kind == facts.Import {
			m.imports[d.Name] = append(m.imports[d.Name], int32(i))
		}
	}
	return m
}

// namesIn are the names under which a file may speak of the target.
func (t *target) namesIn(src *source) map[string]bool {
	names := map[string]bool{cmp.Or(t.also, t.names[0]): true}
	for _, name := range t.names {
		names[name] = true
	}
	for _, imp := range src.Imports {
		if imp.Alias != "" && (names[imp.Name] || imp.Name == "default" || t.isNamed(imp.ModuleNames())) {
			names[imp.Alias] = true
		}
	}
	for _, id := range src.handsOn() {
		if d := &src.Defs[id]; names[src.Exprs[d.Init].Name] {
			names[d.Name] = true
		}
	}
	return names
}

// handsOn are the definitions by which a file hands on under another name what it has under one.
func (s *source) handsOn() []facts.DefID {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.handing == nil {
		s.handing = []facts.DefID{}
		for i := range s.Defs {
			if d := &s.Defs[i]; d.Kind == facts.Import && d.Import == 0 && d.Init != facts.NoExpr && s.Exprs[d.Init].Kind == facts.Name {
				s.handing = append(s.handing, facts.DefID(i))
			}
		}
	}
	return s.handing
}

// isNamed says whether one of the names of a module is that of the target.
func (t *target) isNamed(file, last string) bool {
	return last == t.name || t.also != "" && (file == t.name || file == t.also || last == t.also)
}

// isModule says whether what was found is the package or module that is looked for.
func (t *target) isModule(f found) bool {
	return len(f.refs) == 0 && slices.ContainsFunc(f.modules, func(m string) bool { return slices.Contains(t.modules, m) })
}

func (t *target) isAmong(refs []ref) bool {
	return slices.ContainsFunc(refs, func(r ref) bool { return t.same[r.at()] })
}

// around is the innermost function around an offset, or else the innermost
// type.
func (q *question) around(src *source, offset int) Answer {
	around := src.Around(offset)
	for i := len(around) - 1; i >= 0; i-- {
		if src.Defs[around[i]].Kind.IsCallable() {
			return answer(src.ref(around[i]), Inferred)
		}
	}
	for i := len(around) - 1; i >= 0; i-- {
		if k := src.Defs[around[i]].Kind; k.IsType() || k.IsSpace() {
			return answer(src.ref(around[i]), Inferred)
		}
	}
	return Answer{}
}

// constructors are those of the types among refs that fit a call, the best
// first.
func (q *question) constructors(refs []ref, use facts.Use) (found []ref) {
	for _, r := range refs {
		d := r.def()
		if !d.Kind.IsType() || d.Body == 0 {
			continue
		}
		var own []ref
		for _, name := range append([]string{d.Name}, r.src.lang.Members.Constructors...) {
			for _, id := range r.src.scoped[scopedName{d.Body, name}] {
				if m := &r.src.Defs[id]; m.Kind == facts.Constructor || name != d.Name {
					own = append(own, r.src.ref(id))
				}
			}
		}
		found = append(found, fitting(own, use.Arguments)...)
	}
	return found
}
