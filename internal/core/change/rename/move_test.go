package rename_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/workspace/workspacetest"
)

// moves are what changes in the lines of all files, and where files go.
func moves(t *testing.T, files map[string]string, from, to string) (*proposal.Proposal, []string) {
	ws := workspacetest.Open(t, files)
	p, err := ws.Changes.Move(context.Background(), from, to)
	require.NoError(t, err)
	return p, changed(p)
}

// changed are the lines that come or are otherwise, each behind its file.
func changed(p *proposal.Proposal) (all []string) {
	for _, f := range p.Files {
		if f.Path != f.To {
			all = append(all, f.Path+" → "+f.To)
		}
		d := hunk.Compare(f.Before, f.After())
		for _, h := range d.Hunks {
			for n := h.Now.First; n < h.Now.End(); n++ {
				if line := strings.TrimSpace(string(d.Now.Line(n))); line != "" {
					all = append(all, f.Name()+": "+line)
				}
			}
		}
	}
	return all
}

// Moving a file or folder changes what leads to it, and what leads from it elsewhere.
func TestMoving(t *testing.T) {
	for _, c := range []struct {
		title, from, to string
		files           map[string]string
		want            []string
	}{
		{"a package of Go", "snow", "weather/depth", map[string]string{
			"go.mod":         "module tarnwell.example/rescue\n",
			"snow/snow.go":   "// Package snow is deep.\npackage snow\n\nfunc Deep() int { return 1 }\n",
			"snow/s_test.go": "package snow_test\n\nimport \"tarnwell.example/rescue/snow\"\n\nvar _ = snow.Deep()\n",
			"main.go":        "package main\n\nimport (\n\ts \"tarnwell.example/rescue/snow\"\n\t\"tarnwell.example/rescue/snow/in\"\n)\n\nvar _ = s.Deep() + in.A\n",
			"use.go":         "package main\n\nimport \"tarnwell.example/rescue/snow\"\n\nfunc f() { snow := snow.Deep(); _ = snow }\n",
			"snow/in/in.go":  "package in\n\nvar A = 1\n",
			"ci.yaml":        "run: go test ./snow/in\n",
			"README.md":      "See [the snow](snow/snow.go), and snow/in.\n",
		}, []string{
			`README.md: See [the snow](weather/depth/snow.go), and snow/in.`,
			`main.go: s "tarnwell.example/rescue/weather/depth"`,
			`main.go: "tarnwell.example/rescue/weather/depth/in"`,
			`snow/in/in.go → weather/depth/in/in.go`,
			`snow/s_test.go → weather/depth/s_test.go`,
			`snow/s_test.go: package depth_test`,
			`snow/s_test.go: import "tarnwell.example/rescue/weather/depth"`,
			`snow/s_test.go: var _ = depth.Deep()`,
			`snow/snow.go → weather/depth/snow.go`,
			`snow/snow.go: package depth`,
			`use.go: import "tarnwell.example/rescue/weather/depth"`,
			`use.go: func f() { snow := depth.Deep(); _ = snow }`,
		}},
		{"a module of Python", "risk/layers.py", "risk/deep/strata.py", map[string]string{
			"risk/__init__.py":      "",
			"risk/deep/__init__.py": "",
			"risk/layers.py":        "from .model import load\nfrom . import model\n\n\nclass Layer:\n    pass\n",
			"risk/model.py":         "from risk.layers import Layer\nimport risk.layers\n\n\ndef load():\n    return risk.layers.Layer(), Layer\n",
			"risk/deep/in.py":       "from ..layers import Layer\n",
			"setup.toml":            "entry = \"risk/layers.py\"\n",
		}, []string{
			`risk/deep/in.py: from .strata import Layer`,
			`risk/layers.py → risk/deep/strata.py`,
			`risk/layers.py: from ..model import load`,
			`risk/layers.py: from .. import model`,
			`risk/model.py: from risk.deep.strata import Layer`,
			`risk/model.py: import risk.deep.strata`,
			`risk/model.py: return risk.deep.strata.Layer(), Layer`,
			`setup.toml: entry = "risk/deep/strata.py"`,
		}},
		{"a module of TypeScript", "board/api.ts", "board/net/client.ts", map[string]string{
			"board/api.ts":    "import { z } from './zone'\nimport './style.css'\nexport const a = z\n",
			"board/style.css": "a {}\n",
			"board/zone.ts":   "export const z = 1\n",
			"board/view.ts":   "import { a } from './api'\nexport { a as b } from \"./api.js\"\nconst c = require('./api')\n",
			"board/in/in.ts":  "import { a } from '../api'\n",
			"board/p.html":    "<script src=\"api.ts\"></script>\n",
		}, []string{
			`board/api.ts → board/net/client.ts`,
			`board/api.ts: import { z } from '../zone'`,
			`board/api.ts: import '../style.css'`,
			`board/in/in.ts: import { a } from '../net/client'`,
			`board/p.html: <script src="net/client.ts"></script>`,
			`board/view.ts: import { a } from './net/client'`,
			`board/view.ts: export { a as b } from "./net/client.js"`,
			`board/view.ts: const c = require('./net/client')`,
		}},
		{"a class of Java", "src/tarnwell/radio/Gate.java", "src/tarnwell/net/Gate.java", map[string]string{
			"src/tarnwell/radio/Gate.java":  "package tarnwell.radio;\n\npublic class Gate {\n    Frame frame;\n}\n",
			"src/tarnwell/radio/Frame.java": "package tarnwell.radio;\n\npublic class Frame {\n    Gate gate;\n}\n",
			"src/tarnwell/app/Main.java":    "package tarnwell.app;\n\nimport tarnwell.radio.Frame;\nimport tarnwell.radio.Gate;\n\nclass Main {\n    Gate gate;\n}\n",
		}, []string{
			`src/tarnwell/app/Main.java: import tarnwell.net.Gate;`,
			`src/tarnwell/radio/Frame.java: import tarnwell.net.Gate;`,
			`src/tarnwell/radio/Gate.java → src/tarnwell/net/Gate.java`,
			`src/tarnwell/radio/Gate.java: package tarnwell.net;`,
			`src/tarnwell/radio/Gate.java: import tarnwell.radio.Frame;`,
		}},
		{"a header of C", "sensor/ring.h", "sensor/core/ring_buffer.h", map[string]string{
			"sensor/ring.h":      "int ring(void);\n",
			"sensor/main.c":      "#include \"ring.h\"\n#include <stdio.h>\n\nint main(void) { return ring(); }\n",
			"test/t.c":           "#include \"sensor/ring.h\"\n",
			"sensor/core/core.c": "#include \"../ring.h\"\n",
			"Makefile":           "DEPS = sensor/ring.h\n",
		}, []string{
			`Makefile: DEPS = sensor/core/ring_buffer.h`,
			`sensor/core/core.c: #include "ring_buffer.h"`,
			`sensor/main.c: #include "core/ring_buffer.h"`,
			`sensor/ring.h → sensor/core/ring_buffer.h`,
			`test/t.c: #include "sensor/core/ring_buffer.h"`,
		}},
		{"a page and what is beside it", "docs/huts", "docs/places", map[string]string{
			"docs/huts/index.md": "[up](../map.md) [hut](hut.md#snow) ![p](p.png)\n",
			"docs/huts/hut.md":   "x\n",
			"docs/map.md":        "[huts](huts/index.md), [one](./huts/hut.md), <img src='huts/p.png'>, [far](https://example.org/huts/hut.md)\n",
		}, []string{
			`docs/huts/hut.md → docs/places/hut.md`,
			`docs/huts/index.md → docs/places/index.md`,
			`docs/map.md: [huts](places/index.md), [one](./places/hut.md), <img src='places/p.png'>, [far](https://example.org/huts/hut.md)`,
		}},
	} {
		t.Run(c.title, func(t *testing.T) {
			_, got := moves(t, c.files, c.from, c.to)
			assert.Equal(t, c.want, got)
		})
	}
}

// A file that is called after a type by habit goes along if one says so.
func TestAFileThatFollowsByHabit(t *testing.T) {
	files := map[string]string{
		"risk/__init__.py":   "",
		"risk/snow_layer.py": "class SnowLayer:\n    pass\n",
		"risk/model.py":      "from risk.snow_layer import SnowLayer\n\nm = SnowLayer()\n",
	}
	ws := workspacetest.Open(t, files)
	subject, err := ws.Changes.Subject(context.Background(), "risk/model.py", len("from risk.snow_layer import S"))
	require.NoError(t, err)
	assert.Equal(t, "risk/snow_layer.py", subject.File)
	for file, want := range map[bool][]string{
		true:  {"risk/model.py: from risk.ice_sheet import IceSheet", "risk/model.py: m = IceSheet()", "risk/snow_layer.py → risk/ice_sheet.py", "risk/snow_layer.py: class IceSheet:"},
		false: {"risk/model.py: from risk.snow_layer import IceSheet", "risk/model.py: m = IceSheet()", "risk/snow_layer.py: class IceSheet:"},
	} {
		p, err := ws.Changes.Propose(context.Background(), rename.Asked{Path: "risk/snow_layer.py", Offset: 6, New: "IceSheet", File: file})
		require.NoError(t, err)
		assert.Equal(t, want, changed(p))
	}
}
