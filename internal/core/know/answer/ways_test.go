package answer_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// along goes a way from the first place of some text in a file, behind a bar in it,
// and writes each destination as path:line role in.
func along(t *testing.T, ws *workspace.Workspace, way answer.Way, file, at string) (found []string) {
	t.Helper()
	f, err := ws.Code.Load(context.Background(), file)
	require.NoError(t, err)
	front, behind, _ := strings.Cut(at, "|")
	i := strings.Index(string(f.Text.Bytes()), front+behind)
	require.GreaterOrEqual(t, i, 0, at)
	_, places := ws.Answers.Along(context.Background(), way, file, i+len(front))
	for _, d := range places {
		s := d.Place().String()
		s = s[:strings.LastIndexByte(s, ':')] + " " + d.Role
		if d.Around() != "" {
			s += " " + d.Around()
		}
		if d.TextAt.Len() > 0 {
			assert.Equal(t, d.Name, string(d.TextAt.In([]byte(d.Text))), "the name in the line of %s", s)
		}
		found = append(found, s)
	}
	return found
}

func TestAlong(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	for _, c := range []struct {
		way      answer.Way
		file, at string
		want     []string
	}{
		{answer.ToDefinition, "ridge/hut.py", "wake(|Horn())", []string{"ridge/bell.py:5 class"}},
		{answer.ToType, "ridge/hut.py", "    |bell.ring(2)", []string{"ridge/bell.py:1 class"}},
		{answer.ToImplementations, "ridge/bell.py", "class |Bell", []string{"ridge/bell.py:5 class", "ridge/bell.py:9 class"}},
		{answer.ToImplementations, "ridge/hut.py", "bell.|ring(2)", []string{"ridge/bell.py:6 method Horn", "ridge/bell.py:10 method Drum"}},
		{answer.ToSupers, "ridge/bell.py", "class |Drum", []string{"ridge/bell.py:1 class"}},
		{answer.ToReferences, "ridge/hut.py", "def |wake", []string{"ridge/hut.py:8 call all_out", "ridge/test_hut.py:1 import", "ridge/test_hut.py:5 call test_wake"}},
		{answer.ToCallers, "ridge/hut.py", "def |wake", []string{"ridge/hut.py:8 call all_out", "ridge/test_hut.py:5 call test_wake"}},
		{answer.ToCalled, "ridge/hut.py", "def |all_out", []string{"ridge/hut.py:3 function", "ridge/bell.py:5 class"}},
		{answer.ToTests, "ridge/hut.py", "def |wake", []string{"ridge/test_hut.py:4 function"}},
		{answer.ToReferences, "ridge/hut.py", "|    bell.ring(2)", nil},
	} {
		assert.Equal(t, c.want, along(t, ws, c.way, c.file, c.at), "way %d at %s", c.way, c.at)
	}
	values := along(t, ws, answer.ToValues, "ridge/bell.py", "return self.|left")
	assert.Contains(t, values, "ridge/bell.py:12 changed Drum.ring")
}

func TestFilesThatWriteComeFirstFromADeclaration(t *testing.T) {
	files := map[string]string{"a/reads.go": "package a\n\nfunc read() int { return depth }\n", "a/var.go": "package a\n\nvar depth int\n",
		"a/z_sets.go": "package a\n\nfunc set() { depth = 1 }\n", "a/a_test.go": "package a\n\nfunc tests() { depth = 2 }\n", "go.mod": "module tarn\n"}
	ws := workspacetest.Open(t, files)
	assert.Equal(t, []string{"a/z_sets.go:3 write set", "a/reads.go:3 read read", "a/a_test.go:3 write tests"}, along(t, ws, answer.ToReferences, "a/var.go", "var |depth"))
	assert.Equal(t, []string{"a/reads.go:3 read read", "a/z_sets.go:3 write set", "a/a_test.go:3 write tests"}, along(t, ws, answer.ToReferences, "a/reads.go", "return |depth"), "from a use, the nearest first")
}

func TestCountWays(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	count := func(file, at string) answer.Ways {
		f, err := ws.Code.Load(context.Background(), file)
		require.NoError(t, err)
		front, behind, _ := strings.Cut(at, "|")
		return ws.Answers.CountWays(context.Background(), file, strings.Index(string(f.Text.Bytes()), front+behind)+len(front))
	}
	assert.Equal(t, answer.Ways{References: 3, Calls: 2, Files: 2, Callers: 2, InTests: 2, Called: 1, Tests: 1, Related: true}, count("ridge/hut.py", "def |wake"))
	assert.Equal(t, 2, count("ridge/bell.py", "class |Bell").Implementations)
	drum := count("ridge/bell.py", "class Drum(Bell):\n    def |ring")
	assert.Equal(t, "Bell.ring", drum.Super)
	assert.Equal(t, 0, drum.Implementations)
	assert.Equal(t, answer.Ways{Related: true}, count("ridge/hut.py", "|    bell.ring(2)"), "a blank")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Zero(t, ws.Answers.CountWays(ctx, "ridge/hut.py", 50).Called, "it was given up")
}
