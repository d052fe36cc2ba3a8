// Package signpost is the column that says, for the name under the caret, what
// it is and where one can go from it.
package signpost

import (
	"path"
	"strconv"
	"strings"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Model is the signpost. It knows nothing at first.
type Model struct {
	keys    keymap.Map
	about   answer.Description
	inside  bool               // about is what surrounds the caret, not a name under it
	call    *answer.Call       // what is called around the caret, or nil
	around  answer.Description // what the ways are from while a call is shown: what surrounds it
	file    []string
	working bool
	ways    answer.Ways
	counted bool // ways are those of about

	before, after Neighbour
}

// Neighbour is the function or type that a hop back or on leads to; its Name is "" if
// there is none.
type Neighbour struct {
	Name string
	Line int // counted from 1
}

// Neighbours takes what is before and behind the caret.
func (m *Model) Neighbours(before, after Neighbour) { m.before, m.after = before, after }

// New makes a signpost that names the keys of a key map.
func New(keys keymap.Map) Model { return Model{keys: keys} }

// About is what the signpost tells of.
func (m *Model) About() answer.Description { return m.about }

// Stale says that what the signpost tells is not of the name under the caret yet.
func (m *Model) Stale() bool { return m.working }

// Count takes how many places the ways lead to.
func (m *Model) Count(n answer.Ways) { m.ways, m.counted = n, true }

// Show takes what is known of the name under the caret.
func (m *Model) Show(d answer.Description, inside bool) {
	if was := &m.about.Best; was.Path != d.Best.Path || was.At != d.Best.At || inside != m.inside {
		m.ways, m.counted = answer.Ways{}, false
	}
	m.about, m.inside, m.working, m.call = d, inside, false, nil
}

// Named says that there is a name under the caret: what the signpost tells of is not what one is in.
func (m *Model) Named() bool { return m.about.Name != "" && !m.inside && m.call == nil }

// From is what the ways are from: the name under the caret, or what one is in.
func (m *Model) From() answer.Description {
	if m.call != nil {
		return m.around
	}
	return m.about
}

// Call says that the caret is in the brackets of a call, which is what is shown;
// nil says that it is not. The ways are from what is around it.
func (m *Model) Call(c *answer.Call, around answer.Description) {
	if was := &m.around.Best; c != nil && (was.Path != around.Best.Path || was.At != around.Best.At) {
		m.ways, m.counted = answer.Ways{}, false
	}
	m.call, m.around = c, around
}

// parameter says which one the caret is at in the brackets of a call.
func (m *Model) parameter() string {
	c := m.call
	switch {
	case c.Of == 0:
		return "takes no parameters"
	case c.Parameter == "":
		return "takes " + sheet.Count(c.Of, "parameter", "parameters")
	}
	return "parameter " + strconv.Itoa(c.Number) + " of " + strconv.Itoa(c.Of)
}

// Working says that an answer is being worked out; what was shown goes only
// when the new one comes.
func (m *Model) Working() { m.working = true }

// File takes a few words about the file, shown where there is no name.
func (m *Model) File(words ...string) { m.file = words }

// Rows draws the signpost as a column with a rule on its left.
func (m *Model) Rows(width, height int, p *palette.Palette) []string {
	c := &column{width: width, p: p}
	m.write(c)
	for len(c.rows) < height {
		c.put("", palette.On(p.Text, p.Ground))
	}
	return c.rows[:height]
}

// Height is how many rows there is something to draw in.
func (m *Model) Height(width int, p *palette.Palette) int {
	c := &column{width: width, p: p}
	m.write(c)
	return len(c.rows)
}

func (m *Model) write(c *column) {
	p := c.p
	quiet, text := palette.On(p.Quiet, p.Ground), palette.On(p.Text, p.Ground)
	d := &m.about
	if d.Name == "" {
		for _, w := range m.file {
			c.wrap(w, quiet)
		}
		m.putNeighbours(c)
		return
	}
	switch {
	case m.call != nil:
		c.put("you are calling", quiet)
	case m.inside:
		c.put("you are inside", quiet)
	}
	kind := ""
	if d.Candidates > 0 {
		kind = d.Best.What()
	}
	c.pair(d.Name, palette.On(p.Here, p.Ground).Strong(), kind, quiet)
	if d.Signature != "" && d.Signature != d.Name {
		c.lines(d.Signature, text, 8)
	}
	if m.call != nil {
		c.put("", quiet)
		c.put(m.parameter(), quiet)
		c.lines(m.call.Parameter, palette.On(p.Here, p.Ground).Strong(), 3)
		if m.around.Name != "" {
			c.put("", quiet)
			c.pair("inside "+m.around.Name, quiet, m.around.Best.What(), quiet)
			m.listWays(c)
		}
		return
	}
	more := d.More
	if d.Summary != "" {
		c.put("", quiet)
		more = c.paragraphs(d.Summary, quiet, 12) || more
	}
	if more {
		c.way(m.keys.Key(keymap.Docs), "read on", "", text)
	}
	c.put("", quiet)
	m.putWays(c)
	m.putNeighbours(c)
}

// putNeighbours says what is before and behind the caret.
func (m *Model) putNeighbours(c *column) {
	text := palette.On(c.p.Text, c.p.Ground)
	if m.before.Name != "" || m.after.Name != "" {
		c.put("", text)
	}
	put := func(a keymap.Action, what string, n Neighbour) {
		if n.Name != "" {
			line := " " + strconv.Itoa(n.Line)
			c.way(m.keys.Key(a), what, ink.CutFront(n.Name, max(c.width-ink.Width(what+line)-9, 4))+line, text)
		}
	}
	put(keymap.PreviousSymbol, "before", m.before)
	put(keymap.NextSymbol, "next  ", m.after)
}

// nothingDefines says of a name that it is defined nowhere, as far as that is known.
func nothingDefines(d *answer.Description) string {
	if d.Unread {
		return "nothing read so far defines"
	}
	return "nothing in this project defines"
}

// putWays says where one can go and how that is known.
func (m *Model) putWays(c *column) {
	p, d := c.p, &m.about
	quiet := palette.On(p.Quiet, p.Ground)
	switch {
	case d.Outside != "":
		c.wrap("belongs to "+d.Outside+", outside this project", quiet)
		return
	case d.Candidates == 0:
		c.wrap(nothingDefines(d)+" this name", quiet)
		return
	case m.inside:
		c.put("begins in line "+strconv.Itoa(d.Best.Line), quiet)
	case d.Here:
		c.wrap("it is "+m.standing(), quiet)
	}
	m.listWays(c)
	c.put("", quiet)
	switch d.Best.Certainty {
	case resolve.Exact:
		c.wrap("exact: the compiler's own answer", quiet)
	case resolve.Inferred:
		c.wrap("inferred: by the rules of the language", quiet)
	case resolve.ByName:
		c.wrap("by name: nothing else says that it is meant", palette.On(p.Problem, p.Ground))
	}
	if m.working {
		c.put("…", quiet)
	}
}

// listWays lists the ways with their keys.
func (m *Model) listWays(c *column) {
	quiet, text := palette.On(c.p.Quiet, c.p.Ground), palette.On(c.p.Text, c.p.Ground)
	for _, w := range m.Ways() {
		c.way(w.Key, w.What, w.Where, text)
		if w.More != "" {
			c.put("   "+w.More, quiet)
		}
	}
	if m.counted && !m.ways.Related {
		c.put("more is being looked for "+counting, quiet)
	}
}

// Line draws the signpost as one line, for narrow screens.
func (m *Model) Line(width int, p *palette.Palette) string {
	r := ink.NewRow(width)
	quiet, d := palette.On(p.Quiet, p.Ground), &m.about
	r.Put(" ", quiet)
	if d.Name == "" {
		r.Put(ink.Cut(strings.Join(m.file, "  "), width-2), quiet)
		return r.String(quiet)
	}
	if m.inside {
		r.Put("inside ", quiet)
	}
	if m.call != nil {
		r.Put("calling ", quiet).Put(d.Name, palette.On(p.Here, p.Ground).Strong()).Put("  "+m.parameter()+"  ", quiet)
		return r.Put(ink.Cut(strings.Join(strings.Fields(m.call.Parameter), " "), r.Left()-1), palette.On(p.Text, p.Ground).Strong()).String(quiet)
	}
	r.Put(d.Name, palette.On(p.Here, p.Ground).Strong())
	switch {
	case d.Outside != "":
		r.Put("  belongs to "+d.Outside+", outside this project", quiet)
	case d.Candidates == 0:
		r.Put("  "+nothingDefines(d)+" it", quiet)
	default:
		m.putLine(r, p)
	}
	return r.String(quiet)
}

// besides is what else is to be said of a definition, such as that it is not built.
func besides(why string) string {
	if why == "" {
		return ""
	}
	return ", " + why
}

// standing says of what one stands on that it is defined there, or but declared, and where it is declared or written out beside.
func (m *Model) standing() string {
	d, there := &m.about, ""
	if d.Twin.Path != "" {
		there = path.Base(d.Twin.Path) + " " + strconv.Itoa(d.Twin.Line)
	}
	switch {
	case there == "":
		return "defined here" + besides(d.Best.Why)
	case d.OnlyDeclared:
		return "declared here, written out in " + there + besides(d.Best.Why)
	}
	return "defined here, declared in " + there + besides(d.Best.Why)
}

// putLine puts what is known of a name and its ways on one line. Where there is no room for all of
// it, the signature goes first, then where it is defined and what it is; no way does.
func (m *Model) putLine(r *ink.Row, p *palette.Palette) {
	d, quiet := &m.about, palette.On(p.Quiet, p.Ground)
	where := path.Base(d.Best.Path) + " " + strconv.Itoa(d.Best.Line) + "  " + d.Best.Certainty.String()
	switch {
	case m.inside:
		where = "begins in line " + strconv.Itoa(d.Best.Line)
	case d.Here:
		where = m.standing()
	case d.Candidates > 1 && d.Best.Certainty == resolve.ByName:
		where = sheet.Count(d.Candidates, "candidate", "candidates") + ", by name"
	}
	ways, width := m.short(r.Left())
	kind := d.Best.What()
	if r.Left() > ink.Width(kind)+2+width {
		r.Put("  "+kind, quiet)
	}
	if signature, _, _ := strings.Cut(d.Signature, "\n"); r.Left() > ink.Width(where)+width+20 {
		r.Put("  "+ink.Cut(signature, r.Left()-ink.Width(where)-width-10), palette.On(p.Text, p.Ground))
	}
	if r.Left() > ink.Width(where)+width+6 {
		if r.Put("  ", quiet); !d.Here && !m.inside {
			r.Put(m.keys.Key(keymap.Definition)+" ", palette.On(p.Way, p.Ground).Strong())
		}
		r.Put(where, quiet)
	} else if !d.Here && !m.inside {
		r.Put("  "+m.keys.Key(keymap.Definition), palette.On(p.Way, p.Ground).Strong())
	}
	for _, w := range ways {
		r.Put("  "+w.Key, palette.On(p.Way, p.Ground).Strong())
		if w.Where != "" {
			r.Put(" "+w.Where, quiet)
		}
	}
}

// short are the ways but that to the definition, with as few words as there is room for, and how many
// columns they take.
func (m *Model) short(room int) (ways []Way, width int) {
	for words := 2; words >= 0; words-- {
		ways, width = nil, 3 // and the key of the definition
		for _, w := range m.Ways() {
			if w.Action == keymap.Definition {
				continue
			}
			w.Where = shortly(w.Where, words)
			ways = append(ways, w)
			width += ink.Width(w.Key) + 2
			if w.Where != "" {
				width += ink.Width(w.Where) + 1
			}
		}
		if width <= room {
			break
		}
	}
	return ways, width
}

// shortly is how many places a way leads to, in at most so many words: a number alone, or none at all.
func shortly(where string, words int) string {
	number, rest, _ := strings.Cut(where, " ")
	number = strings.TrimSuffix(number, ",")
	if all, ok := strings.CutSuffix(where, " possible"); ok && words > 0 { // told apart from what is sure
		if possible := all[strings.LastIndexByte(all, ' ')+1:]; possible != all {
			return number + " +" + possible + "?"
		}
		return all + "?"
	}
	if _, through, ok := strings.Cut(where, ", "); ok && words > 0 && strings.Contains(through, " through ") { // by way of another
		more, _, _ := strings.Cut(through, " ")
		if number == none {
			return more + " through"
		}
		return number + "+" + more
	}
	if number == "over" {
		number, _, _ = strings.Cut(rest, " ")
		number = "over " + number
	}
	if more, ok := strings.CutPrefix(rest, "+ "); ok { // two that belong together
		more, _, _ = strings.Cut(more, " ")
		a, _ := strconv.Atoi(strings.ReplaceAll(number, ",", ""))
		b, _ := strconv.Atoi(strings.ReplaceAll(more, ",", ""))
		number = sheet.Number(a + b)
	}
	_, err := strconv.Atoi(strings.ReplaceAll(strings.TrimPrefix(number, "over "), ",", ""))
	switch isNumber := err == nil || number == counting || number == none; {
	case words == 0:
		return ""
	case isNumber && number == none && words == 1:
		return "0"
	case isNumber:
		return number
	case words == 2:
		return where
	}
	return ""
}

// column writes lines beside the rule.
type column struct {
	width int
	p     *palette.Palette
	rows  []string
}

func (c *column) row() *ink.Row {
	r := ink.NewRow(c.width)
	return r.Put("│ ", palette.On(c.p.Rule, c.p.Ground))
}

func (c *column) put(s string, st ink.Style) {
	c.rows = append(c.rows, c.row().Put(ink.Cut(s, c.width-3), st).String(st))
}

// pair puts one thing on the left and another on the right.
func (c *column) pair(left string, ls ink.Style, right string, rs ink.Style) {
	r := c.row().Put(ink.Cut(left, max(c.width-5-ink.Width(right), 8)), ls)
	c.rows = append(c.rows, r.End(right+" ", rs, rs).String(rs))
}

func (c *column) way(key, what, where string, st ink.Style) {
	r := c.row().Put(key, palette.On(c.p.Way, c.p.Ground).Strong()).Put("  "+what+"  ", st)
	r.Put(ink.Cut(where, r.Left()-1), palette.On(c.p.Quiet, c.p.Ground))
	c.rows = append(c.rows, r.String(st))
}

// lines puts code, at most the given number of lines; what is too long goes on
// indented.
func (c *column) lines(s string, st ink.Style, most int) {
	for _, l := range strings.Split(s, "\n") {
		l = strings.ReplaceAll(l, "\t", "    ")
		for indent := ""; ; indent = "    " {
			room := c.width - 3 - len(indent)
			head := breakCode(l, room)
			if most == 0 {
				c.put("…", st)
				return
			}
			most--
			c.put(indent+strings.TrimRight(head, " "), st)
			if l = strings.TrimLeft(l[len(head):], " "); l == "" {
				break
			}
		}
	}
}

// breakCode takes as much from the front of a line of code as fits, up to a
// blank, comma or bracket if there is one.
func breakCode(l string, room int) string {
	if ink.Width(l) <= room || room < 8 {
		return l
	}
	head := ink.Fit(l, room)
	if i := strings.LastIndex(head, ", "); i > room/3 {
		return head[:i+2]
	}
	if i := strings.LastIndexAny(head, " ,(["); i > room/3 {
		return head[:i+1]
	}
	return head
}

func (c *column) wrap(s string, st ink.Style) {
	for _, l := range ink.Wrap(s, c.width-3) {
		c.put(l, st)
	}
}

// paragraphs puts prose, in which lines of a paragraph run on, at most the
// given number of lines; it says whether something was left out.
func (c *column) paragraphs(s string, st ink.Style, most int) (cut bool) {
	for i, para := range strings.Split(s, "\n\n") {
		if i > 0 {
			c.put("", st)
			most--
		}
		lines := ink.WrapSome(strings.ReplaceAll(para, "\n", " "), c.width-3, max(most, 0)+1)
		for n, l := range lines {
			if most--; most < 0 || most == 0 && (n < len(lines)-1) {
				c.put("…", st)
				return true
			}
			c.put(l, st)
		}
	}
	return false
}
