package scout

import (
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"slices"
)

// The lines of the sheet that are not for answers: the text line, and the hint
// at its lower edge.
const edges = 2

const prompt = "  find  "

// rows is how many lines there are for answers.
func (m *Model) rows() int { return max(m.Height-edges, 1) }

// sections shares the lines of the sheet out among the lanes: half of them to
// the first, the rest to the others, and what one does not need to those that
// can use it. A widened lane has them all, and more to scroll to.
func (m *Model) sections() []sheet.Section {
	var shown []lane
	for _, l := range m.lanes {
		if (len(l.rows) > 0 || l.title == laneText || l.title == lanePlaces && l.note != "") && (m.wide == "" || m.wide == l.title) {
			shown = append(shown, l)
		}
	}
	if len(shown) == 1 {
		l := shown[0]
		if m.wide == "" || l.groups == nil {
			return []sheet.Section{l.section(len(l.rows))}
		}
		head := l.section(len(l.rows))
		head.Rows = nil
		head.Note = sheet.Count(len(l.rows), "hit", "hits") + " in " + sheet.Count(len(l.groups), "file", "files") + "   " + l.note
		return append([]sheet.Section{head}, l.groups...)
	}
	shown = fitting(shown, m.rows()/2)
	free := max(m.rows()-len(shown), 0)
	shares := make([]int, len(shown))
	for i := range shown {
		share := free / max(len(shown)-i, 1)
		if i == 0 {
			share = (free + 1) / 2
		}
		shares[i] = min(share, len(shown[i].rows))
		free -= shares[i]
	}
	for i := range shown {
		more := min(max(free, 0), len(shown[i].rows)-shares[i])
		shares[i] += more
		free -= more
	}
	var out []sheet.Section
	for i, l := range shown {
		out = append(out, l.section(shares[i]))
	}
	return out
}

// fitting are those lanes for which there is room, each with its heading and a row: the last ones go first, but
// for that of the text, which comes late and is never only a guess.
func fitting(lanes []lane, most int) []lane {
	for i := len(lanes) - 1; i > 0 && len(lanes) > max(most, 1); i-- {
		if lanes[i].title != laneText {
			lanes = slices.Delete(slices.Clone(lanes), i, i+1)
		}
	}
	return lanes
}

func (l lane) section(rows int) sheet.Section {
	note := sheet.Number(len(l.rows))
	if l.full {
		note = "the best " + note
	}
	if len(l.rows) > rows {
		note += ", Tab shows all"
	}
	if l.note != "" {
		note += "   " + l.note
	}
	return sheet.Section{Title: l.title, Note: note, Rows: l.rows[:min(rows, len(l.rows))]}
}

// Rows implements surface.Surface.
func (m *Model) Rows(p *palette.Palette) []string {
	width := m.Width
	out := []string{m.inputRow(width, p)}
	if m.list.Len() == 0 {
		for _, s := range m.nothing() {
			quiet := palette.On(p.Quiet, p.Sheet)
			out = append(out, ink.NewRow(width).To(len(prompt), quiet).Put(s, quiet).String(quiet))
		}
	}
	out = append(out, m.list.Rows(width, max(m.Height-edges-(len(out)-1), 0), p)...)
	return append(out, m.hintRow(width, p))
}

// nothing says why the list is empty.
func (m *Model) nothing() []string {
	switch pr := m.finder.Progress(); {
	case m.input.Value() == "":
		return []string{"type some letters of a name"}
	case m.taking:
		return []string{"nothing so far"}
	case m.looking || m.reading:
		return []string{"looking …"}
	case !pr.Done:
		return []string{"nothing yet; the project is still being read"}
	case pr.Files == 0:
		return []string{"there is nothing to find: the project has no files"}
	default:
		return []string{"nothing has these letters in this order; take some away"}
	}
}

func (m *Model) inputRow(width int, p *palette.Palette) string {
	r := ink.NewRow(width)
	quiet := palette.On(p.Quiet, p.Sheet)
	typed, _ := m.input.Behind(prompt, width)
	r.Put(prompt, quiet).Put(typed, palette.On(p.Text, p.Sheet).Strong())
	if m.input.Value() == "" {
		r.Put("a file, a symbol, a command, or a line number", quiet)
	}
	if pr := m.finder.Progress(); !pr.Done && pr.Readable > 0 {
		if m.taking {
			r.Put("   goes there when all is read; Enter at once, Esc not", quiet)
		}
		r.End("read "+sheet.Number(pr.Read)+" of "+sheet.Count(pr.Readable, "file", "files")+"  ", quiet, quiet)
	}
	return r.String(quiet)
}

func (m *Model) hintRow(width int, p *palette.Palette) string {
	tab := "only this kind"
	if m.wide != "" {
		tab = "all kinds"
	}
	keys := [][2]string{keymap.Hint(keymap.Ends.Take, m.does()), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose"), keymap.Hint(on.Wide, tab), keymap.Hint(keymap.Ends.Close, "back as it was")}
	if m.list.Section() == laneText || m.wide == laneText {
		keys = append(keys, keymap.Hint(on.Keep, "keep all places of the text as a sweep"))
	}
	return sheet.Edge(width, keys, p)
}

// does says what Enter does with the chosen row.
func (m *Model) does() string {
	switch c, _ := m.Chosen(); {
	case c.Setting != "":
		return "show it"
	case c.Action != "":
		return "do it"
	}
	return "go there"
}

// Cursor implements surface.Surface.
func (m *Model) Cursor() (x, y int, ok bool) {
	_, x = m.input.Behind(prompt, m.Width)
	return x, 0, true
}
