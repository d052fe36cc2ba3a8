// Package strip draws the trail around the present stop on the two lines at
// the foot of the screen: the way one is on, and where one turned off it.
package strip

import (
	"path"
	"strconv"
	"strings"

	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// The pieces between stops.
const (
	ahead = " ── "
	forks = " ─┬─ "
	// editMark stands behind a stop where text was changed.
	editMark = "✎"
	// longestName is how much of a name that one gave to a stop is drawn, in columns.
	longestName = 24
	// leastPiece is how many columns a stop takes at least, with what leads to it.
	leastPiece = 7
	// counts is how many columns it takes at the most to say how many stops there are besides.
	counts = 12
	// mostCounted is how far the stops of another way are counted.
	mostCounted = 1000
)

// piece is a stop on the upper line with what leads to it.
type piece struct {
	step  trail.Step
	join  string // what stands in front of it
	label string
	other *trail.Stop // another way from the stop before, if that is a fork
	more  int         // how many further ways there are from there
}

func (p piece) width() int { return ink.Width(p.join) + ink.Width(p.label) }

// Rows draws the two lines.
func Rows(t *trail.Trail, width int, p *palette.Palette) [2]string {
	quiet := palette.On(p.Quiet, p.Ground)
	upper, lower := ink.NewRow(width), ink.NewRow(width)
	upper.Put(" trail  ", quiet)
	path := t.Path(width / leastPiece)
	stops, here := withoutRepeats(path.Steps, path.Here)
	if len(stops) == 0 {
		return [2]string{upper.String(quiet), lower.String(quiet)}
	}
	columns := width - upper.Used() - counts
	pieces := piecesOf(stops, here, columns-ink.Width(ahead+"[]"))
	from, to := window(pieces, here, columns)
	if before := from + path.Before; before > 0 {
		upper.Put(strconv.Itoa(before)+" before …", quiet)
	}
	for i := from; i < to; i++ {
		draw(pieces[i], i, here, i == from, upper, lower, p)
	}
	if rest := len(pieces) - to + path.Ahead; rest > 0 {
		upper.Put(" … "+strconv.Itoa(rest)+" ahead", quiet)
	}
	return [2]string{upper.String(quiet), lower.String(quiet)}
}

// withoutRepeats leaves out what going to and fro between two stops repeats: of a way from one to the
// other, back, and to the other again, only the last half is drawn.
func withoutRepeats(steps []trail.Step, here int) ([]trail.Step, int) {
	var out []trail.Step
	at := here
	for i, s := range steps {
		out = append(out, s)
		n := len(out)
		if n >= 4 && out[n-1].Stop == out[n-3].Stop && out[n-2].Stop == out[n-4].Stop && (i <= here || at < n-4) {
			out = append(out[:n-4], out[n-2:]...)
			if i <= here {
				at -= 2
			}
		}
	}
	return out, at
}

// piecesOf are the stops, each in so many columns at the most.
func piecesOf(stops []trail.Step, here, most int) []piece {
	pieces := make([]piece, len(stops))
	drawn := map[*trail.Stop]bool{}
	for _, s := range stops {
		drawn[s.Stop] = true
	}
	for i, s := range stops {
		pieces[i] = piece{step: s, label: label(s, i > 0 && stops[i-1].View.Place.Path == s.View.Place.Path, i == here, most)}
		if i == here {
			pieces[i].label = "[" + pieces[i].label + "]"
		}
		if i == 0 {
			continue
		}
		pieces[i].join = ahead
	}
	for i := len(stops) - 1; i > 0; i-- { // a stop one came by twice shows its other ways once
		if other, more := others(stops[i-1].Stop, drawn); other != nil {
			pieces[i].join, pieces[i].other, pieces[i].more = forks, other, more
			drawn[other] = true
		}
	}
	return pieces
}

// others is the way taken latest from a stop to one that is not drawn on the way itself, and how
// many more of these there are; nil if there is none.
func others(from *trail.Stop, drawn map[*trail.Stop]bool) (latest *trail.Stop, more int) {
	for _, to := range from.Ways() {
		if drawn[to] {
			continue
		}
		if latest != nil {
			more++
		}
		latest = to
	}
	return latest, more
}

// label names a stop by its symbol, its file and its line. The file is left out
// if it is the same as that of the stop before and there is a symbol to say. Of a long one the end of the name is left out, not the line.
func label(s trail.Step, sameFile, here bool, most int) string {
	pl := s.View.Place
	name := s.Stop.Symbol
	if name == "" && !here { // of the present one the top line says what it is in
		name = s.Stop.Inside
	}
	name = name[strings.LastIndexByte(name, '.')+1:]
	if s.Stop.Name != "" {
		name = ink.Cut(s.Stop.Name, longestName)
	}
	file := path.Base(pl.Path)
	switch {
	case name == "":
		name = file
	case !sameFile:
		name += " " + file
	}
	line := " " + strconv.Itoa(max(pl.Line, 1))
	if !s.Stop.Edited.IsZero() {
		line += " " + editMark
	}
	return ink.Cut(name, max(most-ink.Width(line), leastPiece)) + line
}

// window chooses which stops to draw in the columns there are: the present one
// and as many around it as fit, twice as many before it as after.
func window(pieces []piece, here, columns int) (from, to int) {
	from, to = here, here+1
	used := pieces[here].width()
	for before := 0; ; {
		canBack := from > 0 && used+pieces[from-1].width() <= columns
		canOn := to < len(pieces) && used+pieces[to].width() <= columns
		switch {
		case canBack && (before < 2 || !canOn):
			from--
			used += pieces[from].width()
			before++
		case canOn:
			used += pieces[to].width()
			to++
			before = 0
		default:
			return from, to
		}
	}
}

func draw(pc piece, i, here int, first bool, upper, lower *ink.Row, p *palette.Palette) {
	quiet, text := palette.On(p.Quiet, p.Ground), palette.On(p.Text, p.Ground)
	if !first || i > 0 {
		branch := upper.Used() + 2
		upper.Put(pc.join, quiet)
		if pc.other != nil && lower.Used() <= branch {
			side := label(trail.Step{Stop: pc.other, View: pc.other.View}, false, false, lower.Left())
			if n := pc.other.CountTo(mostCounted) - 1; n > 0 {
				side += " +" + strconv.Itoa(n)
				if n == mostCounted-1 {
					side += " or more"
				}
			}
			if pc.more > 0 {
				side += " and " + strconv.Itoa(pc.more) + " more"
			}
			lower.To(branch, quiet).Put("└─ ", quiet).Put(ink.Cut(side, lower.Left()), text).Put("  ", quiet)
		}
	}
	switch {
	case i == here:
		upper.Put(pc.label, palette.On(p.Here, p.Ground).Strong())
	case i > here:
		upper.Put(pc.label, quiet)
	default:
		upper.Put(pc.label, text)
	}
}
