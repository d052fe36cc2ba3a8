package app

import (
	"strings"

	tea "charm.land/bubbletea/v2"

	"charm.land/bubbles/v2/textinput"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// keysPage is the page of keys: all of them by what they belong to, or those that what is typed
// leaves. Letters only narrow it; Enter does what is chosen.
type keysPage struct {
	input textinput.Model
	skip  int // how many lines of all keys are scrolled away
	list  sheet.Model
}

func (m *Model) openKeys() {
	m.overlay, m.keysPage = keysOverlay, keysPage{input: entry.New()}
}

// keysKey acts on a key, or what was pasted, while the page is open.
func (m *Model) keysKey(msg tea.Msg) tea.Cmd {
	s := &m.keysPage
	page := m.bodyHeight() - 2
	k, _ := msg.(tea.KeyPressMsg)
	switch name := k.String(); name {
	case "esc":
		if s.input.Value() == "" {
			m.closeOverlay()
		}
		s.input.Reset()
	case "enter":
		return m.takeKey()
	case "up":
		m.moveKeys(-1)
	case "down":
		m.moveKeys(1)
	case "pgup":
		m.moveKeys(-page)
	case "pgdown":
		m.moveKeys(page)
	case "home":
		m.moveKeys(-1 << 20)
	case "end":
		m.moveKeys(1 << 20)
	default:
		if name == "?" && s.input.Value() == "" {
			m.closeOverlay()
			return nil
		}
		before := s.input.Value()
		if s.input, _ = s.input.Update(msg); s.input.Value() != before {
			s.list.Set(m.matchingKeys(), 0)
		}
	}
	return nil
}

// moveKeys scrolls through all keys, or chooses among those that are left.
func (m *Model) moveKeys(by int) {
	s := &m.keysPage
	if s.input.Value() == "" {
		s.skip = max(s.skip+by, 0)
		return
	}
	s.list.Move(by)
}

// takeKey closes the page and does what was chosen; with nothing typed it only closes.
func (m *Model) takeKey() tea.Cmd {
	row, _, ok := m.keysPage.list.Chosen()
	if m.keysPage.input.Value() == "" {
		m.closeOverlay()
		return nil
	}
	if !ok {
		return nil
	}
	b := row.Value.(keymap.Binding)
	if b.Action == "" {
		m.say("%s works in %s", b.Labels(2), b.Group)
		return nil
	}
	m.closeOverlay()
	return m.do(b.Action, "")
}

// matchingKeys are the bindings whose words, group or keys hold all words that are typed.
func (m *Model) matchingKeys() []sheet.Section {
	words := strings.Fields(strings.ToLower(m.keysPage.input.Value()))
	var rows []sheet.Row
	for _, b := range m.keys {
		all := strings.ToLower(b.Title + " " + b.Group + " " + b.Labels(9))
		holds := true
		for _, w := range words {
			holds = holds && strings.Contains(all, w)
		}
		if holds {
			rows = append(rows, sheet.Row{What: b.Group, Name: b.Title, Key: b.Labels(2), Value: b})
		}
	}
	return []sheet.Section{{Title: "keys", Note: sheet.Number(len(rows)) + " of " + sheet.Number(len(m.keys)), Rows: rows}}
}

const keysPrompt = " keys for  "

// keysRows draws the page.
func (m *Model) keysRows() []string {
	p, s := m.palette(), &m.keysPage
	quiet, height := palette.On(p.Quiet, p.Sheet), m.bodyHeight()-2
	r := ink.NewRow(m.width).Put(keysPrompt, palette.On(p.Here, p.Sheet).Strong())
	r.Put(ink.CutFront(s.input.Value(), max(m.width-ink.Width(keysPrompt)-4, 4)), palette.On(p.Text, p.Sheet).Strong())
	rows := make([]string, 1, height+2)
	if s.input.Value() == "" {
		rows[0] = r.Put(" type some letters of what is to be done", quiet).String(quiet)
		page, lines := m.keys.Page(m.width, height, s.skip, p)
		if most := max(lines-height, 0); s.skip > most {
			s.skip = most
			page, _ = m.keys.Page(m.width, height, s.skip, p)
		}
		keys := [][2]string{{"Esc", "close"}}
		if lines > height {
			keys = append(keys, [2]string{"↑↓", "scroll"})
		}
		return append(append(rows, page...), sheet.Edge(m.width, keys, p))
	}
	rows[0] = r.String(quiet)
	rows = append(rows, s.list.Rows(m.width, height, p)...)
	if s.list.Len() == 0 && len(rows) > 2 {
		rows[2] = ink.NewRow(m.width).To(ink.Width(keysPrompt), quiet).Put("no key does that; Space looks among files and symbols, too", quiet).String(quiet)
	}
	return append(rows, sheet.Edge(m.width, [][2]string{{"Esc", "all keys"}, {"Enter", "do it"}, {"↑↓", "choose"}}, p))
}
