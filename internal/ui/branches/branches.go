// Package branches is the sheet that shows a tree which opens level by level: a family
// of types or methods, calls, the flow of a value.
package branches

import (
	"context"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/linecolors"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Trees finds the trees of a project; see package workspace.
type Trees interface {
	Subject(ctx context.Context, path string, offset int) (at int, around string)
	Branches(ctx context.Context, t answer.Tree, path string, offset int) (resolve.Result, []answer.Branch)
	Load(ctx context.Context, path string) (*codebase.File, error)
	Anchor(ctx context.Context, p place.Place) place.Anchor
	Find(ctx context.Context, m *place.Memory) (place.Fate, error)
}

// node is a branch with what is below it, as far as that is known.
type node struct {
	answer.Branch
	parent *node
	depth  int
	open   bool
	asked  bool // what is below was asked for
	known  bool // and has come
	below  []*node
}

// Model is the sheet.
type Model struct {
	surface.Size
	host   surface.Host
	asker  *surface.Asker
	trees  Trees
	keep   func(title string, source sweep.Source, all []answer.Answer) surface.Intent
	colors *linecolors.Colors

	asked  question
	how    string // how one comes to a place of the tree
	source sweep.Source
	title  string
	turn   string // what Tab shows; "" if there is no other way round
	list   sheet.Model
	first  []*node
	rows   []*node
	typed  string
	tests  bool // those in tests are left out
	here   bool // those outside the project are
	open   bool
	want   place.Place // to be chosen as soon as it is there
}

// New makes a sheet; keep makes a sweep of what is shown.
func New(host surface.Host, trees Trees, colors linecolors.Colorer, keep func(title string, source sweep.Source, all []answer.Answer) surface.Intent) *Model {
	m := &Model{host: host, trees: trees, keep: keep}
	m.asker, m.colors = host.Asker(m), linecolors.New(host.Asker(m), colors)
	return m
}

// show shows the first level of a tree.
func (m *Model) show(title, turn string, first []answer.Branch) {
	m.asker.Cancel()
	m.title, m.turn, m.typed, m.tests, m.here = title, turn, "", false, false
	m.first = nodes(nil, first)
	at := 0
	for i, n := range m.first {
		if n.Present {
			at = i
		}
	}
	m.lay(nil)
	m.list.Move(at - len(m.rows))
	m.list.Move(at)
}

// choose chooses the branch at a place, if there is one.
func (m *Model) choose(at place.Place) {
	for i, n := range m.rows {
		if n.Place() == at {
			m.list.Move(i - len(m.rows))
			m.list.Move(-len(m.rows))
			m.list.Move(i)
			return
		}
	}
}

// Closed implements surface.Surface: what is still being looked for is given up.
func (m *Model) Closed() {
	m.open = false
	m.asker.Cancel()
	m.colors.Cancel()
}

func nodes(parent *node, branches []answer.Branch) (all []*node) {
	depth := 0
	if parent != nil {
		depth = parent.depth + 1
	}
	for _, b := range branches {
		all = append(all, &node{Branch: b, parent: parent, depth: depth})
	}
	return all
}

// Chosen is the chosen branch.
func (m *Model) Chosen() (answer.Branch, bool) {
	n := m.chosen()
	if n == nil {
		return answer.Branch{}, false
	}
	return n.Branch, true
}

func (m *Model) chosen() *node {
	_, i, ok := m.list.Chosen()
	if !ok || i >= len(m.rows) {
		return nil
	}
	return m.rows[i]
}

// Busy implements surface.Surface: what is below a branch is still being looked for.
func (m *Model) Busy() bool { return m.asker.Waiting() }

// Shown are all branches that are shown, in their order.
func (m *Model) Shown() (all []answer.Answer) {
	for _, n := range m.rows {
		all = append(all, n.Answer)
	}
	return all
}

// lay puts the open nodes on rows and chooses one; nil keeps the number of the chosen.
func (m *Model) lay(choose *node) {
	_, at, _ := m.list.Chosen()
	m.rows = m.rows[:0]
	var sections []sheet.Section
	title := m.title
	if m.tests {
		title += ", without tests"
	}
	if m.here {
		title += ", in this project"
	}
	sections = append(sections, sheet.Section{Title: title})
	var add func(n *node)
	add = func(n *node) {
		if (m.tests && n.Test || m.here && n.Outside) && !n.Present {
			return
		}
		if n == choose {
			at = len(m.rows)
		}
		m.rows = append(m.rows, n)
		s := &sections[len(sections)-1]
		s.Rows = append(s.Rows, m.row(n))
		if n.open {
			for _, b := range n.below {
				add(b)
			}
		}
	}
	for i, n := range m.first {
		if n.Group != "" && (i == 0 || m.first[i-1].Group != n.Group) {
			sections = append(sections, sheet.Section{Title: n.Group})
		}
		add(n)
	}
	m.list.Update(sections)
	m.list.Move(at - len(m.rows) - 1)
	_, now, _ := m.list.Chosen()
	m.list.Move(at - now)
}

// The marks of what can be opened, is open, and cannot be.
const (
	shutMark = "+ "
	openMark = "– "
	endMark  = "  "
)

// row draws a branch.
func (m *Model) row(n *node) sheet.Row {
	mark := endMark
	switch {
	case n.Grow == nil || n.known && len(n.below) == 0:
	case n.open:
		mark = openMark
	default:
		mark = shutMark
	}
	indent := strings.Repeat("  ", n.depth) + mark
	shown, at := squeezed(n.Text, n.TextAt)
	row := sheet.Row{What: n.Role, Name: indent + shown, Where: n.Path + " " + strconv.Itoa(n.Line)}
	if n.TextAt.Len() > 0 && shown == n.Text { // the line itself, not the name of something
		row.CodeAt, row.Colors = len(indent), func() highlight.Spans { return m.colors.Of(n.Path, n.Line) }
	}
	for b := int(at.Start); b < int(at.End); b++ {
		row.At = append(row.At, len(indent)+b)
	}
	var words []string
	if n.Present {
		words = append(words, "you asked from here")
	}
	if n.Outside {
		words = append(words, "outside this project")
	}
	if n.Again {
		words = append(words, "again: it is among those above it")
	}
	if len(n.Sites) > 1 {
		words = append(words, sheet.Count(len(n.Sites), "call", "calls"))
	}
	if n.Why != "" {
		words = append(words, n.Why)
	}
	if n.Certainty == resolve.ByName {
		words = append(words, "by name")
	}
	if n.asked && !n.known {
		words = append(words, "…")
	}
	if n.open && n.known && len(n.below) == 0 {
		words = append(words, "nothing further")
	}
	if len(words) > 0 {
		row.Where += ", " + strings.Join(words, ", ")
	}
	return row
}

// grown takes in what is below a node.
func (m *Model) grown(n *node, below []answer.Branch) surface.Intent {
	n.known, n.below = true, nodes(n, below)
	m.lay(m.chosen())
	if m.chosen() == n {
		m.list.Ahead(len(below))
	}
	return surface.Begin(m.color())
}

func (m *Model) color() tea.Cmd { return m.colors.Find(linecolors.Places(m.Shown())) }

// Update implements surface.Surface.
func (m *Model) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		return m.key(k)
	}
	return surface.Intent{}
}

// selected shows the chosen branch beneath.
func (m *Model) selected() surface.Intent {
	b, ok := m.Chosen()
	if !ok {
		return surface.LookBack()
	}
	return surface.Look(surface.To(b.Answer, ""))
}

func (m *Model) key(k tea.KeyPressMsg) surface.Intent {
	if rows, ok := keymap.Step(k.String(), m.Height-3, len(m.rows)); ok {
		return m.move(rows)
	}
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		if m.typed != "" {
			m.typed = ""
			return surface.Intent{}
		}
		return surface.Close()
	case keymap.Is(k.String(), keymap.Ends.Take):
		if m.chosen() != nil {
			b, _ := m.Chosen()
			return surface.Go(surface.To(b.Answer, m.how))
		}
	case keymap.Is(k.String(), on.Open):
		return m.right()
	case keymap.Is(k.String(), on.Shut):
		return m.left()
	case keymap.Is(k.String(), on.Turn):
		if m.turn != "" {
			return m.turned()
		}
	case keymap.Is(k.String(), on.Tests):
		chosen := m.chosen()
		m.tests = !m.tests
		m.lay(chosen)
		return m.selected()
	case keymap.Is(k.String(), on.Here):
		chosen := m.chosen()
		m.here = !m.here
		m.lay(chosen)
		return m.selected()
	case keymap.Is(k.String(), on.Keep):
		return surface.Close().And(m.keep(m.title, m.source, m.Shown()))
	case keymap.Is(k.String(), on.Back):
		if r := []rune(m.typed); len(r) > 0 {
			return m.jump(string(r[:len(r)-1]), 0)
		}
	default:
		if k.Text != "" && !strings.HasPrefix(k.String(), "alt+") {
			return m.jump(m.typed+k.Text, 0)
		}
	}
	return surface.Intent{}
}

func (m *Model) move(rows int) surface.Intent {
	m.typed = ""
	m.list.Move(rows)
	return m.selected()
}

// right opens a branch; one that is open already is entered.
func (m *Model) right() surface.Intent {
	m.typed = ""
	n := m.chosen()
	if n == nil || n.Grow == nil {
		return surface.Intent{}
	}
	if n.open && len(n.below) > 0 {
		return m.move(1)
	}
	n.open = true
	if n.asked {
		m.lay(n)
		return surface.Intent{}
	}
	n.asked = true
	m.lay(n)
	return surface.Begin(surface.More(m.asker, n.Grow, func(below []answer.Branch) surface.Intent { return m.grown(n, below) }))
}

// left closes a branch, or goes to the one it is below.
func (m *Model) left() surface.Intent {
	m.typed = ""
	n := m.chosen()
	switch {
	case n == nil:
		return surface.Intent{}
	case n.open:
		n.open = false
		m.lay(n)
		return surface.Intent{}
	case n.parent != nil:
		m.lay(n.parent)
		return m.selected()
	}
	return surface.Intent{}
}

// jump goes to the next branch that has what is typed in it.
func (m *Model) jump(typed string, from int) surface.Intent {
	m.typed = typed
	_, at, _ := m.list.Chosen()
	for i := range m.rows {
		n := m.rows[(at+from+i)%len(m.rows)]
		if typed != "" && strings.Contains(strings.ToLower(n.Text), strings.ToLower(typed)) {
			m.lay(n)
			return m.selected()
		}
	}
	return surface.Intent{}
}

const prompt = "  tree  "

// Rows implements surface.Surface.
func (m *Model) Rows(p *palette.Palette) []string {
	width := m.Width
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(width).Put(prompt, quiet).Put(ink.CutFront(m.typed, max(width-ink.Width(prompt)-4, 4)), palette.On(p.Text, p.Sheet).Strong())
	if m.typed == "" {
		r.Put("letters jump to a name; → opens an entry, ← closes it", quiet)
	}
	rows := append([]string{r.String(quiet)}, m.list.Rows(width, max(m.Height-2, 0), p)...)
	keys := [][2]string{keymap.Hint(keymap.Ends.Take, "go there"), keymap.Both(on.Shut, on.Open, "close, open")}
	if m.turn != "" {
		keys = append(keys, keymap.Hint(on.Turn, m.turn))
	}
	tests := "without tests"
	if m.tests {
		tests = "with tests"
	}
	keys = append(keys, keymap.Hint(on.Tests, tests))
	if m.here || slices.ContainsFunc(m.rows, func(n *node) bool { return n.Outside }) {
		words := "only this project"
		if m.here {
			words = "also outside"
		}
		keys = append(keys, keymap.Hint(on.Here, words))
	}
	return append(rows, sheet.Edge(width, append(keys, keymap.Hint(on.Keep, "keep as a sweep"), keymap.Hint(keymap.Ends.Close, "back as it was")), p))
}

// Cursor implements surface.Surface.
func (m *Model) Cursor() (x, y int, ok bool) { return ink.Width(prompt) + ink.Width(m.typed), 0, true }

// squeezed is a line of code with one blank where it has several, as in columns that are lined up
// with others of their own, and where a part of it is then.
func squeezed(line string, at place.Range) (string, place.Range) {
	var b strings.Builder
	now := at
	for i := 0; i < len(line); i++ {
		blank := line[i] == ' ' || line[i] == '\t'
		if blank && i > 0 && (line[i-1] == ' ' || line[i-1] == '\t') {
			if uint32(i) < at.Start {
				now.Start--
			}
			if uint32(i) < at.End {
				now.End--
			}
			continue
		}
		if blank {
			b.WriteByte(' ')
			continue
		}
		b.WriteByte(line[i])
	}
	return b.String(), now
}
