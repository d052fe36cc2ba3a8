package writing

import (
	"path"
	"slices"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// left is the texts that were not saved when a program ended.
type left struct {
	texts []recovery.Text
	due   bool // they are to be offered as soon as nothing else is going on
	taken bool // one of them was taken
}

// loadLeft finds texts that were not saved when a program ended.
func (m *Model) loadLeft() tea.Cmd {
	return m.work(m.desk.Left(func(all []recovery.Text, err error) (r desk.Result) {
		m.left.texts, m.left.due = all, len(all) > 0
		if err != nil {
			r.Said = append(r.Said, desk.Report{What: desk.Failed, Err: err})
		}
		return r
	}))
}

// OfferInTime offers texts that were not saved. It is to be called when something is on the screen and nothing
// else is going on: a sheet puts back what was there before.
func (m *Model) OfferInTime() surface.Intent {
	if !m.left.due || !m.host.Began() || m.host.Covered() {
		return surface.Intent{}
	}
	if !m.host.Pressed() || m.left.taken {
		return m.offer()
	}
	// One has begun to do something else by now, which the sheet would come in the way of.
	m.left.due = false
	them := "them"
	if len(m.left.texts) == 1 {
		them = "it"
	}
	return surface.Say("%s not saved when the program ended; {unsaved} shows what was in %s", sheet.Count(len(m.left.texts), "text was", "texts were"), them)
}

// offer offers texts that were not saved.
func (m *Model) offer() surface.Intent {
	if len(m.left.texts) == 0 {
		return surface.Say("no text is there that was not saved when the program ended")
	}
	m.left.due = false
	var rows []choice.Row
	for _, t := range m.left.texts {
		rows = append(rows, choice.Row{
			Row:  sheet.Row{What: "not saved", Name: t.Path, Where: "as of " + m.host.Clock().Moment(t.At) + ", " + sheet.Count(len(t.Body), "byte", "bytes")},
			Take: func() surface.Intent { return m.takeLeft(t) },
		})
	}
	rows = append(rows, choice.Row{Row: sheet.Row{What: "forget", Name: "all of these", Where: "they are gone then"}, Take: m.askForget})
	todo := m.lists.Open("text was not saved when the program ended; Esc leaves it for later", "compare it", rows)
	m.lists.Left = func() surface.Intent { return surface.Say("{unsaved} shows them again") }
	return todo
}

func (m *Model) askForget() surface.Intent {
	return m.lists.Open("forget all texts that were not saved? They are gone then", "do it", []choice.Row{
		{Row: sheet.Row{What: "keep", Name: "no, offer them the next time"}},
		{Row: sheet.Row{What: "forget", Name: "yes, for good"}, Take: func() surface.Intent {
			all := m.left.texts
			m.left.texts = nil
			return surface.Begin(m.work(m.desk.DropLeft(all)))
		}},
	})
}

// takeLeft compares a text that was not saved with what is on disk.
func (m *Model) takeLeft(t recovery.Text) surface.Intent {
	m.left.texts = slices.DeleteFunc(slices.Clone(m.left.texts), func(o recovery.Text) bool { return o.Path == t.Path && o.At.Equal(t.At) })
	m.left.due, m.left.taken = len(m.left.texts) > 0, true // the others, after this one
	return surface.Begin(m.work(m.desk.CompareLeft(t)))
}

// choose lets one choose between two versions of a text.
func (m *Model) choose(c *desk.Comparison) surface.Intent {
	title, right := path.Base(c.Path())+" has changed on disk while you wrote in it", "yours"
	if c.Left != nil {
		title, right = path.Base(c.Path())+" was not saved when the program ended", "not saved"
	}
	return m.compare.Show(title, "on disk", right, c.Base, c.Regions, func(regions []write.Region) surface.Intent {
		return m.show(m.desk.Choose(c, regions))
	}, func() surface.Intent {
		if c.Left == nil {
			return surface.Intent{}
		}
		m.left.texts = append(m.left.texts, *c.Left)
		return surface.Say("the text that was not saved stays; {unsaved} shows it again")
	})
}

func (m *Model) tellRecovered(r desk.Report) surface.Intent {
	words := keymap.Marked("this is the text that was not saved; {undo} shows the file as it is on disk, {save} saves")
	if r.Text.State() == desk.Differing {
		words = keymap.Marked("this is the text that was not saved; the file has changed on disk since, and {save} lets you choose")
	}
	return surface.Go(surface.Visit{Path: r.Text.Path, Line: max(r.Left.Line, 1), Col: max(r.Left.Col, 1), How: "not saved", After: words})
}
