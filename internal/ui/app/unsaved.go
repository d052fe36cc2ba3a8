package app

import (
	"context"
	"slices"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/recovery"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/sheet"
)

// loadLeft finds texts that were not saved when a program ended.
func (m *Model) loadLeft() tea.Cmd {
	store := m.ws.Recovery()
	if store == nil {
		return nil
	}
	return func() tea.Msg {
		left, err := store.Left()
		return leftMsg{left, err}
	}
}

// leftMsg brings texts that were not saved.
type leftMsg struct {
	left []recovery.Text
	err  error
}

// leftChoice is a row of the choice among them; all forgets every one.
type leftChoice struct {
	text      recovery.Text
	all, sure bool
}

func (m *Model) leftFound(msg leftMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.desk.left, m.desk.offer = msg.left, len(msg.left) > 0
	m.offerInTime()
	return nil
}

// offerInTime offers texts that were not saved as soon as something is on the screen and nothing
// else is going on: a sheet puts back what was there before.
func (m *Model) offerInTime() {
	if m.desk.offer && m.desk.begun && m.overlay == noOverlay && !m.going {
		m.offerFound()
	}
}

// offerFound offers texts that were not saved, unless one has begun to do something else by now,
// which the sheet would come in the way of.
func (m *Model) offerFound() {
	if m.presses == 0 || m.desk.taken {
		m.offerLeft()
		return
	}
	m.desk.offer = false
	m.say("%s not saved when the program ended; Ctrl+E x shows what was in %s", sheet.Count(len(m.desk.left), "text was", "texts were"), map[bool]string{true: "it", false: "them"}[len(m.desk.left) == 1])
}

// offerLeft offers texts that were not saved.
func (m *Model) offerLeft() {
	if len(m.desk.left) == 0 {
		m.say("no text is there that was not saved when the program ended")
		return
	}
	m.desk.offer = true
	var rows []sheet.Row
	for _, t := range m.desk.left {
		rows = append(rows, sheet.Row{What: "not saved", Name: t.Path, Where: "as of " + t.At.Local().Format("2 Jan 15:04:05") + ", " + sheet.Count(len(t.Body), "byte", "bytes"), Value: leftChoice{text: t}})
	}
	rows = append(rows, sheet.Row{What: "forget", Name: "all of these", Where: "they are gone then", Value: leftChoice{all: true}})
	m.openChoice("text was not saved when the program ended; Esc leaves it for later", "compare it", rows)
}

// takeLeft opens a text that was not saved, or forgets all of them.
func (m *Model) takeLeft(c leftChoice) tea.Cmd {
	cmd := m.restore()
	store, ws := m.ws.Recovery(), m.ws
	left := m.desk.left
	m.desk.offer = false
	if c.all && !c.sure {
		m.openChoice("forget all texts that were not saved? They are gone then", "do it", []sheet.Row{
			{What: "keep", Name: "no, offer them the next time", Value: leftChoice{}},
			{What: "forget", Name: "yes, for good", Value: leftChoice{all: true, sure: true}},
		})
		return cmd
	}
	if c.text.Path == "" && !c.all {
		return cmd
	}
	if c.all {
		m.desk.left = nil
		return tea.Batch(cmd, func() tea.Msg {
			for _, t := range left {
				if err := store.Drop(t); err != nil {
					return noteMsg(err.Error())
				}
			}
			return noteMsg("they are forgotten")
		})
	}
	m.desk.left = slices.DeleteFunc(slices.Clone(left), func(t recovery.Text) bool { return t.Path == c.text.Path && t.At.Equal(c.text.At) })
	m.desk.offer, m.desk.taken = len(m.desk.left) > 0, true // the others, after this one
	return tea.Batch(cmd, func() tea.Msg {
		f, err := ws.Load(context.Background(), c.text.Path)
		if err != nil {
			f = &workspace.File{Path: c.text.Path, Text: text.NewDocument(nil)}
		}
		left := c.text
		disk := f.Text
		base := disk // what both come from is not known of texts that an older program kept
		if left.Base != nil {
			base = disk.With(left.Base)
		}
		return compareMsg{comparison{base: base, theirs: disk, stamp: ws.Stamp(left.Path), left: &left, file: f}, write.Regions(base, disk.With(left.Body), disk)}
	})
}

// recoveredMsg brings a text that was not saved, with its file as that is on disk.
type recoveredMsg struct {
	text  recovery.Text
	file  *workspace.File
	stamp text.Stamp
}

func (m *Model) recovered(msg recoveredMsg) tea.Cmd {
	t := msg.text
	if m.desk.pens == nil {
		m.desk.pens = map[string]*pen{}
	}
	if old := m.desk.pens[t.Path]; old != nil && old.editor.Changed() {
		m.desk.left = append(m.desk.left, t)
		m.say("%s is being written in already; save that first, and Ctrl+E x shows this again", t.Path)
		return nil
	}
	p := newPen(msg.file, 0, msg.stamp)
	p.ground().differ = msg.stamp != t.Stamp && t.Base == nil // else it was brought together with what is on disk
	p.editor.Replace(msg.file.Text.With(t.Body))
	p.edits = 1
	m.desk.pens[t.Path] = p
	m.ws.Hold(t.Path, p.editor.Document())
	store := m.ws.Recovery()
	doc := p.editor.Document()
	k := t
	k.Base, k.Stamp = msg.file.Text.Bytes(), msg.stamp
	k.At = time.Now()        // if it is saved before it is kept, it is not kept any more
	keep := func() tea.Msg { // under this program's name, before that of the other goes
		err := store.Keep(k)
		if err == nil {
			err = store.Drop(t)
		}
		return failed(err)
	}
	p.kept = doc
	words := "this is the text that was not saved; Ctrl+Z shows the file as it is on disk, Ctrl+S saves"
	if p.ground().differ {
		words = "this is the text that was not saved; the file has changed on disk since, and Ctrl+S lets you choose"
	}
	return tea.Batch(keep, m.takeIn(p), m.open(opening{path: t.Path, line: max(t.Line, 1), col: max(t.Col, 1), how: "not saved", after: words}))
}
