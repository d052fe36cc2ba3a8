package overlook_test

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// repository is an open project in which git is run.
type repository struct {
	*workspace.Workspace
	t *testing.T
}

func (r *repository) git(args ...string) {
	r.t.Helper()
	cmd := exec.Command("git", append([]string{"-c", "user.name=Ida", "-c", "user.email=ida@tarn.example", "-c", "commit.gpgsign=false"}, args...)...)
	cmd.Dir = r.Code.Root()
	out, err := cmd.CombinedOutput()
	require.NoError(r.t, err, string(out))
}

// write writes files and makes a commit of them.
func (r *repository) commit(files map[string]string) {
	r.t.Helper()
	for p, text := range files {
		require.NoError(r.t, os.WriteFile(filepath.Join(r.Code.Root(), p), []byte(text), 0o644))
	}
	r.git("add", ".")
	r.git("commit", "-qm", "change")
	r.Code.Refresh(context.Background())
}

func committed(t *testing.T) *repository {
	r := &repository{workspacetest.Open(t, station), t}
	r.git("init", "-q", "-b", "main")
	r.commit(nil)
	return r
}

// What was changed in one commit more than once goes together; what never was does not.
func TestTogether(t *testing.T) {
	r := committed(t)
	for n := range 3 {
		r.commit(map[string]string{"geo/geo.go": fmt.Sprintf("package geo\n\nconst Far = %d\n", n), "main.go": station["main.go"] + fmt.Sprintf("\n// %d\n", n)})
	}
	r.commit(map[string]string{"store/store.go": station["store/store.go"] + "\n// more\n"})
	s := scene(t, r.Workspace, overlook.Asked{View: overlook.Together, Path: "geo/geo.go"})
	assert.Equal(t, []string{"geo.go → main.go"}, lines(s))
	assert.Equal(t, "4×", s.Lines[0].Label)
	assert.Contains(t, s.Notes[0], "Of all 5 commits")

	churn, err := r.Overlook.Chart(context.Background(), overlook.Counted{Measure: overlook.Churn, Path: "geo"}, nil)
	require.NoError(t, err)
	assert.Equal(t, []float64{6, 3}, churn.Bars[0].Values, "added and removed")
	who, err := r.Overlook.Chart(context.Background(), overlook.Counted{Measure: overlook.Who}, nil)
	require.NoError(t, err)
	assert.Equal(t, []any{"Ida", 5.0}, []any{who.Bars[0].Name, who.Bars[0].Total()})
}

// Against a commit, the imports that are new stand out.
func TestNewImports(t *testing.T) {
	r := committed(t)
	r.commit(map[string]string{"store/store.go": "package store\n\nimport (\n\t\"tarn/dispatch\"\n\t\"tarn/geo\"\n)\n\nvar _ dispatch.Desk\n\nconst near = geo.Far\n"})
	s := scene(t, r.Workspace, overlook.Asked{View: overlook.Imports, Depth: 1, Since: "HEAD~1"})
	for _, l := range s.Lines {
		name := s.Boxes[l.From].Name + " → " + s.Boxes[l.To].Name
		assert.Equal(t, name == "store → dispatch", l.Look == draw.Marked, name)
	}
	assert.Contains(t, s.Notes[0], "Compared with")
	_, err := r.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Imports, Since: "no-such-branch"}, nil)
	assert.Error(t, err)
}

func TestWithoutAHistory(t *testing.T) {
	ws := workspacetest.Open(t, station)
	_, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Together}, nil)
	assert.ErrorContains(t, err, "no repository")
	r := &repository{ws, t}
	r.git("init", "-q", "-b", "main")
	_, err = ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Together}, nil)
	assert.Error(t, err, "a repository without a commit")
}
