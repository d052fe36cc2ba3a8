package learned_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/learned"
	"rooktrail/internal/ui/uitest"
)

func TestHowFarOneIsWithTheKeys(t *testing.T) {
	book := &habit.Book{}
	now := time.Now()
	for range 7 {
		book.Did(string(keymap.Back), false, now)
	}
	book.Did(string(keymap.Unused), true, now)
	book.Missed(string(keymap.NextSymbol), true, now)
	s := learned.New(keymap.Default(), func() *habit.Book { return book })
	s.Resize(100, 40)
	todo := s.Commands()[keymap.Learned]()
	assert.Equal(t, s, todo.Open)
	text := uitest.Of(s, 100, 40)
	assert.Regexp(t, `(?s)worth learning next.*the next function or type.*list what nothing in this folder refers to.*known.*1 key.*back to the stop.*seldom used, or not yet`, text)
	assert.Contains(t, text, "used never by its key; it would have helped once")

	uitest.Press(s, "t", "r", "e", "e")
	text = uitest.Of(s, 100, 40)
	assert.Contains(t, text, "its family as a tree")
	assert.NotContains(t, text, "the next function or type")
	all := uitest.Press(s, "enter")
	assert.True(t, all[0].Close)
	assert.NotEmpty(t, all[0].Do)

	uitest.Press(s, "esc")
	assert.Contains(t, uitest.Of(s, 100, 40), "the next function or type", "first what is typed goes")
	assert.True(t, uitest.Press(s, "esc")[0].Close)
}
