package compare_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/uitest"
)

func drawn(t *testing.T, m *compare.Model, width, height int) string {
	rows := m.Rows(width, &palette.Plain)
	require.Len(t, rows, height)
	for _, r := range rows {
		require.Equal(t, width, ink.Width(uitest.Text([]string{r})), r)
	}
	return uitest.Text(rows)
}

func doc(s string) *text.Document { return text.NewDocument([]byte(s)) }

func opened(base, mine, theirs string) *compare.Model {
	m := compare.New()
	d := doc(base)
	m.Open("roster.go has changed", "on disk", "yours", d, write.Regions(d, doc(mine), doc(theirs)), 16)
	return m
}

const base = "one\ntwo\nthree\nfour\nfive\nsix\nseven\neight\nnine\nten\n"

func three() *compare.Model {
	return opened(base,
		"one\nTWO\nthree\nfour\nfive\nmine\nseven\neight\nnine\nten\n",
		"one\ntwo\nthree\nfour\nfive\ntheirs\nseven\neight\nnine\nten\neleven\n")
}

func result(m *compare.Model) string {
	return string(write.Assemble(doc(base), m.Regions()).Bytes())
}

func press(m *compare.Model, keys ...string) (last compare.Event) {
	for _, k := range uitest.Keys(keys...) {
		last = m.Key(k)
	}
	return last
}

func TestWhatItShows(t *testing.T) {
	m := three()
	view := drawn(t, m, 100, 16)
	for _, want := range []string{
		"roster.go has changed   3 places differ", "on disk", "│ yours",
		"▌ place 1 of 3: the right is taken", "two", "TWO", "place 2 of 3: both are taken, marked; both sides have changed these lines",
	} {
		assert.Contains(t, view, want)
	}
	assert.Contains(t, view, "     1  one ")
	press(m, "down", "down")
	view = drawn(t, m, 100, 16)
	assert.Contains(t, view, "▌ place 3 of 3: the left is taken")
	assert.Contains(t, view, "eleven")
	press(m, "down", "pgdown", "pgdown", "pgup")
	drawn(t, m, 40, 16)
	m.Resize(5)
	drawn(t, m, 100, 5)
}

func TestWhatIsTaken(t *testing.T) {
	left, right, down, up := "left", "right", "down", "up"
	for _, c := range []struct {
		what string
		keys []string
		want string
	}{
		{"what each has changed", []string{down, right}, "one\nTWO\nthree\nfour\nfive\nmine\nseven\neight\nnine\nten\neleven\n"},
		{"both of the second", nil, "one\nTWO\nthree\nfour\nfive\n<<<<<<< yours\nmine\n=======\ntheirs\n>>>>>>> on disk\nseven\neight\nnine\nten\neleven\n"},
		{"the left of the first", []string{left, down, left}, "one\ntwo\nthree\nfour\nfive\ntheirs\nseven\neight\nnine\nten\neleven\n"},
		{"all of the disk", []string{"h"}, "one\ntwo\nthree\nfour\nfive\ntheirs\nseven\neight\nnine\nten\neleven\n"},
		{"all of one's own", []string{"l"}, "one\nTWO\nthree\nfour\nfive\nmine\nseven\neight\nnine\nten\n"},
		{"own, and both of the first", []string{"l", down, down, up, up, up, "b"}, "one\n<<<<<<< yours\nTWO\n=======\ntwo\n>>>>>>> on disk\nthree\nfour\nfive\nmine\nseven\neight\nnine\nten\n"},
	} {
		m := three()
		assert.Equal(t, compare.Nothing, press(m, append(c.keys, "?")...), c.what)
		assert.Equal(t, c.want, result(m), c.what)
	}
	assert.Equal(t, compare.Taken, press(three(), "enter"))
	assert.Equal(t, compare.Closed, press(three(), "esc"))
}

// However long the lines are, one sees what differs in them; and nothing in them reaches the
// terminal as it is.
func TestLongAndHostileLines(t *testing.T) {
	long := strings.Repeat("snow ", 1<<18)
	m := opened(long+"west"+long+"\n", long+"east"+long+"\n", long+"west"+long+"\n")
	view := drawn(t, m, 100, 16)
	assert.Contains(t, view, "west")
	assert.Contains(t, view, "east")
	m = opened(strings.Repeat("same ", 40)+"\nx\n", strings.Repeat("same ", 40)+"\ny\n", strings.Repeat("same ", 40)+"\nx\n")
	assert.Contains(t, drawn(t, m, 100, 16), "     1  same same", "what is the same is shown from the beginning")
	m = opened("a line that fits but for its end\n", "a line that fits but for its end, as it is longer\n", "a line that fits but for its end\n")
	assert.Contains(t, drawn(t, m, 130, 16), "│ a line that fits but for its end, as it is longer")
	view = drawn(t, m, 100, 16)
	assert.Contains(t, view, "as it is longer", "cut at the beginning, as it does not fit")
	m = opened("a\x1b[31mred\x07\n", "a\x1b[32mgreen\n", "a\x1b[31mred\x07\n")
	assert.NotContains(t, drawn(t, m, 100, 16), "\x1b")
	m = opened("日本語の道 depth\n", "日本語の山 depth\n", "日本語の道 depth\n")
	for width := 30; width < 60; width++ {
		drawn(t, m, width, 16)
	}
	for _, s := range []string{"", "\n", "\xff\n", "é\r\n"} {
		drawn(t, opened(s, s+"x", s+"\t\t\t\t\t\t\t\t\t\ty"), 40, 16)
	}
	drawn(t, opened("same\n", "same\n", "same\n"), 80, 16)
	press(opened("same\n", "same\n", "same\n"), "left", "down", "h", "pgdown")
}
