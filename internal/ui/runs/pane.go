package runs

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	uv "github.com/charmbracelet/ultraviolet"

	"rooktrail/internal/core/report"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// edge is how many columns stand in front of what is printed: one for a mark, and a blank.
const edge = 2

// leadMark stands in front of a row that leads to a place of the project.
const leadMark = "›"

// Lines is how many rows the lower part of the screen takes, of so many; 0 if nothing is shown.
func (m *Model) Lines(of int) int {
	if m.shown == nil {
		return 0
	}
	return min(max(of*2/5+m.taller, least), max(of-leastCode, 0))
}

// The least there is of a run, and of the code above it.
const (
	least     = 4
	leastCode = 5
)

// Inside says whether keys go to what is run: never to what is seen to have ended, even if that was not taken note of yet.
func (m *Model) Inside() bool {
	return m.inside && m.shown != nil && m.shown.Standing().State == run.Running
}

// Arrange gives the run that is shown its size.
func (m *Model) Arrange(width, height int) {
	if m.shown != nil && height > 1 {
		m.shown.Resize(width-edge, height-1)
	}
}

// Key acts on a key while one is inside.
func (m *Model) Key(k tea.KeyPressMsg) surface.Intent {
	name, e := k.String(), m.shown
	switch {
	case keymap.Is(name, on.Out):
		return m.into()
	case keymap.Is(name, on.Shell):
		return m.shell()
	case keymap.Is(name, on.Up):
		return m.scroll(1)
	case keymap.Is(name, on.Down):
		return m.scroll(-1)
	case !e.Alive() && keymap.Is(name, keymap.Ends.Close):
		return m.into()
	case !e.Alive() && keymap.Is(name, keymap.Ends.Take):
		return m.repeat(e)
	case !e.Alive():
		if rows, ok := keymap.Step(name, 4, 0); ok {
			e.back = max(e.back-rows, 0)
			return surface.Intent{}
		}
		return surface.Say("it has ended: Enter runs it again, Esc leads back to the code")
	}
	e.back = 0
	e.Run.Key(uv.Key(k.Key()))
	return surface.Intent{}
}

// Paste has a text be typed into what is run.
func (m *Model) Paste(text string) { m.shown.Run.Paste(text) }

// title is what a run is called in a row.
func (e *entry) title() string {
	if e.Command.Title != "" {
		return e.Command.Title
	}
	return e.Command.Line
}

// became says in a word or two what became of a command.
func became(s run.Standing) string {
	switch {
	case s.State == run.Running && s.Stopped:
		return "ending"
	case s.State == run.Running:
		return "running"
	case s.State == run.Refused:
		return "not started: " + s.Why
	case s.Stopped:
		return "stopped"
	case s.State == run.Killed:
		return "ended by " + s.Why
	case s.Status == 127:
		return "no such command"
	case s.Status != 0:
		return "failed with " + strconv.Itoa(s.Status)
	}
	return "done"
}

// Lasted writes how long something took.
func Lasted(d time.Duration) string {
	switch {
	case d < 10*time.Second:
		return fmt.Sprintf("%.1f s", d.Seconds())
	case d < time.Minute:
		return fmt.Sprintf("%.0f s", d.Seconds())
	}
	return fmt.Sprintf("%d min %02d s", int(d.Minutes()), int(d.Seconds())%60)
}

// mostTitle is how much of a command line is said, in columns.
const mostTitle = 40

// Outcome says what became of a command.
func Outcome(line string, s run.Standing) string {
	words := ink.Cut(line, mostTitle) + ": " + became(s) + " after " + Lasted(s.Took)
	if s.Left {
		words += "; something it began still runs"
	}
	return words
}

// Rows draws what is run: a row that says what it is, and below it what it has printed.
func (m *Model) Rows(width, height int, p *palette.Palette) []string {
	if height < 1 || m.shown == nil {
		return nil
	}
	rows := []string{m.head(width, p)}
	blank := palette.On(p.Text, p.Sheet)
	v := m.shown.View(height-1, m.shown.back)
	for _, row := range v.Rows {
		rows = append(rows, m.row(row, width, p))
	}
	for len(rows) < height {
		rows = append(rows, ink.NewRow(width).String(blank))
	}
	return rows
}

// head is the row above what is run.
func (m *Model) head(width int, p *palette.Palette) string {
	e, s := m.shown, m.shown.Standing()
	rule, quiet := palette.On(p.Rule, p.Sheet), palette.On(p.Quiet, p.Sheet)
	name, state := palette.On(p.Text, p.Sheet).Strong(), quiet
	switch {
	case s.State == run.Running:
		state = palette.On(p.Here, p.Sheet)
	case s.Status != 0 || s.State != run.Ended:
		state = palette.On(p.Problem, p.Sheet).Strong()
	}
	words := became(s) + "  " + Lasted(s.Took)
	if s.Left {
		words += ", something of it still runs"
	}
	if e.led > 0 {
		words += "  " + sheet.Count(e.led, "place", "places")
	}
	if e.note != nil {
		words += "  " + e.note()
	}
	if n := m.others(); n > 0 {
		words += fmt.Sprintf("  and %d more", n)
	}
	hint := keymap.Hint(on.Out)[0] + " into it "
	switch {
	case s.State != run.Running:
		hint = ""
	case m.inside && e.Command.Shell:
		hint = keymap.Hint(on.Shell)[0] + " closes it "
	case m.inside:
		hint = keymap.Hint(on.Out)[0] + " back to the code "
	}
	if e.back > 0 {
		hint = "scrolled back  " + hint
	}
	r := ink.NewRow(width).Put("─ ", rule).Put(ink.Cut(e.title(), max(width-ink.Width(words)-ink.Width(hint)-10, 12)), name).Put("  ", rule).Put(ink.Cut(words, max(width/2, 20)), state).Put(" ", rule)
	if fill := r.Left() - ink.Width(hint) - 2; fill > 0 {
		r.Put(strings.Repeat("─", fill)+"  ", rule).Put(hint, quiet)
	}
	return r.String(rule)
}

// others is how many other commands still run.
func (m *Model) others() (n int) {
	for _, e := range m.runs {
		if e != m.shown && e.Alive() {
			n++
		}
	}
	return n
}

// row draws a row of what was printed.
func (m *Model) row(row run.Row, width int, p *palette.Palette) string {
	r := ink.NewRow(width)
	if f, ok := report.Line(row.Text()); ok && m.shown.leads[f.Path] {
		r.Put(leadMark+" ", palette.On(p.Way, p.Sheet).Strong())
	} else {
		r.To(edge, palette.On(p.Text, p.Sheet))
	}
	for _, piece := range row {
		r.Put(piece.Text, style(piece.Style, p))
	}
	return r.String(palette.On(p.Text, p.Sheet))
}

// Cursor is where the caret stands while one is inside, in cells from the upper left of the lower part.
func (m *Model) Cursor(height int) (x, y int, ok bool) {
	if !m.Inside() {
		return 0, 0, false
	}
	v := m.shown.View(height-1, m.shown.back)
	return v.X + edge, v.Y + 1, v.Y >= 0
}

// style is that of the palette for one of a terminal. What could not be read is drawn in another one.
func style(s run.Style, p *palette.Palette) ink.Style {
	out := ink.Style{Fore: p.Text, Back: p.Sheet, Bold: s.Bold, Underline: s.Underline}
	if s.Faint {
		out.Fore = p.Quiet
	}
	if c, ok := colorOf(s.Fore, p); ok {
		out.Fore = c
	}
	if c, ok := colorOf(s.Back, p); ok {
		out.Back = c
	}
	if p.Text == ink.None {
		out.Fore, out.Back, out.Inverse = ink.None, ink.None, s.Inverse || s.Back != 0
		return out
	}
	if s.Inverse {
		out.Fore, out.Back = out.Back, out.Fore
	}
	const readable = 3
	if ratio, known := ink.Contrast(out.Fore, out.Back); known && ratio < readable {
		out.Fore = p.Text
		if ratio, known := ink.Contrast(out.Fore, out.Back); known && ratio < readable {
			out.Fore = p.Ground
		}
	}
	return out
}

// colorOf is the colour of the palette for one of a terminal: the sixteen that have names are those of the palette.
func colorOf(c run.Color, p *palette.Palette) (ink.Color, bool) {
	if n, ok := c.Number(); ok {
		named := [...]ink.Color{p.Rule, p.Problem, p.Changed, p.Here, p.Keyword, p.Edit, p.Way, p.Text}
		switch {
		case n == 8:
			return p.Quiet, true
		case n < 16:
			return named[n%8], true
		}
		return ink.ANSI(n), true
	}
	if hex, ok := c.Hex(); ok {
		return ink.RGB(hex), true
	}
	return ink.None, false
}
