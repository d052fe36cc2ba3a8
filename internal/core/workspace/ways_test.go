package workspace_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/workspace"
)

// Ridge is a small project with an interface, what implements it, and a test.
var ridge = map[string]string{
	"ridge/bell.py": `class Bell:
    def ring(self, times):
        pass

class Horn(Bell):
    def ring(self, times):
        self.left = times

class Drum(Bell):
    def ring(self, times):
        self.left = times
        self.left += 1
        return self.left
`,
	"ridge/hut.py": `from ridge.bell import Bell, Horn

def wake(bell: Bell):
    bell.ring(2)
    bell.ring(3)

def all_out():
    wake(Horn())
`,
	"ridge/test_hut.py": `from ridge.hut import wake
from ridge.bell import Horn

def test_wake():
    wake(Horn())
`,
}

// lay makes a project of some files and reads it.
func lay(t *testing.T, files map[string]string) *workspace.Workspace {
	t.Helper()
	root := t.TempDir()
	for name, text := range files {
		p := filepath.Join(root, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o600))
	}
	ws := workspace.New(root)
	require.NoError(t, ws.Read(context.Background()))
	return ws
}

// along goes a way from the first place of some text in a file, behind a bar in it,
// and writes each destination as path:line role in.
func along(t *testing.T, ws *workspace.Workspace, way workspace.Way, file, at string) (found []string) {
	t.Helper()
	f, err := ws.Load(context.Background(), file)
	require.NoError(t, err)
	front, behind, _ := strings.Cut(at, "|")
	i := strings.Index(string(f.Text.Bytes()), front+behind)
	require.GreaterOrEqual(t, i, 0, at)
	_, places := ws.Along(context.Background(), way, file, i+len(front))
	for _, d := range places {
		s := d.Place().String()
		s = s[:strings.LastIndexByte(s, ':')] + " " + d.Role
		if d.In != "" {
			s += " " + d.In
		}
		if d.TextAt.Len() > 0 {
			assert.Equal(t, d.Name, string(d.TextAt.In([]byte(d.Text))), "the name in the line of %s", s)
		}
		found = append(found, s)
	}
	return found
}

func TestAlong(t *testing.T) {
	ws := lay(t, ridge)
	for _, c := range []struct {
		way      workspace.Way
		file, at string
		want     []string
	}{
		{workspace.ToDefinition, "ridge/hut.py", "wake(|Horn())", []string{"ridge/bell.py:5 class"}},
		{workspace.ToType, "ridge/hut.py", "    |bell.ring(2)", []string{"ridge/bell.py:1 class"}},
		{workspace.ToImplementations, "ridge/bell.py", "class |Bell", []string{"ridge/bell.py:5 class", "ridge/bell.py:9 class"}},
		{workspace.ToImplementations, "ridge/hut.py", "bell.|ring(2)", []string{"ridge/bell.py:6 method Horn", "ridge/bell.py:10 method Drum"}},
		{workspace.ToSupers, "ridge/bell.py", "class |Drum", []string{"ridge/bell.py:1 class"}},
		{workspace.ToReferences, "ridge/hut.py", "def |wake", []string{"ridge/hut.py:8 call all_out", "ridge/test_hut.py:1 import", "ridge/test_hut.py:5 call test_wake"}},
		{workspace.ToCallers, "ridge/hut.py", "def |wake", []string{"ridge/hut.py:8 call all_out", "ridge/test_hut.py:5 call test_wake"}},
		{workspace.ToCalled, "ridge/hut.py", "def |all_out", []string{"ridge/hut.py:3 function", "ridge/bell.py:5 class"}},
		{workspace.ToTests, "ridge/hut.py", "def |wake", []string{"ridge/test_hut.py:4 function"}},
		{workspace.ToReferences, "ridge/hut.py", "|    bell.ring(2)", nil},
	} {
		assert.Equal(t, c.want, along(t, ws, c.way, c.file, c.at), "way %d at %s", c.way, c.at)
	}
	values := along(t, ws, workspace.ToValues, "ridge/bell.py", "return self.|left")
	assert.Contains(t, values, "ridge/bell.py:12 changed Drum.ring")
}

func TestFilesThatWriteComeFirstFromADeclaration(t *testing.T) {
	files := map[string]string{"a/reads.go": "package a\n\nfunc read() int { return depth }\n", "a/var.go": "package a\n\nvar depth int\n",
		"a/z_sets.go": "package a\n\nfunc set() { depth = 1 }\n", "a/a_test.go": "package a\n\nfunc tests() { depth = 2 }\n", "go.mod": "module tarn\n"}
	ws := lay(t, files)
	assert.Equal(t, []string{"a/z_sets.go:3 write set", "a/reads.go:3 read read", "a/a_test.go:3 write tests"}, along(t, ws, workspace.ToReferences, "a/var.go", "var |depth"))
	assert.Equal(t, []string{"a/reads.go:3 read read", "a/z_sets.go:3 write set", "a/a_test.go:3 write tests"}, along(t, ws, workspace.ToReferences, "a/reads.go", "return |depth"), "from a use, the nearest first")
}

func TestCountWays(t *testing.T) {
	ws := lay(t, ridge)
	count := func(file, at string) workspace.Ways {
		f, err := ws.Load(context.Background(), file)
		require.NoError(t, err)
		front, behind, _ := strings.Cut(at, "|")
		return ws.CountWays(context.Background(), file, strings.Index(string(f.Text.Bytes()), front+behind)+len(front))
	}
	assert.Equal(t, workspace.Ways{References: 3, Calls: 2, Files: 2, Callers: 2, InTests: 2, Called: 1, Related: true}, count("ridge/hut.py", "def |wake"))
	assert.Equal(t, 2, count("ridge/bell.py", "class |Bell").Implementations)
	drum := count("ridge/bell.py", "class Drum(Bell):\n    def |ring")
	assert.Equal(t, "Bell.ring", drum.Super)
	assert.Equal(t, 0, drum.Implementations)
	assert.Equal(t, workspace.Ways{Related: true}, count("ridge/hut.py", "|    bell.ring(2)"), "a blank")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Zero(t, ws.CountWays(ctx, "ridge/hut.py", 50).Called, "it was given up")
}
