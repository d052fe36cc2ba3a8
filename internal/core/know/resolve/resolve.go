// Package resolve leads from a use of a name to what it means, across files,
// on facts alone: from the innermost scope outwards, then the file, what it
// imports, its package; for a member, the type of the expression in front of
// it, then that type's members and those of its supertypes.
//
// An answer says how it is known. Where the language's rules do not decide,
// the definitions of that name are offered as such, never as if they had been
// found.
package resolve

import (
	"bytes"
	"cmp"
	"context"
	"path"
	"slices"
	"sync"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
)

// Code is the code base in which names are resolved.
type Code interface {
	lang.Project
	// Languages are those in which it may be written.
	Languages() *lang.Set
	// Facts returns the facts and the text of a file; nil if it has none.
	Facts(ctx context.Context, path string) (*facts.File, []byte)
	// FactsAs reads the facts of a file as if it had another text.
	FactsAs(ctx context.Context, path string, text []byte) (*facts.File, error)
	// ImportsOf is what a file imports, if that is known without reading it.
	ImportsOf(path string) (all []facts.Imported, ok bool)
	// Named returns the symbols of the project that have exactly this name.
	Named(name string) []index.Symbol
	// Mentioning returns the files that may define or use the name: none is
	// missing, and now and then one is too many.
	Mentioning(name string) []string
	// Checked is what a compiler of a language said; nil if none is asked.
	Checked(l *lang.Language) *check.Book
	// Told is what an index that was taken in says that a name means; same says that the texts are those of which it says so.
	Told(ctx context.Context, path string, offset int) (t check.Target, same, ok bool)
	// NamedIn returns the symbols of a name in a folder outside the project, an
	// absolute path, without what is below it.
	NamedIn(folder, name string) []index.Symbol
}

// Certainty is how an answer is known.
type Certainty uint8

// From the surest to the least sure.
const (
	Exact    Certainty = iota // a compiler front end says so
	Inferred                  // each step was decided by the rules of the language
	ByName                    // it has the right name
)

// String names the certainty.
func (c Certainty) String() string { return [...]string{"exact", "inferred", "by name"}[c] }

// Answer is a definition.
type Answer struct {
	Path string
	// At is the name, in bytes.
	At        place.Range
	Name      string
	Container string
	Kind      facts.Kind
	Certainty Certainty
	// Realm is that of a name that files of several languages share, given where no definition stands; else 0.
	Realm facts.Realm
	// Built says that it is known to be built without reading its file; else that may be, or not.
	Built bool
}

// What says in a word what it is: the kind of what is defined, or what is shared.
func (a *Answer) What() string {
	if a.Realm != facts.NoRealm {
		return a.Realm.String()
	}
	return a.Kind.String()
}

// Of says what has it, in words: its type, or the file if that has no name.
func (a Answer) Of() string {
	if a.Container == "" {
		return "one in " + path.Base(a.Path)
	}
	return "that of " + a.Container
}

// Result is what is known of a name.
type Result struct {
	// Name is what was asked about; "" if there is no name at the position.
	Name string
	// At is where that name stands.
	At place.Range
	// Here says that the name asked about is the definition itself. Where it is but declared there, or declared elsewhere as
	// well, Twins are the other places, those where it is written out first.
	Here  bool
	Twins []Answer
	// Answers are the definitions, the best first.
	Answers []Answer
	// Possible are further ones that could be meant, but were not resolved; those below a type or a method have them.
	Possible []Answer
	// Outside names what the definition belongs to if it is known to lie
	// outside the project; there are no answers then.
	Outside string
	// Shared says that it is a name that files of several languages share, and which.
	Shared []facts.Shared
}

// Resolver answers questions about a code base. It keeps what it worked out
// about names only as long as one question takes, so that it is always right
// about the present text. It may be used by several goroutines.
type Resolver struct {
	code     Code
	sources  sources
	closures closures

	mu      sync.Mutex
	imports map[*lang.Language]lang.Imports
}

// New makes a resolver for a code base.
func New(code Code) *Resolver { return &Resolver{code: code} }

// importsOf finds what imports of a language lead to.
func (r *Resolver) importsOf(l *lang.Language) lang.Imports {
	r.mu.Lock()
	defer r.mu.Unlock()
	found := r.imports[l]
	if found == nil {
		if r.imports == nil {
			r.imports = map[*lang.Language]lang.Imports{}
		}
		found = l.Imports(r.code)
		r.imports[l] = found
	}
	return found
}

// ask begins the work on a question, which ends early with its context.
func (r *Resolver) ask(ctx context.Context) *question {
	return &question{ctx: ctx, code: r.code, resolver: r, sources: map[string]*source{}, types: map[exprKey]Type{}, means: map[exprKey]found{}, exports: map[moduleName]found{}, derived: map[definedAt][]super{}, usings: map[*source]map[string]bool{}}
}

// Definition finds what the name at a byte offset of a file means.
func (r *Resolver) Definition(ctx context.Context, path string, offset int) Result {
	return r.ask(ctx).definition(path, offset)
}

func (q *question) definition(path string, offset int) Result {
	src := q.source(path)
	if src == nil {
		return Result{}
	}
	return q.orShared(src, offset, q.ownDefinition(src, path, offset))
}

// ownDefinition is what a name means by the rules of its language.
func (q *question) ownDefinition(src *source, path string, offset int) Result {
	use, ok := src.UseAt(offset)
	if ok && src.Quoted(use) {
		ok = len(q.meant(src, use).refs) > 0
	}
	if ok && use.Name != "" && !q.definedRatherAt(src, offset, use) {
		res := Result{Name: use.Name, At: use.At}
		q.resolveUse(src, use, &res)
		return res
	}
	id := src.DefAt(offset)
	if id == facts.NoDef {
		if res, ok := q.ownAt(src, offset); ok {
			return res
		}
		return q.importAt(src, offset)
	}
	d := &src.Defs[id]
	res := Result{Name: d.Name, At: d.At}
	if d.Kind == facts.Import {
		found := q.followAll(q.namesakes(src.ref(id), d.Name, d.Scope), 0)
		found.refs = valued(found.refs)
		res.take(found, Inferred)
		if len(res.Answers) == 0 && res.Outside == "" {
			q.byName(src, facts.Use{Name: d.Name, At: d.At, Role: facts.ImportUse}, &res)
		}
		return res
	}
	wanted, unsure := q.wantedMember(src, id)
	if len(wanted) > 0 {
		res.take(found{refs: wanted}, Inferred)
		return res
	}
	res.Here = true
	certainty := Inferred
	if unsure {
		certainty = ByName
	}
	if book := q.code.Checked(src.lang); book != nil && book.Declares(path, int(d.At.Start)) {
		certainty = Exact
	}
	res.Answers = []Answer{answer(src.ref(id), certainty)}
	for _, r := range q.otherPlaces(src.ref(id)) {
		res.Twins = append(res.Twins, answer(r, Inferred))
	}
	return res
}

// ownAt answers for the words by which the inside of a type names it, or what it is derived from.
func (q *question) ownAt(src *source, offset int) (res Result, ok bool) {
	start, end := text.WordAround(src.text, offset)
	word := string(src.text[start:end])
	if !src.lang.Members.Self[word] {
		return res, false
	}
	own := q.ownType(src, word, src.ScopeAt(offset), 0)
	if !own.ok() {
		return res, false
	}
	res = Result{Name: word, At: place.Range{Start: uint32(start), End: uint32(end)}}
	res.take(found{refs: []ref{own}}, Inferred)
	return res, true
}

// importAt answers for the path of an import, which leads to the module.
func (q *question) importAt(src *source, offset int) Result {
	for _, imp := range src.Imports {
		if imp.Path == "" && imp.Name == "" || !imp.At.Holds(offset) || imp.Name == openedNamespace {
			continue
		}
		if src.sees() == lang.SeesModules {
			return q.pathAt(src, imp, offset)
		}
		res := Result{Name: imp.Path, At: imp.At}
		imp.Name = ""
		if imp.Alias == "" {
			imp.Alias = "_" // the module itself, not the package it lies in
		}
		res.take(q.imported(src, imp, 0), Inferred)
		return res
	}
	return Result{}
}

// definedRatherAt says whether a definition's name holds the offset more
// closely than the use does, as between a:=b with the caret behind a, or is a
// variable that takes a member of the same name, as in const { name } = hut.
func (q *question) definedRatherAt(src *source, offset int, use facts.Use) bool {
	id := src.DefAt(offset)
	switch {
	case id == facts.NoDef:
		return false
	case src.Defs[id].At == use.At:
		return isVariable(src.Defs[id].Kind) && src.Defs[id].Name == use.Name // a macro may stand for something of another name
	}
	return int(use.At.Start) != offset && (int(src.Defs[id].At.Start) == offset || int(use.At.End) == offset)
}

// resolveUse finds what a use means, or what might be meant.
func (q *question) resolveUse(src *source, use facts.Use, res *Result) {
	found := q.meant(src, use)
	if use.Role == facts.Call {
		found.refs = append(found.refs, q.constructors(found.refs, use)...)
	}
	found.refs = append(found.refs, q.declarations(found.refs)...)
	res.take(found, found.certainty())
	if len(res.Answers) == 0 && (res.Outside == "" || found.vague) {
		q.byName(src, use, res)
	}
	if len(res.Answers) > 0 {
		res.Outside = ""
	}
}

// meant finds what a use means by the rules of the language.
func (q *question) meant(src *source, use facts.Use) (found found) {
	if f := q.checked(src, use); f.exact || f.told {
		return f
	}
	if src.Quoted(use) {
		found.refs = unique(q.keyed(src, src.Exprs[use.Base], use.Name))
		return found
	}
	if use.Base != facts.NoExpr {
		found = q.memberOf(src, use.Base, use.Name, 0)
		if use.Role == facts.Write && src.lang.Values.Bare.Is() { // a method may take what is given
			if takes := q.memberOf(src, use.Base, use.Name+"=", 0); len(takes.refs) > 0 {
				found = takes
			}
		}
		if len(found.refs) == 0 && src.lang.Values.Makers[use.Name] {
			if made := q.made(src, use.Base, 0); len(made) > 0 {
				found.refs, found.outside, found.vague = made, "", false
			}
		}
		if len(found.refs) == 0 && bare(src, use) {
			// The key of a literal of a map type and the label of a case may be
			// names like any other.
			if f := q.lookup(src, use.Name, use.Scope, int(use.At.Start), 0); len(f.refs) > 0 || found.outside == "" {
				found = f
			}
		}
	} else if use.Role == facts.Call {
		found = q.lookupCalled(src, use.Name, use.Scope, int(use.At.Start), 0)
	} else if use.Role == facts.TypeUse && src.sees() == lang.SeesIncludes && src.hasTag(use) {
		found = q.lookupAmong(src, use.Name, use.Scope, int(use.At.Start), 0, func(d *facts.Def) bool { return isTag(d.Kind) || d.Kind == facts.Import })
	} else {
		found = q.lookupPath(src, use.Name, use.Scope, use.At, 0)
	}
	if use.Role == facts.TypeUse && use.Base == facts.NoExpr && len(found.refs) == 0 && src.sees() == lang.SeesIncludes {
		found = q.madeKnown(src, use, found)
	}
	if use.Role == facts.TypeUse {
		found.refs = q.tagged(src, use, typed(found.refs))
	} else {
		found.refs = valued(found.refs)
	}
	found.refs = preferred(found.refs, use.Role == facts.Call)
	if inBranches(found.refs) {
		found.unsure = true
	}
	found.refs = q.inForce(src, found.refs, use)
	if m := src.macroFor(found.refs, use); m.ok() {
		found.refs = []ref{m}
		return found
	}
	if src.lang.Values.Bare.Is() {
		if found.refs = lastOnes(found.refs); use.Base == facts.NoExpr {
			found.refs = q.ofSelf(src, use, found.refs)
			if len(found.refs) > 0 && found.refs[0].def().Abstract {
				found = q.rather(q.owner(found.refs[0]), found, 0)
			}
		}
	}
	if len(found.refs) > 0 && found.refs[0].def().Inactive && src.sees() == lang.SeesIncludes && !inactiveAt(src, use) { // what is built may come from elsewhere
		found.unsure = true
	}
	if found.several {
		return found
	}
	if use.Call != facts.NoExpr && src.lang.Members.Overloads.Is() && len(found.refs) > 1 && found.refs[0].def().Kind.IsCallable() {
		var sure bool
		if found.refs, sure = q.overloaded(src, found.refs, src.Exprs[use.Call], 0); !sure {
			found.unsure = true
		}
	} else {
		found.refs = fitting(found.refs, use.Arguments)
	}
	found.refs = q.bodies(q.asConst(src, use, found.refs))
	return found
}

// bare says whether a use is written without what it is a member of.
func bare(src *source, use facts.Use) bool {
	if src.lang.Members.Prototypes.Is() {
		return false // a value of that name is a use of its own
	}
	e := src.Exprs[use.Base]
	if use.Role == facts.Write && e.Kind == facts.Value {
		return true
	}
	before := bytes.TrimRight(src.text[:use.At.Start], " \t\r\n")
	return len(before) > 0 && !bytes.ContainsRune([]byte(".>:?"), rune(before[len(before)-1]))
}

// take turns what was found into answers.
func (res *Result) take(f found, c Certainty) {
	for _, r := range f.refs {
		if d := r.def(); d.Kind == facts.Import && d.Import == 0 && d.At.Len() == 0 {
			continue // a default export without a name of its own
		}
		res.Answers = append(res.Answers, answer(r, c))
	}
	for _, m := range f.modules {
		res.Answers = append(res.Answers, Answer{Path: m, Name: res.Name, Kind: facts.Package, Certainty: c})
	}
	if len(res.Answers) == 0 {
		res.Outside = f.outside
	}
}

// question is the work on one question: the files it has looked at so far.
type question struct {
	ctx      context.Context
	code     Code
	resolver *Resolver // whose files and includes are kept beyond the question
	sources  map[string]*source
	types    map[exprKey]Type  // what is known of expressions; empty while it is being worked out
	means    map[exprKey]found // the same for what they name
	exports  map[moduleName]found
	derived  map[definedAt][]super       // what types are derived from, away from their definitions
	usings   map[*source]map[string]bool // the namespaces that files open
	reaching map[string]reaching         // by header
	exactly  bool                        // all that was found of a hierarchy came from the type checker
	giving   map[definedAt]Type          // the types of members, by all values that they are given
	heldIn   map[definedAt]Type          // what values of types hold that are lists or maps
	handed   map[definedAt]Type          // the types of parameters, by the arguments
	lines    map[definedAt][]ancestor    // types with what they are derived from
	below    map[definedAt][]ref         // the types that are derived from some
	bringing map[definedAt]bool          // the declarations that are being followed by which a type has members of another
	fitting  map[exprKey][]Type          // the types that objects are to be of, by where these begin
	passing  int                         // how many parameters are being looked at, one because of the other
}

// moduleName is a name among those a module has to offer.
type moduleName struct{ module, name string }

// exprKey is an expression in a file.
type exprKey struct {
	src *source
	id  facts.ExprID
}

// source is a file with its definitions by scope and name.
type source struct {
	*facts.File
	lang   *lang.Language
	path   string
	text   []byte
	scoped map[scopedName][]facts.DefID
	params map[facts.ScopeID][]facts.DefID // the type parameters in a scope
	tests  map[string][]facts.Narrowing    // what tests say of values, by their names
	wanted map[uint32]facts.Expectation    // of which types objects and functions are to be, by where their scopes begin
	set    map[string][]facts.Setting      // the values that are given later on, by the names
	puts   map[string][]facts.Put          // what is put into lists and maps, by their names

	mu        sync.Mutex
	later     map[scopedName][]facts.DefID    // see byFrom
	asked     int                             // how often it was asked for mentions
	mentioned *mentioned                      // nil until that was often
	handing   []facts.DefID                   // see handsOn; nil until asked for
	inside    map[facts.ScopeID][]facts.DefID // see within; nil until asked for
	declared  map[facts.ExprID]facts.ExprID   // see declaredFor; nil until asked for
	written   map[string][]facts.DefID        // see named; nil until asked for
}

// sees is what the code of the file can name without importing it.
func (s *source) sees() lang.Sees { return s.lang.Scopes.Sees }

// byFrom are those of the definitions of a name that hold from an offset on, in the order of
// these offsets.
func (s *source) byFrom(name scopedName, ids []facts.DefID) []facts.DefID {
	s.mu.Lock()
	defer s.mu.Unlock()
	sorted, known := s.later[name]
	if !known {
		for _, id := range ids {
			if s.Defs[id].From > 0 {
				sorted = append(sorted, id)
			}
		}
		slices.SortStableFunc(sorted, func(a, b facts.DefID) int { return cmp.Compare(s.Defs[a].From, s.Defs[b].From) })
		if s.later == nil {
			s.later = map[scopedName][]facts.DefID{}
		}
		s.later[name] = sorted
	}
	return sorted
}

type scopedName struct {
	scope facts.ScopeID
	name  string
}

func (q *question) source(path string) *source {
	if s, ok := q.sources[path]; ok {
		return s
	}
	f, text := q.code.Facts(q.ctx, path)
	if f == nil {
		q.sources[path] = nil
		return nil
	}
	s := q.resolver.sources.of(q.code.Languages(), path, f, text)
	q.sources[path] = s
	return s
}

// putInactiveLast puts definitions that are not built behind those of the same name that are, where any of them can be named
// from everywhere in its scope.
func (s *source) putInactiveLast() {
	some := false
	rank := func(id facts.DefID) int {
		switch d := &s.Defs[id]; {
		case d.Inactive:
			return 2
		case d.Echo:
			return 1
		}
		return 0
	}
	for i := range s.Defs {
		some = some || rank(facts.DefID(i)) > 0 && s.Defs[i].From == 0
	}
	if !some || s.sees() == lang.SeesIncludes {
		return
	}
	for _, ids := range s.scoped {
		if len(ids) > 1 && !slices.ContainsFunc(ids, func(id facts.DefID) bool { return s.Defs[id].From > 0 }) {
			slices.SortStableFunc(ids, func(a, b facts.DefID) int { return cmp.Compare(rank(a), rank(b)) })
		}
	}
}

func newSource(l *lang.Language, path string, f *facts.File, text []byte) *source {
	s := &source{File: f, lang: l, path: path, text: text, scoped: make(map[scopedName][]facts.DefID, len(f.Defs)), params: map[facts.ScopeID][]facts.DefID{}}
	for i := range f.Defs {
		if f.Defs[i].Kind == facts.Section {
			continue // a title is no name
		}
		if f.Defs[i].Kind == facts.TypeParameter {
			s.params[f.Defs[i].Scope] = append(s.params[f.Defs[i].Scope], facts.DefID(i))
		}
		key := scopedName{f.Defs[i].Scope, f.Defs[i].Name}
		s.scoped[key] = append(s.scoped[key], facts.DefID(i))
	}
	s.putInactiveLast()
	if len(f.Narrowed) > 0 {
		s.tests = map[string][]facts.Narrowing{}
	}
	for _, n := range f.Narrowed {
		s.tests[n.Of] = append(s.tests[n.Of], n)
	}
	if len(f.Settings)+len(f.Puts) > 0 {
		s.set, s.puts = map[string][]facts.Setting{}, map[string][]facts.Put{}
	}
	if len(f.Expected) > 0 {
		s.wanted = make(map[uint32]facts.Expectation, len(f.Expected))
	}
	for _, x := range f.Expected {
		s.wanted[x.At] = x
	}
	for _, g := range f.Settings {
		s.set[g.Name] = append(s.set[g.Name], g)
	}
	for _, p := range f.Puts {
		s.puts[p.Name] = append(s.puts[p.Name], p)
	}
	return s
}

// mostSources is how many files are kept ready for look-ups.
const mostSources = 1024

// sources keeps files that were asked about lately ready for look-ups. The
// zero value is empty.
type sources struct {
	mu     sync.Mutex
	byPath map[string]*source
}

// of returns a file ready for look-ups; what was kept of it counts only for the
// very same facts.
func (k *sources) of(set *lang.Set, path string, f *facts.File, text []byte) *source {
	k.mu.Lock()
	defer k.mu.Unlock()
	if s := k.byPath[path]; s != nil && s.File == f {
		return s
	}
	if k.byPath == nil || len(k.byPath) >= mostSources {
		k.byPath = map[string]*source{}
	}
	s := newSource(cmp.Or(set.Named(f.Language), set.Of(path)), path, f, text)
	k.byPath[path] = s
	return s
}

// ref is a definition in a file. For a member, env says what the type
// parameters of the types around it stand for.
type ref struct {
	src *source
	id  facts.DefID
	env *bindings
}

func (r ref) ok() bool                   { return r.src != nil }
func (r ref) def() *facts.Def            { return &r.src.Defs[r.id] }
func (s *source) ref(id facts.DefID) ref { return ref{src: s, id: id} }

// found is what a look-up came to: definitions, or whole modules (files or
// folders), or the word that what was looked for lies outside the project.
type found struct {
	refs    []ref
	modules []string
	outside string
	exact   bool // the type checker says so
	told    bool // what was taken in says so, of another text than is there now
	unsure  bool // what is known does not decide between several
	several bool // all of them are meant, of whichever type a value is
	pending bool // it is being worked out, by way of itself
	vague   bool // that it lies outside is likely, not known
}

func (f found) certainty() Certainty {
	switch {
	case f.exact:
		return Exact
	case f.unsure:
		return ByName
	}
	return Inferred
}

func (f found) empty() bool { return len(f.refs) == 0 && len(f.modules) == 0 && f.outside == "" }

func answer(r ref, c Certainty) Answer {
	d := r.def()
	return Answer{Path: r.src.path, At: d.At, Name: d.Name, Container: d.Container, Kind: d.Kind, Certainty: c}
}
