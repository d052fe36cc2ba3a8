package codebase

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reopened reads the project of a workspace anew, with an index in the folder.
func reopened(t *testing.T, root, folder string) *Base {
	w := New(root)
	w.KeepIndex(context.Background(), folder)
	t.Cleanup(func() { assert.NoError(t, w.Close()) })
	require.NoError(t, w.Read(context.Background()))
	return w
}

func TestNothingIsParsedTwice(t *testing.T) {
	folder := t.TempDir()
	root := opened(t, map[string]string{"a.py": "def one():\n    pass\n", "b.go": "package b\n\nfunc Two() {}\n", "c.txt": "text"}).Root()
	assert.Equal(t, 2, reopened(t, root, folder).Progress().Parsed)
	w := reopened(t, root, folder)
	assert.Equal(t, 0, w.Progress().Parsed)
	assert.Equal(t, 2, w.Progress().Symbols)
	assert.Equal(t, 3, w.Named("Two")[0].Line)

	require.NoError(t, os.Rename(filepath.Join(root, "a.py"), filepath.Join(root, "moved.py")))
	require.NoError(t, os.WriteFile(filepath.Join(root, "b.go"), []byte("package b\n\nfunc Three() {}\n"), 0o644))
	w = reopened(t, root, folder)
	assert.Equal(t, 1, w.Progress().Parsed, "what only moved is known by its content")
	assert.Equal(t, "moved.py", w.Named("one")[0].Path)
	assert.Empty(t, w.Named("Two"))
	require.NoError(t, os.WriteFile(filepath.Join(root, "b.go"), []byte("package b\n\nfunc Two() {}\n"), 0o644))
	w = reopened(t, root, folder)
	assert.Equal(t, 0, w.Progress().Parsed, "and what was there before is known again")
	assert.NotEmpty(t, w.Named("Two"))
}

// What a reading that was broken off had not come to is read by the next one, whatever the language, though it has not changed since.
func TestAReadingGoesOnWhereItWas(t *testing.T) {
	folder := t.TempDir()
	root := opened(t, map[string]string{
		"probe.c": "#include \"probe.h\"\nint probe(void) { return DEPTH; }\n", "probe.h": "#define DEPTH 3\n", "slope.c": "int slope(void) { return 1; }\n",
		"bell.py": "def bell():\n    pass\n", "snow.go": "package snow\n\nfunc Snow() {}\n",
	}).Root()
	long := time.Now().Add(-time.Hour)
	for _, p := range []string{"probe.c", "probe.h", "slope.c", "bell.py", "snow.go"} {
		require.NoError(t, os.Chtimes(filepath.Join(root, p), long, long))
	}
	stopped := New(root)
	stopped.KeepIndex(t.Context(), folder)
	stopped.beginReading()
	stopped.readFile(t.Context(), project.File{Path: "bell.py", Modified: long.UnixNano()})
	stopped.saveIndex(t.Context(), 0)
	require.NoError(t, stopped.Close())

	w := reopened(t, root, folder)
	assert.Empty(t, w.Progress().LeftOut)
	assert.Equal(t, 5, w.Progress().Read)
	for _, name := range []string{"probe", "DEPTH", "slope", "bell", "Snow"} {
		assert.Len(t, w.Named(name), 1, name)
	}
}

func TestWithoutADiskItGoesOn(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	root := opened(t, map[string]string{"a.py": "def one():\n    pass\n"}).Root()
	w := reopened(t, root, file)
	assert.Len(t, w.Named("one"), 1)
	require.Len(t, w.Progress().Notes, 1)
	assert.Contains(t, w.Progress().Notes[0], "the index is not kept on disk")
	path, _ := w.IndexOnDisk()
	assert.Empty(t, path)
}

// What is known from earlier is let go of at the end of reading, while files are already saved and
// read anew.
func TestSavingWhileTheReadingEnds(t *testing.T) {
	folder := t.TempDir()
	files := map[string]string{}
	for i := range 200 {
		files[fmt.Sprintf("a%d.py", i)] = fmt.Sprintf("def f%d():\n    pass\n", i)
	}
	root := opened(t, files).Root()
	reopened(t, root, folder)
	w := New(root)
	w.KeepIndex(context.Background(), folder)
	t.Cleanup(func() { assert.NoError(t, w.Close()) })
	var saving work.Group
	done := make(chan struct{})
	saving.Go(func() {
		for n := 0; ; n++ {
			select {
			case <-done:
				return
			default:
			}
			p := fmt.Sprintf("a%d.py", n%200)
			assert.NoError(t, os.WriteFile(filepath.Join(root, p), []byte(fmt.Sprintf("def g%d():\n    pass\n", n)), 0o600))
			w.RefreshFiles(context.Background(), []string{p})
		}
	})
	require.NoError(t, w.Read(context.Background()))
	close(done)
	saving.Wait()
}

// A pause in typing is no change on disk, and neither is that what was written is saved.
func TestWritingIsNoChangeOnDisk(t *testing.T) {
	w := opened(t, map[string]string{"a.py": "def one():\n    pass\n"})
	before := w.Progress().Refreshed
	doc := text.NewDocument([]byte("def two():\n    pass\n"))
	was := w.Stamp("a.py")
	w.Write(context.Background(), "a.py", doc)
	assert.NotEmpty(t, w.Named("two"))
	_, err := text.Save(text.System{}, w.Absolute("a.py"), doc, was)
	require.NoError(t, err)
	w.Settle(context.Background(), "a.py", doc)
	assert.NotEmpty(t, w.Named("two"))
	assert.Equal(t, before, w.Progress().Refreshed)

	require.NoError(t, os.WriteFile(filepath.Join(w.Root(), "a.py"), []byte("def three():\n    pass\n"), 0o600))
	assert.True(t, w.RefreshFiles(context.Background(), []string{"a.py"}))
	assert.Equal(t, before+1, w.Progress().Refreshed)
}

// What is shown on the screen all the time never waits for what takes long.
func TestProgressDoesNotWait(t *testing.T) {
	w := opened(t, map[string]string{"a.py": "def one():\n    pass\n"})
	w.mu.Lock() // as searching and the reading of go.mod files do
	defer w.mu.Unlock()
	told := make(chan Progress, 1)
	go func() { told <- w.Progress() }()
	select {
	case p := <-told:
		assert.True(t, p.Done)
		assert.False(t, w.IsOutside("a.py"))
		assert.NotNil(t, w.Changed())
	case <-time.After(20 * time.Second):
		t.Fatal("it waits for the lock of the files")
	}
}

// A text that is typed is no change on disk: what files say about the project is asked of them
// when they change, not after each pause in typing. What is typed in them counts at once.
func TestTypingAndAChangeOnDiskAreTwoThings(t *testing.T) {
	b := opened(t, map[string]string{"go.mod": "module one\n", "a.go": "package a\n"})
	write := func(text string) {
		require.NoError(t, os.WriteFile(b.Absolute("go.mod"), []byte(text), 0o644))
	}
	assert.Equal(t, "module one\n", string(b.Text("go.mod")))
	before := b.Generation()
	write("module other\n")
	b.Write(t.Context(), "a.go", text.NewDocument([]byte("package a\n\nvar x = 1\n")))
	assert.NotEqual(t, before, b.Generation(), "answers are worked out anew")
	assert.Equal(t, "module one\n", string(b.Text("go.mod")), "nobody said yet that it changed")
	b.RefreshFiles(t.Context(), []string{"go.mod"})
	assert.Equal(t, "module other\n", string(b.Text("go.mod")))
	doc := text.NewDocument([]byte("module typed\n"))
	b.Write(t.Context(), "go.mod", doc)
	assert.Equal(t, "module typed\n", string(b.Text("go.mod")))
	b.Settle(t.Context(), "go.mod", doc)
	assert.Equal(t, "module other\n", string(b.Text("go.mod")))
}

// A header that changed while nobody looked changes how others are read, and only those that it does.
func TestHeadersThatChangedMeanwhile(t *testing.T) {
	folder := t.TempDir()
	root := opened(t, map[string]string{
		"open.h":   "#define HUT_BEGIN namespace hut {\n#define HUT_END }\n",
		"bell.hpp": "#include \"open.h\"\nHUT_BEGIN\nstruct Bell { int rings; };\nHUT_END\n",
		"lone.hpp": "struct Lone {};\n",
	}).Root()
	reopened(t, root, folder)
	require.NoError(t, os.WriteFile(filepath.Join(root, "open.h"), []byte("// as before\n#define HUT_BEGIN namespace hut {\n#define HUT_END }\n"), 0o644))
	w := reopened(t, root, folder)
	assert.Equal(t, 1, w.Progress().Parsed, "it says what it said")
	require.NoError(t, os.WriteFile(filepath.Join(root, "open.h"), []byte("#define HUT_BEGIN namespace peak {\n#define HUT_END }\n"), 0o644))
	w = reopened(t, root, folder)
	require.Len(t, w.Named("Bell"), 1)
	assert.Equal(t, "peak", w.Named("Bell")[0].Container)
}
