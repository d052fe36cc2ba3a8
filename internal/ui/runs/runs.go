// Package runs carries out commands of the user's in the lower part of the screen: what they print is seen there, what they ask is
// answered there, and the places that they name become a sweep.
package runs

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/adrg/xdg"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/recipe"
	"rooktrail/internal/core/report"
	"rooktrail/internal/core/work"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project is what commands are run in; see package workspace.
type Project interface {
	Root() string
	SweepOf(ctx context.Context, name, dir string, read *report.Report) (*sweep.Sweep, lists.ListReport)
	FileOf(dir, in, p string) (string, bool)
	Recipes(ctx context.Context) []recipe.Recipe
}

// Host is the program around it.
type Host interface {
	surface.Host
	// Room is how many columns and rows there are for a run, with the row above it.
	Room() (width, height int)
	// Sweep takes the places that a run has named so far as a sweep; said says what became of it, once there will be no more.
	Sweep(one *sweep.Sweep, said string) surface.Intent
	// Unsaved says how many texts are not saved, which a command does not see.
	Unsaved() map[string]bool
}

// Model is the runs.
type Model struct {
	host    Host
	project Project
	asker   *surface.Asker
	asks    askline.Surface
	asksEnd choice.Surface
	list    *List

	runs   []*entry // the one begun last first
	shown  *entry   // nil if none is
	inside bool     // keys go to the one that is shown
	past   []resume.Command
	taller int // by how many rows it is larger than usual
	// Self is the program that keeps commands; "" for this one. Folder is where what they have printed is written to be shown.
	Self, Folder string
}

// entry is a run.
type entry struct {
	*run.Run
	dir   string // from the root
	back  int    // by how many rows one has scrolled back
	swept int    // how many of its places are in the sweep, or on the way there
	over  bool   // that it has ended was taken note of
	leads map[string]bool
	led   int       // how many of its places are in the project
	took  time.Time // when places were last taken over
	// sweeping says that places are being taken over.
	sweeping bool
	// became says what became of it, once it has ended.
	became string
	// quiet says that its places are not made a sweep.
	quiet bool
	// after is called when it has ended; nil for nothing.
	after func(*run.Run) surface.Intent
	// redo runs it again in its own way; nil for the usual one.
	redo func() surface.Intent
	note func() string // how far it is; nil if nothing says
}

// New makes one.
func New(host Host, project Project) *Model {
	m := &Model{host: host, project: project, asker: host.Asker(nil), Folder: filepath.Join(xdg.CacheHome, "rooktrail", "runs")}
	m.list = newList(m)
	return m
}

// Commands are those about runs.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{
		keymap.RunAgain:   m.again,
		keymap.RunCommand: m.ask,
		keymap.RunChoose:  m.list.open,
		keymap.RunStop:    m.stop,
		keymap.RunOutput:  m.output,
		keymap.RunKeep:    m.keep,
		keymap.RunCopy:    m.copy,
		keymap.RunHide:    m.hide,
		keymap.RunInto:    m.into,
		keymap.RunLarger:  func() surface.Intent { return m.resize(2) },
		keymap.RunSmaller: func() surface.Intent { return m.resize(-2) },
		keymap.RunUp:      func() surface.Intent { return m.scroll(1) },
		keymap.RunDown:    func() surface.Intent { return m.scroll(-1) },
		keymap.Shell:      m.shell,
	}
}

// List is the sheet on which runs are chosen; of no model, one that has keys alone.
func (m *Model) List() *List {
	if m == nil {
		return nil
	}
	return m.list
}

// Know takes over the commands that were run in earlier times.
func (m *Model) Know(past []resume.Command) { m.past = past }

// Past are the commands that were run, the latest first.
func (m *Model) Past() []resume.Command { return m.past }

// ask asks for a command line.
func (m *Model) ask() surface.Intent {
	return m.asks.Ask("run in "+filepath.Base(m.project.Root())+":", "", func(line string) surface.Intent {
		if line == "" {
			return surface.Say("nothing was typed, so nothing is run")
		}
		return m.Begin(run.Command{Line: line}, ".", nil)
	})
}

// again runs the last command once more; if there is none, it asks for one.
func (m *Model) again() surface.Intent {
	for _, e := range m.runs {
		if e.Command.Shell {
			continue
		}
		if m.shown != nil && !m.shown.Command.Shell {
			e = m.shown
		}
		return m.repeat(e)
	}
	if len(m.past) > 0 {
		return m.asks.Ask("run:", m.past[0].Line, func(line string) surface.Intent {
			return m.Begin(run.Command{Line: line}, m.past[0].Dir, nil)
		})
	}
	return m.ask()
}

// repeat runs a command once more; if it still runs, it is ended first.
func (m *Model) repeat(e *entry) surface.Intent {
	if e.Standing().State == run.Running {
		e.quiet = true
		e.Stop()
	}
	if redo := e.redo; redo != nil {
		return redo()
	}
	return m.Begin(e.Command, e.dir, e.after)
}

// Begin runs a command in a folder of the project; after is called when it has ended, it may be nil.
func (m *Model) Begin(c run.Command, dir string, after func(*run.Run) surface.Intent) surface.Intent {
	return m.Start(Started{Command: c, Dir: dir, After: after})
}

// Started is a command that somebody else than the user has put together.
type Started struct {
	run.Command
	// Dir is the folder in which it is run, from the root of the project.
	Dir string
	// Quiet says that nothing is made of the places that it names, nor said when it has ended.
	Quiet bool
	// After is called when it has ended, Redo runs it again; both may be nil. So may Note, which says how far it is.
	After func(*run.Run) surface.Intent
	Redo  func() surface.Intent
	Note  func() string
}

// Start runs a command.
func (m *Model) Start(s Started) surface.Intent {
	c, dir := s.Command, s.Dir
	c.Dir, c.Self = filepath.Join(m.project.Root(), filepath.FromSlash(dir)), m.Self
	width, height := m.host.Room()
	r, err := run.Start(c, width-edge, height-1)
	if err != nil {
		return surface.SayError(err)
	}
	e := &entry{Run: r, dir: dir, leads: map[string]bool{}, after: s.After, redo: s.Redo, note: s.Note, quiet: s.Quiet}
	m.runs = append([]*entry{e}, m.drop(c)...)
	m.shown, m.inside = e, c.Shell
	todo := surface.Intent{Arrange: true, Cmd: m.watch(e)}
	if n := len(m.host.Unsaved()); n > 0 && !c.Shell {
		todo.Say = sheet.Count(n, "text is", "texts are") + keymap.Marked(" not saved, which the command does not see; {save-all} saves all")
	}
	return todo
}

// mostEnded is how many runs that have ended are kept with what they printed.
const mostEnded = 12

// drop leaves out runs of the same command that have ended, and the oldest of the others.
func (m *Model) drop(c run.Command) (left []*entry) {
	ended := 0
	for _, e := range m.runs {
		if e.Alive() {
			left = append(left, e)
			continue
		}
		same := e.Command.Line == c.Line && e.Command.Dir == c.Dir
		if ended++; !same && ended < mostEnded {
			left = append(left, e)
		}
	}
	return left
}

// moment is how long is waited before what changed is drawn, so that what prints much does not draw more than can be seen.
const moment = 40 * time.Millisecond

// watch waits until something has changed, and draws it then.
func (m *Model) watch(e *entry) tea.Cmd {
	return surface.Do(m.asker, func(ctx context.Context) struct{} {
		work.Pause(ctx, moment)
		select {
		case <-e.Changes():
		case <-ctx.Done():
		case <-time.After(time.Second): // the time it has run is seen
		}
		return struct{}{}
	}, func(struct{}) surface.Intent { return m.changed(e) })
}

// changed takes note of what has become of a run.
func (m *Model) changed(e *entry) surface.Intent {
	todo := surface.Intent{}
	s := e.Standing()
	if s.State != run.Running && !e.over {
		e.over = true
		todo = m.ended(e, s)
	} else if s.Found > e.swept && !e.quiet && !e.sweeping && (!e.Alive() || time.Since(e.took) > between) {
		todo = m.sweep(e)
	}
	if e.Alive() {
		todo.Cmd = tea.Batch(todo.Cmd, m.watch(e))
	}
	return todo
}

// between is how long is waited at least before places are taken over again.
const between = 400 * time.Millisecond

// ended is called once for each run that has ended.
func (m *Model) ended(e *entry, s run.Standing) surface.Intent {
	if e.Command.Shell {
		m.runs = slices.DeleteFunc(m.runs, func(o *entry) bool { return o == e })
		if m.shown == e {
			m.shown, m.inside = nil, false
		}
		return surface.Intent{Arrange: true}
	}
	m.note(e, s)
	todo := surface.Intent{Arrange: true}
	if m.shown == e {
		m.inside = false
	}
	if !e.quiet {
		e.became = Outcome(e.Command.Line, s)
		todo = todo.And(surface.Say("%s", e.became))
		if !e.sweeping { // else once that is done
			todo = todo.And(m.sweep(e))
		}
	}
	if e.after != nil {
		todo = todo.And(e.after(e.Run))
	}
	return todo
}

// mostPast is how many commands are remembered.
const mostPast = 50

// note remembers a command with what became of it.
func (m *Model) note(e *entry, s run.Standing) {
	if len(e.Command.Args) > 0 {
		return // it was not typed
	}
	c := resume.Command{Line: e.Command.Line, Dir: e.dir, Begun: e.Begun, Took: s.Took.Round(time.Millisecond), Outcome: became(s)}
	m.past = slices.DeleteFunc(m.past, func(o resume.Command) bool { return o.Line == c.Line && o.Dir == c.Dir })
	m.past = slices.Insert(m.past, 0, c)
	m.past = m.past[:min(len(m.past), mostPast)]
}

// sweep takes over the places that a run has named so far.
func (m *Model) sweep(e *entry) surface.Intent {
	e.sweeping = true
	said := e.became
	project, all := m.project, e.Found(0)
	e.swept = len(all)
	type swept struct {
		one   *sweep.Sweep
		leads map[string]bool
	}
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) swept {
		one, _ := project.SweepOf(ctx, e.Command.Line, e.dir, &report.Report{Form: report.Lines, Findings: all})
		one.Source = sweep.Source{Kind: sweep.OfRun, Command: e.Command.Line, Folder: e.dir}
		leads := map[string]bool{}
		for _, f := range all {
			if _, known := leads[f.Path]; !known {
				_, leads[f.Path] = project.FileOf(e.dir, f.In, f.Path)
			}
		}
		return swept{one, leads}
	}, func(s swept) surface.Intent {
		e.leads, e.led, e.sweeping, e.took = s.leads, len(s.one.Items), false, time.Now()
		if e.quiet {
			return surface.Intent{}
		}
		todo := m.host.Sweep(s.one, said)
		if e.over && (said != e.became || e.Standing().Found > e.swept) {
			todo = todo.And(m.sweep(e))
		}
		return todo
	}))
}

// keep makes a sweep of the places in what is shown.
func (m *Model) keep() surface.Intent {
	e := m.shown
	if e == nil {
		return m.none()
	}
	read, err := report.Read(bytes.NewReader(e.Printed()))
	if err != nil {
		return surface.SayError(err)
	}
	project := m.project
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) *sweep.Sweep {
		one, _ := project.SweepOf(ctx, e.Command.Line, e.dir, read)
		if read.Form == report.Lines { // a report is one of problems, wherever it comes from
			one.Source = sweep.Source{Kind: sweep.OfRun, Command: e.Command.Line, Folder: e.dir}
		}
		return one
	}, func(one *sweep.Sweep) surface.Intent {
		if len(one.Items) == 0 {
			return surface.Say("nothing of what it printed leads into this project")
		}
		return m.host.Sweep(one, e.title())
	}))
}

// none says that no run is shown.
func (m *Model) none() surface.Intent {
	return surface.Say("nothing is run: {run-command} asks for a command, {run-choose} lists what there is")
}

// stop asks the run that is shown to end, or else the one that was begun last.
func (m *Model) stop() surface.Intent {
	e := m.shown
	if e == nil || !e.Alive() {
		i := slices.IndexFunc(m.runs, func(e *entry) bool { return e.Alive() })
		if i < 0 {
			return surface.Say("nothing is running")
		}
		e = m.runs[i]
	}
	e.Stop()
	return surface.Say("%s is asked to end; what does not is killed after a moment", ink.Cut(e.title(), mostTitle))
}

// output shows what was printed as a file, in which one can search.
func (m *Model) output() surface.Intent {
	e := m.shown
	if e == nil && len(m.runs) > 0 {
		e = m.runs[0]
	}
	if e == nil {
		return m.none()
	}
	file := filepath.Join(m.Folder, fileName(e.title())+e.Begun.Format("-150405")+".txt")
	return surface.Begin(surface.Ask(m.host.Way(), func(context.Context) error {
		if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
			return fmt.Errorf("making the folder for what was printed: %w", err)
		}
		return atomicfile.Write(file, []byte(e.Text()), 0o600)
	}, func(err error) surface.Intent {
		if err != nil {
			return surface.SayError(err)
		}
		return surface.Go(surface.Visit{Path: file, Line: 1, Col: 1, How: "what " + ink.Cut(e.title(), mostTitle) + " printed"})
	}))
}

// fileName is a name for a file about a command.
func fileName(line string) string {
	name := strings.Map(func(r rune) rune {
		if r < 0x80 && (r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-') {
			return r
		}
		return '-'
	}, line)
	return name[:min(len(name), 60)]
}

// forget forgets a command of earlier times.
func (m *Model) forget(c resume.Command) {
	m.past = slices.DeleteFunc(m.past, func(o resume.Command) bool { return o.Line == c.Line && o.Dir == c.Dir })
}

// remove forgets a run that has ended.
func (m *Model) remove(e *entry) {
	m.runs = slices.DeleteFunc(m.runs, func(o *entry) bool { return o == e })
	if m.shown == e {
		m.shown, m.inside = nil, false
	}
	m.forget(resume.Command{Line: e.title(), Dir: e.dir})
}

// copy copies what was printed.
func (m *Model) copy() surface.Intent {
	if m.shown == nil {
		return m.none()
	}
	text := m.shown.Text()
	return surface.Intent{Copy: &surface.Copy{Text: text, What: "what " + ink.Cut(m.shown.title(), mostTitle) + " printed"}}
}

// hide takes the lower part away; what runs goes on.
func (m *Model) hide() surface.Intent {
	if m.shown == nil {
		return m.none()
	}
	todo := surface.Intent{Arrange: true}
	if m.shown.Alive() {
		todo.Say = ink.Cut(m.shown.title(), mostTitle) + keymap.Marked(" goes on; {run-choose} shows it again, {run-stop} ends it")
	}
	m.shown, m.inside = nil, false
	return todo
}

// into gives the keys to the run that is shown, and back to the code.
func (m *Model) into() surface.Intent {
	if m.shown == nil && len(m.runs) > 0 {
		m.shown = m.runs[0]
		if i := slices.IndexFunc(m.runs, func(e *entry) bool { return e.Standing().State == run.Running }); i >= 0 {
			m.shown = m.runs[i]
		}
	}
	switch {
	case m.shown == nil:
		return m.none()
	case m.shown.Standing().State != run.Running:
		m.inside = false
		return surface.Intent{Arrange: true, Say: ink.Cut(m.shown.title(), mostTitle) + keymap.Marked(" has ended; {run-again} runs it again")}
	}
	m.inside = !m.inside
	return surface.Intent{Arrange: true}
}

// shell opens a shell, or goes back from it and takes it out of the way; it goes on with what it does.
func (m *Model) shell() surface.Intent {
	if m.shown != nil && m.shown.Command.Shell {
		m.shown, m.inside = nil, false
		return surface.Intent{Arrange: true}
	}
	for _, e := range m.runs {
		if e.Command.Shell && e.Alive() {
			m.shown, m.inside, e.back = e, true, 0
			return surface.Intent{Arrange: true}
		}
	}
	return m.Begin(run.Command{Line: "shell", Shell: true}, ".", nil)
}

// resize makes the lower part larger.
func (m *Model) resize(rows int) surface.Intent {
	m.taller += rows
	return surface.Intent{Arrange: true}
}

// scroll goes back in what was printed, or on.
func (m *Model) scroll(pages int) surface.Intent {
	if m.shown == nil {
		return m.none()
	}
	_, height := m.host.Room()
	m.shown.back = max(m.shown.back+pages*max(height-2, 1), 0)
	if m.shown.back > 0 {
		v := m.shown.View(height-1, m.shown.back)
		if v.Above == 0 {
			m.shown.back = max(m.shown.View(height-1, 0).Above, 0)
		}
	}
	return surface.Intent{Arrange: true}
}

// show has a run be seen.
func (m *Model) show(e *entry) surface.Intent {
	m.shown, m.inside = e, false
	return surface.Intent{Arrange: true}
}

// Live are the commands of which something still runs.
func (m *Model) Live() (titles []string) {
	for _, e := range m.runs {
		if e.Alive() {
			titles = append(titles, e.title())
		}
	}
	return titles
}

// Leaving asks whether what runs is to be ended before the program is left; then leaves it.
func (m *Model) Leaving(then func() surface.Intent) surface.Intent {
	live := m.Live()
	if len(live) == 0 {
		return then()
	}
	end := choice.Row{Row: sheet.Row{What: "leave", Name: "and end " + sheet.Count(len(live), "command", "commands"), Where: live[0], Reads: true}, Take: then}
	if len(live) > 1 {
		end.Where += fmt.Sprintf(" and %d more", len(live)-1)
	}
	stay := choice.Row{Row: sheet.Row{What: "stay", Name: "and let them run"}}
	return m.asksEnd.Open(sheet.Count(len(live), "command is", "commands are")+" still running", "do it", []choice.Row{stay, end})
}

// End ends everything that runs, and waits until nothing is left of it. It may be called beside the screen.
func (m *Model) End() func() {
	var all []*run.Run
	for _, e := range m.runs {
		all = append(all, e.Run)
	}
	return func() {
		var ending work.Group
		for _, r := range all {
			ending.Go(r.End)
		}
		ending.Wait()
	}
}
