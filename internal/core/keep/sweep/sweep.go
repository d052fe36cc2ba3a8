// Package sweep is kept lists of places to work through: each place with a mark of how
// far one is with it, found again by what stands there when the code has changed.
package sweep

import (
	"cmp"
	"crypto/rand"
	"path"
	"reflect"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/report"
)

// Mark says how far one is with a place.
type Mark string

// The marks.
const (
	Left  Mark = ""      // nothing was done yet
	Seen  Mark = "seen"  // one was there
	Done  Mark = "done"  // it is worked through
	Aside Mark = "aside" // it does not matter
)

// Item is a place of a sweep.
type Item struct {
	// Key names the item within its sweep.
	Key string `json:"key"`
	place.Memory
	Mark Mark `json:"mark,omitempty"`
	// Note is what one wrote on it, or what was said in the list it came from.
	Note string `json:"note,omitempty"`
	// Length is how many bytes from the place on are meant, such as a name; 0 if that
	// is not known.
	Length int `json:"length,omitempty"`
	// Role says in a word what is there, such as read or call; In is the function or
	// type around.
	Role string `json:"role,omitempty"`
	In   string `json:"in,omitempty"`
	// By is the tool that says what the note says; Fixes are what would mend it.
	By    string `json:"by,omitempty"`
	Fixes []Fix  `json:"fixes,omitempty"`
	// Fate is what became of the place when it was last looked for.
	Fate place.Fate `json:"fate,omitempty"`
	// New says that it was not there before the sweep was last refreshed, Settled
	// that it was no longer an answer then.
	New     bool `json:"new,omitempty"`
	Settled bool `json:"settled,omitempty"`
	// Touched is when the mark or the note was last changed.
	Touched time.Time `json:"touched,omitzero"`
}

// Fix is what a tool suggests at a place.
type Fix struct {
	// Title says what it does; it may be "".
	Title string `json:"title,omitempty"`
	Edits []Edit `json:"edits"`
}

// Edit puts a text in the place of another, which stood at an offset, in bytes, of a file of the project, on a line counted from 1.
type Edit struct {
	Path  string `json:"path"`
	Line  int    `json:"line"`
	Start int    `json:"start"`
	Was   string `json:"was"`
	Text  string `json:"text"`
}

// Most is how many places a sweep holds at the most: more than anybody works through, and not so many that keeping them takes all
// of the memory.
const Most = report.Most

// Kind is what a sweep was made of.
type Kind string

// The kinds.
const (
	OfWay     Kind = "way"     // the places to which a way leads from a name
	OfText    Kind = "text"    // what a search found
	OfUnused  Kind = "unused"  // the symbols that nothing refers to
	OfChanged Kind = "changed" // what differs from the last commit
	OfWrong   Kind = "wrong"   // what is wrong in the code
	OfList    Kind = "list"    // a list that was read in
	OfReport  Kind = "report"  // a report of another tool
	OfRun     Kind = "run"     // what a run printed
)

// Source is the question that a sweep answers, so that it can be asked again.
type Source struct {
	Kind Kind `json:"kind"`
	// Way is the name of the way, From the name from which it was gone.
	Way  string        `json:"way,omitempty"`
	From *place.Anchor `json:"from,omitempty"`
	// Query is what was looked for.
	Query *find.Query `json:"query,omitempty"`
	// Folder is where it was looked for.
	Folder string `json:"folder,omitempty"`
	// Rev is the commit with which it was compared, as it was asked for; "" for the last one.
	Rev string `json:"rev,omitempty"`
	// Command is the command line whose output it was, Folder where that was run.
	Command string `json:"command,omitempty"`
}

// Sweep is a list of places to work through.
type Sweep struct {
	// Version is that of the form in which it is kept.
	Version int    `json:"version"`
	ID      string `json:"id"`
	Name    string `json:"name"`
	Source  Source `json:"source"`
	// Made is when it was made, Named when its name was last changed, Used when one
	// last worked on it.
	Made  time.Time `json:"made"`
	Named time.Time `json:"named,omitzero"`
	Used  time.Time `json:"used,omitzero"`
	// Here is the key of the place one is at, "" before the first.
	Here  string `json:"here,omitempty"`
	Items []Item `json:"items"`
	// Folders are files and folders that were set aside as a whole, Released those
	// brought back since, each with when.
	Folders map[string]Setting `json:"folders,omitempty"`
}

// Setting says whether a file or folder is set aside, and since when that is so.
type Setting struct {
	Aside   bool      `json:"aside"`
	Touched time.Time `json:"touched"`
}

// New makes a sweep of places; they get their keys.
func New(name string, source Source, items []Item) *Sweep {
	now := time.Now()
	s := &Sweep{Version: Version, ID: strings.ToLower(rand.Text()[:10]), Name: name, Source: source, Made: now, Used: now, Items: items}
	for i := range s.Items {
		s.Items[i].Key = key()
	}
	return s
}

func key() string { return strings.ToLower(rand.Text()[:12]) }

// Clone is a copy that shares nothing with the sweep that is ever changed.
func (s *Sweep) Clone() *Sweep {
	c := *s
	c.Items = slices.Clone(s.Items)
	c.Folders = make(map[string]Setting, len(s.Folders))
	for f, at := range s.Folders {
		c.Folders[f] = at
	}
	return &c
}

// MarkOf is the mark of an item, its folders considered.
func (s *Sweep) MarkOf(i int) Mark {
	it := &s.Items[i]
	if it.Mark != Done && s.inAside(it.Path) {
		return Aside
	}
	return it.Mark
}

// inAside says whether the nearest of what was set aside or brought back around a file
// was set aside.
func (s *Sweep) inAside(file string) bool {
	if len(s.Folders) == 0 {
		return false
	}
	for at := file; ; at = path.Dir(at) {
		if set, ok := s.Folders[at]; ok {
			return set.Aside
		}
		if at == "." || at == "/" {
			return false
		}
	}
}

// IsLeft says whether an item is still to be worked through.
func (s *Sweep) IsLeft(i int) bool {
	it := &s.Items[i]
	m := s.MarkOf(i)
	return (m == Left || m == Seen) && !it.IsGone()
}

// IsGone says that there is nothing to go to any more.
func (it *Item) IsGone() bool { return it.Fate == place.Gone || it.Settled }

// Count is how many places there are of each sort.
type Count struct{ All, Left, Done, Aside, Gone, New int }

// Count counts the places.
func (s *Sweep) Count() Count {
	c := Count{All: len(s.Items)}
	for i := range s.Items {
		switch mark := s.MarkOf(i); {
		case mark == Done:
			c.Done++
		case mark == Aside:
			c.Aside++
		case s.Items[i].IsGone():
			c.Gone++
		default:
			c.Left++
		}
		if s.Items[i].New {
			c.New++
		}
	}
	return c
}

// At is the number of the item one is at; -1 before the first.
func (s *Sweep) At() int {
	return slices.IndexFunc(s.Items, func(it Item) bool { return it.Key == s.Here && s.Here != "" })
}

// Next is the number of the next item that is left; on the way back, of the one before
// that is not set aside. It goes on from the other end; ok is false if there is none,
// round is true if it began anew.
func (s *Sweep) Next(forward bool) (i int, round, ok bool) {
	n := len(s.Items)
	at := s.At()
	for step := 1; step <= n; step++ {
		if forward {
			i = (at + step) % n
			if !s.IsLeft(i) || i == at {
				continue
			}
			return i, at >= 0 && i <= at, true
		}
		i = ((max(at, 0)-step)%n + n) % n
		if s.Items[i].IsGone() || s.MarkOf(i) == Aside || i == at {
			continue
		}
		return i, i >= at, true
	}
	return 0, false, false
}

// Go makes an item the one one is at; one that was left becomes seen.
func (s *Sweep) Go(i int) {
	it := &s.Items[i]
	s.Here, s.Used = it.Key, time.Now()
	if it.Mark == Left {
		it.Mark, it.Touched = Seen, s.Used
	}
}

// SetMark marks an item.
func (s *Sweep) SetMark(i int, m Mark) {
	it := &s.Items[i]
	it.Mark, it.Touched = m, time.Now()
	s.Used = it.Touched
	if m != Aside && s.inAside(it.Path) { // it alone is brought back
		s.release(i)
	}
}

// release brings back the file of an item that was set aside as a whole; its other
// places stay aside each by itself.
func (s *Sweep) release(item int) {
	file, now := s.Items[item].Path, time.Now()
	for i := range s.Items {
		if o := &s.Items[i]; i != item && o.Path == file && o.Mark != Done {
			o.Mark, o.Touched = Aside, now
		}
	}
	s.Folders[file] = Setting{Aside: false, Touched: now}
}

// SetAside sets a file or a folder aside as a whole, or brings it back with all that is
// in it.
func (s *Sweep) SetAside(folder string, aside bool) {
	if s.Folders == nil {
		s.Folders = map[string]Setting{}
	}
	now := time.Now()
	s.Used = now
	s.Folders[folder] = Setting{Aside: aside, Touched: now}
	for f := range s.Folders {
		if Within(folder, f) && f != folder {
			s.Folders[f] = Setting{Aside: aside, Touched: now}
		}
	}
	if aside {
		return
	}
	for i := range s.Items {
		if it := &s.Items[i]; it.Mark == Aside && Within(folder, it.Path) {
			it.Mark, it.Touched = Left, now
		}
	}
}

// Within says whether a file is a folder or lies in it; "." holds everything.
func Within(folder, file string) bool {
	return folder == "." || file == folder || strings.HasPrefix(file, folder+"/")
}

// SetNote writes a note on an item, or takes it off with "".
func (s *Sweep) SetNote(i int, note string) {
	s.Items[i].Note, s.Items[i].Touched = note, time.Now()
	s.Used = s.Items[i].Touched
}

// Touch notes that one works on the sweep.
func (s *Sweep) Touch() { s.Used = time.Now() }

// SameQuestion says whether two sweeps answer the same question, which can be asked
// again.
func (s *Sweep) SameQuestion(other *Sweep) bool {
	a, b := &s.Source, &other.Source
	switch {
	case a.Kind != b.Kind || a.Way != b.Way || a.Folder != b.Folder || a.Rev != b.Rev || a.Command != b.Command:
		return false
	case a.Kind == OfText:
		return a.Query != nil && b.Query != nil && reflect.DeepEqual(a.Query, b.Query)
	case a.Kind == OfWay:
		return a.From != nil && b.From != nil && a.From.Path == b.From.Path && a.From.Text == b.From.Text && a.From.Col == b.From.Col && a.From.Symbol == b.From.Symbol
	}
	return a.Kind == OfUnused || a.Kind == OfChanged || a.Kind == OfWrong || a.Kind == OfRun
}

// Rename gives the sweep a name.
func (s *Sweep) Rename(name string) { s.Name, s.Named = name, time.Now() }

// Moved follows a file or folder that was given another path; it is false if nothing of the
// sweep is there.
func (s *Sweep) Moved(from, to string) (moved bool) {
	for i := range s.Items {
		if now := place.Renamed(s.Items[i].Path, from, to); now != s.Items[i].Path {
			s.Items[i].MoveTo(now)
			moved = true
		}
	}
	if f := s.Source.From; f != nil {
		if now := place.Renamed(f.Path, from, to); now != f.Path {
			at := *f
			at.Path = now
			s.Source.From, moved = &at, true
		}
	}
	for f, set := range s.Folders {
		if now := place.Renamed(f, from, to); now != f {
			delete(s.Folders, f)
			s.Folders[now] = set
			moved = true
		}
	}
	return moved
}

// Located takes over where the places are now from a copy of the sweep in which they
// were looked for.
func (s *Sweep) Located(found *Sweep) {
	where := map[string]*Item{}
	for i := range found.Items {
		where[found.Items[i].Key] = &found.Items[i]
	}
	for i := range s.Items {
		if it := where[s.Items[i].Key]; it != nil {
			s.Items[i].Memory, s.Items[i].Fate = it.Memory, it.Fate
		}
	}
}

// Follow takes over where some of its places are now that were as told before, and says whether
// any of them is elsewhere or reads otherwise.
func (s *Sweep) Follow(was, now []Item) (changed bool) {
	number := map[string]int{}
	for i := range was {
		number[was[i].Key] = i
	}
	for i := range s.Items {
		it := &s.Items[i]
		n, ok := number[it.Key]
		if !ok || it.Line != was[n].Line || it.Path != was[n].Path {
			continue
		}
		changed = changed || it.Line != now[n].Line || it.Text != now[n].Text || it.Fate != now[n].Fate
		it.Memory, it.Fate = now[n].Memory, now[n].Fate
	}
	return changed
}

// Refreshed takes the answers to the question of the sweep as it was asked again: what
// was there keeps its mark and note, what is new is marked so, and what is no longer
// among them is settled. The places of the sweep are to be located before. It says how
// many are new and how many settled.
func (s *Sweep) Refreshed(answers []Item) (fresh, settled int) {
	known := map[place.Place][]int{} // of which there may be several that say different things
	for i := range s.Items {
		if s.Items[i].Fate != place.Gone {
			at := s.Items[i].Place()
			known[at] = append(known[at], i)
		}
	}
	still := map[int]bool{}
	var all []Item
	for _, a := range answers {
		i, ok := s.answering(&a, known[a.Place()], still)
		if !ok {
			a.Key, a.New = key(), true
			all = append(all, a)
			fresh++
			continue
		}
		still[i] = true
		it := s.Items[i]
		it.Found(a.Anchor)
		it.Fate, it.Role, it.In, it.New, it.Settled = place.Same, a.Role, a.In, false, false
		all = append(all, it)
	}
	for i := range s.Items {
		if !still[i] {
			it := s.Items[i]
			if !it.IsGone() {
				settled++
			}
			it.Settled, it.New = true, false
			all = append(all, it)
		}
	}
	s.Items = inOrder(all, answers)
	return fresh, settled
}

// answering is which of the items at the place of an answer stands for it: the one that says the same, or else the first that stands
// for none yet.
func (s *Sweep) answering(a *Item, at []int, still map[int]bool) (i int, ok bool) {
	for _, same := range []bool{true, false} {
		for _, i := range at {
			if !still[i] && (!same || s.Items[i].Note == a.Note) {
				return i, true
			}
		}
	}
	return 0, false
}

// inOrder puts what is settled where it stood: behind the answers of its file.
func inOrder(all, answers []Item) []Item {
	rank := map[string]int{}
	for i, a := range answers {
		if _, ok := rank[a.Path]; !ok {
			rank[a.Path] = i
		}
	}
	of := func(it *Item) int {
		if r, ok := rank[it.Path]; ok {
			return r
		}
		return len(answers)
	}
	slices.SortStableFunc(all, func(a, b Item) int {
		return cmp.Or(cmp.Compare(of(&a), of(&b)), strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
	})
	return all
}

// Merge takes over what another program has changed in the same sweep: of each place
// the later mark and note, and the places that only the other has.
func (s *Sweep) Merge(other *Sweep) {
	mine := map[string]int{}
	for i := range s.Items {
		mine[s.Items[i].Key] = i
	}
	at := map[place.Place]bool{}
	for i := range s.Items {
		at[s.Items[i].Place()] = true
	}
	for _, o := range other.Items {
		i, ok := mine[o.Key]
		if !ok {
			if !at[o.Place()] {
				s.Items = append(s.Items, o)
			}
			continue
		}
		if it := &s.Items[i]; o.Touched.After(it.Touched) {
			it.Mark, it.Note, it.Touched = o.Mark, o.Note, o.Touched
		}
	}
	if other.Named.After(s.Named) {
		s.Name, s.Named = other.Name, other.Named
	}
	for f, set := range other.Folders {
		if mine, ok := s.Folders[f]; !ok || set.Touched.After(mine.Touched) {
			if s.Folders == nil {
				s.Folders = map[string]Setting{}
			}
			s.Folders[f] = set
		}
	}
	if other.Used.After(s.Used) {
		s.Used, s.Here = other.Used, other.Here
	}
}
