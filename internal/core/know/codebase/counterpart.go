package codebase

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/place"
)

// Counterparts are the other halves of a file: the source of a header, the style
// or the page of a component. The nearest comes first; there may be none.
func (b *Base) Counterparts(file string) (found []string) {
	stem, wanted := b.languages.OtherHalves(file)
	if len(wanted) == 0 {
		return nil
	}
	for f := range b.Listing().Files() {
		p, base := f.Path, path.Base(f.Path)
		other, _ := b.languages.OtherHalves(p)
		if other == stem && p != file && slices.Contains(wanted, strings.ToLower(strings.TrimPrefix(base, base[:min(len(stem), len(base))]))) {
			found = append(found, p)
		}
	}
	slices.SortFunc(found, func(a, b string) int {
		return cmp.Or(cmp.Compare(place.Distance(file, a), place.Distance(file, b)), strings.Compare(a, b))
	})
	return found
}
