package c

import (
	"context"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/c/preprocess"
	"rooktrail/internal/core/file/lang/langtest"
)

// known is a project of which it is known what each file includes and defines.
type known struct {
	*langtest.Project
	files map[string]string
}

// Includes implements lang.Indexed.
func (k known) Includes(p string) (all []facts.Imported, ok bool) {
	for _, at := range preprocess.Includes([]byte(k.files[p])) {
		all = append(all, facts.Imported{Path: at, Name: "*"})
	}
	return all, true
}

// Defining implements lang.Indexed.
func (k known) Defining(name string, _ facts.Kind) (files []string, ok bool) {
	for p, text := range k.files {
		if strings.Contains(text, "#define "+name) {
			files = append(files, p)
		}
	}
	slices.Sort(files)
	return files, true
}

// A file says the same whether the macros of all headers were judged before it, or only those that it asks for.
func TestMacrosThatAreJudgedLater(t *testing.T) {
	files := map[string]string{
		"config.h": "#define LOUD 1\n#define LONG 0 " + strings.Repeat("+ 1 ", 50) + "\n#define QUIET\n#define SAID(x) x\n",
		"words.h": "#include \"config.h\"\n#define API __attribute__((used)) QUIET\n#define OPEN extern \"C\" {\n#define CLOSE }\n#if LOUD\n" +
			"#define BELL(name) void ring_##name(void) { SAID(name) }\n#endif\n#if LONG\n#define AWAY int away;\n#endif\n",
		"hut.h":   "#include \"words.h\"\n#define PUBLIC API static\n#define MAKE(name) struct name { int QUIET level; };\n#ifdef LONG\n#define KNOWN int known;\n#endif\n",
		"hut.c":   "#include \"hut.h\"\nPUBLIC int level(void) { return LONG; }\nMAKE(hut)\nBELL(night)\nKNOWN\nAWAY\n#if LOUD && LONG\nint loud;\n#endif\n",
		"hut.cpp": "#include \"words.h\"\nOPEN\nint plain(int n);\nCLOSE\nAPI int level() { return QUIET 3; }\n",
	}
	p := langtest.New(t, files)
	for _, path := range slices.Sorted(maps.Keys(files)) {
		l := C
		if strings.HasSuffix(path, ".cpp") {
			l = CPP
		}
		before, err := around(l, p).Facts(context.Background(), l, path, p.Text(path))
		require.NoError(t, err)
		s := around(l, known{p, files}).(*surroundings)
		later, err := s.Facts(context.Background(), l, path, p.Text(path))
		require.NoError(t, err)
		assert.True(t, assert.ObjectsAreEqual(before, later), path)
		if path == "hut.c" {
			names := map[string]bool{}
			for _, d := range later.Defs {
				names[d.Name] = true
			}
			assert.Equal(t, map[string]bool{"level": true, "hut": true, "ring_night": true, "loud": true}, names)
			assert.True(t, s.headers["hut.h"].later)
			assert.Equal(t, around(l, p).Digest(path, p.Text(path)), s.Digest(path, p.Text(path)), "what stands for all of them is the same")
			assert.Equal(t, slices.Sorted(slices.Values(around(l, p).Says("hut.h"))), slices.Sorted(slices.Values(s.Says("hut.h"))))
		}
	}
}
