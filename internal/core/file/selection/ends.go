package selection

import (
	"bytes"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/text"
)

// OtherEnd finds the other end of what begins or ends at an offset: of a tag in
// markup; of a block, from its first word to its last line where words rather
// than brackets end it; of a bracket, or else of the first one behind on the
// line. Where none of these is, it is the beginning of the brackets around.
// Brackets in comments and strings do not count.
func (g *Ground) OtherEnd(offset int) (at int, ok bool) {
	if g.Markup {
		if at, ok = g.otherTag(offset); ok {
			return at, true
		}
	}
	if at, ok = g.otherWord(offset); ok {
		return at, true
	}
	src := g.Doc.Bytes()
	for i := offset; i < min(len(src), offset+farthest) && src[i] != '\n'; i++ {
		if bracket(src[i]) && !g.skipped(i, offset) {
			return g.partner(i)
		}
	}
	open, _, ok := g.pair(min(offset, len(src)), min(offset, len(src)))
	return open, ok
}

// partner walks to the bracket that belongs to the one at i.
func (g *Ground) partner(i int) (at int, ok bool) {
	src := g.Doc.Bytes()
	step, depth, from := 1, 0, i
	if closing(src[i]) {
		step = -1
	}
	runs := g.Runs
	for ; i >= 0 && i < len(src); i += step {
		if !bracket(src[i]) {
			continue
		}
		if run, in := runs.At(i); in && !(int(run.At.Start) < from && from < int(run.At.End)) {
			continue
		}
		if closing(src[i]) == (step < 0) {
			depth++
		} else if depth--; depth == 0 {
			return i, true
		}
	}
	return 0, false
}

// otherWord goes between the first word of a block and the word that ends it.
func (g *Ground) otherWord(offset int) (at int, ok bool) {
	doc := g.Doc
	line, col := doc.Position(offset)
	here := doc.Line(line)
	first := indent(here)
	if col-1 < first || len(bytes.TrimSpace(here)) == 0 || bytes.ContainsFunc(here[first:min(col-1, len(here))], func(r rune) bool { return !text.InWord(r) }) {
		return 0, false // not in the first word of the line
	}
	for i := len(g.Regions) - 1; i >= 0; i-- {
		r := g.Regions[i]
		if r.Kind == fold.Comment || r.Kind == fold.Imports {
			continue
		}
		last := doc.Line(r.Last)
		words := indent(last) < len(last) && !bracket(last[indent(last)])
		switch {
		case r.Line == line && words:
			return doc.Offset(r.Last, 1) + indent(last), true
		case r.Last == line && words && indent(last) == indent(doc.Line(r.Line)):
			return doc.Offset(r.Line, 1) + indent(doc.Line(r.Line)), true
		}
	}
	return 0, false
}

// tag is an opening or closing tag.
type tag struct {
	start, end int // from its < to behind its >
	name       string
	closes     bool
	alone      bool // it closes itself
}

// longestTag is how long a tag may be, in bytes.
const longestTag = 8 << 10

// tagAt reads the tag that begins at a <.
func (g *Ground) tagAt(start int) (t tag, ok bool) {
	src := g.Doc.Bytes()
	i := start + 1
	if t.closes = i < len(src) && src[i] == '/'; t.closes {
		i++
	}
	from := i
	for i < len(src) && (text.InWord(rune(src[i])) || src[i] == '-' || src[i] == '.' || src[i] == ':') {
		i++
	}
	end := bytes.IndexByte(src[i:min(len(src), i+longestTag)], '>')
	if i == from || end < 0 {
		return t, false
	}
	t.start, t.end, t.name = start, i+end+1, string(src[from:i])
	t.alone = src[t.end-2] == '/' || void[t.name]
	return t, true
}

// void are the elements of HTML that never have an end.
var void = map[string]bool{
	"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true, "input": true,
	"link": true, "meta": true, "source": true, "track": true, "wbr": true,
}

// otherTag goes between the two tags of an element.
func (g *Ground) otherTag(offset int) (at int, ok bool) {
	src := g.Doc.Bytes()
	start := bytes.LastIndexByte(src[max(0, offset-longestTag):min(len(src), offset+1)], '<')
	if start < 0 {
		return 0, false
	}
	here, ok := g.tagAt(start + max(0, offset-longestTag))
	if !ok || offset >= here.end || here.alone {
		return 0, false
	}
	step, depth := 1, 0
	if here.closes {
		step = -1
	}
	for i := here.start; i >= 0 && i < len(src); i += step {
		if src[i] != '<' {
			continue
		}
		t, ok := g.tagAt(i)
		if run, in := g.Runs.At(i); !ok || t.alone || t.name != here.name || in && int(run.At.Start) <= i && src[run.At.Start] == '<' {
			continue
		}
		if t.closes == here.closes {
			depth++
		} else if depth--; depth == 0 {
			return t.start, true
		}
	}
	return 0, false
}
