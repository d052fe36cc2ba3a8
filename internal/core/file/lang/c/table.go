package c

import (
	"bytes"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// A table is a header that defines nothing but macros without parameters, by the thousand, as those do in which the
// registers of a chip are named. Its lines say all, so that it is read without the grammar, which would take a hundred times
// as long and as much memory. What comes of it is the same.

// smallestTable is how many bytes a file must have to be read as a table.
const smallestTable = 16 << 10

// tableOf reads a text as a table; nil if it is none.
func tableOf(name string, text []byte) *facts.File {
	if len(text) < smallestTable {
		return nil
	}
	t := &table{text: text, b: facts.NewBuilder(name, len(text))}
	if !t.read() {
		return nil
	}
	lang.Sections(t.b, text, signs.Line[0], signs.Block[0][0])
	return t.b.File()
}

type table struct {
	text    []byte
	b       *facts.Builder
	guard   []byte // the word that keeps the file from being read twice; nil if none was met
	defined bool   // it is defined
	ended   bool   // the file is at its end
}

// read goes through the lines; false if one of them is not one of a table.
func (t *table) read() bool {
	for at := 0; at < len(t.text); {
		end := len(t.text)
		if n := bytes.IndexByte(t.text[at:], '\n'); n >= 0 {
			end = at + n + 1
		}
		line := t.text[at:end]
		trimmed := bytes.TrimRight(line, "\r\n")
		switch {
		case len(bytes.TrimSpace(trimmed)) == 0:
		case bytes.HasPrefix(trimmed, []byte("//")):
			if trimmed[len(trimmed)-1] == '\\' {
				return false
			}
		case bytes.HasPrefix(trimmed, []byte("/*")):
			size, ok := commentAlone(t.text[at:])
			if !ok {
				return false
			}
			end = at + size
		case t.ended:
			return false
		case bytes.HasPrefix(trimmed, []byte("#define ")):
			if !t.define(at, end, trimmed) {
				return false
			}
		default:
			if !t.directive(at, trimmed) {
				return false
			}
		}
		at = end
	}
	return t.guard == nil || t.ended
}

// commentAlone is how many bytes a comment takes at the beginning of a text, with the end of its line; ok is false if
// something stands behind it there.
func commentAlone(text []byte) (size int, ok bool) {
	n := bytes.Index(text, []byte("*/"))
	if n < 2 {
		return 0, false
	}
	size = n + 2
	rest := text[size:]
	if n := bytes.IndexByte(rest, '\n'); n >= 0 {
		rest = rest[:n+1]
	}
	return size + len(rest), len(bytes.TrimSpace(rest)) == 0
}

// define reads the definition of a macro in one line, without parameters.
func (t *table) define(at, end int, line []byte) bool {
	const word = len("#define ")
	from := word
	for from < len(line) && line[from] == ' ' {
		from++
	}
	to := from
	for to < len(line) && isName(line[to], to > from) {
		to++
	}
	rest := line[to:]
	if to == from || len(rest) > 0 && rest[0] != ' ' && rest[0] != '\t' {
		return false
	}
	if line[len(line)-1] == '\\' || bytes.IndexByte(rest, '/') >= 0 || bytes.IndexByte(rest, '\'') >= 0 || bytes.IndexByte(rest, '"') >= 0 {
		return false
	}
	if t.guard != nil && bytes.Equal(line[from:to], t.guard) {
		t.defined = true
	}
	full := place.Range{Start: uint32(at), End: uint32(end)}
	head := place.Range{Start: full.Start, End: uint32(at + len(bytes.TrimRight(line, " \t\r;")))}
	d := facts.Def{Name: string(line[from:to]), Kind: facts.Macro, At: place.Range{Start: uint32(at + from), End: uint32(at + to)}, Full: full, Head: head}
	d.Doc = lang.CommentAbove(t.text, full.Start, signs.Line[0], signs.Block[0][0])
	t.b.Inner(0, func() { t.b.Def(d) })
	return true
}

func isName(c byte, inside bool) bool {
	return c == '_' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || inside && '0' <= c && c <= '9'
}

// directive reads a line that keeps the file from being read twice.
func (t *table) directive(at int, line []byte) bool {
	words := bytes.Fields(line)
	switch string(words[0]) {
	case "#ifndef":
		if t.guard != nil || len(words) != 2 || len(t.b.Facts().Defs) > 0 {
			return false
		}
		t.guard = words[1]
		start := uint32(at + bytes.LastIndex(line, t.guard))
		t.b.Use(string(t.guard), facts.Read, place.Range{Start: start, End: start + uint32(len(t.guard))}, facts.NoExpr)
		return true
	case "#endif":
		t.ended = true
		return t.guard != nil && t.defined
	}
	return false
}
