// Package problem finds what is wrong in the code of a project: what cannot be read, what a compiler or an analysis finds,
// names that nothing defines, imports that lead nowhere or that nothing uses. A false alarm costs more than a miss: what is told
// is what is known, each with who says so and how sure that is.
package problem

import (
	"bytes"
	"cmp"
	"context"
	"io/fs"
	"path"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"unicode/utf8"

	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/work"
)

// Kind is what is wrong.
type Kind string

// The kinds.
const (
	Syntax   Kind = "syntax"   // a text cannot be read
	Types    Kind = "types"    // a compiler does not take it
	Analysis Kind = "analysis" // an analysis of the language finds a mistake
	Reported Kind = "reported" // a report that was read in says so
	Name     Kind = "name"     // nothing defines a name
	Import   Kind = "import"   // an import leads nowhere
	Spare    Kind = "spare"    // an import that nothing uses
	Unused   Kind = "unused"   // a definition that nothing uses and nothing outside can
)

// Kinds are all of them, the gravest first.
var Kinds = []Kind{Syntax, Types, Name, Import, Analysis, Reported, Spare, Unused}

// Grave says whether code with such a problem does not do what it should, rather than that something is too much.
func (k Kind) Grave() bool { return k != Spare && k != Unused }

// Words say what a kind is.
func (k Kind) Words() string {
	switch k {
	case Syntax:
		return "cannot be read"
	case Types:
		return "the compiler does not take it"
	case Analysis:
		return "a likely mistake"
	case Name:
		return "a name that nothing defines"
	case Import:
		return "an import that leads nowhere"
	case Reported:
		return "a report of another tool, which was read in, says so"
	case Spare:
		return "an import that nothing uses"
	}
	return "a definition that nothing uses"
}

// Problem is something that is wrong at a place.
type Problem struct {
	Path string
	At   place.Range
	// Line and Col are where it begins, EndLine and EndCol where it ends; from 1, columns in bytes.
	Line, Col, EndLine, EndCol int
	Kind                       Kind
	// By is who says so.
	By        string
	Certainty resolve.Certainty
	// Text says what is wrong.
	Text string
	// Fixes are what a report suggests.
	Fixes []sweep.Fix

	runes, endRunes int // the columns in code points
}

// Finder finds the problems of a project. It may be used by several goroutines.
type Finder struct {
	code     *codebase.Base
	answers  *answer.Guide
	tidier   *tidy.Tidier
	resolver *resolve.Resolver
	off      atomic.Pointer[[]string] // kinds that are not told

	// Reported gives the places at which reports that were read in say that something is wrong; nil if nobody does.
	Reported func(ctx context.Context, f *codebase.File) []sweep.Item
}

// LeaveOut has some kinds not be told.
func (f *Finder) LeaveOut(kinds []string) { f.off.Store(&kinds) }

// told says whether a kind is told.
func (f *Finder) told(k Kind) bool {
	off := f.off.Load()
	return off == nil || !slices.Contains(*off, string(k))
}

// New makes one for a project.
func New(code *codebase.Base, answers *answer.Guide, tidier *tidy.Tidier) *Finder {
	return &Finder{code: code, answers: answers, tidier: tidier, resolver: resolve.New(code)}
}

// In finds what is wrong in a file as it is now, in the order of the text. What a compiler says is among it once it was asked.
func (f *Finder) In(ctx context.Context, p string) ([]Problem, error) {
	found, err := f.Look(ctx, p)
	return found.All, err
}

// Found is what was found in a file.
type Found struct {
	// Of is the text that was looked at; nil if none was.
	Of  *text.Document
	All []Problem
	// Broken says that the text cannot be read as a whole, so that nothing else is told of it.
	Broken bool
	// Unasked says that there is a compiler that was not asked yet about the text as it is.
	Unasked bool
}

// Look is In, with what was looked at.
func (f *Finder) Look(ctx context.Context, p string) (Found, error) {
	l := f.code.Languages().Of(p)
	if l == nil && f.Reported == nil || f.code.IsOutside(p) {
		return Found{}, nil
	}
	file, err := f.code.Load(ctx, p)
	if err != nil {
		return Found{}, err
	}
	found := Found{Of: file.Text}
	if file.Text.Binary() || !file.Text.Whole() {
		return found, nil
	}
	if l == nil || f.lent(p) || f.code.Languages().IsGenerated(p, file.Text.Bytes()) {
		look := &looking{Finder: f, ctx: ctx, file: file}
		look.reported()
		Sort(look.found)
		found.All = look.found
		return found, ctx.Err()
	}
	look := &looking{Finder: f, ctx: ctx, lang: l, file: file, named: map[string]bool{}, prose: f.code.Languages().Signs(p).Runs(file.Text.Bytes())}
	if found.Broken = look.syntax(); !found.Broken {
		found.Unasked = !look.checked()
		look.names()
		look.imports()
		if l.Wrong.Unused.Is() {
			look.lacks()
		}
		look.slips()
	}
	look.reported()
	Sort(look.found)
	found.All = look.found
	return found, ctx.Err()
}

// borrowed are folders of what others wrote, and of what is there to be wrong, whatever the language.
var borrowed = []string{"vendor", "third_party", "testdata"}

// lent says whether a file belongs to what others wrote, though it lies in the project, or is there to be wrong.
func (f *Finder) lent(p string) bool {
	for part := range strings.SplitSeq(p, "/") {
		if slices.Contains(borrowed, part) || slices.ContainsFunc(f.code.Languages().All(), func(l *lang.Language) bool { return slices.Contains(l.Files.Installed, part) }) {
			return true
		}
	}
	return false
}

// Sort puts problems in the order of the files and of their texts.
func Sort(all []Problem) { slices.SortFunc(all, byPlace) }

func byPlace(a, b Problem) int {
	return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start), strings.Compare(string(a.Kind), string(b.Kind)), strings.Compare(a.Text, b.Text))
}

// All finds what is wrong in the files of a folder, "." for the whole project, and hands it over file by file until report is
// false; no order is kept between files. unused says that definitions that nothing uses are told, too, which come last. unasked
// is of how many files a compiler was not asked yet.
func (f *Finder) All(ctx context.Context, folder string, unused bool, report func([]Problem) bool) (unasked int, err error) {
	var files []string
	for file := range f.code.Listing().Files() {
		if folder == "." || file.Path == folder || strings.HasPrefix(file.Path, folder+"/") {
			files = append(files, file.Path)
		}
	}
	slices.Sort(files)
	var next atomic.Int64
	var mu sync.Mutex
	enough, broken := false, map[string]bool{}
	var group work.Group
	for range work.Processors() {
		group.Go(func() {
			for n := next.Add(1) - 1; int(n) < len(files) && ctx.Err() == nil; n = next.Add(1) - 1 {
				found, err := f.Look(ctx, files[n])
				if err != nil {
					continue // what cannot be read is told where it is opened
				}
				mu.Lock()
				broken[files[n]] = found.Broken
				if found.Unasked {
					unasked++
				}
				if enough = enough || len(found.All) > 0 && !report(found.All); enough {
					next.Store(int64(len(files)))
				}
				mu.Unlock()
			}
		})
	}
	group.Wait()
	if unused && f.told(Unused) && !enough && ctx.Err() == nil {
		f.unused(ctx, folder, broken, report)
	}
	return unasked, ctx.Err()
}

// unused hands over the definitions that nothing uses, but for what may be used in files that cannot be read as a whole.
func (f *Finder) unused(ctx context.Context, folder string, broken map[string]bool, report func([]Problem) bool) {
	f.answers.Unused(ctx, folder, func(a answer.Answer) bool {
		if a.Certainty == resolve.ByName || f.lent(a.Path) || !worthUsing(&a) || len(f.code.NamedIn(path.Dir(a.Path), a.Name)) > 1 {
			return true // or there is another of that name, for another system
		}
		file, err := f.code.Load(ctx, a.Path)
		maybe := slices.ContainsFunc(f.code.Mentioning(a.Name), func(p string) bool { return broken[p] })
		if err != nil || maybe || f.isLoose(file) || spared(file.Text.Line(a.Line)) {
			return true
		}
		look := &looking{Finder: f, ctx: ctx, file: file, prose: f.code.Languages().Signs(a.Path).Runs(file.Text.Bytes())}
		if look.isProse(a.At) {
			return true
		}
		look.add(a.At, Unused, Tool, resolve.Inferred, "nothing uses "+a.Kind.String()+" "+a.Name)
		return report(look.found)
	})
}

// worthUsing says whether it is for sure too much if nothing names it: members may be called by way of a type, and constants are
// often told as a whole.
func worthUsing(a *answer.Answer) bool {
	return a.Container == "" && (a.Kind == facts.Function || a.Kind == facts.Variable || a.Kind.IsType())
}

// isLoose says whether the names of a file are known in files that do not import it, as in scripts that a page loads, or whether
// it is for another system.
func (f *Finder) isLoose(file *codebase.File) bool {
	l := f.code.Languages().Of(file.Path)
	return file.Facts == nil || l.Scopes.Shared.Is() && l.Scopes.Sees == lang.SeesItself && len(file.Facts.Imports) == 0 || !l.Scopes.Builds.Here(file.Path, file.Facts.Build)
}

// spared says whether a line asks for what it says to be let be.
func spared(line []byte) bool {
	return slices.ContainsFunc([]string{"nolint", "noqa", "eslint-disable", "NOSONAR", "noinspection"}, func(mark string) bool { return bytes.Contains(line, []byte(mark)) })
}

// looking looks for what is wrong in one file.
type looking struct {
	*Finder
	ctx   context.Context
	lang  *lang.Language
	file  *codebase.File
	found []Problem

	named map[string]bool // names that are told to be defined nowhere
	prose lexical.Runs
	// What the file defines, and where types are named; nil until that is asked for.
	defined map[string]bool
	types   map[uint32]bool
}

// add notes a problem; it is false if such are not told.
func (l *looking) add(at place.Range, kind Kind, by string, certainty resolve.Certainty, words string) bool {
	if !l.told(kind) {
		return false
	}
	p := Problem{Path: l.file.Path, At: at, Kind: kind, By: by, Certainty: certainty, Text: words}
	p.Line, p.Col = l.file.Text.Position(int(at.Start))
	p.EndLine, p.EndCol = l.file.Text.Position(int(at.End))
	p.runes, p.endRunes = columnIn(l.file.Text.Line(p.Line), p.Col), columnIn(l.file.Text.Line(p.EndLine), p.EndCol)
	l.found = append(l.found, p)
	return true
}

// columnIn is a column in code points, from 1, for one in bytes.
func columnIn(line []byte, col int) int {
	return utf8.RuneCount(line[:min(max(col-1, 0), len(line))]) + 1
}

// syntax finds what cannot be read; then the rest is not to be relied upon.
func (l *looking) syntax() bool {
	all, err := l.lang.Wrong.Syntax(l.ctx, l.file.Text.Bytes())
	if err != nil {
		return true // nobody knows what it says
	}
	for _, x := range all {
		l.add(x.At, Syntax, "the syntax of "+l.lang.Name, resolve.Inferred, x.Text)
	}
	return len(all) > 0
}

// checked finds what a compiler says. It is false if one has still to be asked.
func (l *looking) checked() bool {
	book := l.code.Checked(l.lang)
	if book == nil {
		return true
	}
	all, known := book.Faults(l.file.Path)
	for _, x := range all {
		kind, by, certainty := Types, "the compiler of "+l.lang.Name, resolve.Exact
		if x.Import {
			kind = Import
		}
		if x.By != "" {
			kind, by, certainty = Analysis, x.By, resolve.Inferred
		}
		at := place.Range{Start: min(x.Start, uint32(l.file.Text.Len())), End: min(x.End, uint32(l.file.Text.Len()))}
		if at.Len() <= 0 {
			at.End = l.wordEnd(at.Start)
		}
		if l.add(at, kind, by, certainty, x.Text) {
			l.found[len(l.found)-1].Fixes = l.suggested(x.Fixes)
		}
	}
	return known || book.Single // such compilers are asked only where a build says how
}

// reported finds what reports that were read in say.
func (l *looking) reported() {
	if l.Reported == nil || !l.told(Reported) {
		return
	}
	items := l.Reported(l.ctx, l.file)
	for i := range items {
		it := &items[i]
		start := uint32(l.file.Text.Offset(it.Line, it.Col))
		if it.Length == 0 && it.Col == 1 { // which line is all that was said
			line := l.file.Text.Line(it.Line)
			start += uint32(len(line) - len(bytes.TrimLeft(line, " \t")))
		}
		at := place.Range{Start: start, End: min(start+uint32(it.Length), uint32(l.file.Text.Len()))}
		if it.Length == 0 {
			at.End = l.wordEnd(start)
		}
		by := it.By
		if it.Role != "" {
			by += " " + it.Role
		}
		l.add(at, Reported, by, resolve.Inferred, it.Note)
		l.found[len(l.found)-1].Fixes = it.Fixes
	}
}

// suggested are the fixes of an analysis, as those of a report.
func (l *looking) suggested(all []check.Fix) (fixes []sweep.Fix) {
	for _, f := range all {
		fix := sweep.Fix{Title: f.Title}
		for _, e := range f.Edits {
			if e.End < e.Start || int(e.End) > l.file.Text.Len() {
				break
			}
			line, _ := l.file.Text.Position(int(e.Start))
			fix.Edits = append(fix.Edits, sweep.Edit{Path: l.file.Path, Line: line, Start: int(e.Start), Was: string(l.file.Text.Slice(int(e.Start), int(e.End))), Text: e.New})
		}
		if len(fix.Edits) == len(f.Edits) {
			fixes = append(fixes, fix)
		}
	}
	return fixes
}

// wordEnd is where the word ends that begins at an offset, or the sign.
func (l *looking) wordEnd(start uint32) uint32 {
	end := start
	for text := l.file.Text.Bytes(); int(end) < len(text) && isWord(text[end]); {
		end++
	}
	if end == start && int(end) < l.file.Text.Len() {
		end++
	}
	return end
}

func isWord(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= 0x80
}

// lacks finds what is imported for nothing, and what has to be imported still.
func (l *looking) lacks() {
	along, text := l.mayComeAlong(), l.file.Text.Bytes()
	spare, missing, err := l.tidier.Lacks(l.ctx, l.file.Path, func(u facts.Use) bool {
		return !along && l.lang.Wrong.Wanting(u, text) && !l.isProse(u.At) && !l.isDefined(u.Name) && !l.isOfType(u)
	})
	if err != nil {
		return
	}
	for _, s := range spare {
		l.add(s.At, Spare, Tool, resolve.Inferred, "nothing uses "+s.Name+", which is imported here")
	}
	for _, m := range missing {
		if l.named[m.Name] {
			continue
		}
		l.named[m.Name] = true
		from := m.Choices[0].Path
		if len(m.Choices) > 1 {
			from += " or elsewhere"
		}
		l.add(m.Use.At, Name, Tool, resolve.Inferred, "nothing defines "+m.Name+" here; it could be imported from "+from)
	}
}

// imports finds those that lead nowhere, among those that say where in the project they lead.
func (l *looking) imports() {
	if l.file.Facts == nil {
		return
	}
	imports := l.lang.Imports(l.code)
	told := map[place.Range]bool{}
	for i := range l.file.Facts.Imports {
		imp := l.file.Facts.Imports[i]
		if told[imp.At] || !l.lang.Wrong.Leads(imp, l.file.Text.Bytes()) || imports.Module(l.file.Path, imp) != "" || l.mayBeMade(imp) {
			continue
		}
		told[imp.At] = true
		l.add(imp.At, Import, Tool, resolve.Inferred, "the import of "+imp.Path+" leads nowhere")
	}
}

// mayBeMade says whether what an import leads to may be there once the project is built: its folder is not there yet, or there is
// something of that name, which may be ignored or written in another language.
func (l *looking) mayBeMade(imp facts.Imported) bool {
	folder := path.Dir(l.file.Path)
	for range max(imp.Level-1, 0) {
		folder = path.Dir(folder)
	}
	wanted := imp.Path
	if imp.Level > 0 {
		wanted = strings.ReplaceAll(strings.TrimLeft(wanted, "."), ".", "/")
	}
	wanted = path.Join(folder, wanted)
	entries, err := fs.ReadDir(l.code.Disk(), path.Dir(wanted))
	stem := strings.TrimSuffix(path.Base(wanted), path.Ext(wanted))
	return err != nil || stem == "" || slices.ContainsFunc(entries, func(e fs.DirEntry) bool {
		return e.Name() == path.Base(wanted) || strings.HasPrefix(e.Name(), stem+".")
	})
}
