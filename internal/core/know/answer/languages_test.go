package answer_test

import (
	"context"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace/workspacetest"
)

// The path of a module may stand in brackets, as the go command accepts it.
func TestAModuleInBrackets(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"go.mod":     "module (\n\texample.test/tarn\n)\n",
		"hut/hut.go": "package hut\n\nfunc Ring() {}\n",
		"main.go":    "package main\n\nimport \"example.test/tarn/hut\"\n\nfunc main() { hut.Ring() }\n",
	})
	f, err := w.Code.Load(context.Background(), "main.go")
	require.NoError(t, err)
	_, spots := w.Answers.All(context.Background(), answer.ToDefinition.On("main.go", f.Text.Offset(5, 19)))
	require.Len(t, spots, 1)
	assert.Equal(t, "hut/hut.go:3:6", spots[0].Place().String())
}

// When go.mod changes, what is imported is found by what it says now.
func TestAModuleIsRenamed(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"go.mod":     "module example.test/old\n",
		"hut/hut.go": "package hut\n\nfunc Ring() {}\n",
		"main.go":    "package main\n\nimport \"example.test/tarn/hut\"\n\nfunc main() { hut.Ring() }\n",
	})
	r, _ := w.Answers.All(context.Background(), answer.ToDefinition.On("main.go", 62))
	assert.NotEmpty(t, r.Outside)
	require.NoError(t, os.WriteFile(w.Code.Absolute("go.mod"), []byte("module example.test/tarn\n"), 0o644))
	require.True(t, w.Code.RefreshFiles(context.Background(), []string{"go.mod"}))
	r, spots := w.Answers.All(context.Background(), answer.ToDefinition.On("main.go", 62))
	assert.Empty(t, r.Outside)
	assert.Len(t, spots, 1)
}

// The general resolver takes what does not come from a module of the project to
// where other modules lie, and imports of a language never by the rules of another.
func TestImportsKeepToTheirLanguage(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"a.proto": "syntax = \"proto3\";\nimport \"hut.proto\";\nmessage Bell { Hut at = 1; }\n", "hut.proto": "syntax = \"proto3\";\nmessage Hut {}\n",
		"hut.ts": "export const x = 1\n", "page.css": "@import \"hut\";\n", "a.js": "import { x } from './hut'\nx\n",
	})
	_, spots := w.Answers.All(context.Background(), answer.ToDefinition.On("a.proto", 55))
	require.NotEmpty(t, spots)
	assert.Equal(t, "hut.proto:2:9", spots[0].Place().String())
	_, spots = w.Answers.All(context.Background(), answer.ToDefinition.On("a.js", 10))
	require.NotEmpty(t, spots)
	assert.Equal(t, "hut.ts:1:14", spots[0].Place().String())
}

// Of what is written for several builds, the list says which is not built.
func TestWhatIsNotBuilt(t *testing.T) {
	text := "#ifdef SMALL\nint ring(int n) { return 1; }\n#else\nint ring(int n) { return 2; }\n#endif\nint all() { return ring(3); }\n"
	w := workspacetest.Open(t, map[string]string{"a.cpp": text})
	_, spots := w.Answers.All(context.Background(), answer.ToDefinition.On("a.cpp", strings.Index(text, "ring(3)")))
	require.NotEmpty(t, spots)
	assert.Equal(t, 4, spots[0].Line)
	assert.Empty(t, spots[0].Why)
	_, spots = w.Answers.All(context.Background(), answer.ToDefinition.On("a.cpp", strings.Index(text, "ring(int")))
	require.NotEmpty(t, spots)
	assert.Equal(t, "not built", spots[0].Why)
}
