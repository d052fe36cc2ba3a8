package codebase

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/work"
)

// patience is how long a change may take to be noticed on a busy machine.
const patience = 30 * time.Second

func watched(t *testing.T, files map[string]string) *Base {
	w := opened(t, files)
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		w.Watch(ctx)
	}()
	t.Cleanup(func() {
		cancel()
		<-ended
	})
	return w
}

func eventually(t *testing.T, holds func() bool, what string) {
	require.Eventually(t, holds, patience, 10*time.Millisecond, what)
}

func TestChangesOnDiskAreTakenIn(t *testing.T) {
	w := watched(t, map[string]string{"a.py": "def one():\n    pass\n", "sub/b.py": "def two():\n    pass\n", "go.mod": "module x\n"})
	write := func(name, text string) { require.NoError(t, os.WriteFile(w.Absolute(name), []byte(text), 0o644)) }
	// The watches begin some time after Watch does, so the change is repeated.
	n := 0
	eventually(t, func() bool {
		n++
		write("a.py", fmt.Sprintf("def changed():\n    return %d\n", n))
		time.Sleep(300 * time.Millisecond)
		return len(w.Named("changed")) == 1
	}, "a changed file")
	assert.Empty(t, w.Named("one"))

	write("next", "def three():\n    pass\n")
	require.NoError(t, os.Rename(w.Absolute("next"), w.Absolute("sub/b.py")))
	eventually(t, func() bool { return len(w.Named("three")) == 1 && len(w.Named("two")) == 0 }, "a file saved by renaming another")

	require.NoError(t, os.MkdirAll(w.Absolute("new/deep"), 0o755))
	write("new/deep/c.go", "package c\n\nfunc Four() {}\n")
	eventually(t, func() bool { return len(w.Named("Four")) == 1 && w.Has("new/deep") }, "a new folder")
	assert.True(t, w.Listing().IsFile("new/deep/c.go"))

	write("new/deep/c.go", "package c\n\nfunc Five() {}\n")
	eventually(t, func() bool { return len(w.Named("Five")) == 1 }, "a change in the new folder")
	require.NoError(t, os.RemoveAll(w.Absolute("new")))
	eventually(t, func() bool { return len(w.Named("Five")) == 0 && !w.Has("new") }, "a removed folder")
}

func TestRefreshOfManyFiles(t *testing.T) {
	files := map[string]string{}
	for i := range 500 {
		files[fmt.Sprintf("d%d/f%d.py", i%20, i)] = fmt.Sprintf("def old%d():\n    pass\n", i)
	}
	w := opened(t, files)
	for name := range files {
		require.NoError(t, os.WriteFile(w.Absolute(name), []byte("def renewed():\n    return 1\n"), 0o644))
	}
	w.Refresh(context.Background())
	assert.Len(t, w.Named("renewed"), 500)
	assert.Empty(t, w.Named("old7"))
	before := w.Progress().Refreshed
	w.Refresh(context.Background())
	assert.Equal(t, before, w.Progress().Refreshed, "nothing has changed since")
}

func TestAFewChangedFilesNeedNoListing(t *testing.T) {
	w := opened(t, map[string]string{"a.py": "def one():\n    pass\n", "b.py": "def two():\n    pass\n"})
	ctx := context.Background()
	write := func(name, text string) { require.NoError(t, os.WriteFile(w.Absolute(name), []byte(text), 0o644)) }
	write("a.py", "def changed():\n    pass\n")
	age(t, w.root)
	assert.True(t, w.RefreshFiles(ctx, []string{"a.py", "a.py", "a.py.swap"}))
	assert.Len(t, w.Named("changed"), 1)
	assert.Empty(t, w.Named("one"))
	before := w.Progress().Refreshed
	assert.True(t, w.RefreshFiles(ctx, []string{"a.py"}))
	assert.Equal(t, before, w.Progress().Refreshed, "nothing has changed since")
	write("c.py", "def three():\n    pass\n")
	assert.False(t, w.RefreshFiles(ctx, []string{"c.py"}), "a new file")
	require.NoError(t, os.Remove(w.Absolute("b.py")))
	assert.False(t, w.RefreshFiles(ctx, []string{"b.py"}), "a file that is gone")
	assert.False(t, w.RefreshFiles(ctx, []string{"sub/.gitignore"}))
}

// Which files are left as text follows what they become.
func TestWhatIsLeftOutFollowsTheFiles(t *testing.T) {
	root := t.TempDir()
	file := filepath.Join(root, "hut.py")
	write := func(text string) { require.NoError(t, os.WriteFile(file, []byte(text), 0o644)) }
	write("def ring(): pass\n")
	w := New(root)
	require.NoError(t, w.Read(t.Context()))
	assert.Empty(t, w.Progress().LeftOut)
	write("x = " + strings.Repeat("(", 20000) + strings.Repeat(")", 20000) + "\n")
	for range 2 { // once is not said twice
		w.fromDisk(t.Context(), "hut.py")
		require.Len(t, w.Progress().LeftOut, 1)
		assert.Equal(t, "nested too deeply", w.Progress().LeftOut[0].Reason.Error())
		require.NotNil(t, w.symbols.Summary("hut.py"))
		assert.Equal(t, "nested too deeply", w.symbols.Summary("hut.py").GivenUp, "the next program need not try")
	}
	write("def ring(): pass\n")
	w.fromDisk(t.Context(), "hut.py")
	assert.Empty(t, w.Progress().LeftOut)
}

// How a file is read follows what the headers say that it includes.
func TestWhatHeadersSayOfOthers(t *testing.T) {
	w := opened(t, map[string]string{
		"open.h":   "#define HUT_BEGIN namespace hut {\n#define HUT_END }\n",
		"all.h":    "#include \"open.h\"\n",
		"bell.hpp": "#include \"all.h\"\nHUT_BEGIN\nstruct Bell { int rings; };\nHUT_END\n",
		"lone.hpp": "HUT_BEGIN\nstruct Lone {};\nHUT_END\n",
	})
	container := func(name string) string {
		require.Len(t, w.Named(name), 1, name)
		return w.Named(name)[0].Container
	}
	assert.Equal(t, "hut", container("Bell"))
	assert.Empty(t, container("Lone"))
	require.NoError(t, os.WriteFile(w.Absolute("open.h"), []byte("#define HUT_BEGIN namespace peak {\n#define HUT_END }\n"), 0o644))
	w.fromDisk(t.Context(), "open.h")
	assert.Equal(t, "peak", container("Bell"))
	f, err := w.Load(t.Context(), "bell.hpp")
	require.NoError(t, err)
	assert.Equal(t, "peak", f.Facts.Defs[0].Name)
}

// A header and what includes it may change at once, and a header may come that was missing.
func TestHeadersThatChangeWithOthers(t *testing.T) {
	w := opened(t, map[string]string{
		"open.h":   "#define HUT_BEGIN namespace hut {\n",
		"bell.hpp": "#include \"open.h\"\nHUT_BEGIN\nstruct Bell {};\n}\n",
		"row.hpp":  "#include \"late.h\"\nROW_BEGIN\nstruct Row {};\n",
	})
	write := func(name, text string) { require.NoError(t, os.WriteFile(w.Absolute(name), []byte(text), 0o644)) }
	write("open.h", "#define HUT_BEGIN namespace peak {\n")
	write("bell.hpp", "#include \"open.h\"\nHUT_BEGIN\nstruct Drum {};\n}\n")
	require.True(t, w.RefreshFiles(t.Context(), []string{"bell.hpp", "open.h"}))
	require.Len(t, w.Named("Drum"), 1)
	assert.Equal(t, "peak", w.Named("Drum")[0].Container)

	require.Len(t, w.Named("Row"), 1)
	assert.Empty(t, w.Named("Row")[0].Container)
	write("late.h", "#define ROW_BEGIN namespace late {\n")
	w.Refresh(t.Context())
	require.Len(t, w.Named("Row"), 1)
	assert.Equal(t, "late", w.Named("Row")[0].Container)
}

// A file that is opened before all files are known is read with what its headers say once they are.
func TestAFileOpenedBeforeItsHeadersAreKnown(t *testing.T) {
	root := opened(t, map[string]string{"a/open.h": "#define HUT_BEGIN namespace hut {\n", "b/bell.hpp": "#include \"open.h\"\nHUT_BEGIN\nstruct Bell {};\n}\n"}).Root()
	w := New(root)
	_, err := w.Load(t.Context(), "b/bell.hpp")
	require.NoError(t, err)
	require.NoError(t, w.Read(t.Context()))
	f, err := w.Load(t.Context(), "b/bell.hpp")
	require.NoError(t, err)
	assert.Equal(t, "hut", f.Facts.Defs[0].Name)
	require.Len(t, w.Named("Bell"), 1)
	assert.Equal(t, "hut", w.Named("Bell")[0].Container)
}

// What is damaged on disk while the project is open is noticed when it is asked, and made anew.
func TestADamagedIndexIsMadeAnewWhileItIsOpen(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	long := time.Now().Add(-time.Hour) // what was just written would be read again
	for i := range 50 {
		p := filepath.Join(root, fmt.Sprintf("hut%d.py", i))
		require.NoError(t, os.WriteFile(p, []byte(fmt.Sprintf("def ring%d(): pass\n", i)), 0o600))
		require.NoError(t, os.Chtimes(p, long, long))
	}
	first := New(root)
	first.KeepIndex(t.Context(), indexes)
	require.NoError(t, first.Read(t.Context()))
	require.NoError(t, first.Close())
	w := New(root)
	w.KeepIndex(t.Context(), indexes)
	require.NoError(t, w.Read(t.Context()))
	ctx, stop := context.WithCancel(t.Context())
	var beside work.Group
	beside.Go(func() { w.Watch(ctx) })
	segments, err := filepath.Glob(filepath.Join(indexes, "*.segments", "*.segment"))
	require.NoError(t, err)
	require.Len(t, segments, 1)
	data, err := os.ReadFile(segments[0])
	require.NoError(t, err)
	file, err := os.OpenFile(segments[0], os.O_WRONLY, 0)
	require.NoError(t, err)
	_, err = file.WriteAt(bytes.Repeat([]byte{7}, len(data)), 0) // in place, so that it is what is mapped
	require.NoError(t, err)
	require.NoError(t, file.Close())
	w.Named("ring7")
	assert.Eventually(t, func() bool { return len(w.Named("ring7")) == 1 && w.Progress().Done }, 30*time.Second, 10*time.Millisecond)
	assert.Contains(t, w.Progress().Notes, damagedWords)
	stop()
	beside.Wait()
	require.NoError(t, w.Close())
	again := New(root)
	again.KeepIndex(t.Context(), indexes)
	require.NoError(t, again.Read(t.Context()))
	assert.Zero(t, again.Progress().Parsed, "it was made anew")
	require.NoError(t, again.Close())
}

// Two programs have one project and one index, and both change files: each knows what is there, and so does the next.
func TestTwoProgramsOnOneProject(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	write := func(n, version int) {
		p := filepath.Join(root, fmt.Sprintf("hut%d.py", n))
		require.NoError(t, os.WriteFile(p, []byte(fmt.Sprintf("def ring%d_%d(): pass\n", n, version)), 0o600))
	}
	const files, versions = 120, 6
	for n := range files {
		write(n, 0)
	}
	ctx, stop := context.WithCancel(t.Context())
	var beside work.Group
	var programs []*Base
	for range 2 {
		w := New(root)
		w.KeepIndex(t.Context(), indexes)
		require.NoError(t, w.Read(t.Context()))
		programs = append(programs, w)
		beside.Go(func() { w.Watch(ctx) })
	}
	for version := 1; version <= versions; version++ {
		for n := version; n < files; n += 2 {
			write(n, version)
		}
	}
	last := func(n int) (version int) {
		for v := 1; v <= versions; v++ {
			if n >= v && (n-v)%2 == 0 {
				version = v
			}
		}
		return version
	}
	right := func(w *Base) bool {
		for n := range files {
			for v := range versions + 1 {
				if want := v == last(n); (len(w.Named(fmt.Sprintf("ring%d_%d", n, v))) == 1) != want {
					return false
				}
			}
		}
		return true
	}
	for _, w := range programs {
		assert.Eventually(t, func() bool { return right(w) }, 60*time.Second, 50*time.Millisecond)
	}
	stop()
	beside.Wait()
	for _, w := range programs {
		require.NoError(t, w.Close())
	}
	again := New(root)
	again.KeepIndex(t.Context(), indexes)
	require.NoError(t, again.Read(t.Context()))
	assert.True(t, right(again))
	require.NoError(t, again.Close())
}
