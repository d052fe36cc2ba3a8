package keymap

import (
	"slices"
	"strings"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Page draws the keys page: every group with its keys, in as many columns as
// fit. skip is how many lines have been scrolled away; what it returns behind
// the rows is how many lines there are in all.
func (m Map) Page(width, height, skip int, p *palette.Palette) (rows []string, lines int) {
	columns := max(1, min(2, width/56))
	each := width / columns
	parts := m.columns(columns)
	for _, part := range parts {
		lines = max(lines, len(part))
	}
	blank, hint := palette.On(p.Text, p.Sheet), -1
	if room := lines + 3; skip == 0 && height >= room {
		hint = lines + 1
	}
	for i := skip; i < skip+height; i++ {
		r := ink.NewRow(width)
		if i == hint {
			r.To(3, blank).Put("No key has to be remembered: Space finds whatever can be done by what it does.", palette.On(p.Quiet, p.Sheet))
		}
		for c, part := range parts {
			r.To(c*each, blank)
			if i < len(part) {
				part[i].draw(r, c*each, (c+1)*each, p)
			}
		}
		rows = append(rows, r.String(blank))
	}
	return rows, lines
}

// line is a heading or a key with what it does.
type line struct{ heading, key, title string }

// keyColumns is how wide a key may be on the page.
const keyColumns = 17

// groups are those that there is a key in, in their order.
func (m Map) groups() []string {
	all := Groups()
	for _, b := range m {
		switch {
		case slices.Contains(all, b.Group):
		case strings.HasPrefix(b.Group, HereAndNow):
			all = slices.Insert(all, 0, b.Group)
		default:
			all = append(all, b.Group)
		}
	}
	return slices.DeleteFunc(all, func(g string) bool {
		return !slices.ContainsFunc(m, func(b Binding) bool { return b.Group == g && len(b.Keys) > 0 })
	})
}

// columns shares the groups out so that the columns are about equally long.
func (m Map) columns(n int) [][]line {
	var groups [][]line
	total := 0
	for _, g := range m.groups() {
		part := []line{{}, {heading: g}}
		for _, b := range m {
			if b.Group == g && len(b.Keys) > 0 {
				key := b.Labels(2)
				if ink.Width(key) > keyColumns { // one of them is enough
					key = b.Labels(1)
				}
				part = append(part, line{key: key, title: b.Title})
			}
		}
		total += len(part)
		groups = append(groups, part)
	}
	out := make([][]line, n)
	at := 0
	for _, g := range groups {
		if at < n-1 && len(out[at])+len(g)/2 > total/n {
			at++
		}
		out[at] = append(out[at], g...)
	}
	return out
}

func (l line) draw(r *ink.Row, from, to int, p *palette.Palette) {
	text := palette.On(p.Text, p.Sheet)
	if l.heading != "" {
		r.To(from+3, text).Put(l.heading, palette.On(p.Here, p.Sheet).Strong())
		return
	}
	if l.title == "" {
		return
	}
	r.To(from+3, text).Put(l.key, palette.On(p.Way, p.Sheet).Strong())
	r.To(from+3+keyColumns+1, text).Put(ink.Cut(l.title, to-from-23), text)
}
