package tree

import (
	"context"
	"path"
	"slices"
	"strings"
	"unicode"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/filing"
	"rooktrail/internal/ui/sheet"
)

// key acts on a key while no question is open.
func (m *Model) key(k tea.KeyPressMsg) (tea.Cmd, Event) {
	e, ok := m.Chosen()
	switch k.String() {
	case "esc":
		if m.typed != "" {
			m.jump("")
			return nil, Nothing
		}
		return nil, Closed
	case "enter":
		if ok && e.Folder {
			return m.toggle(e.Path), Nothing
		}
		if ok {
			return nil, Taken
		}
	case "down", "ctrl+n":
		return nil, m.move(1)
	case "up", "ctrl+p":
		return nil, m.move(-1)
	case "pgdown":
		return nil, m.move(max(m.height-3, 1))
	case "pgup":
		return nil, m.move(-max(m.height-3, 1))
	case "home":
		return nil, m.move(-m.list.Len())
	case "end":
		return nil, m.move(m.list.Len())
	case "right":
		return m.right()
	case "left":
		return m.left()
	case "tab":
		m.only = !m.only
		m.lay(e.Path)
		return nil, Selected
	case "backspace":
		if m.typed != "" {
			r := []rune(m.typed)
			return m.jump(string(r[:len(r)-1])), Selected
		}
	default:
		return m.command(k)
	}
	return nil, Nothing
}

// command acts on the keys that do something with the chosen entry, and takes
// letters.
func (m *Model) command(k tea.KeyPressMsg) (tea.Cmd, Event) {
	e, ok := m.Chosen()
	switch k.String() {
	case "alt+c":
		m.open = map[string]bool{root: true}
		m.lay(strings.Split(e.Path, "/")[0])
		return nil, Selected
	case "alt+n":
		m.askCreate()
		return nil, Nothing
	case "alt+u":
		return m.undo(), Nothing
	}
	if text := k.Text; text != "" && !strings.ContainsFunc(text, unicode.IsControl) && k.Mod&(tea.ModAlt|tea.ModCtrl) == 0 {
		return m.jump(m.typed + text), Selected
	}
	m.typed = ""
	if !ok {
		return nil, Nothing
	}
	switch k.String() {
	case "alt+r":
		m.ask(rename, e.Path, "rename or move "+e.Path+" to", e.Path)
	case "alt+d":
		return m.askRemove(e.Path, e.Folder), Nothing
	case "alt+p":
		return nil, CopyPath
	case "alt+a":
		return nil, CopyAbsolute
	case "alt+e":
		return nil, Edit
	case "alt+x":
		return nil, Open
	}
	return nil, Nothing
}

func (m *Model) move(rows int) Event {
	m.typed = ""
	m.list.Move(rows)
	return Selected
}

// toggle opens a folder or closes it.
func (m *Model) toggle(folder string) tea.Cmd {
	m.typed = ""
	if m.only {
		return nil
	}
	if m.open[folder] = !m.open[folder]; m.open[folder] {
		return m.browse(folder)
	}
	m.lay(folder)
	return nil
}

// right opens the chosen folder, or goes on to what is in it.
func (m *Model) right() (tea.Cmd, Event) {
	e, ok := m.Chosen()
	switch {
	case !ok || !e.Folder:
		return nil, Nothing
	case !m.open[e.Path] && !m.only:
		return m.toggle(e.Path), Nothing
	}
	return nil, m.move(1)
}

// left closes the chosen folder, or goes out to the one around.
func (m *Model) left() (tea.Cmd, Event) {
	e, ok := m.Chosen()
	switch {
	case !ok:
		return nil, Nothing
	case e.Folder && m.open[e.Path] && !m.only:
		return m.toggle(e.Path), Nothing
	}
	outer := path.Dir(e.Path)
	if i := slices.IndexFunc(m.rows, func(r row) bool { return r.Path == outer }); i >= 0 {
		_, at, _ := m.list.Chosen()
		return nil, m.move(i - at)
	}
	return nil, Nothing
}

// jump goes to the next entry from the chosen one on whose name begins with what
// is typed, or else holds it; if none is in sight, to a file anywhere in the
// project.
func (m *Model) jump(typed string) tea.Cmd {
	m.typed = typed
	e, _ := m.Chosen()
	_, at, _ := m.list.Chosen()
	m.number++
	want := strings.ToLower(typed)
	best, choose := 0, e.Path
	for i := range m.rows {
		r := m.rows[(at+i)%len(m.rows)]
		name := strings.ToLower(r.Name)
		rank := 0
		switch {
		case strings.HasPrefix(name, want):
			rank = 2
		case strings.Contains(name, want):
			rank = 1
		}
		if rank > best {
			best, choose = rank, r.Path
		}
	}
	m.lay(choose)
	if best > 0 || typed == "" || m.only {
		return nil
	}
	number, files := m.number, m.files
	m.busy++
	return func() tea.Msg {
		for _, h := range files.Files(context.Background(), typed, 1) {
			return jumpMsg{number, h.Path}
		}
		return jumpMsg{number: number}
	}
}

// ask opens a question that is answered by typing.
func (m *Model) ask(what question, about, words, value string) {
	m.asking.what, m.asking.path, m.asking.words = what, about, words
	m.asking.input.SetValue(value)
	m.asking.input.CursorEnd()
}

// askCreate asks for the name of something new beside the chosen entry, or in it
// if that is an open folder.
func (m *Model) askCreate() {
	in := root
	if e, ok := m.Chosen(); ok {
		in = path.Dir(e.Path)
		if e.Folder && m.open[e.Path] {
			in = e.Path
		}
	}
	value := ""
	if in != root {
		value = in + "/"
	}
	m.ask(create, in, "new file, or with / at the end a new folder", value)
}

// mostCounted is up to how many files are counted before a folder is deleted.
const mostCounted = 10_000

// askRemove asks whether something is to be deleted, and says what would go with
// it.
func (m *Model) askRemove(p string, folder bool) tea.Cmd {
	m.ask(remove, p, "", "")
	files, changed := m.files, m.changed[p]
	return func() tea.Msg {
		words := "delete " + p
		if folder {
			n, c := files.Below(context.Background(), p, mostCounted)
			words += "/ with " + sheet.Count(n, "file", "files")
			if n >= mostCounted {
				words += " and more"
			}
			if c > 0 {
				words += ", " + sheet.Number(c) + " of them not committed as they are"
			}
		} else if changed {
			words += ", which is not committed as it is"
		}
		return askedMsg{p, words + "?"}
	}
}

// answer acts on a key while a question is open.
func (m *Model) answer(k tea.KeyPressMsg) (tea.Cmd, Event) {
	a := &m.asking
	switch k.String() {
	case "esc":
		a.what = nothing
		return nil, Nothing
	case "enter":
		if a.what != remove {
			return m.carryOut(), Nothing
		}
	case "alt+d":
		if a.what == remove && a.words != "" { // one has to have seen what would go
			return m.carryOut(), Nothing
		}
	}
	if a.what != remove {
		a.input, _ = a.input.Update(k)
	}
	return nil, Nothing
}

// carryOut does what was asked for.
func (m *Model) carryOut() tea.Cmd {
	a := m.asking
	m.asking.what = nothing
	files, value := m.files, a.input.Value()
	m.busy++
	ctx := context.Background()
	switch a.what {
	case create:
		return func() tea.Msg {
			made, err := files.Create(ctx, value)
			return doneMsg{words: made + " is there now; Alt+U takes it back", moved: filing.Moved{To: made}, choose: made, err: err}
		}
	case rename:
		return func() tea.Msg {
			to, err := files.Rename(ctx, a.path, value)
			return doneMsg{words: a.path + " is " + to + " now; Alt+U takes it back", moved: filing.Moved{From: a.path, To: to}, choose: to, err: err}
		}
	}
	return func() tea.Msg {
		err := files.Delete(ctx, a.path)
		return doneMsg{words: a.path + " is in the trash; Alt+U brings it back", moved: filing.Moved{From: a.path}, err: err}
	}
}

func (m *Model) undo() tea.Cmd {
	files := m.files
	m.busy++
	return func() tea.Msg {
		did, moved, err := files.Undo(context.Background())
		words := "undone: " + did
		if did == "" {
			words = "there is nothing to undo"
		}
		return doneMsg{words: words, moved: moved, choose: moved.To, err: err}
	}
}
