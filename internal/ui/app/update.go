package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/guard"
	"rooktrail/internal/ui/surface"
)

// Update implements tea.Model. If it fails, the program ends in order.
func (m *Model) Update(msg tea.Msg) (model tea.Model, cmd tea.Cmd) {
	defer func() {
		if r := recover(); r != nil {
			m.Failed(r)
			model, cmd = m, tea.Quit
		}
	}()
	if _, failed := msg.(guard.Ending); failed {
		return m, tea.Quit
	}
	cmd = tea.Batch(m.update(msg), m.settle(), m.way.Slow(m.asker, &m.line.waiting), m.seeLesson(), m.hunks.Watch(), m.problems.Watch(), m.tests.Watch())
	m.arrange()
	return m, m.Guarded(cmd)
}

func (m *Model) update(msg tea.Msg) tea.Cmd {
	switch msg := msg.(type) {
	case tea.WindowSizeMsg:
		m.frame.Wish.Width, m.frame.Wish.Height = msg.Width, msg.Height
		return m.rearranged()
	case tea.ColorProfileMsg:
		m.colors.Profile(msg.Profile)
	case tea.BackgroundColorMsg:
		m.colors.Dark(msg.IsDark())
	case tea.KeyPressMsg:
		return m.key(msg)
	case tea.MouseMsg:
		return m.pointed(msg)
	case tea.PasteMsg:
		return m.paste(msg)
	case surface.Answer:
		if todo, wanted := msg.Deliver(); wanted {
			return m.act(msg.From(), todo)
		}
	case editedMsg:
		return m.edited(msg)
	}
	return nil
}

// settle is called when something has happened: where one has arrived, it goes on with the keys that
// were pressed on the way.
func (m *Model) settle() tea.Cmd {
	var cmds []tea.Cmd
	for !m.going() {
		if m.line.message == m.line.waiting {
			m.line.message = ""
		}
		m.line.waiting = ""
		if b := m.from; b != nil { // nothing came of going on from there
			m.from = nil
			cmds = append(cmds, m.putBack(b))
		}
		if m.over == nil && m.before == nil && !m.frame.InLeaf() {
			cmds = append(cmds, m.act(nil, m.writing.KeepStance()))
		}
		if len(m.ahead) == 0 {
			cmds = append(cmds, m.act(nil, m.writing.OfferInTime()))
			break
		}
		next := m.ahead[0]
		m.ahead = m.ahead[1:]
		if next.do != "" {
			cmds = append(cmds, m.do(next.do, ""))
		} else {
			cmds = append(cmds, m.key(next.key))
		}
	}
	return tea.Batch(cmds...)
}

// going says that one is on the way somewhere: keys are meant for the place one arrives at. In the
// beginning one is on the way to the first file.
func (m *Model) going() bool {
	return !m.seen.shown || m.way.Waiting() || m.writing.Waits() || m.over != nil && m.over.Busy()
}

// act does what a surface wants to be done; from is nil for what the program does by itself. What a
// surface wants that is not on the screen, while another one is, is not done to that other one.
func (m *Model) act(from surface.Surface, i surface.Intent) tea.Cmd {
	mine := from == nil || from == m.over || m.over == nil
	if i.Say != "" {
		m.tell(i.Say)
	}
	if i.Wait != "" {
		m.tell(i.Wait)
		m.line.waiting = m.line.message
	}
	cmds := []tea.Cmd{i.Cmd}
	if i.Unkey {
		m.ahead = nil
	}
	m.ahead = append(steps(i.Steps), m.ahead...)
	if i.Did != "" {
		m.did(i.Did, false)
	}
	if m.over != nil && mine {
		cmds = append(cmds, m.takeAway(i))
	}
	if mine {
		cmds = append(cmds, m.move(i))
	}
	cmds = append(cmds, m.handOn(i), m.bringUpToDate(i))
	if i.Then != nil {
		cmds = append(cmds, m.act(from, i.Then()))
	}
	return tea.Batch(cmds...)
}

// takeAway takes what lies over the code away.
func (m *Model) takeAway(i surface.Intent) tea.Cmd {
	switch {
	case i.Uncover:
		return m.uncover(i.Press)
	case i.Close:
		return m.restore()
	case i.Leave:
		m.leaveOver()
	case i.Stay:
		m.closeOver()
	}
	return nil
}

// move opens surfaces, shows places and goes to them.
func (m *Model) move(i surface.Intent) tea.Cmd {
	var cmds []tea.Cmd
	if i.Open != nil {
		m.open(i.Open)
	}
	switch {
	case m.over == nil: // nothing is looked at then
	case i.Look != nil:
		cmds = append(cmds, m.lookAt(*i.Look))
	case i.LookBack:
		cmds = append(cmds, m.lookBack())
	}
	if i.Folder != "" {
		cmds = append(cmds, m.act(nil, m.folders.Show(i.Folder)))
	}
	if i.Go != nil {
		m.leaveOver()
		cmds = append(cmds, m.goTo(*i.Go))
	}
	if i.Do != "" {
		m.did(i.Do, i.Named)
		cmds = append(cmds, m.do(i.Do, ""))
	}
	return tea.Batch(cmds...)
}

// bringUpToDate does what follows from what has changed.
func (m *Model) bringUpToDate(i surface.Intent) tea.Cmd {
	var cmds []tea.Cmd
	if i.Moved.From != "" && i.Moved.To != "" {
		cmds = append(cmds, m.filesMoved(i.Moved.From, i.Moved.To))
	}
	if i.Through {
		m.search.Clear()
		m.hunks.Stop()
		m.problems.Stop()
	}
	if i.Arrange {
		cmds = append(cmds, m.rearranged())
	}
	if i.Follow != nil && m.before == nil && !m.frame.InLeaf() && m.frame.Code.File() != nil {
		m.frame.Code.Show(m.frame.Code.File(), *i.Follow)
		i.Caret = true
	}
	switch {
	case i.Caret:
		cmds = append(cmds, m.moved())
	case i.Slid:
		cmds = append(cmds, m.frame.Side.Repaint())
	}
	if i.Anew {
		m.kept.Forget()
		cmds = append(cmds, m.kept.LocateShown())
	}
	if i.Marked || i.Anew {
		m.kept.Show()
	}
	if i.Keep {
		cmds = append(cmds, m.keepState())
	}
	if i.Quit {
		cmds = append(cmds, m.quit())
	}
	return tea.Batch(cmds...)
}
