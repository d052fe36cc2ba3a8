package writing

import (
	"context"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/disk/system"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// copies is what was cut or copied, the latest first.
type copies struct {
	all   []string
	known bool // those of earlier are among them
}

// mostCopies is how many cut or copied texts there are to choose from.
const mostCopies = 20

func (c *copies) add(s string) {
	all := []string{s}
	for _, o := range c.all {
		if o != s && len(all) < mostCopies {
			all = append(all, o)
		}
	}
	c.all = all
}

func (m *Model) loadCopies() tea.Cmd {
	project := m.project
	return surface.Do(m.asker, func(context.Context) []string { return project.Copies() }, m.copiesRead)
}

// copiesRead puts what was copied in earlier programs behind what was copied since.
func (m *Model) copiesRead(earlier []string) surface.Intent {
	now := m.copies.all
	m.copies = copies{all: earlier, known: true}
	for i := len(now) - 1; i >= 0; i-- {
		m.copies.add(now[i])
	}
	if len(now) == 0 {
		return surface.Intent{}
	}
	return surface.Begin(m.keepCopies())
}

// keepCopies keeps what was copied, once it is known what was before.
func (m *Model) keepCopies() tea.Cmd {
	if !m.copies.known {
		return nil
	}
	project, all := m.project, append([]string(nil), m.copies.all...)
	return surface.Keep(m.asker, "copies", func() error { return project.KeepCopies(all) }, surface.SayError)
}

// copy copies or cuts what is selected, or the line.
func (m *Model) copy(p *pen, cut bool) surface.Intent {
	before := p.Editor.Document()
	s, whole := p.Editor.Selection()
	m.copies.add(s)
	what := "what is selected"
	if whole {
		what = "the line"
	}
	if cut {
		p.Editor.Cut()
	}
	return surface.Intent{Copy: &surface.Copy{Text: s, What: what}, Cmd: m.keepCopies()}.And(m.wrote(p, before))
}

// paste pastes what another program has copied, or what was cut or copied here last.
func (m *Model) paste(p *pen) surface.Intent {
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) string {
		s, err := system.Paste(ctx)
		if err != nil {
			return "" // there is none; what was cut here is pasted
		}
		return s
	}, func(s string) surface.Intent {
		if s == "" && len(m.copies.all) > 0 {
			s = m.copies.all[0]
		}
		if s == "" || p != m.pen() {
			return surface.Say("nothing was cut or copied yet; what others have copied comes with the terminal's own paste")
		}
		before := p.Editor.Document()
		p.Editor.Paste(s)
		return m.wrote(p, before)
	}))
}

// chooseCopy lets one choose among what was cut or copied before.
func (m *Model) chooseCopy(*pen) surface.Intent {
	if len(m.copies.all) == 0 {
		return surface.Say("nothing was cut or copied yet")
	}
	var rows []choice.Row
	for _, c := range m.copies.all {
		first, rest, _ := strings.Cut(strings.TrimSpace(c), "\n")
		where := ""
		if n := strings.Count(rest, "\n"); rest != "" {
			where = "and " + sheet.Count(n+1, "line", "lines") + " more"
		}
		rows = append(rows, choice.Row{Row: sheet.Row{What: "copy", Name: strings.TrimSpace(first), Where: where}, Take: func() surface.Intent { return m.pasteCopy(c) }})
	}
	return m.lists.Open("what was cut or copied, the latest first", "paste it", rows)
}

func (m *Model) pasteCopy(s string) surface.Intent {
	m.copies.add(s)
	todo := surface.Begin(m.keepCopies())
	p := m.pen()
	if p == nil {
		return todo
	}
	m.on = p.Path
	before := p.Editor.Document()
	p.Editor.Paste(s)
	return todo.And(m.wrote(p, before))
}

// before is what was done to a text before the program began.
type before struct {
	doc  *text.Document
	done *write.History
}

// KeepDone keeps what was done to the text of a file that was opened, for when one writes in it.
func (m *Model) KeepDone(f *codebase.File, done *write.History) {
	if done != nil && m.desk.Text(f.Path) == nil {
		m.before[f.Path] = before{f.Text, done}
	}
}

// resumeDone goes on with it, if the text is still that.
func (m *Model) resumeDone(t *desk.Text) {
	if b, ok := m.before[t.Path]; ok {
		delete(m.before, t.Path)
		t.Resume(b.doc, b.done)
	}
}

// keepHistory keeps what was done to a text that is on disk as it is now.
func (m *Model) keepHistory(t *desk.Text) tea.Cmd {
	project, name, doc, done := m.project, t.Path, t.Editor.Document(), t.Editor.History()
	if done == nil {
		return nil
	}
	return surface.Keep(m.asker, "history of "+name, func() error { return project.KeepHistory(name, doc, done) }, surface.SayError)
}
