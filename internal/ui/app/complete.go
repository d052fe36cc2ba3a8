package app

import (
	"context"
	"strconv"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// completing is the names that would go on what is typed.
type completing struct {
	pen   *pen
	doc   *text.Document // of the text for which they were found
	typed int            // how many bytes of them are there already
	names []string
	at    int
}

// Names are looked for when nothing was typed for so long, once so many letters are there.
const (
	completeAfter = 150 * time.Millisecond
	completeFrom  = 2
)

// completeMsg says that nothing was typed for a moment.
type completeMsg struct {
	pen     *pen
	presses int // how many keys had been pressed
}

func (m *Model) completeLater(p *pen) tea.Cmd {
	number := m.presses
	return tea.Tick(completeAfter, func(time.Time) tea.Msg { return completeMsg{p, number} })
}

// completedMsg brings the names that would go on what is typed.
type completedMsg struct {
	pen   *pen
	doc   *text.Document
	typed int
	names []string
	asked bool
	// presses is how many keys had been pressed when they were asked for.
	presses int
}

// complete looks for the names that go on the word before the caret.
func (m *Model) complete(p *pen, asked bool) tea.Cmd {
	word := p.editor.WordBefore()
	least := completeFrom
	if asked {
		least = 1
	}
	if len([]rune(word)) < least {
		if asked {
			m.say("type the beginning of a name; then its rest can be found")
		}
		return nil
	}
	ws, doc, at, presses, name := m.ws, p.editor.Document(), p.editor.Main().At, m.presses, p.path
	return func() tea.Msg {
		return completedMsg{p, doc, len(word), ws.Complete(context.Background(), name, doc, at, word), asked, presses}
	}
}

// completed shows what was found, unless more was typed since.
func (m *Model) completed(msg completedMsg) tea.Cmd {
	if msg.pen.editor.Document() != msg.doc || msg.presses != m.presses || !m.isWriting() {
		return nil
	}
	m.names = completing{}
	if len(msg.names) > 0 {
		m.names = completing{msg.pen, msg.doc, msg.typed, msg.names, 0}
	} else if msg.asked {
		m.say("no name is known that begins so")
	}
	return nil
}

// offering says whether names are offered for what stands before the caret.
func (m *Model) offering() bool {
	c := &m.names
	return c.pen != nil && len(c.names) > 0 && c.pen == m.pen() && c.doc == c.pen.editor.Document() && m.isWriting()
}

// nameKey acts on a key while names are offered: Tab takes the chosen one, Ctrl+N and Ctrl+P
// choose, Esc sends them away. Any other key is for the text.
func (m *Model) nameKey(name string) (cmd tea.Cmd, taken bool) {
	c := &m.names
	switch name {
	case "tab":
		rest := c.names[c.at][min(c.typed, len(c.names[c.at])):]
		p, before := c.pen, c.doc
		whole := c.names[c.at]
		typed := c.typed
		m.names = completing{}
		if word := p.editor.WordBefore(); len(word) == typed && whole[:min(typed, len(whole))] != word {
			p.editor.ReplaceWord(whole) // written otherwise, such as in small letters
		} else {
			p.editor.Type(rest)
		}
		return m.wrote(p, before), true
	case "ctrl+n":
		c.at = (c.at + 1) % len(c.names)
	case "ctrl+p":
		c.at = (c.at + len(c.names) - 1) % len(c.names)
	case "esc":
		m.names = completing{}
	default:
		m.names = completing{}
		return nil, false
	}
	return nil, true
}

// nameRow offers names in the line above the strip, where they cover nothing that one reads.
func (m *Model) nameRow(p *palette.Palette) string {
	c := &m.names
	quiet, key := palette.On(p.Quiet, p.Sheet), palette.On(p.Way, p.Sheet).Strong()
	r := ink.NewRow(m.width).Put(" Tab ", key)
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
