package app

import (
	"errors"
	"os"
	"path/filepath"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/recovery"
	"rooktrail/internal/ui/sheet"
)

// leave leaves the program. Texts that are not saved are kept for the next time first, and it is
// asked for twice; where they cannot be kept, it says what else can be done.
func (m *Model) leave() tea.Cmd {
	if len(m.unsaved()) == 0 {
		return m.quit()
	}
	sure := m.desk.sure
	m.desk.sure = true
	return m.keepAll(sure)
}

// leavingMsg says whether all texts that are not saved are kept for the next time.
type leavingMsg struct {
	sure bool // leaving was asked for before
	err  error
}

var errNotKept = errors.New("there is no folder for it")

// keepAll keeps all texts that are not saved, now.
func (m *Model) keepAll(sure bool) tea.Cmd {
	store := m.ws.Recovery()
	var texts []func() recovery.Text
	for _, p := range m.unsaved() {
		texts = append(texts, p.toKeep())
	}
	return func() tea.Msg {
		if store == nil {
			return leavingMsg{sure, errNotKept}
		}
		for _, t := range texts {
			if err := store.Keep(t()); err != nil {
				return leavingMsg{sure, err}
			}
		}
		return leavingMsg{sure, nil}
	}
}

// mayLeave leaves if all is kept and one is sure, and else says how it stands.
func (m *Model) mayLeave(msg leavingMsg) tea.Cmd {
	all := m.unsaved()
	switch {
	case len(all) == 0 || msg.err == nil && msg.sure:
		return m.quit()
	case msg.err != nil:
		return m.openLeaving(all, msg.err)
	case len(all) == 1:
		m.say("%s is not saved. Ctrl+Q again leaves; it is offered next time", shortName(all[0].path))
	default:
		m.say("%s are not saved. Ctrl+Q again leaves; they are offered next time. Ctrl+E s saves all", sheet.Count(len(all), "file", "files"))
	}
	return nil
}

// openLeaving lists what can be done with texts that can be neither saved nor kept.
func (m *Model) openLeaving(all []*pen, err error) tea.Cmd {
	m.desk.sure = false
	var back tea.Cmd
	if m.overlay != noOverlay {
		back = m.restore()
	}
	rows := []sheet.Row{{What: "stay", Name: "and go on", Value: func() tea.Cmd { return nil }}}
	for _, p := range all {
		rows = append(rows,
			sheet.Row{What: "save", Name: shortName(p.path), Where: "under another path", Reads: true, Value: func() tea.Cmd {
				m.askLine("save it as:", m.ws.Absolute(p.path), func(answer string) tea.Cmd { return m.saveAs(p, answer) })
				return nil
			}},
			sheet.Row{What: "copy", Name: shortName(p.path), Where: "to the clipboard, all of it", Reads: true, Value: func() tea.Cmd {
				return m.copy(string(p.editor.Document().Bytes()), "the text of "+shortName(p.path))
			}})
	}
	rows = append(rows,
		sheet.Row{What: "keep", Name: "all of it in another folder", Value: func() tea.Cmd { return m.askFolder(all) }},
		sheet.Row{What: "again", Name: "try to keep it and leave", Value: func() tea.Cmd { return m.keepAll(true) }},
		sheet.Row{What: "lose", Name: "what is not saved, and leave", Value: func() tea.Cmd { return m.quit() }})
	m.openChoice("leaving now would LOSE what is not saved, since "+whyNotSaved(err), "do it", rows)
	return back
}

// askFolder asks for a folder and writes the texts there.
func (m *Model) askFolder(all []*pen) tea.Cmd {
	type kept struct {
		name string
		text []byte
	}
	var texts []kept
	for _, p := range all {
		texts = append(texts, kept{filepath.Base(p.path), p.editor.Document().Bytes()})
	}
	m.askLine("keep it in the folder:", os.TempDir(), func(folder string) tea.Cmd {
		return func() tea.Msg {
			var written string
			for _, t := range texts {
				name, err := writeNew(folder, t.name, t.text)
				if err != nil {
					return noteMsg(t.name + " is not written there: " + whyNotSaved(err))
				}
				written = name
			}
			if len(texts) > 1 {
				return noteMsg("all of it is in " + folder + " now; the files themselves are as they were")
			}
			return noteMsg("it is in " + written + " now; the file itself is as it was")
		}
	})
	return nil
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
