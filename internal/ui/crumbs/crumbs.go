// Package crumbs is the sheet into which the breadcrumbs open: for each of them
// what stands beside it, to be narrowed by typing and gone to.
package crumbs

import (
	"path"
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Lister tells what stands beside a breadcrumb; see workspace.Workspace.
type Lister interface {
	Siblings(f *workspace.File, steps []workspace.Step, number int) (all []workspace.Sibling, here int)
	FolderSteps(folder string) []workspace.Step
}

// Model is the sheet.
type Model struct {
	lister Lister
	picker picker.Model
	file   *workspace.File
	steps  []workspace.Step
	at     int // the chosen step; behind the last stands for what is inside that
	all    []workspace.Sibling
	names  *fuzzy.Corpus
	number int  // of the latest list asked for
	asking bool // it is not there yet
}

// New makes a sheet.
func New(lister Lister) *Model { return &Model{lister: lister, picker: picker.New()} }

// listMsg brings what stands beside a step.
type listMsg struct {
	number int
	all    []workspace.Sibling
	here   int
}

// Open shows the steps with the last one chosen. The file may be nil.
func (m *Model) Open(f *workspace.File, steps []workspace.Step, height int) tea.Cmd {
	m.file, m.steps, m.at, m.all = f, steps, len(steps)-1, nil
	m.picker.Open(m.list(), -1, height-2)
	return m.ask()
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.picker.Resize(height - 2) }

// Busy says that a list is on its way; keys are meant for when it is there.
func (m *Model) Busy() bool { return m.asking }

// ask finds out what stands beside the chosen step.
func (m *Model) ask() tea.Cmd {
	m.number++
	m.asking = true
	number, lister, file, steps, at := m.number, m.lister, m.file, m.steps, m.at
	return func() tea.Msg {
		all, here := lister.Siblings(file, steps, at)
		return listMsg{number, all, here}
	}
}

// Chosen is the chosen entry.
func (m *Model) Chosen() (workspace.Sibling, bool) {
	i, ok := m.picker.Chosen()
	if !ok {
		return workspace.Sibling{}, false
	}
	return m.all[i], true
}

func (m *Model) list() picker.List {
	m.names = &fuzzy.Corpus{}
	l := picker.List{Names: m.names, Row: m.row, Total: len(m.all), Empty: "nothing is here"}
	for i, s := range m.all {
		m.names.Add(s.Name, 0)
		l.Shown = append(l.Shown, i)
	}
	if m.at >= len(m.steps) {
		l.Title = "inside " + m.steps[len(m.steps)-1].Name
	} else if step := m.steps[m.at]; step.Path == "." && !step.Symbol {
		l.Title = "in the project"
	} else {
		l.Title = "beside " + step.Name
	}
	return l
}

func (m *Model) row(number int, at []int) sheet.Row {
	s := &m.all[number]
	switch {
	case s.Folder:
		return sheet.Row{What: "folder", Name: s.Name, At: at, Where: path.Dir(s.Path) + "/"}
	case s.Path != "":
		return sheet.Row{What: "file", Name: s.Name, At: at, Where: path.Dir(s.Path) + "/"}
	}
	return sheet.Row{What: s.Kind.String(), Name: s.Name, At: at, Where: "line " + strconv.Itoa(s.Line)}
}

// Update takes a message. Taking a folder goes into it, which is no event.
func (m *Model) Update(msg tea.Msg) (tea.Cmd, picker.Event) {
	switch msg := msg.(type) {
	case listMsg:
		if msg.number != m.number {
			return nil, picker.Nothing
		}
		m.all, m.asking = msg.all, false
		m.picker.Set(m.list(), msg.here)
		return nil, picker.Selected
	case tea.KeyPressMsg:
		switch msg.String() {
		case "left":
			return m.step(-1), picker.Nothing
		case "right":
			if s, ok := m.Chosen(); ok && s.Folder && m.at == len(m.steps)-1 {
				return m.into(s.Path), picker.Nothing
			}
			return m.step(1), picker.Nothing
		case "enter":
			if s, ok := m.Chosen(); ok && s.Folder {
				return m.into(s.Path), picker.Nothing
			}
		}
	}
	return nil, m.picker.Update(msg)
}

// step chooses another breadcrumb.
func (m *Model) step(by int) tea.Cmd {
	to := min(max(m.at+by, 0), len(m.steps))
	if to == m.at {
		return nil
	}
	m.at = to
	m.picker.Clear()
	return m.ask()
}

// into goes into a folder.
func (m *Model) into(folder string) tea.Cmd {
	m.steps = m.lister.FolderSteps(folder)
	m.at = len(m.steps)
	m.picker.Clear()
	return m.ask()
}

const prompt = "  beside  "

// Rows draws the sheet: the breadcrumbs with the chosen one marked, the line to
// type in, and what there is.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	rows := []string{m.crumbRow(width, p)}
	rows = append(rows, m.picker.Rows(prompt, "letters of a name", width, p)...)
	return append(rows, sheet.Edge(width, [][2]string{
		{"←→", "other breadcrumb"}, {"↑↓", "choose"}, {"Enter", "go there"}, {"Esc", "back as it was"},
	}, p))
}

func (m *Model) crumbRow(width int, p *palette.Palette) string {
	quiet, text := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet)
	here := palette.On(p.Here, p.Sheet).Strong().Under()
	var names []string
	for _, s := range m.steps {
		names = append(names, s.Name)
	}
	names = append(names, "…")
	from, used := 0, 0
	for i := range names {
		used += ink.Width(names[i]) + 3
	}
	for from < m.at && used > width-8 { // the end is what says most
		used -= ink.Width(names[from]) + 3
		from++
	}
	r := ink.NewRow(width).Put("  ", text)
	if from > 0 {
		r.Put("… ▸ ", quiet)
	}
	for i := from; i < len(names); i++ {
		if i > from {
			r.Put(" ▸ ", quiet)
		}
		style := text
		if i == m.at {
			style = here
		}
		r.Put(names[i], style)
	}
	return r.String(quiet)
}

// Cursor is the column of the caret in the line to type in, which is the second
// of the sheet.
func (m *Model) Cursor() int { return m.picker.Cursor(prompt) }
