package app

import (
	"strings"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
)

// letterLine asks for the letter of a bookmark.
func (m *Model) letterLine(p *palette.Palette) string {
	quiet := palette.On(p.Text, p.Sheet)
	r := ink.NewRow(m.width).Put(" M … ", palette.On(p.Here, p.Sheet).Strong())
	return r.Put(ink.Cut(m.letterWords(), r.Left()-11), quiet).End("Esc none ", quiet, quiet).String(quiet)
}

// prefixLine says which keys may follow the one that was pressed.
func (m *Model) prefixLine(p *palette.Palette) string {
	key, quiet := palette.On(p.Way, p.Sheet).Strong(), palette.On(p.Text, p.Sheet)
	r := ink.NewRow(m.width).Put(" "+keymap.Label(m.prefix)+" … ", palette.On(p.Here, p.Sheet).Strong())
	for _, b := range m.keys.After(m.prefix, m.isWriting()) {
		label := strings.TrimPrefix(b.Labels(1), keymap.Label(m.prefix)+" ")
		if b.Hint() != "" {
			label += " " + b.Hint()
		}
		if r.Left() < ink.Width(label)+3 {
			break
		}
		first, rest, _ := strings.Cut(label, " ")
		r.Put("  "+first, key)
		if rest != "" {
			r.Put(" "+rest, quiet)
		}
	}
	return r.End("Esc none ", quiet, quiet).String(quiet)
}
