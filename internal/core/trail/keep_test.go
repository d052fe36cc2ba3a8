package trail_test

import (
	"encoding/json"
	"fmt"
	"math/rand"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
)

func at(path string, line int) trail.View {
	return trail.View{Place: place.Place{Path: path, Line: line, Col: 1}, Top: max(line-3, 1)}
}

// shape writes a trail as a tree in brackets, the present stop with a star.
func shape(t *trail.Trail) string {
	var write func(s *trail.Stop) string
	write = func(s *trail.Stop) string {
		out := fmt.Sprintf("%s:%d", s.View.Place.Path, s.View.Place.Line)
		if s == t.Here() {
			out += "*"
		}
		for _, w := range s.Ways() {
			out += " (" + write(w) + ")"
		}
		return out
	}
	if t.First() == nil {
		return ""
	}
	return write(t.First())
}

// Whatever one does, the trail is the same tree after it was kept and read.
func TestAnyTrailIsKept(t *testing.T) {
	for seed := int64(1); seed <= 50; seed++ {
		random := rand.New(rand.NewSource(seed))
		var tr trail.Trail
		for range random.Intn(60) {
			switch random.Intn(5) {
			case 0:
				tr.Back()
			case 1:
				tr.Forward()
			case 2:
				tr.Leave(at("left.go", 1+random.Intn(9)))
			default:
				tr.Go(at(fmt.Sprintf("f%d.go", random.Intn(3)), 1+random.Intn(9)), "a way", "Symbol")
			}
		}
		data, err := json.Marshal(tr.Keep())
		require.NoError(t, err)
		var kept trail.Kept
		require.NoError(t, json.Unmarshal(data, &kept))
		again, err := kept.Trail()
		require.NoError(t, err)
		assert.Equal(t, shape(&tr), shape(&again))
		twice, err := json.Marshal(again.Keep())
		require.NoError(t, err)
		assert.JSONEq(t, string(data), string(twice), "with how and when one came")
	}
}

func TestGoingOnWithATrail(t *testing.T) {
	var kept, tr trail.Trail
	kept.Go(at("a.go", 1), "", "")
	kept.Go(at("b.go", 2), "", "")
	tr.Go(at("b.go", 2), "where you were", "")
	tr.Join(kept)
	assert.Equal(t, "a.go:1 (b.go:2*)", shape(&tr))
	tr.Go(at("c.go", 3), "", "")
	var fresh trail.Trail
	fresh.Join(tr)
	assert.Equal(t, "a.go:1 (b.go:2 (c.go:3*))", shape(&fresh))
}

func TestTwoProgramsHaveATrailEach(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "trails")
	one, two := trail.NewStore(folder), trail.NewStore(folder)
	k, err := one.Open()
	require.NoError(t, err)
	assert.Empty(t, k.Stops)
	_, err = two.Open()
	require.NoError(t, err)
	var a, b trail.Trail
	a.Go(at("a.go", 1), "", "")
	b.Go(at("b.go", 1), "", "")
	require.NoError(t, one.Save(a.Keep()))
	require.NoError(t, two.Save(b.Keep()))
	one.Close()
	again := trail.NewStore(folder)
	k, err = again.Open()
	require.NoError(t, err)
	require.Len(t, k.Stops, 1)
	assert.Equal(t, "a.go", k.Stops[0].Path, "the other one is being walked")
	again.Close()
	two.Close()
	files, err := filepath.Glob(filepath.Join(folder, "*.json"))
	require.NoError(t, err)
	assert.Len(t, files, 2)
}

func TestTrailsThatAreWrong(t *testing.T) {
	for words, text := range map[string]string{
		"not well formed in line 2": "{\n \"stops\": [",
		"later version":             `{"version": 99}`,
		"not before it":             `{"version": 1, "stops": [{"parent": -1}, {"parent": 7}], "here": 0}`,
		"present stop is not there": `{"version": 1, "stops": [{"parent": -1}], "here": 3}`,
	} {
		folder := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(folder, "x.json"), []byte(text), 0o600))
		st := trail.NewStore(folder)
		k, err := st.Open()
		assert.ErrorContains(t, err, words)
		assert.Empty(t, k.Stops)
		require.NoError(t, st.Save(k), "in a file of its own")
		left, err := os.ReadFile(filepath.Join(folder, "x.json"))
		require.NoError(t, err)
		assert.Equal(t, text, string(left), "left alone")
		st.Close()
	}
	st := trail.NewStore("/dev/null/trails")
	_, err := st.Open()
	assert.ErrorContains(t, err, "the trail is not kept on disk")
	assert.NoError(t, st.Save(trail.Kept{}), "it goes on in memory")
}
