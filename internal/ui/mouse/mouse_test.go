package mouse

import (
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// desk is a program with two views beside each other.
type desk struct {
	frame *frame.Frame
	caret int
}

func (d *desk) Plan() frame.Plan { return d.frame.Plan(false, false, 0) }
func (d *desk) Enter(side int) surface.Intent {
	d.frame.Focus(side)
	return surface.Intent{}
}
func (d *desk) Caret(offset int) surface.Intent {
	d.caret = offset
	return surface.Intent{Caret: true}
}

func begin() (*desk, *Model, *time.Time) {
	host := &uitest.Host{}
	f := frame.New(func() *surface.Asker { return host.Asker(nil) })
	f.Wish = frame.Plan{Width: 160, Height: 24, Signpost: frame.OneLine}
	d := &desk{frame: f}
	f.Code.Show(&codebase.File{Path: "a.txt", Text: text.NewDocument([]byte(strings.Repeat("the team goes out\n", 60)))}, trail.View{Place: place.Place{Path: "a.txt", Line: 1, Col: 1}})
	f.Split(false)
	f.Arrange(d.Plan())
	m := New(d, f)
	now := time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC)
	m.now = func() time.Time { return now }
	return d, m, &now
}

func click(x, y int) tea.MouseClickMsg {
	return tea.MouseClickMsg{X: x, Y: y, Button: tea.MouseLeft}
}

func TestClickingIntoTheCode(t *testing.T) {
	d, m, now := begin()
	assert.Equal(t, 1, d.frame.Number)
	todo := m.Code(click(8+4, 2+2)) // below the top line and the head of the view
	assert.Equal(t, 0, d.frame.Number, "the view one clicks into has the keys")
	assert.Equal(t, 2*len("the team goes out\n")+4, d.caret)
	assert.Empty(t, todo.Do)
	*now = now.Add(200 * time.Millisecond)
	assert.Equal(t, keymap.Follow, m.Code(click(12, 4)).Do, "a second one follows the name")
	assert.Empty(t, m.Code(click(12, 4)).Do, "a third is a first")
	*now = now.Add(time.Second)
	assert.Empty(t, m.Code(click(12, 4)).Do, "that was too long after")
	assert.Equal(t, surface.Intent{}, m.Code(click(12, 0)), "the top line is nothing to click on")

	m.Code(tea.MouseWheelMsg{X: 12, Y: 4, Button: tea.MouseWheelDown})
	first, _ := d.frame.By(0).Code.Shown()
	assert.Equal(t, 4, first)
	line, _ := d.frame.By(0).Code.Caret()
	assert.Equal(t, 1, line, "the caret stays")
}

func TestChoosingInAList(t *testing.T) {
	_, m, _ := begin()
	list := &choice.Surface{}
	rows := make([]choice.Row, 8)
	for i := range rows {
		rows[i].Row = sheet.Row{What: "hut", Name: strings.Repeat("i", i+1)}
	}
	list.Resize(60, 12)
	list.Open("huts", "go", rows)
	press := func(msg tea.MouseMsg) (pressed []string) {
		next := m.List(msg, list, 1)
		for k, ok := next(); ok; k, ok = next() {
			pressed = append(pressed, k.String())
			list.Update(k)
		}
		return pressed
	}
	assert.Equal(t, []string{"down", "down", "down"}, press(click(10, 5)))
	assert.Equal(t, []string{"enter"}, press(click(10, 5)), "the second takes it")
	assert.Equal(t, []string{"up"}, press(click(10, 4)))
	assert.Equal(t, []string{"down"}, press(tea.MouseWheelMsg{X: 1, Y: 1, Button: tea.MouseWheelDown}))
	assert.Empty(t, press(tea.MouseClickMsg{X: 10, Y: 5, Button: tea.MouseRight}))
}

func TestWhetherItIsWanted(t *testing.T) {
	env := func(pairs ...string) func(string) string {
		return func(name string) string {
			for i := 0; i < len(pairs); i += 2 {
				if pairs[i] == name {
					return pairs[i+1]
				}
			}
			return ""
		}
	}
	assert.True(t, Wanted("on", env("TMUX", "x")))
	assert.True(t, Wanted("auto", env("TERM", "xterm-256color")))
	assert.False(t, Wanted("auto", env("TMUX", "x")))
	assert.False(t, Wanted("auto", env("TERM", "screen.xterm")))
	assert.False(t, Wanted("off", env()))
}
