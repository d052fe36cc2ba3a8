package habit_test

import (
	"fmt"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/habit"
)

const day = 24 * time.Hour

func TestWhatWouldHaveHelpedIsSaidSeldom(t *testing.T) {
	var b habit.Book
	assert.True(t, b.Missed("next-symbol", true, noon))
	assert.False(t, b.Missed("next-symbol", true, noon.Add(time.Hour)), "not again soon")
	assert.False(t, b.Missed("next-symbol", true, noon.Add(6*day)))
	assert.True(t, b.Missed("next-symbol", true, noon.Add(8*day)))
	assert.True(t, b.Missed("next-symbol", true, noon.Add(16*day)))
	assert.False(t, b.Missed("next-symbol", true, noon.Add(60*day)), "who was told three times does not want it")
	assert.Equal(t, 6, b.Of("next-symbol").Missed, "it is counted all the same")
	assert.Equal(t, 3, b.Of("next-symbol").Told)
}

func TestWhatIsUsedIsNotSaid(t *testing.T) {
	var b habit.Book
	b.Did("back", false, noon)
	assert.False(t, b.Missed("back", true, noon.Add(day)), "it was used yesterday")
	assert.True(t, b.Missed("back", true, noon.Add(15*day)), "it was forgotten")
	for range habit.Known {
		b.Did("fork", false, noon)
	}
	assert.False(t, b.Missed("fork", true, noon.Add(300*day)), "it is known")
}

func TestFewAreSaidADay(t *testing.T) {
	file := filepath.Join(t.TempDir(), "habits.json")
	b, err := habit.Open(file)
	require.NoError(t, err)
	said := 0
	for i := range 10 {
		if i == 2 {
			require.NoError(t, b.Save())
			b, err = habit.Open(file)
			require.NoError(t, err, "also after a restart")
		}
		if b.Missed(fmt.Sprint("command ", i), true, noon.Add(time.Duration(i)*time.Minute)) {
			said++
		}
	}
	assert.Equal(t, 3, said)
	assert.True(t, b.Missed("command 9", true, noon.Add(day)))
}

func TestHowFarOneIs(t *testing.T) {
	var b habit.Book
	all := []habit.Command{{"scout", "find"}, {"outline", "find"}, {"crumbs", "find"}, {"solo", "fold"}, {"back", "trail"}, {"fork", "trail"}}
	for i := range 20 {
		all = append(all, habit.Command{Name: fmt.Sprint("other ", i), Group: "other"})
	}
	for range 9 {
		b.Did("scout", false, noon)
	}
	for range 6 {
		b.Did("back", false, noon)
	}
	b.Missed("solo", true, noon)
	b.Did("fork", true, noon)
	l := b.Learned(all)
	assert.Equal(t, all[:1], l.Known[:1], "the most used first")
	assert.Len(t, l.Known, 2)
	assert.Equal(t, []habit.Command{{"solo", "fold"}, {"fork", "trail"}, {"outline", "find"}, {"crumbs", "find"}}, l.Worth[:4])
	assert.Len(t, l.Worth, 4+3, "not more than three of a group of which none was asked for")
	assert.Len(t, l.Others, len(all)-2-7)
}

func TestWhatIsNotToBeSaidIsCountedAllTheSame(t *testing.T) {
	var b habit.Book
	assert.False(t, b.Missed("back", false, noon))
	assert.Equal(t, 1, b.Of("back").Missed)
	assert.Zero(t, b.Of("back").Told)
	assert.True(t, b.Missed("back", true, noon), "it was not said yet")
}
