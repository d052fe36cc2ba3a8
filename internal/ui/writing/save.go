package writing

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// save saves the file on the screen.
func (m *Model) save() surface.Intent {
	p := m.pen()
	if p == nil {
		return m.host.Here().Lack(path.Base(m.host.Code().Path()) + " is as it was saved")
	}
	return m.show(m.desk.Save(p.Text))
}

// work does some work of the desk beside the screen, and shows what came of it.
func (m *Model) work(w desk.Work) tea.Cmd {
	if w == nil {
		return nil
	}
	return surface.Do(m.asker, func(ctx context.Context) func() desk.Result { return w(ctx) }, func(then func() desk.Result) surface.Intent { return m.show(then()) })
}

// held keeps keys until some work is done.
func (m *Model) held(w desk.Work) desk.Work {
	m.holding++
	return func(ctx context.Context) func() desk.Result {
		then := w(ctx)
		return func() desk.Result {
			m.holding--
			return then()
		}
	}
}

// show shows what came of something on the desk, and goes on with it.
func (m *Model) show(r desk.Result) (todo surface.Intent) {
	for _, report := range r.Said {
		todo = todo.And(m.tell(report))
	}
	for _, c := range r.Rewritten {
		todo = todo.And(m.rewrote(m.penOf(c.Text.Path), c.Before))
	}
	for _, s := range r.Saved {
		todo = todo.And(surface.Begin(tea.Batch(m.settle(s.Text.Path, s.Doc), m.keepHistory(s.Text))))
	}
	for _, w := range r.Work {
		if r.Hold {
			w = m.held(w)
		}
		todo = todo.And(surface.Begin(m.work(w)))
	}
	switch {
	case r.Left:
		todo.Quit = true
	case r.Compare != nil:
		todo = todo.And(m.choose(r.Compare))
	case r.Recovered != nil:
		p := m.penOf(r.Recovered.Path)
		p.edits = 1
		m.project.Hold(p.Path, p.Editor.Document())
		todo = todo.And(surface.Begin(m.takeIn(p)))
	}
	return todo
}

// SaveFirst saves those texts of files that are written and not saved, as they are, and goes on then; nothing is done
// if one cannot be saved.
func (m *Model) SaveFirst(paths []string, then func() surface.Intent) surface.Intent {
	type saving struct {
		text  *desk.Text
		doc   *text.Document
		stamp text.Stamp
	}
	var all []*saving
	for _, p := range paths {
		t := m.desk.Text(p)
		if t == nil || t.State() == desk.AsSaved {
			continue
		}
		if t.State() != desk.Unsaved {
			return surface.Say("nothing is changed: %s is not saved, and has changed on disk or is being saved just now", p)
		}
		all = append(all, &saving{text: t, doc: t.Editor.Document()})
	}
	if len(all) == 0 {
		return then()
	}
	project := m.project
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) error {
		for _, s := range all {
			var err error
			if s.stamp, err = project.Save(ctx, s.text.Path, s.doc, desk.Saving{Was: s.text.Stamp(), Base: s.text.Base()}); err != nil {
				return fmt.Errorf("nothing is changed: %s is not saved: %w", s.text.Path, err)
			}
		}
		return nil
	}, func(err error) surface.Intent {
		var todo surface.Intent
		for _, s := range all {
			if s.stamp == (text.Stamp{}) || s.text.Editor.Document() != s.doc {
				continue
			}
			m.desk.Renewed(s.text, s.doc, s.stamp)
			todo = todo.And(surface.Begin(tea.Batch(m.settle(s.text.Path, s.doc), m.keepHistory(s.text))))
		}
		if err != nil {
			return todo.And(surface.SayError(err))
		}
		return todo.And(then())
	}))
}

// tell says what a report tells.
func (m *Model) tell(r desk.Report) surface.Intent {
	name := ""
	if r.Text != nil {
		name = path.Base(r.Text.Path)
	}
	switch r.What {
	case desk.NothingToSave:
		if r.Text == nil {
			return surface.Say("everything is saved")
		}
		return surface.Say("%s is as it was saved", name)
	case desk.SavedNow:
		if r.Err != nil {
			return surface.Say("%s is saved as it is, since its formatter failed: %s", name, r.Err)
		}
		return surface.Intent{Say: name + " is saved", Keep: true}
	case desk.NotSaved:
		return m.tellNotSaved(r, name)
	case desk.AllSaved:
		todo := m.tellTogether(r.Together)
		todo.Keep = true
		return todo
	case desk.SavedAs:
		return m.tellSavedAs(r, name)
	case desk.ChangedOnDisk:
		return surface.Say("%s has changed on disk while you write in it; yours is kept, and {save} lets you choose", name)
	case desk.Unreadable:
		return surface.Say("the file on disk cannot be read; {save} once more writes yours there")
	case desk.TheSame:
		return surface.Say("what is on disk is the same as what you wrote")
	case desk.Merged:
		if r.Both > 0 {
			return surface.Say("brought together, not saved yet; in %s both versions stand, between marks like <<<<<<<", sheet.Count(r.Both, "place", "places"))
		}
		return surface.Say("that stands here now; {save} saves it")
	case desk.TookTheirs:
		return surface.Say("this is what is on disk; {undo} brings back what you wrote")
	case desk.NotKept:
		return surface.Say("NOT kept for the next time: %s, since %s; save it", name, desk.Why(r.Err))
	case desk.KeptAgain:
		return surface.Say("what is not saved of %s is kept beside again", name)
	case desk.IsRecovered:
		return m.tellRecovered(r)
	case desk.WrittenAlready:
		m.left.texts = append(m.left.texts, *r.Left)
		return surface.Say("%s is being written in already; save that first, and {unsaved} shows this again", r.Left.Path)
	case desk.Forgotten:
		return surface.Say("they are forgotten")
	case desk.AskedToLeave:
		all := m.desk.Unsaved()
		if len(all) == 1 {
			return surface.Say("%s is not saved. {quit} again leaves; it is offered next time", path.Base(all[0].Path))
		}
		return surface.Say("%s are not saved. {quit} again leaves; they are offered next time. {save-all} saves all", sheet.Count(len(all), "file", "files"))
	case desk.WouldLose:
		return m.offerLeaving(r.Err)
	}
	return surface.SayError(r.Err)
}

// tellNotSaved says why a text is not on disk, and what one can do.
func (m *Model) tellNotSaved(r desk.Report, name string) surface.Intent {
	err := r.Err
	switch {
	case errors.Is(err, text.ErrChanged):
		if m.host.Code().Path() == r.Text.Path && !m.host.Covered() {
			return m.show(m.desk.Save(r.Text))
		}
		return surface.Say("%s has changed on disk since; it is not saved. {save} there lets you choose", r.Text.Path)
	case errors.Is(err, text.ErrReadOnly):
		return surface.Say("%s is not saved, it is read-only; what you wrote is kept. {save-as} saves elsewhere", name)
	case errors.Is(err, text.ErrNotLatin1):
		return surface.Say("%s is not saved: %s; {save} once more saves it as UTF-8", name, desk.Why(err))
	case r.AskedOver:
		return surface.Say("not saved, its folder is locked; {save} overwrites it, unsafe if interrupted; a copy of what you wrote is kept till that is done")
	case errors.Is(err, desk.ErrNowhereKept):
		return surface.Say("%s is not saved: %s", name, err)
	}
	return surface.Say("%s is not saved: %s; what you wrote stays here, and is kept", name, desk.Why(err))
}

// why says in a few words why one of several texts was not saved.
func why(r desk.Report) string {
	switch {
	case errors.Is(r.Err, text.ErrChanged):
		return keymap.Marked("it has changed on disk; {save} there lets you choose")
	case errors.Is(r.Err, text.ErrReadOnly):
		return "it is read-only"
	case errors.Is(r.Err, text.ErrNotLatin1):
		return desk.Why(r.Err) + keymap.Marked("; {save} there saves it as UTF-8")
	case errors.Is(r.Err, text.ErrFolderLocked):
		return keymap.Marked("its folder is locked; {save} there can write over it")
	}
	return desk.Why(r.Err)
}

// tellTogether says what became of texts that were saved together: those that
// are not saved by name, and why.
func (m *Model) tellTogether(all *desk.Together) surface.Intent {
	saved, not := len(all.Saved), all.Not
	switch {
	case len(not) == 0 && saved == 1:
		return surface.Say("%s is saved", path.Base(all.Saved[0]))
	case len(not) == 0:
		return surface.Say("%s are saved", sheet.Count(saved, "file", "files"))
	case len(not) == 1 && saved == 0:
		return surface.Say("%s is not saved: %s", path.Base(not[0].Text.Path), why(not[0]))
	case len(not) == 1:
		return surface.Say("%s is NOT saved: %s; %s saved", path.Base(not[0].Text.Path), why(not[0]), sheet.Count(saved, "file is", "files are"))
	case m.host.Covered():
		return surface.Say("%s NOT saved; {save-all} tells which and why", sheet.Count(len(not), "file is", "files are"))
	}
	var rows []choice.Row
	for _, r := range not {
		p := r.Text.Path
		rows = append(rows, choice.Row{
			Row:  sheet.Row{What: "not saved", Name: p, Where: m.keys.Fill(why(r), true), Reads: true},
			Take: func() surface.Intent { return surface.Go(surface.Visit{Path: p, How: "not saved"}) },
		})
	}
	return m.lists.Open(sheet.Count(saved, "file is", "files are")+" saved, these are not", "go there", rows)
}

func (m *Model) tellSavedAs(r desk.Report, name string) surface.Intent {
	switch {
	case errors.Is(r.Err, text.ErrChanged):
		return surface.Say("%s is there already and is not written over; choose another path", r.To)
	case r.Err != nil:
		return surface.Say("%s is not written: %s; what you wrote stays here, and is kept", r.To, desk.Why(r.Err))
	}
	line, col := r.Text.Editor.Document().Position(r.Text.Editor.Main().At)
	return surface.Go(surface.Visit{Path: r.To, Line: line, Col: col, How: "saved as", After: r.To + " is written; " + name + " is as it was"})
}

// askFolder makes the folder of a file under which a text is to be saved, if one agrees.
func (m *Model) askFolder(t *desk.Text, to, folder string) surface.Intent {
	return m.asks.Ask("its folder is not there; Enter makes it:", to, func(answer string) surface.Intent {
		if path.Clean(answer) != to {
			return m.saveAs(t, answer)
		}
		return surface.Begin(surface.Do(m.asker, func(context.Context) error { return os.MkdirAll(folder, 0o777) }, func(err error) surface.Intent {
			if err != nil {
				return surface.Say("the folder of %s cannot be made: %s", to, desk.Why(err))
			}
			return surface.Begin(m.work(m.desk.SaveAs(t, to)))
		}))
	})
}

// Leave leaves the program. Texts that are not saved are kept for the next time first, and it is
// asked for twice; where they cannot be kept, it says what else can be done.
func (m *Model) Leave() surface.Intent { return m.show(m.desk.Leave(false)) }

// offerLeaving lists what can be done with texts that can be neither saved nor kept.
func (m *Model) offerLeaving(err error) surface.Intent {
	all := m.desk.Unsaved()
	rows := []choice.Row{{Row: sheet.Row{What: "stay", Name: "and go on"}}}
	for _, t := range all {
		name := path.Base(t.Path)
		rows = append(rows,
			choice.Row{Row: sheet.Row{What: "save", Name: name, Where: "under another path", Reads: true}, Take: func() surface.Intent {
				return m.asks.Ask("save it as:", m.project.Absolute(t.Path), func(answer string) surface.Intent { return m.saveAs(t, answer) })
			}},
			choice.Row{Row: sheet.Row{What: "copy", Name: name, Where: "to the clipboard, all of it", Reads: true}, Take: func() surface.Intent {
				return surface.Intent{Copy: &surface.Copy{Text: string(t.Editor.Document().Bytes()), What: "the text of " + name}}
			}})
	}
	rows = append(rows,
		choice.Row{Row: sheet.Row{What: "keep", Name: "all of it in another folder"}, Take: func() surface.Intent { return m.askElsewhere(all) }},
		choice.Row{Row: sheet.Row{What: "again", Name: "try to keep it and leave"}, Take: func() surface.Intent { return m.show(m.desk.Leave(true)) }},
		choice.Row{Row: sheet.Row{What: "lose", Name: "what is not saved, and leave"}, Take: func() surface.Intent { return surface.Intent{Quit: true} }})
	return m.lists.Open("leaving now would LOSE what is not saved, since "+desk.Why(err), "do it", rows)
}

// askElsewhere asks for a folder and writes the texts there.
func (m *Model) askElsewhere(all []*desk.Text) surface.Intent {
	type kept struct {
		name string
		text []byte
	}
	var texts []kept
	for _, t := range all {
		texts = append(texts, kept{filepath.Base(t.Path), t.Editor.Document().Bytes()})
	}
	return m.asks.Ask("keep it in the folder:", os.TempDir(), func(folder string) surface.Intent {
		return surface.Begin(surface.Do(m.asker, func(context.Context) string {
			var written string
			for _, t := range texts {
				name, err := writeNew(folder, t.name, t.text)
				if errors.Is(err, fs.ErrNotExist) {
					return t.name + " is not written: there is no folder " + folder
				}
				if err != nil {
					return t.name + " is not written there: " + desk.Why(err)
				}
				written = name
			}
			if len(texts) > 1 {
				return "all of it is in " + folder + " now; the files themselves are as they were"
			}
			return "it is in " + written + " now; the file itself is as it was"
		}, func(words string) surface.Intent { return surface.Say("%s", words) }))
	})
}

// writeNew writes a file of a name that is not taken in a folder, and gives its path.
func writeNew(folder, name string, text []byte) (string, error) {
	ext := filepath.Ext(name)
	f, err := os.CreateTemp(folder, name[:len(name)-len(ext)]+"-*"+ext)
	if err != nil {
		return "", err
	}
	_, err = f.Write(text)
	if err == nil {
		err = f.Sync()
	}
	if err = errors.Join(err, f.Close()); err != nil {
		return "", errors.Join(err, os.Remove(f.Name()))
	}
	return f.Name(), nil
}
