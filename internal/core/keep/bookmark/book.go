package bookmark

import (
	"path"
	"slices"
	"time"

	"rooktrail/internal/core/file/place"
)

// Book is all lists of a project. The zero Book is empty.
type Book struct {
	// Lists are one's own and those that are shared, in the order in which they were made.
	Lists []*List
	// undo are the bookmarks that were taken away, the latest last.
	undo []undone
	// dropped says that the list with which all programs begin was forgotten.
	dropped bool
}

type undone struct {
	list *List
	key  string
}

// Spot is a bookmark with the list it is in.
type Spot struct {
	List *List
	// Item is its number in the list.
	Item int
}

// Mark is the bookmark.
func (s Spot) Mark() *Mark { return &s.List.Marks[s.Item] }

// Present is the list one used last among one's own; nil if there is none.
func (b *Book) Present() (best *List) {
	for _, l := range b.Lists {
		if l.Shared == "" && (best == nil || l.Used.After(best.Used)) {
			best = l
		}
	}
	return best
}

// firstName is what the list is called that is begun by the first bookmark.
const firstName = "bookmarks"

// firstID is the same for all programs, so that two that begin at the same time begin one
// list.
const firstID = "first"

// Begin is the present list, which is made if there is none; made says if it was.
func (b *Book) Begin() (l *List, made bool) {
	if l = b.Present(); l != nil {
		return l, false
	}
	l = NewList(firstName)
	if !b.dropped {
		l.ID = firstID
	}
	b.Lists = append(b.Lists, l)
	return l, true
}

// Choose makes a list the present one.
func (b *Book) Choose(l *List) { l.Used = time.Now() }

// All are the bookmarks of all lists, those of the present list first.
func (b *Book) All() (all []Spot) {
	present := b.Present()
	add := func(l *List) {
		for _, i := range l.Shown() {
			all = append(all, Spot{l, i})
		}
	}
	if present != nil {
		add(present)
	}
	for _, l := range b.Lists {
		if l != present {
			add(l)
		}
	}
	return all
}

// TakeIn takes over lists as they are on disk now: what other programs have put there, taken away
// or changed. It gives the lists that have to be kept anew, since a letter stood at two
// bookmarks: the one it was given to last has it.
func (b *Book) TakeIn(lists []*List) (changed []*List) {
	known := map[string]*List{}
	for _, l := range b.Lists {
		known[l.ID+l.Shared] = l
	}
	for _, l := range lists {
		if own := known[l.ID+l.Shared]; own == nil {
			b.Lists = append(b.Lists, l)
		} else if l.Shared == "" {
			own.Merge(l)
		}
	}
	return b.oneLetterEach()
}

// oneLetterEach takes a letter off all bookmarks but the one it was given to last.
func (b *Book) oneLetterEach() (changed []*List) {
	last := map[string]Spot{}
	for _, s := range b.All() {
		letter := s.Mark().Letter
		if letter == "" || s.List.Shared != "" {
			continue
		}
		other, taken := last[letter]
		if !taken {
			last[letter] = s
			continue
		}
		if other.Mark().Touched.After(s.Mark().Touched) {
			other, s = s, other
		}
		last[letter] = s
		other.List.SetLetter(other.Item, "")
		if !slices.Contains(changed, other.List) {
			changed = append(changed, other.List)
		}
	}
	return changed
}

// Count is how many bookmarks of one's own there are.
func (b *Book) Count() (n int) {
	for _, l := range b.Lists {
		if l.Shared == "" {
			n += len(l.Shown())
		}
	}
	return n
}

// Holding is how many bookmarks there are in each file and folder.
func (b *Book) Holding() map[string]int {
	n := map[string]int{}
	for _, s := range b.All() {
		for p := s.Mark().Path; ; p = path.Dir(p) {
			n[p]++
			if p == "." || p == "/" {
				break
			}
		}
	}
	return n
}

// At are the bookmarks on a line.
func (b *Book) At(p place.Place) (all []Spot) {
	for _, l := range b.Lists {
		for i := range l.Marks {
			if m := &l.Marks[i]; !m.IsRemoved() && m.IsOn(p) {
				all = append(all, Spot{l, i})
			}
		}
	}
	return all
}

// Lettered is the bookmark of a letter; of several, as two programs may have set them, the
// one set last. ok is false if there is none.
func (b *Book) Lettered(letter string) (found Spot, ok bool) {
	for _, l := range b.Lists {
		if l.Shared != "" {
			continue
		}
		for i := range l.Marks {
			m := &l.Marks[i]
			if m.Letter == letter && letter != "" && !m.IsRemoved() && (!ok || m.Touched.After(found.Mark().Touched)) {
				found, ok = Spot{l, i}, true
			}
		}
	}
	return found, ok
}

// Remove takes a bookmark away, so that Undo brings it back.
func (b *Book) Remove(s Spot) {
	s.List.Remove(s.Item)
	b.undo = append(b.undo, undone{s.List, s.Mark().Key})
}

// Undo brings back the bookmark that was taken away last; ok is false if there is none.
func (b *Book) Undo() (s Spot, ok bool) {
	for len(b.undo) > 0 {
		last := b.undo[len(b.undo)-1]
		b.undo = b.undo[:len(b.undo)-1]
		if i := last.list.Find(last.key); i >= 0 && last.list.Marks[i].IsRemoved() && slices.Contains(b.Lists, last.list) {
			last.list.Restore(i)
			if other, taken := b.Lettered(last.list.Marks[i].Letter); taken && other != (Spot{last.list, i}) {
				last.list.SetLetter(i, "")
			}
			return Spot{last.list, i}, true
		}
	}
	return Spot{}, false
}

// MoveTo puts a bookmark at the end of another list.
func (b *Book) MoveTo(s Spot, to *List) {
	m := *s.Mark()
	m.Key = ""
	made := m.Made
	added := to.Add(m)
	added.Made = made
	s.List.Remove(s.Item)
	s.List.SetLetter(s.Item, "")
}

// Join puts all bookmarks of a list at the end of another. The first is left empty.
func (b *Book) Join(from, to *List) (n int) {
	for _, i := range from.Shown() {
		b.MoveTo(Spot{from, i}, to)
		n++
	}
	return n
}

// Drop takes a list away.
func (b *Book) Drop(l *List) {
	b.dropped = b.dropped || l.ID == firstID
	b.Lists = slices.DeleteFunc(b.Lists, func(o *List) bool { return o == l })
}

// Next is the bookmark behind a place in a list, or before it; it goes on from the other
// end, which round says. In list order, place is that of the bookmark one was at last.
func (l *List) Next(at string, here place.Place, forward bool) (i int, round, ok bool) {
	shown := l.Shown()
	shown = slices.DeleteFunc(shown, func(i int) bool { return l.Marks[i].Fate == place.Gone })
	if len(shown) == 0 {
		return 0, false, false
	}
	if l.ByFile {
		return l.nextByFile(shown, here, forward)
	}
	from := slices.IndexFunc(shown, func(i int) bool { return l.Marks[i].Key == at })
	step := 1
	if !forward {
		step = -1
		if from < 0 {
			from = 0
		}
	}
	next := (from + step + len(shown)) % len(shown)
	return shown[next], from >= 0 && (forward && next <= from || !forward && next >= from), true
}

func (l *List) nextByFile(shown []int, here place.Place, forward bool) (i int, round, ok bool) {
	at := &Mark{Memory: place.Memory{Anchor: place.Anchor{Path: here.Path, Line: here.Line}}}
	line := func(m *Mark) *Mark {
		return &Mark{Memory: place.Memory{Anchor: place.Anchor{Path: m.Path, Line: m.Line}}}
	}
	if forward {
		for _, i := range shown {
			if byPlace(line(&l.Marks[i]), at) > 0 {
				return i, false, true
			}
		}
		return shown[0], true, true
	}
	for _, i := range slices.Backward(shown) {
		if byPlace(line(&l.Marks[i]), at) < 0 {
			return i, false, true
		}
	}
	return shown[len(shown)-1], true, true
}
