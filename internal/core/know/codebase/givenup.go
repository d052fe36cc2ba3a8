package codebase

import (
	"errors"
	"sync"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
)

// givenUp are the contents that parsers could not read, with why, so that they are not given them
// again until they change.
type givenUp struct {
	mu    sync.Mutex
	why   map[index.Content]string
	paths map[string]bool // where there is such a content
}

// errGivenUp is why a file is left as text.
type errGivenUp string

// Error implements error.
func (e errGivenUp) Error() string { return string(e) }

// reasonOf is the innermost of the words of an error.
func reasonOf(err error) string {
	for errors.Unwrap(err) != nil {
		err = errors.Unwrap(err)
	}
	return err.Error()
}

func (b *Base) giveUp(p string, c index.Content, why string) {
	b.given.mu.Lock()
	defer b.given.mu.Unlock()
	if b.given.why == nil {
		b.given.why, b.given.paths = map[index.Content]string{}, map[string]bool{}
	}
	b.given.why[c], b.given.paths[p] = why, true
}

// whyGivenUp is why a text cannot be read as a language; "" if that is not known.
func (b *Base) whyGivenUp(l *lang.Language, p string, doc *text.Document) string {
	b.given.mu.Lock()
	defer b.given.mu.Unlock()
	if !b.given.paths[p] { // how it is read is not worked out for nothing
		return ""
	}
	return b.given.why[index.ContentOf(b.readingOf(l, p, doc.Bytes()), doc.Bytes())]
}
