package answer_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace/workspacetest"
)

func TestDescribe(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"a.go": "package a\n\n// Team goes out\n// when called.\ntype Team struct {\n\tName string // what it is called\n}\n\nfunc f(t Team) { _ = t.Name }\n",
		"b.py": "def ring(\n    bell,\n    times=1,\n):\n    \"\"\"Ring it.\n\n    Often.\n    \"\"\"\nring(1)\n",
	})
	load := func(p string) *codebase.File {
		f, err := w.Code.Load(context.Background(), p)
		require.NoError(t, err)
		return f
	}
	f := load("a.go")
	d := w.Answers.Describe(context.Background(), "a.go", strings.Index(string(f.Text.Bytes()), "Team)"))
	assert.Equal(t, "type Team struct", d.Signature)
	assert.Equal(t, "Team goes out\nwhen called.", d.Doc)
	d = w.Answers.Describe(context.Background(), "a.go", strings.Index(string(f.Text.Bytes()), ".Name")+1)
	assert.Equal(t, "Name string", d.Signature)
	assert.Equal(t, "what it is called", d.Doc)
	assert.Equal(t, 6, d.Best.Line)
	f = load("b.py")
	d = w.Answers.Describe(context.Background(), "b.py", strings.LastIndex(string(f.Text.Bytes()), "ring"))
	assert.Equal(t, "def ring(\n    bell,\n    times=1,\n)", d.Signature)
	assert.Equal(t, "Ring it.\n\nOften.", d.Doc)
	assert.Equal(t, "Team", codebase.Crumbs(load("a.go"), 60)[0].Name)
	assert.Empty(t, w.Answers.Describe(context.Background(), "nothing.go", 0).Name)
}

func TestProse(t *testing.T) {
	for in, want := range map[string]string{
		"// one\n// two":                     "one\ntwo",
		"/** one\n *  two\n */":              "one\n two",
		"# hash":                             "hash",
		"'''quoted'''":                       "quoted",
		"r\"\"\"raw\n    indented\n  \"\"\"": "raw\nindented",
		"":                                   "",
	} {
		assert.Equal(t, want, answer.Prose(in), "%q", in)
	}
}
