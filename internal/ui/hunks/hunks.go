// Package hunks shows in what the files on the screen differ from the last commit, or from another one: in the margin as
// one types, from hunk to hunk over the project, with what was there beside it; and puts hunks back.
package hunks

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project compares files with commits; see package hunk.
type Project interface {
	Commit(ctx context.Context, rev string) (vcs.Commit, error)
	Differences(ctx context.Context, c vcs.Commit) ([]vcs.Difference, error)
	File(ctx context.Context, c vcs.Commit, was string, f *codebase.File) (*hunk.Diff, error)
	Was(ctx context.Context, c vcs.Commit, path string, now *text.Document) (*text.Document, error)
	History(ctx context.Context, c vcs.Commit, path string, first, last int) ([]vcs.Revision, error)
	Stage(ctx context.Context, f *codebase.File, line int) (h hunk.Hunk, in bool, err error)
}

// Loader reads files; see package codebase.
type Loader interface {
	Load(ctx context.Context, path string) (*codebase.File, error)
	As(ctx context.Context, path string, doc *text.Document) *codebase.File
}

// Host is the program around it.
type Host interface {
	surface.Host
	// Sides are the views in which files are shown.
	Sides() []*frame.Side
	// Lay lays a text beside the code, with some parts of it marked.
	Lay(how string, f *codebase.File, at answer.Answer, parts []place.Range) surface.Intent
}

// Changer changes files.
type Changer interface {
	// Propose shows a change before it is made, and Change makes it at once.
	Propose(p *proposal.Proposal) surface.Intent
	Change(p *proposal.Proposal) surface.Intent
}

// Model is what is compared with what.
type Model struct {
	host    Host
	change  Changer
	project Project
	load    Loader
	asker   *surface.Asker
	asks    askline.Surface
	lists   choice.Surface
	whole   *compare.Surface // both texts of a file, side by side

	rev     string     // what it is compared with, as it was asked for; "" for the last commit
	commit  vcs.Commit // the same, once that is known
	asked   map[*code.Model]*codebase.File
	walking bool // hunks are what one goes through
	earlier past // or else what a piece of code was in earlier commits
	without bool // there is no repository, or no commit
}

// New compares with the last commit.
func New(host Host, change Changer, project Project, load Loader) *Model {
	return &Model{host: host, change: change, project: project, load: load, asker: host.Asker(nil), whole: compare.NewSurface(), asked: map[*code.Model]*codebase.File{}}
}

// Commands are those about hunks.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{
		keymap.HunkNext:      func() surface.Intent { m.earlier = past{}; return m.Next(true) },
		keymap.HunkPrevious:  func() surface.Intent { m.earlier = past{}; return m.Next(false) },
		keymap.HunkOld:       m.old,
		keymap.HunkBack:      func() surface.Intent { return m.back(false) },
		keymap.HunkLine:      func() surface.Intent { return m.back(true) },
		keymap.HunkFile:      m.fileBack,
		keymap.HunkAgainst:   m.against,
		keymap.HunkStage:     m.stage,
		keymap.BothSides:     m.sides,
		keymap.LineHistory:   func() surface.Intent { return m.history(false) },
		keymap.SymbolHistory: func() surface.Intent { return m.history(true) },
	}
}

// Walking says whether hunks are what one goes through.
func (m *Model) Walking() bool { return m.walking }

// Stop says that something else is gone through from now on.
func (m *Model) Stop() { m.walking, m.earlier = false, past{} }

// Forget has everything compared anew.
func (m *Model) Forget() {
	m.commit, m.without = vcs.Commit{}, false
	clear(m.asked)
}

// Watch compares the files on the screen that were not compared yet.
func (m *Model) Watch() tea.Cmd {
	if m.without {
		return nil
	}
	var cmds []tea.Cmd
	for _, s := range m.host.Sides() {
		c := &s.Code
		f := c.File()
		if f == nil || f.Supposed || !f.Text.Whole() || f.Text.Binary() || path.IsAbs(f.Path) || f.Text.Len() > largest {
			continue
		}
		if was := m.asked[c]; was == f || was != nil && was.Path == f.Path && c.Diff() != nil {
			continue
		}
		m.asked[c] = f
		cmds = append(cmds, m.compare(c, f))
	}
	return tea.Batch(cmds...)
}

// largest is up to which size, in bytes, a text is compared without being asked to.
const largest = 16 << 20

// compared is a file with what it was.
type compared struct {
	commit vcs.Commit
	diff   *hunk.Diff
	err    error
}

func (m *Model) compare(c *code.Model, f *codebase.File) tea.Cmd {
	rev := m.rev
	return surface.Do(m.asker, func(ctx context.Context) compared { return m.compareWith(ctx, rev, f) }, func(d compared) surface.Intent {
		switch {
		case errors.Is(d.err, vcs.ErrNoRepository) || errors.Is(d.err, vcs.ErrNoCommit):
			m.without = true
		case d.err != nil || rev != m.rev || c.Path() != f.Path || c.File() == nil:
		default:
			m.commit = d.commit
			diff := d.diff
			if now := c.File().Text; now != diff.Now {
				diff = diff.Follow(text.Between(diff.Now, now), now)
			}
			c.Differs(diff)
		}
		return surface.Intent{}
	})
}

func (m *Model) compareWith(ctx context.Context, rev string, f *codebase.File) (d compared) {
	if d.commit, d.err = m.project.Commit(ctx, rev); d.err != nil {
		return d
	}
	d.diff, d.err = m.project.File(ctx, d.commit, f.Path, f)
	return d
}

// here is the code that is shown and its diff; why says why there is none.
func (m *Model) here() (c *code.Model, d *hunk.Diff, why surface.Intent) {
	here := m.host.Here()
	if here.File == nil || here.Aside {
		return nil, nil, here.Lack("nothing is compared here")
	}
	for _, s := range m.host.Sides() {
		if s.Code.File() == here.File {
			c = &s.Code
		}
	}
	switch {
	case m.without:
		return nil, nil, surface.SayError(vcs.ErrNoRepository)
	case c == nil:
		return nil, nil, surface.Say("this file was not compared with %s", m.words())
	}
	return c, c.Diff(), surface.Intent{}
}

// compared does something with the code that is shown and its diff, as soon as that is known.
func (m *Model) compared(do func(c *code.Model, d *hunk.Diff) surface.Intent) surface.Intent {
	c, d, why := m.here()
	switch {
	case c == nil:
		return why
	case d != nil:
		return do(c, d)
	}
	rev, f := m.rev, c.File()
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) compared { return m.compareWith(ctx, rev, f) }, func(r compared) surface.Intent {
		switch {
		case r.err != nil:
			return surface.SayError(r.err)
		case c.File() != f:
			return surface.Say("this file was not compared with %s yet", m.words())
		}
		m.commit = r.commit
		c.Differs(r.diff)
		return do(c, r.diff)
	}))
}

// words say what it is compared with.
func (m *Model) words() string {
	if m.commit.Words == "" {
		return "the last commit"
	}
	return m.commit.Words
}

// Next goes to the next hunk, or to the one before: of the file, or else of the next file that has any.
func (m *Model) Next(forward bool) surface.Intent {
	if m.walking && len(m.earlier.all) > 0 {
		return m.step(forward)
	}
	m.earlier = past{}
	here := m.host.Here()
	todo := surface.Intent{}
	if c, d, _ := m.here(); c != nil && d != nil {
		if n, ok := next(d, here.View.Place.Line, forward); ok {
			todo = m.goTo(here.File.Path, d, n, m.counted(d, n))
		}
	}
	if todo.Go == nil {
		todo = m.nextFile(here.View.Place.Path, forward)
	}
	return surface.Intent{Through: true, Then: func() surface.Intent {
		m.walking = true
		return todo
	}}
}

// next is the number of the next hunk from a line.
func next(d *hunk.Diff, line int, forward bool) (int, bool) {
	if forward {
		for i, h := range d.Hunks {
			if h.Line(d.Now) > line {
				return i, true
			}
		}
		return 0, false
	}
	for i := len(d.Hunks) - 1; i >= 0; i-- {
		if d.Hunks[i].Line(d.Now) < line && d.Hunks[i].Now.End() <= max(line, 1) {
			return i, true
		}
	}
	return 0, false
}

// counted says which hunk of how many it is, and how much it changes.
func (m *Model) counted(d *hunk.Diff, n int) string {
	return fmt.Sprintf("hunk %d of %d here, %s", n+1, len(d.Hunks), Amount(d.Hunks[n]))
}

// Amount says how many lines a hunk adds and takes out.
func Amount(h hunk.Hunk) string {
	switch h.Kind() {
	case hunk.Added:
		return sheet.Count(h.Now.Count, "line", "lines") + " added"
	case hunk.Removed:
		return sheet.Count(h.Was.Count, "line", "lines") + " taken out below"
	}
	return sheet.Count(h.Was.Count, "line", "lines") + " changed to " + sheet.Count(h.Now.Count, "line", "lines")
}

// goTo goes to a hunk of a file.
func (m *Model) goTo(file string, d *hunk.Diff, n int, words string) surface.Intent {
	return surface.Go(surface.Visit{Path: file, Line: d.Hunks[n].Line(d.Now), How: "hunk against " + m.words(), Lead: true, After: words})
}

// nextFile goes to the first hunk of the next file that differs, or to the last one of the file before.
func (m *Model) nextFile(from string, forward bool) surface.Intent {
	type found struct {
		compared
		file  string
		which int // of the files that differ, from 1
		of    int
		// passed are those on the way that hold no hunks, and why.
		passed []string
	}
	rev := m.rev
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) (f found) {
		if f.commit, f.err = m.project.Commit(ctx, rev); f.err != nil {
			return f
		}
		all, err := m.project.Differences(ctx, f.commit)
		if err != nil {
			f.err = err
			return f
		}
		f.of = len(all)
		for _, i := range order(all, from, forward) {
			if all[i].Gone {
				f.passed = append(f.passed, path.Base(all[i].Path)+" is gone")
				continue
			}
			file, err := m.load.Load(ctx, all[i].Path)
			if err != nil {
				f.passed = append(f.passed, path.Base(all[i].Path)+" cannot be read")
				continue
			}
			if f.diff, err = m.project.File(ctx, f.commit, all[i].Was, file); err == nil && len(f.diff.Hunks) > 0 {
				f.file, f.which = all[i].Path, i+1
				return f
			}
			if file.Text.Binary() {
				f.passed = append(f.passed, path.Base(all[i].Path)+" holds no lines of text")
			}
		}
		return f
	}, func(f found) surface.Intent {
		switch {
		case f.err != nil:
			return surface.SayError(f.err)
		case f.file == "":
			m.commit = f.commit
			if len(f.passed) > 0 {
				return surface.Say("no lines differ from %s; %s", m.words(), passed(f.passed))
			}
			return surface.Say("nothing differs from %s", m.words())
		}
		m.commit = f.commit
		n := 0
		if !forward {
			n = len(f.diff.Hunks) - 1
		}
		words := fmt.Sprintf("file %d of %d that differ from %s, %s", f.which, f.of, m.words(), m.counted(f.diff, n))
		if f.file == from {
			words = "round again: " + m.counted(f.diff, n)
		}
		if len(f.passed) > 0 {
			words = passed(f.passed) + "; " + words
		}
		return m.goTo(f.file, f.diff, n, words)
	}))
}

// passed says of files that differ, and hold no hunks to go to, what became of them.
func passed(all []string) string {
	const most = 2
	if len(all) > most {
		return strings.Join(all[:most], ", ") + fmt.Sprintf(" and %d more", len(all)-most)
	}
	return strings.Join(all, ", ")
}

// order are the numbers of the files in the order in which they come after one, which is itself the last.
func order(all []vcs.Difference, from string, forward bool) (numbers []int) {
	at, is := slices.BinarySearchFunc(all, from, func(d vcs.Difference, p string) int {
		switch {
		case d.Path < p:
			return -1
		case d.Path > p:
			return 1
		}
		return 0
	})
	for k := range len(all) {
		i := at + k
		if is {
			i++
		}
		if !forward {
			i = at - 1 - k
		}
		numbers = append(numbers, (i%len(all)+len(all))%len(all))
	}
	return numbers
}

// old lays the text as it was beside the code, level with the hunk at the caret.
func (m *Model) old() surface.Intent { return m.compared(m.oldOf) }

func (m *Model) oldOf(_ *code.Model, d *hunk.Diff) surface.Intent {
	here := m.host.Here()
	line := here.View.Place.Line
	at := answer.Answer{Line: d.WasLine(line), Col: 1}
	var parts []place.Range
	if n, ok := d.At(line); ok {
		h := d.Hunks[n]
		parts = d.Within(h)
		if at.Line = h.Was.First; h.Was.Count == 0 {
			return surface.Say("these lines were not there in %s", m.words())
		}
	}
	file, was, load, words := here.File.Path, d.Was, m.load, m.words()
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) *codebase.File {
		f := load.As(ctx, file, was)
		f.Prepare()
		return f
	}, func(f *codebase.File) surface.Intent {
		at.Path, at.Symbol = file, path.Base(file)
		at.At = place.Range{Start: uint32(was.Offset(at.Line, 1)), End: uint32(was.Offset(at.Line, 1))}
		return m.host.Lay("as it was in "+words, f, at, parts)
	}))
}

// back puts the hunk at the caret back, or its line alone.
func (m *Model) back(line bool) surface.Intent {
	return m.compared(func(_ *code.Model, d *hunk.Diff) surface.Intent { return m.backIn(d, line) })
}

func (m *Model) backIn(d *hunk.Diff, line bool) surface.Intent {
	here := m.host.Here()
	n, ok := d.At(here.View.Place.Line)
	if !ok {
		return surface.Say("this line is as it was in %s", m.words())
	}
	e, title := d.Back(d.Hunks[n]), "put a hunk back"
	if line {
		e, title = d.BackLine(d.Hunks[n], here.View.Place.Line), "put a line back"
	}
	return m.change.Change(proposed(title+" in "+path.Base(here.File.Path), here.File.Path, d, e))
}

// fileBack proposes to put all hunks of the file back.
func (m *Model) fileBack() surface.Intent { return m.compared(m.fileBackIn) }

func (m *Model) fileBackIn(_ *code.Model, d *hunk.Diff) surface.Intent {
	if len(d.Hunks) == 0 {
		return surface.Say("this file is as it was in %s", m.words())
	}
	var edits []text.Edit
	for _, h := range d.Hunks {
		edits = append(edits, d.Back(h))
	}
	file := m.host.Here().File.Path
	return m.change.Propose(proposed("put "+path.Base(file)+" back as it was in "+m.words(), file, d, edits...))
}

// proposed is a proposal of edits of one file.
func proposed(title, file string, d *hunk.Diff, edits ...text.Edit) *proposal.Proposal {
	p := &proposal.Proposal{Title: title}
	for _, e := range edits {
		p.Add(file, func() *text.Document { return d.Now }, proposal.Place{At: place.Range{Start: uint32(e.Start), End: uint32(e.End)}, New: string(e.New), What: "hunk"})
	}
	return p
}

// Against is what everything is compared with, as it was asked for, "" for the last commit; and what to call it.
func (m *Model) Against() (rev, words string) { return m.rev, m.words() }

// against asks what to compare with.
func (m *Model) against() surface.Intent {
	return m.asks.Ask("compare with (a commit, tag or branch; main... where this one left it; : what is staged):", m.rev, func(rev string) surface.Intent {
		project := m.project
		type found struct {
			commit vcs.Commit
			err    error
		}
		return surface.Begin(surface.Ask(m.asker, func(ctx context.Context) found {
			c, err := project.Commit(ctx, rev)
			return found{c, err}
		}, func(f found) surface.Intent {
			if f.err != nil {
				return surface.SayError(f.err)
			}
			m.rev = rev
			m.Forget()
			m.commit = f.commit
			for _, s := range m.host.Sides() {
				s.Code.Differs(nil)
			}
			return surface.Say("from now on everything is compared with %s", m.words()).And(surface.Begin(m.Watch()))
		}))
	})
}
