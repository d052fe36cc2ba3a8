package trail

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"rooktrail/internal/core/file/place"
)

// Version is that of the form in which trails are kept.
const Version = 1

// A trail lies on disk as a journal: one JSON object a line, each of which says what has
// changed, so that keeping it costs no more than what is new, however long it is.
type entry struct {
	Version int        `json:"version,omitempty"`
	Name    *string    `json:"name,omitempty"`
	Made    *time.Time `json:"made,omitempty"`
	Stop    *keptStop  `json:"stop,omitempty"`
	Ways    *keptWays  `json:"ways,omitempty"`
	Cut     *int       `json:"cut,omitempty"`
	Walk    *keptWalk  `json:"walk,omitempty"`
	Recent  []Visit    `json:"recent,omitempty"`
}

// keptStop is a stop as it lies on disk; a later one of the same number takes its place.
type keptStop struct {
	Number int `json:"number"`
	Parent int `json:"parent"` // -1 where the trail begins
	place.Memory
	Fate    place.Fate  `json:"fate,omitempty"`
	Top     int         `json:"top,omitempty"`
	Left    int         `json:"left,omitempty"`
	Came    place.Place `json:"came"`
	How     string      `json:"how,omitempty"`
	What    string      `json:"what,omitempty"`
	Inside  string      `json:"inside,omitempty"`
	At      time.Time   `json:"at"`
	Seen    time.Time   `json:"seen,omitzero"`
	Name    string      `json:"title,omitempty"`
	Note    string      `json:"note,omitempty"`
	Starred bool        `json:"starred,omitempty"`
	Edited  time.Time   `json:"edited,omitzero"`
}

// keptWays are the stops one went on to from one, the latest last.
type keptWays struct {
	Of int   `json:"of"`
	To []int `json:"to"`
}

// keptWalk is how one came to the present stop, and where one went back from.
type keptWalk struct {
	Here  int        `json:"here"`
	By    []keptStep `json:"by,omitempty"`
	Ahead []keptStep `json:"ahead,omitempty"`
}

// keptStep is a stop on a walk as one left it then.
type keptStep struct {
	Stop int `json:"stop"`
	Line int `json:"line"`
	Col  int `json:"col"`
	Top  int `json:"top,omitempty"`
	Left int `json:"left,omitempty"`
}

// mostWalked is how much of the walk is kept.
const mostWalked = 200

// fresh is what has changed since it was last kept.
type fresh struct {
	head, moved bool
	stops, ways map[*Stop]bool
	cuts        []int
	count       int // of all changes
}

func (t *Trail) touch(s *Stop) {
	f := &t.fresh
	if f.stops == nil {
		f.stops = map[*Stop]bool{}
	}
	f.stops[s] = true
	f.count++
}

func (f *fresh) way(s *Stop) {
	if f.ways == nil {
		f.ways = map[*Stop]bool{}
	}
	f.ways[s] = true
	f.count++
}

func (f *fresh) cut(s *Stop) {
	f.cuts = append(f.cuts, s.number)
	f.count++
}

// Delta is what has changed in a trail since the Delta before.
type Delta struct{ entries []entry }

// Empty says that nothing has changed.
func (d *Delta) Empty() bool { return len(d.entries) == 0 }

// News tells what has changed since the last time it was asked.
func (t *Trail) News() (d Delta) {
	f := &t.fresh
	if f.head {
		d.entries = append(d.entries, t.header())
	}
	for _, n := range f.cuts {
		d.entries = append(d.entries, entry{Cut: &n})
	}
	for _, s := range inOrder(f.stops) { // so that one comes behind that it came from
		if t.stops[s.number] == s {
			d.entries = append(d.entries, entry{Stop: s.kept()})
		}
	}
	for _, s := range inOrder(f.ways) {
		if t.stops[s.number] == s {
			d.entries = append(d.entries, entry{Ways: &keptWays{s.number, numbers(s.ways)}})
		}
	}
	if f.moved && t.here != nil {
		d.entries = append(d.entries, entry{Walk: t.keptWalk()})
	}
	t.fresh = fresh{count: f.count}
	return d
}

func inOrder(stops map[*Stop]bool) []*Stop {
	return slices.SortedFunc(maps.Keys(stops), func(a, b *Stop) int { return a.number - b.number })
}

// Changes counts the changes of the trail.
func (t *Trail) Changes() int {
	n := t.fresh.count
	if t.fresh.head || t.fresh.moved {
		n++
	}
	return n
}

// Whole tells all of the trail, as if nothing had been kept yet.
func (t *Trail) Whole() Delta {
	d := Delta{entries: []entry{t.header()}}
	for _, s := range t.stops {
		if s != nil {
			d.entries = append(d.entries, entry{Stop: s.kept()})
		}
	}
	for _, s := range t.stops {
		if s != nil && len(s.ways) > 0 {
			d.entries = append(d.entries, entry{Ways: &keptWays{s.number, numbers(s.ways)}})
		}
	}
	if t.here != nil {
		d.entries = append(d.entries, entry{Walk: t.keptWalk()})
	}
	return d
}

func (t *Trail) header() entry {
	name, made := t.Name, t.Made
	return entry{Version: Version, Name: &name, Made: &made}
}

func (t *Trail) keptWalk() *keptWalk {
	return &keptWalk{t.here.number, keptSteps(t.walk), keptSteps(t.ahead)}
}

func keptSteps(steps []Step) (out []keptStep) {
	for _, s := range steps[max(len(steps)-mostWalked, 0):] {
		v := s.View
		out = append(out, keptStep{s.Stop.number, v.Place.Line, v.Place.Col, v.Top, v.Left})
	}
	return out
}

// steps are those that were kept; of stops that are gone there are none.
func (t *Trail) steps(kept []keptStep) (out []Step) {
	for _, k := range kept {
		if s := t.Stop(k.Stop); s != nil {
			out = append(out, Step{s, View{place.Place{Path: s.View.Place.Path, Line: k.Line, Col: k.Col}, k.Top, k.Left}})
		}
	}
	return out
}

func numbers(stops []*Stop) (out []int) {
	for _, s := range stops {
		out = append(out, s.number)
	}
	return out
}

func (s *Stop) kept() *keptStop {
	k := &keptStop{Number: s.number, Parent: -1, Memory: s.Memory, Fate: s.Fate, Top: s.View.Top, Left: s.View.Left, Came: s.Came, How: s.How,
		What: s.Symbol, Inside: s.Inside, At: s.At, Seen: s.Seen, Name: s.Name, Note: s.Note, Starred: s.Starred, Edited: s.Edited}
	if s.parent != nil {
		k.Parent = s.parent.number
	}
	k.Path, k.Line, k.Col = s.View.Place.Path, s.View.Place.Line, s.View.Place.Col
	return k
}

// write adds the entries to what is to be written to disk.
func (d *Delta) write(b *bytes.Buffer) error {
	enc := json.NewEncoder(b)
	enc.SetEscapeHTML(false)
	for _, e := range d.entries {
		if err := enc.Encode(e); err != nil {
			return fmt.Errorf("writing down the trail: %w", err)
		}
	}
	return nil
}

// Kept is a trail as it was kept, with the files one was in.
type Kept struct {
	Trail  Trail
	Recent []Visit
	// CutOff says that the end of what was kept was cut off in the middle of an entry,
	// as when the disk was full; what stands before it is there.
	CutOff  bool
	entries int // how many there were
}

// errLater says that a trail was kept by a later version.
var errLater = errors.New("it was kept by a later version of this program and is left alone")

// Read reads a journal. Its error says in which line it is not well formed.
func Read(data []byte) (*Kept, error) {
	k := &Kept{}
	for n := 1; len(data) > 0; n++ {
		line, rest, ended := bytes.Cut(data, []byte("\n"))
		data = rest
		if len(bytes.TrimSpace(line)) == 0 {
			continue
		}
		var e entry
		if err := json.Unmarshal(line, &e); err != nil {
			if !ended && n > 1 {
				k.CutOff = true
				break
			}
			return nil, fmt.Errorf("line %d is not well formed: %w", n, err)
		}
		if e.Version > Version {
			return nil, errLater
		}
		if err := k.take(&e); err != nil {
			return nil, fmt.Errorf("line %d: %w", n, err)
		}
		k.entries++
	}
	t := &k.Trail
	t.byPath = map[string][]*Stop{}
	all := t.All()
	for _, s := range all {
		t.byPath[s.View.Place.Path] = append(t.byPath[s.View.Place.Path], s)
		if s.parent != nil {
			s.depth = s.parent.depth + 1
		}
	}
	slices.SortStableFunc(all, func(a, b *Stop) int { return a.Seen.Compare(b.Seen) })
	for _, s := range all {
		s.order = t.order.PushFront(s)
	}
	if t.here == nil && len(t.firsts) > 0 {
		t.here = t.firsts[0].End()
	}
	if t.here != nil && len(t.walk) == 0 {
		t.walk = []Step{{t.here, t.here.View}}
	}
	t.fresh = fresh{count: t.fresh.count}
	return k, nil
}

// take carries out an entry of a journal.
func (k *Kept) take(e *entry) error {
	t := &k.Trail
	if e.Name != nil {
		t.Name = *e.Name
	}
	if e.Made != nil {
		t.Made = *e.Made
	}
	if e.Recent != nil {
		k.Recent = e.Recent
	}
	switch {
	case e.Stop != nil:
		return t.takeStop(e.Stop)
	case e.Ways != nil:
		return t.takeWays(e.Ways)
	case e.Cut != nil:
		if s := t.Stop(*e.Cut); s != nil { // else it was made and cut away again before it was kept
			t.forget(s)
		}
	case e.Walk != nil:
		return t.takeWalk(e.Walk)
	}
	return nil
}

// forget takes a stop with all behind it out of the trail; the ways that lead there are
// told by other entries.
func (t *Trail) forget(s *Stop) {
	s.each(func(o *Stop) { t.stops[o.number] = nil })
	t.firsts = slices.DeleteFunc(t.firsts, func(f *Stop) bool { return f == s })
	gone := func(o *Stop) bool { return t.stops[o.number] != o }
	if s.parent != nil {
		s.parent.ways = slices.DeleteFunc(s.parent.ways, gone)
	}
	t.dropSteps(gone)
	if t.here != nil && gone(t.here) {
		t.here = s.parent
	}
}

func (t *Trail) takeStop(k *keptStop) error {
	const mostStops = 10_000_000
	if k.Number < 0 || k.Number > mostStops {
		return fmt.Errorf("a stop cannot have the number %d", k.Number)
	}
	s := t.Stop(k.Number)
	if s == nil {
		s = &Stop{number: k.Number}
		if k.Parent >= 0 {
			if s.parent = t.Stop(k.Parent); s.parent == nil {
				return fmt.Errorf("stop %d comes from stop %d, which is not there", k.Number, k.Parent)
			}
			s.parent.ways = append(s.parent.ways, s)
		} else {
			t.firsts = append(t.firsts, s)
		}
		for len(t.stops) <= k.Number {
			t.stops = append(t.stops, nil)
		}
		t.stops[k.Number] = s
	}
	s.View = View{Place: k.Place(), Top: k.Top, Left: k.Left}
	s.Came, s.How, s.Symbol, s.At, s.Seen, s.Memory, s.Fate = k.Came, k.How, k.What, k.At, k.Seen, k.Memory, k.Fate
	s.Inside, s.Name, s.Note, s.Starred, s.Edited = k.Inside, k.Name, k.Note, k.Starred, k.Edited
	return nil
}

func (t *Trail) takeWays(k *keptWays) error {
	s := t.Stop(k.Of)
	if s == nil {
		return fmt.Errorf("stop %d, whose ways are told, is not there", k.Of)
	}
	var ways []*Stop
	for _, n := range k.To {
		w := t.Stop(n)
		if w == nil {
			return fmt.Errorf("stop %d, to which a way leads, is not there", n)
		}
		ways = append(ways, w)
	}
	for _, w := range s.ways { // none of the tree may be lost
		if w.parent == s && !slices.Contains(ways, w) {
			ways = append([]*Stop{w}, ways...)
		}
	}
	s.ways = ways
	return nil
}

func (t *Trail) takeWalk(k *keptWalk) error {
	here := t.Stop(k.Here)
	if here == nil {
		return fmt.Errorf("stop %d, the present one, is not there", k.Here)
	}
	t.here, t.walk, t.ahead = here, t.steps(k.By), t.steps(k.Ahead)
	if n := len(t.walk); n == 0 || t.walk[n-1].Stop != here {
		t.walk = append(t.walk, Step{here, here.View})
	}
	return nil
}
