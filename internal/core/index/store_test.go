package index

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/facts"
)

var ctx = context.Background()

func openTest(t *testing.T, folder string) *Store {
	s, _, err := OpenStore(folder, "/some/project")
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func known(path, text string) Known {
	return Known{Size: int64(len(text)), Modified: 7, Content: ContentOf("Go", []byte(text)), Symbols: []Symbol{
		{Name: "Assign", Container: "Roster", Kind: facts.Method, Path: path, Line: 42, Offset: 999}, {Name: text, Kind: facts.Function, Path: path, Line: 1},
	}}
}

func TestStoreKeepsWhatIsKnown(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "in", "here")
	s := openTest(t, folder)
	strange := "with\nline end and \xff.go"
	want := map[string]Known{"a.go": known("a.go", "one"), strange: known(strange, "two")}
	require.NoError(t, s.Update(ctx, want, nil))
	got, err := openTest(t, folder).Files(ctx)
	require.NoError(t, err)
	assert.Equal(t, want, got)

	require.NoError(t, s.Update(ctx, map[string]Known{"a.go": known("a.go", "three")}, []string{strange}))
	got, err = s.Files(ctx)
	require.NoError(t, err)
	assert.Equal(t, map[string]Known{"a.go": known("a.go", "three")}, got)

	symbols, ok, err := s.Symbols(ctx, ContentOf("Go", []byte("two")), "b.go")
	require.NoError(t, err)
	assert.True(t, ok, "what was read once is still known by its content")
	assert.Equal(t, known("b.go", "two").Symbols, symbols)
	_, ok, err = s.Symbols(ctx, ContentOf("Python", []byte("two")), "b.py")
	require.NoError(t, err)
	assert.False(t, ok, "read as another language it is something else")
	assert.Positive(t, s.Size())
}

func TestTwoProgramsOnOneStore(t *testing.T) {
	folder := t.TempDir()
	stores := []*Store{openTest(t, folder), openTest(t, folder)}
	var wg sync.WaitGroup
	for n, s := range stores {
		wg.Go(func() {
			for i := range 50 {
				p := fmt.Sprintf("%d/%d.go", n, i)
				assert.NoError(t, s.Update(ctx, map[string]Known{p: known(p, p)}, nil))
			}
		})
	}
	wg.Wait()
	got, err := stores[0].Files(ctx)
	require.NoError(t, err)
	assert.Len(t, got, 100)
}

func TestADamagedStoreIsBegunAnew(t *testing.T) {
	folder := t.TempDir()
	s := openTest(t, folder)
	require.NoError(t, s.Update(ctx, map[string]Known{"a.go": known("a.go", "one")}, nil))
	path := s.Path()
	require.NoError(t, os.WriteFile(path, []byte(strings.Repeat("this is no store. ", 500)), 0o600))
	_ = os.Remove(path + "-wal")
	again, repaired, err := OpenStore(folder, "/some/project")
	require.NoError(t, err)
	defer again.Close()
	assert.True(t, repaired)
	got, err := again.Files(ctx)
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
	openTest(t, folder)
	assert.NoFileExists(t, old)
	assert.FileExists(t, recent)
}

func FuzzDecode(f *testing.F) {
	f.Add(encode(known("a.go", "one").Symbols))
	f.Add([]byte{0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 1})
	f.Fuzz(func(t *testing.T, b []byte) {
		symbols, err := decode(b, "a.go")
		if err != nil {
			return
		}
		again, err := decode(encode(symbols), "a.go")
		require.NoError(t, err)
		require.Equal(t, symbols, again)
	})
}
