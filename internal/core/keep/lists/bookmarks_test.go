package lists_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// told says where the bookmarks of a list are and what became of them.
func told(l *bookmark.List) (all []string) {
	for _, i := range l.Shown() {
		all = append(all, l.Marks[i].Place().String()+" "+l.Marks[i].Fate.String())
	}
	return all
}

func TestBookmarksStayWithTheCode(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	ctx := context.Background()
	ws.Lists.KnowBookmarks(filepath.Join(t.TempDir(), "bookmarks"))
	f, err := ws.Code.Load(ctx, "ridge/hut.py")
	require.NoError(t, err)
	b, err := ws.Code.Load(ctx, "ridge/bell.py")
	require.NoError(t, err)
	l := bookmark.NewList("x")
	l.Add(ws.Lists.Bookmark(f, place.Place{Path: f.Path, Line: 5, Col: 10}, bookmark.Line))
	k := l.Add(ws.Lists.Bookmark(b, place.Place{Path: b.Path, Line: 2, Col: 9}, bookmark.Symbol))
	assert.Equal(t, "Bell.ring", k.What)
	l.Add(ws.Lists.Bookmark(nil, place.Place{Path: b.Path}, bookmark.File))
	l.Add(ws.Lists.Bookmark(nil, place.Place{Path: "ridge"}, bookmark.Folder))
	require.NoError(t, ws.Lists.KeepBookmarks(l))

	change(t, ws, "ridge/hut.py", "# Huts.\n"+workspacetest.Ridge["ridge/hut.py"])
	change(t, ws, "ridge/bell.py", "import os\n\n"+strings.ReplaceAll(workspacetest.Ridge["ridge/bell.py"], "def ring(self", "def ring(self, loudly=os.sep"))
	ws.Lists.LocateBookmarks(ctx, l)
	assert.Equal(t, []string{"ridge/hut.py:6:10 moved", "ridge/bell.py:4:9 moved", "ridge/bell.py:1:1 same", "ridge:1:1 same"}, told(l))
	change(t, ws, "ridge/hut.py", "pass\n")
	require.NoError(t, os.Remove(ws.Code.Absolute("ridge/bell.py")))
	ws.Code.Refresh(ctx)
	ws.Lists.LocateBookmarks(ctx, l)
	assert.Equal(t, []string{"ridge/hut.py:6:10 gone", "ridge/bell.py:4:9 gone", "ridge/bell.py:1:1 gone", "ridge:1:1 same"}, told(l))
	change(t, ws, "ridge/hut.py", workspacetest.Ridge["ridge/hut.py"])
	change(t, ws, "ridge/bell.py", workspacetest.Ridge["ridge/bell.py"])
	ws.Lists.LocateBookmarks(ctx, l)
	assert.Equal(t, []string{"ridge/hut.py:5:10 moved", "ridge/bell.py:2:9 moved", "ridge/bell.py:1:1 same", "ridge:1:1 same"}, told(l), "as after a branch was switched to and fro")

	lists, err := ws.Lists.Bookmarks()
	require.NoError(t, err)
	require.Len(t, lists, 1)
	assert.Len(t, lists[0].Marks, 4)
	require.NoError(t, ws.Lists.RemoveBookmarks(lists[0]))
	lists, err = ws.Lists.Bookmarks()
	require.NoError(t, err)
	assert.Empty(t, lists)
}

func TestSharedBookmarks(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	l := bookmark.NewList("the bells")
	f, err := ws.Code.Load(context.Background(), "ridge/bell.py")
	require.NoError(t, err)
	l.Add(ws.Lists.Bookmark(f, place.Place{Path: f.Path, Line: 2, Col: 9}, bookmark.Line))
	file, err := ws.Lists.ShareBookmarks(l, false)
	require.NoError(t, err)
	_, err = ws.Lists.ShareBookmarks(l, false)
	require.ErrorIs(t, err, lists.ErrNotWritten)
	_, err = ws.Lists.ShareBookmarks(l, true)
	require.NoError(t, err)
	lists, err := ws.Lists.Bookmarks()
	require.NoError(t, err)
	require.Len(t, lists, 1)
	assert.Equal(t, file, lists[0].Shared)
	require.NoError(t, ws.Lists.KeepBookmarks(lists[0]), "which does nothing")

	dir := filepath.Dir(ws.Code.Absolute(file))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "wrong.toml"), []byte("[[x"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "evil.toml"), []byte("[[bookmark]]\npath='../../etc/passwd'\n"), 0o600))
	require.NoError(t, os.Symlink("/etc/hostname", filepath.Join(dir, "link.toml")))
	lists, err = ws.Lists.Bookmarks()
	assert.ErrorContains(t, err, "wrong.toml are not well formed")
	assert.ErrorContains(t, err, "refused: ../../etc/passwd")
	assert.Len(t, lists, 2, "the link is not followed")
}

func TestWalksAreFoundInTheCode(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	ctx := context.Background()
	l := bookmark.NewList("bells")
	f, err := ws.Code.Load(ctx, "ridge/hut.py")
	require.NoError(t, err)
	l.Add(ws.Lists.Bookmark(f, place.Place{Path: f.Path, Line: 5, Col: 10}, bookmark.Line))
	l.Add(bookmark.Mark{Kind: bookmark.Line, Memory: place.Remember(place.Anchor{Path: "gone.py", Line: 3, Col: 1, Text: "x"})})
	w := ws.Lists.WalkOfBookmarks(ctx, l)
	assert.NotEmpty(t, w.Stops[0].Code)
	change(t, ws, "ridge/hut.py", "# Huts.\n"+workspacetest.Ridge["ridge/hut.py"])
	assert.Equal(t, []place.Fate{place.Moved, place.Gone}, ws.Lists.LocateWalk(ctx, w))
	assert.Equal(t, 6, w.Stops[0].Line)

	for _, file := range []string{"walk.md", "walk.json"} {
		require.NoError(t, ws.Lists.WriteWalk(w, file))
		assert.FileExists(t, ws.Code.Absolute(file))
		assert.ErrorIs(t, ws.Lists.WriteWalk(w, file), lists.ErrNotWritten, "nothing is written over")
	}
	assert.Error(t, ws.Lists.WriteWalk(w, "no/such/folder.md"))
}

// A stop whose file is gone is found by its symbol, which moved to another one.
func TestASymbolOfAWalkThatMoved(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "there.go"), []byte("package a\n\n// More.\n\nfunc (h Hut) Ring() {\n\tbell()\n\techo()\n}\n"), 0o644))
	w := workspace.New(root)
	require.NoError(t, w.Code.Read(t.Context()))
	stop := func(what, text string) walk.Stop {
		return walk.Stop{What: what, Anchor: place.Anchor{Path: "gone.go", Line: 3, Col: 2, Text: text, Symbol: what, Before: []string{"func (h Hut) Ring() {"}, After: []string{"echo()"}}}
	}
	out := &walk.Walk{Stops: []walk.Stop{stop("Hut.Ring", "bell()"), stop("Hut.Ring", "what is nowhere"), stop("Hut.Silence", "hush()")}}
	fates := w.Lists.LocateWalk(t.Context(), out)
	assert.Equal(t, []place.Fate{place.Moved, place.Moved, place.Gone}, fates)
	assert.Equal(t, []any{"there.go", 6, "there.go", 5}, []any{out.Stops[0].Path, out.Stops[0].Line, out.Stops[1].Path, out.Stops[1].Line})
}
