// Package makefile reads the targets and variables of makefiles, line by line.
package makefile

import (
	"bytes"
	"context"
	"regexp"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

const name = "Makefile"

var (
	assignment = regexp.MustCompile(`^(?:export\s+|override\s+)*([\w.-]+)\s*(?::{1,3}=|\?=|\+=|!=|=)`)
	define     = regexp.MustCompile(`^define\s+([\w.-]+)`)
	include    = regexp.MustCompile(`^-?include\s+(\S+)`)
	target     = regexp.MustCompile(`^([^\s:#=$][^:#=]*?)\s*::?(?:[^=]|$)`)
	word       = regexp.MustCompile(`[^\s|;]+`)
	variable   = regexp.MustCompile(`\$[({]([\w.-]+)[)}]`)
)

// Facts reads one file.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	r := &lineReader{Builder: facts.NewBuilder(name, len(text)), text: text, rule: facts.NoDef}
	for start := 0; start < len(text) && ctx.Err() == nil; {
		end := len(text)
		if i := bytes.IndexByte(text[start:], '\n'); i >= 0 {
			end = start + i
		}
		r.line(start, end)
		start = end + 1
	}
	lang.Sections(r.Builder, text, "#")
	return r.File(), ctx.Err()
}

type lineReader struct {
	*facts.Builder
	text []byte
	// rule is the last target, which the recipe lines below belong to.
	rule facts.DefID
}

func (r *lineReader) line(start, end int) {
	line := r.text[start:end]
	for _, m := range variable.FindAllSubmatchIndex(line, -1) {
		at := span(start, m[2], m[3])
		r.Use(string(at.In(r.text)), facts.Read, at, facts.NoExpr)
	}
	switch {
	case len(line) == 0:
	case line[0] == '\t':
		if r.rule != facts.NoDef {
			r.At(r.rule).Full.End = uint32(end)
		}
	case line[0] == '#' || line[0] == ' ':
	case r.matched(define, line, start, end, facts.Variable), r.matched(assignment, line, start, end, facts.Variable):
		r.rule = facts.NoDef
	case include.Match(line):
		m := include.FindSubmatchIndex(line)
		at := span(start, m[2], m[3])
		r.Import(facts.Imported{Path: string(at.In(r.text)), Name: "*", At: at})
	default:
		r.target(line, start, end)
	}
}

func span(start, from, to int) place.Range {
	return place.Range{Start: uint32(start + from), End: uint32(start + to)}
}

func (r *lineReader) define(at, line place.Range, kind facts.Kind) facts.DefID {
	return r.Def(facts.Def{Name: string(at.In(r.text)), Kind: kind, At: at, Full: line, Head: line, Doc: lang.CommentAbove(r.text, line.Start, "#")})
}

// matched defines what a line of the form gives a value to.
func (r *lineReader) matched(form *regexp.Regexp, line []byte, start, end int, kind facts.Kind) bool {
	m := form.FindSubmatchIndex(line)
	if m == nil {
		return false
	}
	at := span(start, m[2], m[3])
	if name := string(at.In(r.text)); r.Defined(0, name) != facts.NoDef {
		r.Use(name, facts.Write, at, facts.NoExpr)
		return true
	}
	r.define(at, place.Range{Start: uint32(start), End: uint32(end)}, kind)
	return true
}

// target is a line that names one or several, and what they are made from.
func (r *lineReader) target(line []byte, start, end int) {
	m := target.FindSubmatchIndex(line)
	if m == nil {
		return
	}
	special := line[0] == '.' && bytes.ToUpper(line[:m[3]])[len(line[:m[3]])-1] == line[m[3]-1]
	if !special {
		for _, w := range word.FindAllIndex(line[m[2]:m[3]], -1) {
			at := span(start+m[2], w[0], w[1])
			r.rule = r.define(at, place.Range{Start: uint32(start), End: uint32(end)}, facts.Target)
		}
	}
	rest := m[3] + bytes.IndexByte(line[m[3]:], ':') + 1
	if hash := bytes.IndexAny(line[rest:], "#;"); hash >= 0 {
		line = line[:rest+hash]
	}
	for _, w := range word.FindAllIndex(line[rest:], -1) {
		at := span(start+rest, w[0], w[1])
		if s := string(at.In(r.text)); s[0] != '$' && s != ":" {
			r.Use(s, facts.Read, at, facts.NoExpr)
		}
	}
}
