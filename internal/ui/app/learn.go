package app

import (
	"bytes"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/lesson"
	"rooktrail/internal/ui/firststart"
	"rooktrail/internal/ui/surface"
)

// Learn tells how far one came with the lessons, and whether the project is the demo they are about; it is to
// be called before the program begins.
func (m *Model) Learn(p *lesson.Progress, inDemo bool) { m.lessons.Know(p, inDemo) }

// Teach has the program begin with a lesson; with "", with the one in which one stopped.
func (m *Model) Teach(name string) { m.start.learn, m.start.lesson = true, name }

// first is what comes when the first file is shown.
func (m *Model) first() surface.Intent {
	if m.start.learn {
		return m.lessons.Start(m.start.lesson)
	}
	return firststart.Begin(m.habits, m.keys, m.writing.FirstStance)
}

// seeLesson lets the lesson see the screen, once one has arrived.
func (m *Model) seeLesson() tea.Cmd {
	if m.lessons.Lines() == 0 || m.going() {
		return nil
	}
	return m.act(nil, m.lessons.See(m.lessonScreen()))
}

// lessonScreen is the screen as lessons see it.
func (m *Model) lessonScreen() *lesson.Screen {
	c := &m.frame.Code
	line, _ := c.Caret()
	s := &lesson.Screen{Path: c.Path(), Line: line, Writing: m.writing.Writing(), Unsaved: len(m.writing.Unsaved()),
		Found: m.search.Any(), Views: len(m.frame.Sides()), Full: m.frame.Wish.Full, Palette: m.palette().Name}
	if f := c.File(); f != nil {
		s.Text = string(f.Text.Line(line))
		s.Has = func(words string) bool { return bytes.Contains(f.Text.Bytes(), []byte(words)) }
		s.Folded = c.Folds().Any()
	}
	if n := len(m.frame.Crumbs); n > 0 {
		s.Symbol = m.frame.Crumbs[n-1].Name
	}
	if m.over != nil {
		s.Over, _ = m.over.Keys()
	}
	if m.leaves.Any() {
		s.Leaf = m.leaves.Side().Code.Path()
	}
	for _, spot := range m.marks.All() {
		k := spot.Mark()
		s.Marks = append(s.Marks, lesson.Mark{Path: k.Place().Path, Line: k.Place().Line})
		if k.Note != "" {
			s.Noted++
		}
	}
	count := m.sweeps.Count()
	s.Swept, s.Ticked = count.All, count.Done
	return s
}
