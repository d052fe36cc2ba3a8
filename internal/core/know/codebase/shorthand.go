package codebase

import (
	"context"

	"rooktrail/internal/core/file/text"
)

// Shorthands are the offsets at which a name of a text stands for a member and for the value of
// the same name at once: to write another value there, the name of the member has to be written
// out.
func (b *Base) Shorthands(ctx context.Context, p string, doc *text.Document) map[int]bool {
	l := b.languages.Of(p)
	if l == nil || l.Shorthands == nil || doc.Len() > largestTree {
		return nil
	}
	ranges, err := l.Shorthands(ctx, doc.Bytes())
	if err != nil {
		return nil // what cannot be read has none that are known
	}
	short := map[int]bool{}
	for _, r := range ranges {
		short[int(r.Start)] = true
	}
	return short
}
