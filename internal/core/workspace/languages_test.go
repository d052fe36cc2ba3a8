package workspace

import (
	"context"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/text"
)

// What comments are written with depends on the language, not on which of its
// endings a file has.
func TestStyleOfFiles(t *testing.T) {
	for file, want := range map[string]string{
		"a.py": "#", "a.pyi": "#", "a.ts": "//", "a.mts": "//", "a.cts": "//", "a.kts": "//", "GNUmakefile": "#", "Containerfile": "#",
		"a.css": "", "a.scss": "//", "a.h": "//", "a.hxx": "//", "a.unknown": "",
	} {
		assert.Equal(t, want, StyleOf(file, text.NewDocument(nil)).Line, file)
	}
	s := StyleOf("a.css", text.NewDocument(nil))
	assert.Equal(t, "/* */", s.Open+" "+s.Close)
	assert.Equal(t, "\t", StyleOf("a.go", text.NewDocument(nil)).Indent)
	assert.Equal(t, "  ", StyleOf("a.go", text.NewDocument([]byte("package a\n\nfunc f() {\n  x()\n  y()\n}\n"))).Indent)
}

// The path of a module may stand in brackets, as the go command accepts it.
func TestAModuleInBrackets(t *testing.T) {
	w := opened(t, map[string]string{
		"go.mod":     "module (\n\texample.test/tarn\n)\n",
		"hut/hut.go": "package hut\n\nfunc Ring() {}\n",
		"main.go":    "package main\n\nimport \"example.test/tarn/hut\"\n\nfunc main() { hut.Ring() }\n",
	})
	f, err := w.Load(context.Background(), "main.go")
	require.NoError(t, err)
	_, spots := w.Definition(context.Background(), "main.go", f.Text.Offset(5, 19))
	require.Len(t, spots, 1)
	assert.Equal(t, "hut/hut.go:3:6", spots[0].Place().String())
}

// When go.mod changes, what is imported is found by what it says now.
func TestAModuleIsRenamed(t *testing.T) {
	w := opened(t, map[string]string{
		"go.mod":     "module example.test/old\n",
		"hut/hut.go": "package hut\n\nfunc Ring() {}\n",
		"main.go":    "package main\n\nimport \"example.test/tarn/hut\"\n\nfunc main() { hut.Ring() }\n",
	})
	r, _ := w.Definition(context.Background(), "main.go", 62)
	assert.NotEmpty(t, r.Outside)
	require.NoError(t, os.WriteFile(w.Absolute("go.mod"), []byte("module example.test/tarn\n"), 0o644))
	require.True(t, w.RefreshFiles(context.Background(), []string{"go.mod"}))
	r, spots := w.Definition(context.Background(), "main.go", 62)
	assert.Empty(t, r.Outside)
	assert.Len(t, spots, 1)
}

// The general resolver takes what does not come from a module of the project to
// where other modules lie, and imports of a language never by the rules of another.
func TestImportsKeepToTheirLanguage(t *testing.T) {
	w := opened(t, map[string]string{
		"a.proto": "syntax = \"proto3\";\nimport \"hut.proto\";\nmessage Bell { Hut at = 1; }\n", "hut.proto": "syntax = \"proto3\";\nmessage Hut {}\n",
		"hut.ts": "export const x = 1\n", "page.css": "@import \"hut\";\n", "a.js": "import { x } from './hut'\nx\n",
	})
	_, spots := w.Definition(context.Background(), "a.proto", 55)
	require.NotEmpty(t, spots)
	assert.Equal(t, "hut.proto:2:9", spots[0].Place().String())
	_, spots = w.Definition(context.Background(), "a.js", 10)
	require.NotEmpty(t, spots)
	assert.Equal(t, "hut.ts:1:14", spots[0].Place().String())
}
