package sweeps

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/linecolors"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project is what the sweeps are of; see package workspace.
type Project interface {
	linecolors.Colorer
	Root() string
	Sweeps() ([]*sweep.Sweep, error)
	KeepSweep(s *sweep.Sweep) error
	RemoveSweep(id string) error
	NewSweep(ctx context.Context, name string, source sweep.Source, all []answer.Answer) *sweep.Sweep
	RefreshSweep(ctx context.Context, s *sweep.Sweep) (fresh, settled int, err error)
	Locate(ctx context.Context, s *sweep.Sweep)
	Find(ctx context.Context, m *place.Memory) (place.Fate, error)
	TextPlaces(ctx context.Context, q find.Query) ([]answer.Answer, error)
	ReadList(ctx context.Context, name, dir string, r io.Reader) (*sweep.Sweep, lists.ListReport, error)
}

// Surface is the sweeps: the sheet over the code, and the one that is walked without it.
type Surface struct {
	surface.Size
	host    surface.Host
	project Project
	sheet   *Model
	colors  *linecolors.Colors
	asks    askline.Surface
	asker   *surface.Asker // where the places are by now
	again   *surface.Asker // what the question of a sweep has for its answer now
	making  *surface.Asker
	open    bool

	all     []*sweep.Sweep // the one used last first, as they were when the program began
	present *sweep.Sweep   // nil if there is none
	touched map[*sweep.Sweep]bool
}

// NewSurface makes one.
func NewSurface(host surface.Host, project Project) *Surface {
	s := &Surface{host: host, project: project, touched: map[*sweep.Sweep]bool{}}
	s.asker, s.again, s.making = host.Asker(s), host.Asker(s), host.Asker(s)
	s.colors = linecolors.New(host.Asker(s), project)
	s.sheet = New(s.colors.Of)
	s.sheet.Clock = host.Clock()
	return s
}

// Load reads the sweeps that were kept. start is where the program begins: if that is the place of
// the sweep one was at, it is said.
func (s *Surface) Load(start place.Place) tea.Cmd {
	type kept struct {
		all []*sweep.Sweep
		err error
	}
	project := s.project
	return surface.Do(s.making, func(context.Context) kept {
		all, err := project.Sweeps()
		return kept{all, err}
	}, func(k kept) surface.Intent { return s.takeIn(k.all, start).And(surface.SayError(k.err)) })
}

// takeIn takes over the sweeps that were kept. One may have been made here meanwhile, and have
// been read, too.
func (s *Surface) takeIn(all []*sweep.Sweep, start place.Place) surface.Intent {
	for _, read := range all {
		if i := slices.IndexFunc(s.all, func(o *sweep.Sweep) bool { return o.ID == read.ID }); i >= 0 {
			s.all[i].Merge(read)
		} else {
			s.all = append(s.all, read)
		}
	}
	if s.present != nil || len(s.all) == 0 {
		return surface.Intent{}
	}
	s.present = s.all[0] // the one used last
	if at := s.present.At(); at >= 0 && s.present.Items[at].Path == start.Path && s.present.Items[at].Line == start.Line {
		return surface.Say("%s", s.arrival(at, place.Same, false))
	}
	return surface.Intent{}
}

// Count is how far the present sweep is; of none, nothing.
func (s *Surface) Count() (c sweep.Count) {
	if s.present != nil {
		c = s.present.Count()
	}
	return c
}

// Any says whether there is a present sweep.
func (s *Surface) Any() bool { return s.present != nil }

// Left is how many places of the present sweep are left; ok is false if there is no sweep.
func (s *Surface) Left() (n int, ok bool) {
	if s.present == nil {
		return 0, false
	}
	return s.present.Count().Left, true
}

// Lines are the lines of the places that are left of the present sweep, by file, with its name.
func (s *Surface) Lines() (lines map[string][]int, name string) {
	if s.present == nil {
		return nil, ""
	}
	lines = map[string][]int{}
	for i := range s.present.Items {
		if it := &s.present.Items[i]; s.present.MarkOf(i) == "" && !it.IsGone() {
			lines[it.Path] = append(lines[it.Path], it.Line)
		}
	}
	return lines, s.present.Name
}

// Touched gives what keeps the sweeps once more that were changed: a command that keeps one may still
// be under way when the program ends.
func (s *Surface) Touched() (keep func()) {
	var all []*sweep.Sweep
	for _, one := range s.all {
		if s.touched[one] {
			all = append(all, one.Clone())
		}
	}
	project := s.project
	return func() {
		for _, one := range all {
			_ = project.KeepSweep(one) // there is no screen any more to say it on
		}
	}
}

// keep keeps a sweep as it is now, and takes over what another program did to it.
func (s *Surface) keep(one *sweep.Sweep) tea.Cmd {
	s.touched[one] = true
	project, kept := s.project, one.Clone()
	return surface.Keep(s.making, kept.ID, func() error { return project.KeepSweep(kept) }, func(err error) surface.Intent {
		if err != nil {
			return surface.SayError(err)
		}
		one.Merge(kept)
		s.refresh()
		return surface.Intent{}
	})
}

// refresh brings the sheet up to date, if it is open.
func (s *Surface) refresh() {
	if s.open {
		s.sheet.Update(s.present, s.all)
	}
}

// KeepPlaces keeps places as a sweep.
func (s *Surface) KeepPlaces(name string, source sweep.Source, all []answer.Answer) surface.Intent {
	return s.make(name, source, func(context.Context) ([]answer.Answer, error) { return all, nil })
}

// KeepText keeps all places where a text is found.
func (s *Surface) KeepText(q find.Query) surface.Intent {
	project := s.project
	return surface.Say("every place of %q is being gathered …", q.Pattern).And(s.make("text: "+q.Pattern, sweep.Source{Kind: sweep.OfText, Query: &q}, func(ctx context.Context) ([]answer.Answer, error) {
		return project.TextPlaces(ctx, q)
	}))
}

// make keeps places as a sweep; find is called beside the screen.
func (s *Surface) make(name string, source sweep.Source, find func(ctx context.Context) ([]answer.Answer, error)) surface.Intent {
	type made struct {
		one *sweep.Sweep
		err error
	}
	project := s.project
	return surface.Begin(surface.Do(s.making, func(ctx context.Context) made {
		all, err := find(ctx)
		if err != nil {
			return made{err: err}
		}
		return made{one: project.NewSweep(ctx, name, source, all)}
	}, func(m made) surface.Intent {
		if m.err != nil {
			return surface.SayError(m.err)
		}
		return s.made(m.one)
	}))
}

// made takes a sweep that was made. One of the same question that is there
// already is brought up to date instead, so that its marks are not lost.
func (s *Surface) made(one *sweep.Sweep) surface.Intent {
	if len(one.Items) == 0 {
		return surface.Say("there is no place to keep")
	}
	for _, other := range s.all {
		if other.SameQuestion(one) {
			return s.makePresent(other).And(s.askAgain())
		}
	}
	s.all = append([]*sweep.Sweep{one}, s.all...)
	todo := s.makePresent(one)
	return todo.And(surface.Say("kept as the sweep %q with %s: {next} and {previous} walk through it, {sweep} shows it", one.Name, sheet.Count(len(one.Items), "place", "places"))).And(surface.Begin(s.keep(one)))
}

// readReport asks for a file with a report of another tool, or a list of places, and keeps it as a sweep.
func (s *Surface) readReport() surface.Intent {
	return s.asks.Ask("report, or list of places:", "", func(file string) surface.Intent {
		type read struct {
			one  *sweep.Sweep
			said lists.ListReport
			err  error
		}
		project := s.project
		return surface.Begin(surface.Do(s.making, func(ctx context.Context) read {
			path := file
			if !filepath.IsAbs(path) {
				path = filepath.Join(project.Root(), path)
			}
			f, err := os.Open(path)
			if err != nil {
				return read{err: fmt.Errorf("reading %s: %s", file, text.Reason(err))}
			}
			defer f.Close()
			one, said, err := project.ReadList(ctx, filepath.Base(path), ".", f)
			return read{one, said, err}
		}, func(r read) surface.Intent {
			switch {
			case r.err != nil:
				return surface.SayError(r.err)
			case len(r.one.Items) == 0 && r.said.Broken != "":
				return surface.Say("nothing could be read of it, as %s: %s", r.said.Form, r.said.Broken)
			case len(r.one.Items) == 0 && r.said.Passed > 0:
				return surface.Say("no test in it failed, of %s", sheet.Number(r.said.Passed))
			case len(r.one.Items) == 0:
				return surface.Say("it names no place of this project")
			}
			todo := s.made(r.one)
			if r.said.Broken != "" {
				todo = todo.And(surface.Say("kept with %s, but it could not be read to its end: %s", sheet.Count(len(r.one.Items), "place", "places"), r.said.Broken))
			}
			return todo
		}))
	})
}

// FromRun takes the places that a command has named so far: one of the same command is brought up to date. said says what became of
// it, once there will be no more; "" before.
func (s *Surface) FromRun(one *sweep.Sweep, said string) surface.Intent {
	i := slices.IndexFunc(s.all, func(o *sweep.Sweep) bool { return o.SameQuestion(one) })
	switch {
	case i < 0 && len(one.Items) == 0:
		return surface.Intent{}
	case i < 0:
		s.all = append([]*sweep.Sweep{one}, s.all...)
		return s.tookRun(one, said).And(surface.Begin(s.keep(one)))
	case said == "" && len(s.all[i].Items) > len(one.Items):
		return surface.Intent{} // it is run again, and has not come as far yet
	}
	other, project := s.all[i], s.project
	found := other.Clone()
	return surface.Begin(surface.Do(s.making, func(ctx context.Context) struct{} {
		project.Locate(ctx, found)
		return struct{}{}
	}, func(struct{}) surface.Intent {
		other.Located(found)
		other.Refreshed(one.Items)
		for i := range other.Items {
			if it := &other.Items[i]; !it.Settled && it.Mark == sweep.Done {
				other.SetMark(i, sweep.Left) // it was not done after all
			}
		}
		s.refresh()
		return s.tookRun(other, said).And(surface.Begin(s.keep(other)))
	}))
}

// tookRun makes the places of a run what is walked, if any are left.
func (s *Surface) tookRun(one *sweep.Sweep, said string) surface.Intent {
	todo := surface.Intent{Marked: true, Anew: true}
	left := one.Count().Left
	if left == 0 {
		if said != "" && len(one.Items) > 0 {
			todo.Say = said + "; none of the places of before is left"
		}
		return todo
	}
	one.Here = ""
	todo = todo.And(s.makePresent(one))
	if said != "" {
		todo.Say = said + "; " + sheet.Count(left, "place", "places") + keymap.Marked(" to do: {next} goes to the first")
	}
	return todo
}

// makePresent makes a sweep the one that n and p walk.
func (s *Surface) makePresent(one *sweep.Sweep) surface.Intent {
	s.present = one
	one.Touch()
	return surface.Intent{Through: true}
}

// show shows the present sweep, or all of them; where its places are by now is
// found out meanwhile.
func (s *Surface) show(choose bool) surface.Intent {
	if len(s.all) == 0 {
		return s.none()
	}
	s.open = true
	s.sheet.Open(s.present, s.all, choose, s.Height)
	s.colors.Forget()
	return surface.Intent{Open: s, Cmd: tea.Batch(s.LocateAll(), s.color())}.And(s.selected())
}

// color finds the colours of the places of the sweep.
func (s *Surface) color() tea.Cmd {
	if s.present == nil {
		return nil
	}
	var all []place.Place
	for i := range s.present.Items {
		all = append(all, s.present.Items[i].Place())
	}
	return s.colors.Find(all)
}

// LocateAll finds out where the places of the present sweep are by now.
func (s *Surface) LocateAll() tea.Cmd {
	if s.present == nil {
		return nil
	}
	one, project := s.present, s.project
	found := one.Clone()
	return surface.Ask(s.asker, func(ctx context.Context) bool {
		project.Locate(ctx, found)
		return ctx.Err() == nil
	}, func(all bool) surface.Intent {
		if !all {
			return surface.Intent{}
		}
		one.Located(found)
		s.refresh()
		if !s.open {
			return surface.Intent{}
		}
		return s.selected().And(surface.Begin(s.color()))
	})
}

// selected shows the chosen place beneath.
func (s *Surface) selected() surface.Intent {
	i, ok := s.sheet.Item()
	if !ok {
		return surface.LookBack()
	}
	return surface.Look(visit(&s.present.Items[i]))
}

// visit goes to a place of a sweep.
func visit(it *sweep.Item) surface.Visit {
	return surface.Visit{Path: it.Path, Line: it.Line, Col: it.Col, Length: it.Length}
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	e := s.sheet.Key(msg)
	one := s.present
	switch e.Kind {
	case Closed:
		return surface.Close()
	case Selected:
		return s.selected()
	case Taken:
		return surface.Intent{Leave: true, Cmd: s.walkTo(e.Item, false)}
	case Tick:
		return s.changed(one, s.tick(e.Item))
	case Aside:
		return s.changed(one, s.setAside(e.Item))
	case AsideAll:
		return s.changed(one, s.setAsideAll(e.Path))
	case Noted:
		one.SetNote(e.Item, e.Words)
		return s.changed(one, surface.Intent{})
	case Refresh:
		return s.askAgain()
	case Copy:
		var b bytes.Buffer
		one.WriteMarkdown(&b) // a buffer takes everything
		return surface.Intent{Copy: &surface.Copy{Text: b.String(), What: "the checklist of " + one.Name}}
	case Chosen:
		todo := s.makePresent(e.Sweep)
		s.sheet.Open(s.present, s.all, false, s.Height)
		return todo.And(surface.Begin(tea.Batch(s.keep(e.Sweep), s.LocateAll()))).And(s.selected())
	case Renamed:
		e.Sweep.Rename(e.Words)
		return s.changed(e.Sweep, surface.Intent{})
	case Removed:
		return s.remove(e.Sweep)
	}
	return surface.Intent{}
}

// changed shows and keeps what was done to a sweep.
func (s *Surface) changed(one *sweep.Sweep, todo surface.Intent) surface.Intent {
	s.refresh()
	return todo.And(surface.Begin(s.keep(one)))
}

func (s *Surface) remove(gone *sweep.Sweep) surface.Intent {
	s.all = slices.DeleteFunc(slices.Clone(s.all), func(one *sweep.Sweep) bool { return one == gone })
	if s.present == gone {
		s.present = nil
	}
	project := s.project
	todo := surface.Say("%s is forgotten", gone.Name)
	todo.Cmd = surface.Keep(s.making, gone.ID, func() error { return project.RemoveSweep(gone.ID) }, surface.SayError)
	if len(s.all) == 0 {
		return todo.And(surface.Close())
	}
	s.refresh()
	return todo.And(s.selected())
}

// askAgain asks the question of the sweep again.
func (s *Surface) askAgain() surface.Intent {
	one := s.present
	if one == nil {
		return s.none()
	}
	todo := surface.Intent{}
	if s.open {
		s.sheet.Busy()
	} else {
		todo = surface.Say("%s is being asked again …", one.Name)
	}
	type answer struct {
		fresh, settled int
		err            error
	}
	found, project := one.Clone(), s.project
	return todo.And(surface.Begin(surface.Ask(s.again, func(ctx context.Context) answer {
		fresh, settled, err := project.RefreshSweep(ctx, found)
		return answer{fresh, settled, err}
	}, func(a answer) surface.Intent {
		if a.err != nil {
			s.refresh()
			return surface.SayError(a.err)
		}
		found.Merge(one) // what was marked meanwhile
		*one = *found
		s.refresh()
		said := surface.Say("%s new, %s no longer among the answers: %s", sheet.Number(a.fresh), sheet.Number(a.settled), s.howFar())
		if s.open {
			said = said.And(s.selected())
		}
		return said.And(surface.Begin(s.keep(one)))
	})))
}

// Moved has the sweeps follow a file or folder that was renamed.
func (s *Surface) Moved(from, to string) tea.Cmd {
	var cmds []tea.Cmd
	for _, one := range s.all {
		if one.Moved(from, to) {
			cmds = append(cmds, s.keep(one))
		}
	}
	return tea.Batch(cmds...)
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.sheet.Resize(height)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.sheet.Rows(s.Width, p) }

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) { return s.sheet.Cursor(s.Width), 0, true }

// Closed implements surface.Surface.
func (s *Surface) Closed() {
	s.open = false
	s.colors.Cancel()
}
