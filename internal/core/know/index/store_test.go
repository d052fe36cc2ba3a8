package index

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
)

var ctx = context.Background()

func openTest(t *testing.T, folder string) *Store {
	s, _, err := OpenStore(folder, "/some/project")
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func TestADamagedStoreIsBegunAnew(t *testing.T) {
	folder := t.TempDir()
	s := openTest(t, folder)
	require.NoError(t, s.Keep("in", "a", [16]byte{1}, []byte("head"), []byte("record")))
	path := s.Path()
	require.NoError(t, os.WriteFile(path, []byte(strings.Repeat("this is no store. ", 500)), 0o600))
	_ = os.Remove(path + "-wal")
	again, repaired, err := OpenStore(folder, "/some/project")
	require.NoError(t, err)
	defer again.Close()
	assert.True(t, repaired)
	got, err := again.Records("in")
	require.NoError(t, err)
	assert.Empty(t, got)
}

func TestWhereNoStoreCanBe(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, _, err := OpenStore(file, "/some/project")
	assert.ErrorContains(t, err, "making the folder of the index")
}

func TestStoresThatNobodyUsesAreRemoved(t *testing.T) {
	folder := t.TempDir()
	old, recent := filepath.Join(folder, "old.v1.db"), filepath.Join(folder, "recent.v1.db")
	require.NoError(t, os.WriteFile(old, nil, 0o600))
	require.NoError(t, os.WriteFile(recent, nil, 0o600))
	long := time.Now().Add(-unusedFor - time.Hour)
	require.NoError(t, os.Chtimes(old, long, long))
	for _, stem := range []string{"old.v1", "recent.v1"} {
		require.NoError(t, os.MkdirAll(filepath.Join(folder, stem+".segments", "in"), 0o700))
		require.NoError(t, os.Chtimes(filepath.Join(folder, stem+".segments"), long, long))
	}
	openTest(t, folder)
	assert.NoFileExists(t, old)
	assert.FileExists(t, recent)
	assert.NoDirExists(t, filepath.Join(folder, "old.v1.segments"))
	assert.DirExists(t, filepath.Join(folder, "recent.v1.segments"), "it is not used less than its store")
}

func TestAnEarlierVersionIsCleanedUp(t *testing.T) {
	s := openTest(t, t.TempDir())
	other := func(version string) string {
		p := strings.Replace(s.Path(), mark(), ".v"+version, 1)
		require.NoError(t, os.WriteFile(p, nil, 0o600))
		return p
	}
	later := other("999-00")
	assert.False(t, s.Older(), "that of a newer program is left alone")
	earlier, before := other("1"), other(fmt.Sprintf("%d-00", storeVersion-1))
	assert.True(t, s.Older())
	assert.NoFileExists(t, earlier)
	assert.NoFileExists(t, before)
	assert.FileExists(t, later)
	assert.False(t, s.Older())
	reading := other(fmt.Sprintf("%d-00", storeVersion))
	assert.True(t, s.Older())
	assert.FileExists(t, reading, "another program may use it in turn")
	long := time.Now().Add(-otherFor - time.Hour)
	require.NoError(t, os.Chtimes(reading, long, long))
	assert.True(t, s.Older())
	assert.NoFileExists(t, reading)
	assert.FileExists(t, s.Path())
}

func FuzzSymbols(f *testing.F) {
	sum := summary(Symbol{Name: "Ring", Container: "Hut", Kind: facts.Method, Line: 3, Offset: 20})
	f.Add(sum.symbols, sum.count)
	f.Add([]byte{0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 1}, 3)
	f.Fuzz(func(t *testing.T, b []byte, count int) {
		symbols, err := (&Summary{symbols: b, count: max(count, 0)}).Symbols("a.go")
		if err != nil {
			return
		}
		again := &Summary{}
		for i := range symbols {
			again.add(&symbols[i])
		}
		got, err := again.Symbols("a.go")
		require.NoError(t, err)
		require.Equal(t, symbols, got)
	})
}

// A record that was altered but can still be read is noticed.
func TestRecordsThatWereAltered(t *testing.T) {
	s := openTest(t, t.TempDir())
	require.NoError(t, s.Keep("in", "a", [16]byte{1}, []byte("head"), []byte("record")))
	require.NoError(t, s.Keep("in", "b", [16]byte{2}, []byte("other head"), []byte("another")))
	_, err := s.db.Exec(`UPDATE checked SET data = 'rekord' WHERE name = 'a'`)
	require.NoError(t, err)
	records, err := s.Records("in")
	require.NoError(t, err)
	assert.Equal(t, [][]byte{[]byte("another")}, records)
}
