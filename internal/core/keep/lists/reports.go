package lists

import (
	"context"
	"io"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/report"
)

// ListReport says what became of what a list names.
type ListReport struct {
	// Form is what was read.
	Form report.Form
	// Others is how many lines name no place, Outside how many name files that the
	// project does not have, with the first of those.
	Others, Outside int
	FirstOutside    string
	// More is how many places were left out, since a sweep does not hold more; Passed how many tests did not fail.
	More, Passed int
	// Broken says why the list could not be read to its end; "" if it was.
	Broken string
}

// ReadList reads a list of places, or a report: see package report; dir is the folder from which its paths are meant, if they are
// not from the root. A name by itself is taken for the file of that name, if there is only one. Of tests, those that failed are
// places.
func (k *Keeper) ReadList(ctx context.Context, name, dir string, r io.Reader) (*sweep.Sweep, ListReport, error) {
	read, err := report.Read(r)
	if err != nil {
		return nil, ListReport{}, err
	}
	s, said := k.SweepOf(ctx, name, dir, read)
	return s, said, nil
}

// SweepOf makes a sweep of a report; it is not kept yet.
func (k *Keeper) SweepOf(ctx context.Context, name, dir string, read *report.Report) (*sweep.Sweep, ListReport) {
	said := ListReport{Form: read.Form, Others: read.Others, More: read.More, Broken: read.Broken}
	source := sweep.Source{Kind: sweep.OfList}
	if read.Form != report.Lines {
		source.Kind = sweep.OfReport
	}
	codebase.AwaitListed(ctx, k.code) // or what is named would not be found
	t := &taking{k: k, dir: dir, columns: read.Columns, said: &said, a: anchoring{w: k}, seen: map[string]bool{}}
	for i := range read.Findings {
		t.finding(ctx, &read.Findings[i])
	}
	for i := range read.Results {
		if x := &read.Results[i]; x.Outcome == report.Failed {
			t.failure(ctx, x)
		} else {
			said.Passed++
		}
	}
	return sweep.New(name, source, t.items), said
}

// taking makes places of what a report says.
type taking struct {
	k       *Keeper
	dir     string
	columns report.Columns
	said    *ListReport
	a       anchoring
	items   []sweep.Item
	seen    map[string]bool // what was said, with where
}

// finding takes in what is said of a place; it is false if the project does not have it.
func (t *taking) finding(ctx context.Context, f *report.Finding) bool {
	p, ok := t.k.FileOf(t.dir, f.In, f.Path)
	if !ok {
		if t.said.Outside++; t.said.Outside == 1 {
			t.said.FirstOutside = f.Path
		}
		return false
	}
	at := place.Place{Path: p, Line: f.Line, Col: max(f.Col, 1)}
	anchor := t.a.anchor(ctx, at)
	it := sweep.Item{Memory: place.Remember(anchor), Role: f.Rule}
	if file := t.a.last; file != nil && file.Path == p {
		if t.columns != report.Bytes && f.Line <= file.Text.Lines() {
			at.Col = bytesIn(file.Text.Line(f.Line), at.Col, t.columns)
			it.Memory = place.Remember(t.a.anchor(ctx, at))
			if f.EndLine == f.Line && f.EndCol > f.Col {
				it.Length = max(bytesIn(file.Text.Line(f.Line), f.EndCol, t.columns)-at.Col, 0)
			}
		}
		it.In = codebase.SymbolAround(file, f.Line, at.Col)
		it.Fixes = t.fixes(ctx, f.Fixes)
	}
	if text := strings.TrimSpace(f.Text); text != anchor.Text {
		it.Note = text
	}
	it.By = f.By
	key := it.Place().String() + it.Note
	if t.seen[key] {
		return true // it was said once already
	}
	t.seen[key] = true
	t.items = append(t.items, it)
	return true
}

// bytesIn is a column in bytes for one that counts something else, both from 1.
func bytesIn(line []byte, col int, columns report.Columns) int {
	n := 1
	for i, r := range string(line) {
		if n >= col {
			return i + 1
		}
		n++
		if columns == report.UTF16 && r > 0xffff {
			n++
		}
	}
	return len(line) + 1
}

// fixes are those that can be made as the files are now.
func (t *taking) fixes(ctx context.Context, all []report.Fix) (fixes []sweep.Fix) {
	for _, f := range all {
		fix := sweep.Fix{Title: f.Title}
		for _, e := range f.Edits {
			p, ok := t.k.FileOf(t.dir, "", e.Path)
			if !ok {
				break
			}
			file, err := t.k.code.Load(ctx, p)
			if err != nil || e.EndLine > file.Text.Lines() || e.Line > file.Text.Lines() {
				break
			}
			start := file.Text.Offset(e.Line, bytesIn(file.Text.Line(e.Line), e.Col, t.columns))
			end := file.Text.Offset(e.EndLine, len(file.Text.Line(e.EndLine))+1)
			if e.EndCol > 0 {
				end = file.Text.Offset(e.EndLine, bytesIn(file.Text.Line(e.EndLine), e.EndCol, t.columns))
			}
			if end < start || end-start > mostOfFix {
				break
			}
			was := string(file.Text.Slice(start, end))
			fix.Edits = append(fix.Edits, sweep.Edit{Path: p, Line: e.Line, Start: start, Was: was, Text: e.Text})
		}
		if len(fix.Edits) == len(f.Edits) {
			fixes = append(fixes, fix)
		}
	}
	return fixes
}

// mostOfFix is how much text one edit of a fix takes away at the most, in bytes.
const mostOfFix = 64 << 10

// failure takes in a test that failed, at the line that failed.
func (t *taking) failure(ctx context.Context, r *report.Result) {
	at := t.k.Failure(t.dir, r)
	said := strings.TrimSpace(r.Title() + ": " + r.Why())
	if at.Path == "" {
		t.said.Outside++
		if t.said.FirstOutside == "" {
			t.said.FirstOutside = r.Title()
		}
		return
	}
	t.finding(ctx, &report.Finding{Path: at.Path, Line: at.Line, Col: at.Col, Text: said, Rule: "test"})
}

// Failure is the place of the project at which a test failed: the first that its failure names in the file of the test, if that is
// known, or else the first in the project, or where the test stands; the path is "" if nothing of it is in the project.
func (k *Keeper) Failure(dir string, r *report.Result) (at place.Place) {
	home, known := "", false
	if r.File != "" {
		home, known = k.FileOf(dir, r.Suite, r.File)
	}
	for _, f := range r.Places {
		p, ok := k.FileOf(dir, f.In, f.Path)
		if !ok {
			continue
		}
		if known && p == home || !known && k.code.Languages().IsTest(p) {
			return place.Place{Path: p, Line: f.Line, Col: max(f.Col, 1)}
		}
		if at.Path == "" {
			at = place.Place{Path: p, Line: f.Line, Col: max(f.Col, 1)}
		}
	}
	if at.Path == "" && known && r.Line > 0 {
		at = place.Place{Path: home, Line: r.Line, Col: 1}
	}
	return at
}

// reports are the sweeps that are reports of other tools, as they were when they were last kept.
type reports struct {
	mu  sync.Mutex
	all map[string]*sweep.Sweep // by id; nil if none were loaded yet
	// in are the places that are left, by file; nil if that has to be worked out anew.
	in map[string][]sweep.Item
	// count is another number whenever they have changed.
	count int
}

func (r *reports) loaded(all []*sweep.Sweep) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.all = map[string]*sweep.Sweep{}
	for _, s := range all {
		if s.Source.Kind == sweep.OfReport {
			r.all[s.ID] = s.Clone()
		}
	}
	r.in = nil
	r.count++
}

func (r *reports) changed(s *sweep.Sweep) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if s.Source.Kind == sweep.OfReport && r.all != nil {
		r.all[s.ID] = s.Clone()
		r.in = nil
		r.count++
	}
}

func (r *reports) removed(id string) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.all[id] != nil {
		delete(r.all, id)
		r.in = nil
		r.count++
	}
}

// left are the places of a file that are left.
func (r *reports) left(path string) []sweep.Item {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.in == nil {
		r.in = map[string][]sweep.Item{}
		for _, s := range r.all {
			for i := range s.Items {
				if !s.IsLeft(i) {
					continue
				}
				it := s.Items[i]
				if it.By == "" {
					it.By = s.Name
				}
				r.in[it.Path] = append(r.in[it.Path], it)
			}
		}
	}
	return slices.Clone(r.in[path])
}

// ReportsState is another number whenever the reports that are kept, or what is ticked in them, have changed.
func (k *Keeper) ReportsState() int {
	k.reports.mu.Lock()
	defer k.reports.mu.Unlock()
	return k.reports.count
}

// ReportedIn are the places of a file, as it is now, at which reports that are kept say that something is wrong, and which are not
// ticked. Of reports that cannot be read, whoever loads the sweeps is told.
func (k *Keeper) ReportedIn(ctx context.Context, f *codebase.File) (all []sweep.Item) {
	k.reports.mu.Lock()
	known := k.reports.all != nil
	k.reports.mu.Unlock()
	if !known {
		_, _ = k.Sweeps()
	}
	if all = k.reports.left(f.Path); len(all) == 0 {
		return nil
	}
	memories := make([]*place.Memory, len(all))
	for i := range all {
		memories[i] = &all[i].Memory
	}
	for i, fate := range RecallAll(ctx, f, memories) {
		all[i].Fate = fate
	}
	return slices.DeleteFunc(all, func(it sweep.Item) bool { return it.Fate == place.Gone })
}

// FileOf finds the file of the project that a list means; in is what its path may be meant from, such as a package.
func (k *Keeper) FileOf(dir, in, p string) (string, bool) {
	for at := in; at != "" && !path.IsAbs(p); {
		if file := path.Join(dir, at, p); k.code.Listing().IsFile(file) {
			return file, true
		}
		if file := path.Join(at, p); k.code.Listing().IsFile(file) {
			return file, true
		}
		_, rest, more := strings.Cut(at, "/")
		if !more {
			if file := path.Join(dir, p); k.code.Listing().IsFile(file) {
				return file, true
			}
		}
		at = rest
	}
	if file, ok := k.listedFile(dir, p); ok {
		return file, true
	}
	if i := strings.LastIndexByte(p, ' '); i >= 0 { // a word may stand in front of it, as in: error hut.go:3
		return k.listedFile(dir, p[i+1:])
	}
	return "", false
}

// listedFile finds the file of the project that a list means.
func (k *Keeper) listedFile(dir, p string) (string, bool) {
	p = filepath.ToSlash(p)
	if path.IsAbs(p) {
		p = k.code.Relative(path.Clean(p))
		return p, k.code.Listing().IsFile(p)
	}
	p = path.Clean(p)
	if in := path.Join(dir, p); k.code.Listing().IsFile(in) {
		return in, true
	}
	if k.code.Listing().IsFile(p) {
		return p, true
	}
	found := ""
	for _, f := range k.code.FilesNamed(path.Base(p)) {
		if f == p || strings.HasSuffix(f, "/"+strings.TrimPrefix(p, "./")) {
			if found != "" {
				return "", false // more than one may be meant
			}
			found = f
		}
	}
	return found, found != ""
}
