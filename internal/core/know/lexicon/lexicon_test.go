package lexicon_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/lexicon"
)

var offers = lexicon.New([]lexicon.Entry{
	{Title: "call out a team", Phrases: []string{"dispatch", "alarm", "send a team"}},
	{Title: "close the hut", Phrases: []string{"shut", "lock up", "end of season"}},
	{Title: "callers of the hut", Phrases: []string{"who calls the hut", "incoming calls"}},
	{Title: "measure the snow", Phrases: []string{"depth", "snow depth", "centimetres", "how deep is the snow"}},
	{Title: "colour of the flag", Phrases: []string{"theme"}},
})

func TestWhatPeopleSay(t *testing.T) {
	for typed, want := range map[string]struct {
		title string
		grade lexicon.Grade
	}{
		"close the hut":       {"close the hut", lexicon.Names},
		"closing huts":        {"close the hut", lexicon.Names},
		"Dispatch":            {"call out a team", lexicon.Names},
		"disp":                {"call out a team", lexicon.Begins},
		"who calls this":      {"callers of the hut", lexicon.Begins},
		"calls incoming":      {"callers of the hut", lexicon.Within},
		"team alarm":          {"call out a team", lexicon.Scattered},
		"dispacth":            {"call out a team", lexicon.Slips},
		"coteam":              {"call out a team", lexicon.Letters},
		"color":               {"colour of the flag", lexicon.Begins},
		"depth":               {"measure the snow", lexicon.Names},
		"depth of fresh snow": {"measure the snow", lexicon.Some},
	} {
		hits := offers.Find(typed)
		if assert.NotEmpty(t, hits, typed) {
			titles := []string{"call out a team", "close the hut", "callers of the hut", "measure the snow", "colour of the flag"}
			assert.Equal(t, want.title, titles[hits[0].Index], typed)
			assert.Equal(t, want.grade, hits[0].Grade, typed)
		}
	}
	assert.Empty(t, offers.Find(""))
	assert.Empty(t, offers.Find("glacier"))
}

// What was found in the title is marked; what was found by another phrase says which.
func TestWhatIsMarked(t *testing.T) {
	hits := offers.Find("hut cl")
	require.NotEmpty(t, hits)
	assert.Equal(t, []int{0, 1, 10, 11, 12}, hits[0].At)
	assert.Empty(t, hits[0].Phrase)
	hits = offers.Find("lock up")
	assert.Equal(t, "lock up", hits[0].Phrase)
	assert.Empty(t, hits[0].At)
}
