package codebase

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/resolve"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// recalling is a project that was read once, whose folders have not changed for a
// while.
type recalling struct {
	t             *testing.T
	root, indexes string
}

func newRecalling(t *testing.T, files map[string]string) *recalling {
	r := &recalling{t, t.TempDir(), t.TempDir()}
	for name, text := range files {
		r.write(name, text)
	}
	r.read()
	return r
}

func (r *recalling) write(name, text string) {
	p := filepath.Join(r.root, name)
	require.NoError(r.t, os.MkdirAll(filepath.Dir(p), 0o755))
	require.NoError(r.t, os.WriteFile(p, []byte(text), 0o644))
}

// rest makes all folders look as if nothing had come to them for a while.
func (r *recalling) rest() {
	long := time.Now().Add(-time.Hour)
	require.NoError(r.t, filepath.WalkDir(r.root, func(p string, d os.DirEntry, err error) error {
		if err == nil && d.IsDir() {
			err = os.Chtimes(p, long, long)
		}
		return err
	}))
}

// age makes all files look as if they had not changed for a while.
func age(t *testing.T, root string) {
	long := time.Now().Add(-30 * time.Minute)
	require.NoError(t, filepath.WalkDir(root, func(p string, d os.DirEntry, err error) error {
		if err == nil && d.Type().IsRegular() {
			err = os.Chtimes(p, long, long)
		}
		return err
	}))
}

func (r *recalling) read() {
	age(r.t, r.root)
	r.rest()
	w := New(r.root)
	w.KeepIndex(r.t.Context(), r.indexes)
	require.NoError(r.t, w.Read(r.t.Context()))
	KeepListing(r.t.Context(), w)
	require.NoError(r.t, w.Close())
}

// recall is a workspace that took up what was known; nil if it could not.
func (r *recalling) recall() *Base {
	w := New(r.root)
	if !w.Recall(r.t.Context(), r.indexes, false) {
		return nil
	}
	r.t.Cleanup(func() { assert.NoError(r.t, w.Close()) })
	return w
}

// defined is where the name at an offset of a file is defined.
func (r *recalling) defined(w *Base, file string, offset int) string {
	res := resolve.New(w).Definition(context.Background(), file, offset)
	if len(res.Answers) == 0 {
		return ""
	}
	a := res.Answers[0]
	f, err := w.Load(r.t.Context(), a.Path)
	require.NoError(r.t, err)
	line, col := f.Text.Position(int(a.At.Start))
	return place.Place{Path: a.Path, Line: line, Col: col}.String() + " " + a.Certainty.String()
}

var pager = map[string]string{
	"go.mod":     "module tarn\n",
	"hut/hut.go": "package hut\n\nfunc Ring() {}\n",
	"main.go":    "package main\n\nimport \"tarn/hut\"\n\nfunc main() { hut.Ring() }\n",
	"deep.py":    "x = 1\n",
}

const ringInMain = 52

func TestRecallAnswersWithoutReading(t *testing.T) {
	r := newRecalling(t, pager)
	w := r.recall()
	require.NotNil(t, w)
	assert.Equal(t, "hut/hut.go:3:6 inferred", r.defined(w, "main.go", ringInMain))
	assert.Equal(t, []string{"hut/hut.go", "main.go"}, w.Mentioning("Ring"))
	assert.Zero(t, w.Progress().Read, "no file was listed or read")
	assert.Zero(t, w.symbols.InMemory())
	assert.Equal(t, "Ring", w.Index().Search(t.Context(), fuzzy.Parse("rin"), 5)[0].Name, "what is looked for by parts of its name is found, too")
}

func TestRecallReadsWhatChanged(t *testing.T) {
	r := newRecalling(t, pager)
	r.write("hut/hut.go", "package hut\n\n// Ring rings.\nfunc Ring() {}\n")
	w := r.recall()
	require.NotNil(t, w)
	assert.Equal(t, "hut/hut.go:4:6 inferred", r.defined(w, "main.go", ringInMain))
	assert.Equal(t, 1, w.symbols.InMemory(), "only that one is read")

	r.write("hut/tmp", "")
	require.NoError(t, os.Remove(filepath.Join(r.root, "hut/tmp")))
	assert.NotNil(t, r.recall(), "what came and went does not matter")
}

func TestRecallNoticesWhatCameAndWent(t *testing.T) {
	for name, change := range map[string]func(r *recalling){
		"a file more":   func(r *recalling) { r.write("hut/bell.go", "package hut\n") },
		"a file less":   func(r *recalling) { require.NoError(t, os.Remove(filepath.Join(r.root, "hut/hut.go"))) },
		"a folder more": func(r *recalling) { r.write("slope/a.go", "package slope\n") },
		"another name": func(r *recalling) {
			require.NoError(t, os.Rename(filepath.Join(r.root, "hut"), filepath.Join(r.root, "huts")))
		},
		"what is ignored": func(r *recalling) { r.write(".ignore", "hut\n") },
		"something in a place": func(r *recalling) {
			p := filepath.Join(r.root, "deep.py")
			require.NoError(t, os.Remove(p))
			require.NoError(t, os.Mkdir(p, 0o755))
		},
		"no snapshot": func(r *recalling) { require.NoError(t, os.RemoveAll(r.indexes)) },
	} {
		t.Run(name, func(t *testing.T) {
			r := newRecalling(t, pager)
			require.NotNil(t, r.recall())
			change(r)
			assert.Nil(t, r.recall())
			require.NoError(t, os.MkdirAll(r.indexes, 0o700))
			r.read()
			assert.NotNil(t, r.recall(), "once it is read again, it is known")
		})
	}
}

// What came to a folder while the project was listed may have been missed.
func TestRecallDoesNotTrustAFolderThatJustChanged(t *testing.T) {
	r := newRecalling(t, pager)
	now := time.Now()
	require.NoError(t, os.Chtimes(filepath.Join(r.root, "hut"), now, now))
	w := New(r.root)
	w.KeepIndex(t.Context(), r.indexes)
	require.NoError(t, w.Read(t.Context()))
	KeepListing(t.Context(), w)
	require.NoError(t, w.Close())
	assert.Nil(t, r.recall())
}

func TestRecallInARepository(t *testing.T) {
	r := &recalling{t, t.TempDir(), t.TempDir()}
	for name, text := range pager {
		r.write(name, text)
	}
	r.write(".gitignore", "*.log\n")
	r.write("night.log", "quiet\n")
	git := func(args ...string) {
		out, err := exec.Command("git", append([]string{"-C", r.root, "-c", "user.name=x", "-c", "user.email=x@example.test"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	git("init", "-q")
	git("add", ".")
	r.read()
	require.NotNil(t, r.recall())
	git("commit", "-qm", "first")
	assert.NotNil(t, r.recall(), "what is tracked is the same, though git has noted it anew")
	git("add", "-f", "night.log")
	assert.Nil(t, r.recall(), "a file that was ignored belongs to the project now")
}

// A file that a parser could not read is not given to it again.
func TestRecallKnowsWhatWasGivenUp(t *testing.T) {
	r := newRecalling(t, map[string]string{"deep.py": "x = " + strings.Repeat("(", 20000) + strings.Repeat(")", 20000) + "\n"})
	w := r.recall()
	require.NotNil(t, w)
	f, err := w.OnDisk(t.Context(), "deep.py")
	require.NoError(t, err)
	assert.Equal(t, "nested too deeply", w.whyGivenUp(w.languages.Of(f.Path), f.Path, f.Text))
	assert.Zero(t, w.Progress().Read)
}

// What was given up is a text, not a file.
func TestRecallReadsWhatWasGivenUpOnceItChanged(t *testing.T) {
	r := newRecalling(t, map[string]string{"deep.py": "x = " + strings.Repeat("(", 20000) + strings.Repeat(")", 20000) + "\n"})
	r.write("deep.py", "def ring(): pass\n\nring()\n")
	w := r.recall()
	require.NotNil(t, w)
	assert.Equal(t, "deep.py:1:5 inferred", r.defined(w, "deep.py", 19))
	assert.Empty(t, w.Progress().LeftOut)
}

// What took too long to parse is tried again when some time has passed: then all is read.
func TestRecallLeavesALaterTryToReading(t *testing.T) {
	r := newRecalling(t, map[string]string{"hut.py": "def ring(): pass\n"})
	w := New(r.root)
	w.KeepIndex(t.Context(), r.indexes)
	require.NoError(t, w.Read(t.Context()))
	require.NoError(t, w.symbols.Put("hut.py", &index.Summary{GivenUp: "took too long to parse", Again: time.Now().Add(tryAgain).Unix()}))
	w.advance(func(p *Progress) { p.LeftOut = []LeftOut{{"hut.py", errGivenUp("took too long to parse")}} })
	KeepListing(t.Context(), w)
	require.NoError(t, w.Close())
	require.NotNil(t, r.recall())

	w = New(r.root)
	w.now = func() time.Time { return time.Now().Add(tryAgain + time.Hour) }
	assert.False(t, w.Recall(t.Context(), r.indexes, false))
}

// A file that can be read after all, as when it took too long the first time, is known by that from
// then on.
func TestAListingIsRenewedWhenMoreIsKnown(t *testing.T) {
	r := newRecalling(t, pager)
	w := New(r.root)
	w.KeepIndex(t.Context(), r.indexes)
	require.NoError(t, w.Read(t.Context()))
	w.advance(func(p *Progress) { p.LeftOut = []LeftOut{{"deep.py", errGivenUp("took too long to parse")}} })
	KeepListing(t.Context(), w)
	l, err := index.OpenListing(r.indexes, r.root)
	require.NoError(t, err)
	assert.Contains(t, givenUpIn(l), "took too long to parse")
	w.advance(func(p *Progress) { p.LeftOut = nil })
	KeepListing(t.Context(), w)
	l, err = index.OpenListing(r.indexes, r.root)
	require.NoError(t, err)
	assert.NotContains(t, givenUpIn(l), "took too long to parse")
	require.NoError(t, w.Close())
}

// givenUpIn are the reasons for which files of a listing were given up.
func givenUpIn(l *index.ListingOnDisk) (why []string) {
	for _, f := range l.GivenUp() {
		why = append(why, f.GivenUp)
	}
	return why
}

// A hasty question looks at the files that it comes upon, and only when it is asked to at all.
func TestAHastyQuestionLooksAtWhatItComesUpon(t *testing.T) {
	r := newRecalling(t, pager)
	hasty := func() *Base {
		w := New(r.root)
		require.True(t, w.Recall(t.Context(), r.indexes, true))
		t.Cleanup(func() { assert.NoError(t, w.Close()) })
		assert.True(t, Hasty(w))
		return w
	}
	assert.Equal(t, "hut/hut.go:3:6 inferred", r.defined(hasty(), "main.go", ringInMain))
	r.write("hut/hut.go", "package hut\n\n// Ring rings.\nfunc Ring() {}\n")
	r.write("deep.py", "def fresh(): pass\n")
	w := hasty()
	assert.Equal(t, "hut/hut.go:4:6 inferred", r.defined(w, "main.go", ringInMain), "it came upon the file")
	assert.Empty(t, w.Named("fresh"), "nothing known leads there")
	assert.True(t, CheckAll(t.Context(), w))
	assert.False(t, Hasty(w))
	assert.Len(t, w.Named("fresh"), 1)
	require.NoError(t, os.WriteFile(filepath.Join(r.root, "more.go"), []byte("package main\n"), 0o600))
	assert.False(t, New(r.root).Recall(t.Context(), r.indexes, true), "another file has come")
}

// What a header says otherwise than when the project was last read has the files be read anew that are read by it, though nobody had
// asked for the header yet.
func TestRecallReadsWhatAChangedHeaderSays(t *testing.T) {
	r := newRecalling(t, map[string]string{
		"a.h": "#define MAKE(x) struct x { int level; };\n#define GONE(x) struct x##_gone { int level; };\n",
		"b.c": "#include \"a.h\"\nMAKE(hut)\n", "c.c": "#include \"a.h\"\nGONE(bell)\n", "d.c": "int d;\n",
	})
	w := r.recall()
	require.NotNil(t, w)
	require.Len(t, w.Index().Named("hut"), 1)
	require.Len(t, w.Index().Named("bell_gone"), 1)
	r.write("a.h", "#define MAKE(x) struct x##_made { int level; };\n")
	w = r.recall()
	require.NotNil(t, w)
	opened := New(r.root) // as the full-screen program does
	opened.KeepIndex(t.Context(), r.indexes)
	require.NoError(t, opened.Read(t.Context()))
	t.Cleanup(func() { assert.NoError(t, opened.Close()) })
	for _, w := range []*Base{w, opened} {
		assert.Empty(t, w.Index().Named("hut"))
		assert.Len(t, w.Index().Named("hut_made"), 1)
		assert.Empty(t, w.Index().Named("bell_gone"))
	}
	assert.Equal(t, 3, w.symbols.InMemory(), "no other file is read")
}
