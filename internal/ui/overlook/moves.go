package overlook

import (
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// along is where one went along lines from, and which of them was last.
type along struct {
	on, out  bool
	from, to int
	last     int
}

// move does what only moves; ok is false if the key does something else.
func (s *Surface) move(name string) (todo surface.Intent, ok bool) {
	tab := s.tab
	s.tab = along{}
	switch {
	case keymap.Is(name, on.Up):
		s.step(0, -1)
	case keymap.Is(name, on.Down):
		s.step(0, 1)
	case keymap.Is(name, on.Left):
		s.step(-1, 0)
	case keymap.Is(name, on.Right):
		s.step(1, 0)
	case keymap.Is(name, on.Along):
		s.tabbed(tab, true)
	case keymap.Is(name, on.Against):
		s.tabbed(tab, false)
	case keymap.Is(name, on.First):
		s.at = max(slices.IndexFunc(s.picture.Boxes, func(b draw.Box) bool { return b.Look == draw.Present }), 0)
	case keymap.Is(name, on.Last):
		s.at = len(s.picture.Boxes) - 1
	default:
		return s.scrolled(name)
	}
	s.typed = ""
	s.follow()
	return s.selected(), true
}

// scrolled scrolls, and leaves the chosen box where it is.
func (s *Surface) scrolled(name string) (todo surface.Intent, ok bool) {
	w, h := s.window()
	switch {
	case keymap.Is(name, on.PageUp):
		s.view.Y -= h - 2
	case keymap.Is(name, on.PageDown):
		s.view.Y += h - 2
	case keymap.Is(name, on.ScrollUp):
		s.view.Y -= 2
	case keymap.Is(name, on.ScrollDown):
		s.view.Y += 2
	case keymap.Is(name, on.ScrollLeft):
		s.view.X -= w / 3
	case keymap.Is(name, on.ScrollRight):
		s.view.X += w / 3
	default:
		return todo, false
	}
	s.bound()
	return todo, true
}

// window is how many cells of the picture are shown.
func (s *Surface) window() (w, h int) { return max(s.Width-2, 1), max(s.Lines()-3, 1) }

// most is how many lines it takes at the most: some are left for the code beneath.
func (s *Surface) most() int {
	const high, code = 20, 5
	if s.Height > high {
		return s.Height - code
	}
	return s.Height
}

// Lines implements surface.Short: what a small drawing does not need is left to the code beneath.
func (s *Surface) Lines() int {
	if s.picture == nil {
		return s.Height
	}
	_, h := s.full()
	return max(min(h+4, s.most()), min(10, s.Height))
}

// full is how large the picture is, with what stands below it.
func (s *Surface) full() (w, h int) {
	w, h = s.picture.Width, s.picture.Height
	foot := s.picture.Foot()
	for _, line := range foot {
		w = max(w, draw.CellsOf(line))
	}
	if len(foot) > 0 {
		h += len(foot) + 1
	}
	return w, h
}

// bound keeps the window on the picture.
func (s *Surface) bound() {
	w, h := s.window()
	fw, fh := s.full()
	s.view.X = max(min(s.view.X, fw-w), 0)
	s.view.Y = max(min(s.view.Y, fh-h), 0)
}

// follow scrolls as far as is needed for the chosen box to be in sight.
func (s *Surface) follow() {
	w, h := s.window()
	f := s.picture.Frames[s.at]
	s.view.X = min(max(s.view.X, f.X+f.W+2-w), max(f.X-2, 0))
	s.view.Y = min(max(s.view.Y, f.Y+f.H+1-h), max(f.Y-1, 0))
	s.bound()
}

// center shows the beginning of the picture, or the chosen box in the middle of the window, if it is not in sight there.
func (s *Surface) center() {
	w, h := s.window()
	s.view = draw.Point{}
	if f := s.picture.Frames[s.at]; f.X+f.W > w || f.Y+f.H > h {
		c := f.Center()
		s.view = draw.Point{X: c.X - w/2, Y: c.Y - h/2}
	}
	s.follow()
}

// step goes to the nearest box in a direction.
func (s *Surface) step(dx, dy int) {
	here := s.picture.Frames[s.at]
	best, least := -1, 0
	for i, f := range s.picture.Frames {
		if i == s.at {
			continue
		}
		if cost, ok := away(here, f, dx, dy); ok && (best < 0 || cost < least) {
			best, least = i, cost
		}
	}
	if best >= 0 {
		s.at = best
	}
}

// away is how far a box is from another one in a direction; ok is false if it does not lie there. A row counts as two
// columns, and what lies aside is farther.
func away(a, b draw.Frame, dx, dy int) (cost int, ok bool) {
	gapX, gapY := gap(a.X, a.W, b.X, b.W), 2*gap(a.Y, a.H, b.Y, b.H)
	ca, cb := a.Center(), b.Center()
	switch {
	case dx != 0:
		if (cb.X-ca.X)*dx <= 0 || gapX == 0 {
			return 0, false
		}
		return gapX + 3*gapY + abs(cb.Y-ca.Y), true
	case (cb.Y-ca.Y)*dy <= 0 || gapY == 0:
		return 0, false
	}
	return gapY + 2*gapX + abs(cb.X-ca.X)/4, true
}

func abs(n int) int { return max(n, -n) }

// gap is how much lies between two stretches; 0 if they overlap, 1 if they touch.
func gap(a, aLong, b, bLong int) int {
	if a > b {
		a, aLong, b, bLong = b, bLong, a, aLong
	}
	if b < a+aLong {
		return 0
	}
	return b - (a + aLong) + 1
}

// tabbed goes along the next of the lines of the box one went from.
func (s *Surface) tabbed(tab along, out bool) {
	if !tab.on || tab.out != out || tab.to != s.at {
		tab = along{on: true, out: out, from: s.at, last: -1}
	}
	ends := s.ends(tab.from, out)
	if len(ends) == 0 {
		ends = s.ends(tab.from, !out)
	}
	if len(ends) == 0 {
		return
	}
	tab.last = (tab.last + 1) % len(ends)
	s.at = ends[tab.last]
	tab.to = s.at
	s.tab = tab
}

// ends are the boxes at the other ends of the lines of one: those it leads to first, if out says so, then the others.
func (s *Surface) ends(of int, out bool) (all []int) {
	for _, l := range s.picture.Lines {
		end := -1
		switch {
		case l.From == l.To:
		case out && l.From == of:
			end = l.To
		case !out && l.To == of:
			end = l.From
		}
		if end >= 0 && !slices.Contains(all, end) {
			all = append(all, end)
		}
	}
	slices.SortStableFunc(all, func(a, b int) int {
		fa, fb := s.picture.Frames[a], s.picture.Frames[b]
		if s.picture.Down {
			return fa.X - fb.X
		}
		return fa.Y - fb.Y
	})
	return all
}

// jump goes to the next box that has what is typed in its name.
func (s *Surface) jump(typed string) surface.Intent {
	s.typed = typed
	for i := range s.picture.Boxes {
		at := (s.at + i) % len(s.picture.Boxes)
		if typed != "" && strings.Contains(strings.ToLower(s.picture.Boxes[at].Name), strings.ToLower(typed)) {
			s.at = at
			s.follow()
			return s.selected()
		}
	}
	return surface.Intent{}
}

// change does what draws it anew; ok is false if the key does something else.
func (s *Surface) change(name string) (todo surface.Intent, ok bool) {
	a := s.asked
	switch {
	case keymap.Is(name, on.Behind):
		return s.behind(), true
	case keymap.Is(name, on.More):
		a.Depth = a.Reach() + 1
	case keymap.Is(name, on.Less):
		if a.Depth = a.Reach() - 1; a.Depth < 1 {
			return surface.Say("it is one step deep already"), true
		}
	case keymap.Is(name, on.Larger), keymap.Is(name, on.Smaller):
		size := s.picture.Size + 1
		if keymap.Is(name, on.Smaller) {
			size = s.picture.Size - 1
		}
		if size > draw.Large { // which it is, too, below the smallest
			return surface.Say("there is no other size on that side"), true
		}
		s.size, s.sized = size, true
	case keymap.Is(name, on.Tests):
		a.Tests = !a.Tests
	case keymap.Is(name, on.Libraries):
		a.Libraries = !a.Libraries
	case keymap.Is(name, on.Since):
		if a.View != overlook.Imports {
			return surface.Say("only imports are compared with a commit"), true
		}
		if a.Since != "" {
			a.Since = ""
			break
		}
		if a.Since, _ = s.against(); a.Since == "" {
			a.Since = "HEAD"
		}
	case keymap.Is(name, on.Away):
		b := s.box()
		folder := path.Dir(b.Place.Path)
		if b.Place.Line == 0 {
			folder = b.Place.Path
		}
		if folder == "." || b.Place.Path == "" {
			return surface.Say("it is in no folder that could be left out"), true
		}
		a.Without = append(slices.Clone(a.Without), folder)
	case keymap.Is(name, on.Undo):
		if len(a.Without) == 0 {
			return surface.Say("no folder is left out"), true
		}
		a.Without = a.Without[:len(a.Without)-1]
	case keymap.Is(name, on.Group):
		a.Grouping = nextGrouping(a)
	case keymap.Is(name, on.Again):
	default:
		return surface.Intent{}, false
	}
	s.typed = ""
	return s.again(a), true
}

// nextGrouping is the next way in which boxes can stand together.
func nextGrouping(a overlook.Asked) overlook.Grouping {
	all := []overlook.Grouping{overlook.Ungrouped, overlook.ByFile, overlook.ByFolder}
	switch a.View {
	case overlook.Trail:
		all = []overlook.Grouping{overlook.Ungrouped, overlook.ByFile, overlook.ByDay}
	case overlook.Imports:
		all = all[:1]
	case overlook.Together:
		all = []overlook.Grouping{overlook.Ungrouped, overlook.ByFolder}
	}
	return all[(slices.Index(all, a.Grouping)+1)%len(all)]
}

// behind opens or closes what lies behind the chosen box.
func (s *Surface) behind() surface.Intent {
	b := s.box()
	if b == nil {
		return surface.Intent{}
	}
	a := s.asked
	a.Open, a.Closed = maps.Clone(a.Open), maps.Clone(a.Closed)
	if a.Open == nil {
		a.Open = map[string]bool{}
	}
	if a.Closed == nil {
		a.Closed = map[string]bool{}
	}
	s.typed = ""
	id := b.ID
	switch {
	case b.Hidden != 0:
		a.Open[id] = true
		delete(a.Closed, id)
	case a.View == overlook.Imports: // the folder that it lies in is closed
		if id = path.Dir(b.Place.Path); id == "." {
			return surface.Say("nothing lies behind it")
		}
		a.Closed[id] = true
		delete(a.Open, id)
	case a.View == overlook.Trail || a.View == overlook.Together:
		return surface.Say("nothing lies behind it")
	default:
		a.Closed[id] = true
		delete(a.Open, id)
	}
	return s.again(a)
}
