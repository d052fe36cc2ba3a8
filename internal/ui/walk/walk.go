// Package walk leads along a guided walk: from stop to stop, each told beside the code.
package walk

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project is where the stops are; see package workspace.
type Project interface {
	WriteWalk(w *walk.Walk, file string) error
	LocateWalk(ctx context.Context, w *walk.Walk) []place.Fate
	// UntilRead waits until the project is read.
	UntilRead(ctx context.Context) bool
}

// Model is the walk that one is on, if any.
type Model struct {
	host    surface.Host
	project Project
	asker   *surface.Asker
	keys    keymap.Map
	beside  func() bool // whether there is room to tell of a stop beside the code
	was     choice.Surface

	walk  *walk.Walk // nil if one is on none
	fates []place.Fate
	at    int    // the number of the stop one is at, counted from 0
	note  string // what else to say at the first stop
}

// New makes one; beside says whether there is room to tell of a stop beside the code.
func New(host surface.Host, project Project, keys keymap.Map, beside func() bool) *Model {
	return &Model{host: host, project: project, asker: host.Asker(nil), keys: keys, beside: beside}
}

// Any says whether one is on a walk.
func (m *Model) Any() bool { return m.walk != nil }

// Export writes a walk into a file.
func (m *Model) Export(file string, make func(ctx context.Context) *walk.Walk) surface.Intent {
	project := m.project
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) string {
		w := make(ctx)
		if err := project.WriteWalk(w, file); err != nil {
			return err.Error()
		}
		return fmt.Sprintf("%s written to %s", sheet.Count(len(w.Stops), "stop is", "stops are"), file)
	}, func(words string) surface.Intent { return surface.Say("%s", words) }))
}

// ready is a walk whose stops were found in the project.
type ready struct {
	walk    *walk.Walk
	fates   []place.Fate
	refused []string
}

// Start begins a walk.
func (m *Model) Start(make func(ctx context.Context) *walk.Walk) surface.Intent {
	project := m.project
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) ready {
		w := make(ctx)
		return ready{w, project.LocateWalk(ctx, w), nil}
	}, m.begin))
}

// Begin begins a walk that was read from a file, once the project is read; refused are the paths that
// were left out of it.
func (m *Model) Begin(w *walk.Walk, refused []string) tea.Cmd {
	project := m.project
	return surface.Do(m.asker, func(ctx context.Context) ready {
		project.UntilRead(ctx)
		return ready{w, project.LocateWalk(ctx, w), refused}
	}, m.begin)
}

func (m *Model) begin(r ready) surface.Intent {
	leaves := "that leave the project are refused: " + strings.Join(r.refused, ", ")
	if len(r.walk.Stops) == 0 {
		words := "there is no stop on this walk"
		if len(r.refused) > 0 {
			words += "; those " + leaves
		}
		return surface.Say("%s", words)
	}
	m.walk, m.fates, m.note = r.walk, r.fates, ""
	if len(r.refused) > 0 {
		m.note = "stops " + leaves
	}
	return m.to(0).And(surface.Intent{Arrange: true})
}

// to goes to a stop.
func (m *Model) to(i int) surface.Intent {
	m.at = i
	s := &m.walk.Stops[i]
	words := "stop " + strconv.Itoa(i+1) + " of " + strconv.Itoa(len(m.walk.Stops)) + " of the walk"
	beside := m.beside()
	switch {
	case m.fates[i] == place.Gone:
		todo := surface.Say("%s: %s is not here any more; {next} goes on, Esc ends the walk", words, s.Name())
		if !beside && len(s.Code) > 0 {
			return todo.And(m.showCode(s))
		}
		return todo
	case s.Kind == string(bookmark.Folder):
		return surface.Say("%s: the folder %s; {next} goes on, Esc ends the walk", words, s.Path)
	case !beside && s.From != nil:
		words += ", on from stop " + strconv.Itoa(*s.From+1) + ": " + s.Note
	case !beside && s.Note != "":
		words += ": " + s.Note
	default:
		words += keymap.Marked("; {next} next, {previous} back, Esc ends it")
	}
	if m.note != "" {
		words += "; " + m.note
		m.note = ""
	}
	return surface.Go(surface.Visit{Path: s.Path, Line: s.Line, Col: s.Col, How: "walk: " + m.walk.Name, Symbol: s.What, After: words})
}

// showCode lists the code of a stop as it was when the walk was written.
func (m *Model) showCode(s *walk.Stop) surface.Intent {
	rows := make([]choice.Row, len(s.Code))
	for i, l := range s.Code {
		rows[i].Row = sheet.Row{What: "line " + strconv.Itoa(s.CodeLine+i), Name: strings.ReplaceAll(l, "\t", "  ")}
	}
	todo := m.was.Open(s.Name()+" is not here any more; this is how it was. Esc, and then the next stop", "close", rows)
	m.was.Move(s.Line - s.CodeLine)
	return todo
}

// Next goes on along the walk, or back.
func (m *Model) Next(forward bool) surface.Intent {
	next := m.at - 1
	if forward {
		next = m.at + 1
	}
	switch {
	case next < 0:
		return surface.Say("this is the first stop of the walk")
	case next >= len(m.walk.Stops):
		return surface.Say("this is the last stop of the walk; Esc ends it")
	}
	return m.to(next)
}

// End leaves the walk.
func (m *Model) End() surface.Intent {
	todo := surface.Say("the walk %s is over; the trail leads back along it", m.walk.Name)
	m.walk = nil
	todo.Arrange = true
	return todo
}

// Rows tell the stop beside the code, in so many rows at the most: where on the walk one is, how
// and why one comes here.
func (m *Model) Rows(width, height int, p *palette.Palette) []string {
	s := &m.walk.Stops[m.at]
	c := &column{width: width, height: height, p: p}
	rule, quiet := palette.On(p.Rule, p.Sheet), palette.On(p.Quiet, p.Sheet)
	text, here, key := palette.On(p.Text, p.Sheet), palette.On(p.Here, p.Sheet).Strong(), palette.On(p.Way, p.Sheet).Strong()
	c.put("walk: "+m.walk.Name, quiet)
	c.put(strconv.Itoa(m.at+1)+" of "+strconv.Itoa(len(m.walk.Stops))+"  "+s.Name(), here)
	if s.From != nil && *s.From >= 0 && *s.From < len(m.walk.Stops) {
		c.put("the path turns back here: it goes on from stop "+strconv.Itoa(*s.From+1)+", "+m.walk.Stops[*s.From].Name(), quiet)
	}
	if s.How != "" {
		c.put(s.How, quiet)
	}
	fate := m.fates[m.at]
	if fate == place.Gone {
		c.put("it is not here any more", palette.On(p.Problem, p.Sheet))
	} else if fate == place.Changed {
		c.put("its line has changed since", palette.On(p.Problem, p.Sheet))
	}
	if s.Note != "" {
		c.add(c.row())
		c.put(s.Note, text)
	}
	if fate == place.Gone && len(s.Code) > 0 {
		c.add(c.row())
		c.put("this is how it was:", quiet)
		for i, l := range s.Code {
			st := text
			if s.CodeLine+i == s.Line {
				st = here
			}
			c.add(c.row().Put(ink.Cut(strings.ReplaceAll(l, "\t", "  "), max(width-4, 8)), st))
		}
	}
	if most := height - 2; len(c.rows) > most && most > 0 {
		c.rows = c.rows[:most-1]
		c.add(c.row().Put("…", quiet))
	}
	c.add(c.row())
	keys := c.row()
	for _, k := range [][2]string{{m.keys.Key(keymap.Next), "next"}, {m.keys.Key(keymap.Previous), "back"}, {keymap.Ends.Close.Help().Key, "end"}} {
		keys.Put(k[0]+" ", key).Put(k[1]+"   ", quiet)
	}
	c.add(keys)
	c.add(ink.NewRow(width).Put("├"+strings.Repeat("─", max(width-1, 0)), rule))
	return c.rows[:min(len(c.rows), height)]
}

// column is the rows as they are written.
type column struct {
	width, height int
	p             *palette.Palette
	rows          []string
}

func (c *column) row() *ink.Row {
	return ink.NewRow(c.width).Put("│ ", palette.On(c.p.Rule, c.p.Sheet))
}

func (c *column) add(r *ink.Row) {
	c.rows = append(c.rows, r.String(palette.On(c.p.Text, c.p.Sheet)))
}

func (c *column) put(words string, st ink.Style) {
	for _, l := range ink.WrapSome(words, max(c.width-4, 8), c.height) {
		c.add(c.row().Put(l, st))
	}
}
