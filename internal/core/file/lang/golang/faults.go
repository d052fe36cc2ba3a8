package golang

import (
	"context"
	"errors"
	"go/parser"
	"go/scanner"
	"go/token"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Faults are what the parser finds wrong with a text.
func Faults(_ context.Context, text []byte) (all []syntax.Fault, err error) {
	if err := tooDeep(text); err != nil {
		return nil, err
	}
	_, err = parser.ParseFile(token.NewFileSet(), "", text, parser.SkipObjectResolution)
	var found scanner.ErrorList
	if !errors.As(err, &found) {
		return nil, nil
	}
	for _, e := range found {
		at := uint32(min(max(e.Pos.Offset, 0), len(text)))
		end := at
		for int(end) < len(text) && isNameByte(text[end]) {
			end++
		}
		if end == at && int(end) < len(text) && text[end] != '\n' {
			end++
		}
		all = append(all, syntax.Fault{At: place.Range{Start: at, End: end}, Text: e.Msg})
	}
	return all, nil
}

func isNameByte(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= 0x80
}
