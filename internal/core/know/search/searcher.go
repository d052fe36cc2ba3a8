// Package search finds files, symbols and text by what one remembers of them.
package search

import (
	"rooktrail/internal/core/know/chosen"
	"rooktrail/internal/core/know/codebase"
)

// Searcher finds things in the code of a project. It may be used by several
// goroutines.
type Searcher struct {
	code    *codebase.Base
	choices *chosen.Book // what was chosen before, or nil
}

// New searches in some code.
func New(code *codebase.Base) *Searcher { return &Searcher{code: code} }
