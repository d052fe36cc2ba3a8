package workspace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/workspace"
)

// What comments are written with depends on the language, not on which of its
// endings a file has.
func TestStyleOfFiles(t *testing.T) {
	for file, want := range map[string]string{
		"a.py": "#", "a.pyi": "#", "a.ts": "//", "a.mts": "//", "a.cts": "//", "a.kts": "//", "GNUmakefile": "#", "Containerfile": "#",
		"a.css": "", "a.scss": "//", "a.h": "//", "a.hxx": "//", "a.unknown": "",
	} {
		assert.Equal(t, want, workspace.StyleOf(catalog.Set(), file, text.NewDocument(nil)).Line, file)
	}
	s := workspace.StyleOf(catalog.Set(), "a.css", text.NewDocument(nil))
	assert.Equal(t, "/* */", s.Open+" "+s.Close)
	assert.Equal(t, "\t", workspace.StyleOf(catalog.Set(), "a.go", text.NewDocument(nil)).Indent)
	assert.Equal(t, "  ", workspace.StyleOf(catalog.Set(), "a.go", text.NewDocument([]byte("package a\n\nfunc f() {\n  x()\n  y()\n}\n"))).Indent)
}
