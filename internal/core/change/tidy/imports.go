package tidy

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Missing is a name that means nothing in a file, and what could be imported so that it does.
type Missing struct {
	// Name stands first at Line, counted from 1; Use is that use of it.
	Name string
	Line int
	Use  facts.Use
	// Choices are the imports that would make it known, the likeliest first.
	Choices []facts.Imported
	// Sure says that there is one choice, and that the project itself makes it: its files import the name so, or define it.
	Sure bool
}

// Imports is what can be done about what a file imports.
type Imports struct {
	Path string
	// Missing are names that are not known; those that are sure are imported without being asked for.
	Missing []Missing
	// Unused are the names that are imported for nothing.
	Unused []string
	file   *codebase.File
	drop   []place.Range
}

// Imports finds out what a file imports for nothing, and what it does not that it needs.
func (t *Tidier) Imports(ctx context.Context, file string) (*Imports, error) {
	if err := t.code.Await(ctx, func(p *codebase.Progress) bool { return p.Done || p.Err != nil }); err != nil {
		return nil, err
	}
	l := t.code.Languages().Of(file)
	if l == nil || l.Importing == lang.NoImporting {
		return nil, errors.New("the imports of this language are left to you")
	}
	f, err := t.code.Load(ctx, file)
	if err != nil {
		return nil, err
	}
	if f.Facts == nil {
		return nil, errors.New("this file could not be read as " + l.Name)
	}
	w := &seeker{Tidier: t, ctx: ctx, lang: l, file: f, resolver: resolve.New(t.code), imports: l.Imports(t.code)}
	out := &Imports{Path: file, file: f}
	w.unused(out)
	w.missing(out, func(facts.Use) bool { return true })
	return out, ctx.Err()
}

// InOrder proposes to take out what is imported for nothing, to add what is missing, as it was chosen by name, and to put
// all of it in order.
func (t *Tidier) InOrder(ctx context.Context, i *Imports, chosen map[string]facts.Imported) (*proposal.Proposal, error) {
	l := t.code.Languages().Of(i.Path)
	var add []facts.Imported
	for _, m := range i.Missing {
		if c, ok := chosen[m.Name]; ok {
			add = append(add, c)
		} else if m.Sure {
			add = append(add, m.Choices[0])
		}
	}
	return t.changed(ctx, l, i.file, i.drop, add)
}

// changed is a proposal to change what a file imports; an error if nothing changes.
func (t *Tidier) changed(ctx context.Context, l *lang.Language, f *codebase.File, drop []place.Range, add []facts.Imported) (*proposal.Proposal, error) {
	out, err := l.Importing.Change(ctx, f.Text.Bytes(), drop, add)
	if err != nil {
		return nil, err
	}
	p := &proposal.Proposal{Title: "the imports of " + path.Base(f.Path)}
	if !bytes.Equal(out, f.Text.Bytes()) {
		differing(p, f, out, func(int, int) bool { return true })
	}
	if len(p.Files) == 0 {
		return nil, ErrInForm
	}
	for _, at := range p.Files {
		for n := range at.Places {
			at.Places[n].What = "import"
		}
	}
	return p, nil
}

// Change proposes to take out what is imported at some places of a file, and to import something else.
func (t *Tidier) Change(ctx context.Context, file string, drop []place.Range, add []facts.Imported) (*proposal.Proposal, error) {
	l := t.code.Languages().Of(file)
	if l == nil || l.Importing == lang.NoImporting {
		return nil, errors.New("the imports of this language are left to you")
	}
	f, err := t.code.Load(ctx, file)
	if err != nil {
		return nil, err
	}
	return t.changed(ctx, l, f, drop, add)
}

// Spare is a name that is imported for nothing, and where.
type Spare struct {
	Name string
	At   place.Range
}

// Lacks finds what a file imports for nothing, and which names mean nothing in it that could be imported, of those that are wanted;
// none where that is left to those who write the language.
func (t *Tidier) Lacks(ctx context.Context, file string, wanted func(facts.Use) bool) (spare []Spare, missing []Missing, err error) {
	l := t.code.Languages().Of(file)
	if l == nil || l.Importing == lang.NoImporting {
		return nil, nil, nil
	}
	f, err := t.code.Load(ctx, file)
	if err != nil || f.Facts == nil {
		return nil, nil, err
	}
	w := &seeker{Tidier: t, ctx: ctx, lang: l, file: f, resolver: resolve.New(t.code), imports: l.Imports(t.code)}
	out := &Imports{Path: file, file: f}
	w.unused(out)
	w.missing(out, wanted)
	for i, name := range out.Unused {
		spare = append(spare, Spare{name, out.drop[i]})
	}
	return spare, out.Missing, ctx.Err()
}

// seeker looks for the imports of one file.
type seeker struct {
	*Tidier
	ctx      context.Context
	lang     *lang.Language
	file     *codebase.File
	resolver *resolve.Resolver
	imports  lang.Imports
}

// unused finds what is imported for nothing.
func (s *seeker) unused(out *Imports) {
	f := s.file.Facts
	listed := map[place.Range]bool{}
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Import == 0 || d.Scope != 0 || d.Kind != facts.Import && d.Kind != facts.Package {
			continue
		}
		imp := f.Imports[d.Import-1]
		if path.Base(s.file.Path) == s.front() || s.lang.Importing.Stays(imp, d.Name, s.file.Text.Bytes()) || s.uses(d, &imp) {
			continue
		}
		at := d.At
		if at.Len() == 0 {
			at = imp.At
		}
		if listed[at] || s.handsOn(d) || s.takenFrom(d.Name) || !s.canGo(at) {
			continue
		}
		listed[at] = true
		out.Unused = append(out.Unused, d.Name)
		out.drop = append(out.drop, at)
	}
}

// front is the file of a folder that imports what it hands on; "" for none.
func (s *seeker) front() string {
	for _, name := range s.lang.Files.Front {
		if strings.HasPrefix(name, "__") {
			return name
		}
	}
	return ""
}

// canGo says whether an import can be taken out: it stands at the top of the file, and under no condition.
func (s *seeker) canGo(at place.Range) bool {
	with, err := s.lang.Importing.Change(s.ctx, s.file.Text.Bytes(), nil, nil)
	if err != nil {
		return false
	}
	without, err := s.lang.Importing.Change(s.ctx, s.file.Text.Bytes(), []place.Range{at}, nil)
	return err == nil && !bytes.Equal(with, without)
}

// takenFrom says whether other files take a name from this one, though it only imports it.
func (s *seeker) takenFrom(name string) bool {
	if s.lang.Scopes.Sees != lang.SeesItself {
		return false
	}
	for _, p := range s.code.Mentioning(name) {
		if p == s.file.Path || s.family(p) != s.lang.Family {
			continue
		}
		f, _ := s.code.Facts(s.ctx, p)
		if f == nil {
			continue
		}
		for _, i := range f.Imports {
			asked := i
			if i.Name == "" && i.Alias == "" {
				asked.Alias = i.Path
			}
			if (i.Name == name || i.Name == "*" || i.Name == "") && s.imports.Module(p, asked) == s.file.Path {
				return true
			}
		}
	}
	return false
}

// handsOn says whether a definition is what a file hands on to those that import it.
func (s *seeker) handsOn(d *facts.Def) bool {
	return strings.HasPrefix(strings.TrimSpace(string(d.Full.In(s.file.Text.Bytes()))), "export")
}

// uses says whether a name that is imported is used.
func (s *seeker) uses(d *facts.Def, imp *facts.Imported) bool {
	names := []string{d.Name}
	if imp.Alias == "" {
		file, last := imp.ModuleNames()
		names = append(names, file, last, strings.TrimPrefix(file, "go-"), strings.TrimSuffix(file, "-go"))
		if module := s.imports.Module(s.file.Path, *imp); module != "" {
			names = append(names, s.packageIn(module))
		} else if imp.Name == "" && path.Dir(imp.Path) != "." {
			names = append(names, path.Base(path.Dir(imp.Path))) // behind it there is the number of a version
		}
	}
	for _, u := range s.file.Facts.Uses {
		if u.Role == facts.ImportUse || d.Full.Start <= u.At.Start && u.At.End <= d.Full.End && d.Full.Len() > 0 || u.Base != facts.NoExpr || !slices.Contains(names, u.Name) {
			continue
		}
		if !s.local(u) || imp.Name != "" && s.imports.Module(s.file.Path, *imp) == s.file.Path || s.isOwn(imp) || s.isShared(d) {
			return true // what it means may be in this file, and be known here by the import alone
		}
	}
	return false
}

// isShared says whether another import has the same name, as functions do that differ in what they take.
func (s *seeker) isShared(d *facts.Def) bool {
	n := 0
	for i := range s.file.Facts.Defs {
		if o := &s.file.Facts.Defs[i]; o.Name == d.Name && o.Import != 0 {
			n++
		}
	}
	return n > 1
}

// isOwn says whether an import leads into the type that the file is called after.
func (s *seeker) isOwn(imp *facts.Imported) bool {
	own := strings.TrimSuffix(path.Base(s.file.Path), path.Ext(s.file.Path))
	return strings.Contains("."+imp.Path+".", "."+own+".")
}

// packageIn is the name that the files of a folder give to their package.
func (s *seeker) packageIn(folder string) string {
	for f := range s.code.Listing().Files() {
		if path.Dir(f.Path) == folder {
			if facts, _ := s.code.Facts(s.ctx, f.Path); facts != nil && facts.Package != "" && !strings.HasSuffix(facts.Package, "_test") {
				return facts.Package
			}
		}
	}
	return ""
}

// local says whether what is used is defined in the file itself, and not imported.
func (s *seeker) local(u facts.Use) bool {
	a := s.resolver.Meanings(s.ctx, s.file.Path, []int{int(u.At.Start)})[0]
	if a.Path != s.file.Path {
		return false
	}
	id := s.file.Facts.DefAt(int(a.At.Start))
	return id != facts.NoDef && s.file.Facts.Defs[id].Import == 0
}

// missing finds names that mean nothing, and what could be imported for them.
func (s *seeker) missing(out *Imports, wanted func(facts.Use) bool) {
	f := s.file.Facts
	seen := map[string]bool{}
	for i := range f.Defs {
		seen[f.Defs[i].Name] = f.Defs[i].Scope == 0
	}
	for i := range f.Imports {
		if f.Imports[i].Name == "*" && s.lang.Scopes.Sees == lang.SeesItself {
			return // they may come from there
		}
	}
	for n, u := range f.Uses {
		if s.ctx.Err() != nil {
			return
		}
		if u.Base != facts.NoExpr || !wanted(u) || s.behindDot(u) || u.Role == facts.ImportUse || seen[u.Name] || s.lang.Scopes.Builtin[u.Name] || s.lang.Names.Reserved[u.Name] {
			continue
		}
		member := s.memberBehind(n)
		if !s.lang.Importing.Wanted(u, member != "") {
			continue
		}
		if a := s.resolver.Meanings(s.ctx, s.file.Path, []int{int(u.At.Start)})[0]; a.Path != "" || s.outside(u) {
			continue
		}
		seen[u.Name] = true
		if choices, own := s.choices(u, member); len(choices) > 0 {
			line, _ := s.file.Text.Position(int(u.At.Start))
			out.Missing = append(out.Missing, Missing{Name: u.Name, Line: line, Use: u, Choices: choices, Sure: len(choices) == 1 && (own || choices[0].Path == u.Name || s.lang.Scopes.Sees == lang.SeesFolder)})
		}
	}
}

// behindDot says whether a name is that of a member of something of which nothing is known.
func (s *seeker) behindDot(u facts.Use) bool {
	before := bytes.TrimRight(s.file.Text.Slice(max(int(u.At.Start)-100, 0), int(u.At.Start)), " \t\r\n")
	return len(before) > 0 && before[len(before)-1] == '.'
}

// outside says whether a name is known to belong to something outside, though not where.
func (s *seeker) outside(u facts.Use) bool {
	return s.resolver.Definition(s.ctx, s.file.Path, int(u.At.Start)).Outside != ""
}

// memberBehind is what stands behind the dot after a use; "" for nothing.
func (s *seeker) memberBehind(n int) string {
	u := s.file.Facts.Uses[n]
	for _, v := range s.file.Facts.Uses[n+1:] {
		if v.At.Start == u.At.End+1 && v.Base != facts.NoExpr {
			return v.Name
		}
		if v.At.Start > u.At.End+1 {
			break
		}
	}
	return ""
}

// choices are the imports by which a name would be known: as other files of the project import it, as its files define it,
// and as libraries do; own says that the project itself says so.
func (s *seeker) choices(u facts.Use, member string) (out []facts.Imported, own bool) {
	all := s.habit(u.Name, member)
	all = append(all, s.defined(u, member)...)
	own = len(all) > 0
	if !own {
		all = s.imports.Known(s.file.Path, u.Name, member)
	}
	for _, i := range all {
		i.At = place.Range{}
		if s.imports.Module(s.file.Path, i) == s.file.Path && s.lang.Scopes.Sees == lang.SeesItself {
			continue // it is this file
		}
		if !slices.Contains(out, i) && len(out) < mostChoices {
			out = append(out, i)
		}
	}
	return out, own
}

// mostChoices bounds what one chooses from, mostRead the files that are read to see how others import something.
const (
	mostChoices = 12
	mostRead    = 300
)

// habit is how other files of the project make a name known, that first which most do.
func (s *seeker) habit(name, member string) (all []facts.Imported) {
	count := map[facts.Imported]int{}
	files := s.code.Mentioning(name)
	for _, p := range files[:min(len(files), mostRead)] {
		if p == s.file.Path || s.lang.Family != s.family(p) || s.ctx.Err() != nil {
			continue
		}
		f, _ := s.code.Facts(s.ctx, p)
		if f == nil {
			continue
		}
		for i := range f.Defs {
			d := &f.Defs[i]
			if d.Name != name || d.Import == 0 || d.Scope != 0 {
				continue
			}
			if imp, ok := s.fromHere(p, f.Imports[d.Import-1], name); ok {
				count[imp]++
			}
		}
	}
	for imp := range count {
		all = append(all, imp)
	}
	slices.SortFunc(all, func(a, b facts.Imported) int {
		return cmp.Or(count[b]-count[a], strings.Compare(a.Path, b.Path), strings.Compare(a.Name, b.Name))
	})
	if len(all) > 1 && count[all[0]] >= 4*count[all[1]] {
		return all[:1]
	}
	return all
}

func (s *seeker) family(p string) string {
	if l := s.code.Languages().Of(p); l != nil {
		return l.Family
	}
	return ""
}

// fromHere is what another file imports as this one would: a path that is relative leads from here.
func (s *seeker) fromHere(other string, imp facts.Imported, name string) (facts.Imported, bool) {
	imp.At = place.Range{}
	if !strings.HasPrefix(imp.Path, ".") && imp.Level == 0 {
		return imp, true
	}
	module := s.imports.Module(other, imp)
	if module == "" || module == s.file.Path {
		return imp, false
	}
	if path.Dir(other) == path.Dir(s.file.Path) {
		return imp, true
	}
	here, ok := s.imports.Reach(s.file.Path, module, cmp.Or(imp.Name, name))
	here.Name, here.Alias = imp.Name, imp.Alias
	return here, ok
}

// defined is how this file would import what files of the project define under a name.
func (s *seeker) defined(u facts.Use, member string) (all []facts.Imported) {
	if s.lang.Scopes.Sees == lang.SeesFolder { // what is imported are whole folders
		return s.folders(u.Name, member)
	}
	for _, o := range s.code.Named(u.Name) {
		if o.Container != "" || o.Path == s.file.Path || s.family(o.Path) != s.lang.Family || s.code.Languages().IsTest(o.Path) || u.Role == facts.TypeUse && !o.Kind.IsType() {
			continue
		}
		if imp, ok := s.imports.Reach(s.file.Path, o.Path, u.Name); ok {
			all = append(all, imp)
		}
	}
	return all
}

// folders are the packages of the project that have a name and what is wanted of them.
func (s *seeker) folders(name, member string) (all []facts.Imported) {
	for _, o := range s.code.Named(member) {
		if o.Container != "" || s.family(o.Path) != s.lang.Family || s.code.Languages().IsTest(o.Path) {
			continue
		}
		if path.Base(path.Dir(o.Path)) != name {
			if f, _ := s.code.Facts(s.ctx, o.Path); f == nil || f.Package != name {
				continue
			}
		}
		if imp, ok := s.imports.Reach(s.file.Path, o.Path, name); ok {
			all = append(all, imp)
		}
	}
	return all
}
