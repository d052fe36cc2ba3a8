// Package sql reads what SQL scripts create: tables with their columns, views,
// functions, procedures, types, triggers and indexes. It goes by the words, so
// that it does not matter whose SQL it is.
package sql

import (
	"bytes"
	"context"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

const name = "SQL"

// kinds tells what a statement that creates something creates.
var kinds = map[string]facts.Kind{
	"table": facts.Table, "view": facts.View, "function": facts.Function, "procedure": facts.Procedure, "proc": facts.Procedure,
	"trigger": facts.Procedure, "type": facts.Type, "domain": facts.Type, "schema": facts.Namespace, "package": facts.Namespace,
	"sequence": facts.Variable,
}

// between are the words that may stand between CREATE and the kind, or between
// the kind and the name.
var between = map[string]bool{
	"or": true, "replace": true, "temp": true, "temporary": true, "unlogged": true, "materialized": true, "recursive": true, "unique": true,
	"if": true, "not": true, "exists": true, "global": true, "local": true, "external": true, "virtual": true, "body": true, "alter": true,
	"force": true, "editionable": true, "definer": true, "constraint": true, "concurrently": true, "foreign": true,
}

// noColumn are the words that begin something else than a column in the list of
// a table.
var noColumn = map[string]bool{
	"primary": true, "foreign": true, "unique": true, "constraint": true, "check": true, "key": true, "index": true, "exclude": true,
	"like": true, "period": true, "fulltext": true, "spatial": true,
}

// after are the words that a table or view is named behind.
var after = map[string]bool{"from": true, "join": true, "into": true, "update": true, "references": true}

// Facts reads one file.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	s := &scanner{Builder: facts.NewBuilder(name, len(text)), text: text}
	s.next()
	for s.kind != end && ctx.Err() == nil {
		s.statement()
	}
	lang.Sections(s.Builder, text, "--", "/*")
	return s.File(), ctx.Err()
}

type tokenKind uint8

const (
	end tokenKind = iota
	word
	quoted // a name in quotes
	sign
	other // a string, a number, a body between dollar signs
)

// scanner is at one token of the text.
type scanner struct {
	*facts.Builder
	text []byte
	at   int // where the next token is looked for
	kind tokenKind
	tok  place.Range
}

func (s *scanner) word() string {
	if s.kind != word {
		return ""
	}
	return strings.ToLower(string(s.tok.In(s.text)))
}

func (s *scanner) is(c string) bool { return s.kind == sign && string(s.tok.In(s.text)) == c }

// next goes on to the next token.
func (s *scanner) next() {
	s.blanks()
	start := s.at
	s.kind = end
	if s.at < len(s.text) {
		switch c := s.text[s.at]; {
		case letter(c):
			for s.at < len(s.text) && (letter(s.text[s.at]) || '0' <= s.text[s.at] && s.text[s.at] <= '9' || s.text[s.at] == '$') {
				s.at++
			}
			s.kind = word
		case c == '\'':
			s.until('\'')
			s.kind = other
		case c == '"' || c == '`':
			s.until(c)
			s.kind = quoted
		case c == '[':
			s.until(']')
			s.kind = quoted
		case c == '$':
			s.dollars()
			s.kind = other
		case '0' <= c && c <= '9':
			for s.at < len(s.text) && (letter(s.text[s.at]) || '0' <= s.text[s.at] && s.text[s.at] <= '9' || s.text[s.at] == '.') {
				s.at++
			}
			s.kind = other
		default:
			s.at++
			s.kind = sign
		}
	}
	s.tok = place.Range{Start: uint32(start), End: uint32(s.at)}
	if s.kind == quoted && s.tok.Len() >= 2 {
		s.tok.Start, s.tok.End = s.tok.Start+1, s.tok.End-1
	}
}

func letter(c byte) bool {
	return c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80 || c == '#' || c == '@'
}

func (s *scanner) blanks() {
	for s.at < len(s.text) {
		rest := s.text[s.at:]
		switch {
		case strings.IndexByte(" \t\r\n", rest[0]) >= 0:
			s.at++
		case bytes.HasPrefix(rest, []byte("--")):
			s.past("\n")
		case bytes.HasPrefix(rest, []byte("/*")):
			s.past("*/")
		default:
			return
		}
	}
}

func (s *scanner) past(mark string) {
	if i := bytes.Index(s.text[s.at:], []byte(mark)); i >= 0 {
		s.at += i + len(mark)
		return
	}
	s.at = len(s.text)
}

func (s *scanner) until(c byte) {
	for s.at++; s.at < len(s.text) && s.text[s.at] != c; s.at++ {
	}
	s.at = min(s.at+1, len(s.text))
}

// dollars goes behind a body between two equal tags such as $$.
func (s *scanner) dollars() {
	i := bytes.IndexByte(s.text[s.at+1:], '$')
	if i < 0 || bytes.ContainsAny(s.text[s.at+1:s.at+1+i], " \t\r\n;,()") {
		s.at++
		return
	}
	tag := string(s.text[s.at : s.at+i+2])
	s.at += len(tag)
	s.past(tag)
}

// statement reads up to a semicolon.
func (s *scanner) statement() {
	start := s.tok.Start
	if s.word() == "create" {
		s.next()
		s.create(start)
	}
	for s.kind != end && !s.is(";") {
		named := after[s.word()]
		s.next()
		if named && (s.kind == word || s.kind == quoted) && !between[s.word()] && s.word() != "select" {
			s.name(func(at place.Range) { s.Use(string(at.In(s.text)), facts.Read, at, facts.NoExpr) })
		}
	}
	s.next()
}

// create reads what a statement creates.
func (s *scanner) create(start uint32) {
	for between[s.word()] {
		s.next()
	}
	kind, ok := kinds[s.word()]
	if !ok {
		return
	}
	s.next()
	for between[s.word()] {
		s.next()
	}
	if s.kind != word && s.kind != quoted {
		return
	}
	var at place.Range
	s.name(func(r place.Range) { at = r })
	head := place.Range{Start: start, End: at.End}
	id := s.Def(facts.Def{Name: string(at.In(s.text)), Kind: kind, At: at, Full: head, Head: head, Doc: lang.CommentAbove(s.text, start, "--")})
	if kind == facts.Table && s.is("(") {
		scope := s.Open(facts.TypeScope, s.tok.Start, id)
		s.columns()
		s.Shut(scope, s.tok.Start)
	}
	for s.kind != end && !s.is(";") {
		named := after[s.word()]
		s.next()
		if named && (s.kind == word || s.kind == quoted) {
			s.name(func(at place.Range) { s.Use(string(at.In(s.text)), facts.Read, at, facts.NoExpr) })
		}
	}
	s.At(id).Full.End = s.tok.Start
}

// name goes on behind a name, of which the last part counts.
func (s *scanner) name(found func(place.Range)) {
	at := s.tok
	s.next()
	for s.is(".") {
		s.next()
		if s.kind != word && s.kind != quoted {
			break
		}
		at = s.tok
		s.next()
	}
	if at.Len() > 0 {
		found(at)
	}
}

// columns reads the list of a table.
func (s *scanner) columns() {
	depth, first := 0, true
	for s.kind != end && !s.is(";") {
		switch {
		case s.is("("):
			depth++
		case s.is(")"):
			if depth--; depth == 0 {
				s.next()
				return
			}
		case depth == 1 && first && (s.kind == word || s.kind == quoted):
			if !noColumn[s.word()] && s.tok.Len() > 0 {
				s.Def(facts.Def{Name: string(s.tok.In(s.text)), Kind: facts.Field, At: s.tok, Full: s.tok, Head: s.tok})
			}
			first = false
		}
		named := s.word() == "references"
		comma := depth == 1 && s.is(",")
		s.next()
		if comma {
			first = true
		}
		if named && (s.kind == word || s.kind == quoted) {
			s.name(func(at place.Range) { s.Use(string(at.In(s.text)), facts.Read, at, facts.NoExpr) })
		}
	}
}
