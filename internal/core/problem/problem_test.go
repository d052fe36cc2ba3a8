package problem_test

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/workspace/workspacetest"
)

// found are the problems of a project, one a line.
func found(t *testing.T, files map[string]string) (lines []string, all []problem.Problem) {
	t.Helper()
	ws := workspacetest.Open(t, files)
	ctx := context.Background()
	require.NoError(t, ws.Code.Check(ctx, check.Fast))
	_, err := ws.Problems.All(ctx, ".", true, func(some []problem.Problem) bool {
		all = append(all, some...)
		return true
	})
	require.NoError(t, err)
	problem.Sort(all)
	for _, p := range all {
		lines = append(lines, fmt.Sprintf("%s:%d:%d %s: %s", p.Path, p.Line, p.Col, p.Kind, p.Text))
	}
	return lines, all
}

func TestProblems(t *testing.T) {
	for _, c := range []struct {
		title string
		files map[string]string
		want  []string
	}{
		{"a bracket that is not closed", map[string]string{
			"Hut.java": "public class Hut {\n    void ring() {\n        if (level > 3) {\n            bell();\n    }\n\n    void other() {\n    }\n}\n",
		}, []string{"Hut.java:3:24 syntax: this { is not closed: } is missing"}},
		{"a bracket that nothing opens", map[string]string{
			"hut.js": "function ring() {\n    bell()\n    }\n}\n\nfunction other() {\n    ring()\n}\nexport { other }\n",
		}, []string{"hut.js:3:5 syntax: nothing opens this }"}},
		{"what cannot be read", map[string]string{
			"hut.py": "def ring(level)\n    return level\n", "hut.rs": "fn ring() {\n    let = 3;\n}\n",
			"hut.json": "{\"a\": [1, 2, // two\n], \"b\" 3}\n", "loose.json": "{a: 1}\n", "well.json": "{\"a\": [1,],}\n",
		}, []string{"hut.json:2:8 syntax: invalid character '3' after object key", "hut.py:1:1 syntax: this cannot be read: def ring(level)",
			"hut.rs:2:9 syntax: this cannot be read: ="}},
		{"types, imports and analyses of Go", map[string]string{
			"go.mod":       "module tarnwell.example/rescue\n\ngo 1.24\n",
			"hut/hut.go":   "package hut\n\nimport (\n\t\"fmt\"\n\t\"os\"\n)\n\n// Ring rings.\nfunc Ring(level int) string {\n\tfmt.Printf(\"%d\\n\", \"high\")\n\treturn level\n}\n",
			"bell/b.go":    "package bell\n\nimport \"fmt\"\n\n// Ring rings.\nfunc Ring() { fmt.Printf(\"%d\\n\", \"high\") }\n\nfunc spare() {}\n",
			"lost/lost.go": "package lost\n\nimport \"tarnwell.example/elsewhere\"\n\n// Ring rings.\nfunc Ring() { elsewhere.Ring(other) }\n",
		}, []string{"bell/b.go:6:27 analysis: fmt.Printf format %d has arg \"high\" of wrong type string", "bell/b.go:8:6 unused: nothing uses function spare",
			"hut/hut.go:5:2 types: \"os\" imported and not used", "hut/hut.go:11:9 types: cannot use level (variable of type int) as string value in return statement",
			"lost/lost.go:3:8 import: package tarnwell.example/elsewhere is not on this machine"}},
		{"what follows from a file that cannot be read is not told", map[string]string{
			"go.mod": "module tarnwell.example/rescue\n\ngo 1.24\n",
			"hut.go": "package hut\n\nfunc Ring( {\n}\n", "bell.go": "package hut\n\n// Bell rings.\nfunc Bell() { Ring(3); gone() }\n",
			"use/u.go": "package use\n\nimport hut \"tarnwell.example/rescue\"\n\n// Use rings.\nfunc Use() { hut.Other() }\n",
		}, []string{"hut.go:3:12 syntax: expected ')', found '{'", "hut.go:4:1 syntax: missing ',' in parameter list"}},
		{"what a file may use that cannot be read", map[string]string{
			"a.py": "def _ring():\n    pass\n\n\ndef _bell():\n    pass\n", "b.py": "import a\n\na._ring(\n",
		}, []string{"a.py:5:5 unused: nothing uses function _bell", "b.py:3:8 syntax: this ( is not closed: ) is missing"}},
		{"names and imports of Python", map[string]string{
			"risk/__init__.py": "", "risk/layers.py": "def weak():\n    return True\n",
			"risk/model.py": "import os\nfrom .layers import weak\nfrom .layer import strong\n\n\ndef load(path):\n    # type: (str) -> None\n    return weakk(path) or weak(path) or strong\n",
			"risk/free.py":  "from .layers import *\n\nglobals()['a'] = 1\n\nprint(anything)\n",
			"risk/late.py":  "def start():\n    global board\n    board = 1\n\n\ndef show():\n    return board, FutureWarning\n",
			"risk/tried.py": "try:\n    from . import fast\nexcept ImportError:\n    fast = None\n\ntry:\n    unicode\nexcept NameError:\n    unicode = str\n",
		}, []string{"risk/model.py:1:8 spare: nothing uses os, which is imported here", "risk/model.py:3:6 import: the import of layer leads nowhere",
			"risk/model.py:8:12 name: nothing defines weakk"}},
		{"imports of scripts", map[string]string{
			"board/view.ts": "import { load } from './api'\nimport { gone } from './gone'\nimport logo from './logo.svg'\nimport built from '../dist/built'\nimport styles from './view.css'\n\nexport const a = [load(), gone, logo, built, styles]\n",
			"board/api.ts":  "export function load() {}\nfunction spare() {}\n",
		}, []string{"board/view.ts:2:22 import: the import of ./gone leads nowhere"}},
		{"imports of Java", map[string]string{
			"Gateway.java": "package radio;\n\nimport java.util.List;\nimport java.util.Map;\nimport java.util.Set;\n\n/** See {@link Map}. */\npublic class Gateway {\n    List<String> huts;\n}\n",
		}, []string{"Gateway.java:5:18 spare: nothing uses Set, which is imported here"}},
		{"imports that documentation and annotations need", map[string]string{
			"Bell.java": "package radio;\n\nimport java.util.Map;\nimport java.util.Set;\nimport radio.Kept;\nimport static radio.Bell.Sound.HIGH;\n\n/** Rings like a {@link\n * Map} or {@link Bell#ring(Set, int)}. */\npublic class Bell {\n    <T> @Kept Class<T> of(T t) { return null; }\n    enum Sound { HIGH }\n    Object o = HIGH;\n}\n",
		}, nil},
		{"slips, and what tests and attributes name", map[string]string{
			"src/main.rs": "fn measure(depth: u32) -> u32 {\n    depht + 1\n}\n\n#[test]\nfn measures() {\n    measure(1);\n}\n\nfn main() {\n    measure(2);\n}\n\nfn spare() {}\n\nfn _kept() {}\n",
			"hut.rb":      "def ring(level)\n  puts leve\nend\n",
		}, []string{"hut.rb:2:8 name: nothing defines leve; level is but a letter away", "src/main.rs:2:5 name: nothing defines depht; depth is but a letter away",
			"src/main.rs:14:4 unused: nothing uses function spare"}},
		{"what others wrote is theirs", map[string]string{
			"vendor/hut.py": "import os\n", "gen.py": "# Code generated by a tool. DO NOT EDIT.\nimport os\n", "a/testdata/x.js": "function (\n",
		}, nil},
	} {
		t.Run(c.title, func(t *testing.T) {
			lines, _ := found(t, c.files)
			assert.Equal(t, c.want, lines)
		})
	}
}

// Who is asked what is wrong with one file is told by the same rules, and what the text says that is being written.
func TestProblemsOfAFile(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"hut.py": "import os\n\nprint(os, bell)\n", "bell.py": "import os\n"})
	all, err := ws.Problems.In(context.Background(), "hut.py")
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "nothing defines bell", all[0].Text)
	assert.Equal(t, [4]int{3, 11, 3, 15}, [4]int{all[0].Line, all[0].Col, all[0].EndLine, all[0].EndCol})
	ws.Code.Write(context.Background(), "hut.py", text.NewDocument([]byte("import os\nbell = 1\nprint(os, bell)\n")))
	all, err = ws.Problems.In(context.Background(), "hut.py")
	require.NoError(t, err)
	assert.Empty(t, all)
}

func TestEnoughProblems(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a.py": "import os\n", "b.py": "import os\n", "c.py": "import os\n"})
	n := 0
	_, err := ws.Problems.All(context.Background(), ".", true, func([]problem.Problem) bool { n++; return false })
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = ws.Problems.All(ctx, ".", true, func([]problem.Problem) bool { return true })
	assert.ErrorIs(t, err, context.Canceled)
}

// What is written as a report is what the standard's own reader reads; columns count code points.
func TestReport(t *testing.T) {
	_, all := found(t, map[string]string{"Bergwächter/ä b.py": "x = \"ä\" + bell\n"})
	require.Len(t, all, 1)
	var out bytes.Buffer
	require.NoError(t, problem.WriteSARIF(&out, all))
	report, err := sarif.FromBytes(out.Bytes())
	require.NoError(t, err)
	require.NoError(t, report.Validate())
	result := report.Runs[0].Results[0]
	at := result.Locations[0].PhysicalLocation
	assert.Equal(t, "Bergw%C3%A4chter/%C3%A4%20b.py", *at.ArtifactLocation.URI)
	assert.Equal(t, []int{1, 11, 1, 15}, []int{*at.Region.StartLine, *at.Region.StartColumn, *at.Region.EndLine, *at.Region.EndColumn})
	assert.Equal(t, "error", result.Level)
	assert.Equal(t, "nothing defines bell", *result.Message.Text)
	assert.True(t, slices.ContainsFunc(report.Runs[0].Tool.Driver.Rules, func(r *sarif.ReportingDescriptor) bool { return *r.ID == *result.RuleID }))
	assert.False(t, strings.Contains(out.String(), "\x1b"))
}
