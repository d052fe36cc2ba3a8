package search_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/workspace/workspacetest"
)

// The word the caret is in completes itself no less than another would, but that is no help, even
// though the index knows it as a symbol.
func TestCompletingAWord(t *testing.T) {
	body := "package a\n\nfunc snowdepth() {}\n\nfunc snowfall() {}\n"
	w := workspacetest.Open(t, map[string]string{"a.go": body, "b.go": "package a\n\nfunc snowline() {}\n"})
	doc := text.NewDocument([]byte(body))
	for col, want := range map[int][]string{10: {"snowfall", "snowline"}, 8: {"snowfall", "snowline"}} {
		at := doc.Offset(3, col)
		assert.Equal(t, want, w.Search.Complete(context.Background(), "a.go", doc, at, string(doc.Slice(doc.Offset(3, 6), at))), "column %d", col)
	}
	assert.Equal(t, []string{"snowdepth", "snowline"}, w.Search.Complete(context.Background(), "a.go", doc, doc.Offset(5, 8), "sn"))
}
