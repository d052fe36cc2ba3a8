// Package search finds files, symbols and text by what one remembers of them.
package search

import (
	"rooktrail/internal/core/know/chosen"
	"rooktrail/internal/core/know/codebase"
	"strings"
	"sync/atomic"
)

// Searcher finds things in the code of a project. It may be used by several
// goroutines.
type Searcher struct {
	code    *codebase.Base
	choices *chosen.Book             // what was chosen before, or nil
	leftOut atomic.Pointer[[]string] // globs of what is not shown
}

// LeaveOut has files not be found whose paths match one of the patterns: "*.min.js" by its name wherever it
// is, "generated/" with all below it; the word is:all in a query finds them all the same.
func (s *Searcher) LeaveOut(patterns []string) {
	globs := make([]string, 0, len(patterns))
	for _, p := range patterns {
		p = strings.ToLower(p)
		if folder, ok := strings.CutSuffix(p, "/"); ok {
			p = folder + "/**"
		}
		if !strings.Contains(strings.TrimSuffix(p, "/**"), "/") {
			p = "**/" + p
		}
		globs = append(globs, p)
	}
	s.leftOut.Store(&globs)
}

// New searches in some code.
func New(code *codebase.Base) *Searcher { return &Searcher{code: code} }
