// Package mouse is what is done with the mouse, by who wants one: click, click twice, turn the wheel. There is
// nothing that keys do not do.
package mouse

import (
	"strings"
	"time"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/spoken"
	"rooktrail/internal/ui/surface"
)

// Host is the program around the code.
type Host interface {
	Plan() frame.Plan
	// Enter gives the keys to a side of the code.
	Enter(side int) surface.Intent
	// Caret puts the caret of the present side at a byte of its text, also where one writes.
	Caret(offset int) surface.Intent
}

// Model remembers where one clicked last.
type Model struct {
	host  Host
	frame *frame.Frame
	now   func() time.Time
	last  tea.Mouse
	when  time.Time
}

// New makes one for the sides of a frame.
func New(host Host, f *frame.Frame) *Model { return &Model{host: host, frame: f, now: time.Now} }

// Wanted says whether the mouse is listened to, by how that is set: on, off, or on but within another program
// that divides the terminal and has the mouse itself.
func Wanted(set string, getenv func(string) string) bool {
	switch set {
	case "on":
		return true
	case "auto":
		term := getenv("TERM")
		return getenv("TMUX") == "" && getenv("STY") == "" && !strings.HasPrefix(term, "screen") && !strings.HasPrefix(term, "tmux")
	}
	return false
}

// twice is how long it may take to click twice.
const twice = 400 * time.Millisecond

// again says whether a click is the second on the same place.
func (m *Model) again(at tea.Mouse) bool {
	is := m.last.X == at.X && m.last.Y == at.Y && m.now().Sub(m.when) < twice
	m.last, m.when = at, m.now()
	if is {
		m.when = time.Time{} // a third is a first
	}
	return is
}

// rowsOfWheel is by how many rows the wheel scrolls.
const rowsOfWheel = 3

// Code is what is done over the code: a click puts the caret there, a second one follows the name.
func (m *Model) Code(msg tea.MouseMsg) surface.Intent {
	at, plan := msg.Mouse(), m.host.Plan()
	y := at.Y - plan.Top()
	if plan.Leaf {
		if r := plan.LeafRect(); inside(r, at.X, y) {
			return wheel(msg, surface.Intent{Do: keymap.LeafUp}, surface.Intent{Do: keymap.LeafDown})
		}
	}
	for number, r := range plan.Layout() {
		if !inside(r, at.X, y) {
			continue
		}
		row := y - r.Y
		if plan.Headed() {
			row--
		}
		return m.side(msg, m.frame.By(number), at.X-r.X, row)
	}
	return surface.Intent{}
}

func inside(r panes.Rect, x, y int) bool {
	return r.X <= x && x < r.X+r.Width && r.Y <= y && y < r.Y+r.Height
}

// wheel is what the wheel does.
func wheel(msg tea.MouseMsg, up, down surface.Intent) surface.Intent {
	if _, is := msg.(tea.MouseWheelMsg); !is {
		return surface.Intent{}
	}
	switch msg.Mouse().Button {
	case tea.MouseWheelUp:
		return up
	case tea.MouseWheelDown:
		return down
	}
	return surface.Intent{}
}

// side is what is done over one side of the code.
func (m *Model) side(msg tea.MouseMsg, s *frame.Side, x, y int) surface.Intent {
	switch msg := msg.(type) {
	case tea.MouseWheelMsg:
		switch msg.Button {
		case tea.MouseWheelUp:
			s.Code.Slide(-rowsOfWheel)
		case tea.MouseWheelDown:
			s.Code.Slide(rowsOfWheel)
		}
		return surface.Begin(s.Repaint())
	case tea.MouseClickMsg:
		offset, ok := s.Code.OffsetAt(x, y)
		if !ok || msg.Button != tea.MouseLeft {
			return surface.Intent{}
		}
		todo := surface.Intent{}
		if s.Number != m.frame.Number {
			todo = m.host.Enter(s.Number)
		}
		todo = todo.And(m.host.Caret(offset))
		if m.again(msg.Mouse()) {
			todo.Do = keymap.Follow
		}
		return todo
	}
	return surface.Intent{}
}

// List is what is done over a list whose rows begin at a line of the screen: the keys that stand for it, to be
// pressed one after the other until there is none.
func (m *Model) List(msg tea.MouseMsg, s surface.Surface, top int) (press func() (k tea.KeyPressMsg, ok bool)) {
	at := msg.Mouse()
	switch msg := msg.(type) {
	case tea.MouseWheelMsg:
		return once(map[tea.MouseButton]string{tea.MouseWheelUp: nameOf(keymap.Moves.Up), tea.MouseWheelDown: nameOf(keymap.Moves.Down)}[msg.Button])
	case tea.MouseClickMsg:
		if msg.Button != tea.MouseLeft {
			return once("")
		}
		if again := m.again(at); again && chosen(s) == at.Y-top {
			return once(nameOf(keymap.Ends.Take))
		}
		return toward(s, at.Y-top)
	}
	return once("")
}

// nameOf is the first key of a binding.
func nameOf(b key.Binding) string { return b.Keys()[0] }

// once presses one key, or none.
func once(name string) func() (tea.KeyPressMsg, bool) {
	return func() (k tea.KeyPressMsg, ok bool) {
		if name == "" {
			return k, false
		}
		k = keyboard.Press(name)
		name = ""
		return k, true
	}
}

// toward presses up or down until the row at a line is chosen, or the line is passed.
func toward(s surface.Surface, line int) func() (tea.KeyPressMsg, bool) {
	way, left := "", 200
	return func() (k tea.KeyPressMsg, ok bool) {
		at := chosen(s)
		next := nameOf(keymap.Moves.Down)
		if at > line {
			next = nameOf(keymap.Moves.Up)
		}
		if left--; at < 0 || at == line || left < 0 || way != "" && way != next {
			return k, false
		}
		way = next
		return keyboard.Press(next), true
	}
}

// chosen is the line of a list on which its chosen row stands; -1 if there is none.
func chosen(s surface.Surface) int { return spoken.Chosen(spoken.Plain(s.Rows(&palette.Plain))) }
