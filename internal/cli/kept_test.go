package cli

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/adrg/xdg"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/workspace"
)

// keeping is a project with a folder of its own for what is kept.
func keeping(t *testing.T) (root string) {
	t.Setenv("XDG_DATA_HOME", t.TempDir())
	xdg.Reload()
	t.Cleanup(xdg.Reload)
	return sample(t)
}

// said is what a command that has to succeed printed.
func said(t *testing.T, stdin string, args ...string) string {
	t.Helper()
	status, out, words := run(t, stdin, args...)
	require.Equal(t, statusFound, status, words)
	return out
}

func TestSweeps(t *testing.T) {
	root := keeping(t)
	status, _, _ := run(t, "", "sweep", "--list", "--root", root)
	assert.Equal(t, statusNothing, status, "there are none")
	status, _, _ = run(t, "", "sweep", "--as", "text", "--root", root)
	assert.Equal(t, statusNothing, status)

	list := "a.go:3:6: Ring is here\nnothing of note\n/somewhere/else.go:1: outside\nb.py:4: ring\n"
	status, _, words := run(t, list, "sweep", "--root", root, "--name", "bells")
	require.Equal(t, statusFound, status, words)
	assert.Contains(t, words, `kept as the sweep "bells": places 2`)
	assert.Contains(t, words, "in files that are not in the project 1, such as /somewhere/else.go")
	assert.Contains(t, words, "lines without a place 1")

	file := filepath.Join(t.TempDir(), "lint.txt")
	require.NoError(t, os.WriteFile(file, []byte("a.go:5: n\n"), 0o600))
	said(t, "", "sweep", "--root", root, "--keep", file)
	assert.Equal(t, "1 of 1 to do\tlint.txt\n2 of 2 to do\tbells\n", said(t, "", "sweep", "--list", "--root", root))
	assert.Contains(t, said(t, "", "sweep", "--as", "text", "--root", root), "a.go:5:", "the latest")
	assert.Contains(t, said(t, "", "sweep", "--as", "markdown", "--name", "bells", "--root", root), "sub/b.py")
	var got struct{ Name string }
	require.NoError(t, json.Unmarshal([]byte(said(t, "", "sweep", "--as", "json", "--name", "bells", "--root", root)), &got))
	assert.Equal(t, "bells", got.Name)

	for _, c := range []struct{ stdin, args, words string }{
		{"", "sweep --as pictures", `cannot be printed as "pictures"`},
		{"", "sweep --as text --name none", `there is no sweep called "none"`},
		{"no place at all\n", "sweep", "the list names no place"},
		{"/elsewhere/x.go:1: y\n", "sweep", "none of the files that the list names is in this project, such as /elsewhere/x.go"},
		{"", "sweep nowhere.txt", "reading the list nowhere.txt"},
	} {
		status, _, words := run(t, c.stdin, append(strings.Fields(c.args), "--root", root)...)
		assert.Equal(t, statusError, status, c.args)
		assert.Contains(t, words, c.words)
	}
}

// aWalk is a walk of two stops, of which one leaves the project, as somebody wrote it.
const aWalk = `{"format": "rooktrail walk", "version": 1, "name": "to the bell", "stops": [
	{"path": "a.go", "line": 3, "col": 6, "text": "func Ring() int { return 1 }", "name": "Ring", "note": "it begins here"},
	{"path": "../../etc/passwd", "line": 1, "col": 1},
	{"path": "sub/b.py", "line": 4, "col": 1, "text": "ring()"}]}`

func TestTrails(t *testing.T) {
	root := keeping(t)
	status, _, _ := run(t, "", "trail", "--list", "--root", root)
	assert.Equal(t, statusNothing, status, "there are none")
	status, _, _ = run(t, "", "trail", "--root", root)
	assert.Equal(t, statusNothing, status)

	status, _, words := run(t, aWalk, "trail", "--import", "-", "--root", root)
	require.Equal(t, statusFound, status, words)
	assert.Contains(t, words, "stops that leave the project are refused: ../../etc/passwd")
	assert.Contains(t, words, `taken in as the trail "to the bell": stops 2`)
	assert.Equal(t, "2 stops\tto the bell\n", said(t, "", "trail", "--list", "--root", root))
	assert.Equal(t, "a.go:3:6: func Ring() int { return 1 }  (it begins here)\nsub/b.py:4:1: ring()\n", said(t, "", "trail", "--root", root))

	require.NoError(t, os.WriteFile(filepath.Join(root, "a.go"), []byte("package a\n\n// Ring rings.\n\nfunc Ring() int { return 1 }\n"), 0o600))
	assert.Contains(t, said(t, "", "trail", "--name", "to the bell", "--root", root), "a.go:5:6:", "the places are where they are now")
	assert.Contains(t, said(t, "", "trail", "--as", "markdown", "--root", root), "it begins here")

	again := said(t, "", "trail", "--as", "json", "--root", root)
	status, _, words = run(t, again, "trail", "--import", "-", "--name", "once more", "--root", root)
	require.Equal(t, statusFound, status, words)
	assert.Equal(t, "2 stops\tonce more\n2 stops\tto the bell\n", said(t, "", "trail", "--list", "--root", root), "what is written is read")

	for _, c := range []struct{ stdin, args, words string }{
		{"", "trail --as pictures", `cannot be printed as "pictures"`},
		{"", "trail --name none", `there is no trail called "none"`},
		{`{"format": "rooktrail walk", "version": 1, "name": "none", "stops": []}`, "trail --import -", "there is no stop in the walk"},
		{"", "trail --import nowhere.json", "reading the walk nowhere.json"},
		{"", "walk nowhere.json", "reading the walk nowhere.json"},
	} {
		status, _, words := run(t, c.stdin, append(strings.Fields(c.args), "--root", root)...)
		assert.Equal(t, statusError, status, c.args)
		assert.Contains(t, words, c.words)
	}
}

func TestBookmarksFromTheShell(t *testing.T) {
	root := keeping(t)
	status, _, _ := run(t, "", "bookmarks", "--root", root)
	assert.Equal(t, statusNothing, status, "there are none")
	ws := workspace.New(root)
	know(ws, dataFolder())
	for _, mark := range []struct {
		list, file string
		line       int
	}{{"bells", "a.go", 3}, {"huts", "sub/b.py", 4}} {
		f, err := ws.Code.Load(t.Context(), mark.file)
		require.NoError(t, err)
		l := bookmark.NewList(mark.list)
		l.Add(ws.Lists.Bookmark(f, place.Place{Path: mark.file, Line: mark.line, Col: 1}, bookmark.Line))
		require.NoError(t, ws.Lists.KeepBookmarks(l))
	}
	out := said(t, "", "bookmarks", "--root", root)
	assert.Contains(t, out, "a.go:3:1: func Ring() int { return 1 }\n")
	assert.Contains(t, out, "sub/b.py:4:1: ring()\n")
	assert.Equal(t, "a.go:3:1: func Ring() int { return 1 }\n", said(t, "", "bookmarks", "--name", "bells", "--root", root))
	assert.Contains(t, said(t, "", "bookmarks", "--list", "--root", root), "1 bookmarks\tbells\n")
	assert.Contains(t, said(t, "", "bookmarks", "--as", "json", "--root", root), `"bookmarks"`)
	status, _, words := run(t, "", "bookmarks", "--name", "none", "--root", root)
	assert.Equal(t, statusError, status)
	assert.Contains(t, words, `there is no list of bookmarks called "none"`)
}

// Where a name is mentioned other than in code, references tell if they are asked.
func TestMentions(t *testing.T) {
	root := keeping(t)
	require.NoError(t, os.WriteFile(filepath.Join(root, "notes.md"), []byte("Call Ring twice.\n"), 0o600))
	assert.NotContains(t, said(t, "", "references", "a.go:3:6", "--root", root), "notes.md")
	assert.Contains(t, said(t, "", "references", "--mentions", "a.go:3:6", "--root", root), "notes.md:1:6: Call Ring twice.")
}

// The full-screen program says what it needs where there is no terminal.
func TestWithoutATerminal(t *testing.T) {
	root := keeping(t)
	for _, args := range [][]string{{root}, {"demo"}} {
		status, _, words := run(t, "", args...)
		assert.Equal(t, statusError, status)
		assert.Contains(t, words, "needs a terminal")
	}
}
