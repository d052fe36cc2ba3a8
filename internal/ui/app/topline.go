package app

import (
	"strconv"
	"strings"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// topLine says where one is: the project, the path, the symbols around the
// caret.
func (m *Model) topLine(plan frame.Plan) string {
	p := m.palette()
	r := ink.NewRow(plan.Width)
	quiet, normal := palette.On(p.Quiet, p.Ground), palette.On(p.Text, p.Ground)
	least := ink.Width(" ♜ ") + leastName + leastCrumbs + 3
	right := fitting(m.position(), plan.Width-least-2)
	name := ink.Cut(m.ws.Name(), min(24, max(plan.Width-ink.Width(right)-leastCrumbs-8, leastName)))
	r.Put(" ♜ ", palette.On(p.Here, p.Ground).Strong()).Put(name, normal.Strong()).Put("   ", normal)
	room := plan.Width - r.Used() - ink.Width(right) - 3
	crumbs := m.crumbNames()
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

// How many columns the name of the project and the path keep at the least.
const (
	leastName   = 8
	leastCrumbs = 20
)

// word is a part of what the right of the top line says. Where there is no room for all, those of
// the highest rank go first; those of rank 0 stay.
type word struct {
	text string
	rank int
}

// fitting joins as many words as there is room for.
func fitting(words []word, room int) string {
	for drop := 9; ; drop-- {
		var all []string
		for _, w := range words {
			if w.rank <= drop {
				all = append(all, w.text)
			}
		}
		if line := strings.Join(all, "   "); ink.Width(line) <= room || drop == 0 {
			return line
		}
	}
}

// crumbNames are the folders, the file and the symbols one is in.
func (m *Model) crumbNames() []string {
	p := m.frame.Code.Path()
	if p == "" {
		return nil
	}
	names := strings.Split(p, "/")
	if names[0] == "" {
		names[0] = "/"
	}
	for _, c := range m.frame.Crumbs {
		if c.Kind != facts.Package {
			names = append(names, c.Name)
		}
	}
	return names
}

// position says how far the reading is, where the caret is, and the stance.
func (m *Model) position() (words []word) {
	add := func(rank int, text string) { words = append(words, word{text, rank}) }
	c := &m.frame.Code
	if pr := m.ws.Progress(); !pr.Done && m.over != m.scout && pr.Readable > 0 {
		add(7, "reading "+strconv.Itoa(pr.Read*100/pr.Readable)+" %")
	}
	if c.File() != nil {
		line, col := c.Caret()
		add(6, "line "+strconv.Itoa(line)+" column "+strconv.Itoa(col))
	}
	if m.frame.InLeaf() {
		add(1, "in the leaf")
	}
	if c.Solo().Len() > 0 {
		add(1, "solo")
	}
	if n := m.marks.Count(); n != "" {
		add(3, n)
	}
	if n, ok := m.sweeps.Left(); ok {
		add(2, "sweep "+strconv.Itoa(n)+" left")
	}
	if f := c.File(); f != nil && m.ws.IsOutside(f.Path) {
		add(0, "outside the project")
	} else if f != nil && f.Foreign {
		add(0, "not the project's own")
	}
	if n := len(m.frame.OpenFiles()); n > 1 {
		add(4, strconv.Itoa(n)+" files open")
	}
	if n := len(m.writing.Unsaved()); n > 0 {
		not := " not saved"
		if !m.writing.Desk().Kept() {
			not += ", NOT kept" // and would be lost
		}
		add(0, strconv.Itoa(n)+not)
	}
	if m.writing.Writing() {
		add(0, "WRITE")
	} else {
		add(0, "roam")
	}
	return words
}
