// Package answer tells of a name in the code where one can go from there: its
// definition, its type, what uses it, what calls what, where its values come from
// and go to, and what is to be said of it.
package answer

import (
	"context"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/imports"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Guide answers questions about the code of a project. It may be used by several
// goroutines.
type Guide struct {
	code     *codebase.Base
	search   *search.Searcher
	resolver *resolve.Resolver
	painter  highlight.Painter
	imports  *imports.Map
}

// New answers questions about some code, in which text is looked for by a searcher.
func New(code *codebase.Base, searcher *search.Searcher) *Guide {
	return &Guide{code: code, search: searcher, resolver: resolve.New(code), imports: imports.New(code)}
}

// Meanings are what the names at offsets of a file mean, each as the best answer that is more than a guess; one without a path stands
// for none.
func (g *Guide) Meanings(ctx context.Context, p string, offsets []int) []resolve.Answer {
	return g.resolver.Meanings(ctx, p, offsets)
}
