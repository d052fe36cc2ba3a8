// Package topline draws the line at the top of the screen: where one is, and how things stand.
package topline

import (
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Line is what the line says.
type Line struct {
	// Project is the name of the project.
	Project string
	// Path is that of the file, "" for none, and Crumbs the symbols around the caret.
	Path   string
	Crumbs []codebase.Crumb
	// Words stand at its right.
	Words []Word
}

// Row draws it.
func (l Line) Row(width int, p *palette.Palette) string {
	r := ink.NewRow(width)
	quiet, normal := palette.On(p.Quiet, p.Ground), palette.On(p.Text, p.Ground)
	least := ink.Width(" ♜ ") + leastName + leastCrumbs + 3
	right := fitting(l.Words, width-least-2)
	name := ink.Cut(l.Project, min(24, max(width-ink.Width(right)-leastCrumbs-8, leastName)))
	r.Put(" ♜ ", palette.On(p.Here, p.Ground).Strong()).Put(name, normal.Strong()).Put("   ", normal)
	room := width - r.Used() - ink.Width(right) - 3
	crumbs := l.names()
	used, from := 0, len(crumbs)
	for from > 0 {
		w := ink.Width(crumbs[from-1]) + 3
		if before := ink.Width("… ▸ "); used+w+before > room && (from > 1 || used+w > room) && from < len(crumbs) {
			break
		}
		used += w
		from--
	}
	if from > 0 {
		r.Put("… ▸ ", quiet)
		room -= ink.Width("… ▸ ")
	}
	for i := from; i < len(crumbs); i++ {
		st := normal
		if i == len(crumbs)-1 {
			st = palette.On(p.Here, p.Ground).Strong()
		}
		if i > from {
			r.Put(" ▸ ", quiet)
		}
		r.Put(ink.Cut(crumbs[i], max(room, 1)), st)
	}
	return r.End(right+" ", quiet, quiet).String(quiet)
}

// Said is what the line says, for who has it read out.
func (l Line) Said() (words []string) {
	words = append([]string{l.Project}, l.names()...)
	for _, w := range l.Words {
		words = append(words, w.Text)
	}
	return words
}

// How many columns the name of the project and the path keep at the least.
const (
	leastName   = 8
	leastCrumbs = 20
)

// Word is a part of what the right of the line says. Where there is no room for all, those of
// the highest rank go first; those of rank 0 stay.
type Word struct {
	Text string
	Rank int
}

// fitting joins as many words as there is room for.
func fitting(words []Word, room int) string {
	for drop := 9; ; drop-- {
		var all []string
		for _, w := range words {
			if w.Rank <= drop {
				all = append(all, w.Text)
			}
		}
		if line := strings.Join(all, "   "); ink.Width(line) <= room || drop == 0 {
			return line
		}
	}
}

// names are the folders, the file and the symbols one is in.
func (l Line) names() []string {
	if l.Path == "" {
		return nil
	}
	names := strings.Split(l.Path, "/")
	if names[0] == "" {
		names[0] = "/"
	}
	for _, c := range l.Crumbs {
		if c.Kind != facts.Package {
			names = append(names, c.Name)
		}
	}
	return names
}

// Title is what the window of the terminal is called: the file, and the project.
func Title(project, file string) string {
	name := ink.Cut(project, 60)
	if file != "" {
		name = ink.Cut(path.Base(file), 60) + " · " + name
	}
	return text.Visible(name)
}
