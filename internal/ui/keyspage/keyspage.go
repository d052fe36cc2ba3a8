// Package keyspage is the page of keys: all of them by what they belong to, or those that what is
// typed leaves. Letters only narrow it; Enter does what is chosen.
package keyspage

import (
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Surface is the page.
type Surface struct {
	surface.Size
	all    func() keymap.Map
	here   func() surface.Here
	file   string // the one on the screen when the page was opened
	keys   keymap.Map
	finder *keymap.Finder // of the keys, made when it is first asked for
	input  entry.Line
	skip   int // how many lines of all keys are scrolled away
	list   sheet.Model
	keeper *Keeper
	listen listen
}

// New makes a page of keys; all gives them, and those of the keeper can be changed. here is what is on the screen.
func New(all func() keymap.Map, here func() surface.Here, keeper *Keeper) *Surface {
	return &Surface{all: all, here: here, keeper: keeper, input: entry.New()}
}

// Commands are what opens the page.
func (s *Surface) Commands() surface.Commands {
	return surface.Commands{keymap.Keys: func() surface.Intent {
		s.file = s.here().View.Place.Path
		s.keys, s.finder, s.input, s.skip, s.list, s.listen = s.all(), nil, entry.New(), 0, sheet.Model{}, listen{}
		return surface.Intent{Open: s}
	}}
}

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Whole }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	page := s.Height - 2
	k, _ := msg.(tea.KeyPressMsg)
	switch name := k.String(); {
	case s.listen.what != nothing:
		return s.heard(name)
	case keymap.Is(name, on.Press):
		return s.begin(telling)
	case keymap.Is(name, on.Give):
		return s.begin(giving)
	case keymap.Is(name, on.Away):
		return s.deliver()
	case keymap.Is(name, on.Close):
		if s.input.Value() == "" {
			return surface.Close()
		}
		s.input.Reset()
	case keymap.Is(name, on.Take):
		return s.take()
	case keymap.Is(name, on.Up):
		s.move(-1)
	case keymap.Is(name, on.Down):
		s.move(1)
	case keymap.Is(name, on.PageUp):
		s.move(-page)
	case keymap.Is(name, on.PageDown):
		s.move(page)
	case keymap.Is(name, on.First):
		s.move(-1 << 20)
	case keymap.Is(name, on.Last):
		s.move(1 << 20)
	default:
		if keymap.Is(name, on.Again) && s.input.Value() == "" {
			return surface.Close()
		}
		if s.input.Edit(msg) {
			s.list.Set(s.matching(), 0)
		}
	}
	return surface.Intent{}
}

// move scrolls through all keys, or chooses among those that are left.
func (s *Surface) move(by int) {
	if s.input.Value() == "" {
		_, lines := s.keys.Page(s.Width, 1, 0, &palette.Plain)
		s.skip = min(max(s.skip+by, 0), max(lines-(s.Height-2), 0))
		return
	}
	s.list.Move(by)
}

// take closes the page and does what was chosen; with nothing typed it only closes.
func (s *Surface) take() surface.Intent {
	if s.input.Value() == "" {
		return surface.Close()
	}
	row, _, ok := s.list.Chosen()
	if !ok {
		return surface.Intent{}
	}
	b := row.Value.(keymap.Binding)
	if b.Action == "" {
		return surface.Say("%s works in %s", b.Labels(2), b.Group)
	}
	return surface.Intent{Close: true, Do: b.Action, Named: true}
}

// matching are the bindings that what is typed names.
func (s *Surface) matching() []sheet.Section {
	all := s.everywhere()
	if s.finder == nil {
		s.finder = all.Finder()
	}
	var rows []sheet.Row
	for _, b := range s.finder.Named(s.input.Value()) {
		rows = append(rows, sheet.Row{What: b.Group, Name: b.Title, Key: b.Labels(2), Value: b})
	}
	return []sheet.Section{{Title: "keys", Note: sheet.Number(len(rows)) + " of " + sheet.Number(len(all)), Rows: rows}}
}

// everywhere are the keys without those of the group of here and now, which are among the others, too.
func (s *Surface) everywhere() keymap.Map {
	return slices.DeleteFunc(slices.Clone(s.keys), func(b keymap.Binding) bool { return strings.HasPrefix(b.Group, keymap.HereAndNow) })
}

const prompt = " keys for  "

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet, height := palette.On(p.Quiet, p.Sheet), s.Height-2
	typed, _ := s.input.Behind(prompt, s.Width)
	r := ink.NewRow(s.Width).Put(prompt, palette.On(p.Here, p.Sheet).Strong()).Put(typed, palette.On(p.Text, p.Sheet).Strong())
	if words := s.listen.words(s.held(), s.ending()); words != "" {
		r = ink.NewRow(s.Width).Put("  "+words, palette.On(p.Here, p.Sheet).Strong())
	}
	if s.input.Value() == "" {
		if s.listen.what == nothing {
			r.Put(" type some letters of what is to be done", quiet)
		}
		rows := []string{r.String(quiet)}
		page, lines := s.keys.Page(s.Width, height, s.skip, p)
		if most := max(lines-height, 0); s.skip > most { // the window is larger than when it was scrolled
			page, _ = s.keys.Page(s.Width, height, most, p)
		}
		keys := [][2]string{keymap.Hint(on.Close, "close"), keymap.Hint(on.Press, "what does a key do"), keymap.Hint(on.Away, "all as delivered")}
		if lines > height {
			keys = append(keys, keymap.Both(on.Up, on.Down, "scroll"))
		}
		return append(append(rows, page...), sheet.Edge(s.Width, keys, p))
	}
	rows := append([]string{r.String(quiet)}, s.list.Rows(s.Width, height, p)...)
	if s.list.Len() == 0 && len(rows) > 2 {
		rows[2] = ink.NewRow(s.Width).To(ink.Width(prompt), quiet).Put("no key does that; Space looks among files and symbols, too", quiet).String(quiet)
	}
	return append(rows, sheet.Edge(s.Width, [][2]string{keymap.Hint(on.Close, "all keys"), keymap.Hint(on.Take, "do it"), keymap.Hint(on.Give, "give it a key"), keymap.Hint(on.Away, "its delivered keys"), keymap.Hint(on.Press, "what does a key do"), keymap.Both(on.Up, on.Down, "choose")}, p))
}

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) {
	if s.listen.what != nothing {
		return 0, 0, false // nothing is typed
	}
	_, x = s.input.Behind(prompt, s.Width)
	return x, 0, true
}
