package writing

import (
	"context"
	"strconv"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
)

// completing is the names that would go on what is typed.
type completing struct {
	asker *surface.Asker
	pen   *pen
	doc   *text.Document // of the text for which they were found
	typed int            // how many bytes of them are there already
	names []string
	at    int
}

func (c *completing) clear() { *c = completing{asker: c.asker} }

// Names are looked for when nothing was typed for so long, once so many letters are there.
const (
	completeAfter = 150 * time.Millisecond
	completeFrom  = 2
)

// Pressed says that a key was pressed: what was to be looked for by itself is not any more.
func (m *Model) Pressed() { m.names.asker.Cancel() }

// completeLater looks for names when nothing more is pressed for a moment.
func (m *Model) completeLater(p *pen) tea.Cmd {
	return surface.After(m.names.asker, completeAfter, func() surface.Intent {
		if p != m.pen() || !m.Writing() {
			return surface.Intent{}
		}
		return m.complete(p, false)
	})
}

// complete looks for the names that go on the word before the caret.
func (m *Model) complete(p *pen, asked bool) surface.Intent {
	word := p.Editor.WordBefore()
	least := completeFrom
	if asked {
		least = 1
	}
	if len([]rune(word)) < least {
		if asked {
			return surface.Say("type the beginning of a name; then its rest can be found")
		}
		return surface.Intent{}
	}
	project, doc, at, name := m.project, p.Editor.Document(), p.Editor.Main().At, p.Path
	return surface.Begin(surface.Ask(m.names.asker, func(ctx context.Context) []string {
		return project.Complete(ctx, name, doc, at, word)
	}, func(names []string) surface.Intent {
		if p.Editor.Document() != doc || !m.Writing() {
			return surface.Intent{}
		}
		m.names.clear()
		if len(names) > 0 {
			m.names = completing{asker: m.names.asker, pen: p, doc: doc, typed: len(word), names: names}
		} else if asked {
			return surface.Say("no name is known that begins so")
		}
		return surface.Intent{}
	}))
}

// Offering says whether names are offered for what stands before the caret.
func (m *Model) Offering() bool {
	c := &m.names
	return c.pen != nil && len(c.names) > 0 && c.pen == m.pen() && c.doc == c.pen.Editor.Document() && m.Writing()
}

// nameKey acts on a key while names are offered: Tab takes the chosen one, Ctrl+N and Ctrl+P
// choose, Esc sends them away. Any other key is for the text.
func (m *Model) nameKey(name string) (todo surface.Intent, taken bool) {
	c := &m.names
	switch {
	case keymap.Is(name, on.TakeName):
		return m.takeName(), true
	case keymap.Is(name, on.NextName):
		c.at = (c.at + 1) % len(c.names)
	case keymap.Is(name, on.NameBefore):
		c.at = (c.at + len(c.names) - 1) % len(c.names)
	case keymap.Is(name, on.NoName):
		c.clear()
	default:
		c.clear()
		return todo, false
	}
	return todo, true
}

// takeName writes the chosen name out.
func (m *Model) takeName() surface.Intent {
	c := &m.names
	p, before, whole, typed := c.pen, c.doc, c.names[c.at], c.typed
	c.clear()
	if word := p.Editor.WordBefore(); len(word) == typed && whole[:min(typed, len(whole))] != word {
		p.Editor.ReplaceWord(whole) // written otherwise, such as in small letters
	} else {
		p.Editor.Type(whole[min(typed, len(whole)):])
	}
	return m.wrote(p, before)
}

// NameRow offers names in the line above the strip, where they cover nothing that one reads.
func (m *Model) NameRow(width int, p *palette.Palette) string {
	c := &m.names
	quiet, key := palette.On(p.Quiet, p.Sheet), palette.On(p.Way, p.Sheet).Strong()
	r := ink.NewRow(width).Put(" Tab ", key)
	for i := range c.names {
		n := (c.at + i) % len(c.names)
		name := ink.Cut(c.names[n], 40)
		if r.Left() < ink.Width(name)+24 {
			break
		}
		st := palette.On(p.Text, p.Sheet)
		if i == 0 {
			st = palette.On(p.Here, p.Chosen).Strong()
			name = " " + name + " "
		}
		r.Put(name, st).Put("  ", quiet)
	}
	end := "Esc none "
	if len(c.names) > 1 {
		end = strconv.Itoa(c.at+1) + " of " + strconv.Itoa(len(c.names)) + "  Ctrl+N next  " + end
	}
	return r.End(end, quiet, quiet).String(quiet)
}
