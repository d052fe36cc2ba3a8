// Package trail is the navigation history: a tree of stops. Going back and
// turning another way begins a fork and forgets nothing.
package trail

import (
	"container/list"
	"reflect"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/file/place"
)

// Trail is a tree of stops with one that is present, and the walk on which one came
// there. The zero Trail has no stop yet.
type Trail struct {
	// Name is what one called the trail, "" for nothing; Made is when it was begun.
	Name string
	Made time.Time

	firsts []*Stop // where it begins; more than one after another was joined to it
	stops  []*Stop // by number; nil for those that were cut away
	here   *Stop
	walk   []Step // the stops one came by, the present one last
	ahead  []Step // where one went back from, the next last
	away   *View  // where the caret is, if that is far from the present stop
	byPath map[string][]*Stop
	order  list.List // of all stops, where one was last first
	cuts   []cut
	fresh  fresh // what has not been kept yet
}

// Step is a stop on a walk, as one left it then: one may come by a stop more than once.
type Step struct {
	Stop *Stop
	View View
}

// cut is a part of the trail that was cut away.
type cut struct {
	stop *Stop
	here *Stop
}

// First is the stop where the trail begins; nil if there is none.
func (t *Trail) First() *Stop {
	if len(t.firsts) == 0 {
		return nil
	}
	return t.firsts[0]
}

// Firsts are the stops where the trail begins.
func (t *Trail) Firsts() []*Stop { return t.firsts }

// Here is the present stop; nil if there is none.
func (t *Trail) Here() *Stop { return t.here }

// Count is the number of stops.
func (t *Trail) Count() int {
	return t.order.Len()
}

// Stop is the stop of a number; nil if there is none.
func (t *Trail) Stop(number int) *Stop {
	if number < 0 || number >= len(t.stops) {
		return nil
	}
	return t.stops[number]
}

// All are the stops in the order in which they were made.
func (t *Trail) All() []*Stop {
	return slices.DeleteFunc(slices.Clone(t.stops), func(s *Stop) bool { return s == nil })
}

// In are the stops in a file.
func (t *Trail) In(path string) []*Stop { return t.byPath[path] }

// nearby is how many lines one may move from where one came to and still be at that stop.
const nearby = 25

// near says whether two places are about the same spot of a file.
func near(a, b place.Place) bool {
	return a.Path == b.Path && max(a.Line-b.Line, b.Line-a.Line) <= nearby
}

// same says whether two places are on the same line of the same file.
func same(a, b place.Place) bool { return a.Path == b.Path && a.Line == b.Line }

// Rest notes where the caret is, so that coming back restores it. Far from the present
// stop it is remembered, but makes no stop.
func (t *Trail) Rest(v View) {
	s := t.here
	if s == nil {
		return
	}
	if !near(s.Came, v.Place) {
		t.away = &v
		return
	}
	t.away = nil
	if last := &t.walk[len(t.walk)-1]; last.View != v {
		last.View, t.fresh.moved = v, true
	}
	if s.View != v {
		moved := s.View.Place.Path != v.Place.Path
		old := s.View.Place.Path
		s.View, s.Seen = v, time.Now()
		if moved {
			t.reindex(s, old)
		}
		t.touch(s)
	}
}

// Leave notes where one is before one goes away. If that is far from where one came to,
// it becomes a stop of its own, so that one can come back to either.
func (t *Trail) Leave(v View, symbol string) {
	if s := t.here; s != nil && !near(s.Came, v.Place) {
		t.Go(v, "moved on", symbol)
		return
	}
	t.Rest(v)
}

// Remember notes by what the place is found again at which the present stop was left, and
// the name of what that is in. Of a stop whose line is gone that is left as it is, unless one went
// to another line there.
func (t *Trail) Remember(a place.Anchor, inside string) {
	s := t.here
	if s == nil || s.View.Place != a.Place() {
		return
	}
	if s.Fate == place.Gone && s.Memory.Path == a.Path && s.Memory.Line == a.Line && s.Memory.Text != a.Text {
		return // another line stands there now; the one that is gone may come back
	}
	was := *s
	if s.Memory.Path == a.Path && s.Memory.Line == a.Line {
		s.Symbol = renamed(s.Symbol, s.Memory.Symbol, a.Symbol)
		s.Memory.Found(a)
	} else {
		former := s.Memory.Former
		s.Memory = place.Remember(a)
		s.Memory.Former = former
	}
	s.Fate, s.Inside = place.Same, inside
	if was.Symbol != s.Symbol || was.Fate != s.Fate || was.Inside != inside || !reflect.DeepEqual(was.Memory, s.Memory) {
		t.touch(s) // else there is nothing new to be kept
	}
}

// Go goes to a place one jumped to. A jump to the line where one is makes no stop. A place
// where one was before is that stop again; else a new one is made, to which a way leads
// from here.
func (t *Trail) Go(v View, how, symbol string) *Stop {
	t.away = nil
	if t.here != nil && same(t.here.View.Place, v.Place) {
		t.here.View, t.walk[len(t.walk)-1].View = v, v
		t.touch(t.here)
		return t.here
	}
	if known := t.known(v.Place); known != nil {
		known.View = v
		t.visit(known)
		return known
	}
	now := time.Now()
	s := &Stop{View: v, Came: v.Place, How: how, Symbol: symbol, At: now, number: len(t.stops), parent: t.here}
	if t.here == nil {
		t.firsts = append(t.firsts, s)
		if t.Made.IsZero() {
			t.Made, t.fresh.head = now, true
		}
	}
	t.add(s)
	t.visit(s)
	return s
}

// add takes in a stop.
func (t *Trail) add(s *Stop) {
	t.stops = append(t.stops, s)
	if s.parent != nil {
		s.depth = s.parent.depth + 1
	}
	s.order = t.order.PushFront(s)
	if t.byPath == nil {
		t.byPath = map[string][]*Stop{}
	}
	t.byPath[s.View.Place.Path] = append(t.byPath[s.View.Place.Path], s)
	t.touch(s)
}

// reindex follows a stop that is in another file now.
func (t *Trail) reindex(s *Stop, old string) {
	t.byPath[old] = slices.DeleteFunc(t.byPath[old], func(o *Stop) bool { return o == s })
	if now := s.View.Place.Path; t.stops[s.number] == s {
		t.byPath[now] = append(t.byPath[now], s)
	}
}

// known is the stop at a place; of several the one where one was last. nil if there is
// none.
func (t *Trail) known(p place.Place) (best *Stop) {
	for _, s := range t.byPath[p.Path] {
		if s.Fate != place.Gone && (same(s.View.Place, p) || same(s.Came, p)) && (best == nil || s.Seen.After(best.Seen)) {
			best = s
		}
	}
	return best
}

// visit goes on to a stop from the present one.
func (t *Trail) visit(s *Stop) {
	t.ahead = nil
	t.step(Step{s, s.View})
}

// step goes to a stop and notes that the way from the present one leads there.
func (t *Trail) step(to Step) {
	s := to.Stop
	if from := t.here; from != nil && from != s {
		from.ways = append(slices.DeleteFunc(from.ways, func(w *Stop) bool { return w == s }), s)
		t.fresh.way(from)
	}
	t.walk = append(t.walk, to)
	t.arrive(s)
}

func (t *Trail) arrive(s *Stop) {
	t.here, t.away = s, nil
	s.Seen = time.Now()
	t.order.MoveToFront(s.order)
	t.fresh.moved = true
	t.touch(s)
}

// Previous is the stop to which Back goes, as one left it; its Stop is nil at the
// beginning.
func (t *Trail) Previous() Step {
	if n := len(t.walk); n > 1 {
		return t.walk[n-2]
	}
	if t.here == nil || t.here.parent == nil {
		return Step{}
	}
	return Step{t.here.parent, t.here.parent.View}
}

// Back goes to the stop one came from; it is false at the beginning.
func (t *Trail) Back() bool {
	to := t.Previous()
	if to.Stop == nil {
		return false
	}
	n := len(t.walk)
	t.ahead = append(t.ahead, t.walk[n-1])
	if n > 1 {
		t.walk = t.walk[:n-1]
	} else {
		t.walk = []Step{to}
	}
	to.Stop.View = to.View
	t.arrive(to.Stop)
	return true
}

// Next is the stop to which Forward goes: the one from which one came back, or where one
// last went on to from here; its Stop is nil at the end of a way.
func (t *Trail) Next() Step {
	if n := len(t.ahead); n > 0 {
		return t.ahead[n-1]
	}
	if t.here != nil {
		if s := t.here.latest(); s != nil {
			return Step{s, s.View}
		}
	}
	return Step{}
}

// Forward goes on to where one last went from here; it is false at the end of
// a way.
func (t *Trail) Forward() bool {
	to := t.Next()
	if to.Stop == nil {
		return false
	}
	t.ahead = t.ahead[:max(len(t.ahead)-1, 0)]
	to.Stop.View = to.View
	t.step(to)
	return true
}

// Take goes on along one of the ways from here; it is false if the stop is not
// one of them.
func (t *Trail) Take(next *Stop) bool {
	if next == nil || t.here == nil || !slices.Contains(t.here.ways, next) {
		return false
	}
	if next == t.Next().Stop {
		return t.Forward()
	}
	t.visit(next)
	return true
}

// Visit goes to any stop of the trail; Back leads from there to where one was.
func (t *Trail) Visit(s *Stop) bool {
	if s == nil || t.Stop(s.number) != s {
		return false
	}
	if s == t.here {
		return true
	}
	t.ahead = nil
	t.walk = append(t.walk, Step{s, s.View})
	t.arrive(s)
	return true
}

// Swap is Visit without another step on the way back: it takes the place of the last one, as
// when one looks for the right one among several.
func (t *Trail) Swap(s *Stop) bool {
	n := len(t.walk)
	if s == nil || t.Stop(s.number) != s || n < 2 {
		return t.Visit(s)
	}
	t.ahead = nil
	if t.walk = t.walk[:n-1]; t.walk[n-2].Stop != s {
		t.walk = append(t.walk, Step{s, s.View})
	}
	t.arrive(s)
	return true
}

// Lead takes the present stop on to another place, if one came to it in the same way and has left
// nothing there: so a list of places that one works through is one stop. It is false if another
// stop has to be made.
func (t *Trail) Lead(v View, how, symbol string) bool {
	s := t.here
	if s == nil || s.How != how || s.Name != "" || s.Note != "" || s.Starred || !s.Edited.IsZero() || len(s.ways) > 0 || t.known(v.Place) != nil {
		return false
	}
	old := s.View.Place.Path
	s.View, s.Came, s.Symbol, s.Inside, s.Memory, s.Fate = v, v.Place, symbol, "", place.Memory{}, place.Same
	t.walk[len(t.walk)-1].View = v
	if old != v.Place.Path {
		t.reindex(s, old)
	}
	t.arrive(s)
	return true
}

// Path is a part of the walk through the present stop.
type Path struct {
	// Steps are the stops one came by and those where forward leads; Here is the number of
	// the present one among them.
	Steps []Step
	Here  int
	// Before is how many more there are before them, Ahead how many behind: beyond some
	// number they are not counted any more.
	Before, Ahead int
}

// mostAhead is how far is counted where forward leads.
const mostAhead = 1000

// Path lists the stops on the walk through the present one, at most so many on either side. Where
// forward leads from the end of the walk is part of it, up to a stop that is in it already.
func (t *Trail) Path(most int) (p Path) {
	if t.here == nil {
		return p
	}
	first := max(len(t.walk)-1-most, 0)
	var before []Step
	s := t.walk[0].Stop.parent
	for ; first == 0 && s != nil && len(before) < most-len(t.walk)+1; s = s.parent {
		before = append(before, Step{s, s.View})
	}
	if p.Before = first; s != nil {
		p.Before += s.depth + 1
	}
	slices.Reverse(before)
	p.Steps = append(before, t.walk[first:]...)
	p.Here = len(p.Steps) - 1
	last := t.here
	add := func(s Step) {
		if last = s.Stop; len(p.Steps)-p.Here <= most {
			p.Steps = append(p.Steps, s)
		} else {
			p.Ahead++
		}
	}
	for _, s := range slices.Backward(t.ahead) {
		add(s)
	}
	shown := map[*Stop]bool{}
	for _, s := range p.Steps {
		shown[s.Stop] = true
	}
	for s := last.latest(); s != nil && !shown[s] && p.Ahead < mostAhead; s = s.latest() {
		add(Step{s, s.View})
	}
	return p
}

// Return goes to the stop at a place and says whether there is one. It is for moving
// between views that stay open, which leads nowhere new.
func (t *Trail) Return(p place.Place) bool {
	s := t.known(p)
	return s != nil && t.Visit(s)
}

// Rename follows a file or a folder that was given another path: the stops in it
// are at the new one from now on.
func (t *Trail) Rename(from, to string) {
	for _, s := range t.All() {
		old := s.View.Place.Path
		now := place.Renamed(old, from, to)
		s.Came.Path = place.Renamed(s.Came.Path, from, to)
		if now == old {
			continue
		}
		s.View.Place.Path = now
		s.Memory.MoveTo(now)
		t.reindex(s, old)
		t.touch(s)
	}
	for _, steps := range [][]Step{t.walk, t.ahead} {
		for i := range steps {
			p := &steps[i].View.Place
			p.Path = place.Renamed(p.Path, from, to)
		}
	}
}

// renamed is what a name is called now that what its place is in, with the package, has another
// name; the same if it was not the name of that.
func renamed(name, was, now string) string {
	before, ends := strings.CutSuffix(was, name)
	if name == "" || !ends || before != "" && !strings.HasSuffix(before, ".") || len(now) <= len(before) || now[:len(before)] != before {
		return name
	}
	return now[len(before):]
}

// Located takes over where a stop is now, as it was found out since, unless one was there
// meanwhile.
func (t *Trail) Located(s *Stop, was, now place.Memory, fate place.Fate) {
	if t.Stop(s.number) != s || s.View.Place.Line != was.Line || s.View.Place.Path != was.Path {
		return
	}
	if s.Fate == fate && now.Line == was.Line && now.Path == was.Path && now.Text == s.Memory.Text && now.Symbol == s.Memory.Symbol {
		return
	}
	old := s.View.Place.Path
	by := now.Line - was.Line
	s.Fate = fate
	if fate != place.Gone {
		s.Symbol, s.Inside = renamed(s.Symbol, was.Symbol, now.Symbol), renamed(s.Inside, was.Symbol, now.Symbol)
		s.Memory = now
		s.Came.Line, s.Came.Path = max(s.Came.Line+by, 1), now.Path
		s.View.shift(by, now.Path)
		s.View.Place.Col = now.Col
		for _, steps := range [][]Step{t.walk, t.ahead} {
			for i := range steps {
				if steps[i].Stop == s {
					steps[i].View.shift(by, now.Path)
				}
			}
		}
		t.fresh.moved = true
	}
	if old != s.View.Place.Path {
		t.reindex(s, old)
	}
	t.touch(s)
}

// shift moves a view by some lines.
func (v *View) shift(by int, path string) {
	v.Place.Line, v.Place.Path = max(v.Place.Line+by, 1), path
	if v.Top > 0 {
		v.Top = max(v.Top+by, 1)
	}
}

// SetName gives a stop a name, or takes it off with "".
func (t *Trail) SetName(s *Stop, name string) { s.Name = strings.TrimSpace(name); t.touch(s) }

// SetNote writes a note on a stop, or takes it off with "".
func (t *Trail) SetNote(s *Stop, note string) { s.Note = strings.TrimSpace(note); t.touch(s) }

// SetStarred marks a stop, or takes the mark off.
func (t *Trail) SetStarred(s *Stop, starred bool) { s.Starred = starred; t.touch(s) }

// SetEdited notes that text was changed at a stop.
func (t *Trail) SetEdited(s *Stop, when time.Time) { s.Edited = when; t.touch(s) }

// Title is what to call the trail: its name, or when it was begun.
func (t *Trail) Title() string { return TitleOf(t.Name, t.Made) }

// TitleOf is what to call a trail of a name, "" for none, that was begun at a time.
func TitleOf(name string, made time.Time) string {
	if name != "" {
		return name
	}
	return "trail of " + made.Local().Format("2 Jan 15:04")
}

// Rechristen gives the trail a name.
func (t *Trail) Rechristen(name string) { t.Name, t.fresh.head = strings.TrimSpace(name), true }

func lastOf(s string, sep byte) string { return s[strings.LastIndexByte(s, sep)+1:] }
