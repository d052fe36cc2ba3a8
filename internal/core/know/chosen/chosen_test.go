package chosen_test

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/chosen"
)

var (
	now    = time.Unix(1_800_000_000, 0)
	roster = chosen.Key{Path: "dispatch/roster.go"}
	assign = chosen.Key{Path: "dispatch/roster.go", Symbol: "Roster.Assign"}
)

func open(t *testing.T, file string) *chosen.Book {
	b, err := chosen.Open(file)
	require.NoError(t, err)
	return b
}

func TestWhatWasChosenIsWorthSomething(t *testing.T) {
	file := filepath.Join(t.TempDir(), "in", "chosen.json")
	b := open(t, file)
	assert.Zero(t, b.Worth(roster, "ro", now))
	require.NoError(t, b.Choose(roster, "ro te", now))
	require.NoError(t, b.Choose(assign, "ro.as", now))

	again := open(t, file)
	same, prefix, other := again.Worth(roster, " RO  te", now), again.Worth(roster, "ro", now), again.Worth(roster, "xyz", now)
	assert.Greater(t, same, prefix)
	assert.Greater(t, prefix, other)
	assert.Positive(t, other)
	assert.Less(t, again.Worth(roster, "xyz", now.Add(60*24*time.Hour)), other, "what is long ago is worth less")
	assert.Zero(t, again.Worth(chosen.Key{Path: "other.go"}, "ro", now))
	for range 50 {
		require.NoError(t, again.Choose(roster, "x", now))
	}
	assert.LessOrEqual(t, again.Worth(roster, "unheard of", now), 8, "often is not above a clearly better match")
}

func TestTwoProgramsDoNotLoseEachOthersChoices(t *testing.T) {
	file := filepath.Join(t.TempDir(), "chosen.json")
	a, b := open(t, file), open(t, file)
	require.NoError(t, a.Choose(roster, "a", now))
	require.NoError(t, b.Choose(assign, "b", now))
	assert.ElementsMatch(t, []chosen.Key{roster, assign}, open(t, file).Keys())
}

func TestOldChoicesMakeRoom(t *testing.T) {
	var b chosen.Book
	for i := range 600 {
		require.NoError(t, b.Choose(chosen.Key{Path: fmt.Sprint(i)}, "", now.Add(time.Duration(i)*time.Minute)))
	}
	keys := b.Keys()
	assert.Len(t, keys, 500)
	assert.Equal(t, "599", keys[0].Path)
	assert.Equal(t, "100", keys[499].Path)
}

func TestADamagedFileIsPutAside(t *testing.T) {
	file := filepath.Join(t.TempDir(), "chosen.json")
	require.NoError(t, os.WriteFile(file, []byte("{ not json"), 0o600))
	b, err := chosen.Open(file)
	require.ErrorContains(t, err, "reading what was chosen")
	assert.FileExists(t, file+".damaged")
	require.NoError(t, b.Choose(roster, "a", now))

	require.NoError(t, os.WriteFile(file, []byte(`{"version": 99}`), 0o600))
	b, err = chosen.Open(file)
	require.ErrorContains(t, err, "newer program")
	require.NoError(t, b.Choose(roster, "a", now))
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, `{"version": 99}`, string(data), "what a newer program wrote is left as it is")
}
