package workspace_test

import (
	"context"
	"testing"

	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace/workspacetest"

	"github.com/stretchr/testify/assert"
)

func TestReadingAProject(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"go.mod": "module example.test/x // why\n", "README.txt": "hello", "a/a.go": "package a\n\n// F does.\nfunc F() {}\n",
		"b.py": "class Hut:\n    def ring(self):\n        pass\n", "broken.go": "package broken\nfunc (((", "empty.ts": "",
	})
	pr := w.Code.Progress()
	assert.True(t, pr.Done && pr.Listed)
	assert.Equal(t, 6, pr.Files)
	assert.Equal(t, 4, pr.Readable)
	assert.Equal(t, 4, pr.Read)
	assert.Equal(t, 3, pr.Symbols)
	assert.Empty(t, pr.LeftOut)
	assert.Equal(t, "README.txt", codebase.FrontPage(w.Code))
	assert.True(t, w.Code.Has("a") && w.Code.Has("a/a.go"))
	assert.False(t, w.Code.Has("c"))
	assert.Equal(t, "a/a.go", w.Search.Files(context.Background(), "aago", 5)[0].Path)
	assert.Equal(t, "Hut.ring", w.Search.Symbols(context.Background(), "hut::ring", 5)[0].Qualified())
}
