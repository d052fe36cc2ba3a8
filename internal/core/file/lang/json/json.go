// Package json reads the keys of JSON files, those with comments and with
// commas too many as well.
package json

import (
	"context"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

const name = "JSON"

// deepest is the nesting below which keys are not noted any more.
const deepest = 200

// Facts reads one file. A key belongs to the object it stands in, and that to
// the key before it.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	s := &scanner{Builder: facts.NewBuilder(name, len(text)), ctx: ctx, text: text}
	for s.at < len(text) {
		s.value(0)
		s.at++ // whatever is left, such as a second value or a bracket too many
	}
	return s.File(), ctx.Err()
}

type scanner struct {
	*facts.Builder
	ctx  context.Context
	text []byte
	at   int
}

// skip goes on behind blanks and comments.
func (s *scanner) skip() {
	for s.at < len(s.text) {
		switch c := s.text[s.at]; {
		case strings.IndexByte(" \t\r\n", c) >= 0:
			s.at++
		case c == '/' && s.at+1 < len(s.text) && s.text[s.at+1] == '/':
			s.past("\n")
		case c == '/' && s.at+1 < len(s.text) && s.text[s.at+1] == '*':
			s.at += 2
			s.past("*/")
		default:
			return
		}
	}
}

func (s *scanner) past(end string) {
	if i := strings.Index(string(s.text[s.at:min(len(s.text), s.at+1<<16)]), end); i >= 0 {
		s.at += i + len(end)
	} else {
		s.at = min(len(s.text), s.at+1<<16)
	}
}

// value goes on behind one value.
func (s *scanner) value(depth int) {
	s.skip()
	if s.at >= len(s.text) {
		return
	}
	switch s.text[s.at] {
	case '{':
		s.object(depth)
	case '[':
		s.list(depth)
	case '"', '\'':
		s.quoted()
	default:
		for s.at < len(s.text) && strings.IndexByte(",]}:{[\"", s.text[s.at]) < 0 {
			s.at++
		}
	}
}

// quoted goes on behind a string and tells where its inside is.
func (s *scanner) quoted() place.Range {
	quote := s.text[s.at]
	start := s.at + 1
	for s.at++; s.at < len(s.text) && s.text[s.at] != quote && s.text[s.at] != '\n'; s.at++ {
		if s.text[s.at] == '\\' {
			s.at++
		}
	}
	s.at = min(s.at, len(s.text))
	r := place.Range{Start: uint32(start), End: uint32(s.at)}
	if s.at < len(s.text) && s.text[s.at] == quote {
		s.at++
	}
	return r
}

func (s *scanner) list(depth int) {
	for s.at++; s.at < len(s.text) && s.ctx.Err() == nil; {
		s.skip()
		if s.at >= len(s.text) {
			return
		}
		switch s.text[s.at] {
		case ']':
			s.at++
			return
		case '}':
			return
		case ',', ':':
			s.at++
		default:
			s.nested(depth)
		}
	}
}

// nested reads a value inside another one. Too deep, only brackets are
// counted.
func (s *scanner) nested(depth int) {
	if depth < deepest {
		s.value(depth + 1)
		return
	}
	open := 0
	for s.at < len(s.text) {
		switch s.text[s.at] {
		case '{', '[':
			open++
		case '}', ']':
			if open--; open < 0 {
				return
			}
		case '"':
			s.quoted()
			continue
		case ',':
			if open == 0 {
				return
			}
		}
		s.at++
	}
}

func (s *scanner) object(depth int) {
	for s.at++; s.at < len(s.text) && s.ctx.Err() == nil; {
		s.skip()
		if s.at >= len(s.text) {
			return
		}
		switch c := s.text[s.at]; {
		case c == '}':
			s.at++
			return
		case c == ']':
			return
		case c == ',' || c == ':':
			s.at++
		case c == '"' || c == '\'':
			s.member(depth)
		default:
			s.nested(depth)
		}
	}
}

// member reads a key and what belongs to it.
func (s *scanner) member(depth int) {
	start := s.at
	key := s.quoted()
	s.skip()
	if s.at >= len(s.text) || s.text[s.at] != ':' {
		return
	}
	s.at++
	s.skip()
	if key.Len() == 0 || depth >= deepest {
		s.nested(depth)
		return
	}
	id := s.Def(facts.Def{Name: string(key.In(s.text)), Kind: facts.Key, At: key, Head: key})
	if s.at < len(s.text) && (s.text[s.at] == '{' || s.text[s.at] == '[') {
		// Where the value ends is known only behind it.
		scope := s.Open(facts.TypeScope, uint32(s.at), id)
		s.nested(depth)
		s.Shut(scope, uint32(s.at))
	} else {
		s.nested(depth)
	}
	d := s.At(id)
	d.Full = place.Range{Start: uint32(start), End: uint32(s.at)}
}
