package answer_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace/workspacetest"
)

// A package or module is used where it is imported and where its name stands in front of what it
// offers, in every file, whatever that calls it.
func TestReferencesOfPackages(t *testing.T) {
	files := map[string]string{
		"go.mod":         "module tarn\n\ngo 1.22\n",
		"huts/hut.go":    "package huts\n\n// Hut is one.\ntype Hut struct{}\n",
		"main.go":        "package main\n\nimport \"tarn/huts\"\n\nfunc main() { _ = huts.Hut{}; var huts int; _ = huts }\n",
		"desk/desk.go":   "package desk\n\nimport h \"tarn/huts\"\n\nvar one h.Hut\n",
		"board/rope.ts":  "export function tie() {}\n",
		"board/post.ts":  "import * as rope from './rope';\nrope.tie();\n",
		"relay/lamp.py":  "def light(): pass\n",
		"relay/tower.py": "import lamp\nlamp.light()\n",
	}
	for _, c := range []struct{ path, at, want string }{
		{"main.go", "huts.Hut", "desk/desk.go:3:8 desk/desk.go:5:9 main.go:3:8 main.go:5:19"},
		{"desk/desk.go", "h.Hut", "desk/desk.go:3:8 desk/desk.go:5:9 main.go:3:8 main.go:5:19"},
		{"board/post.ts", "rope.tie", "board/post.ts:1:13 board/post.ts:2:1"},
		{"relay/tower.py", "lamp.light", "relay/tower.py:1:8 relay/tower.py:2:1"},
	} {
		ctx, w := context.Background(), workspacetest.Open(t, files)
		f, err := w.Code.Load(ctx, c.path)
		require.NoError(t, err)
		_, refs := w.Answers.All(ctx, answer.ToReferences.On(c.path, strings.LastIndex(string(f.Text.Bytes()), c.at)))
		var got []string
		for _, r := range refs {
			got = append(got, fmt.Sprintf("%s:%d:%d", r.Path, r.Line, r.Col))
		}
		assert.ElementsMatch(t, strings.Fields(c.want), got, c.path)
	}
}

// A file that a path leads to has references, too: the imports in other files, however these write the path.
func TestReferencesOfFiles(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{
		"index.html": `<link rel="stylesheet" href="board/style.css">`,
		"board/style.css": `@import "base.css";
.a { top: 0; }`,
		"board/base.css": ".b { top: 0; }",
		"board/ring.ts":  "export function ring() {}",
		"app.ts":         "import { ring } from './board/ring';\nring();",
		"late.ts":        "import * as all from \"./board/ring\";\nall.ring();",
	})
	at := func(file, text string) (found []string) {
		f, err := ws.Code.Load(context.Background(), file)
		require.NoError(t, err)
		_, all := ws.Answers.All(context.Background(), answer.ToReferences.On(file, strings.Index(string(f.Text.Bytes()), text)))
		for _, a := range all {
			found = append(found, fmt.Sprintf("%s:%d %s", a.Path, a.Line, a.Access))
		}
		return found
	}
	assert.Equal(t, []string{"board/style.css:1 import"}, at("board/style.css", "base.css"))
	assert.Equal(t, []string{"index.html:1 import"}, at("index.html", "board/style.css"))
	assert.ElementsMatch(t, []string{"app.ts:1 import", "late.ts:1 import", "late.ts:2 read"}, at("app.ts", "./board/ring"))
}

// Who imports a file, and what it imports, can be asked anywhere in it.
func TestAcrossFiles(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{
		"go.mod":              "module tarn\n\ngo 1.22\n",
		"huts/hut.go":         "package huts\n\n// Hut is one.\ntype Hut struct{}\n",
		"main.go":             "package main\n\nimport (\n\t\"fmt\"\n\t\"tarn/huts\"\n)\n\nfunc main() { fmt.Println(huts.Hut{}) }\n",
		"board/a.ts":          "import './a.css';\nimport { b } from './b';\nb();\n",
		"board/b.ts":          "export function b() {}\n",
		"board/a.css":         ".a { top: 0; }\n",
		"page.py":             "render_template('huts/row.html')\n",
		"pages/huts/row.html": "<p></p>\n",
	})
	for _, c := range []struct {
		way        answer.Way
		path, want string
	}{
		{answer.ToImported, "main.go", "huts/hut.go:1:1"},
		{answer.ToImporters, "huts/hut.go", "main.go:5:2"},
		{answer.ToImporters, "main.go", ""},
		{answer.ToImported, "board/a.ts", "board/a.css:1:1 board/b.ts:1:1"},
		{answer.ToImporters, "board/a.css", "board/a.ts:1:8"},
		{answer.ToImporters, "board/b.ts", "board/a.ts:2:19"},
		{answer.ToImporters, "pages/huts/row.html", "page.py:1:18"},
	} {
		res, all := ws.Answers.All(context.Background(), c.way.On(c.path, 3))
		var got []string
		for _, a := range all {
			got = append(got, fmt.Sprintf("%s:%d:%d", a.Path, a.Line, a.Col))
		}
		assert.Equal(t, c.want, strings.Join(got, " "), "%s %s", c.way, c.path)
		assert.NotEmpty(t, res.Name)
	}
}
