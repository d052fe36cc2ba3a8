// Package bookmark is lists of marked places that stay with the code: lines, symbols,
// files and folders, each with a note on why, and some with a letter to go there at once.
package bookmark

import (
	"cmp"
	"crypto/rand"
	"path"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/file/place"
)

// Kind is what a bookmark is on.
type Kind string

// The kinds.
const (
	Line   Kind = "line"
	Symbol Kind = "symbol" // goes with the name, whatever becomes of its line
	File   Kind = "file"
	Folder Kind = "folder"
)

// Mark is a bookmark.
type Mark struct {
	// Key names the bookmark, in whatever list it is.
	Key  string `json:"key"`
	Kind Kind   `json:"kind"`
	place.Memory
	// What is the qualified name of what the place is on or in, without the package.
	What string `json:"what,omitempty"`
	// Letter is the letter or digit by which one goes there at once; "" for none.
	Letter string `json:"letter,omitempty"`
	// Note says why it was set.
	Note string `json:"note,omitempty"`
	// Fate is what became of the place when it was last looked for.
	Fate place.Fate `json:"fate,omitempty"`
	Made time.Time  `json:"made"`
	// Touched is when it was last changed. Removed is when it was taken away, zero if it
	// was not: it is kept for a while, so that another program does not bring it back.
	Touched time.Time `json:"touched"`
	Removed time.Time `json:"removed,omitzero"`
}

// IsRemoved says that the bookmark was taken away.
func (m *Mark) IsRemoved() bool { return !m.Removed.IsZero() }

// IsOn says whether the bookmark is on a line of a file; those of files and folders are on
// none.
func (m *Mark) IsOn(p place.Place) bool {
	return m.Path == p.Path && m.Line == p.Line && (m.Kind == Line || m.Kind == Symbol) && m.Fate != place.Gone
}

// Title is what to call it: the symbol, or else the file or folder.
func (m *Mark) Title() string {
	if m.What != "" && m.Kind != File && m.Kind != Folder {
		return m.What
	}
	return path.Base(m.Path)
}

// List is a named list of bookmarks in an order.
type List struct {
	// Version is that of the form in which it is kept.
	Version int    `json:"version"`
	ID      string `json:"id"`
	Name    string `json:"name"`
	// Made is when it was begun, Named when its name was last changed, Used when one last
	// put something in it or chose it, Ordered when its order was last changed.
	Made    time.Time `json:"made"`
	Named   time.Time `json:"named,omitzero"`
	Used    time.Time `json:"used,omitzero"`
	Ordered time.Time `json:"ordered,omitzero"`
	// ByFile goes through the list in the order of files and lines.
	ByFile bool   `json:"by_file,omitempty"`
	Marks  []Mark `json:"marks"`

	// Shared is the file of the project in which the list lies that others share; "" for
	// one's own. A shared list is only read.
	Shared string `json:"-"`
}

func key() string { return strings.ToLower(rand.Text()[:12]) }

// NewList begins a list.
func NewList(name string) *List {
	now := time.Now()
	return &List{Version: Version, ID: strings.ToLower(rand.Text()[:10]), Name: name, Made: now, Used: now}
}

// Clone is a copy that shares nothing with the list that is ever changed.
func (l *List) Clone() *List {
	c := *l
	c.Marks = slices.Clone(l.Marks)
	return &c
}

// Shown are the numbers of the bookmarks that were not removed, in the order in which one
// goes through them.
func (l *List) Shown() (shown []int) {
	for i := range l.Marks {
		if !l.Marks[i].IsRemoved() {
			shown = append(shown, i)
		}
	}
	if l.ByFile {
		slices.SortStableFunc(shown, func(a, b int) int { return byPlace(&l.Marks[a], &l.Marks[b]) })
	}
	return shown
}

func byPlace(a, b *Mark) int {
	return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
}

// Find is the number of the bookmark of a key; -1 if there is none.
func (l *List) Find(key string) int {
	return slices.IndexFunc(l.Marks, func(m Mark) bool { return m.Key == key })
}

// Add puts a bookmark at the end.
func (l *List) Add(m Mark) *Mark {
	now := time.Now()
	if m.Key == "" {
		m.Key, m.Made = key(), now
	}
	m.Touched, m.Removed, l.Used = now, time.Time{}, now
	l.Marks = append(l.Marks, m)
	return &l.Marks[len(l.Marks)-1]
}

// Remove takes a bookmark away; Restore brings it back.
func (l *List) Remove(i int) { l.change(i, func(m *Mark) { m.Removed = time.Now() }) }

// Restore brings a bookmark back that was taken away.
func (l *List) Restore(i int) { l.change(i, func(m *Mark) { m.Removed = time.Time{} }) }

// SetLetter gives a bookmark a letter, or takes it off with "".
func (l *List) SetLetter(i int, letter string) { l.change(i, func(m *Mark) { m.Letter = letter }) }

// SetNote writes a note on a bookmark, or takes it off with "".
func (l *List) SetNote(i int, note string) {
	l.change(i, func(m *Mark) { m.Note = strings.TrimSpace(note) })
}

func (l *List) change(i int, how func(*Mark)) {
	how(&l.Marks[i])
	l.Marks[i].Touched = time.Now()
}

// Shift moves a bookmark up (-1) or down (1) among those that are shown; it is false at
// the ends.
func (l *List) Shift(i, by int) bool {
	shown := l.Shown()
	at := slices.Index(shown, i)
	if at < 0 || at+by < 0 || at+by >= len(shown) {
		return false
	}
	j := shown[at+by]
	l.Marks[i], l.Marks[j] = l.Marks[j], l.Marks[i]
	l.Ordered = time.Now()
	return true
}

// Rename gives the list a name.
func (l *List) Rename(name string) { l.Name, l.Named = strings.TrimSpace(name), time.Now() }

// SetByFile chooses the order in which one goes through the list.
func (l *List) SetByFile(by bool) { l.ByFile, l.Ordered = by, time.Now() }

// Moved follows a file or folder that was given another path; it is false if nothing of
// the list is there.
func (l *List) Moved(from, to string) (moved bool) {
	for i := range l.Marks {
		if now := place.Renamed(l.Marks[i].Path, from, to); now != l.Marks[i].Path {
			l.Marks[i].MoveTo(now)
			moved = true
		}
	}
	return moved
}

// Located takes over where the bookmarks are now from a copy of the list in which they were
// looked for; it is false if nothing has changed.
func (l *List) Located(found *List) (changed bool) {
	where := map[string]*Mark{}
	for i := range found.Marks {
		where[found.Marks[i].Key] = &found.Marks[i]
	}
	for i := range l.Marks {
		m := &l.Marks[i]
		if o := where[m.Key]; o != nil && !m.Touched.After(o.Touched) && (m.Place() != o.Place() || m.Fate != o.Fate || m.Text != o.Text) {
			m.Memory, m.Fate = o.Memory, o.Fate
			changed = true
		}
	}
	return changed
}

// forgetAfter is how long a bookmark is kept that was taken away.
const forgetAfter = 30 * 24 * time.Hour

// Merge takes over what another program has changed in the same list: of each bookmark the
// later state, and those that only the other has.
func (l *List) Merge(other *List) {
	mine := map[string]int{}
	for i := range l.Marks {
		mine[l.Marks[i].Key] = i
	}
	for _, o := range other.Marks {
		if i, ok := mine[o.Key]; !ok {
			l.Marks = append(l.Marks, o)
		} else if o.Touched.After(l.Marks[i].Touched) {
			l.Marks[i] = o
		}
	}
	if other.Ordered.After(l.Ordered) {
		l.ByFile, l.Ordered = other.ByFile, other.Ordered
		rank := map[string]int{}
		for i := range other.Marks {
			rank[other.Marks[i].Key] = i
		}
		of := func(m *Mark) int {
			if r, ok := rank[m.Key]; ok {
				return r
			}
			return len(rank)
		}
		slices.SortStableFunc(l.Marks, func(a, b Mark) int { return of(&a) - of(&b) })
	}
	if other.Named.After(l.Named) {
		l.Name, l.Named = other.Name, other.Named
	}
	if other.Used.After(l.Used) {
		l.Used = other.Used
	}
	l.Marks = slices.DeleteFunc(l.Marks, func(m Mark) bool { return m.IsRemoved() && time.Since(m.Removed) > forgetAfter })
}
