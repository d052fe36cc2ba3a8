package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
)

func TestRecordsAreReadAsTheyWereWritten(t *testing.T) {
	v := newValley()
	for _, r := range []*check.Record{v.hut(), v.dispatch(), {}, {Head: check.Head{Folder: "ridge/deep", Name: "ridge_test"}, Targets: []check.Target{{Name: "ä\x00", Nested: true, Local: true, Offset: 1 << 31}}}} {
		data := r.Encode()
		again, err := check.Decode(data)
		require.NoError(t, err)
		assert.Equal(t, r.Head, again.Head)
		assert.ElementsMatch(t, r.Targets, again.Targets)
		assert.Equal(t, r.Types, again.Types)
		require.Len(t, again.Files, len(r.Files))
		for i, f := range r.Files {
			assert.Equal(t, f.Base, again.Files[i].Base)
			assert.ElementsMatch(t, f.Uses, again.Files[i].Uses)
		}
		head, err := check.DecodeHead(data)
		require.NoError(t, err, "a record begins with its head")
		assert.Equal(t, r.Head, *head)
		head, err = check.DecodeHead(r.Head.Encode())
		require.NoError(t, err)
		assert.Equal(t, r.Head, *head)
	}
}

// What is cut off, or of another version, is no record.
func TestDamagedRecords(t *testing.T) {
	data := newValley().hut().Encode()
	for n := range data {
		_, err := check.Decode(data[:n])
		assert.Error(t, err, "cut off at %d", n)
	}
	other := append([]byte{data[0] + 1}, data[1:]...)
	_, err := check.Decode(other)
	assert.ErrorContains(t, err, "malformed")
	_, err = check.DecodeHead(other)
	assert.Error(t, err)
}

func FuzzDecode(f *testing.F) {
	v := newValley()
	f.Add(v.hut().Encode())
	f.Add(v.dispatch().Encode())
	f.Add([]byte{})
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := check.Decode(data)
		if err != nil {
			return
		}
		for _, file := range r.Files { // whatever is read holds together
			for _, u := range file.Uses {
				require.Less(t, int(u.Target), len(r.Targets))
			}
		}
		for _, typ := range r.Types {
			require.Less(t, int(typ.Target), len(r.Targets))
		}
	})
}

func TestSortingUses(t *testing.T) {
	f := check.File{Uses: []check.Use{{Offset: 9, Target: 1}, {Offset: 2, Target: 3}, {Offset: 9, Target: 1}}}
	f.Sort()
	assert.Equal(t, []check.Use{{Offset: 2, Target: 3}, {Offset: 9, Target: 1}}, f.Uses)
}

// Texts are told apart by where one ends and the next begins, folders by the names and texts of
// their files and by what else the checking depends on.
func TestDigests(t *testing.T) {
	of := func(texts ...string) check.Digest {
		d := check.NewDigester()
		d.Add(texts...)
		return d.Digest()
	}
	assert.Equal(t, of("a", "b"), of("a", "b"))
	assert.NotEqual(t, of("ab"), of("a", "b"))
	assert.NotEqual(t, of("a", ""), of("a"))
	one := map[string][16]byte{"a.go": {1}, "b.go": {2}}
	assert.Equal(t, check.Folder("go", one), check.Folder("go", map[string][16]byte{"b.go": {2}, "a.go": {1}}))
	assert.NotEqual(t, check.Folder("go", one), check.Folder("other", one))
	assert.NotEqual(t, check.Folder("go", one), check.Folder("go", map[string][16]byte{"a.go": {2}, "b.go": {1}}))
}
