package tree

import (
	"context"
	"path"
	"slices"
	"strings"
	"unicode"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// key acts on a key while no question is open.
func (m *Model) key(k tea.KeyPressMsg) surface.Intent {
	e, ok := m.Chosen()
	if rows, ok := keymap.Step(k.String(), m.Height-3, m.list.Len()); ok {
		return m.move(rows)
	}
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		if m.typed != "" {
			m.jump("")
			return surface.Intent{}
		}
		return surface.Close()
	case keymap.Is(k.String(), keymap.Ends.Take):
		if ok && e.Folder {
			return surface.Begin(m.toggle(e.Path))
		}
		if ok {
			return surface.Go(surface.Visit{Path: e.Path, How: "folders"})
		}
	case keymap.Is(k.String(), on.Right):
		return m.right()
	case keymap.Is(k.String(), on.Left):
		return m.left()
	case keymap.Is(k.String(), on.Only):
		m.only = !m.only
		m.lay(e.Path)
		return m.selected()
	case keymap.Is(k.String(), on.Back):
		if m.typed != "" {
			r := []rune(m.typed)
			return surface.Begin(m.jump(string(r[:len(r)-1]))).And(m.selected())
		}
	default:
		return m.command(k)
	}
	return surface.Intent{}
}

// command acts on the keys that do something with the chosen entry, and takes
// letters.
func (m *Model) command(k tea.KeyPressMsg) surface.Intent {
	e, ok := m.Chosen()
	switch {
	case keymap.Is(k.String(), on.Shut):
		m.open = map[string]bool{root: true}
		m.lay(strings.Split(e.Path, "/")[0])
		return m.selected()
	case keymap.Is(k.String(), on.New):
		m.askCreate()
		return surface.Intent{}
	case keymap.Is(k.String(), on.Undo):
		return surface.Begin(m.undo())
	}
	if text := k.Text; text != "" && !strings.ContainsFunc(text, unicode.IsControl) && k.Mod&(tea.ModAlt|tea.ModCtrl) == 0 {
		return surface.Begin(m.jump(m.typed + text)).And(m.selected())
	}
	m.typed = ""
	if !ok {
		return surface.Intent{}
	}
	switch {
	case keymap.Is(k.String(), on.Rename):
		m.ask(rename, e.Path, "rename or move "+e.Path+" to", e.Path)
	case keymap.Is(k.String(), on.Delete):
		return surface.Begin(m.askRemove(e.Path, e.Folder))
	case keymap.Is(k.String(), on.Path):
		return m.copyPath(e.Path)
	case keymap.Is(k.String(), on.Hand):
		return m.handOn(e.Path)
	}
	return surface.Intent{}
}

// copyPath copies the path of an entry from the root of the project; again, the whole path.
func (m *Model) copyPath(path string) surface.Intent {
	if m.copied == path {
		m.copied = ""
		path = m.files.Absolute(path)
	} else {
		m.copied = path
	}
	return surface.Intent{Copy: &surface.Copy{Text: path, What: path}}
}

// handOn asks to which program an entry is to be handed.
func (m *Model) handOn(path string) surface.Intent {
	return m.programs.Open("hand "+path+" to", "hand it on", []choice.Row{
		{Row: sheet.Row{Name: "your editor"}, Take: func() surface.Intent { return surface.Intent{Edit: path} }},
		{Row: sheet.Row{Name: "the desktop's program for it"}, Take: func() surface.Intent { return surface.Intent{Desktop: path} }},
	})
}

func (m *Model) move(rows int) surface.Intent {
	m.typed = ""
	m.list.Move(rows)
	return m.selected()
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
func (m *Model) right() surface.Intent {
	e, ok := m.Chosen()
	switch {
	case !ok || !e.Folder:
		return surface.Intent{}
	case !m.open[e.Path] && !m.only:
		return surface.Begin(m.toggle(e.Path))
	}
	return m.move(1)
}

// left closes the chosen folder, or goes out to the one around.
func (m *Model) left() surface.Intent {
	e, ok := m.Chosen()
	switch {
	case !ok:
		return surface.Intent{}
	case e.Folder && m.open[e.Path] && !m.only:
		return surface.Begin(m.toggle(e.Path))
	}
	outer := path.Dir(e.Path)
	if i := slices.IndexFunc(m.rows, func(r row) bool { return r.Path == outer }); i >= 0 {
		_, at, _ := m.list.Chosen()
		return m.move(i - at)
	}
	return surface.Intent{}
}

// jump goes to the next entry from the chosen one on whose name begins with what
// is typed, or else holds it; if none is in sight, to a file anywhere in the
// project.
func (m *Model) jump(typed string) tea.Cmd {
	m.typed = typed
	e, _ := m.Chosen()
	_, at, _ := m.list.Chosen()
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
	files := m.files
	return surface.Ask(m.asker, func(ctx context.Context) string {
		for _, h := range files.Files(ctx, typed, 1) {
			return h.Path
		}
		return ""
	}, func(found string) surface.Intent {
		if found == "" {
			return surface.Intent{}
		}
		return surface.Begin(m.reveal(found))
	})
}

// ask opens a question that is answered by typing.
func (m *Model) ask(what question, about, words, value string) {
	m.asking.what, m.asking.path, m.asking.words = what, about, words
	m.asking.input.Put(value)
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
	return surface.Ask(m.counter, func(ctx context.Context) string {
		words := "delete " + p
		if folder {
			n, c := files.Below(ctx, p, mostCounted)
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
		return words + "?"
	}, func(words string) surface.Intent {
		if m.asking.what == remove && m.asking.path == p {
			m.asking.words = words
		}
		return surface.Intent{}
	})
}

// answer acts on a key while a question is open.
func (m *Model) answer(k tea.KeyPressMsg) surface.Intent {
	a := &m.asking
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		a.what = nothing
		return surface.Intent{}
	case keymap.Is(k.String(), keymap.Ends.Take):
		if a.what != remove {
			return surface.Begin(m.carryOut())
		}
	case keymap.Is(k.String(), on.Delete):
		if a.what == remove && a.words != "" { // one has to have seen what would go
			return surface.Begin(m.carryOut())
		}
	}
	if a.what != remove {
		a.input.Edit(k)
	}
	return surface.Intent{}
}

// carryOut does what was asked for.
func (m *Model) carryOut() tea.Cmd {
	a := m.asking
	m.asking.what = nothing
	files, value := m.files, a.input.Value()
	return surface.Do(m.asker, func(ctx context.Context) done {
		switch a.what {
		case create:
			made, err := files.Create(ctx, value)
			return done{words: made + " is there now; " + on.Undo.Help().Key + " takes it back", moved: filing.Moved{To: made}, choose: made, err: err}
		case rename:
			if p, err := files.Move(ctx, a.path, value); err == nil && (p.Count().Places > 0 || p.Count().Out > 0) {
				return done{proposal: p}
			}
			to, err := files.Rename(ctx, a.path, value) // nothing refers to it, or it is said why it cannot be
			return done{words: a.path + " is " + to + " now; " + on.Undo.Help().Key + " takes it back", moved: filing.Moved{From: a.path, To: to}, choose: to, err: err}
		}
		err := files.Delete(ctx, a.path)
		return done{words: a.path + " is in the trash; " + on.Undo.Help().Key + " brings it back", moved: filing.Moved{From: a.path}, err: err}
	}, m.carriedOut)
}

func (m *Model) undo() tea.Cmd {
	files := m.files
	return surface.Do(m.asker, func(ctx context.Context) done {
		did, moved, err := files.Undo(ctx)
		words := "undone: " + did
		if did == "" {
			words = "there is nothing to undo"
		}
		return done{words: words, moved: moved, choose: moved.To, err: err}
	}, m.carriedOut)
}
