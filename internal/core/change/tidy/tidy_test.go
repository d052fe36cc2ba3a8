package tidy_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/workspace/workspacetest"
)

// What a file imports for nothing is taken out, what is missing is added, and all is in order.
func TestImports(t *testing.T) {
	for _, c := range []struct {
		title, file string
		files       map[string]string
		want        string
	}{
		{"packages of the project and of the library", "dispatch/board.go", map[string]string{
			"go.mod":               "module tarnwell.example/rescue\n\ngo 1.24\n",
			"snow/snow.go":         "package snow\n\n// Depth is how deep it is.\nfunc Depth() int { return 1 }\n",
			"dispatch/board.go":    "package dispatch\n\nimport (\n\t\"strings\"\n\t\"os\"\n\t_ \"embed\"\n)\n\nfunc show() string { return fmt.Sprint(snow.Depth(), strings.ToUpper(\"a\")) }\n",
			"dispatch/callout.go":  "package dispatch\n\nimport \"fmt\"\n\nvar _ = fmt.Sprint\n",
			"internal/far/far.go":  "package far\n",
			"dispatch/roster.go":   "package dispatch\n",
			"dispatch/other/o.go":  "package other\n\nimport \"fmt\"\n\nvar _ = fmt.Sprint\n",
			"dispatch/unread.json": "{}",
		}, "package dispatch\n\nimport (\n\t_ \"embed\"\n\t\"fmt\"\n\t\"strings\"\n\t\"tarnwell.example/rescue/snow\"\n)\n\nfunc show() string { return fmt.Sprint(snow.Depth(), strings.ToUpper(\"a\")) }\n"},
		{"the only one", "a.go", map[string]string{"go.mod": "module tarnwell.example/rescue\n", "a.go": "package a\n\nimport \"os\"\n\nvar B = 1\n"}, "package a\n\nvar B = 1\n"},
		{"one more than the only one", "a.go", map[string]string{"go.mod": "module tarnwell.example/rescue\n", "a.go": "// Package a is first.\npackage a\n\nimport \"os\"\n\nvar B = os.Args\n\nvar C = snow.Depth\n", "snow/s.go": "package snow\n\nvar Depth = 1\n"},
			"// Package a is first.\npackage a\n\nimport (\n\t\"os\"\n\n\t\"tarnwell.example/rescue/snow\"\n)\n\nvar B = os.Args\n\nvar C = snow.Depth\n"},
		{"modules and names", "risk/model.py", map[string]string{
			"risk/__init__.py": "",
			"risk/layers.py":   "class Layer:\n    pass\n\n\ndef weak(layer):\n    return True\n",
			"risk/model.py":    "\"\"\"The risk.\"\"\"\nimport sys\nimport json  # noqa\nfrom risk.layers import weak, Gone\n\n\ndef load(a: \"Gone\"):\n    return weak(Layer()), math.pi\n",
			"risk/other.py":    "import math\n\nprint(math.e)\n",
		}, "\"\"\"The risk.\"\"\"\nimport json  # noqa\nimport math\nfrom risk.layers import weak, Gone, Layer\n\n\ndef load(a: \"Gone\"):\n    return weak(Layer()), math.pi\n"},
		{"the first of a module", "risk/model.py", map[string]string{
			"risk/layers.py": "class Layer:\n    pass\n",
			"risk/model.py":  "# What it is.\n\ndef load():\n    return Layer()\n",
		}, "# What it is.\n\nfrom layers import Layer\n\ndef load():\n    return Layer()\n"},
		{"several on one line stay as they are", "load.py", map[string]string{
			"load.py": "import os; import sys\nimport json; print(1)\nimport math\n\nprint(sys)\n",
		}, "import os; import sys\nimport json; print(1)\nprint(sys)\n"},
		{"the same with names", "load.ts", map[string]string{
			"load.ts": "import { a } from './a'; import { b } from './b'\nimport { c } from './c'\n\nexport const d = b\n",
			"a.ts":    "export const a = 1\n", "b.ts": "export const b = 1\n", "c.ts": "export const c = 1\n",
		}, "import { a } from './a'; import { b } from './b'\nexport const d = b\n"},
		{"names of modules beside", "board/view.ts", map[string]string{
			"board/api.ts":      "export interface Hut { name: string }\nexport function load(): Hut { return { name: '' } }\nexport default class Board {}\n",
			"board/view.ts":     "import './style.css'\nimport { z } from './zone'\nimport { gone, load } from './api'\n\nexport const hut: Hut = load()\nexport const b = new Board(z)\n",
			"board/zone.ts":     "export const z = 1\n",
			"board/deep/in.ts":  "import Board from '../api'\n\nexport const b = new Board()\n",
			"board/deep/in2.ts": "import { z } from '../zone'\n\nexport const c = z\n",
		}, "import './style.css'\nimport { Hut, load } from './api'\nimport Board from './api'\nimport { z } from './zone'\n\nexport const hut: Hut = load()\nexport const b = new Board(z)\n"},
		{"types of other packages", "radio/Gateway.java", map[string]string{
			"radio/Gateway.java": "package tarnwell.radio;\n\nimport java.util.Set;\nimport java.util.List;\nimport java.util.Map;\n\n/** Reads, see {@link Set}. */\nclass Gateway {\n    List<Hut> huts;\n}\n",
			"huts/Hut.java":      "package tarnwell.huts;\n\npublic class Hut {}\n",
		}, "package tarnwell.radio;\n\nimport java.util.List;\nimport java.util.Set;\nimport tarnwell.huts.Hut;\n\n/** Reads, see {@link Set}. */\nclass Gateway {\n    List<Hut> huts;\n}\n"},
	} {
		t.Run(c.title, func(t *testing.T) {
			ws := workspacetest.Open(t, c.files)
			i, err := ws.Changes.Imports(context.Background(), c.file)
			require.NoError(t, err)
			p, err := ws.Changes.InOrder(context.Background(), i, nil)
			require.NoError(t, err)
			assert.Equal(t, c.want, string(p.File(c.file).After().Bytes()))
		})
	}
}

// Of several that would do, one is chosen.
func TestChoosingAnImport(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a/one.py": "class Hut:\n    pass\n", "a/two.py": "class Hut:\n    pass\n", "a/use.py": "print(Hut())\n"})
	i, err := ws.Changes.Imports(context.Background(), "a/use.py")
	require.NoError(t, err)
	require.Len(t, i.Missing, 1)
	assert.Equal(t, "Hut", i.Missing[0].Name)
	assert.Len(t, i.Missing[0].Choices, 2)
	_, err = ws.Changes.InOrder(context.Background(), i, nil)
	require.ErrorIs(t, err, tidy.ErrInForm)
	p, err := ws.Changes.InOrder(context.Background(), i, map[string]facts.Imported{"Hut": i.Missing[0].Choices[1]})
	require.NoError(t, err)
	assert.Equal(t, "from two import Hut\n\nprint(Hut())\n", string(p.Files[0].After().Bytes()))
}

// Lines are put into form, and those around them left as they are.
func TestForm(t *testing.T) {
	body := "package a\n\nvar  B = 1\n\nvar C  = 2\n\nfunc D( ) { }\n"
	ws := workspacetest.Open(t, map[string]string{"a.go": body, "b.txt": "x\n", "c.go": "package a\n", "d.go": "package ("})
	form := func(file string, which tidy.Lines) (string, error) {
		p, err := ws.Changes.Form(context.Background(), file, which)
		if err != nil {
			return "", err
		}
		return string(p.Files[0].After().Bytes()), nil
	}
	all, err := form("a.go", tidy.Lines{})
	require.NoError(t, err)
	assert.Equal(t, "package a\n\nvar B = 1\n\nvar C = 2\n\nfunc D() {}\n", all)
	some, err := form("a.go", tidy.Lines{First: 5, Last: 6})
	require.NoError(t, err)
	assert.Equal(t, "package a\n\nvar  B = 1\n\nvar C = 2\n\nfunc D( ) { }\n", some)
	_, err = form("c.go", tidy.Lines{})
	require.ErrorIs(t, err, tidy.ErrInForm)
	_, err = form("b.txt", tidy.Lines{})
	require.ErrorContains(t, err, "there is no formatter for b.txt")
	_, err = form("d.go", tidy.Lines{})
	require.ErrorContains(t, err, "not well formed")
}
