package index

import (
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/project"
)

func sampleListing() *Listing {
	return &Listing{
		Files: []Listed{
			{File: project.File{Path: "a.go", Size: 7, Modified: 99}, Content: Content{1, 2}},
			{File: project.File{Path: "b.go", Size: 8, Modified: -1}},
			{File: project.File{Path: "notes.txt", Size: 1}},
			{File: project.File{Path: "odd\n\xff.py"}, GivenUp: "nested too deeply", Again: 77},
		},
		Folders: []ListedFolder{{Path: ".", Modified: 5, Entries: 77}, {Path: "in/here"}},
		Beside:  []Listed{{File: project.File{Path: "/x/.gitignore", Size: 3, Modified: 4}}},
	}
}

func openSample(t testing.TB, folder string) *ListingOnDisk {
	l, err := OpenListing(folder, "/some/project")
	require.NoError(t, err)
	return l
}

func TestListingGivesWhatWasWritten(t *testing.T) {
	folder := t.TempDir()
	_, err := OpenListing(folder, "/some/project")
	assert.ErrorIs(t, err, os.ErrNotExist)
	l := sampleListing()
	require.NoError(t, WriteListing(folder, "/some/project", l))
	read := openSample(t, folder)
	assert.True(t, read.Same(l))
	assert.Equal(t, 4, read.Len())
	for i, f := range l.Files {
		at, ok := read.At(i)
		assert.True(t, ok)
		assert.Equal(t, f.File, at)
		found, ok := read.File(f.Path)
		assert.True(t, ok)
		assert.Equal(t, f.File, found)
	}
	var given []Listed
	for _, f := range l.Files {
		assert.Equal(t, f.Content, read.Content(f.Path))
		if f.GivenUp != "" {
			given = append(given, f)
		}
	}
	assert.NotEmpty(t, given)
	assert.Equal(t, given, read.GivenUp())
	assert.Zero(t, read.Content("c.go"))
	assert.True(t, read.Has("b.go"))
	assert.False(t, read.Has("c.go"))
	assert.True(t, read.IsFolder("in/here"))
	assert.False(t, read.IsFolder("in"))
	assert.Equal(t, []string{"in/here/b.go", "z/b.go"}, named(t, "b.go"))
	assert.Equal(t, []string{".", "in/here"}, slices.Collect(read.Folders()))
	folderAt, _ := read.FolderAt(0)
	assert.Equal(t, l.Folders[0], folderAt)
	assert.Equal(t, []project.File{l.Beside[0].File}, read.Beside())
	require.NoError(t, read.Close())
	l.Files[1].Size++
	assert.False(t, openSample(t, folder).Same(l))
	l.Files[1].Size--
	l.Files[3].GivenUp = ""
	assert.False(t, openSample(t, folder).Same(l))
	require.NoError(t, RemoveListing(folder, "/some/project"))
	require.NoError(t, RemoveListing(folder, "/some/project"), "which is gone")
}

// named are the files of a name in a listing where there are others.
func named(t *testing.T, base string) []string {
	folder := t.TempDir()
	l := &Listing{}
	for _, p := range []string{"a.go", "in/here/b.go", "in/here/bb.go", "z/a.go", "z/b.go"} {
		l.Files = append(l.Files, Listed{File: project.File{Path: p}})
	}
	require.NoError(t, WriteListing(folder, "/some/project", l))
	return openSample(t, folder).Named(base)
}

// Whatever happened to the file, it is not opened, or gives what was written, or says that it is damaged.
func TestADamagedListingSaysSo(t *testing.T) {
	folder := t.TempDir()
	l := sampleListing()
	require.NoError(t, WriteListing(folder, "/some/project", l))
	file := listingFile(folder, "/some/project")
	sound, err := os.ReadFile(file)
	require.NoError(t, err)
	try := func(data []byte) {
		t.Helper()
		require.NoError(t, os.WriteFile(file, data, 0o600))
		read, err := OpenListing(folder, "/some/project")
		if err == nil && !read.Same(l) {
			assert.True(t, read.Damaged())
		}
	}
	for size := 0; size < len(sound); size += 97 {
		try(sound[:size])
	}
	for i := 0; i < len(sound); i += 13 {
		flipped := slices.Clone(sound)
		flipped[i] ^= 1 << (i % 8)
		try(flipped)
	}
}

func FuzzListing(f *testing.F) {
	folder := f.TempDir()
	require.NoError(f, WriteListing(folder, "/some/project", sampleListing()))
	sound, err := os.ReadFile(listingFile(folder, "/some/project"))
	require.NoError(f, err)
	f.Add(sound)
	f.Fuzz(func(t *testing.T, data []byte) {
		folder := t.TempDir()
		require.NoError(t, os.WriteFile(listingFile(folder, "/some/project"), data, 0o600))
		l, err := OpenListing(folder, "/some/project")
		if err != nil {
			return
		}
		l.Same(sampleListing())
		l.Named("a.go")
		l.File("a.go")
		l.IsFolder("in")
	})
}
