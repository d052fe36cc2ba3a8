package json

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Faults finds the first place that cannot be read. Comments and commas too many are none, and texts with the signs of
// templates, in the looser forms of the format, or of several values, are let be.
func Faults(_ context.Context, text []byte) ([]syntax.Fault, error) {
	end := uint32(len(bytes.TrimRight(text, " \t\r\n")))
	if bytes.Contains(text, []byte("{{")) || bytes.Contains(text, []byte("{%")) || end == 0 {
		return nil, nil
	}
	var v json.RawMessage
	var wrong *json.SyntaxError
	if err := json.Unmarshal(plain(text), &v); !errors.As(err, &wrong) {
		return nil, nil
	}
	words := wrong.Error()
	switch {
	case strings.HasPrefix(words, "unexpected end"):
		return []syntax.Fault{{At: place.Range{Start: end - 1, End: end}, Text: "the text ends too early: something is not closed"}}, nil
	case strings.Contains(words, "looking for beginning of"), strings.Contains(words, "after top-level value"):
		return nil, nil // a name or text without quotes, or another value
	}
	at := uint32(min(max(wrong.Offset-1, 0), int64(end-1)))
	return []syntax.Fault{{At: place.Range{Start: at, End: at + 1}, Text: words}}, nil
}

// plain is a text with blanks in the place of comments, and of commas that nothing follows.
func plain(text []byte) []byte {
	out := bytes.Clone(text)
	blank := func(from, to int) {
		for i := from; i < to; i++ {
			if out[i] != '\n' {
				out[i] = ' '
			}
		}
	}
	comma := -1
	for s := (&scanner{text: text}); s.at < len(text); {
		from := s.at
		if s.skip(); s.at > from {
			blank(from, s.at)
			continue
		}
		switch c := text[s.at]; c {
		case '"':
			s.quoted()
			comma = -1
			continue
		case ',':
			comma = s.at
		case '}', ']':
			if comma >= 0 {
				blank(comma, comma+1)
			}
			comma = -1
		default:
			comma = -1
		}
		s.at++
	}
	return out
}
