package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/recovery"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/sheet"
)

// differMsg says that files that are written are not on disk as they were under these stamps.
type differMsg map[*pen]text.Stamp

// checkPens looks whether files that are written have changed on disk.
func (m *Model) checkPens() tea.Cmd {
	var all []*pen
	for _, p := range m.desk.pens {
		if p.editor.Changed() && !p.ground().differ && !p.saving {
			all = append(all, p)
		}
	}
	if len(all) == 0 {
		return nil
	}
	type known struct {
		path  string
		stamp text.Stamp
		base  *text.Document
	}
	was := map[*pen]known{}
	for _, p := range all {
		g := p.ground()
		was[p] = known{p.path, g.stamp, g.base}
	}
	ws := m.ws
	return func() tea.Msg {
		differ := differMsg{}
		for p, k := range was {
			if ws.Stamp(k.path) == k.stamp {
				continue
			}
			if d, err := text.Load(ws.Absolute(k.path)); err == nil && text.Same(d, k.base) {
				continue // touched, and the same
			}
			differ[p] = k.stamp
		}
		if len(differ) == 0 {
			return nil
		}
		return differ
	}
}

func (m *Model) differing(msg differMsg) tea.Cmd {
	for p, was := range msg {
		if p.editor.Changed() && !p.ground().differ && !p.saving && p.ground().stamp == was {
			p.ground().differ = true
			m.say("%s has changed on disk while you write in it; yours is kept, and Ctrl+S lets you choose", shortName(p.path))
		}
	}
	return nil
}

// comparison is two versions of a text that are compared: what is on disk, and what is written
// or was not saved.
type comparison struct {
	pen    *pen // of a file that has changed on disk
	base   *text.Document
	theirs *text.Document
	stamp  text.Stamp
	left   *recovery.Text // or of a text that was not saved
	file   *workspace.File
}

// compareMsg brings versions to be compared.
type compareMsg struct {
	comparison
	regions []write.Region
}

// askDiffering shows what is written beside what is on disk, to choose.
func (m *Model) askDiffering(p *pen) tea.Cmd {
	ws, mine, base := m.ws, p.editor.Document(), p.ground().base
	stamp := ws.Stamp(p.path)
	m.going = true
	name := p.path
	return func() tea.Msg {
		theirs, err := text.Load(ws.Absolute(name))
		if err != nil {
			return compareMsg{}
		}
		return compareMsg{comparison{pen: p, base: base, theirs: theirs, stamp: stamp}, write.Regions(base, mine, theirs)}
	}
}

// compare shows versions side by side.
func (m *Model) compare(msg compareMsg) tea.Cmd {
	switch {
	case msg.base == nil:
		m.say("the file on disk cannot be read; Ctrl+S once more writes yours there")
		if p := m.pen(); p != nil {
			p.ground().differ, p.asked = true, true
		}
		return m.arrived(nil)
	case len(msg.regions) == 0 && msg.pen != nil: // both have done the same
		p := msg.pen
		p.rest(msg.stamp, msg.theirs)
		p.editor.Saved(p.editor.State())
		m.say("what is on disk is the same as what you wrote")
		return m.arrived(nil)
	}
	m.remember()
	m.comparing, m.overlay = msg.comparison, compareOverlay
	title, right := shortName(m.comparing.path())+" has changed on disk while you wrote in it", "yours"
	if msg.left != nil {
		title, right = shortName(msg.left.Path)+" was not saved when the program ended", "not saved"
	}
	m.compareSheet.Open(title, "on disk", right, msg.base, msg.regions, m.sheetHeight())
	m.arrange()
	return m.arrived(nil)
}

func (c *comparison) path() string {
	if c.pen != nil {
		return c.pen.path
	}
	return c.left.Path
}

// compareUpdate hands a key to the comparison and acts on what came of it.
func (m *Model) compareUpdate(msg tea.Msg) tea.Cmd {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return nil
	}
	event := m.compareSheet.Key(k)
	if event == compare.Nothing {
		return nil
	}
	c, regions := m.comparing, m.compareSheet.Regions()
	cmd := m.restore()
	if event == compare.Closed {
		if c.left != nil {
			m.desk.left = append(m.desk.left, *c.left)
			m.say("the text that was not saved stays; Ctrl+E x shows it again")
		}
		return cmd
	}
	doc := write.Assemble(c.base, regions)
	if c.left != nil {
		left := *c.left
		left.Body = doc.Bytes()
		return tea.Batch(cmd, m.recovered(recoveredMsg{left, c.file, c.stamp}))
	}
	meet := 0
	for i := range regions {
		if regions[i].Take == write.Both {
			meet++
		}
	}
	return tea.Batch(cmd, m.merged(mergedMsg{pen: c.pen, doc: c.theirs.With(doc.Bytes()), theirs: c.theirs, stamp: c.stamp, meet: meet}))
}

// mergedMsg brings what is to stand in place of what is written.
type mergedMsg struct {
	pen         *pen
	doc, theirs *text.Document
	stamp       text.Stamp
	meet        int
}

func (m *Model) merged(msg mergedMsg) tea.Cmd {
	p := msg.pen
	before := p.editor.Document()
	p.editor.Replace(msg.doc)
	p.rest(msg.stamp, msg.theirs)
	p.editor.Lost()
	switch {
	case text.Same(msg.doc, msg.theirs):
		p.editor.Saved(p.editor.State())
		m.say("this is what is on disk; Ctrl+Z brings back what you wrote")
	case msg.meet > 0:
		m.say("brought together, not saved yet; in %s both versions stand, between marks like <<<<<<<", sheet.Count(msg.meet, "place", "places"))
	default:
		m.say("that stands here now; Ctrl+S saves it")
	}
	return m.rewrote(p, before)
}
