// Package mend finds what can be done about what is wrong at a place, or at a name: the best first, each as a proposal.
package mend

import (
	"context"
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/problem"
)

// Mend is something that can be done.
type Mend struct {
	// Title says what it does; About what it is about, such as the problem.
	Title, About string
	Proposal     *proposal.Proposal
}

// Mender finds them in a project. It may be used by several goroutines.
type Mender struct {
	code     *codebase.Base
	search   *search.Searcher
	answers  *answer.Guide
	tidier   *tidy.Tidier
	problems *problem.Finder
	resolver *resolve.Resolver

	// Words are files with words that are spelled right, one a line, besides those of the system.
	Words []string
	once  sync.Once
	words map[string]bool
}

// New makes one for a project.
func New(code *codebase.Base, searcher *search.Searcher, answers *answer.Guide, tidier *tidy.Tidier, problems *problem.Finder) *Mender {
	return &Mender{code: code, search: searcher, answers: answers, tidier: tidier, problems: problems, resolver: resolve.New(code)}
}

// most is how many are listed.
const most = 20

// At finds what can be done at an offset of a file: about the problems of its line, those at the offset first, and at the name there.
func (m *Mender) At(ctx context.Context, p string, offset int) ([]Mend, error) {
	file, err := m.code.Load(ctx, p)
	if err != nil {
		return nil, err
	}
	if file.Text.Binary() || !file.Text.Whole() || m.code.IsOutside(p) {
		return nil, nil
	}
	found, err := m.problems.Look(ctx, p)
	if err != nil {
		return nil, err
	}
	at := &mending{Mender: m, ctx: ctx, file: file, lang: m.code.Languages().Of(p), offset: offset, done: map[string]bool{}}
	line, _ := file.Text.Position(offset)
	var here []problem.Problem
	for _, x := range found.All {
		if x.Line <= line && line <= max(x.EndLine, x.Line) {
			here = append(here, x)
		}
	}
	slices.SortStableFunc(here, func(a, b problem.Problem) int { return far(a.At, offset) - far(b.At, offset) })
	for i := range here {
		at.problem(&here[i])
	}
	if at.lang != nil {
		at.misspelled()
		at.failing(place.Range{Start: uint32(offset), End: uint32(offset)}, "")
		at.lacking(offset)
	}
	return at.all[:min(len(at.all), most)], ctx.Err()
}

// far is how many bytes a range is away from an offset.
func far(at place.Range, offset int) int {
	switch {
	case offset < int(at.Start):
		return int(at.Start) - offset
	case offset > int(at.End):
		return offset - int(at.End)
	}
	return 0
}

// mending looks for what can be done at one place.
type mending struct {
	*Mender
	ctx    context.Context
	file   *codebase.File
	lang   *lang.Language
	offset int
	all    []Mend
	done   map[string]bool
}

// add keeps something that can be done, once.
func (m *mending) add(title, about string, p *proposal.Proposal) {
	if p == nil || len(p.Files) == 0 || m.done[title] {
		return
	}
	m.done[title] = true
	p.Title = title
	m.all = append(m.all, Mend{Title: title, About: about, Proposal: p})
}

// edits is a proposal of a few edits of the file.
func (m *mending) edits(what string, all ...lang.Replaced) *proposal.Proposal {
	p := &proposal.Proposal{}
	slices.SortFunc(all, func(a, b lang.Replaced) int { return int(a.At.Start) - int(b.At.Start) })
	for _, e := range all {
		line, col := m.file.Text.Position(int(e.At.Start))
		p.Add(m.file.Path, func() *text.Document { return m.file.Text }, proposal.Place{
			At: e.At, New: e.New, What: what, In: codebase.SymbolAround(m.file, line, col), Certainty: resolve.Inferred,
		})
	}
	return p
}

// problem adds what can be done about a problem.
func (m *mending) problem(x *problem.Problem) {
	for i := range x.Fixes {
		title := x.Fixes[i].Title
		if title == "" {
			title = "as " + x.By + " suggests"
		}
		m.add(title, x.Text, m.reported(&x.Fixes[i]))
	}
	if m.lang == nil {
		return
	}
	switch x.Kind {
	case problem.Spare:
		m.spare(x)
	case problem.Name, problem.Types, problem.Import:
		m.spare(x)
		m.name(x)
		m.compiled(x)
	case problem.Unused:
		m.unused(x.At, x.Text)
	}
}

// reported is what a report suggests, if what it would replace stands there still.
func (m *mending) reported(fix *sweep.Fix) *proposal.Proposal {
	p := &proposal.Proposal{}
	for _, e := range fix.Edits {
		file, err := m.code.Load(m.ctx, e.Path)
		if err != nil {
			return nil
		}
		start, ok := standing(file.Text, e)
		if !ok {
			return nil
		}
		line, col := file.Text.Position(start)
		p.Add(e.Path, func() *text.Document { return file.Text }, proposal.Place{
			At: place.Range{Start: uint32(start), End: uint32(start + len(e.Was))}, New: e.Text, What: "suggested", In: codebase.SymbolAround(file, line, col), Certainty: resolve.ByName,
		})
	}
	return p
}

// standing finds where the text that an edit replaces stands by now: where it did, or else, if it is long enough to be known again, in
// the lines around.
func standing(doc *text.Document, e sweep.Edit) (start int, ok bool) {
	if e.Start+len(e.Was) <= doc.Len() && string(doc.Slice(e.Start, e.Start+len(e.Was))) == e.Was {
		return e.Start, true
	}
	const around, known = 200, 4
	if len(strings.TrimSpace(e.Was)) < known {
		return 0, false
	}
	from := doc.Offset(max(min(e.Line, doc.Lines())-around, 1), 1)
	to := doc.Offset(min(e.Line+around, doc.Lines()), 1)
	near := string(doc.Slice(from, to))
	if strings.Count(near, e.Was) != 1 {
		return 0, false
	}
	return from + strings.Index(near, e.Was), true
}

// spare takes an import out that nothing uses.
func (m *mending) spare(x *problem.Problem) {
	spare, _, err := m.tidier.Lacks(m.ctx, m.file.Path, func(facts.Use) bool { return false })
	if err != nil {
		return // it is not known which
	}
	for _, s := range spare {
		if s.At.Start > x.At.Start || x.At.Start >= s.At.End {
			continue
		}
		if p, err := m.tidier.Change(m.ctx, m.file.Path, []place.Range{s.At}, nil); err == nil {
			m.add("take out what is imported for nothing", x.Text, p)
		}
	}
}

// name adds imports that make a name known, and the nearest names of one that is misspelled.
func (m *mending) name(x *problem.Problem) {
	name := string(m.file.Text.Slice(int(x.At.Start), int(x.At.End)))
	u, ok := m.useIn(x.At)
	if ok {
		name = u.Name
	}
	if name == "" || !isName(name) {
		return
	}
	imports, err := m.tidier.Imports(m.ctx, m.file.Path)
	if err == nil {
		for _, missing := range imports.Missing {
			if missing.Name != name {
				continue
			}
			for _, choice := range missing.Choices {
				p, err := m.tidier.Change(m.ctx, m.file.Path, nil, []facts.Imported{choice})
				if err == nil {
					m.add("import "+name+" from "+choice.Path, x.Text, p)
				}
			}
		}
	}
	if x.Kind == problem.Import {
		return
	}
	at := x.At
	if ok {
		at = u.At
	}
	for _, near := range m.nearest(name, at) {
		m.add("write "+near+" in place of "+name, x.Text, m.edits("name", lang.Replaced{At: at, New: near}))
	}
}

// useIn is the use of a name that a problem is about.
func (m *mending) useIn(at place.Range) (facts.Use, bool) {
	if m.file.Facts == nil {
		return facts.Use{}, false
	}
	if u, ok := m.file.Facts.UseAt(m.offset); ok && at.Start <= u.At.Start && u.At.End <= at.End {
		return u, true
	}
	var last facts.Use
	for _, u := range m.file.Facts.Uses {
		if at.Start <= u.At.Start && u.At.End <= at.End {
			last = u // of a.b.c the last is meant
		}
	}
	return last, last.Name != ""
}

func isName(s string) bool {
	return !strings.ContainsFunc(s, func(r rune) bool {
		return r != '_' && r != '$' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && r < 0x80
	})
}

// mostNear is how many near names are proposed.
const mostNear = 4

// nearest are the names that are known where one stands that is not, and are written almost alike, the nearest first.
func (m *mending) nearest(name string, at place.Range) []string {
	type candidate struct {
		name string
		far  int
	}
	var all []candidate
	seen := map[string]bool{name: true}
	take := func(other string) {
		if seen[other] || m.lang.Names.Reserved[other] {
			return
		}
		seen[other] = true
		if d := Distance(name, other); d <= 1+len(name)/5 && d < len(name)/2+1 {
			all = append(all, candidate{other, d})
		}
	}
	for i := range m.file.Facts.Defs {
		take(m.file.Facts.Defs[i].Name)
	}
	for _, u := range m.file.Facts.Uses {
		take(u.Name)
	}
	for _, hit := range m.search.Symbols(m.ctx, name, 60) {
		take(hit.Name)
	}
	slices.SortStableFunc(all, func(a, b candidate) int { return a.far - b.far })
	var known, other []string
	for _, c := range all[:min(len(all), 12)] {
		if m.means(c.name, at) {
			known = append(known, c.name)
		} else {
			other = append(other, c.name)
		}
	}
	if len(known) == 0 && m.code.Checked(m.lang) != nil {
		return nil // it would only be another name that nothing defines
	}
	if len(known) > 0 {
		return known[:min(len(known), mostNear)]
	}
	return other[:min(len(other), mostNear)]
}

// means says whether another name would mean something in the place of one.
func (m *mending) means(name string, at place.Range) bool {
	changed := m.file.Text.Apply([]text.Edit{{Start: int(at.Start), End: int(at.End), New: []byte(name)}})
	over := resolve.NewOverlay(m.ctx, m.code, map[string][]byte{m.file.Path: changed.Bytes()})
	all := resolve.New(over).Meanings(m.ctx, m.file.Path, []int{int(at.Start)})
	return len(all) > 0 && all[0].Path != ""
}

// Distance is how many letters have to be put in, taken out, changed, or made to change places with their neighbours for one name to
// become another; large and small letters are half of a change, rounded up. It is the restricted edit distance of Damerau and
// Levenshtein.
func Distance(a, b string) int {
	if strings.EqualFold(a, b) {
		return 1
	}
	x, y := []rune(a), []rune(b)
	before, last, now := make([]int, len(y)+1), make([]int, len(y)+1), make([]int, len(y)+1)
	for j := range last {
		last[j] = j
	}
	for i := 1; i <= len(x); i++ {
		now[0] = i
		for j := 1; j <= len(y); j++ {
			cost := 1
			if x[i-1] == y[j-1] {
				cost = 0
			}
			now[j] = min(last[j]+1, now[j-1]+1, last[j-1]+cost)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				now[j] = min(now[j], before[j-2]+1)
			}
		}
		before, last, now = last, now, before
	}
	return last[len(y)]
}

// compiled adds what can be done about something that a compiler says.
func (m *mending) compiled(x *problem.Problem) {
	how := m.lang.Mending
	if how.Spare != nil {
		if _, ok := how.Spare(x.Text); ok {
			m.unused(x.At, x.Text)
		}
	}
	if how.Lacking != nil {
		if typ, iface, ok := how.Lacking(x.Text); ok {
			m.lacks(typ, iface, x.Text)
		}
	}
	m.failing(x.At, x.Text)
}

// unused takes a definition out that nothing uses.
func (m *mending) unused(at place.Range, about string) {
	if m.lang.Mending.Drop != nil {
		if edits, ok := m.lang.Mending.Drop(m.file.Text.Bytes(), int(at.Start)); ok {
			m.add("take out "+string(m.file.Text.Slice(int(at.Start), int(at.End))), about, m.edits("unused", edits...))
			return
		}
	}
	if m.file.Facts == nil {
		return
	}
	id := m.file.Facts.DefAt(int(at.Start))
	if id == facts.NoDef {
		return
	}
	d := &m.file.Facts.Defs[id]
	if m.file.Facts.Local(d) {
		return // what gives it a value may do something
	}
	gone := d.Full
	if d.Doc.Len() > 0 && d.Doc.Start < gone.Start {
		gone.Start = d.Doc.Start
	}
	m.add("take out "+d.Kind.String()+" "+d.Name, about, m.edits("unused", lang.Replaced{At: withLineEnd(m.file.Text.Bytes(), gone)}))
}

// withLineEnd is a piece with the blanks around it on its lines, and the empty line behind it.
func withLineEnd(text []byte, at place.Range) place.Range {
	for at.Start > 0 && (text[at.Start-1] == ' ' || text[at.Start-1] == '\t') {
		at.Start--
	}
	for range 2 {
		end := at.End
		for int(end) < len(text) && strings.IndexByte(" \t\r", text[end]) >= 0 {
			end++
		}
		if int(end) < len(text) && text[end] == '\n' {
			at.End = end + 1
		}
	}
	return at
}

// failing adds how a call can be handled that may fail, and whose error is not looked at.
func (m *mending) failing(at place.Range, about string) {
	how := m.lang.Mending
	if how.Calls == nil {
		return
	}
	doc := m.file.Text.Bytes()
	name, ok := how.Calls(doc, int(at.Start))
	if !ok {
		return
	}
	for _, h := range how.Failing(doc, int(at.Start), m.answers.Describe(m.ctx, m.file.Path, int(name.Start)).Signature) {
		edits := slices.Clone(h.Edits)
		for i := range edits {
			edits[i].New = m.zeros(edits[i].New)
		}
		if about == "" {
			about = "its error is not looked at"
		}
		m.add(h.Title, about, m.withImports(m.edits("error", edits...), h.Imports))
	}
}

// made is a value of a type of which it is not known what it is.
var made = regexp.MustCompile(`\*new\(((?:\w+\.)?(\w+))\)`)

// zeros writes values of types as is usual for what these are.
func (m *mending) zeros(s string) string {
	return made.ReplaceAllStringFunc(s, func(written string) string {
		parts := made.FindStringSubmatch(written)
		for _, sym := range m.code.Index().Named(parts[2]) {
			if m.code.Languages().Of(sym.Path) != m.lang {
				continue
			}
			switch sym.Kind {
			case facts.Interface:
				return "nil"
			case facts.Struct, facts.Class:
				return parts[1] + "{}"
			}
		}
		return written
	})
}

// withImports adds the imports that what is proposed needs.
func (m *mending) withImports(p *proposal.Proposal, paths []string) *proposal.Proposal {
	var add []facts.Imported
	for _, needed := range paths {
		if !slices.ContainsFunc(m.file.Facts.Imports, func(i facts.Imported) bool { return i.Path == needed }) {
			add = append(add, facts.Imported{Path: needed})
		}
	}
	if len(add) == 0 {
		return p
	}
	q, err := m.tidier.Change(m.ctx, m.file.Path, nil, add)
	if err != nil {
		return nil // it would not work without
	}
	p.Merge(q)
	p.Order()
	return p
}

// lacking adds the methods that the type around an offset has to have and has not.
func (m *mending) lacking(offset int) {
	if m.file.Facts == nil || m.lang.Mending.Stub == nil || !m.lang.Mending.Inside {
		return
	}
	for _, id := range m.file.Facts.Around(offset) {
		if d := &m.file.Facts.Defs[id]; d.Kind == facts.Class && !d.Abstract {
			for _, super := range m.resolver.Supertypes(m.ctx, m.file.Path, int(d.At.Start), resolve.All).Answers {
				if super.Kind == facts.Interface {
					m.stubs(m.file, id, super, fmt.Sprintf("%s says that it has them", super.Name))
				}
			}
		}
	}
}

// lacks adds the methods of an interface that a type has not, both by name.
func (m *mending) lacks(typ, iface, about string) {
	if m.lang.Mending.Stub == nil {
		return
	}
	of, ok := m.named(typ, func(k facts.Kind) bool { return k.IsType() && k != facts.Interface })
	to, ok2 := m.named(iface, func(k facts.Kind) bool { return k == facts.Interface })
	if !ok || !ok2 {
		return
	}
	file, err := m.code.Load(m.ctx, of.Path)
	if err != nil || file.Facts == nil {
		return
	}
	m.stubs(file, file.Facts.DefAt(int(of.At.Start)), to, about)
}

// named is the type of a name: of this folder, or the only one.
func (m *mending) named(name string, is func(facts.Kind) bool) (a resolve.Answer, ok bool) {
	for _, s := range m.code.Index().Named(name) {
		if !is(s.Kind) || m.code.Languages().Of(s.Path) != m.lang {
			continue
		}
		if ok && path.Dir(s.Path) != path.Dir(m.file.Path) {
			continue
		}
		a, ok = resolve.Answer{Path: s.Path, Name: s.Name, Kind: s.Kind, At: place.Range{Start: uint32(s.Offset), End: uint32(s.Offset + len(s.Name))}}, true
	}
	return a, ok
}
