package fuzzy

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Corpora put together must find just what one filled at once does.
func TestAppendIsTheSameAsAdding(t *testing.T) {
	var whole, parts Corpus
	for n := range 4 {
		var part Corpus
		for i := range 50 {
			container, name := fmt.Sprintf("Team%d.", n), fmt.Sprintf("Assign%dNow", i)
			whole.Add(container+name, len(container))
			part.AddParts([]byte(container), []byte(name))
		}
		parts.Append(&part)
	}
	assert.Equal(t, whole.Len(), parts.Len())
	for i := range whole.Len() {
		want, base := whole.Text(i)
		got, gotBase := parts.Text(i)
		assert.Equal(t, want, got)
		assert.Equal(t, base, gotBase)
		assert.Equal(t, want[base:], string(parts.Base(i)))
	}
	for _, query := range []string{"as", "asn", "te3.as4", "assign12now", "team2 now"} {
		q := Parse(query)
		assert.Equal(t, whole.Search(context.Background(), q, Whole, 30), parts.Search(context.Background(), q, Whole, 30), query)
	}
}

func TestSomeAndOne(t *testing.T) {
	c := corpusOf([]string{"ring", "ringer", "ring_bell", "string"}, '_')
	q := Parse("ring")
	even := c.SearchSome(context.Background(), q, Whole, 10, func(i int) bool { return i%2 == 0 })
	for _, h := range even {
		assert.Zero(t, h.Index%2)
	}
	assert.Len(t, even, 2)
	assert.Empty(t, c.SearchSome(context.Background(), Query{}, Whole, 10, func(int) bool { return true }))
	for _, h := range c.Search(context.Background(), q, Whole, 10) {
		score, ok := c.One(q, Whole, h.Index)
		assert.True(t, ok)
		assert.Equal(t, h.Score, score, "one scores as all do")
	}
	_, ok := c.One(Parse("bell"), Whole, 0)
	assert.False(t, ok)
}

func TestMatchClosely(t *testing.T) {
	for text, want := range map[string]bool{"encoding/json": true, "javascript/objects/nodes": false, "jsno": false} {
		_, ok := Parse("json").MatchClosely(text, strings.LastIndexByte(text, '/')+1)
		assert.Equal(t, want, ok, text)
	}
}
