package app

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/walk"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// walking is a guided walk that one is on.
type walking struct {
	walk  *walk.Walk
	fates []place.Fate
	at    int // the number of the stop one is at, counted from 0
}

// walkOf is a walk that was made.
type walkOf struct{ walk *walk.Walk }

// walkMaker makes a walk, which takes longer than a frame.
type walkMaker func(ctx context.Context) *walkOf

func (m *Model) walkOfBookmarks(l *bookmark.List) walkMaker {
	ws, kept := m.ws, l.Clone()
	return func(ctx context.Context) *walkOf { return &walkOf{ws.WalkOfBookmarks(ctx, kept)} }
}

// exportWalk writes a walk into a file.
func (m *Model) exportWalk(file string, make walkMaker) tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		w := make(context.Background()).walk
		if err := ws.WriteWalk(w, file); err != nil {
			return noteMsg(err.Error())
		}
		return noteMsg(fmt.Sprintf("%s written to %s", sheet.Count(len(w.Stops), "stop is", "stops are"), file))
	}
}

// walkReadyMsg brings a guided walk whose stops were found in the project.
type walkReadyMsg struct {
	walk    *walk.Walk
	fates   []place.Fate
	refused []string
}

// startWalk begins a guided walk.
func (m *Model) startWalk(make walkMaker) tea.Cmd {
	ws := m.ws
	m.going = true
	return func() tea.Msg {
		w := make(context.Background()).walk
		return walkReadyMsg{w, ws.LocateWalk(context.Background(), w), nil}
	}
}

// Guide makes the program begin with a guided walk that was read from a file; refused are
// the paths that were left out of it.
func (m *Model) Guide(w *walk.Walk, refused []string) {
	m.toWalk = &walkReadyMsg{walk: w, refused: refused}
}

// guide finds the stops of the walk with which the program begins.
func (m *Model) guide() tea.Cmd {
	if m.toWalk == nil {
		return nil
	}
	msg, ws := *m.toWalk, m.ws
	return func() tea.Msg {
		ws.UntilRead(context.Background())
		msg.fates = ws.LocateWalk(context.Background(), msg.walk)
		return msg
	}
}

func (m *Model) walkReady(msg walkReadyMsg) tea.Cmd {
	if len(msg.walk.Stops) == 0 {
		words := "there is no stop on this walk"
		if len(msg.refused) > 0 {
			words += "; those that leave the project are refused: " + strings.Join(msg.refused, ", ")
		}
		m.say("%s", words)
		return m.arrived(nil)
	}
	m.guided = &walking{walk: msg.walk, fates: msg.fates}
	m.arrange()
	cmd := m.walkStop(0)
	if len(msg.refused) > 0 {
		m.walkNote = "stops that leave the project are refused: " + strings.Join(msg.refused, ", ")
	}
	return cmd
}

// walkStop goes to a stop of the guided walk.
func (m *Model) walkStop(i int) tea.Cmd {
	w := m.guided
	w.at = i
	s := &w.walk.Stops[i]
	words := "stop " + strconv.Itoa(i+1) + " of " + strconv.Itoa(len(w.walk.Stops)) + " of the walk"
	switch {
	case w.fates[i] == place.Gone:
		m.say("%s: %s is not here any more; n goes on, Esc ends the walk", words, s.Name())
		if m.walkColumn() == 0 && len(s.Code) > 0 {
			m.openWalkCode(s)
		}
		return m.arrived(nil)
	case s.Kind == string(bookmark.Folder):
		m.say("%s: the folder %s; n goes on, Esc ends the walk", words, s.Path)
		return m.arrived(nil)
	case m.walkColumn() == 0 && s.From != nil:
		words += ", on from stop " + strconv.Itoa(*s.From+1) + ": " + s.Note
	case m.walkColumn() == 0 && s.Note != "":
		words += ": " + s.Note
	default:
		words += "; n next, p back, Esc ends it"
	}
	if m.walkNote != "" {
		words += "; " + m.walkNote
		m.walkNote = ""
	}
	o := opening{path: s.Path, line: s.Line, col: s.Col, how: "walk: " + w.walk.Name, symbol: s.What, after: words}
	return m.open(o)
}

// openWalkCode lists the code of a stop as it was when the walk was written.
func (m *Model) openWalkCode(s *walk.Stop) {
	rows := make([]sheet.Row, len(s.Code))
	for i, l := range s.Code {
		rows[i] = sheet.Row{What: "line " + strconv.Itoa(s.CodeLine+i), Name: strings.ReplaceAll(l, "\t", "  ")}
	}
	m.openChoice(s.Name()+" is not here any more; this is how it was. Esc, then n goes on", "close", rows)
	m.choice.list.Move(s.Line - s.CodeLine)
}

// onWalk goes on along the guided walk, or back.
func (m *Model) onWalk(forward bool) tea.Cmd {
	w := m.guided
	next := w.at - 1
	if forward {
		next = w.at + 1
	}
	switch {
	case next < 0:
		m.say("this is the first stop of the walk")
		return nil
	case next >= len(w.walk.Stops):
		m.say("this is the last stop of the walk; Esc ends it")
		return nil
	}
	return m.walkStop(next)
}

// endWalk leaves the guided walk.
func (m *Model) endWalk() tea.Cmd {
	m.say("the walk %s is over; the trail leads back along it", m.guided.walk.Name)
	m.guided = nil
	return m.rearranged()
}

// walkColumn is how wide the column beside the code is in which a stop of a walk is told;
// 0 if there is none.
func (m *Model) walkColumn() int {
	if m.guided == nil || m.topLeaf() != nil {
		return 0
	}
	return m.columnWidth()
}

// walkRows tell the stop of the guided walk beside the code: where on the walk one is, how
// and why one comes here.
func (m *Model) walkRows(width, height int) []string {
	p, w := m.palette(), m.guided
	s := &w.walk.Stops[w.at]
	rule, quiet := palette.On(p.Rule, p.Sheet), palette.On(p.Quiet, p.Sheet)
	text, here, key := palette.On(p.Text, p.Sheet), palette.On(p.Here, p.Sheet).Strong(), palette.On(p.Way, p.Sheet).Strong()
	var rows []string
	row := func() *ink.Row { return ink.NewRow(width).Put("│ ", rule) }
	put := func(words string, st ink.Style) {
		for _, l := range ink.WrapSome(words, max(width-4, 8), height) {
			rows = append(rows, row().Put(l, st).String(text))
		}
	}
	put("walk: "+w.walk.Name, quiet)
	put(strconv.Itoa(w.at+1)+" of "+strconv.Itoa(len(w.walk.Stops))+"  "+s.Name(), here)
	if s.From != nil && *s.From >= 0 && *s.From < len(w.walk.Stops) {
		put("the path turns back here: it goes on from stop "+strconv.Itoa(*s.From+1)+", "+w.walk.Stops[*s.From].Name(), quiet)
	}
	if s.How != "" {
		put(s.How, quiet)
	}
	if w.fates[w.at] == place.Gone {
		put("it is not here any more", palette.On(p.Problem, p.Sheet))
	} else if w.fates[w.at] == place.Changed {
		put("its line has changed since", palette.On(p.Problem, p.Sheet))
	}
	if s.Note != "" {
		rows = append(rows, row().String(text))
		put(s.Note, text)
	}
	if w.fates[w.at] == place.Gone && len(s.Code) > 0 {
		rows = append(rows, row().String(text))
		put("this is how it was:", quiet)
		for i, l := range s.Code {
			st := text
			if s.CodeLine+i == s.Line {
				st = here
			}
			rows = append(rows, row().Put(ink.Cut(strings.ReplaceAll(l, "\t", "  "), max(width-4, 8)), st).String(text))
		}
	}
	if most := height - 2; len(rows) > most && most > 0 {
		rows = append(rows[:most-1], row().Put("…", quiet).String(text))
	}
	rows = append(rows, row().String(text))
	keys := row()
	for _, k := range [][2]string{{"n", "next"}, {"p", "back"}, {"Esc", "end"}} {
		keys.Put(k[0]+" ", key).Put(k[1]+"   ", quiet)
	}
	rows = append(rows, keys.String(text), ink.NewRow(width).Put("├"+strings.Repeat("─", max(width-1, 0)), rule).String(text))
	return rows[:min(len(rows), height)]
}
