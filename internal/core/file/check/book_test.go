package check_test

import (
	"errors"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
)

// shelf keeps records in memory, the newest first.
type shelf struct {
	records map[string][][]byte
	heads   map[string][][]byte
	reads   int
	broken  error
}

func newShelf() *shelf { return &shelf{records: map[string][][]byte{}, heads: map[string][][]byte{}} }

func (s *shelf) Records(folder string) ([][]byte, error) {
	s.reads++
	return s.records[folder], s.broken
}
func (s *shelf) Heads(folder string) ([][]byte, error) { s.reads++; return s.heads[folder], s.broken }
func (s *shelf) Keep(folder, _ string, _ check.Digest, head, data []byte) error {
	s.records[folder] = append([][]byte{data}, s.records[folder]...)
	s.heads[folder] = append([][]byte{head}, s.heads[folder]...)
	return s.broken
}

// valley is a workspace of three packages: dispatch imports hut, and hut imports nothing; what is
// said of each depends on its text alone.
type valley struct {
	texts map[string]string // by folder
	shelf *shelf
	book  *check.Book
}

func newValley() *valley {
	v := &valley{texts: map[string]string{"hut": "hut 1", "dispatch": "dispatch 1", "ridge": "ridge 1"}, shelf: newShelf()}
	v.open()
	return v
}

// open is what the next program does.
func (v *valley) open() {
	v.book = check.NewBook(v.shelf, v.own, func() []string { return []string{"hut", "dispatch", "ridge"} })
}

func digest(text string) check.Digest {
	d := check.NewDigester()
	d.Add(text)
	return d.Digest()
}

func (v *valley) own(folder string) check.Digest { return digest(v.texts[folder]) }

// hut has an interface, what implements it, and a type that nearly does.
func (v *valley) hut() *check.Record {
	return &check.Record{
		Head: check.Head{Folder: "hut", Own: v.own("hut"), View: digest("view of " + v.texts["hut"])},
		Targets: []check.Target{
			{Folder: "hut", File: "bell.go", Name: "Pager", Offset: 10},
			{Folder: "hut", File: "bell.go", Container: "Pager", Name: "Page", Offset: 20},
			{Folder: "hut", File: "bell.go", Name: "Bell", Offset: 40},
			{Folder: "hut", File: "bell.go", Container: "Bell", Name: "Page", Offset: 60},
			{Folder: "hut", File: "bell.go", Name: "Horn", Offset: 80},
			{Folder: "hut", File: "bell.go", Name: "x", Offset: 95, Local: true},
		},
		Files: []check.File{{Base: "bell.go", Uses: []check.Use{{Offset: 12, Target: 2}, {Offset: 97, Target: 5}}}, {Base: "door.go"}},
		Types: []check.Type{
			{Target: 0, Interface: true, Methods: []check.Method{{ID: "Page", Signature: "func(int)", Target: 1}}},
			{Target: 2, Methods: []check.Method{{ID: "Page", Signature: "func(int)", Target: 3}, {ID: "Ring", Signature: "func()", Target: 3}}},
			{Target: 4, Methods: []check.Method{{ID: "Page", Signature: "func(string)", Target: 3}}},
		},
	}
}

// dispatch uses the bell of the hut, as that looks to others now.
func (v *valley) dispatch() *check.Record {
	view := digest("view of " + v.texts["hut"])
	seen := []check.Seen{{Folder: "hut", View: view}}
	return &check.Record{
		Head:    check.Head{Folder: "dispatch", Own: v.own("dispatch"), View: digest("view of " + v.texts["dispatch"]), Imports: seen, Basis: seen},
		Targets: []check.Target{{Folder: "hut", File: "bell.go", Name: "Bell", Offset: 40}, {Folder: "dispatch", File: "desk.go", Name: "Desk", Offset: 4}},
		Files:   []check.File{{Base: "desk.go", Uses: []check.Use{{Offset: 30, Target: 0}}}},
		Types:   []check.Type{{Target: 1, Methods: []check.Method{{ID: "Page", Signature: "func(int)", Target: 0}}}},
	}
}

func (v *valley) checked(t *testing.T) *valley {
	require.NoError(t, v.book.Add(v.hut()))
	require.NoError(t, v.book.Add(v.dispatch()))
	return v
}

func TestWhatNamesMean(t *testing.T) {
	v := newValley().checked(t)
	target, ok := v.book.Use("dispatch/desk.go", 30)
	require.True(t, ok)
	assert.Equal(t, check.Target{Folder: "hut", File: "bell.go", Name: "Bell", Offset: 40}, target)
	target, ok = v.book.Use("hut/bell.go", 97)
	assert.True(t, ok && target.Local)
	for file, offset := range map[string]int{"dispatch/desk.go": 31, "dispatch/none.go": 30, "ridge/desk.go": 30, "desk.go": 30} {
		_, ok := v.book.Use(file, offset)
		assert.False(t, ok, "%s at %d", file, offset)
	}
	assert.True(t, v.book.Checked("hut/door.go"), "though it uses nothing")
	assert.False(t, v.book.Checked("hut/none.go"))
	assert.False(t, v.book.Checked("ridge/a.go"))
}

// A record holds as long as its package and what it saw of others are as they were.
func TestWhenARecordHolds(t *testing.T) {
	for name, c := range map[string]struct {
		change          func(v *valley)
		hut, dispatch   bool
		known, knownHut bool // a check of them would find nothing new
	}{
		"nothing changed":                 {func(*valley) {}, true, true, true, true},
		"the package itself":              {func(v *valley) { v.texts["dispatch"] = "dispatch 2" }, true, false, false, true},
		"what it imports":                 {func(v *valley) { v.texts["hut"] = "hut 2" }, false, false, true, false},
		"a package that it does not know": {func(v *valley) { v.texts["ridge"] = "ridge 2" }, true, true, true, true},
		"it imports what looks the same, once that was checked": {func(v *valley) {
			r := v.hut()
			v.texts["hut"] = "hut 2"
			r.Own = v.own("hut")
			_ = v.book.Add(r)
		}, true, true, true, true},
		"it imports what looks otherwise": {func(v *valley) {
			v.texts["hut"] = "hut 2"
			_ = v.book.Add(v.hut())
		}, true, false, true, true},
		"to and fro": {func(v *valley) {
			v.texts["hut"] = "hut 2"
			_ = v.book.Add(v.hut())
			v.texts["hut"] = "hut 1"
		}, true, true, true, true},
	} {
		for _, next := range []bool{false, true} {
			v := newValley().checked(t)
			like := v.dispatch().Head
			c.change(v)
			if next {
				v.open()
			}
			v.book.Changed()
			like.Own = v.own("dispatch")
			assert.Equal(t, c.hut, v.book.Checked("hut/bell.go"), "%s: hut, the next program: %t", name, next)
			if next && name == "to and fro" {
				continue // which of the two was kept is up to the shelf
			}
			assert.Equal(t, c.dispatch, v.book.Checked("dispatch/desk.go"), "%s: dispatch, the next program: %t", name, next)
			assert.Equal(t, c.known, v.book.Knows(&like, ""), "%s: known, the next program: %t", name, next)
			hut := v.hut().Head
			assert.Equal(t, c.knownHut, v.book.Knows(&hut, ""), "%s: hut known, the next program: %t", name, next)
			assert.False(t, v.book.Knows(&hut, "tests"), "of another name")
		}
	}
}

func TestHowOthersSeeAPackage(t *testing.T) {
	v := newValley().checked(t)
	view, ok := v.book.View("dispatch")
	assert.True(t, ok)
	assert.Equal(t, digest("view of dispatch 1"), view)
	_, ok = v.book.View("ridge")
	assert.False(t, ok, "it was not checked")
	v.texts["hut"] = "hut 2"
	v.book.Changed()
	_, ok = v.book.View("dispatch")
	assert.False(t, ok, "it depends on what is not known any more")
}

// Packages that import each other in a circle hold up nobody.
func TestImportsInACircle(t *testing.T) {
	v := newValley()
	circle := func(folder, other string) *check.Record {
		seen := []check.Seen{{Folder: other, View: digest("view of " + other)}}
		return &check.Record{Head: check.Head{Folder: folder, Own: v.own(folder), View: digest("view of " + folder), Imports: seen, Basis: seen}, Files: []check.File{{Base: "a.go"}}}
	}
	require.NoError(t, v.book.Add(circle("hut", "ridge")))
	require.NoError(t, v.book.Add(circle("ridge", "hut")))
	assert.False(t, v.book.Checked("hut/a.go"))
	_, ok := v.book.View("ridge")
	assert.False(t, ok)
}

func names(targets []check.Target) (names []string) {
	for _, t := range targets {
		names = append(names, t.Name)
	}
	slices.Sort(names)
	return names
}

func TestTypesByTheirMethods(t *testing.T) {
	v := newValley().checked(t)
	found, ok := v.book.Implementers("hut", "Pager")
	assert.True(t, ok)
	assert.Equal(t, []string{"Bell", "Desk"}, names(found), "also in other packages, by the same signature")
	found, ok = v.book.Implemented("hut", "Bell")
	assert.True(t, ok)
	assert.Equal(t, []string{"Pager"}, names(found))
	found, ok = v.book.Implemented("hut", "Horn")
	assert.True(t, ok)
	assert.Empty(t, found, "its method takes something else")
	for _, name := range []string{"Bell", "None"} {
		_, ok = v.book.Implementers("hut", name)
		assert.False(t, ok, "%s is no interface", name)
	}
	_, ok = v.book.Implemented("ridge", "Bell")
	assert.False(t, ok)
	v.texts["dispatch"] = "dispatch 2"
	v.book.Changed()
	found, _ = v.book.Implementers("hut", "Pager")
	assert.Equal(t, []string{"Bell"}, names(found), "of the other one nothing is known by now")
}

func TestGenericTypesAreNotCompared(t *testing.T) {
	v := newValley()
	r := v.hut()
	r.Types[0].Generic, r.Types[1].Generic = true, true
	require.NoError(t, v.book.Add(r))
	_, ok := v.book.Implementers("hut", "Pager")
	assert.False(t, ok)
	_, ok = v.book.Implemented("hut", "Bell")
	assert.False(t, ok)
}

func TestFilesThatUseSomething(t *testing.T) {
	v := newValley().checked(t)
	files := []string{"hut/bell.go", "hut/door.go", "dispatch/desk.go", "ridge/a.go"}
	using := func(name string) []string {
		return v.book.Using(files, func(t check.Target) bool { return t.Name == name })
	}
	assert.Equal(t, []string{"hut/bell.go", "dispatch/desk.go", "ridge/a.go"}, using("Bell"), "of ridge nothing is known")
	assert.Equal(t, []string{"ridge/a.go"}, using("Horn"))
	assert.Empty(t, v.book.Using(nil, nil))
}

// A later record of a package takes the place of an earlier one; that of its tests stands beside it.
func TestTestsOfAPackage(t *testing.T) {
	v := newValley().checked(t)
	tests := &check.Record{Head: check.Head{Folder: "hut", Name: "hut_test", Own: v.own("hut")}, Targets: []check.Target{{Name: "TestBell"}}, Files: []check.File{{Base: "bell_test.go", Uses: []check.Use{{Offset: 5}}}}}
	require.NoError(t, v.book.Add(tests))
	assert.True(t, v.book.Checked("hut/bell.go") && v.book.Checked("hut/bell_test.go"))
	again := v.hut()
	again.Files = again.Files[1:]
	require.NoError(t, v.book.Add(again))
	assert.False(t, v.book.Checked("hut/bell.go"))
	assert.True(t, v.book.Checked("hut/door.go") && v.book.Checked("hut/bell_test.go"))
}

// Without a shelf a book holds what was checked in this run; what a shelf cannot give is checked again.
func TestShelvesThatFail(t *testing.T) {
	v := newValley()
	v.book = check.NewBook(nil, v.own, func() []string { return nil })
	require.NoError(t, v.book.Add(v.hut()))
	assert.True(t, v.book.Checked("hut/bell.go"))

	v = newValley()
	v.shelf.broken = errors.New("the disk is full")
	assert.ErrorIs(t, v.book.Add(v.hut()), v.shelf.broken)
	assert.True(t, v.book.Checked("hut/bell.go"), "it is known all the same")
	v.open()
	v.shelf.records["hut"], v.shelf.heads["hut"] = [][]byte{{1, 2}, nil, []byte("nonsense")}, [][]byte{{9}}
	assert.False(t, v.book.Checked("hut/bell.go"))
	reads := v.shelf.reads
	v.book.Checked("hut/door.go")
	assert.Equal(t, reads, v.shelf.reads, "the shelf is asked once, until something changes")
}

func TestTheTextThatIsChecked(t *testing.T) {
	b := check.NewBook(nil, nil, nil)
	_, err := b.Text("/no/such/file")
	assert.Error(t, err)
	b.Read = func(name string) ([]byte, error) { return []byte("typed in " + name), nil }
	text, err := b.Text("a.go")
	assert.NoError(t, err)
	assert.Equal(t, "typed in a.go", string(text))
	assert.GreaterOrEqual(t, check.Fast.Workers(), check.Beside.Workers())
	assert.Positive(t, check.Beside.Workers())
}
