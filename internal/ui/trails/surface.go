package trails

import (
	"context"
	"errors"
	"sync"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project keeps the trails; see package workspace.
type Project interface {
	OpenTrail() (*trail.Kept, error)
	KeepTrail(d trail.Delta, recent []trail.Visit) error
	// Trails is nil if there is no place to keep several.
	Trails() *trail.Store
	WalkOf(ctx context.Context, name string, stops []*trail.Stop) *walk.Walk
}

// Surface is the trail: the sheet over the code, and the moves along it.
type Surface struct {
	surface.Size
	host    surface.Host
	project Project
	walks   surface.Walks
	sheet   *Model
	forks   *choice.Surface
	asks    *askline.Surface
	asker   *surface.Asker
	open    bool
	looking bool // for the trails of the project, to list them

	trail   trail.Trail
	recent  trail.Recent
	read    bool        // the trail of last time is in it
	kept    int         // how many changes of the trail are on disk, or about to be
	editing *trail.Stop // the edit place one went to last
	journal journal
}

// NewSurface makes one.
func NewSurface(host surface.Host, project Project, walks surface.Walks) *Surface {
	s := &Surface{host: host, project: project, walks: walks, sheet: New(), forks: &choice.Surface{}, asks: &askline.Surface{}}
	s.sheet.Clock = host.Clock()
	s.asker = host.Asker(s)
	return s
}

// Number is that of the present stop, counted from 1; 0 for none.
func (s *Surface) Number() int {
	if here := s.Trail().Here(); here != nil {
		return here.Number() + 1
	}
	return 0
}

// Trail is the trail.
func (s *Surface) Trail() *trail.Trail { return &s.trail }

// Recent are the files one was in.
func (s *Surface) Recent() *trail.Recent { return &s.recent }

// IsRead says whether the trail of last time is in it.
func (s *Surface) IsRead() bool { return s.read }

// keptTrail is the trail of last time, or another one to go on with.
type keptTrail struct {
	*trail.Kept
	err error
}

// Load reads the trail of last time.
func (s *Surface) Load() tea.Cmd {
	project := s.project
	return surface.Do(s.asker, func(context.Context) keptTrail {
		kept, err := project.OpenTrail()
		return keptTrail{kept, err}
	}, s.goOn)
}

// goOn goes on with the trail of last time.
func (s *Surface) goOn(k keptTrail) (todo surface.Intent) {
	s.read = true
	switch {
	case k.err != nil:
		todo = surface.SayError(k.err)
	case k.CutOff:
		todo = surface.Say("the end of the trail of last time was cut off; what stands before it is here")
	}
	now := s.recent.Before("", false)
	s.recent = trail.NewRecent(k.Recent)
	for i := len(now) - 1; i >= 0; i-- {
		s.recent.Touch(now[i], time.Now())
	}
	if k.Trail.First() == nil {
		return todo
	}
	s.trail.GoOn(&k.Trail)
	todo.Anew = true // the stops in the files that are shown are others now
	return todo
}

// Keep notes what is to be kept of the trail, and gives what keeps it.
func (s *Surface) Keep() (keep func() error) {
	s.Rest()
	if s.read && s.trail.Changes() != s.kept {
		s.journal.add(news{s.trail.News(), s.recent.All(time.Now())})
		s.kept = s.trail.Changes()
	}
	journal, project := &s.journal, s.project
	return func() error { return journal.write(project) }
}

// news is what has changed of the trail, with the files one was in.
type news struct {
	delta  trail.Delta
	recent []trail.Visit
}

// journal holds the changes of the trail that are still to be kept, in their order: of these none may
// be left out, and commands may run in any order.
type journal struct {
	writing sync.Mutex
	mu      sync.Mutex
	all     []news
}

func (j *journal) add(n news) {
	j.mu.Lock()
	defer j.mu.Unlock()
	j.all = append(j.all, n)
}

func (j *journal) take() []news {
	j.mu.Lock()
	defer j.mu.Unlock()
	all := j.all
	j.all = nil
	return all
}

func (j *journal) write(project Project) (failed error) {
	j.writing.Lock()
	defer j.writing.Unlock()
	for _, n := range j.take() { // what cannot be written now is written the next time
		if err := project.KeepTrail(n.delta, n.recent); err != nil {
			failed = err
		}
	}
	return failed
}

// show shows the trail.
func (s *Surface) show() surface.Intent {
	s.LeaveHere()
	if s.trail.Here() == nil {
		return noStop()
	}
	s.fill()
	return surface.Intent{Open: s}.And(s.selected())
}

func (s *Surface) fill() {
	s.open = true
	s.sheet.Open(&s.trail, s.host.Here().View.Place.Path, s.Height)
}

func noStop() surface.Intent { return surface.Say("there is no stop yet; every jump makes one") }

// selected shows the chosen stop beneath.
func (s *Surface) selected() surface.Intent {
	stop, ok := s.sheet.Chosen()
	if !ok || stop == s.trail.Here() {
		return surface.LookBack()
	}
	return surface.Look(s.Visit(stop))
}

// Form implements surface.Surface: there is much to see, and the code of one stop is enough.
func (s *Surface) Form() surface.Form { return surface.Tall }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	e := s.sheet.Key(msg)
	switch e.Kind {
	case Closed:
		return surface.Close()
	case Selected:
		return s.selected()
	case Taken:
		if e.Stop == s.trail.Here() {
			return surface.Close()
		}
		return surface.Go(s.Visit(e.Stop))
	case Starred:
		s.trail.SetStarred(e.Stop, !e.Stop.Starred)
	case Noted:
		s.trail.SetNote(e.Stop, e.Words)
		if e.Done {
			return surface.Intent{Say: "the note on " + e.Stop.Title() + " is written down", Keep: true, Close: true}
		}
	case Named:
		s.trail.SetName(e.Stop, e.Words)
	case Cut:
		return s.cut(e.Stop)
	case Uncut:
		return s.changed().And(s.uncut())
	case Exported:
		return s.walks.Export(e.Words, s.walk(e.Stops))
	case Guided:
		return surface.Close().And(s.walks.Start(s.walk(e.Stops)))
	case Trails:
		return s.listTrails()
	case Switched, Begun, Joined, Renamed, Removed:
		return s.onTrails(e)
	default:
		return surface.Intent{}
	}
	return s.changed()
}

// changed shows and keeps what was done to the trail.
func (s *Surface) changed() surface.Intent {
	s.sheet.Refresh()
	return surface.Intent{Keep: true}.And(s.selected())
}

func (s *Surface) uncut() surface.Intent {
	n := s.trail.Uncut()
	s.sheet.Refresh()
	if n == 0 {
		return surface.Say("nothing was cut away that could be brought back")
	}
	return surface.Say("%s back", sheet.Count(n, "stop is", "stops are"))
}

// cut cuts a stop away with all behind it.
func (s *Surface) cut(stop *trail.Stop) surface.Intent {
	n := s.trail.Cut(stop)
	todo := s.changed()
	todo.Marked = true
	if n == 0 {
		return todo.And(surface.Say("this is where the trail begins; cut away, nothing would be left"))
	}
	return todo.And(surface.Say("%s cut away; "+on.Uncut.Help().Key+" brings back what went last", sheet.Count(n, "stop", "stops")))
}

// walk makes a guided walk of stops, beside the screen. The stops are copied, since the trail may
// change meanwhile.
func (s *Surface) walk(stops []*trail.Stop) func(ctx context.Context) *walk.Walk {
	name, project := s.trail.Title(), s.project
	part := s.trail.Part(stops)
	return func(ctx context.Context) *walk.Walk { return project.WalkOf(ctx, name, part) }
}

// errNoTrails says that there is no place to keep several trails.
var errNoTrails = errors.New("the trail is only in memory here, so there are no others")

// showTrails lists the trails of the project.
func (s *Surface) showTrails() surface.Intent {
	s.LeaveHere()
	s.fill()
	return surface.Intent{Open: s}.And(s.listTrails())
}

// abouts are the trails of the project.
type abouts struct {
	all []trail.About
	err error
}

// Busy implements surface.Surface: keys are meant for when what was asked for is there.
func (s *Surface) Busy() bool { return s.looking }

// ask looks for something in the trails that are kept, while keys wait.
func ask[T any](s *Surface, work func() T, take func(T) surface.Intent) surface.Intent {
	s.looking = true
	return surface.Begin(surface.Do(s.asker, func(context.Context) T { return work() }, func(found T) surface.Intent {
		s.looking = false
		return take(found)
	}))
}

func (s *Surface) listTrails() surface.Intent {
	store := s.project.Trails()
	if store == nil {
		return surface.SayError(errNoTrails)
	}
	keep := s.Keep()
	return ask(s, func() abouts {
		_ = keep() // so that what is listed is as it is now; what cannot be kept is said elsewhere
		all, err := store.List()
		return abouts{all, err}
	}, s.list)
}

func (s *Surface) list(found abouts) surface.Intent {
	todo := surface.SayError(found.err)
	if !s.open {
		return todo
	}
	s.sheet.List(&s.trail, found.all, s.Height)
	return todo.And(surface.LookBack())
}

// onTrails carries out what was chosen among the trails. What is on disk of the present one
// is brought up to date before.
func (s *Surface) onTrails(e Event) surface.Intent {
	store := s.project.Trails()
	if store == nil {
		return surface.SayError(errNoTrails)
	}
	if e.Kind == Renamed && e.ID == "" {
		s.trail.Rechristen(e.Words)
		return surface.Intent{Keep: true}.And(s.listTrails())
	}
	keep := s.Keep()
	switch e.Kind {
	case Switched:
		return ask(s, func() keptTrail {
			_ = keep() // what cannot be kept is said elsewhere
			kept, err := store.Switch(e.ID)
			return keptTrail{kept, err}
		}, s.switched)
	case Begun:
		begun, recent := s.trail.Beginning(e.Words), s.recent.All(time.Now())
		return ask(s, func() keptTrail {
			_ = keep() // the same
			whole := begun.Whole()
			begun.News() // all of it is kept with that
			kept := &trail.Kept{}
			kept.Trail.Become(begun)
			return keptTrail{kept, store.Begin(whole, recent)}
		}, s.switched)
	case Joined:
		return ask(s, func() keptTrail {
			_ = keep() // the same
			kept, err := store.Look(e.ID)
			return keptTrail{kept, err}
		}, s.joined)
	}
	return ask(s, func() (found abouts) {
		_ = keep() // the same
		if e.Kind == Renamed {
			found.err = store.Rename(e.ID, e.Words)
		} else {
			found.err = store.Remove(e.ID)
		}
		if found.err == nil {
			found.all, found.err = store.List()
		}
		return found
	}, func(found abouts) surface.Intent {
		if found.err != nil {
			return surface.SayError(found.err)
		}
		return s.list(found)
	})
}

// switched goes on with another trail, at its present stop.
func (s *Surface) switched(k keptTrail) surface.Intent {
	if k.Kept == nil || k.err != nil && k.Trail.Here() == nil {
		return surface.SayError(k.err)
	}
	s.trail.Become(&k.Trail)
	s.kept = s.trail.Changes()
	words := "this is the trail \"" + s.trail.Title() + "\" now, with " + sheet.Count(s.trail.Count(), "stop", "stops")
	if k.err != nil {
		words = k.err.Error()
	}
	todo := surface.Intent{Say: words, Anew: true, Marked: true}
	here := s.trail.Here()
	if here == nil {
		return todo.And(surface.Close())
	}
	v := to(trail.Step{Stop: here, View: here.View}, func() {})
	v.After = words
	return todo.And(surface.Go(v))
}

// joined takes in another trail.
func (s *Surface) joined(k keptTrail) surface.Intent {
	if k.err != nil {
		return surface.SayError(k.err)
	}
	s.trail.Join(&k.Trail)
	todo := surface.Say("%s taken in from the trail %q, which is still there, too", sheet.Count(k.Trail.Count(), "stop is", "stops are"), k.Trail.Title())
	todo.Keep, todo.Anew = true, true
	if !s.open {
		return todo
	}
	s.fill()
	return todo.And(s.selected())
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
func (s *Surface) Closed() { s.open = false }

// Draw has about so many stops of a long trail be drawn.
func (s *Surface) Draw(stops int) { s.sheet.Depth = stops }
