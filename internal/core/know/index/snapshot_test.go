package index

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/project"
)

func summary(symbols ...Symbol) *Summary {
	s := &Summary{Lines: 9, Defs: len(symbols), Uses: 1}
	f := &facts.File{}
	for i := range symbols {
		s.add(&symbols[i])
		f.Defs = append(f.Defs, facts.Def{Name: symbols[i].Name})
	}
	s.names = namesOf(f)
	return s
}

func sampleListing() *Listing {
	return &Listing{
		Files: []Listed{
			{File: project.File{Path: "a.go", Size: 7, Modified: 99}, Content: Content{1, 2}, Summary: summary(Symbol{Name: "Ring", Container: "Hut", Kind: facts.Method, Line: 3, Offset: 20}, Symbol{Name: "Bell", Kind: facts.Struct, Line: 5, Offset: 50})},
			{File: project.File{Path: "b.go", Size: 8, Modified: -1}, Summary: summary(Symbol{Name: "Ring", Kind: facts.Function, Line: 1, Offset: 5})},
			{File: project.File{Path: "notes.txt", Size: 1}},
			{File: project.File{Path: "odd\n\xff.py"}, GivenUp: "nested too deeply", Summary: &Summary{GivenUp: "nested too deeply"}},
		},
		Folders: []ListedFolder{{Path: ".", Modified: 5, Entries: 77}, {Path: "in/here"}},
		Beside:  []Listed{{File: project.File{Path: "/x/.gitignore", Size: 3, Modified: 4}}},
	}
}

func opened(t *testing.T, folder string) *Snapshot {
	s, err := OpenSnapshot(folder, "/some/project")
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func TestSnapshotGivesWhatWasWritten(t *testing.T) {
	folder := t.TempDir()
	_, err := OpenSnapshot(folder, "/some/project")
	assert.ErrorIs(t, err, os.ErrNotExist)
	l := sampleListing()
	require.NoError(t, WriteSnapshot(folder, "/some/project", l))
	s := opened(t, folder)
	assert.Equal(t, l.Folders, s.Folders)
	assert.Equal(t, l.Beside, s.Beside)
	require.Len(t, s.Files, 4)
	for i := range l.Files {
		assert.Equal(t, l.Files[i].Summary, s.Summary(int32(i)), l.Files[i].Path)
		assert.Equal(t, l.Files[i].File, s.Files[i].File)
		assert.Equal(t, l.Files[i].Content, s.Files[i].Content)
		assert.Equal(t, l.Files[i].GivenUp, s.Files[i].GivenUp)
	}
	assert.True(t, s.Has("notes.txt"))
	assert.False(t, s.Has("nothing"))
	assert.True(t, s.Same(l))
	l.Files[1].Modified = 3
	assert.False(t, s.Same(l))
	require.NoError(t, RemoveSnapshot(folder, "/some/project"))
	require.NoError(t, RemoveSnapshot(folder, "/some/project"), "what is not there is removed already")
}

// An index that knows a snapshot answers as one into which all of it was put.
func TestAnIndexWithASnapshotBehindIt(t *testing.T) {
	folder := t.TempDir()
	l := sampleListing()
	require.NoError(t, WriteSnapshot(folder, "/some/project", l))
	var full, recalled Index
	for _, f := range l.Files {
		if f.Summary != nil {
			require.NoError(t, full.Put(f.Path, f.Summary))
		}
	}
	recalled.Recall(opened(t, folder))
	changed := summary(Symbol{Name: "Bell", Kind: facts.Class, Line: 2, Offset: 8})
	for _, x := range []*Index{&full, &recalled} {
		require.NoError(t, x.Put("b.go", changed))
		x.Remove("odd\n\xff.py")
	}
	same := func(what string) {
		for _, name := range []string{"Ring", "Bell", "Nothing"} {
			assert.ElementsMatch(t, full.Named(name), recalled.Named(name), "%s, %s", what, name)
			assert.Equal(t, full.Mentioning(name), recalled.Mentioning(name), "%s, %s", what, name)
		}
		for _, p := range []string{"a.go", "b.go", "notes.txt", "odd\n\xff.py", "nothing"} {
			assert.Equal(t, full.Summary(p), recalled.Summary(p), "%s, %s", what, p)
			assert.Equal(t, full.In(p), recalled.In(p), "%s, %s", what, p)
		}
	}
	same("before it was looked for by parts of a name")
	assert.Equal(t, 1, recalled.Len(), "no more was read")
	names := func(x *Index) (all []string) {
		for _, h := range x.Search(ctx, fuzzy.Parse("be"), 10) {
			all = append(all, h.Path+" "+h.Name)
		}
		return all
	}
	assert.ElementsMatch(t, names(&full), names(&recalled))
	assert.ElementsMatch(t, full.Names(), recalled.Names())
	same("afterwards")
}

func TestADamagedSnapshot(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, WriteSnapshot(folder, "/some/project", sampleListing()))
	file := snapshotFile(folder, "/some/project")
	sound, err := os.ReadFile(file)
	require.NoError(t, err)
	for at := 0; at < len(sound); at += 3 {
		broken := append([]byte{}, sound...)
		broken[at] ^= 0x55
		require.NoError(t, os.WriteFile(file, broken, 0o600))
		s, err := OpenSnapshot(folder, "/some/project")
		if err != nil {
			continue
		}
		var x Index
		x.Recall(s)
		for _, sym := range x.Named("Ring") { // what is given is right
			assert.Contains(t, []int{20, 5}, sym.Offset)
		}
		x.Mentioning("Bell")
		x.Names()
		require.NoError(t, s.Close())
	}
	for _, size := range []int{0, 3, headSize, len(sound) - 1} {
		require.NoError(t, os.WriteFile(file, sound[:size], 0o600))
		_, err := OpenSnapshot(folder, "/some/project")
		assert.Error(t, err, "cut off at %d", size)
	}
}

func TestSnapshotsOfOtherVersionsAreRemoved(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, WriteSnapshot(folder, "/some/project", sampleListing()))
	own := snapshotFile(folder, "/some/project")
	other := filepath.Join(folder, project.Slug("/some/project")+".v7-00.snapshot")
	require.NoError(t, os.WriteFile(other, nil, 0o600))
	openTest(t, folder)
	assert.FileExists(t, own)
	assert.NoFileExists(t, other)
}

func FuzzSnapshot(f *testing.F) {
	f.Add(sampleListing().encode())
	f.Add([]byte(snapshotWord + Extracted))
	f.Fuzz(func(t *testing.T, data []byte) {
		if len(data) < headSize {
			return
		}
		s := &Snapshot{file: data}
		if s.read() != nil {
			return
		}
		for i := range s.Files {
			s.Summary(int32(i))
		}
		s.named("Ring", func(Symbol) {})
	})
}
