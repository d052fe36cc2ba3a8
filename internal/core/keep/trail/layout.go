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
	// Hidden is how many stops behind it are folded away, Skipped how many before it were
	// left out.
	Hidden, Skipped int
}

// Layout puts the stops on rows: where one comes by a fork, the side paths follow it, each
// set in, and then the way that leads to the present stop, or else the one taken last, goes
// on at the same depth. So a straight trail is straight, however long. Of the stops in
// folded only the side paths' beginnings are there. Of a long trail there are so many stops
// where one was last, and those that hold them together; what is left out is counted.
func (t *Trail) Layout(folded map[*Stop]bool, most int) []Row {
	shown := t.worthShowing(most)
	onWay := make([]bool, len(t.stops)) // by the numbers of the stops
	for s := t.here; s != nil; s = s.parent {
		onWay[s.number] = true
	}
	var rows []Row
	type open struct {
		stop    *Stop
		depth   int
		turns   bool
		skipped int
	}
	var todo []open
	for _, s := range slices.Backward(t.firsts) {
		todo = append(todo, open{stop: s})
	}
	for len(todo) > 0 {
		o := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		if shown != nil && shown[o.stop.number] == leftOut {
			if next := o.stop.onlyShown(shown); next != nil {
				todo = append(todo, open{next, o.depth, o.turns, o.skipped + 1})
			}
			continue
		}
		row := Row{Stop: o.stop, Depth: o.depth, Turns: o.turns, Skipped: o.skipped}
		if folded[o.stop] && !onWay[o.stop.number] {
			row.Hidden = o.stop.Count() - 1
			rows = append(rows, row)
			continue
		}
		rows = append(rows, row)
		branches := o.stop.ways
		if len(branches) > 1 {
			branches = o.stop.Branches()
		}
		main := o.stop.latest()
		for _, b := range branches {
			if b.parent == o.stop && onWay[b.number] {
				main = b
			}
		}
		if main != nil && (shown == nil || shown[main.number] != unseen) {
			todo = append(todo, open{stop: main, depth: o.depth})
		}
		for _, b := range slices.Backward(branches) {
			if b != main && b.parent == o.stop && (shown == nil || shown[b.number] != unseen) {
				todo = append(todo, open{stop: b, depth: o.depth + 1, turns: true})
			}
		}
	}
	return rows
}

// part says whether a stop of a long trail is drawn.
type part uint8

const (
	unseen  part = iota // neither it nor anything behind it
	leftOut             // something behind it, in one direction only
	drawn
)

// worthShowing chooses the stops of a long trail to draw: those where one was last, and the
// forks between them; nil for all.
func (t *Trail) worthShowing(most int) []part {
	if t.order.Len() <= most {
		return nil
	}
	shown := make([]part, len(t.stops))
	for _, s := range t.Latest(most, false) {
		shown[s.number] = drawn
	}
	for _, s := range t.Latest(most, false) {
		for p := s.parent; p != nil; p = p.parent {
			was := shown[p.number]
			if was == unseen {
				shown[p.number] = leftOut
				continue
			}
			if was == leftOut {
				shown[p.number] = drawn // a fork: something else behind it is drawn, too
			}
			break
		}
	}
	for _, f := range t.firsts {
		if shown[f.number] == leftOut {
			shown[f.number] = drawn
		}
	}
	return shown
}

// onlyShown is the one stop that one went on to behind which something is drawn.
func (s *Stop) onlyShown(shown []part) *Stop {
	for _, w := range s.ways {
		if w.parent == s && shown[w.number] != unseen {
			return w
		}
	}
	return nil
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
func (t *Trail) Latest(most int, edited bool) (found []*Stop) {
	for e := t.order.Front(); e != nil && len(found) < most; e = e.Next() {
		if s := e.Value.(*Stop); !edited || !s.Edited.IsZero() {
			found = append(found, s)
		}
	}
	return found
}

// Edited are the edit places in the order in which text was last changed at them.
func (t *Trail) Edited() []*Stop {
	all := t.Choose(Edits, "", time.Time{})
	slices.SortStableFunc(all, func(a, b *Stop) int { return a.Edited.Compare(b.Edited) })
	return all
}

// LastEdited is the edit place where text was changed last; nil if there is none.
func (t *Trail) LastEdited() (last *Stop) {
	for e := t.order.Front(); e != nil; e = e.Next() {
		if s := e.Value.(*Stop); !s.Edited.IsZero() && (last == nil || s.Edited.After(last.Edited)) {
			last = s
		}
	}
	return last
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
