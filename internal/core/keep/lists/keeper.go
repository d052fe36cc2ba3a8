// Package lists keeps the lists of places of a project, its trails, bookmarks and
// sweeps, and finds their places again when the code has changed.
package lists

import (
	"context"

	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/userdata"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/search"
)

// Keeper keeps the lists of a project. It may be used by several goroutines.
type Keeper struct {
	code      *codebase.Base
	search    *search.Searcher
	answers   *answer.Guide
	sweeps    *sweep.Store                   // nil if none are kept
	trails    *trail.Store                   // nil if none are kept
	bookmarks *userdata.Store[bookmark.List] // nil if none are kept
	moves     moves                          // where files went that are gone from their paths
	reports   reports                        // what other tools said

	// Wrong finds what is wrong in a folder; nil if nobody does.
	Wrong func(ctx context.Context, folder string) []answer.Answer
}

// New keeps lists of places in some code, that a searcher and a guide find.
func New(code *codebase.Base, searcher *search.Searcher, guide *answer.Guide) *Keeper {
	return &Keeper{code: code, search: searcher, answers: guide}
}
