// Package learned is the page that says how far one is with the keys: which one knows, by how often one used
// them, which are worth learning next, and which one has not used yet.
package learned

import (
	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/page"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Surface is the page.
type Surface struct {
	page.Page
	keys   keymap.Map
	habits func() *habit.Book
	finder *keymap.Finder
}

// New makes the page of a key map; habits gives what was done with the program.
func New(keys keymap.Map, habits func() *habit.Book) *Surface {
	return &Surface{keys: keys, habits: habits}
}

// on are the keys that only this surface has.
var on = struct{ Take, Close key.Binding }{keymap.On("do it", "enter"), keymap.On("all keys, then close the page", "esc")}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "what one knows", keymap.Of(on, keymap.Moves)
}

// Commands are what opens the page.
func (s *Surface) Commands() surface.Commands {
	return surface.Commands{keymap.Learned: func() surface.Intent {
		s.finder = s.keys.Finder()
		s.Page.Open(words, s.sections(), 0)
		return surface.Intent{Open: s}
	}}
}

var words = page.Words{Prompt: " keys you know  ", Hint: "type some letters of what is to be done", None: "nothing is called so", About: 3}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, _ := msg.(tea.KeyPressMsg)
	name := k.String()
	switch {
	case s.Step(name):
	case keymap.Is(name, on.Close):
		if !s.Clear() {
			return surface.Close()
		}
		s.List.Set(s.sections(), 0)
	case keymap.Is(name, on.Take):
		if b, ok := s.chosen(); ok {
			return surface.Intent{Close: true, Do: b.Action, Named: true}
		}
	case s.Type(msg):
		s.List.Set(s.sections(), 0)
	}
	return surface.Intent{}
}

func (s *Surface) chosen() (b keymap.Binding, ok bool) {
	row, _, ok := s.List.Chosen()
	if !ok {
		return b, false
	}
	return row.Value.(keymap.Binding), true
}

// sections are the keys by how far one is with them, those that what is typed leaves.
func (s *Surface) sections() (all []sheet.Section) {
	byName := map[string]keymap.Binding{}
	var commands []habit.Command
	left := s.keys.WithKeys()
	if typed := s.Input.Value(); typed != "" {
		left = s.finder.Named(typed).WithKeys()
	}
	for _, b := range left {
		if b.Action != "" && byName[string(b.Action)].Action == "" {
			byName[string(b.Action)] = b
			commands = append(commands, habit.Command{Name: string(b.Action), Group: b.Group})
		}
	}
	l := s.habits().Learned(commands)
	for _, part := range []struct {
		title string
		all   []habit.Command
	}{{"worth learning next", l.Worth}, {"known", l.Known}, {"seldom used, or not yet", l.Others}} {
		if len(part.all) == 0 {
			continue
		}
		sec := sheet.Section{Title: part.title, Note: sheet.Count(len(part.all), "key", "keys")}
		for _, c := range part.all {
			b := byName[c.Name]
			sec.Rows = append(sec.Rows, sheet.Row{What: b.Group, Name: b.Title, Key: b.Labels(1), Value: b})
		}
		all = append(all, sec)
	}
	return all
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	return s.Draw(s.about(), [][2]string{keymap.Hint(on.Close, "close"), keymap.Hint(on.Take), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose")}, p)
}

// about says how often the chosen one was used, and would have been of use.
func (s *Surface) about() []page.Line {
	b, ok := s.chosen()
	if !ok {
		return nil
	}
	u := s.habits().Of(string(b.Action))
	used := "used " + times(u.Keyed) + " by its key"
	if u.Named > 0 {
		used += ", " + times(u.Named) + " by its name"
	}
	if u.Missed > 0 {
		used += "; it would have helped " + times(u.Missed)
	}
	return []page.Line{{}, {Words: used}, {Words: "Counted here, for you alone. Known is what was used " + times(habit.Known) + " by its key.", Quiet: true}}
}

func times(n int) string {
	switch n {
	case 0:
		return "never"
	case 1:
		return "once"
	}
	return sheet.Count(n, "time", "times")
}
