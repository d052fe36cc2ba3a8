package preprocess

import (
	"bytes"
	"slices"
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// edit is a part of the text that something else is read in place of: nothing, or tokens.
type edit struct {
	start, end, name int // name is where the macro's name ends
	tokens           []token
}

// level is what stands between the brackets that a part of the text is in.
type level uint8

const (
	declarations level = iota // a file, a namespace
	members
	values // an enumeration, a list of values
	code
)

// walker goes through a text.
type walker struct {
	src      string
	cpp      bool
	options  Options
	tokens   []token
	macros   map[string]*Macro
	ifs      []conditional
	edits    []edit
	hidden   []place.Range
	inactive []place.Range
	levels   []level
	// since is what was seen since the last statement or declaration ended.
	since   head
	types   map[string]bool // the names of types that are defined in the text
	round   int             // how many round brackets are open
	carried bool            // the last token was taken away at the beginning of a declaration
	left    int             // how many tokens may still come of macros
}

// head is the beginning of a declaration.
type head struct {
	tag           string // the word that says what kind of thing it is
	round, equals bool
	colon         bool
	template      int // how many angled brackets of it are open, from 1
	any           bool
}

// conditional is what stands between #if and #endif.
type conditional struct {
	outer      bool // the branch around it is not taken
	taken, was bool // the present branch is, one before was
	begin      int  // the number of the token with the #if
	branch     int  // of that which begins the present branch
	levels     []level
	kept       []level // as they are after the branch that was taken
	uneven     bool    // a branch opens other brackets than it closes
	off        []place.Range
	lines      []int // the tokens of its directives
}

// Options are what is said of macros out of a text.
type Options struct {
	// Known finds those of other files; nil for none.
	Known func(name string) *Macro
	// Defined are those that a build defines, Removed those that it takes away.
	Defined map[string]*Macro
	Removed map[string]bool
}

// Prepare works out how a text is to be read.
func Prepare(text []byte, cpp bool, options Options) *Prepared {
	w := &walker{src: string(text), cpp: cpp, options: options, macros: map[string]*Macro{}, levels: []level{declarations}, types: map[string]bool{}}
	w.tokens = scan(w.src, true)
	w.left = mostTokens*25 + 4*len(w.tokens)
	for i := 0; i < len(w.tokens); {
		i = w.step(i)
	}
	for _, c := range slices.Backward(w.ifs) { // that nothing closes
		w.endBranch(&c, len(w.src))
		w.close(c, len(w.src))
	}
	return w.prepared(text)
}

// find is the macro that a name is where the walk has come to.
func (w *walker) find(name string) *Macro {
	if m, ok := w.macros[name]; ok {
		return m
	}
	if m, ok := w.options.Defined[name]; ok {
		return m
	}
	if w.options.Removed[name] {
		return nil
	}
	if m := commonly(name, w.cpp); m != nil {
		return m
	}
	if w.options.Known != nil {
		return w.options.Known(name)
	}
	return nil
}

// off says whether the walk is in a branch that is not taken.
func (w *walker) off() bool {
	return len(w.ifs) > 0 && (w.ifs[len(w.ifs)-1].outer || !w.ifs[len(w.ifs)-1].taken)
}

// step reads a token, and returns the number of the next.
func (w *walker) step(i int) int {
	t := w.tokens[i]
	if t.kind == directive {
		w.direct(i)
		return i + 1
	}
	if t.kind == word {
		if next := w.replace(i); next > i {
			return next
		}
	}
	w.feed(w.tokens, i)
	w.carried = false
	return i + 1
}

// direct does what a directive says.
func (w *walker) direct(i int) {
	text := strings.TrimSpace(w.tokens[i].text[1:])
	n := 0
	for n < len(text) && isLetter(text[n]) {
		n++
	}
	rest := text[n:]
	switch text[:n] {
	case "define":
		if name, m := define(rest); m != nil && !w.off() {
			w.macros[name] = m
		}
	case "undef":
		if !w.off() {
			delete(w.macros, strings.TrimSpace(rest))
		}
	case "if", "ifdef", "ifndef":
		c := conditional{outer: w.off(), begin: i, branch: i, levels: slices.Clone(w.levels), lines: []int{i}}
		c.taken = !c.outer && w.condition(text[:n], rest)
		c.was = c.taken
		w.ifs = append(w.ifs, c)
	case "elif", "elifdef", "elifndef", "else":
		if len(w.ifs) == 0 {
			return
		}
		c := &w.ifs[len(w.ifs)-1]
		w.endBranch(c, w.tokens[i].at())
		c.taken = !c.outer && !c.was && (text[:n] == "else" || w.condition(text[2:n], rest))
		c.was = c.was || c.taken
		c.branch, c.lines = i, append(c.lines, i)
		w.levels = slices.Clone(c.levels)
	case "endif":
		if len(w.ifs) == 0 {
			return
		}
		c := w.ifs[len(w.ifs)-1]
		w.ifs = w.ifs[:len(w.ifs)-1]
		c.lines = append(c.lines, i)
		w.endBranch(&c, w.tokens[i].at())
		w.close(c, w.tokens[i].at())
	}
}

func (w *walker) condition(word, rest string) bool {
	switch strings.TrimPrefix(word, "el") {
	case "ifdef":
		return w.find(firstWord(rest)) != nil
	case "ifndef":
		return w.find(firstWord(rest)) == nil
	}
	return w.within(func(x *expander) bool { return holds(rest, x) })
}

// within has something put in place, as far as the text may still grow.
func (w *walker) within(work func(x *expander) bool) bool {
	allowed := min(mostTokens, w.left)
	x := expander{find: w.find, left: allowed}
	is := work(&x)
	w.left -= allowed - x.left
	return is && x.left >= 0
}

func firstWord(s string) string {
	sc := scanner{src: s}
	t, _ := sc.next(false)
	return t.text
}

// endBranch ends the present branch of conditional code at an offset.
func (w *walker) endBranch(c *conditional, at int) {
	if len(w.levels) != len(c.levels) {
		c.uneven = true
	}
	if c.taken {
		c.kept = slices.Clone(w.levels)
	} else {
		c.off = append(c.off, place.Range{Start: uint32(w.tokens[c.branch].end()), End: uint32(at)})
	}
}

// close ends conditional code. Where a branch opens other brackets than it closes, the grammar is to see only the one that is
// taken.
func (w *walker) close(c conditional, end int) {
	w.levels = c.levels
	if c.kept != nil {
		w.levels = c.kept
	}
	if !c.outer {
		w.inactive = append(w.inactive, c.off...)
	}
	if !c.uneven || c.outer {
		return
	}
	for _, l := range c.lines {
		t := w.tokens[l]
		w.take(t.at(), t.end())
	}
	for _, r := range c.off {
		w.take(int(r.Start), int(r.End))
	}
}

// take hides a part of the text.
func (w *walker) take(start, end int) {
	w.edits = append(w.edits, edit{start: start, end: end})
	for s := (scanner{src: w.src[:end], pos: start}); ; {
		t, ok := s.next(false)
		if !ok {
			return
		}
		if t.kind == word {
			w.hidden = append(w.hidden, place.Range{Start: uint32(t.at()), End: uint32(t.end())})
		}
	}
}

// feed notes what a token does to the levels.
func (w *walker) feed(tokens []token, i int) {
	t := tokens[i]
	w.since.any = true
	switch t.text {
	case "{":
		w.levels = append(w.levels, w.opened())
		w.since = head{}
		w.round = 0
	case "}":
		if len(w.levels) > 1 {
			w.levels = w.levels[:len(w.levels)-1]
		}
		w.since = head{}
		w.round = 0
	case ";":
		if w.round == 0 {
			w.since = head{}
		}
	case "(":
		w.round++
		w.since.round = w.since.round || !w.since.colon
	case ")":
		w.round = max(0, w.round-1)
	case "=":
		w.since.equals = w.since.equals || w.round == 0 && w.since.template <= 1
	case ":":
		if w.since.tag == "public" || w.since.tag == "private" || w.since.tag == "protected" {
			w.since = head{}
		}
		w.since.colon = w.since.any && w.since.tag != ""
	case "<":
		if w.since.tag == "template" {
			w.since.template++
		}
	case ">", ">>":
		if w.since.tag == "template" {
			if w.since.template -= len(t.text); w.since.template <= 0 {
				w.since = head{}
			}
		}
	case "class", "struct", "union", "enum", "namespace", "extern", "template", "public", "private", "protected":
		if w.since.tag == "" || w.since.tag == "extern" || w.since.tag == "template" && w.since.template == 0 {
			w.since.tag = t.text
		}
		if next := i + 1; next < len(tokens) && tokens[next].kind == word && t.text != "enum" && t.text != "namespace" && w.since.tag == t.text {
			w.types[tokens[next].text] = true
		}
	}
	if t.kind == word && (w.since.tag == "class" || w.since.tag == "struct") && !w.since.round && !w.since.colon && i+1 < len(tokens) && tokens[i+1].is("{", ":", "final", "<") {
		w.types[t.text] = true
	}
}

// opened is the level of what an opening bracket begins.
func (w *walker) opened() level {
	around := w.levels[len(w.levels)-1]
	switch tag := w.since.tag; {
	case w.since.equals || around == values:
		return values
	case tag == "namespace" || tag == "extern" && !w.since.round:
		return declarations
	case tag == "enum":
		return values
	case (tag == "class" || tag == "struct" || tag == "union") && !w.since.round:
		return members
	}
	return code
}

// replace puts something in place of a word, if it is a macro that asks for it, and returns the number of the token behind; the
// same number if it stays.
func (w *walker) replace(i int) int {
	t := w.tokens[i]
	m := w.find(t.text)
	if m == nil {
		return w.guess(i)
	}
	effect := m.judge(w.find)
	if effect == declares && w.levels[len(w.levels)-1] >= values || effect == declares && w.round > 0 {
		effect = none
	}
	if effect == none {
		return i
	}
	last := i
	var args [][]token
	if m.call {
		var ok bool
		if args, last, ok = arguments(w.tokens, i+1); !ok {
			return i
		}
	}
	end := w.tokens[last].end()
	if effect == hide {
		w.carried = w.atBeginning(i)
		w.take(t.at(), end)
		return last + 1
	}
	var body []token
	own := map[string]bool{t.text: true}
	if !w.within(func(x *expander) bool {
		body = x.expand(x.substitute(m, args, own, 0), own, 1)
		return true
	}) {
		return i // it would become too much
	}
	w.edits = append(w.edits, edit{start: t.at(), end: end, name: t.end(), tokens: body})
	w.hidden = append(w.hidden, place.Range{Start: uint32(t.at()), End: uint32(t.end())})
	written := map[int]bool{}
	for j := range body {
		written[body[j].at()] = true
		w.feed(body, j)
	}
	for _, a := range w.tokens[i+1 : last+1] { // of what is given, all that is not put in place as it is
		if a.kind == word && !written[a.at()] {
			w.hidden = append(w.hidden, place.Range{Start: uint32(a.at()), End: uint32(a.end())})
		}
	}
	w.carried = true
	return last + 1
}

// atBeginning says whether a token begins a declaration or a statement.
func (w *walker) atBeginning(i int) bool { return w.carried || !w.since.any && w.round == 0 }

// isCapital says whether a word is written as macros are.
func isCapital(s string) bool {
	if len(s) < 3 {
		return false
	}
	letters := 0
	for i := 0; i < len(s); i++ {
		switch c := s[i]; {
		case 'A' <= c && c <= 'Z':
			letters++
		case c == '_' || isDigit(c):
		default:
			return false
		}
	}
	return letters > 1
}

// beginners are words that begin a declaration, so that a macro in front of them says something of it.
var beginners = lang.WordsOf(`class struct union enum template namespace using typedef constexpr consteval inline static explicit virtual extern friend
	const unsigned signed void int char bool float double long short auto`)

// guess takes a macro away of which nothing is known, but which can only be one by how it stands there.
func (w *walker) guess(i int) int {
	t := w.tokens[i]
	if !isCapital(t.text) || w.levels[len(w.levels)-1] == values || !w.atBeginning(i) {
		return i
	}
	last, call := i, false
	if i+1 < len(w.tokens) && w.tokens[i+1].text == "(" {
		var ok bool
		if _, last, ok = arguments(w.tokens, i+1); !ok {
			return i
		}
		call = true
	}
	var next token
	if last+1 < len(w.tokens) {
		next = w.tokens[last+1]
	}
	inCode := w.levels[len(w.levels)-1] == code
	alone := t.first && (next.first || next.text == "") && (next.kind == word || next.kind == directive || next.text == "" || next.is("}", "[[", "~", "::") || next.text == "{" && !call && w.cpp && !inCode)
	said := !inCode && next.kind == word && (beginners[next.text] || !call && w.types[next.text] && last+2 < len(w.tokens) && w.tokens[last+2].text == "(")
	if !alone && !said {
		return i
	}
	if alone && next.text == "{" {
		return i
	}
	w.carried = true
	w.take(t.at(), w.tokens[last].end())
	return last + 1
}

// prepared writes the text with all edits in it.
func (w *walker) prepared(text []byte) *Prepared {
	p := &Prepared{Text: text, Hidden: w.hidden, inactive: w.inactive}
	slices.SortFunc(p.inactive, func(a, b place.Range) int { return int(a.Start) - int(b.Start) })
	p.inactive = outermost(p.inactive)
	if len(w.edits) == 0 {
		return p
	}
	slices.SortStableFunc(w.edits, func(a, b edit) int { return a.start - b.start })
	out := make([]byte, 0, len(text)+256)
	at := 0
	for _, e := range w.edits {
		if e.start < at { // within something that is taken away as a whole
			continue
		}
		out = append(out, text[at:e.start]...)
		at = e.end
		if e.tokens == nil {
			out = append(out, blank(text[e.start:e.end])...)
			continue
		}
		out = p.put(out, e)
	}
	p.Text = append(out, text[at:]...)
	slices.SortFunc(p.Hidden, func(a, b place.Range) int { return int(a.Start) - int(b.Start) })
	p.Hidden = slices.Compact(p.Hidden)
	return p
}

// put writes what stands in place of a macro.
func (p *Prepared) put(out []byte, e edit) []byte {
	from, to, whole := uint32(e.start), uint32(e.name), uint32(e.end)
	made := func(text string) {
		start := uint32(len(out))
		out = append(out, text...)
		p.pieces = append(p.pieces, piece{start: start, end: uint32(len(out)), from: from, to: to, whole: whole})
	}
	for _, t := range e.tokens {
		if t.at() >= e.start && t.end() <= e.end {
			start := uint32(len(out))
			out = append(out, t.text...)
			p.pieces = append(p.pieces, piece{start: start, end: uint32(len(out)), from: uint32(t.at()), to: uint32(t.end()), whole: whole, exact: true})
			made(" ")
			continue
		}
		made(t.text + " ")
	}
	if len(e.tokens) == 0 {
		made(" ")
	}
	return out
}

// outermost are those of some ranges in order that lie in no other.
func outermost(ranges []place.Range) (out []place.Range) {
	for _, r := range ranges {
		if len(out) > 0 && r.Start < out[len(out)-1].End {
			continue
		}
		out = append(out, r)
	}
	return out
}

// blank is a text of the same length of which nothing is left but the ends of its lines.
func blank(text []byte) []byte {
	b := bytes.Repeat([]byte{' '}, len(text))
	for i, c := range text {
		if c == '\n' || c == '\r' {
			b[i] = c
		}
	}
	return b
}
