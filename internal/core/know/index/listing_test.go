package index

import (
	"os"
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

func TestListingGivesWhatWasWritten(t *testing.T) {
	folder := t.TempDir()
	_, err := ReadListing(folder, "/some/project")
	assert.ErrorIs(t, err, os.ErrNotExist)
	l := sampleListing()
	require.NoError(t, WriteListing(folder, "/some/project", l))
	read, err := ReadListing(folder, "/some/project")
	require.NoError(t, err)
	assert.Equal(t, l, read)
	assert.True(t, read.Same(l))
	assert.True(t, read.Has("b.go"))
	assert.False(t, read.Has("c.go"))
	l.Files[1].Size++
	assert.False(t, read.Same(l))
	require.NoError(t, RemoveListing(folder, "/some/project"))
	require.NoError(t, RemoveListing(folder, "/some/project"), "which is gone")
	_, err = ReadListing(folder, "/some/project")
	assert.ErrorIs(t, err, os.ErrNotExist)
}

// Whatever happened to the file, it is not taken for a listing.
func TestADamagedListingIsNotRead(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, WriteListing(folder, "/some/project", sampleListing()))
	file := listingFile(folder, "/some/project")
	sound, err := os.ReadFile(file)
	require.NoError(t, err)
	try := func(data []byte) {
		t.Helper()
		require.NoError(t, os.WriteFile(file, data, 0o600))
		_, err := ReadListing(folder, "/some/project")
		assert.Error(t, err)
	}
	for size := range sound {
		try(sound[:size])
	}
	for i := range sound {
		flipped := append([]byte(nil), sound...)
		flipped[i] ^= 1 << (i % 8)
		try(flipped)
	}
}
