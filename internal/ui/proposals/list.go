package proposals

import (
	"cmp"
	"path"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// item is a row of the list: a warning, a file that is moved, or a place of a file.
type item struct {
	warning *proposal.Warning
	file    *proposal.File
	place   int // its number in the file; -1 for the file itself
	start   uint32
}

// model is the list of what is proposed.
type model struct {
	picker   picker.Model
	proposal *proposal.Proposal
	entries  []item
	names    *fuzzy.Corpus
	kinds    []string // those that places are of, the commonest first
	kind     string   // the one that is shown; "" for all
	checking bool     // it is still being looked for what stands in the way
	empty    string   // why there is nothing; "" for the usual
	width    int      // of the rows
	whole    bool     // it is not narrowed by letters, which are typed for something else
}

func newModel() *model { return &model{picker: picker.New()} }

// open shows a proposal from its beginning.
func (m *model) open(p *proposal.Proposal, height int) {
	m.proposal, m.kind, m.empty = p, "", ""
	m.take()
	m.picker.Open(m.list(), m.firstPlace(), height)
}

// firstPlace is the number of the first entry that is no warning, unless the warning stops the change.
func (m *model) firstPlace() int {
	if _, stopped := m.proposal.Stopped(); stopped {
		return 0
	}
	return max(slices.IndexFunc(m.entries, func(e item) bool { return e.warning == nil }), 0)
}

// take makes the entries of the proposal as it is now.
func (m *model) take() {
	m.entries, m.names, m.kinds = nil, &fuzzy.Corpus{}, nil
	for i := range m.proposal.Warnings {
		w := &m.proposal.Warnings[i]
		m.entries = append(m.entries, item{warning: w})
		m.names.Add(w.Path+" "+w.Text, len(w.Path)+1)
	}
	for _, f := range m.proposal.Files {
		if f.Path != f.To {
			m.entries = append(m.entries, item{file: f, place: -1})
			m.names.Add(f.Path+" "+f.To, 0)
		}
	}
	counts := map[string]int{}
	for _, g := range []proposal.Group{proposal.Sure, proposal.ByName, proposal.Mentions} {
		for _, f := range m.proposal.Files {
			for i := range f.Places {
				at := &f.Places[i]
				if at.Group != g {
					continue
				}
				m.entries = append(m.entries, item{file: f, place: i, start: at.At.Start})
				if !m.whole {
					line, _ := inline(f, i, mostBefore)
					m.names.Add(f.Name()+" "+at.In+" "+line, len(f.Name())+1)
				}
				if counts[at.What]++; counts[at.What] == 1 {
					m.kinds = append(m.kinds, at.What)
				}
			}
		}
	}
	slices.SortStableFunc(m.kinds, func(a, b string) int { return counts[b] - counts[a] })
}

// again takes the entries anew, and keeps to the one that was chosen.
func (m *model) again() {
	was, ok := m.chosen()
	i, _ := m.picker.Chosen()
	m.take()
	if ok {
		if now := slices.IndexFunc(m.entries, func(e item) bool { return e.is(was) }); now >= 0 {
			i = now
		}
	}
	m.picker.Set(m.list(), min(i, max(len(m.entries)-1, 0)))
}

// shown shows the same entries again, of which some are left out or taken in by now.
func (m *model) shown() {
	i, _ := m.picker.Chosen()
	m.picker.Set(m.list(), i)
}

// is says whether two entries stand for the same.
func (e item) is(o item) bool {
	if e.warning != nil || o.warning != nil {
		return e.warning != nil && o.warning != nil && *e.warning == *o.warning
	}
	return e.file == o.file && e.start == o.start && (e.place < 0) == (o.place < 0)
}

func (m *model) chosen() (item, bool) {
	i, ok := m.picker.Chosen()
	if !ok || i >= len(m.entries) {
		return item{}, false
	}
	return m.entries[i], true
}

// holds says whether an entry is among those that are shown.
func (m *model) holds(i int) bool {
	e := m.entries[i]
	return m.kind == "" || e.file != nil && e.place >= 0 && e.file.Places[e.place].What == m.kind
}

func (m *model) list() picker.List {
	l := picker.List{Title: m.proposal.Title, Names: m.names, Total: len(m.entries), Holds: m.holds, Row: m.row, Group: m.group, Note: m.note(),
		Empty: cmp.Or(m.empty, "nothing is left: "+on.Only.Help().Key+" shows other kinds")}
	for i := range m.entries {
		if m.holds(i) {
			l.Shown = append(l.Shown, i)
		}
	}
	return l
}

// note says how much would change.
func (m *model) note() string {
	c := m.proposal.Count()
	words := "changes " + sheet.Count(c.Places, "place", "places") + " in " + sheet.Count(c.Files, "file", "files")
	if c.Moves > 0 {
		words += ", moves " + sheet.Count(c.Moves, "file", "files")
	}
	if c.Out > 0 {
		words += ", " + strconv.Itoa(c.Out) + " left out"
	}
	if m.checking {
		words += "; looking for what stands in the way"
	}
	if m.kind != "" {
		words += "; only: " + m.kind
	}
	return words
}

// group is the heading of an entry.
func (m *model) group(i int) string {
	e := m.entries[i]
	switch {
	case e.warning != nil && e.warning.Stops:
		return "stands in the way"
	case e.warning != nil:
		return "to be known"
	case e.place < 0:
		return "files that move, come or go"
	}
	if g := e.file.Places[e.place].Group; g != proposal.Sure {
		return g.String() + ": " + e.file.Name()
	}
	return e.file.Name()
}

// row draws an entry.
func (m *model) row(i int, matched []int) sheet.Row {
	e := m.entries[i]
	switch {
	case e.warning != nil:
		w := e.warning
		row := sheet.Row{What: "careful", Name: w.Text, Where: path.Base(w.Path) + " " + strconv.Itoa(w.Line), Reads: true}
		if w.Stops {
			row.What = "conflict"
		}
		if w.Path == "" {
			row.Where = ""
		}
		return row
	case e.place < 0:
		return fileRow(e.file)
	}
	at := &e.file.Places[e.place]
	before := mostBefore
	if m.width < narrow {
		before = leastBefore
	}
	line, mark := inline(e.file, e.place, before)
	row := sheet.Row{What: at.What, Name: line, Where: "line " + strconv.Itoa(e.file.Line(e.place)), Faint: at.Out}
	if at.In != "" {
		row.Where = "in " + at.In + ", " + row.Where
	}
	if at.Certainty == resolve.ByName && at.Group == proposal.Sure {
		row.Where += ", by name"
	}
	if at.ByHand {
		row.What = "by hand"
	}
	if at.Out {
		row.What = "left out"
		row.Where = at.What + " " + row.Where
	}
	if matched != nil {
		row.Where = path.Base(e.file.Name()) + " " + strconv.Itoa(e.file.Line(e.place))
	}
	for b := mark[0]; b < mark[1] && !at.Out; b++ {
		row.At = append(row.At, b)
	}
	return row
}

func fileRow(f *proposal.File) sheet.Row {
	row := sheet.Row{What: "moves", Name: f.Path + becomes + f.To, Faint: f.Stays}
	switch {
	case f.Path == "":
		row.What, row.Name = "new file", f.To
	case f.To == "":
		row.What, row.Name = "goes", f.Path
	}
	if f.Stays {
		row.What = "left out"
	}
	return row
}

// becomes stands between what is there and what is to be there.
const becomes = " → "

// mostInline is how much is shown of what is replaced and of what comes, in bytes.
const mostInline = 60

// How many letters of a line are shown before a place, so that this is in sight.
const (
	leastBefore = 8 // where there are fewer columns than narrow
	mostBefore  = 30
	narrow      = 100
)

// inline is the line of a place with what comes behind what it replaces; mark is where that is, in bytes, and shown how
// many letters before it there may be.
func inline(f *proposal.File, number, shown int) (line string, mark [2]int) {
	at := &f.Places[number]
	n, _ := f.Before.Position(int(at.At.Start))
	begins := f.Before.Offset(n, 1)
	before := strings.TrimLeft(string(f.Before.Slice(begins, int(at.At.Start))), " \t")
	was := oneLine(string(f.Before.Slice(int(at.At.Start), int(at.At.End))))
	now := oneLine(at.New)
	rest := ""
	if last, _ := f.Before.Position(int(at.At.End)); last == n {
		rest = string(f.Before.Slice(int(at.At.End), begins+len(f.Before.Line(n))))
	}
	if short := []rune(before); len(short) > shown+shown/3 {
		before = "…" + string(short[len(short)-shown:])
	}
	switch {
	case was == "":
		was, mark = now, [2]int{len(before), len(before) + len(now)}
	case now == "":
		now = "nothing"
		fallthrough
	default:
		mark = [2]int{len(before) + len(was) + len(becomes), len(before) + len(was) + len(becomes) + len(now)}
		was += becomes + now
	}
	return before + was + rest[:min(len(rest), text.HeadOfLine)], mark
}

// oneLine is the beginning of a text, on one line.
func oneLine(s string) string {
	first, rest, more := strings.Cut(strings.Trim(s, "\r\n"), "\n")
	first = strings.TrimSpace(first)
	if len(first) > mostInline && more {
		first = first[:mostInline] + "…"
	}
	if more {
		first += " (and " + sheet.Count(strings.Count(rest, "\n")+1, "line", "lines") + ")"
	}
	return first
}

// nextKind is what is shown alone next; "" for all.
func (m *model) nextKind() string {
	if len(m.kinds) < 2 {
		return ""
	}
	if i := slices.Index(m.kinds, m.kind) + 1; i < len(m.kinds) {
		return m.kinds[i]
	}
	return ""
}

const prompt = "  proposal  "

// rows draws the list.
func (m *model) rows(width int, typing *replacing, p *palette.Palette) []string {
	if typing != nil {
		keys := append(typing.hints(), keymap.Hint(keymap.Ends.Close, "not now"))
		return append(m.picker.Rows(prompt, "", width, p), sheet.Edge(width, keys, p))
	}
	keys := [][2]string{keymap.Hint(on.Make, "make it"), keymap.Hint(on.Aside, m.asideWords()), keymap.Hint(on.Hand, "by hand"), keymap.Hint(keymap.Ends.Take, "go there")}
	if len(m.kinds) > 1 {
		next := "all"
		if k := m.nextKind(); k != "" {
			next = "only: " + k
		}
		keys = append(keys, keymap.Hint(on.Only, next))
	}
	keys = append(keys, keymap.Hint(on.File, "the file"), keymap.Hint(on.Folder, "the folder"), keymap.Hint(on.Mentions, "mentions"))
	return append(m.picker.Rows(prompt, "letters of a file, a function or a line", width, p), sheet.Edge(width, append(keys, keymap.Hint(keymap.Ends.Close, "not now")), p))
}

// asideWords say what leaving out does to the chosen entry.
func (m *model) asideWords() string {
	if e, ok := m.chosen(); ok && e.file != nil && (e.place >= 0 && e.file.Places[e.place].Out || e.place < 0 && e.file.Stays) {
		return "take in"
	}
	return "leave out"
}
