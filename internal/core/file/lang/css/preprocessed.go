package css

import (
	"bytes"
	"cmp"
	"context"
	"regexp"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// used is where a sheet for a preprocessor brings in another one, in a way that the grammar does not know.
var used = regexp.MustCompile(`(?m)^[ \t]*@(?:use|forward)[ \t]+["']([^"'\n]+)["'][^;\n]*;?`)

// preprocessed reads a sheet for a preprocessor; what the grammar stumbles over is hidden from it.
func preprocessed(ctx context.Context, text []byte) (*facts.File, error) {
	all := used.FindAllSubmatchIndex(text, -1)
	eased := text
	if len(all) > 0 {
		eased = bytes.Clone(text)
	}
	for _, at := range all {
		for i := at[0]; i < at[1]; i++ {
			eased[i] = ' '
		}
	}
	f, err := language.Facts(ctx, eased)
	if err != nil {
		return nil, err
	}
	for _, at := range all {
		f.Imports = append(f.Imports, facts.Imported{Path: string(text[at[2]:at[3]]), Name: "*", At: place.Range{Start: uint32(at[2]), End: uint32(at[3])}})
	}
	slices.SortStableFunc(f.Imports, func(a, b facts.Imported) int { return cmp.Compare(a.At.Start, b.At.Start) })
	return f, nil
}
