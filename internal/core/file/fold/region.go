// Package fold finds the parts of a text that can be folded away, and tells
// which lines are left to see when some of them are.
//
// Three things make a part: what the facts know (the body of a function, a
// type, a section), runs of comments and imports, and the indentation, by which
// people show what belongs under a line in every language. So a broken file
// folds as well as a sound one.
package fold

import (
	"bytes"
	"cmp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Kind is what a region is.
type Kind uint8

// The kinds, those first that go before others which begin on the same line.
const (
	Body    Kind = iota // the body of a function or method
	Type                // the inside of a type
	Section             // what a heading or a section comment stands over
	Comment
	Imports
	Block // anything else that stands deeper than the line above it
)

// Region is a part that can be folded: the lines behind Line up to Last, both
// counted from 1. Line itself stays to be seen.
type Region struct {
	Line, Last int
	Kind       Kind
	// Depth is how many regions are around it, comments and imports not counted.
	Depth int
}

// Hides is how many lines are gone when the region is folded.
func (r Region) Hides() int { return r.Last - r.Line }

// Holds says whether a line is in the region, its first one included.
func (r Region) Holds(line int) bool { return r.Line <= line && line <= r.Last }

// Regions finds the regions of a text, ordered by their lines, no two with the
// same first line. The signs and the facts may be nil.
func Regions(signs *lexical.Signs, doc *text.Document, f *facts.File, runs lexical.Runs) []Region {
	var all []Region
	if f != nil {
		all = append(all, ofSymbols(doc, f)...)
		all = append(all, ofImports(doc, f)...)
	}
	all = append(all, ofComments(doc, runs)...)
	all = append(all, ofIndentation(doc, measure(signs, doc, runs))...)
	slices.SortStableFunc(all, func(a, b Region) int {
		return cmp.Or(cmp.Compare(a.Line, b.Line), cmp.Compare(a.Kind, b.Kind), cmp.Compare(b.Last, a.Last))
	})
	all = slices.CompactFunc(all, func(a, b Region) bool { return a.Line == b.Line })
	all = nested(all)
	deepen(all)
	return all
}

// nested cuts off what reaches from one region into another: of two that overlap
// the one that is better known stays whole.
func nested(all []Region) []Region {
	var around []int // regions that are not ended, by number
	for i := range all {
		for len(around) > 0 && all[around[len(around)-1]].Last < all[i].Line {
			around = around[:len(around)-1]
		}
		for n := len(around) - 1; n >= 0 && all[around[n]].Last < all[i].Last; n-- {
			if outer := &all[around[n]]; outer.Kind > all[i].Kind {
				outer.Last = all[i].Line - 1
			} else {
				all[i].Last = outer.Last
			}
		}
		around = append(around, i)
	}
	return slices.DeleteFunc(all, func(r Region) bool { return r.Last <= r.Line })
}

// deepen counts what is around each region.
func deepen(all []Region) {
	var around []int // the last lines
	for i := range all {
		for len(around) > 0 && around[len(around)-1] < all[i].Line {
			around = around[:len(around)-1]
		}
		all[i].Depth = len(around)
		if k := all[i].Kind; k != Comment && k != Imports {
			around = append(around, all[i].Last)
		}
	}
}

// ofSymbols are the regions of functions, types and sections. The whole of a
// signature stays to be seen, however many lines it has.
func ofSymbols(doc *text.Document, f *facts.File) (regions []Region) {
	extents := outline.Extents(f)
	for i := range f.Defs {
		d := &f.Defs[i]
		kind, ok := kindOf(d)
		if !ok || d.At.Len() == 0 {
			continue
		}
		line, _ := doc.Position(int(max(headEnd(doc.Bytes(), d), d.At.End)))
		last, _ := doc.Position(max(int(extents[i].End)-1, 0))
		for last > line && len(bytes.TrimSpace(doc.Line(last))) == 0 {
			last--
		}
		if last > line {
			regions = append(regions, Region{Line: line, Last: last, Kind: kind})
		}
	}
	return regions
}

// headEnd is the end of a definition's head, without blanks and line ends.
func headEnd(src []byte, d *facts.Def) uint32 {
	return d.Head.Start + uint32(len(bytes.TrimRight(d.Head.In(src), " \t\r\n")))
}

func kindOf(d *facts.Def) (Kind, bool) {
	switch k := d.Kind; {
	case k == facts.TypeParameter:
		return 0, false
	case k.IsCallable() || k == facts.Procedure || k == facts.Target || k == facts.Macro:
		return Body, true
	case k.IsType() || k.IsSpace() && k != facts.Package || k == facts.Table || k == facts.Service || k == facts.Message:
		return Type, true
	case k == facts.Section || k == facts.Stage || k == facts.Rule || k == facts.Block:
		return Section, true
	}
	return 0, false
}

// ofImports are runs of imports without other lines in between.
func ofImports(doc *text.Document, f *facts.File) (regions []Region) {
	var lines []int
	for i := range f.Imports {
		line, _ := doc.Position(int(f.Imports[i].At.Start))
		lines = append(lines, line)
	}
	slices.Sort(lines)
	for i := 0; i < len(lines); {
		j := i
		for j+1 < len(lines) && onlyBlank(doc, lines[j]+1, lines[j+1]-1) {
			j++
		}
		if lines[j] > lines[i]+1 {
			regions = append(regions, Region{Line: lines[i], Last: lines[j], Kind: Imports})
		}
		i = j + 1
	}
	return regions
}

func onlyBlank(doc *text.Document, first, last int) bool {
	for ; first <= last; first++ {
		if len(bytes.TrimSpace(doc.Line(first))) > 0 {
			return false
		}
	}
	return true
}

// ofComments are comments of several lines, and texts that stand for themselves
// as comments do.
func ofComments(doc *text.Document, runs lexical.Runs) (regions []Region) {
	add := func(first, last int) {
		if last > first {
			regions = append(regions, Region{Line: first, Last: last, Kind: Comment})
		}
	}
	first, last := 0, 0 // a run of comments of one line each
	for _, r := range runs {
		line, col := doc.Position(int(r.At.Start))
		if len(bytes.TrimSpace(doc.Line(line)[:min(col-1, len(doc.Line(line)))])) > 0 {
			continue // it stands behind something
		}
		if r.Line && line == last+1 && first > 0 {
			last = line
			continue
		}
		add(first, last)
		first, last = 0, 0
		if r.Line {
			first, last = line, line
			continue
		}
		end, _ := doc.Position(max(int(r.At.End)-1, 0))
		if r.Role == lexical.Comment || r.At.Len() > 6 && startsLine(doc, line) {
			add(line, end)
		}
	}
	add(first, last)
	return regions
}

// startsLine says whether a line begins with the quotes of a text that several
// lines long.
func startsLine(doc *text.Document, line int) bool {
	s := strings.TrimLeft(string(doc.Line(line)), " \trRuUbB")
	return strings.HasPrefix(s, `"""`) || strings.HasPrefix(s, "'''")
}

// indented is a line that is not blank, with how far its text stands from the
// left.
type indented struct {
	line, indent int
	closes       bool // it begins with what closes something
	remark       bool // it begins with a comment
}

// tab is how many columns a tab stands for; only that it is the same for all
// lines matters.
const tab = 8

// measure finds the lines that count for the indentation. What is inside a
// comment or a string of several lines does not.
func measure(signs *lexical.Signs, doc *text.Document, runs lexical.Runs) []indented {
	var all []indented
	directives, closing := "", anyClosing
	if signs != nil {
		directives, closing = signs.Directives, signs.Closing
	}
	offset := 0
	for n := 1; n <= doc.Lines(); n++ {
		line := doc.Line(n)
		start := offset
		offset = doc.Offset(n+1, 1)
		body := bytes.TrimLeft(line, " \t")
		if len(body) == 0 || directives != "" && len(body) == len(line) && bytes.HasPrefix(body, []byte(directives)) {
			continue
		}
		for len(runs) > 0 && int(runs[0].At.End) <= start {
			runs = runs[1:]
		}
		if len(runs) > 0 && int(runs[0].At.Start) < start {
			continue // it goes on from the line above
		}
		first := start + len(line) - len(body)
		in := indented{line: n, indent: columns(line[:len(line)-len(body)]), closes: closes(body, closing)}
		in.remark = len(runs) > 0 && int(runs[0].At.Start) == first && runs[0].Role == lexical.Comment
		all = append(all, in)
	}
	return all
}

func columns(blanks []byte) (n int) {
	for _, b := range blanks {
		if n++; b == '\t' {
			n += tab - 1
		}
	}
	return n
}

// anyClosing are the words that close a part in one language or another.
var anyClosing = []string{"end", "fi", "done", "esac"}

// closes says whether a line begins with what ends the part above it: a bracket,
// a tag, or one of the words.
func closes(body []byte, words []string) bool {
	switch body[0] {
	case '}', ')', ']':
		return true
	}
	if bytes.HasPrefix(body, []byte("</")) {
		return true
	}
	for _, word := range words {
		rest, ok := bytes.CutPrefix(body, []byte(word))
		if ok && (len(rest) == 0 || bytes.IndexByte([]byte(" ;,.()"), rest[0]) >= 0) {
			return true
		}
	}
	return false
}

// ofIndentation are the lines that have deeper ones below them, with those, and
// with the line that closes them.
func ofIndentation(doc *text.Document, lines []indented) (regions []Region) {
	var open []int // of lines, each deeper than the one before
	end := func(i, next int) {
		l := lines[i]
		last := next - 1
		if next < len(lines) && lines[next].closes && lines[next].indent == l.indent && !(next+1 < len(lines) && lines[next+1].indent > l.indent) {
			last = next
		}
		for last > i && lines[last].remark && lines[last].indent <= l.indent {
			last--
		}
		if last > i && lines[i+1].indent > l.indent && !l.remark {
			regions = append(regions, Region{Line: l.line, Last: lines[last].line, Kind: Block})
		}
	}
	for i, l := range lines {
		if l.remark {
			continue // a comment further left ends nothing
		}
		for len(open) > 0 && lines[open[len(open)-1]].indent >= l.indent {
			end(open[len(open)-1], i)
			open = open[:len(open)-1]
		}
		open = append(open, i)
	}
	for ; len(open) > 0; open = open[:len(open)-1] {
		end(open[len(open)-1], len(lines))
	}
	return regions
}

// Lines are the lines of a range of bytes, counted from 1.
func Lines(doc *text.Document, r place.Range) (first, last int) {
	first, _ = doc.Position(int(r.Start))
	last, _ = doc.Position(max(int(r.End)-1, int(r.Start)))
	return first, last
}
