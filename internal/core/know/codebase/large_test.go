package codebase

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/index"
)

// A file that is read in portions has the same names as one that is read as a whole.
func TestPortionsHaveTheNamesOfTheWhole(t *testing.T) {
	samples := map[string]func(i int) string{
		"a.go": func(i int) string {
			return fmt.Sprintf("// Hut%d is a hut {\ntype Hut%d struct {\n\tBell string // \"{\"\n}\n\nfunc (h *Hut%d) Ring%d() {\n\tif true {\n\t\tprintln(\"(\")\n\t}\n}\n\n", i, i, i, i)
		},
		"a.py": func(i int) string {
			return fmt.Sprintf("class Hut%d:\n    \"\"\"A hut (\n    of the valley.\n\"\"\"\n    def ring%d(self):\n        return [1,\n2]\n\n", i, i)
		},
		"a.c": func(i int) string {
			return fmt.Sprintf("static const int slopes%d[] = {\n1, 2,\n3 };\nint ring%d(int a)\n{\n\treturn '{' + a;\n}\n", i, i)
		},
		"a.js": func(i int) string {
			return fmt.Sprintf("export class Hut%d {\n  ring%d() { return `{${1}`; }\n}\n", i, i)
		},
	}
	for name, one := range samples {
		var b strings.Builder
		if name == "a.go" {
			b.WriteString("package hut\n\nimport \"fmt\"\n\n")
		}
		for i := 0; b.Len() < 2*portionSize; i++ {
			b.WriteString(one(i))
		}
		text := []byte(b.String())
		w := New(t.TempDir())
		l := w.languages.Of(name)
		found, err := l.ReadAt(t.Context(), w.around(l), name, text)
		require.NoError(t, err)
		want := index.Summarise(text, found)
		got, err := w.summariseLarge(t.Context(), name, text)
		require.NoError(t, err)
		assert.Equal(t, want.Lines, got.Lines, name)
		assert.Equal(t, want.Defs, got.Defs, name)
		wanted, err := want.Symbols(name)
		require.NoError(t, err)
		symbols, err := got.Symbols(name)
		require.NoError(t, err)
		require.Equal(t, wanted, symbols, name)
		assert.True(t, got.Mentions("Hut7") || name == "a.c")
		pkg, imports := want.Imports()
		gotPkg, gotImports := got.Imports()
		assert.Equal(t, pkg, gotPkg)
		assert.Equal(t, imports, gotImports)
	}
}

func TestWhatHasNoPlaceToCutAt(t *testing.T) {
	for name, text := range map[string]string{
		"one line":     strings.Repeat("x=1;", mostPortion),
		"never closed": strings.Repeat("f(\n", mostPortion),
		"indented":     strings.Repeat("  x\n", mostPortion),
	} {
		w := New(t.TempDir())
		last := 0
		for from, end := range portions([]byte(text), w.languages.Of("a.js").Signs) {
			assert.Equal(t, last, from, name)
			assert.Greater(t, end, from, name)
			assert.LessOrEqual(t, end-from, mostPortion, name)
			last = end
		}
		assert.Equal(t, len(text), last, name)
	}
}

// A file that is too large for a grammar is found by its names.
func TestALargeFileIsFoundByItsNames(t *testing.T) {
	root := t.TempDir()
	text := strings.Repeat("#define RING 1\n", largestParsed/15+1) + "#define last_of_all 2\n"
	require.NoError(t, os.WriteFile(filepath.Join(root, "huts.h"), []byte(text), 0o600))
	w := New(root)
	require.NoError(t, w.Read(t.Context()))
	assert.Empty(t, w.Progress().LeftOut)
	named := w.Named("last_of_all")
	require.Len(t, named, 1)
	assert.Equal(t, strings.Index(text, "last_of_all"), named[0].Offset)
	assert.Equal(t, strings.Count(text, "\n"), named[0].Line)
}
