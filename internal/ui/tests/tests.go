// Package tests runs tests, and shows what became of them where they stand: in the margin, in the outline, at the line that failed.
package tests

import (
	"context"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/adrg/xdg"

	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/report"
	"rooktrail/internal/core/tests"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/runs"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Host is the program around it.
type Host interface {
	surface.Host
	// Sides are the views in which files are shown.
	Sides() []*frame.Side
	// Sweep takes the places at which tests failed; see runs.Host.
	Sweep(one *sweep.Sweep, said string) surface.Intent
}

// Project is whose tests they are; see package workspace.
type Project interface {
	Root() string
	Load(ctx context.Context, path string) (*codebase.File, error)
	SweepOf(ctx context.Context, name, dir string, read *report.Report) (*sweep.Sweep, lists.ListReport)
}

// Model is the tests.
type Model struct {
	host    Host
	project Project
	find    *tests.Finder
	book    *tests.Book
	runs    *runs.Model
	asker   *surface.Asker
	asks    askline.Surface

	signed map[*code.Model]signed
	last   known
	watch  watch
	// folder is where reports are written.
	folder string
}

// signed is for which file, and which results, a view has its signs.
type signed struct {
	file  *codebase.File
	state int
}

// New makes one.
func New(host Host, project Project, find *tests.Finder, book *tests.Book, r *runs.Model) *Model {
	return &Model{host: host, project: project, find: find, book: book, runs: r, asker: host.Asker(nil), signed: map[*code.Model]signed{}, folder: filepath.Join(xdg.CacheHome, "rooktrail", "tests")}
}

// Commands are those about tests.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{
		keymap.TestHere: m.here, keymap.TestFile: m.file, keymap.TestFolder: m.inFolder, keymap.TestReaching: m.reaching,
		keymap.TestFailed: m.failed, keymap.TestWatch: m.toggleWatch, keymap.TestSaid: m.said, keymap.Covered: m.cover,
		keymap.BareNext: func() surface.Intent { return m.nextBare(true) }, keymap.BareBefore: func() surface.Intent { return m.nextBare(false) },
	}
}

// wanted is what is to be run, or why it cannot be.
type wanted struct {
	tests.Wanted
	jobs []tests.Job
	err  error
	why  string
}

// ask finds out beside the screen what is to be run, and runs it.
func (m *Model) ask(what func(ctx context.Context) wanted) surface.Intent {
	return surface.Begin(surface.Ask(m.asker, func(ctx context.Context) wanted {
		w := what(ctx)
		if w.why == "" && w.err == nil {
			w.jobs, w.err = m.find.Jobs(ctx, w.Wanted, m.folder)
		}
		if w.err == nil && w.why == "" {
			w.err = os.MkdirAll(m.folder, 0o700)
		}
		return w
	}, func(w wanted) surface.Intent {
		switch {
		case w.why != "":
			return surface.Intent{Say: keymap.Marked(w.why)}
		case w.err != nil:
			return surface.SayError(w.err)
		}
		todo := surface.Intent{}
		for i := len(w.jobs) - 1; i >= 0; i-- {
			todo = todo.And(m.begin(w.jobs[i]))
		}
		if len(w.jobs) > 1 {
			todo.Say = "tests of several kinds are run by " + sheet.Count(len(w.jobs), "command", "commands") + keymap.Marked("; {run-choose} lists them")
		}
		return todo
	}))
}

// here runs the test the caret is in.
func (m *Model) here() surface.Intent {
	at := m.host.Here()
	if at.File == nil {
		return surface.Say("no file is shown in which there could be a test")
	}
	return m.ask(func(context.Context) wanted {
		t, ok := m.find.Around(at.File, at.Offset)
		if !ok {
			return wanted{why: "the caret is in no test: {test-file} runs those of the file, {test-reaching} those that reach this function"}
		}
		return wanted{Wanted: tests.Wanted{Title: t.Title(), Tests: []tests.Test{t}}}
	})
}

// file runs the tests of the file that is shown, or those that go with it.
func (m *Model) file() surface.Intent {
	at := m.host.Here()
	if at.File == nil {
		return surface.Say("no file is shown in which there could be tests")
	}
	return m.ask(func(context.Context) wanted {
		if len(m.find.In(at.File)) > 0 || m.find.IsTest(at.File.Path) {
			return wanted{Wanted: tests.Wanted{Title: path.Base(at.File.Path), Files: []string{at.File.Path}}}
		}
		files := m.find.Beside(at.File.Path)
		if len(files) == 0 {
			return wanted{why: "there are no tests in this file, nor in one that goes with it by its name; {test-reaching} runs those that reach this function"}
		}
		return wanted{Wanted: tests.Wanted{Title: path.Base(files[0]), Files: files}}
	})
}

// inFolder runs the tests of the folder of the file that is shown.
func (m *Model) inFolder() surface.Intent {
	folder := path.Dir(m.host.Here().View.Place.Path)
	if path.IsAbs(folder) {
		return surface.Say("this file is not of the project")
	}
	return m.ask(func(context.Context) wanted {
		title := "the folder " + folder
		if folder == "." {
			title = "the project"
		}
		return wanted{Wanted: tests.Wanted{Title: title, Folder: folder}}
	})
}

// reaching runs the tests that reach what the caret is in.
func (m *Model) reaching() surface.Intent {
	at := m.host.Here()
	if at.File == nil {
		return surface.Say("no file is shown that tests could reach")
	}
	wait := surface.Intent{Wait: "looking for the tests that reach this; Esc gives up"}
	return wait.And(m.ask(func(ctx context.Context) wanted {
		if t, ok := m.find.Around(at.File, at.Offset); ok {
			return wanted{Wanted: tests.Wanted{Title: t.Title(), Tests: []tests.Test{t}}}
		}
		offset := at.Offset
		all, of := m.find.Reaching(ctx, at.File.Path, offset)
		if n := len(at.Crumbs); len(all) == 0 && n > 0 {
			all, of = m.find.Reaching(ctx, at.File.Path, int(at.Crumbs[n-1].At.Start))
		}
		if len(all) == 0 && of == "" {
			return wanted{why: "there is no function here that tests could reach"}
		}
		if len(all) == 0 {
			return wanted{why: "no test was found that reaches " + of}
		}
		return wanted{Wanted: tests.Wanted{Title: "what reaches " + of, Tests: all}}
	}))
}

// failed runs those again that failed last.
func (m *Model) failed() surface.Intent {
	return m.ask(func(ctx context.Context) wanted {
		all := m.book.Failed(ctx)
		if len(all) == 0 {
			return wanted{why: "no test has failed since the program began"}
		}
		return wanted{Wanted: tests.Wanted{Title: "those that failed", Tests: all}}
	})
}

// following reads what a job prints while it does.
type following struct {
	job  tests.Job
	mu   sync.Mutex
	live *report.Live
}

// each takes in a line, and gives what is to be shown of it.
func (f *following) each(line string) (shown string, replaced bool) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.live.Line(line)
	if f.job.Form == report.GoTest {
		return report.Shown(line)
	}
	return "", false
}

// far says how far it is.
func (f *following) far() string {
	f.mu.Lock()
	defer f.mu.Unlock()
	return counted(f.live.Results(0))
}

// counted says what became of tests, in numbers.
func counted(all []report.Result) string {
	n := map[report.Outcome]int{}
	for i := range all {
		n[all[i].Outcome]++
	}
	var words []string
	for _, o := range []report.Outcome{report.Failed, report.Passed, report.Skipped} {
		if n[o] > 0 {
			words = append(words, sheet.Number(n[o])+" "+string(o))
		}
	}
	return strings.Join(words, ", ")
}

// begin runs a job.
func (m *Model) begin(j tests.Job) surface.Intent {
	f := &following{job: j, live: report.NewLive(j.Form)}
	s := runs.Started{Dir: j.Dir, Quiet: true, Redo: func() surface.Intent { return m.begin(j) }}
	s.Command = run.Command{Title: j.Title + "  " + j.Line, Line: j.Line, Args: j.Args}
	if j.Report == "" && j.Form != "" {
		s.Command.Each, s.Note = f.each, f.far
	}
	if filepath.IsAbs(j.Report) {
		_ = os.Remove(j.Report) // so that one of before is not taken for it
	}
	s.After = func(r *run.Run) surface.Intent { return m.ended(f, r) }
	return m.runs.Start(s)
}

// result is what came of a job.
type result struct {
	read  *report.Report
	sweep *sweep.Sweep
	err   error
}

// ended takes in what became of the tests of a job.
func (m *Model) ended(f *following, r *run.Run) surface.Intent {
	j, project := f.job, m.project
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) result {
		var read *report.Report
		var err error
		if j.Report == "" && j.Form != "" {
			f.mu.Lock()
			read = f.live.End()
			f.mu.Unlock()
		} else {
			read, err = tests.ReadReport(project.Root(), j, string(r.Printed()))
		}
		if err != nil {
			return result{err: err}
		}
		if len(read.Results) == 0 && len(read.Findings) == 0 { // it did not come to the tests
			read.Findings = r.Found(0)
		}
		rest := &report.Report{Form: read.Form, Findings: read.Findings, Results: m.book.Take(ctx, j, read.Results)}
		one, _ := project.SweepOf(ctx, "tests that failed", j.Dir, innermost(rest))
		failed := sweep.New(one.Name, sweep.Source{Kind: sweep.OfRun, Command: "tests"}, append(m.book.Failures(), one.Items...))
		return result{read: read, sweep: failed}
	}, func(got result) surface.Intent {
		if got.err != nil {
			return surface.SayError(got.err)
		}
		said := m.outcome(j, r, got.read)
		return surface.Say("%s", said).And(m.host.Sweep(got.sweep, said)).And(surface.Intent{Arrange: true})
	}))
}

// innermost is a report without the tests that only failed as others in them did.
func innermost(read *report.Report) *report.Report {
	only := *read
	only.Results = nil
	for i := range read.Results {
		r := &read.Results[i]
		holds := r.Outcome == report.Failed && slices.ContainsFunc(read.Results, func(o report.Result) bool {
			return o.Outcome == report.Failed && o.Suite == r.Suite && len(o.Name) > len(r.Name) && slices.Equal(o.Name[:len(r.Name)], r.Name)
		})
		if !holds {
			only.Results = append(only.Results, *r)
		}
	}
	return &only
}

// outcome says what became of a job.
func (m *Model) outcome(j tests.Job, r *run.Run, read *report.Report) string {
	title := ink.Cut(j.Title, 40)
	words := counted(innermost(read).Results)
	s := r.Standing()
	switch {
	case words == "" && s.State == run.Ended && s.Status == 0:
		return title + ": there were no tests to run"
	case words == "":
		return runs.Outcome(j.Runner, s) + ", before any test ran"
	}
	return title + ": " + words
}

// The marks in front of tests.
const (
	passedMark  = "✓"
	failedMark  = "✗"
	skippedMark = "○"
)

// pause is how long nothing has to be typed before it is looked what is known of a file; until then the signs move with what is typed.
const pause = 350 * time.Millisecond

// Watch shows at the tests of the files on the screen what became of them, and the lines that no test ran; it runs tests if a file
// was saved and that is wanted.
func (m *Model) Watch() tea.Cmd {
	cmds := []tea.Cmd{m.saved()}
	if state := m.book.State(); state > 0 {
		for _, s := range m.host.Sides() {
			cmds = append(cmds, m.look(&s.Code, state))
		}
	}
	return tea.Batch(cmds...)
}

// look finds out beside the screen what is known of the file in a view, and shows it.
func (m *Model) look(c *code.Model, state int) tea.Cmd {
	f, was := c.File(), m.signed[c]
	if f == nil || was == (signed{f, state}) || f.Text.Binary() || !f.Text.Whole() {
		return nil
	}
	m.signed[c] = signed{f, state}
	long := time.Duration(0)
	if was.file != nil && was.file.Path == f.Path && was.state == state {
		long = pause
	}
	return surface.Later(m.asker, long, func() surface.Intent {
		if c.File() != f {
			return surface.Intent{} // it was typed on, or something else is shown
		}
		return surface.Begin(surface.Do(m.asker, func(context.Context) known {
			return known{signed{f, state}, m.book.Of(f), m.book.Lines(f)}
		}, func(k known) surface.Intent {
			if c.File() == f {
				m.last = k
				c.Sign(f.Text, k.signs())
			}
			return surface.Intent{}
		}))
	})
}

// known is what is known of the tests and lines of a file.
type known struct {
	signed
	became map[uint32]tests.Became
	lines  map[int]int
}

// signs are what is shown of it at its lines.
func (k *known) signs() (all []code.Sign) {
	for at, became := range k.became {
		s := code.Sign{Mark: passedMark}
		s.At.Start, s.At.End = at, at
		switch became.Outcome {
		case report.Failed:
			s.Mark, s.Grave = failedMark, true
		case report.Skipped:
			s.Mark = skippedMark
		}
		all = append(all, s)
	}
	for line, hits := range k.lines {
		if hits == 0 && line <= k.file.Text.Lines() {
			s := code.Sign{Bare: true}
			s.At.Start = uint32(k.file.Text.Offset(line, 1))
			s.At.End = s.At.Start
			all = append(all, s)
		}
	}
	slices.SortStableFunc(all, func(a, b code.Sign) int { return int(a.At.Start) - int(b.At.Start) })
	return all
}

// Said says in the outline what is known of an entry, by where it begins and ends: what became of a test, as it is marked in the
// margin, or how much of a function was run.
func (m *Model) Said(f *codebase.File) func(at, end uint32) string {
	marks := map[uint32]string{}
	for _, s := range m.host.Sides() {
		if s.Code.File() != f {
			continue
		}
		for _, sign := range s.Code.Signs() {
			if !sign.Bare {
				marks[sign.At.Start] = sign.Mark
			}
		}
	}
	var lines map[int]int
	if m.last.file == f {
		lines = m.last.lines
	}
	if len(marks) == 0 && lines == nil {
		return nil
	}
	return func(at, end uint32) string {
		switch marks[at] {
		case failedMark:
			return failedMark + " failed"
		case passedMark:
			return passedMark + " passed"
		case skippedMark:
			return skippedMark + " skipped"
		}
		knows, ran := tests.Share(lines, f.Text, at, end)
		if knows == 0 {
			return ""
		}
		return fmt.Sprintf("%d %% run", ran*100/knows)
	}
}

// said shows what the test the caret is in has said when it was last run.
func (m *Model) said() surface.Intent {
	at := m.host.Here()
	if at.File == nil {
		return surface.Say("no file is shown in which there could be a test")
	}
	t, ok := m.find.Around(at.File, at.Offset)
	if !ok {
		return surface.Say("the caret is in no test")
	}
	b, ok := m.book.Of(at.File)[t.At.Start]
	switch {
	case !ok:
		return surface.Say("%s was not run since the program began; {test-here} runs it", t.Title())
	case b.Text == "":
		return surface.Say("%s %s, %s, in %s", t.Title(), b.Outcome, m.host.Clock().Short(b.When), runs.Lasted(b.Took))
	}
	file := filepath.Join(m.folder, "said.txt")
	text := fmt.Sprintf("%s\n%s, %s\n\n%s\n", t.Title(), b.Outcome, m.host.Clock().Moment(b.When), b.Text)
	return surface.Begin(surface.Ask(m.host.Way(), func(context.Context) error {
		if err := os.MkdirAll(m.folder, 0o700); err != nil {
			return fmt.Errorf("making the folder for what tests say: %w", err)
		}
		return os.WriteFile(file, []byte(text), 0o600)
	}, func(err error) surface.Intent {
		if err != nil {
			return surface.SayError(err)
		}
		return surface.Go(surface.Visit{Path: file, Line: 1, Col: 1, How: "what " + t.Title() + " said"})
	}))
}
