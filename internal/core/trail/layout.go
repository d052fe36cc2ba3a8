package trail

import (
	"slices"
	"time"
)

// Row is a stop as it stands in a drawing of the trail, one a line.
type Row struct {
	Stop *Stop
	// Depth is how many side paths it is in.
	Depth int
	// Turns says that a side path begins here: one turned off from the stop that stands
	// before the paths around.
	Turns bool
	// Hidden is how many stops behind it are folded away.
	Hidden int
}

// Layout puts all stops on rows: where one comes by a fork, the side paths follow it, each
// set in, and then the way that leads to the present stop, or else the one taken last, goes
// on at the same depth. So a straight trail is straight, however long. Of the stops in
// folded only the side paths' beginnings are there.
func (t *Trail) Layout(folded map[*Stop]bool) []Row {
	onWay := map[*Stop]bool{}
	for s := t.here; s != nil; s = s.parent {
		onWay[s] = true
	}
	var rows []Row
	type open struct {
		stop  *Stop
		depth int
		turns bool
	}
	var todo []open
	for _, s := range slices.Backward(t.firsts) {
		todo = append(todo, open{s, 0, false})
	}
	for len(todo) > 0 {
		o := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		row := Row{Stop: o.stop, Depth: o.depth, Turns: o.turns}
		if folded[o.stop] && !onWay[o.stop] {
			row.Hidden = o.stop.Count() - 1
			rows = append(rows, row)
			continue
		}
		rows = append(rows, row)
		branches := o.stop.Branches()
		main := o.stop.latest()
		for _, b := range branches {
			if onWay[b] {
				main = b
			}
		}
		if main != nil {
			todo = append(todo, open{main, o.depth, false})
		}
		for _, b := range slices.Backward(branches) {
			if b != main {
				todo = append(todo, open{b, o.depth + 1, true})
			}
		}
	}
	return rows
}

// Choice is which stops of a trail are shown.
type Choice uint8

// The choices.
const (
	Everything Choice = iota
	TheWay            // from the beginning to the present stop
	Starred
	Edits
	Today
	InFile
	choices
)

// String says which stops they are.
func (c Choice) String() string {
	return [...]string{"all", "the way here", "starred", "edit places", "since today", "this file"}[c]
}

// Next is the choice after this one, and after the last the first.
func (c Choice) Next() Choice { return (c + 1) % choices }

// Choose gives the stops of a choice, in the order in which one came to them; file is the
// one for InFile.
func (t *Trail) Choose(c Choice, file string, now time.Time) []*Stop {
	if c == TheWay {
		var way []*Stop
		for s := t.here; s != nil; s = s.parent {
			way = append(way, s)
		}
		slices.Reverse(way)
		return way
	}
	y, month, d := now.Date()
	midnight := time.Date(y, month, d, 0, 0, 0, 0, now.Location())
	return slices.DeleteFunc(t.All(), func(s *Stop) bool {
		switch c {
		case Starred:
			return !s.Starred
		case Edits:
			return s.Edited.IsZero()
		case Today:
			return s.At.Before(midnight) && s.Seen.Before(midnight)
		case InFile:
			return s.View.Place.Path != file
		}
		return false
	})
}

// Latest are the stops where one was last, the latest first, at most so many; edited leaves
// out those where nothing was changed.
func (t *Trail) Latest(most int, edited bool) []*Stop {
	var found []*Stop
	for _, s := range t.stops {
		if s == nil || edited && s.Edited.IsZero() {
			continue
		}
		found = append(found, s)
		if len(found) >= 4*most { // so that only the likely ones are sorted
			byTime(found, edited)
			found = found[:most]
		}
	}
	byTime(found, edited)
	return found[:min(most, len(found))]
}

func byTime(stops []*Stop, edited bool) {
	slices.SortStableFunc(stops, func(a, b *Stop) int {
		if edited {
			return b.Edited.Compare(a.Edited)
		}
		return b.Seen.Compare(a.Seen)
	})
}

// Edited are the edit places in the order in which text was last changed at them.
func (t *Trail) Edited() []*Stop {
	all := t.Choose(Edits, "", time.Time{})
	slices.SortStableFunc(all, func(a, b *Stop) int { return a.Edited.Compare(b.Edited) })
	return all
}

// Part copies some stops of a trail, so that they do not change any more; of those one came
// from there are copies as well.
func (t *Trail) Part(stops []*Stop) []*Stop {
	copies := map[*Stop]*Stop{}
	var copyOf func(s *Stop) *Stop
	copyOf = func(s *Stop) *Stop {
		if s == nil {
			return nil
		}
		if c := copies[s]; c != nil {
			return c
		}
		c := *s
		c.ways = nil
		copies[s] = &c
		return &c
	}
	out := make([]*Stop, len(stops))
	for i, s := range stops {
		out[i] = copyOf(s)
		for at := s; at.parent != nil; at = at.parent { // up to one that is copied already
			known := copies[at.parent] != nil
			copies[at].parent = copyOf(at.parent)
			if known {
				break
			}
		}
	}
	return out
}
