package ink

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// plainText is a row without its colours.
func plainText(row string) string {
	return regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(row, "")
}

func TestRowIsClippedAndPadded(t *testing.T) {
	var s Style
	assert.Equal(t, "ab   ", plainText(NewRow(5).Put("ab", s).String(s)))
	assert.Equal(t, "abcde", plainText(NewRow(5).Put("abcdefg", s).Put("h", s).String(s)))
	assert.Equal(t, "abcd ", plainText(NewRow(5).Put("abcd雪", s).String(s)), "half a wide character is none")
	assert.Equal(t, "a  b ", plainText(NewRow(5).Put("a", s).To(3, s).Put("b", s).String(s)))
	assert.Equal(t, "a  zz", plainText(NewRow(5).Put("a", s).End("zz", s, s).String(s)))
	assert.Equal(t, "abcd ", plainText(NewRow(5).Put("abcd", s).End("zz", s, s).String(s)), "no room for it")
	assert.Equal(t, "", plainText(NewRow(-3).Put("x", s).String(s)))
	assert.Equal(t, "␛]0;x␇", plainText(NewRow(6).Put("\x1b]0;x\x07", s).String(s)))
}

func TestMarked(t *testing.T) {
	row := NewRow(6).Marked("aé雪b", []int{1, 3}, Style{}, Style{Underline: true}).String(Style{})
	assert.Equal(t, "\x1b[0ma\x1b[0;4mé雪\x1b[0mb \x1b[0m", row)
}

func TestColors(t *testing.T) {
	var b strings.Builder
	Style{Fore: RGB(0x010203), Back: ANSI(11), Bold: true}.begin(&b)
	Style{Fore: ANSI(3), Back: ANSI(200), Inverse: true}.begin(&b)
	assert.Equal(t, "\x1b[0;1;38;2;1;2;3;103m\x1b[0;7;33;48;5;200m", b.String())
}

func TestCutting(t *testing.T) {
	assert.Equal(t, "abc", Cut("abc", 3))
	assert.Equal(t, "ab…", Cut("abcd", 3))
	assert.Equal(t, "…", Cut("雪崩", 2))
	assert.Equal(t, "", Cut("abc", 0))
	assert.Equal(t, "…cd", CutFront("abcd", 3))
	assert.Equal(t, "…崩", CutFront("雪崩", 3))
	assert.Equal(t, 4, Width("雪崩"))
}

func TestWrap(t *testing.T) {
	assert.Equal(t, []string{"one two", "three"}, Wrap("one two three", 8))
	assert.Equal(t, []string{"a", "", "b"}, Wrap("a\n\nb", 8))
	assert.Equal(t, []string{"longwor", "d tail"}, Wrap("longword tail", 7))
	for _, l := range Wrap("short and averyveryverylongword behind it", 9) {
		assert.LessOrEqual(t, Width(l), 9)
	}
}

func TestWrapOfOneLongWord(t *testing.T) {
	word := strings.Repeat("ü", 300_000)
	lines := WrapSome(word, 30, 7)
	assert.Len(t, lines, 7)
	assert.Equal(t, strings.Repeat("ü", 30), lines[6])
	all := Wrap("a "+word+" b\n\nc", 30)
	require.Equal(t, 10_004, len(all))
	assert.Equal(t, []string{"b", "", "c"}, all[10_001:])
	assert.Equal(t, strings.Repeat("ü", 9)+"…", Cut(word, 10))
}
