package typecheck_test

import (
	"context"
	"crypto/sha256"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang/golang/typecheck"
)

// module is a Go module on disk with the book of what is known of it.
type module struct {
	t    *testing.T
	root string
	book *check.Book
	mu   sync.Mutex
	kept map[string][][]byte // by folder, the newest first
	made []string            // the packages checked, in order
}

func newModule(t *testing.T, files map[string]string) *module {
	m := &module{t: t, root: t.TempDir(), kept: map[string][][]byte{}}
	for name, text := range files {
		m.write(name, text)
	}
	m.reopen()
	return m
}

// reopen begins a new book on what was kept.
func (m *module) reopen() { m.book = check.NewBook(m, m.own, m.folders) }

func (m *module) write(name, text string) {
	p := filepath.Join(m.root, filepath.FromSlash(name))
	require.NoError(m.t, os.MkdirAll(filepath.Dir(p), 0o755))
	require.NoError(m.t, os.WriteFile(p, []byte(text), 0o644))
}

func (m *module) Records(folder string) ([][]byte, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.kept[folder], nil
}

func (m *module) Heads(folder string) ([][]byte, error) { return m.Records(folder) }

func (m *module) Keep(folder, name string, _ check.Digest, _, data []byte) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.kept[folder] = append([][]byte{data}, m.kept[folder]...)
	m.made = append(m.made, folder+" "+name)
	return nil
}

func (m *module) own(folder string) check.Digest {
	contents := map[string][16]byte{}
	files, _ := filepath.Glob(filepath.Join(m.root, filepath.FromSlash(folder), "*.go"))
	for _, f := range files {
		text, err := os.ReadFile(f)
		require.NoError(m.t, err)
		sum := sha256.Sum256(text)
		contents[filepath.Base(f)] = [16]byte(sum[:16])
	}
	return check.Folder("", contents)
}

func (m *module) folders() []string {
	folders := map[string]bool{}
	_ = filepath.WalkDir(m.root, func(p string, d os.DirEntry, err error) error {
		if err == nil && filepath.Ext(p) == ".go" {
			rel, _ := filepath.Rel(m.root, filepath.Dir(p))
			folders[filepath.ToSlash(rel)] = true
		}
		return err
	})
	return slices.Sorted(maps.Keys(folders))
}

// check checks what is new, and returns which packages that was.
func (m *module) check() []string {
	m.made = nil
	m.book.Changed()
	require.NoError(m.t, typecheck.Check(context.Background(), m.root, []string{"."}, m.book, check.Fast))
	slices.Sort(m.made)
	return m.made
}

// use asks what a name means, by a text before it in the file.
func (m *module) use(file, before string) (check.Target, bool) {
	text, err := os.ReadFile(filepath.Join(m.root, file))
	require.NoError(m.t, err)
	at := strings.Index(string(text), before)
	require.GreaterOrEqual(m.t, at, 0, before)
	return m.book.Use(file, at+len(before))
}

var sample = map[string]string{
	"go.mod": "module tarn\n\ngo 1.22\n",
	"huts/huts.go": `package huts

import "fmt"

type Hut struct{ Name string }

func (h *Hut) Ring(times int) error { fmt.Println(h.Name); return nil }

type Ringer interface{ Ring(int) error }

func helper() int { local := 1; return local }
`,
	"huts/huts_test.go":  "package huts\n\nimport \"testing\"\n\nfunc TestHelper(t *testing.T) { _ = helper() }\n",
	"huts/outer_test.go": "package huts_test\n\nimport (\n\t\"tarn/huts\"\n\t\"testing\"\n)\n\nfunc TestRing(t *testing.T) { _ = new(huts.Hut).Ring(1) }\n",
	"board/board.go":     "package board\n\nimport \"tarn/huts\"\n\ntype Tower struct{ *huts.Hut }\n\nfunc Show(r huts.Ringer) { _ = r.Ring(2); _ = Tower{}.Name }\n",
	"far/far.go":         "package far\n\nfunc Alone() {}\n",
}

func TestWhatNamesMean(t *testing.T) {
	m := newModule(t, sample)
	assert.Equal(t, []string{"board board", "far far", "huts huts", "huts huts_test"}, m.check())
	for _, c := range []struct {
		file, before string
		want         check.Target
	}{
		{"board/board.go", "_ = r.", check.Target{Folder: "huts", File: "huts.go", Container: "Ringer", Name: "Ring"}},
		{"board/board.go", "Tower{}.", check.Target{Folder: "huts", File: "huts.go", Container: "Hut", Name: "Name"}},
		{"huts/outer_test.go", "Hut).", check.Target{Folder: "huts", File: "huts.go", Container: "Hut", Name: "Ring"}},
		{"huts/huts_test.go", "_ = ", check.Target{Folder: "huts", File: "huts.go", Name: "helper"}},
		{"huts/huts.go", "return loc"[:7], check.Target{}},
	} {
		got, ok := m.use(c.file, c.before)
		if c.want.Name == "" {
			assert.False(t, ok && got.Name == "Ring")
			continue
		}
		assert.True(t, ok, c.before)
		assert.Equal(t, c.want, got, c.before)
	}
	local, ok := m.use("huts/huts.go", "local := 1; return ")
	assert.True(t, ok)
	assert.True(t, local.Local)
	out, ok := m.use("huts/huts.go", "fmt.")
	assert.True(t, ok)
	assert.True(t, filepath.IsAbs(filepath.FromSlash(out.Folder)), "it leads to the library's own source")
	assert.Equal(t, "Println", out.Name)

	found, ok := m.book.Implementers("huts", "Ringer")
	assert.True(t, ok)
	var names []string
	for _, f := range found {
		names = append(names, f.Name)
	}
	slices.Sort(names)
	assert.Equal(t, []string{"Hut", "Tower"}, names, "what is embedded counts")
	up, ok := m.book.Implemented("board", "Tower")
	assert.True(t, ok)
	assert.Equal(t, "Ringer", up[0].Name)
}

// A change is checked again, and so are those that see something of it.
func TestOnlyWhatChangedIsCheckedAgain(t *testing.T) {
	m := newModule(t, sample)
	m.check()
	assert.Empty(t, m.check(), "nothing has changed")
	m.reopen()
	assert.Empty(t, m.check(), "it was kept")
	_, ok := m.use("board/board.go", "_ = r.")
	assert.True(t, ok)

	m.write("huts/huts.go", strings.Replace(sample["huts/huts.go"], "local := 1", "local := 2 + 3", 1))
	assert.Equal(t, []string{"huts huts", "huts huts_test"}, m.check(), "a body is seen by nobody else")

	m.write("huts/huts.go", strings.Replace(sample["huts/huts.go"], "Name string", "Name, Valley string", 1))
	assert.Equal(t, []string{"board board", "huts huts", "huts huts_test"}, m.check(), "a field is seen by those who import")

	m.write("huts/huts.go", sample["huts/huts.go"])
	m.book.Changed()
	_, ok = m.use("board/board.go", "_ = r.")
	assert.True(t, ok, "what was known before holds again")
}

// An answer about a file that has changed since is none.
func TestNothingStale(t *testing.T) {
	m := newModule(t, sample)
	m.check()
	assert.True(t, m.book.Checked("far/far.go"))
	m.write("far/far.go", "package far\n\n\nfunc Alone() { Alone() }\n")
	m.book.Changed()
	assert.False(t, m.book.Checked("far/far.go"))
	_, ok := m.use("far/far.go", "{ ")
	assert.False(t, ok)
	m.write("huts/more.go", "package huts\n\ntype More struct{}\n")
	m.book.Changed()
	assert.False(t, m.book.Checked("board/board.go"), "what it saw has a file more")
}

// Code that does not compile still answers for what does, and circles end.
func TestBrokenCode(t *testing.T) {
	m := newModule(t, map[string]string{
		"go.mod":  "module tarn\n\ngo 1.22\n",
		"a/a.go":  "package a\n\nimport (\n\t\"tarn/b\"\n\t\"nowhere.example/gone\"\n)\n\nfunc F() { b.G(); gone.H(); undefined() }\n\nfunc half( {\n",
		"b/b.go":  "package b\n\nimport \"tarn/a\"\n\nfunc G() { a.F() }\n\ntype T T\n\ntype I interface{ J }\ntype J interface{ I }\n",
		"c/c.go":  "package c\n\nvar x int = \"no\"\n\nfunc K() int { return x }\n",
		"c/d.txt": "no code",
	})
	m.check()
	got, ok := m.use("c/c.go", "return ")
	assert.True(t, ok)
	assert.Equal(t, "x", got.Name)
}

// Without a go command there is nobody to ask.
func TestWithoutGo(t *testing.T) {
	m := newModule(t, sample)
	t.Setenv("PATH", t.TempDir())
	require.ErrorIs(t, typecheck.Check(context.Background(), m.root, []string{"."}, m.book, check.Fast), typecheck.ErrNoGo)
	assert.False(t, m.book.Checked("far/far.go"))
}

func TestRecordsSurviveEncoding(t *testing.T) {
	m := newModule(t, sample)
	m.check()
	for _, list := range m.kept {
		for _, data := range list {
			r, err := check.Decode(data)
			require.NoError(t, err)
			again, err := check.Decode(r.Encode())
			require.NoError(t, err)
			assert.Equal(t, r, again)
		}
	}
	_, err := check.Decode(nil)
	assert.Error(t, err)
}

func FuzzDecode(f *testing.F) {
	r := &check.Record{Head: check.Head{Folder: "a", Name: "a"}, Targets: []check.Target{{Folder: "a", Name: "F"}},
		Files: []check.File{{Base: "a.go", Uses: []check.Use{{Offset: 3}, {Offset: 900}}}},
		Types: []check.Type{{Interface: true, Methods: []check.Method{{ID: "Ring", Signature: "func()"}}}}}
	f.Add(r.Encode())
	f.Add([]byte{1, 2, 3})
	f.Fuzz(func(t *testing.T, data []byte) {
		if r, err := check.Decode(data); err == nil {
			if _, err := check.Decode(r.Encode()); err != nil {
				t.Fatal(err)
			}
		}
	})
}

// One package alone may be asked about, which holds as long as what it imports looks as it did.
func TestOnePackageAlone(t *testing.T) {
	m := newModule(t, sample)
	require.NoError(t, typecheck.CheckFolder(t.Context(), m.root, ".", "board", m.book))
	assert.True(t, m.book.Checked("board/board.go"))
	assert.False(t, m.book.Checked("huts/huts.go"), "of what it imports no more is known than how it is seen")
	got, ok := m.use("board/board.go", "{ _ = r.")
	require.True(t, ok)
	assert.Equal(t, "Ring", got.Name)
	assert.Equal(t, "Ringer", got.Container)

	m.reopen()
	assert.True(t, m.book.Checked("board/board.go"), "it is kept")
	m.write("huts/huts.go", strings.Replace(sample["huts/huts.go"], "local := 1", "local := 2", 1))
	m.book.Changed()
	assert.False(t, m.book.Checked("board/board.go"), "how the other one is seen now is not known")
	require.NoError(t, typecheck.CheckFolder(t.Context(), m.root, ".", "board", m.book))
	assert.True(t, m.book.Checked("board/board.go"))
	assert.Equal(t, []string{"far", "huts"}, folders(m.check()), "all others are checked when all are asked about")
	assert.True(t, m.book.Checked("huts/huts.go"))
	assert.NoError(t, typecheck.CheckFolder(t.Context(), m.root, ".", "nowhere", m.book), "of a folder without a package there is nothing to say")
}

// folders are those of packages that were checked, without their names.
func folders(made []string) (list []string) {
	for _, p := range made {
		folder, _, _ := strings.Cut(p, " ")
		list = append(list, folder)
	}
	return slices.Compact(list)
}
