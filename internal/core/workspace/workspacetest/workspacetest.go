// Package workspacetest helps to test what needs an open project.
package workspacetest

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang/langtest"
	"rooktrail/internal/core/workspace"
)

// Open lays files into a folder, by their paths, and opens the project in it, which is
// read as a whole.
func Open(t *testing.T, files map[string]string) *workspace.Workspace {
	t.Helper()
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	langtest.Lay(t, root, files)
	w := workspace.New(root)
	require.NoError(t, w.Code.Read(t.Context()))
	return w
}

// Ridge is a small project with an interface, what implements it, and a test.
var Ridge = map[string]string{
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
