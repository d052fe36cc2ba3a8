package workspace

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func opened(t *testing.T, files map[string]string) *Workspace {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range files {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
	w := New(root)
	require.NoError(t, w.Read(context.Background()))
	return w
}

func TestReadingAProject(t *testing.T) {
	w := opened(t, map[string]string{
		"go.mod": "module example.test/x // why\n", "README.txt": "hello", "a/a.go": "package a\n\n// F does.\nfunc F() {}\n",
		"b.py": "class Hut:\n    def ring(self):\n        pass\n", "broken.go": "package broken\nfunc (((", "empty.ts": "",
	})
	pr := w.Progress()
	assert.True(t, pr.Done && pr.Listed)
	assert.Equal(t, 6, pr.Files)
	assert.Equal(t, 4, pr.Readable)
	assert.Equal(t, 4, pr.Read)
	assert.Equal(t, 3, pr.Symbols)
	assert.Empty(t, pr.LeftOut)
	assert.Equal(t, "README.txt", w.FrontPage())
	assert.True(t, w.Has("a") && w.Has("a/a.go"))
	assert.False(t, w.Has("c"))
	assert.Equal(t, "a/a.go", w.Files(context.Background(), "aago", 5)[0].Path)
	assert.Equal(t, "Hut.ring", w.Symbols(context.Background(), "hut::ring", 5)[0].Qualified())
}

func TestFilesThatAreLeftAsText(t *testing.T) {
	w := opened(t, map[string]string{
		"large.py": "x = 1\n" + strings.Repeat("# long\n", largestParsed/7+1),
		"deep.py":  strings.Repeat("(", 20000) + strings.Repeat(")", 20000),
		"nul.py":   "x\x00",
	})
	reasons := map[string]string{}
	for _, l := range w.Progress().LeftOut {
		reasons[l.Path] = l.Reason.Error()
	}
	assert.Len(t, reasons, 3)
	assert.Contains(t, reasons["large.py"], "too large")
	assert.Contains(t, reasons["deep.py"], "too deeply")
	assert.Contains(t, reasons["nul.py"], "binary")
	f, err := w.Load(context.Background(), "deep.py")
	require.NoError(t, err)
	assert.Nil(t, f.Facts)
}

func TestDescribe(t *testing.T) {
	w := opened(t, map[string]string{
		"a.go": "package a\n\n// Team goes out\n// when called.\ntype Team struct {\n\tName string // what it is called\n}\n\nfunc f(t Team) { _ = t.Name }\n",
		"b.py": "def ring(\n    bell,\n    times=1,\n):\n    \"\"\"Ring it.\n\n    Often.\n    \"\"\"\nring(1)\n",
	})
	load := func(p string) *File {
		f, err := w.Load(context.Background(), p)
		require.NoError(t, err)
		return f
	}
	f := load("a.go")
	d := w.Describe(context.Background(), "a.go", strings.Index(string(f.Text.Bytes()), "Team)"))
	assert.Equal(t, "type Team struct", d.Signature)
	assert.Equal(t, "Team goes out\nwhen called.", d.Doc)
	d = w.Describe(context.Background(), "a.go", strings.Index(string(f.Text.Bytes()), ".Name")+1)
	assert.Equal(t, "Name string", d.Signature)
	assert.Equal(t, "what it is called", d.Doc)
	assert.Equal(t, 6, d.Best.Line)
	f = load("b.py")
	d = w.Describe(context.Background(), "b.py", strings.LastIndex(string(f.Text.Bytes()), "ring"))
	assert.Equal(t, "def ring(\n    bell,\n    times=1,\n)", d.Signature)
	assert.Equal(t, "Ring it.\n\nOften.", d.Doc)
	assert.Equal(t, "Team", Crumbs(load("a.go"), 60)[0].Name)
	assert.Empty(t, w.Describe(context.Background(), "nothing.go", 0).Name)
}

func TestProse(t *testing.T) {
	for in, want := range map[string]string{
		"// one\n// two":                     "one\ntwo",
		"/** one\n *  two\n */":              "one\n two",
		"# hash":                             "hash",
		"'''quoted'''":                       "quoted",
		"r\"\"\"raw\n    indented\n  \"\"\"": "raw\nindented",
		"":                                   "",
	} {
		assert.Equal(t, want, Prose(in), "%q", in)
	}
}

func TestAChangedFileIsReadAnew(t *testing.T) {
	w := opened(t, map[string]string{"a.py": "one = 1\n"})
	first, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	again, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	assert.Same(t, first, again)
	require.NoError(t, os.WriteFile(w.Absolute("a.py"), []byte("another = 22\n"), 0o644))
	changed, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	assert.Equal(t, "another = 22", string(changed.Text.Line(1)))
}

func TestTheCacheStaysWithinItsBounds(t *testing.T) {
	files := map[string]string{}
	for i := range mostCached + 20 {
		files[fmt.Sprint(i, ".txt")] = "text"
	}
	w := opened(t, files)
	for p := range files {
		_, err := w.Load(context.Background(), p)
		require.NoError(t, err)
	}
	assert.Equal(t, mostCached, w.loaded.files.Len())
	assert.Equal(t, 4*mostCached, w.loaded.bytes)
}

func TestWhatWasChosenComesFirstTheNextTime(t *testing.T) {
	files := map[string]string{"a/deep/zroster.go": "package a\n\nfunc RosterZ() {}\n"}
	for i := range 30 {
		files[fmt.Sprintf("b/roster%d.go", i)] = fmt.Sprintf("package b\n\nfunc Roster%d() {}\n", i)
	}
	w := opened(t, files)
	w.KnowChoices(filepath.Join(t.TempDir(), "chosen.json"))
	ctx := context.Background()
	assert.NotEqual(t, "a/deep/zroster.go", w.Files(ctx, "rost", 5)[0].Path)
	require.NoError(t, w.Choose("b/roster17.go", "", "rost"))
	require.NoError(t, w.Choose("b/roster17.go", "Roster17", "rost"))
	assert.Equal(t, "b/roster17.go", w.Files(ctx, "rost", 5)[0].Path, "although it was not among the five before")
	assert.Equal(t, "Roster17", w.Symbols(ctx, "rost", 5)[0].Name)
	assert.Len(t, w.Files(ctx, "rost", 5), 5)
	require.NoError(t, w.Choose("a/deep/zroster.go", "", "other"))
	assert.Equal(t, "b/roster3.go", w.Files(ctx, "roster3", 5)[0].Path, "a clearly better match stays above")
}
