// Package lesson leads through lessons: a few lines at the foot of the screen say what to do, and go on when
// the screen shows that it is done.
package lesson

import (
	"fmt"
	"strings"

	"rooktrail/internal/core/keep/lesson"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Model is the lesson one is in, if any.
type Model struct {
	host     surface.Host
	keys     keymap.Map
	queue    *surface.Queue
	progress *lesson.Progress
	list     choice.Surface
	inDemo   bool

	lesson  *lesson.Lesson // nil if one is in none
	task    int            // counted from 0
	first   *lesson.Screen // how the screen was when the task began; nil before that is known
	presses int            // how many keys were pressed for it
	done    bool           // a task was done just before
}

// New makes one that is in no lesson.
func New(host surface.Host, keys keymap.Map) *Model {
	return &Model{host: host, keys: keys, queue: surface.NewQueue(host.Asker(nil)), progress: &lesson.Progress{}}
}

// Know tells how far one came with the lessons, and whether the project is the demo.
func (m *Model) Know(p *lesson.Progress, inDemo bool) { m.progress, m.inDemo = p, inDemo }

// Commands are the list of lessons.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{keymap.Lessons: m.open, keymap.SkipTask: m.skip}
}

// Lines is how many lines the lesson takes at the foot of the screen.
func (m *Model) Lines() int {
	if m.lesson == nil {
		return 0
	}
	return lines
}

// lines are the rule, and those for the words.
const lines = 3

// Start begins a lesson where one stopped in it, or where all lessons stopped if the name is "".
func (m *Model) Start(name string) surface.Intent {
	l, ok := lesson.Named(name)
	if name == "" {
		if l, ok = m.progress.Next(); !ok {
			return m.open()
		}
	}
	if !ok {
		return surface.Say("there is no lesson %s; {lessons} lists them", name)
	}
	if l.Whole {
		return m.begin(l, 0)
	}
	return m.begin(l, m.progress.At(&l)%len(l.Tasks))
}

// begin begins a lesson at a task.
func (m *Model) begin(l lesson.Lesson, task int) surface.Intent {
	if !l.Anywhere && !m.inDemo {
		return surface.Say("the lesson %s needs the demo: leave the program and say rooktrail learn %s", l.Name, l.Name)
	}
	m.lesson, m.done = &l, false
	return m.to(task).And(m.toBegin())
}

// to goes on to a task.
func (m *Model) to(task int) surface.Intent {
	m.task, m.first, m.presses = task, nil, 0
	return surface.Intent{Arrange: true}
}

// toBegin goes to where the present task begins.
func (m *Model) toBegin() surface.Intent {
	b := m.lesson.Tasks[m.task].Begin
	if !m.inDemo || b.Path == "" {
		return surface.Intent{}
	}
	return surface.Go(surface.Visit{Path: b.Path, Line: b.Line, Col: b.Col, How: "lesson: " + m.lesson.Title})
}

// Pressed notes that a key was pressed.
func (m *Model) Pressed() { m.presses++ }

// See takes how the screen looks, and goes on to the next task if that shows the present one to be done.
func (m *Model) See(now *lesson.Screen) surface.Intent {
	if m.lesson == nil {
		return surface.Intent{}
	}
	if m.first == nil {
		m.first = now
		return surface.Intent{}
	}
	if !m.lesson.Tasks[m.task].Done(m.first, now) {
		return surface.Intent{}
	}
	return m.next()
}

// next goes on to the next task, or to the list of lessons after the last.
func (m *Model) next() surface.Intent {
	m.done = true
	todo := m.keep(m.task + 1)
	if m.task+1 < len(m.lesson.Tasks) {
		return todo.And(m.to(m.task + 1))
	}
	title := m.lesson.Title
	m.lesson = nil
	todo.Arrange = true
	if _, more := m.progress.Next(); !more {
		return todo.And(surface.Say("that was the last lesson; {lessons} lists them all, {learned} shows which keys you know"))
	}
	todo.Then = m.open
	return todo.And(surface.Say("done: %s", title))
}

// keep keeps how far one is.
func (m *Model) keep(tasks int) surface.Intent {
	if tasks <= m.progress.At(m.lesson) && tasks > 0 {
		return surface.Intent{}
	}
	m.progress.Reach(m.lesson, tasks)
	return surface.Begin(m.queue.Add(m.progress.Job()))
}

// skip goes on as if the task were done.
func (m *Model) skip() surface.Intent {
	if m.lesson == nil {
		return surface.Say("there is no task to skip; {lessons} lists the lessons")
	}
	todo := m.next()
	m.done = false
	if m.lesson == nil {
		return todo
	}
	return todo.And(m.toBegin())
}

// open lists the lessons, with what can be done in the present one.
func (m *Model) open() surface.Intent {
	var rows []choice.Row
	chosen := 0
	if l := m.lesson; l != nil {
		rows = append(rows,
			choice.Row{Row: sheet.Row{What: "task", Name: "go on with it", Where: m.where(), Reads: true}},
			choice.Row{Row: sheet.Row{What: "task", Name: "skip it", Where: "and begin the next", Reads: true}, Take: m.skip},
			choice.Row{Row: sheet.Row{What: "lesson", Name: "begin it anew", Where: l.Title, Reads: true}, Take: func() surface.Intent { return m.begin(*l, 0) }},
			choice.Row{Row: sheet.Row{What: "lesson", Name: "end it", Where: "it is kept where you stopped", Reads: true}, Take: m.end})
	}
	next, more := m.progress.Next()
	for i, l := range lesson.All() {
		if m.lesson != nil && m.lesson.Name == l.Name {
			continue
		}
		if m.lesson == nil && more && l.Name == next.Name {
			chosen = i
		}
		rows = append(rows, choice.Row{Row: sheet.Row{What: "lesson", Name: l.Title, Where: m.state(&l), Reads: true, Faint: !l.Anywhere && !m.inDemo},
			Take: func() surface.Intent { return m.Start(l.Name) }})
	}
	todo := m.list.Open("lessons: a few minutes each", "begin, or go on", rows)
	m.list.Move(chosen)
	return todo
}

// state says how far one is with a lesson.
func (m *Model) state(l *lesson.Lesson) string {
	words := sheet.Count(len(l.Tasks), "task", "tasks")
	switch at := m.progress.At(l); {
	case at == len(l.Tasks):
		words = "done"
	case at > 0:
		words = fmt.Sprintf("%d of %s done", at, words)
	}
	if !l.Anywhere && !m.inDemo {
		words += ", in the demo"
	}
	return words
}

// end ends the lesson.
func (m *Model) end() surface.Intent {
	m.lesson = nil
	todo := surface.Say("{lessons} goes on with the lessons where you stopped")
	todo.Arrange = true
	return todo
}

func (m *Model) where() string {
	return fmt.Sprintf("task %d of %d: %s", m.task+1, len(m.lesson.Tasks), m.lesson.Title)
}

// manyPresses is after how many keys one may want a hint.
const manyPresses = 14

// Rows draws what is to be done, in so many lines as Lines says.
func (m *Model) Rows(width int, writing bool, p *palette.Palette) (rows []string) {
	rule, quiet := palette.On(p.Rule, p.Sheet), palette.On(p.Quiet, p.Sheet)
	text, here, way := palette.On(p.Text, p.Sheet), palette.On(p.Here, p.Sheet).Strong(), palette.On(p.Way, p.Sheet).Strong()
	r := ink.NewRow(width).Put("── ", rule)
	if m.done {
		r.Put("done ", here).Put("── ", rule)
	}
	right := m.keys.Key(keymap.Lessons)
	r.Put(ink.Cut(m.where(), max(width-ink.Width(right)-28, 10))+" ", here)
	r.Put(strings.Repeat("─", max(r.Left()-ink.Width(right)-16, 1))+" ", rule).Put(right, way).Put(" skip, or end ", quiet)
	rows = append(rows, r.Put(strings.Repeat("─", max(r.Left(), 0)), rule).String(rule))
	t := m.lesson.Tasks[m.task]
	words := t.Do
	if m.presses >= manyPresses && t.Hint != "" {
		words = t.Hint
	}
	for _, l := range m.told(words, writing, max(width-3, 20)) {
		r := ink.NewRow(width).Put(" ", quiet)
		for _, piece := range l {
			style := text
			if piece.key {
				style = way
			}
			r.Put(piece.words, style)
		}
		rows = append(rows, r.String(quiet))
	}
	for len(rows) < lines {
		rows = append(rows, ink.NewRow(width).String(quiet))
	}
	return rows[:lines]
}

// piece is some words of a line, or a key in it.
type piece struct {
	words string
	key   bool
}

// told breaks the words of a task into lines, with the keys in them as they are now.
func (m *Model) told(words string, writing bool, width int) (all [][]piece) {
	used := width
	for word := range strings.FieldsSeq(words) {
		pieces := []piece{{words: word}}
		if before, rest, found := strings.Cut(word, "{"); found && rest != "" {
			action, after, _ := strings.Cut(rest, "}")
			key := m.keys.Fill(keymap.Marked("{"+action+"}"), writing)
			pieces = []piece{{words: before}, {key, true}, {words: after}}
		}
		wide := 0
		for _, p := range pieces {
			wide += ink.Width(p.words)
		}
		if used+1+wide > width {
			all, used = append(all, nil), -1
		} else {
			pieces = append([]piece{{words: " "}}, pieces...)
		}
		all[len(all)-1] = append(all[len(all)-1], pieces...)
		used += 1 + wide
	}
	return all
}
