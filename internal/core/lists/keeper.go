// Package lists keeps the lists of places of a project, its trails, bookmarks and
// sweeps, and finds their places again when the code has changed.
package lists

import (
	"rooktrail/internal/core/answer"
	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/codebase"
	"rooktrail/internal/core/search"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/userdata"
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
}

// New keeps lists of places in some code, that a searcher and a guide find.
func New(code *codebase.Base, searcher *search.Searcher, guide *answer.Guide) *Keeper {
	return &Keeper{code: code, search: searcher, answers: guide}
}
