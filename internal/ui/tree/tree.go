// Package tree is the sheet that shows the folders of the project and what is in
// them, and in which files and folders are created, renamed, moved and deleted.
package tree

import (
	"context"
	"path"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Files is what the tree shows and changes; see package workspace.
type Files interface {
	Name() string
	Browse(folder string) ([]workspace.Entry, error)
	Differing(ctx context.Context) (changed, fresh map[string]bool)
	Below(ctx context.Context, folder string, most int) (files, changed int)
	Files(ctx context.Context, query string, limit int) []search.FileHit
	Create(ctx context.Context, path string) (string, error)
	Rename(ctx context.Context, from, to string) (string, error)
	// Move proposes to rename, with what refers to it.
	Move(ctx context.Context, from, to string) (*proposal.Proposal, error)
	Delete(ctx context.Context, path string) error
	Undo(ctx context.Context) (did string, moved filing.Moved, err error)
	Absolute(path string) string
}

// Around is what the tree asks about what else there is.
type Around interface {
	// Holding is how many bookmarks are in each file and folder.
	Holding() map[string]int
	// Unsaved are the files with text that is not saved.
	Unsaved() map[string]bool
	// Propose shows a change before it is made.
	Propose(p *proposal.Proposal) surface.Intent
}

// root is the path of the project's folder.
const root = "."

// Model is the sheet.
type Model struct {
	surface.Size
	files    Files
	around   Around
	host     surface.Host
	asker    *surface.Asker
	counter  *surface.Asker // of what is shown when it is there, and not waited for
	list     sheet.Model
	open     map[string]bool              // the folders that are open
	inside   map[string][]workspace.Entry // what is in those that were looked into
	failed   map[string]string            // why a folder could not be
	rows     []row
	changed  map[string]bool
	fresh    map[string]bool
	holding  map[string]int // how many changed files are below a folder
	marked   map[string]int // how many bookmarks are in a file or folder
	unsaved  map[string]int // how many files with text that is not saved are below a folder, and each of them
	shown    bool
	only     bool   // only what has changed is shown
	wanted   string // the path to choose as soon as it is there
	typed    string // letters of a name to jump to
	asking   asking
	copied   string // the path that was copied last
	programs choice.Surface
	note     string // what came of what was done last
}

// row is an entry as it is shown.
type row struct {
	workspace.Entry
	depth int
}

// asking is a question that is open.
type asking struct {
	what  question
	input entry.Line
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
func New(host surface.Host, files Files, around Around) *Model {
	m := &Model{
		files: files, around: around, host: host, open: map[string]bool{root: true}, inside: map[string][]workspace.Entry{},
		failed: map[string]string{}, asking: asking{input: entry.New()},
	}
	m.asker, m.counter = host.Asker(m), host.Asker(m)
	return m
}

// Commands are what opens the tree.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{keymap.Tree: func() surface.Intent { return m.Show(m.host.Here().View.Place.Path) }}
}

// done says what came of creating, renaming, deleting or undoing.
type done struct {
	words  string
	moved  filing.Moved
	choose string
	err    error
	// proposal is what is to be looked at before anything is done; nil for nothing.
	proposal *proposal.Proposal
}

// count notes how many files with text that is not saved are in each folder.
func (m *Model) count(unsaved map[string]bool) {
	m.unsaved = map[string]int{}
	for p := range unsaved {
		m.unsaved[p]++
		for dir := path.Dir(p); dir != root && dir != "/"; dir = path.Dir(dir) {
			m.unsaved[dir]++
		}
	}
}

// Show opens the tree at a file or folder.
func (m *Model) Show(at string) surface.Intent {
	m.typed, m.note, m.asking.what, m.shown = "", "", nothing, true
	m.marked = m.around.Holding()
	m.count(m.around.Unsaved())
	m.wanted = at
	for dir := path.Dir(at); at != "" && dir != root && dir != "/"; dir = path.Dir(dir) {
		m.open[dir] = true
	}
	return surface.Intent{Open: m, Cmd: m.look()}
}

// look reads the open folders and what has changed anew.
func (m *Model) look() tea.Cmd {
	folders := []string{root}
	for f := range m.open {
		if f != root {
			folders = append(folders, f)
		}
	}
	return tea.Batch(m.browse(folders...), surface.Ask(m.counter, func(ctx context.Context) [2]map[string]bool {
		changed, fresh := m.files.Differing(ctx)
		return [2]map[string]bool{changed, fresh}
	}, m.differs))
}

// browsed is what is in some folders, and why some could not be looked into.
type browsed struct {
	inside map[string][]workspace.Entry
	failed map[string]string
}

// browse looks into folders.
func (m *Model) browse(folders ...string) tea.Cmd {
	files := m.files
	return surface.More(m.asker, func(ctx context.Context) browsed {
		b := browsed{map[string][]workspace.Entry{}, map[string]string{}}
		for _, f := range folders {
			if ctx.Err() != nil {
				break
			}
			entries, err := files.Browse(f)
			if err != nil {
				b.failed[f] = err.Error()
				continue
			}
			b.inside[f] = entries
		}
		return b
	}, m.browsed)
}

// Busy implements surface.Surface: keys are meant for when what is on its way is there.
func (m *Model) Busy() bool { return m.asker.Busy() }

// Closed implements surface.Surface. What is being created, renamed or deleted still is.
func (m *Model) Closed() {
	m.shown = false
	m.asker.Cancel()
	m.counter.Cancel()
}

// Chosen is the chosen entry.
func (m *Model) Chosen() (workspace.Entry, bool) {
	_, i, ok := m.list.Chosen()
	if !ok || i >= len(m.rows) {
		return workspace.Entry{}, false
	}
	return m.rows[i].Entry, true
}

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

// Update implements surface.Surface.
func (m *Model) Update(msg tea.Msg) surface.Intent {
	switch msg := msg.(type) {
	case tea.KeyPressMsg:
		m.note = ""
		if m.asking.what != nothing {
			return m.answer(msg)
		}
		return m.key(msg)
	case tea.PasteMsg:
		if m.asking.what == create || m.asking.what == rename {
			m.asking.input.Edit(msg)
		}
	}
	return surface.Intent{}
}

// differs takes in what differs from the last commit, and what is new.
func (m *Model) differs(all [2]map[string]bool) surface.Intent {
	m.changed, m.fresh = all[0], all[1]
	m.holding = map[string]int{}
	for p := range m.changed {
		for dir := path.Dir(p); dir != root && dir != "/"; dir = path.Dir(dir) {
			m.holding[dir]++
		}
	}
	e, _ := m.Chosen()
	m.lay(e.Path)
	return surface.Intent{}
}

func (m *Model) browsed(b browsed) surface.Intent {
	for f, entries := range b.inside {
		m.inside[f] = entries
		delete(m.failed, f)
	}
	for f, why := range b.failed {
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
	return m.selected()
}

// selected shows the chosen file beneath.
func (m *Model) selected() surface.Intent {
	e, ok := m.Chosen()
	if !ok || e.Folder || e.Note != "" || e.Path == m.host.Here().View.Place.Path {
		return surface.LookBack()
	}
	return surface.Look(surface.Visit{Path: e.Path})
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

// carriedOut shows what came of something that was done. Whoever has closed the tree meanwhile is
// told, too.
func (m *Model) carriedOut(d done) surface.Intent {
	if d.proposal != nil {
		todo := m.around.Propose(d.proposal)
		todo.Close = m.shown
		return todo
	}
	m.note = d.words
	if d.err != nil {
		m.note = d.err.Error()
	}
	told := surface.Intent{}
	if !m.shown {
		told, m.note = surface.Say("%s", m.note), ""
	}
	if d.err != nil {
		return told
	}
	m.wanted = d.choose
	if d.moved.From != "" && d.moved.To != "" {
		m.follow(d.moved)
	}
	for dir := path.Dir(d.choose); d.choose != "" && dir != root && dir != "/"; dir = path.Dir(dir) {
		m.open[dir] = true
	}
	if !m.shown {
		return told.And(surface.Intent{Moved: d.moved})
	}
	return surface.Intent{Moved: d.moved, Cmd: m.look()}
}

// follow keeps folders open that have another path now.
func (m *Model) follow(moved filing.Moved) {
	open := map[string]bool{}
	for f, is := range m.open {
		open[place.Renamed(f, moved.From, moved.To)] = is
	}
	m.open = open
}
