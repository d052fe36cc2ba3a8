package answer_test

import (
	"context"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// Every question is asked at every name of the demo's code: none may fail, and
// each use has a definition, in the demo or known to lie outside.
func TestEveryQuestionEverywhere(t *testing.T) {
	ws := tarnwell(t)
	root := ws.Code.Root()
	asked, empty := 0, []string(nil)
	require.NoError(t, filepath.WalkDir(root, func(p string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		switch path.Ext(p) {
		case ".go", ".py", ".ts", ".tsx", ".java", ".c", ".h":
			rel := ws.Code.Relative(p)
			f, err := ws.Code.Load(context.Background(), rel)
			require.NoError(t, err)
			require.NotNil(t, f.Facts, rel)
			for _, u := range f.Facts.Uses {
				asked++
				if !askAll(t, ws, f, u) && !f.Facts.Quoted(u) {
					line, col := f.Text.Position(int(u.At.Start))
					empty = append(empty, fmt.Sprintf("%s:%d:%d %s", rel, line, col, u.Name))
				}
			}
		}
		return nil
	}))
	require.Greater(t, asked, 1000)
	assert.Empty(t, empty, "uses without a definition")
}

// askAll asks every question about a use, and says whether it has a definition.
func askAll(t *testing.T, ws *workspace.Workspace, f *codebase.File, u facts.Use) bool {
	ctx, at := context.Background(), int(u.At.Start)
	res, spots := ws.Answers.All(ctx, answer.ToDefinition.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToType.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToImplementations.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToSupers.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToSubs.On(f.Path, at))
	_, refs := ws.Answers.All(ctx, answer.Question{Way: answer.ToReferences, Path: f.Path, Offset: at, Scope: resolve.Scope{Family: true}})
	seen := map[place.Place]bool{}
	for _, r := range refs {
		assert.False(t, seen[r.Place()], "%s: %s at %d is said to be used twice at %v", f.Path, u.Name, at, r.Place())
		seen[r.Place()] = true
	}
	ws.Answers.All(ctx, answer.ToValues.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToTests.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToCallers.On(f.Path, at))
	ws.Answers.All(ctx, answer.ToCalled.On(f.Path, at))
	if len(spots) > 0 && !res.Here && spots[0].Certainty != resolve.ByName && spots[0].Kind != facts.Package {
		found := false
		for _, r := range refs {
			found = found || r.Path == f.Path && r.At == u.At
		}
		assert.True(t, found, "%s: %s at %d is not among the references of its definition %v", f.Path, u.Name, at, spots[0].Place())
	}
	return len(spots) > 0 || res.Outside != ""
}
