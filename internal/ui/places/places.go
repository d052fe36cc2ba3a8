// Package places is the sheet that lists where a way leads: places grouped by file,
// each with what is done there, its line and the function around, narrowed by
// typing, by access and by whether they are in tests.
package places

import (
	"path"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Model is the sheet.
type Model struct {
	picker picker.Model
	title  string
	all    []answer.Answer
	names  *fuzzy.Corpus
	roles  []string // those there are, in the order of how many
	role   string   // the one that is shown; "" for all
	tests  tests
	folder string // only what is in it is shown; "" for all
	// possible counts the places that have the name and could be meant, which are shown if unfolded.
	possible int
	unfolded bool
	colors   func(path string, line int) highlight.Spans
	// CanMention says that there may be more places that are known by name only,
	// which have not been asked for.
	CanMention bool
}

// tests says which places are shown, by whether they are in tests.
type tests uint8

const (
	withTests tests = iota
	withoutTests
	onlyTests
)

func (t tests) next() tests { return (t + 1) % 3 }

func (t tests) String() string { return [...]string{"with tests", "without tests", "only tests"}[t] }

// New makes a sheet; colors gives the colours of a line of code, as far as they are
// known.
func New(colors func(path string, line int) highlight.Spans) *Model {
	return &Model{picker: picker.New(), colors: colors}
}

// Gathered are places made ready to be listed, which takes a moment if they are many.
type Gathered struct {
	all   []answer.Answer
	names *fuzzy.Corpus
	roles []string
	// possible counts those that are only possible, which are the last.
	possible int
}

// Gather makes places ready to be listed.
func Gather(all []answer.Answer) Gathered {
	g := Gathered{all: all, names: &fuzzy.Corpus{}}
	counts := map[string]int{}
	for i := range all {
		d := &all[i]
		g.names.Add(d.Path+" "+d.Around()+" "+d.Text, len(d.Path)+1)
		if d.Possible {
			g.possible++
		}
		if counts[d.Role]++; counts[d.Role] == 1 {
			g.roles = append(g.roles, d.Role)
		}
	}
	slices.SortStableFunc(g.roles, func(a, b string) int { return counts[b] - counts[a] })
	return g
}

// Len is how many places there are.
func (g *Gathered) Len() int { return len(g.all) }

// All are the places, in their order.
func (g *Gathered) All() []answer.Answer { return g.all }

// Open shows places under a title, beginning at the first.
func (m *Model) Open(title string, g Gathered, height int) {
	m.title, m.role, m.tests, m.folder = title, "", withTests, ""
	m.take(g)
	m.unfolded = m.possible == len(m.all) // else there is nothing to be seen
	m.picker.Open(m.list(), 0, height-1)
}

// Add puts more places behind the others and chooses the first of them.
func (m *Model) Add(more []answer.Answer) {
	at := len(m.all)
	m.take(Gather(append(m.all[:at:at], more...)))
	m.picker.Set(m.list(), at)
}

// take makes places those of the list.
func (m *Model) take(g Gathered) {
	m.all, m.names, m.roles, m.possible = g.all, g.names, g.roles, g.possible
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.picker.Resize(height - 1) }

// Chosen is the chosen place.
func (m *Model) Chosen() (answer.Answer, bool) {
	i, ok := m.picker.Chosen()
	if !ok {
		return answer.Answer{}, false
	}
	return m.all[i], true
}

// Title says what the list is of.
func (m *Model) Title() string { return m.title }

// Choose chooses a place, if it is shown, after narrowing the list by letters.
func (m *Model) Choose(typed string, at place.Place) {
	m.picker.Put(typed)
	l := m.list()
	m.picker.Set(l, picker.Best)
	for _, i := range l.Shown {
		if m.all[i].Place() == at {
			m.picker.Set(l, i)
			return
		}
	}
}

// Typed are the letters by which it is narrowed.
func (m *Model) Typed() string { return m.picker.Typed() }

// Shown are the places that are left to choose from, in their order.
func (m *Model) Shown() (shown []answer.Answer) {
	for _, i := range m.picker.Entries() {
		shown = append(shown, m.all[i])
	}
	return shown
}

// Narrowed says by what the list was narrowed; "" if all of it is shown.
func (m *Model) Narrowed() string {
	var words []string
	if m.unfolded && m.possible > 0 {
		words = append(words, "with those that are possible")
	}
	if m.role != "" {
		words = append(words, "only "+m.role)
	}
	if m.folder != "" {
		words = append(words, "in "+folderName(m.folder))
	}
	if m.tests != withTests {
		words = append(words, m.tests.String())
	}
	if typed := m.picker.Typed(); typed != "" {
		words = append(words, "with "+typed)
	}
	return strings.Join(words, ", ")
}

// holds says whether a place is among those to be shown.
func (m *Model) holds(i int) bool {
	d := &m.all[i]
	return (m.unfolded || !d.Possible) && (m.role == "" || d.Role == m.role) && m.within(d.Path) && (m.tests == withTests || d.Test == (m.tests == onlyTests))
}

// list is what is to be picked from.
func (m *Model) list() picker.List {
	total := len(m.all)
	if !m.unfolded {
		total -= m.possible
	}
	l := picker.List{Title: m.title, Names: m.names, Total: total, Holds: m.holds, Row: m.row, Group: func(i int) string { return m.all[i].Path }, Empty: "no place is left: " + on.Role.Help().Key + " shows other kinds, " + on.Tests.Help().Key + " other files"}
	for i := range m.all {
		if m.holds(i) {
			l.Shown = append(l.Shown, i)
		}
	}
	files, last := map[string]bool{}, ""
	for _, i := range l.Shown {
		if p := m.all[i].Path; p != last { // those of a file follow each other
			files[p], last = true, p
		}
	}
	l.Note = "in " + sheet.Count(len(files), "file", "files")
	if m.possible > 0 && m.unfolded {
		l.Note += ", " + sheet.Number(m.possible) + " of them possible, not proven"
	} else if m.possible > 0 {
		l.Note += ", and " + sheet.Number(m.possible) + " possible"
	}
	if len(m.all) >= answer.MostFound {
		l.Note += ", and there are more"
	}
	if m.role != "" {
		l.Note += ", only: " + m.role
	}
	if m.folder != "" {
		l.Note += ", only: " + folderName(m.folder)
	}
	if m.tests != withTests {
		l.Note += ", " + m.tests.String()
	}
	return l
}

// row draws a place.
func (m *Model) row(i int, at []int) sheet.Row {
	d := &m.all[i]
	row := sheet.Row{What: d.Role, Name: d.Text, Where: "line " + strconv.Itoa(d.Line), Colors: func() highlight.Spans { return m.colors(d.Path, d.Line) }}
	for b := int(d.TextAt.Start); b < int(d.TextAt.End); b++ {
		row.At = append(row.At, b)
	}
	if in := d.Around(); in != "" {
		row.Where = "in " + in + ", " + row.Where
	}
	if d.Why != "" {
		row.Where += ", " + d.Why
	}
	if d.Possible {
		row.Where += ", possible"
	} else if d.Certainty == resolve.ByName {
		row.Where += ", by name"
	}
	if at != nil { // narrowed by typing, the files are mixed
		row.Where = path.Base(d.Path) + " " + strconv.Itoa(d.Line)
		return row
	}
	return row
}

// Update takes a key or what was pasted.
func (m *Model) Update(msg tea.Msg) picker.Event {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch {
		case keymap.Is(k.String(), on.Role):
			m.role = m.nextRole()
			m.picker.Set(m.list(), picker.Best)
			return picker.Selected
		case keymap.Is(k.String(), on.Folder):
			m.folder = m.nextFolder()
			m.picker.Set(m.list(), picker.Best)
			return picker.Selected
		case keymap.Is(k.String(), on.Possible) && m.possible > 0 && m.possible < len(m.all):
			m.unfold()
			return picker.Selected
		case keymap.Is(k.String(), on.Mentions):
			return picker.More
		case keymap.Is(k.String(), on.Keep):
			return picker.Kept
		case keymap.Is(k.String(), on.Tests):
			m.tests = m.tests.next()
			m.picker.Set(m.list(), picker.Best)
			return picker.Selected
		}
	}
	return m.picker.Update(msg)
}

// unfold shows the places that are possible, too, and chooses the first of them; or takes them out again.
func (m *Model) unfold() {
	m.unfolded = !m.unfolded
	l, at := m.list(), picker.Best
	if m.unfolded {
		at = slices.IndexFunc(m.all, func(d answer.Answer) bool { return d.Possible })
	}
	m.picker.Set(l, at)
}

// project stands for all of the project, where some places lie outside of it.
const project = "."

// folderName is what to call a folder that is shown alone.
func folderName(folder string) string {
	if folder == project {
		return "this project"
	}
	return folder + "/"
}

// within says whether a file is in the folder that is shown alone.
func (m *Model) within(file string) bool {
	switch m.folder {
	case "":
		return true
	case project:
		return !path.IsAbs(file)
	}
	return sweep.Within(m.folder, file)
}

// nextFolder is what is shown alone next: the project, if there are places outside; the folder of the chosen
// place, then the one around it, and at last all.
func (m *Model) nextFolder() string {
	at := m.folder
	outside := func(a answer.Answer) bool { return path.IsAbs(a.Path) }
	inside := func(a answer.Answer) bool { return !path.IsAbs(a.Path) }
	if at == "" && slices.ContainsFunc(m.all, outside) && slices.ContainsFunc(m.all, inside) {
		return project
	}
	if at == "" || at == project {
		d, ok := m.Chosen()
		if !ok {
			return ""
		}
		at = d.Path
	}
	if at = path.Dir(at); at == "." || at == "/" {
		return ""
	}
	return at
}

// nextRole is the role that Tab shows next.
func (m *Model) nextRole() string {
	if len(m.roles) < 2 {
		return ""
	}
	i := slices.Index(m.roles, m.role) // -1 for all
	if i++; i == len(m.roles) {
		return ""
	}
	return m.roles[i]
}

const prompt = "  places  "

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	keys := [][2]string{keymap.Hint(keymap.Ends.Take, "go there"), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose")}
	if len(m.roles) > 1 {
		next := "all"
		if r := m.nextRole(); r != "" {
			next = "only: " + r
		}
		keys = append(keys, keymap.Hint(on.Role, next))
	}
	if slices.ContainsFunc(m.all, func(d answer.Answer) bool { return d.Test }) {
		keys = append(keys, keymap.Hint(on.Tests, m.tests.next().String()))
	}
	if folder := m.nextFolder(); folder != "" || m.folder != "" {
		words := "only in " + folderName(folder)
		if folder == "" {
			words = "all folders"
		}
		keys = append(keys, keymap.Hint(on.Folder, words))
	}
	if m.possible > 0 && m.possible < len(m.all) {
		words := sheet.Number(m.possible) + " possible, too"
		if m.unfolded {
			words = "only those that are sure"
		}
		keys = append(keys, keymap.Hint(on.Possible, words))
	}
	if m.CanMention {
		keys = append(keys, keymap.Hint(on.Mentions, "mentions, too"))
	}
	keys = append(keys, keymap.Hint(on.Keep, "keep as a sweep"))
	return append(m.picker.Rows(prompt, "letters of a file, a function or a line", width, p), sheet.Edge(width, append(keys, keymap.Hint(keymap.Ends.Close, "back as it was")), p))
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor(width int) int { return m.picker.Cursor(prompt, width) }
