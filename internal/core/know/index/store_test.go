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

	"rooktrail/internal/core/file/facts"
)

var ctx = context.Background()

func openTest(t *testing.T, folder string) *Store {
	s, _, err := OpenStore(folder, "/some/project")
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func known(text string) Known {
	sum := &Summary{Lines: 7, Defs: 2, Uses: 3, names: []byte{1, 2, 3, 4}}
	sum.add(&Symbol{Name: "Assign", Container: "Roster", Kind: facts.Method, Line: 42, Offset: 999})
	sum.add(&Symbol{Name: text, Kind: facts.Function, Line: 1})
	return Known{Size: int64(len(text)), Modified: 7, Content: ContentOf("Go", []byte(text)), Summary: sum}
}

func TestStoreKeepsWhatIsKnown(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "in", "here")
	s := openTest(t, folder)
	strange := "with\nline end and \xff.go"
	want := map[string]Known{"a.go": known("one"), strange: known("two")}
	require.NoError(t, s.Update(ctx, want, nil))
	got, err := openTest(t, folder).Files(ctx)
	require.NoError(t, err)
	assert.Equal(t, want, got)

	require.NoError(t, s.Update(ctx, map[string]Known{"a.go": known("three")}, []string{strange}))
	got, err = s.Files(ctx)
	require.NoError(t, err)
	assert.Equal(t, map[string]Known{"a.go": known("three")}, got)

	sum, err := s.Summary(ctx, ContentOf("Go", []byte("two")))
	require.NoError(t, err)
	assert.Equal(t, known("two").Summary, sum, "what was read once is still known by its content")
	sum, err = s.Summary(ctx, ContentOf("Python", []byte("two")))
	require.NoError(t, err)
	assert.Nil(t, sum, "read as another language it is something else")
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
				assert.NoError(t, s.Update(ctx, map[string]Known{p: known(p)}, nil))
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
	require.NoError(t, s.Update(ctx, map[string]Known{"a.go": known("one")}, nil))
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
	sum := known("one").Summary
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

// A record that was altered but can still be read is noticed, in each of its parts.
func TestRecordsThatWereAltered(t *testing.T) {
	for what, alter := range map[string]string{
		"the symbols":   `UPDATE contents SET symbols = replace(symbols, 'Assign', 'Resign')`,
		"the names":     `UPDATE contents SET names = x'01020305'`,
		"a number":      `UPDATE contents SET lines = lines + 1`,
		"the content":   `UPDATE files SET content = x'00112233445566778899aabbccddeeff'; UPDATE contents SET content = x'00112233445566778899aabbccddeeff'`,
		"when":          `UPDATE files SET modified = modified + 1`,
		"that it is so": `UPDATE contents SET given_up = 'too long'`,
		"its digest":    `UPDATE contents SET sum = NULL`,
	} {
		t.Run(what, func(t *testing.T) {
			s := openTest(t, t.TempDir())
			require.NoError(t, s.Update(ctx, map[string]Known{"a.go": known("one")}, nil))
			_, err := s.db.Exec(alter)
			require.NoError(t, err)
			_, err = s.Files(ctx)
			assert.True(t, Damaged(err), "%v", err)
		})
	}
	s := openTest(t, t.TempDir())
	require.NoError(t, s.Keep("in", "a", [16]byte{1}, []byte("head"), []byte("record")))
	require.NoError(t, s.Keep("in", "b", [16]byte{2}, []byte("other head"), []byte("another")))
	_, err := s.db.Exec(`UPDATE checked SET data = 'rekord' WHERE name = 'a'`)
	require.NoError(t, err)
	records, err := s.Records("in")
	require.NoError(t, err)
	assert.Equal(t, [][]byte{[]byte("another")}, records)
}
