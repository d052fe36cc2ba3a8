// Package selection grows a selection to the next larger piece of a text that
// means something: the name, what stands before the dot, the argument, the
// brackets, the statement, the block, the function, the type, the file.
//
// The pieces come from three sources at once, and the smallest that is larger
// than the selection wins: the syntax tree, where there is one; the definitions
// that the facts know, with their comments; and the text itself, by its words,
// strings, brackets, lines and paragraphs. The last is there in every file, and
// holds where the first two are broken.
package selection

import (
	"bytes"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Ground is what a selection grows on: a text and what is known of it.
type Ground struct {
	Doc *text.Document
	// Runs are its comments and strings, Regions what can be folded in it.
	Runs    lexical.Runs
	Regions []fold.Region
	// Facts may be nil.
	Facts *facts.File
	// Pieces are the parts of its syntax tree; there may be none.
	Pieces []place.Range
	// Markup says that it is written in tags.
	Markup bool
	// Keywords are words in front of a round bracket that call nothing.
	Keywords map[string]bool
}

// Grow is the smallest piece that holds the selection and is larger; ok is false
// if the selection is the whole text already. A caret is an empty selection. A function or a type
// that has its lines to itself is selected with all of them, their last line end too, so that it
// can be cut and pasted as it is.
func (g *Ground) Grow(sel place.Range) (grown place.Range, ok bool) {
	src := g.Doc.Bytes()
	sel.End = min(sel.End, uint32(len(src)))
	sel.Start = min(sel.Start, sel.End)
	before := sel
	if core := trim(src, int(sel.Start), int(sel.End)); core.Len() > 0 {
		sel = core
	}
	grown = g.grow(sel)
	if g.isDefinition(grown) {
		grown = g.withLines(grown)
	}
	grown.Start, grown.End = min(grown.Start, before.Start), max(grown.End, before.End)
	if grown == before { // what was selected holds the blanks around the piece already
		if grown = g.grow(before); !grown.Covers(before) {
			grown = place.Range{Start: 0, End: uint32(len(src))}
		}
	}
	return grown, grown.Len() > before.Len()
}

// isDefinition says whether a piece is a function or a type, with or without its comment.
func (g *Ground) isDefinition(piece place.Range) bool {
	if g.Facts == nil {
		return false
	}
	for i := range g.Facts.Defs {
		d := &g.Facts.Defs[i]
		if (d.Kind.IsCallable() || d.Kind.IsType() && d.Kind != facts.TypeParameter) && d.Full.End == piece.End && (d.Full.Start == piece.Start || d.Doc.Len() > 0 && d.Doc.Start == piece.Start) {
			return true
		}
	}
	return false
}

// withLines is a piece with all of the lines it stands on, if nothing else does.
func (g *Ground) withLines(piece place.Range) place.Range {
	src := g.Doc.Bytes()
	start, end := int(piece.Start), int(piece.End)
	for start > 0 && (src[start-1] == ' ' || src[start-1] == '\t') {
		start--
	}
	for end < len(src) && (src[end] == ' ' || src[end] == '\t' || src[end] == '\r') {
		end++
	}
	if start > 0 && src[start-1] != '\n' || end < len(src) && src[end] != '\n' || bytes.IndexByte(piece.In(src), '\n') < 0 {
		return piece
	}
	return place.Range{Start: uint32(start), End: uint32(min(end+1, len(src)))}
}

func (g *Ground) grow(sel place.Range) place.Range {
	src := g.Doc.Bytes()
	whole := place.Range{Start: 0, End: uint32(len(src))}
	best, odd := whole, whole
	for _, p := range g.Pieces {
		if r := trim(src, int(p.Start), int(p.End)); r.Covers(sel) && r.Len() > sel.Len() && r.Len() < best.Len() {
			best = r
		}
	}
	take := func(start, end int) {
		switch r := trim(src, start, end); {
		case !r.Covers(sel) || r.Len() <= sel.Len():
		case r.Len() < best.Len() && g.balanced(r):
			best = r
		case r.Len() < odd.Len():
			odd = r
		}
	}
	g.word(sel, take)
	g.runs(sel, take)
	g.brackets(sel, take)
	g.lines(sel, take)
	g.regions(sel, take)
	g.definitions(sel, take)
	if best == whole { // better half a pair of brackets than all of a broken file
		best = odd
	}
	return best
}

// balanced says whether the brackets in a piece belong to each other. A piece
// inside a comment or a string, and a very long one, need not be looked at.
func (g *Ground) balanced(r place.Range) bool {
	depth, src := 0, g.Doc.Bytes()
	if r.Len() > farthest {
		return true
	}
	runs := g.Runs.From(int(r.Start))
	for i := int(r.Start); i < int(r.End) && depth >= 0; i++ {
		for len(runs) > 0 && int(runs[0].At.End) <= i {
			runs = runs[1:]
		}
		switch {
		case len(runs) > 0 && int(runs[0].At.Start) <= i:
			i = int(runs[0].At.End) - 1
		case closing(src[i]):
			depth--
		case bracket(src[i]):
			depth++
		}
	}
	return depth == 0
}

// trim takes the blanks off both ends.
func trim(src []byte, start, end int) place.Range {
	start, end = max(start, 0), min(end, len(src))
	for start < end && blank(src[start]) {
		start++
	}
	for end > start && blank(src[end-1]) {
		end--
	}
	return place.Range{Start: uint32(start), End: uint32(end)}
}

func blank(b byte) bool { return b == ' ' || b == '\t' || b == '\n' || b == '\r' }

// farthest is how far to both sides words, brackets and lines are looked for,
// in bytes, so that a text that is one line of megabytes takes no longer than
// others.
const farthest = 256 << 10

// word takes the word around the selection.
func (g *Ground) word(sel place.Range, take func(start, end int)) {
	src := g.Doc.Bytes()
	if bytes.ContainsFunc(sel.In(src), func(r rune) bool { return !text.InWord(r) }) {
		return // the selection is more than a word
	}
	start, end := int(sel.Start), int(sel.End)
	for limit := max(0, start-farthest); start > limit; {
		r, size := utf8.DecodeLastRune(src[:start])
		if !text.InWord(r) {
			break
		}
		start -= size
	}
	for limit := min(len(src), end+farthest); end < limit; {
		r, size := utf8.DecodeRune(src[end:])
		if !text.InWord(r) {
			break
		}
		end += size
	}
	take(start, end)
}

// runs takes the string or the comment around the selection, first without its
// signs, then with them.
func (g *Ground) runs(sel place.Range, take func(start, end int)) {
	rest := g.Runs.From(int(sel.Start))
	if len(rest) == 0 || !rest[0].At.Covers(sel) {
		return
	}
	src, run := g.Doc.Bytes(), rest[0]
	inner := run.At.In(src)
	skip := 0
	for skip < len(inner) && skip < 3 && bytes.IndexByte([]byte("\"'`/#*-!"), inner[skip]) >= 0 {
		skip++
	}
	tail := 0
	for !run.Line && tail < skip && tail < len(inner)-skip && bytes.IndexByte([]byte("\"'`/*->"), inner[len(inner)-1-tail]) >= 0 {
		tail++
	}
	take(int(run.At.Start)+skip, int(run.At.End)-tail)
	take(int(run.At.Start), int(run.At.End))
}

// brackets takes what is around the selection between brackets: the part of a
// list, all that is inside, and the brackets themselves with the name in front.
func (g *Ground) brackets(sel place.Range, take func(start, end int)) {
	open, shut, ok := g.pair(int(sel.Start), int(sel.End))
	if !ok {
		return
	}
	g.parts(open, shut, sel, take)
	take(open+1, shut)
	take(open, shut+1)
	take(g.chain(open), shut+1)
}

// pair finds the innermost brackets around the bytes from from to to.
func (g *Ground) pair(from, to int) (open, shut int, ok bool) {
	if open, ok = g.opening(from); !ok {
		return 0, 0, false
	}
	src, depth := g.Doc.Bytes(), 0
	for shut = to; shut < min(len(src), to+farthest); shut++ {
		if !bracket(src[shut]) || g.skipped(shut, from) {
			continue
		}
		if !closing(src[shut]) {
			depth++
		} else if depth--; depth < 0 {
			return open, shut, true
		}
	}
	return 0, 0, false
}

// opening finds the bracket before an offset that is not closed there.
func (g *Ground) opening(from int) (open int, ok bool) {
	src, depth := g.Doc.Bytes(), 0
	for open = from - 1; open >= max(0, from-farthest); open-- {
		if !bracket(src[open]) || g.skipped(open, from) {
			continue
		}
		if closing(src[open]) {
			depth++
		} else if depth--; depth < 0 {
			return open, true
		}
	}
	return 0, false
}

func bracket(b byte) bool { return b == '(' || b == '[' || b == '{' || closing(b) }
func closing(b byte) bool { return b == ')' || b == ']' || b == '}' }

// skipped says whether a byte lies in a comment or a string, unless that is the
// one which holds the place one starts from.
func (g *Ground) skipped(offset, from int) bool {
	run, ok := g.Runs.At(offset)
	return ok && !(int(run.At.Start) < from && from < int(run.At.End))
}

// parts takes the part of a list between brackets that holds the selection.
func (g *Ground) parts(open, shut int, sel place.Range, take func(start, end int)) {
	src := g.Doc.Bytes()
	// Commas may be those of statements in there, and the tree knows the parts of a list.
	statements := src[open] == '{' && len(g.Pieces) > 0
	start, depth := open+1, 0
	for i := open + 1; i <= shut; i++ {
		b := src[i]
		if !bracket(b) && (b != ',' || statements) && b != ';' || g.skipped(i, int(sel.Start)) {
			continue
		}
		switch {
		case i == shut || depth == 0 && !bracket(b):
			if start <= int(sel.Start) && int(sel.End) <= i {
				take(start, i)
			}
			start = i + 1
		case closing(b):
			depth--
		case bracket(b):
			depth++
		}
	}
}

// chain is where the name in front of a bracket begins, with what stands before
// its dots.
func (g *Ground) chain(open int) int {
	src := g.Doc.Bytes()
	for open > 0 {
		r, size := utf8.DecodeLastRune(src[:open])
		if !text.InWord(r) && r != '.' {
			break
		}
		open -= size
	}
	return open
}

// lines takes the line, and the lines around it up to the next blank ones as
// long as those are within the same brackets and no less indented.
func (g *Ground) lines(sel place.Range, take func(start, end int)) {
	doc := g.Doc
	first, last := fold.Lines(doc, sel)
	take(doc.Offset(first, 1), doc.Offset(last, 1)+len(doc.Line(last)))
	open, shut := 0, len(doc.Bytes())
	if o, s, ok := g.pair(int(sel.Start), int(sel.End)); ok {
		open, shut = o+1, s
	}
	least := indent(doc.Line(first))
	belongs := func(n int) bool {
		line := doc.Line(n)
		start := doc.Offset(n, 1)
		return len(bytes.TrimSpace(line)) > 0 && indent(line) >= least && start+indent(line) >= open && start+len(line) <= shut
	}
	lowest, highest := max(1, first-mostLines), min(doc.Lines(), last+mostLines)
	for first > lowest && belongs(first-1) {
		first--
	}
	for last < highest && belongs(last+1) {
		last++
	}
	take(doc.Offset(first, 1), doc.Offset(last, 1)+len(doc.Line(last)))
}

// mostLines is how many lines a paragraph reaches to each side at the most.
const mostLines = 5000

func indent(line []byte) int { return len(line) - len(bytes.TrimLeft(line, " \t")) }

// regions takes what can be folded.
func (g *Ground) regions(sel place.Range, take func(start, end int)) {
	first, last := fold.Lines(g.Doc, sel)
	for _, r := range g.Regions {
		if r.Line > first {
			break
		}
		if r.Holds(first) && r.Holds(last) {
			end := g.Doc.Offset(r.Last, 1) + len(g.Doc.Line(r.Last))
			take(g.Doc.Offset(r.Line, 1), end)
			take(g.Doc.Offset(r.Line+1, 1), end)
		}
	}
}

// definitions takes the definitions around, without and with their comments.
func (g *Ground) definitions(sel place.Range, take func(start, end int)) {
	if g.Facts == nil {
		return
	}
	for i := range g.Facts.Defs {
		d := &g.Facts.Defs[i]
		start := d.Full.Start
		if d.Doc.Len() > 0 && d.Doc.End <= start {
			start = d.Doc.Start
		}
		if start <= sel.Start && sel.End <= d.Full.End {
			take(int(d.Full.Start), int(d.Full.End))
			take(int(start), int(d.Full.End))
		}
	}
}
