package publish

import (
	"context"
	"io"

	"rooktrail/internal/core/file/text"
)

// At is a place as it is written out: line and column from 1, the column in bytes.
type At struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Col  int    `json:"col"`
}

// SymbolLine is a symbol as it is written out.
type SymbolLine struct {
	At
	Symbol    string `json:"symbol"`
	Kind      string `json:"kind"`
	Container string `json:"container,omitempty"`
}

// ReferenceLine is a use of a name as it is written out; To is where what it means is defined.
type ReferenceLine struct {
	At
	Reference string `json:"reference"`
	Access    string `json:"access"`
	Certainty string `json:"certainty"`
	To        At     `json:"to"`
}

// Lines writes all symbols of each file, and all uses in it of which it is known what they mean, as one JSON object a line.
func Lines(ctx context.Context, s *Source, to io.Writer) error {
	print := func(v any) error {
		data, err := text.JSON(v, "")
		if err == nil {
			_, err = to.Write(data)
		}
		return written(err)
	}
	return s.files(ctx, func(f *file) error {
		at := func(f *text.Document, path string, offset uint32) At {
			line, col := position(f, offset)
			return At{path, line, col}
		}
		for _, d := range f.symbols {
			if err := print(SymbolLine{at(f.Text, f.Path, d.At.Start), d.Name, d.Kind.String(), d.Container}); err != nil {
				return err
			}
		}
		for _, u := range s.uses(ctx, f) {
			there, err := s.Code.Load(ctx, u.Means.Path)
			if err != nil {
				continue // it has gone meanwhile
			}
			line := ReferenceLine{at(f.Text, f.Path, u.At.Start), u.Name, u.Access.String(), u.Certainty.String(), at(there.Text, u.Means.Path, u.Means.At.Start)}
			if err := print(line); err != nil {
				return err
			}
		}
		return nil
	})
}
