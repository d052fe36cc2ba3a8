package workspace

import (
	"errors"
	"sync"

	"rooktrail/internal/core/index"
	"rooktrail/internal/core/text"
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

func (w *Workspace) giveUp(c index.Content, why string) {
	w.given.mu.Lock()
	defer w.given.mu.Unlock()
	if w.given.why == nil {
		w.given.why = map[index.Content]string{}
	}
	w.given.why[c] = why
}

// whyGivenUp is why a text cannot be read as a language; "" if that is not known.
func (w *Workspace) whyGivenUp(language string, doc *text.Document) string {
	w.given.mu.Lock()
	defer w.given.mu.Unlock()
	if len(w.given.why) == 0 { // which is so for most projects
		return ""
	}
	return w.given.why[index.ContentOf(language, doc.Bytes())]
}
