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
	mu  sync.Mutex
	why map[index.Content]string
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

func (b *Base) giveUp(c index.Content, why string) {
	b.given.mu.Lock()
	defer b.given.mu.Unlock()
	if b.given.why == nil {
		b.given.why = map[index.Content]string{}
	}
	b.given.why[c] = why
}

// whyGivenUp is why a text cannot be read as a language; "" if that is not known.
func (b *Base) whyGivenUp(l *lang.Language, p string, doc *text.Document) string {
	b.given.mu.Lock()
	defer b.given.mu.Unlock()
	if len(b.given.why) == 0 { // which is so for most projects
		return ""
	}
	return b.given.why[index.ContentOf(b.readingOf(l, p, doc.Bytes()), doc.Bytes())]
}
