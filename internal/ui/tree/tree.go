// Package tree is the sheet that shows the folders of the project and what is in
// them, and in which files and folders are created, renamed, moved and deleted.
package tree

import (
	"context"
	"path"
	"slices"
	"strconv"
	"strings"

	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/filing"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/sheet"
)

// Files is what the tree shows and changes; see workspace.Workspace.
type Files interface {
	Name() string
	Browse(folder string) ([]workspace.Entry, error)
	Differing(ctx context.Context) (changed, fresh map[string]bool)
	Below(ctx context.Context, folder string, most int) (files, changed int)
	Files(ctx context.Context, query string, limit int) []workspace.FileHit
	Create(ctx context.Context, path string) (string, error)
	Rename(ctx context.Context, from, to string) (string, error)
	Delete(ctx context.Context, path string) error
	Undo(ctx context.Context) (did string, moved filing.Moved, err error)
}

// Event is what came of a key.
type Event uint8

// The events.
const (
	Nothing      Event = iota
	Selected           // another file is chosen; show it
	Taken              // the chosen file is what was wanted
	Closed             // put everything back as it was
	Moved              // files have moved; see Model.Moved
	CopyPath           // copy the path of the chosen one
	CopyAbsolute       // copy its whole path
	Edit               // hand it to the editor
	Open               // hand it to the desktop
)

// root is the path of the project's folder.
const root = "."

// Model is the sheet.
type Model struct {
	files   Files
	list    sheet.Model
	height  int
	open    map[string]bool              // the folders that are open
	inside  map[string][]workspace.Entry // what is in those that were looked into
	failed  map[string]string            // why a folder could not be
	rows    []row
	changed map[string]bool
	fresh   map[string]bool
	holding map[string]int // how many changed files are below a folder
	marked  map[string]int // how many bookmarks are in a file or folder
	unsaved map[string]int // how many files with text that is not saved are below a folder, and each of them
	only    bool           // only what has changed is shown
	wanted  string         // the path to choose as soon as it is there
	typed   string         // letters of a name to jump to
	asking  asking
	note    string // what came of what was done last
	moved   filing.Moved
	number  int // of the latest jump that is looked for
	busy    int // how many answers are on their way
}

// row is an entry as it is shown.
type row struct {
	workspace.Entry
	depth int
}

// asking is a question that is open.
type asking struct {
	what  question
	input textinput.Model
	path  string // what it is about
	words string // what is asked
}

type question uint8

const (
	nothing question = iota
	create
	rename
	remove
)

// New makes a tree.
func New(files Files) *Model {
	in := entry.New()
	return &Model{
		files: files, open: map[string]bool{root: true}, inside: map[string][]workspace.Entry{},
		failed: map[string]string{}, asking: asking{input: in},
	}
}

// browsedMsg brings what is in some folders.
type browsedMsg struct {
	inside map[string][]workspace.Entry
	failed map[string]string
}

// changedMsg brings what differs from the last commit.
type changedMsg struct{ changed, fresh map[string]bool }

// jumpMsg brings a file whose name was typed, from anywhere in the project.
type jumpMsg struct {
	number int
	path   string
}

// askedMsg brings the words of a question that took some counting.
type askedMsg struct{ path, words string }

// doneMsg says what came of creating, renaming, deleting or undoing.
type doneMsg struct {
	words  string
	moved  filing.Moved
	choose string
	err    error
}

// Marked tells how many bookmarks are in each file and folder.
func (m *Model) Marked(marked map[string]int) { m.marked = marked }

// Unsaved tells which files have text that is not saved.
func (m *Model) Unsaved(paths map[string]bool) {
	m.unsaved = map[string]int{}
	for p := range paths {
		m.unsaved[p]++
		for dir := path.Dir(p); dir != root && dir != "/"; dir = path.Dir(dir) {
			m.unsaved[dir]++
		}
	}
}

// Show opens the tree at a file or folder.
func (m *Model) Show(at string, height int) tea.Cmd {
	m.height, m.typed, m.note, m.asking.what = height, "", "", nothing
	m.wanted = at
	for dir := path.Dir(at); at != "" && dir != root && dir != "/"; dir = path.Dir(dir) {
		m.open[dir] = true
	}
	return m.look()
}

// look reads the open folders and what has changed anew.
func (m *Model) look() tea.Cmd {
	folders := []string{root}
	for f := range m.open {
		if f != root {
			folders = append(folders, f)
		}
	}
	return tea.Batch(m.browse(folders...), func() tea.Msg {
		changed, fresh := m.files.Differing(context.Background())
		return changedMsg{changed, fresh}
	})
}

// browse looks into folders.
func (m *Model) browse(folders ...string) tea.Cmd {
	files := m.files
	m.busy++
	return func() tea.Msg {
		msg := browsedMsg{map[string][]workspace.Entry{}, map[string]string{}}
		for _, f := range folders {
			entries, err := files.Browse(f)
			if err != nil {
				msg.failed[f] = err.Error()
				continue
			}
			msg.inside[f] = entries
		}
		return msg
	}
}

// Busy says that something is on its way; keys are meant for when it is there.
func (m *Model) Busy() bool { return m.busy > 0 }

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.height = height }

// Chosen is the chosen entry.
func (m *Model) Chosen() (workspace.Entry, bool) {
	_, i, ok := m.list.Chosen()
	if !ok || i >= len(m.rows) {
		return workspace.Entry{}, false
	}
	return m.rows[i].Entry, true
}

// Moved tells what has moved, with the event of that name.
func (m *Model) Moved() filing.Moved { return m.moved }

// lay works out the rows from what is open, and chooses a path, or the nearest
// thing that is still there.
func (m *Model) lay(choose string) {
	_, before, _ := m.list.Chosen()
	m.rows = m.rows[:0]
	if m.only {
		m.layChanged()
	} else {
		m.layFolder(root, 0)
	}
	at := min(before, max(len(m.rows)-1, 0))
	if i := slices.IndexFunc(m.rows, func(r row) bool { return r.Path == choose }); i >= 0 {
		at = i
	}
	shown := make([]sheet.Row, len(m.rows))
	for i, r := range m.rows {
		shown[i] = m.row(r)
	}
	note := ""
	if n := len(m.changed); n > 0 {
		note = sheet.Count(n, "file differs", "files differ") + " from the last commit"
	}
	if m.only {
		note = "only what differs from the last commit"
	}
	m.list.Set([]sheet.Section{{Title: m.files.Name(), Note: note, Rows: shown}}, at)
}

func (m *Model) layFolder(folder string, depth int) {
	for _, e := range m.inside[folder] {
		m.rows = append(m.rows, row{e, depth})
		if e.Folder && m.open[e.Path] && depth < deepest {
			m.layFolder(e.Path, depth+1)
		}
	}
}

// deepest is how deep folders can be opened, as links may lead in a circle.
const deepest = 60

// layChanged lays out the changed files alone, below their folders.
func (m *Model) layChanged() {
	paths := make([]string, 0, len(m.changed))
	for p := range m.changed {
		paths = append(paths, p)
	}
	slices.Sort(paths)
	var around []string
	for _, p := range paths {
		parts := strings.Split(path.Dir(p), "/")
		if parts[0] == root {
			parts = nil
		}
		same := 0
		for same < len(parts) && same < len(around) && parts[same] == around[same] {
			same++
		}
		for i := same; i < len(parts); i++ {
			m.rows = append(m.rows, row{workspace.Entry{Name: parts[i], Path: strings.Join(parts[:i+1], "/"), Folder: true}, i})
		}
		around = parts
		m.rows = append(m.rows, row{workspace.Entry{Name: path.Base(p), Path: p}, len(parts)})
	}
}

// row draws an entry: what it is, its name, and how it stands with the last
// commit.
func (m *Model) row(r row) sheet.Row {
	what, name := "file", r.Name
	if r.Folder {
		what, name = "folder", r.Name+"/"
	}
	var words []string
	switch n := m.unsaved[r.Path]; {
	case n > 0 && r.Folder:
		words = append(words, strconv.Itoa(n)+" not saved inside")
	case n > 0:
		words = append(words, "NOT saved")
	}
	switch {
	case m.fresh[r.Path]:
		words = append(words, "new")
	case m.changed[r.Path]:
		words = append(words, "changed")
	case r.Ignored:
		words = append(words, "ignored")
	case r.Folder && !m.only && m.holding[r.Path] > 0:
		words = append(words, sheet.Count(m.holding[r.Path], "change", "changes")+" inside")
	}
	if r.Note != "" {
		words = append(words, r.Note)
	}
	if n := m.marked[r.Path]; n > 0 {
		words = append(words, sheet.Count(n, "bookmark", "bookmarks"))
	}
	if why := m.failed[r.Path]; why != "" && m.open[r.Path] {
		words = append(words, why)
	} else if r.Folder && m.open[r.Path] && !m.only && len(m.inside[r.Path]) == 0 {
		words = append(words, "empty")
	}
	front := strings.Repeat("  ", r.depth)
	out := sheet.Row{What: what, Name: front + name, Where: strings.Join(words, ", ")}
	if m.typed != "" {
		if i := strings.Index(strings.ToLower(r.Name), strings.ToLower(m.typed)); i >= 0 {
			for j := range len(m.typed) {
				out.At = append(out.At, len(front)+i+j)
			}
		}
	}
	return out
}

// Update takes a message.
func (m *Model) Update(msg tea.Msg) (tea.Cmd, Event) {
	switch msg.(type) {
	case browsedMsg, doneMsg, jumpMsg:
		m.busy--
	}
	switch msg := msg.(type) {
	case browsedMsg:
		return m.browsed(msg)
	case changedMsg:
		m.changed, m.fresh = msg.changed, msg.fresh
		m.holding = map[string]int{}
		for p := range m.changed {
			for dir := path.Dir(p); dir != root && dir != "/"; dir = path.Dir(dir) {
				m.holding[dir]++
			}
		}
		e, _ := m.Chosen()
		m.lay(e.Path)
	case jumpMsg:
		if msg.number == m.number && msg.path != "" {
			return m.reveal(msg.path), Nothing
		}
	case askedMsg:
		if m.asking.what == remove && m.asking.path == msg.path {
			m.asking.words = msg.words
		}
	case doneMsg:
		return m.done(msg)
	case tea.KeyPressMsg:
		m.note = ""
		if m.asking.what != nothing {
			return m.answer(msg)
		}
		return m.key(msg)
	case tea.PasteMsg:
		if m.asking.what == create || m.asking.what == rename {
			m.asking.input, _ = m.asking.input.Update(msg)
		}
	}
	return nil, Nothing
}

func (m *Model) browsed(msg browsedMsg) (tea.Cmd, Event) {
	for f, entries := range msg.inside {
		m.inside[f] = entries
		delete(m.failed, f)
	}
	for f, why := range msg.failed {
		m.failed[f] = why
		delete(m.inside, f)
	}
	choose := m.wanted
	if choose == "" {
		e, _ := m.Chosen()
		choose = e.Path
	}
	m.wanted = ""
	m.lay(choose)
	return nil, Selected
}

// reveal opens the folders on the way to a path and chooses it.
func (m *Model) reveal(p string) tea.Cmd {
	m.wanted = p
	var folders []string
	for dir := path.Dir(p); dir != root && dir != "/"; dir = path.Dir(dir) {
		m.open[dir] = true
		folders = append(folders, dir)
	}
	return m.browse(folders...)
}

// done shows what came of something that was done.
func (m *Model) done(msg doneMsg) (tea.Cmd, Event) {
	m.note = msg.words
	if msg.err != nil {
		m.note = msg.err.Error()
		return nil, Nothing
	}
	m.wanted, m.moved = msg.choose, msg.moved
	if msg.moved.From != "" && msg.moved.To != "" {
		m.follow(msg.moved)
	}
	for dir := path.Dir(msg.choose); msg.choose != "" && dir != root && dir != "/"; dir = path.Dir(dir) {
		m.open[dir] = true
	}
	return m.look(), Moved
}

// follow keeps folders open that have another path now.
func (m *Model) follow(moved filing.Moved) {
	open := map[string]bool{}
	for f, is := range m.open {
		open[place.Renamed(f, moved.From, moved.To)] = is
	}
	m.open = open
}
