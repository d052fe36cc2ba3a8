package imports_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/imports"
	"rooktrail/internal/core/workspace/workspacetest"
)

// Each language's imports lead to the files or folders that they mean; what lies outside leads nowhere.
func TestImports(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{
		"go.mod":                             "module tarn\n\ngo 1.24\n",
		"main.go":                            "package main\n\nimport (\n\t\"fmt\"\n\t\"tarn/huts\"\n)\n\nfunc main() { fmt.Println(huts.Open) }\n",
		"huts/hut.go":                        "package huts\n\nconst Open = 1\n",
		"risk/model.py":                      "import json\nfrom . import snow\nfrom risk.wind import gust\n",
		"risk/snow.py":                       "deep = 1\n",
		"risk/wind.py":                       "def gust(): pass\n",
		"risk/__init__.py":                   "",
		"gate/src/org/tarn/Gate.java":        "package org.tarn;\n\nimport java.util.List;\nimport org.tarn.radio.Frame;\nimport static org.tarn.radio.Codes.OUT;\nimport org.tarn.low.*;\n\nclass Gate {}\n",
		"gate/src/org/tarn/radio/Frame.java": "package org.tarn.radio;\n\npublic class Frame {}\n",
		"gate/src/org/tarn/radio/Codes.java": "package org.tarn.radio;\n\npublic class Codes { public static final int OUT = 1; }\n",
		"gate/src/org/tarn/low/Bit.java":     "package org.tarn.low;\n\npublic class Bit {}\n",
		"board/a.ts":                         "import { b } from './b';\nimport fs from 'fs';\nimport './side';\n",
		"board/b.ts":                         "export const b = 1;\n",
		"board/side.ts":                      "console.log(1);\n",
		"probe/probe.c":                      "#include <stdio.h>\n#include \"frame.h\"\n",
		"probe/frame.h":                      "int frame(void);\n",
	})
	all, err := imports.New(ws.Code).All(context.Background())
	require.NoError(t, err)
	to := func(file string) (found []string) {
		for _, i := range all[file] {
			if i.To != "" {
				found = append(found, i.To)
			}
		}
		return found
	}
	assert.Equal(t, []string{"huts"}, to("main.go"))
	assert.Equal(t, []string{"risk/snow.py", "risk/wind.py"}, to("risk/model.py"))
	assert.ElementsMatch(t, []string{"gate/src/org/tarn/radio/Frame.java", "gate/src/org/tarn/radio/Codes.java", "gate/src/org/tarn/low"}, to("gate/src/org/tarn/Gate.java"))
	assert.Equal(t, []string{"board/b.ts", "board/side.ts"}, to("board/a.ts"))
	assert.Equal(t, []string{"probe/frame.h"}, to("probe/probe.c"))
	assert.Equal(t, []string{"main.go"}, imports.Importers(all, "huts"))
	assert.Len(t, all["main.go"], 2, "what lies outside is told, too")
	again, err := imports.New(ws.Code).All(context.Background())
	require.NoError(t, err)
	assert.Equal(t, all, again)
	stopped, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = imports.New(ws.Code).All(stopped)
	assert.ErrorIs(t, err, context.Canceled)
}
