package answer_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/workspace/workspacetest"
)

// A question is about the name at its place, or else about the function or type around.
func TestWhatAQuestionIsAbout(t *testing.T) {
	code := "package a\n\n// Team goes out.\ntype Team struct{ n int }\n\nfunc (t Team) Go() int {\n\t// here\n\tif t.n > 1 {\n\t\treturn 2\n\t}\n\treturn t.n\n}\n"
	w := workspacetest.Open(t, map[string]string{"a.go": code, "notes.txt": "snow\n"})
	for at, want := range map[string]struct{ at, around string }{
		"n > 1":    {"n > 1", ""},
		"// here":  {"Go()", "Go"},
		"return 2": {"Go()", "Go"},
		"{ n int":  {"Team struct", "Team"},
		"package":  {"package", ""},
		"goes out": {"Team struct", "Team"},
	} {
		got, around := w.Answers.Subject(t.Context(), "a.go", strings.Index(code, at))
		assert.Equal(t, strings.Index(code, want.at), got, at)
		assert.Equal(t, want.around, around, at)
	}
	got, around := w.Answers.Subject(t.Context(), "notes.txt", 2)
	assert.Equal(t, 2, got)
	assert.Empty(t, around)
}
