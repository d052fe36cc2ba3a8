// Package branches is the sheet that shows a tree which opens level by level: a family
// of types or methods, calls, the flow of a value.
package branches

import (
	"context"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/highlight"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Event is what came of a key or an answer.
type Event uint8

// The events.
const (
	Nothing  Event = iota
	Selected       // another branch is chosen; show its place
	Grown          // there are more branches
	Taken          // the chosen branch is what was wanted
	Closed         // put everything back as it was
	Turned         // calls are wanted the other way round
	Kept           // what is shown is to be kept as a sweep
)

// node is a branch with what is below it, as far as that is known.
type node struct {
	workspace.Branch
	parent *node
	depth  int
	open   bool
	asked  bool // what is below was asked for
	known  bool // and has come
	below  []*node
}

// Model is the sheet.
type Model struct {
	title   string
	turn    string // what Tab shows; "" if there is no other way round
	list    sheet.Model
	first   []*node
	rows    []*node
	typed   string
	tests   bool // those in tests are left out
	height  int
	ctx     context.Context
	stop    context.CancelFunc
	number  int
	growing int // how many branches
	colors  func(path string, line int) highlight.Spans
}

// New makes a sheet; colors gives the colours of a line of code, as far as they are
// known.
func New(colors func(path string, line int) highlight.Spans) *Model {
	return &Model{ctx: context.Background(), colors: colors}
}

// Open shows the first level of a tree. turn says what Tab leads to.
func (m *Model) Open(title, turn string, first []workspace.Branch, height int) {
	m.Close()
	m.title, m.turn, m.height, m.typed, m.tests = title, turn, height, "", false
	m.ctx, m.stop = context.WithCancel(context.Background())
	m.number++
	m.growing = 0
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

// Close gives up what is still being looked for.
func (m *Model) Close() {
	if m.stop != nil {
		m.stop()
	}
}

func nodes(parent *node, branches []workspace.Branch) (all []*node) {
	depth := 0
	if parent != nil {
		depth = parent.depth + 1
	}
	for _, b := range branches {
		all = append(all, &node{Branch: b, parent: parent, depth: depth})
	}
	return all
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.height = height }

// Chosen is the chosen branch.
func (m *Model) Chosen() (workspace.Branch, bool) {
	n := m.chosen()
	if n == nil {
		return workspace.Branch{}, false
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

// Busy says that what is below a branch is still being looked for.
func (m *Model) Busy() bool { return m.growing > 0 }

// Shown are all branches that are shown, in their order.
func (m *Model) Shown() (all []workspace.Destination) {
	for _, n := range m.rows {
		all = append(all, n.Destination)
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
	sections = append(sections, sheet.Section{Title: title})
	var add func(n *node)
	add = func(n *node) {
		if m.tests && n.Test && !n.Present {
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
		row.CodeAt, row.Colors = len(indent), func() highlight.Spans { return m.colors(n.Path, n.Line) }
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
	if n.Sites > 1 {
		words = append(words, sheet.Count(n.Sites, "call", "calls"))
	}
	if n.Note != "" {
		words = append(words, n.Note)
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

// grownMsg brings what is below a node.
type grownMsg struct {
	number int
	node   *node
	below  []workspace.Branch
}

// Update takes a key, or what was found below a branch.
func (m *Model) Update(msg tea.Msg) (tea.Cmd, Event) {
	switch msg := msg.(type) {
	case grownMsg:
		if msg.number == m.number {
			m.growing--
			msg.node.known, msg.node.below = true, nodes(msg.node, msg.below)
			m.lay(m.chosen())
			if m.chosen() == msg.node {
				m.list.Ahead(len(msg.below))
			}
			return nil, Grown
		}
		return nil, Nothing
	case tea.KeyPressMsg:
		return m.key(msg)
	}
	return nil, Nothing
}

func (m *Model) key(k tea.KeyPressMsg) (tea.Cmd, Event) {
	switch k.String() {
	case "esc":
		if m.typed != "" {
			m.typed = ""
			return nil, Nothing
		}
		return nil, Closed
	case "enter":
		if m.chosen() != nil {
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
		return nil, m.move(-len(m.rows))
	case "end":
		return nil, m.move(len(m.rows))
	case "right":
		return m.right()
	case "left":
		return nil, m.left()
	case "tab":
		if m.turn != "" {
			return nil, Turned
		}
	case "alt+t":
		chosen := m.chosen()
		m.tests = !m.tests
		m.lay(chosen)
		return nil, Selected
	case "alt+k":
		return nil, Kept
	case "backspace":
		if r := []rune(m.typed); len(r) > 0 {
			return nil, m.jump(string(r[:len(r)-1]), 0)
		}
	default:
		if k.Text != "" && !strings.HasPrefix(k.String(), "alt+") {
			return nil, m.jump(m.typed+k.Text, 0)
		}
	}
	return nil, Nothing
}

func (m *Model) move(rows int) Event {
	m.typed = ""
	m.list.Move(rows)
	return Selected
}

// right opens a branch; one that is open already is entered.
func (m *Model) right() (tea.Cmd, Event) {
	m.typed = ""
	n := m.chosen()
	if n == nil || n.Grow == nil {
		return nil, Nothing
	}
	if n.open && len(n.below) > 0 {
		return nil, m.move(1)
	}
	n.open = true
	if n.asked {
		m.lay(n)
		return nil, Nothing
	}
	n.asked = true
	m.growing++
	m.lay(n)
	ctx, number := m.ctx, m.number
	return func() tea.Msg {
		below := n.Grow(ctx)
		if ctx.Err() != nil {
			return nil
		}
		return grownMsg{number, n, below}
	}, Nothing
}

// left closes a branch, or goes to the one it is below.
func (m *Model) left() Event {
	m.typed = ""
	n := m.chosen()
	switch {
	case n == nil:
		return Nothing
	case n.open:
		n.open = false
		m.lay(n)
		return Nothing
	case n.parent != nil:
		m.lay(n.parent)
		return Selected
	}
	return Nothing
}

// jump goes to the next branch that has what is typed in it.
func (m *Model) jump(typed string, from int) Event {
	m.typed = typed
	_, at, _ := m.list.Chosen()
	for i := range m.rows {
		n := m.rows[(at+from+i)%len(m.rows)]
		if typed != "" && strings.Contains(strings.ToLower(n.Text), strings.ToLower(typed)) {
			m.lay(n)
			return Selected
		}
	}
	return Nothing
}

const prompt = "  tree  "

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(width).Put(prompt, quiet).Put(ink.CutFront(m.typed, max(width-ink.Width(prompt)-4, 4)), palette.On(p.Text, p.Sheet).Strong())
	if m.typed == "" {
		r.Put("letters jump to a name; → opens what is behind one, ← closes it", quiet)
	}
	rows := append([]string{r.String(quiet)}, m.list.Rows(width, max(m.height-2, 0), p)...)
	keys := [][2]string{{"Enter", "go there"}, {"←→", "close, open"}}
	if m.turn != "" {
		keys = append(keys, [2]string{"Tab", m.turn})
	}
	tests := "without tests"
	if m.tests {
		tests = "with tests"
	}
	return append(rows, sheet.Edge(width, append(keys, [2]string{"Alt+T", tests}, [2]string{"Alt+K", "keep as a sweep"}, [2]string{"Esc", "back as it was"}), p))
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor() int { return ink.Width(prompt) + ink.Width(m.typed) }

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
