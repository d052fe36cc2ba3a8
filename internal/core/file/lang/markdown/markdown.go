// Package markdown reads the headings of Markdown files, line by line: the
// grammars there are do not survive every text.
package markdown

import (
	"bytes"
	"context"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

const name = "Markdown"

// heading is a title with its level, from 1 to 6.
type heading struct {
	level int
	at    place.Range // the words
	line  place.Range // all of it
}

// Facts reads one file. A section reaches up to the next heading that is as
// high as its own or higher.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	b := facts.NewBuilder(name, len(text))
	type section struct {
		level int
		scope facts.ScopeID
		id    facts.DefID
	}
	var open []section
	shut := func(level int, end uint32) {
		for len(open) > 0 && open[len(open)-1].level >= level {
			last := open[len(open)-1]
			b.Shut(last.scope, end)
			b.At(last.id).Full.End = end
			open = open[:len(open)-1]
		}
	}
	for _, h := range headings(text) {
		shut(h.level, h.line.Start)
		id := b.Def(facts.Def{Name: string(h.at.In(text)), Kind: facts.Section, At: h.at, Full: h.line, Head: place.Range{Start: h.line.Start, End: h.at.End}})
		open = append(open, section{h.level, b.Open(facts.TypeScope, h.at.End, id), id})
	}
	shut(0, uint32(len(text)))
	return b.File(), ctx.Err()
}

// headings finds those that begin with # and those with a line of = or - below
// them, outside of code between fences.
func headings(text []byte) (all []heading) {
	var fence []byte
	var before place.Range // the line before, if it may be a title
	for start := frontMatter(text); start < len(text); {
		end := len(text)
		if i := bytes.IndexByte(text[start:], '\n'); i >= 0 {
			end = start + i
		}
		whole := place.Range{Start: uint32(start), End: uint32(end)}
		line := bytes.TrimRight(text[start:end], " \t\r")
		bare := bytes.TrimLeft(line, " ")
		indented := len(line)-len(bare) > 3
		title := place.Range{}
		switch {
		case fence != nil:
			if bytes.HasPrefix(bare, fence) && len(bytes.Trim(bare, string(fence[:1]))) == 0 {
				fence = nil
			}
		case indented:
		case bytes.HasPrefix(bare, []byte("```")) || bytes.HasPrefix(bare, []byte("~~~")):
			fence = bare[:3]
		case len(bare) > 0 && bare[0] == '#':
			if h, ok := hashed(text, whole); ok {
				all = append(all, h)
			}
		case before.Len() > 0 && underline(bare) > 0:
			at := words(text, before)
			all = append(all, heading{underline(bare), at, place.Range{Start: before.Start, End: whole.End}})
		case len(bare) > 0 && bytes.IndexByte([]byte("|>-*+"), bare[0]) < 0:
			title = whole
		}
		before = title
		start = end + 1
	}
	return all
}

// frontMatter is where a text begins behind the settings that may stand between
// two lines of --- in front of it.
func frontMatter(text []byte) int {
	rest, ok := bytes.CutPrefix(text, []byte("---\n"))
	if !ok {
		return 0
	}
	if i := bytes.Index(rest, []byte("\n---\n")); i >= 0 {
		return len(text) - len(rest) + i + len("\n---\n")
	}
	return 0
}

// hashed reads a heading that begins with one to six #.
func hashed(text []byte, line place.Range) (h heading, ok bool) {
	s := bytes.TrimLeft(line.In(text), " ")
	for h.level < len(s) && s[h.level] == '#' {
		h.level++
	}
	if h.level > 6 || h.level < len(s) && s[h.level] != ' ' && s[h.level] != '\t' {
		return h, false
	}
	at := line
	at.Start = line.End - uint32(len(s)-h.level)
	closing := bytes.TrimRight(at.In(text), " \t\r")
	if cut := bytes.TrimRight(closing, "#"); len(cut) == 0 || cut[len(cut)-1] == ' ' {
		closing = cut
	}
	at.End = at.Start + uint32(len(closing))
	h.at, h.line = words(text, at), line
	return h, h.at.Len() > 0
}

// words are a range without the blanks around it.
func words(text []byte, at place.Range) place.Range {
	s := at.In(text)
	left := len(s) - len(bytes.TrimLeft(s, " \t"))
	trimmed := bytes.TrimSpace(s)
	at.Start += uint32(left)
	at.End = at.Start + uint32(len(trimmed))
	return at
}

// underline is the level of the heading that a line of signs makes of the one
// above it; 0 if it is none.
func underline(s []byte) int {
	switch {
	case len(s) > 0 && len(bytes.Trim(s, "=")) == 0:
		return 1
	case len(s) > 1 && len(bytes.Trim(s, "-")) == 0:
		return 2
	}
	return 0
}
