// Package crumbs is the sheet into which the breadcrumbs open: for each of them
// what stands beside it, to be narrowed by typing and gone to.
package crumbs

import (
	"context"
	"path"
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Lister tells what stands beside a breadcrumb; see package workspace.
type Lister interface {
	Siblings(f *codebase.File, steps []answer.Step, number int) (all []answer.Sibling, here int)
	FolderSteps(folder string) []answer.Step
	Steps(file string, symbols []codebase.Crumb) []answer.Step
}

// Model is the sheet.
type Model struct {
	surface.Size
	host   surface.Host
	asker  *surface.Asker
	lister Lister
	picker picker.Model
	file   *codebase.File
	steps  []answer.Step
	at     int // the chosen step; behind the last stands for what is inside that
	all    []answer.Sibling
	names  *fuzzy.Corpus
}

// New makes a sheet.
func New(host surface.Host, lister Lister) *Model {
	m := &Model{host: host, lister: lister, picker: picker.New()}
	m.asker = host.Asker(m)
	return m
}

// Commands are what opens the sheet.
func (m *Model) Commands() surface.Commands { return surface.Commands{keymap.Crumbs: m.open} }

// open shows the breadcrumbs of what is on the screen, with the last one chosen.
func (m *Model) open() surface.Intent {
	here := m.host.Here()
	m.file, m.steps, m.all = here.File, m.lister.Steps(here.View.Place.Path, here.Crumbs), nil
	m.at = len(m.steps) - 1
	m.picker.Open(m.list(), -1, m.Height-2)
	return surface.Intent{Open: m, Cmd: m.ask()}
}

// Resize implements surface.Surface.
func (m *Model) Resize(width, height int) {
	m.Size.Resize(width, height)
	m.picker.Resize(height - 2)
}

// Busy implements surface.Surface: keys are meant for when the list is there.
func (m *Model) Busy() bool { return m.asker.Waiting() }

// Closed implements surface.Surface.
func (m *Model) Closed() { m.asker.Cancel() }

// ask finds out what stands beside the chosen step.
func (m *Model) ask() tea.Cmd {
	type found struct {
		all  []answer.Sibling
		here int
	}
	lister, file, steps, at := m.lister, m.file, m.steps, m.at
	return surface.Ask(m.asker, func(context.Context) found {
		all, here := lister.Siblings(file, steps, at)
		return found{all, here}
	}, func(f found) surface.Intent {
		m.all = f.all
		m.picker.Set(m.list(), f.here)
		return m.selected()
	})
}

// Chosen is the chosen entry.
func (m *Model) Chosen() (answer.Sibling, bool) {
	i, ok := m.picker.Chosen()
	if !ok {
		return answer.Sibling{}, false
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

// Update implements surface.Surface. Taking a folder goes into it.
func (m *Model) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch {
		case keymap.Is(k.String(), on.Left):
			return surface.Begin(m.step(-1))
		case keymap.Is(k.String(), on.Right):
			if s, ok := m.Chosen(); ok && s.Folder && m.at == len(m.steps)-1 {
				return surface.Begin(m.into(s.Path))
			}
			return surface.Begin(m.step(1))
		case keymap.Is(k.String(), keymap.Ends.Take):
			if s, ok := m.Chosen(); ok && s.Folder {
				return surface.Begin(m.into(s.Path))
			}
		}
	}
	switch m.picker.Update(msg) {
	case picker.Closed:
		return surface.Close()
	case picker.Selected:
		return m.selected()
	case picker.Taken:
		if v, ok := m.visit(); ok {
			return surface.Go(v)
		}
	}
	return surface.Intent{}
}

// selected shows the chosen entry beneath.
func (m *Model) selected() surface.Intent {
	v, ok := m.visit()
	if !ok || v.Path == m.path() && v.Name.Len() == 0 {
		return surface.LookBack()
	}
	v.Near = v.Name.Len() > 0
	return surface.Look(v)
}

func (m *Model) path() string { return m.host.Here().View.Place.Path }

// visit is what the chosen entry leads to; ok is false for a folder.
func (m *Model) visit() (v surface.Visit, ok bool) {
	s, ok := m.Chosen()
	switch {
	case !ok || s.Folder:
		return surface.Visit{}, false
	case s.Path != "":
		return surface.Visit{Path: s.Path, How: "beside " + path.Base(m.path())}, true
	}
	return surface.Visit{Path: m.path(), Name: s.At, How: "breadcrumb: " + s.Name, Symbol: s.Name}, true
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
func (m *Model) Rows(p *palette.Palette) []string {
	width := m.Width
	rows := []string{m.crumbRow(width, p)}
	rows = append(rows, m.picker.Rows(prompt, "letters of a name", width, p)...)
	return append(rows, sheet.Edge(width, [][2]string{
		keymap.Both(on.Left, on.Right, "other breadcrumb"), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose"), keymap.Hint(keymap.Ends.Take, "go there"), keymap.Hint(keymap.Ends.Close, "back as it was"),
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

// Cursor implements surface.Surface.
func (m *Model) Cursor() (x, y int, ok bool) { return m.picker.Cursor(prompt, m.Width), 1, true }
