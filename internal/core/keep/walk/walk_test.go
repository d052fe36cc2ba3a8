package walk_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
)

func at(path string, line int) trail.View {
	return trail.View{Place: place.Place{Path: path, Line: line, Col: 1}}
}

// hunt is a trail with a fork, notes and a star.
func hunt() *trail.Trail {
	t := &trail.Trail{Name: "why it fails"}
	t.Go(at("README.md", 1), "the beginning", "")
	t.Go(at("dispatch/roster.go", 59), "symbol: assign", "Roster.Assign")
	t.SetNote(t.Here(), "here a team is *chosen*")
	t.Go(at("dispatch/geo.go", 9), "definition of Distance", "Distance")
	t.Back()
	t.Go(at("store/a b.go", 3), "file: store", "")
	t.SetStarred(t.Here(), true)
	return t
}

type lines []string

func (l lines) Lines() int        { return len(l) }
func (l lines) Line(n int) []byte { return []byte(l[n-1]) }
func source(path string) place.Lines {
	if path == "README.md" {
		return nil // it cannot be read
	}
	var l lines
	for n := 1; n < 80; n++ {
		l = append(l, "code "+strings.Repeat("`", n%5))
	}
	return l
}

func TestAWalkIsTheTrailAgain(t *testing.T) {
	tr := hunt()
	w := walk.OfTrail(tr.Name, "tarn", tr.All())
	w.Around(1, 2, source)
	var b bytes.Buffer
	require.NoError(t, w.WriteJSON(&b))
	valid(t, b.Bytes())
	again, refused, err := walk.Read(&b)
	require.NoError(t, err)
	assert.Empty(t, refused)
	back := again.Trail()
	assert.Equal(t, 4, back.Count())
	fork := back.Stop(1)
	assert.Len(t, fork.Branches(), 2)
	assert.Equal(t, "here a team is *chosen*", fork.Note)
	assert.True(t, back.Stop(3).Starred)
	assert.Equal(t, "README.md", back.Here().Title(), "it begins at the beginning")
	assert.Len(t, again.Stops[3].Code, 4)
}

func valid(t *testing.T, data []byte) {
	t.Helper()
	text, err := os.ReadFile("../../../../docs/walk.schema.json")
	require.NoError(t, err)
	schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("walk.schema.json", schema))
	compiled, err := c.Compile("walk.schema.json")
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	require.NoError(t, err)
	assert.NoError(t, compiled.Validate(doc))
}

func TestMarkdown(t *testing.T) {
	tr := hunt()
	w := walk.OfTrail(tr.Name, "tarn", tr.All())
	w.Around(0, 1, source)
	var b bytes.Buffer
	require.NoError(t, w.WriteMarkdown(&b))
	for _, words := range []string{
		"# why it fails (tarn)\n", "## 2. Roster.Assign\n\n[dispatch/roster.go:59](dispatch/roster.go#L59) · symbol: assign\n\n> here a team is \\*chosen\\*\n",
		"## 4. store/a b.go ★", "(store/a%20b.go#L3)", "from 2, Roster.Assign", "\n`````go\ncode ````\ncode \n`````\n",
	} {
		assert.Contains(t, b.String(), words)
	}
}

func TestWalksOfBookmarks(t *testing.T) {
	l := bookmark.NewList("five spots")
	l.Add(bookmark.Mark{Kind: bookmark.Line, What: "F", Note: "why", Memory: place.Remember(place.Anchor{Path: "a.go", Line: 4, Col: 1, Text: "x"})})
	l.Add(bookmark.Mark{Kind: bookmark.Folder, Memory: place.Remember(place.Anchor{Path: "dir", Line: 1, Col: 1})})
	l.Add(bookmark.Mark{Kind: bookmark.Line, Memory: place.Remember(place.Anchor{Path: "gone.go", Line: 1})})
	l.Remove(2)
	w := walk.OfBookmarks(l, "tarn")
	require.Len(t, w.Stops, 2)
	assert.Equal(t, []string{"F", "why", "", "dir", "folder"}, []string{w.Stops[0].Name(), w.Stops[0].Note, w.Stops[0].Kind, w.Stops[1].Name(), w.Stops[1].Kind})
	var b bytes.Buffer
	require.NoError(t, w.WriteJSON(&b))
	valid(t, b.Bytes())
}

func TestWalksThatAreWrong(t *testing.T) {
	for text, words := range map[string]string{
		"{\n\"format\":": "not well formed in line 2",
		`{"format": 3}`:  "not well formed",
		`{}`:             "not a guided walk",
		`{"format": "rooktrail walk", "version": 9}`: "later version",
	} {
		_, _, err := walk.Read(strings.NewReader(text))
		assert.ErrorContains(t, err, words)
	}
	w, refused, err := walk.Read(strings.NewReader(`{"format": "rooktrail walk", "version": 1, "stops": [{"path": "../x", "line": 1}, {"path": "a.go", "line": 0, "from": 0}, {"path": "b.go", "line": 2, "from": 1}]}`))
	require.NoError(t, err)
	assert.Equal(t, []string{"../x"}, refused)
	require.Len(t, w.Stops, 2)
	assert.Nil(t, w.Stops[0].From)
	assert.Equal(t, 0, *w.Stops[1].From, "counted without what was refused")
	assert.Equal(t, 1, w.Stops[0].Line)
}

func FuzzRead(f *testing.F) {
	tr := hunt()
	data, _ := json.Marshal(walk.OfTrail("x", "y", tr.All()))
	f.Add(data)
	f.Add([]byte(`{"format": "rooktrail walk", "version": 1, "stops": [{"path": "a", "from": -1}, {"path": "a", "from": 99}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		w, _, err := walk.Read(bytes.NewReader(data))
		if err != nil {
			return
		}
		w.Trail()
		if err := w.WriteMarkdown(&bytes.Buffer{}); err != nil {
			t.Fatal(err)
		}
	})
}
