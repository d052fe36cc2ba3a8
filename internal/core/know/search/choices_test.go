package search_test

import (
	"context"
	"fmt"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/workspace/workspacetest"
)

func TestWhatWasChosenComesFirstTheNextTime(t *testing.T) {
	files := map[string]string{"a/deep/zroster.go": "package a\n\nfunc RosterZ() {}\n"}
	for i := range 30 {
		files[fmt.Sprintf("b/roster%d.go", i)] = fmt.Sprintf("package b\n\nfunc Roster%d() {}\n", i)
	}
	w := workspacetest.Open(t, files)
	w.Search.KnowChoices(filepath.Join(t.TempDir(), "chosen.json"))
	ctx := context.Background()
	assert.NotEqual(t, "a/deep/zroster.go", w.Search.Files(ctx, "rost", 5)[0].Path)
	require.NoError(t, w.Search.Choose("b/roster17.go", "", "rost"))
	require.NoError(t, w.Search.Choose("b/roster17.go", "Roster17", "rost"))
	assert.Equal(t, "b/roster17.go", w.Search.Files(ctx, "rost", 5)[0].Path, "although it was not among the five before")
	assert.Equal(t, "Roster17", w.Search.Symbols(ctx, "rost", 5)[0].Name)
	assert.Len(t, w.Search.Files(ctx, "rost", 5), 5)
	require.NoError(t, w.Search.Choose("a/deep/zroster.go", "", "other"))
	assert.Equal(t, "b/roster3.go", w.Search.Files(ctx, "roster3", 5)[0].Path, "a clearly better match stays above")
}
