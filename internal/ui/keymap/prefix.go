package keymap

import (
	"strings"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// PrefixRow says which keys may follow the first key of two, in write or in roam.
func (m Map) PrefixRow(first string, write bool, width int, p *palette.Palette) string {
	key, quiet := palette.On(p.Way, p.Sheet).Strong(), palette.On(p.Text, p.Sheet)
	r := ink.NewRow(width).Put(" "+Label(first)+" … ", palette.On(p.Here, p.Sheet).Strong())
	for _, b := range m.After(first, write) {
		label := strings.TrimPrefix(b.Labels(1), Label(first)+" ")
		if b.Hint() != "" {
			label += " " + b.Hint()
		}
		if r.Left() < ink.Width(label)+3 {
			break
		}
		second, rest, _ := strings.Cut(label, " ")
		r.Put("  "+second, key)
		if rest != "" {
			r.Put(" "+rest, quiet)
		}
	}
	return r.End("Esc none ", quiet, quiet).String(quiet)
}
