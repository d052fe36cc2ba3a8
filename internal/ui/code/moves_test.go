package code

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

var escapes = regexp.MustCompile("\x1b\\[[0-9;]*m")

// lines are some with their numbers in them.
func lines(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "line %d\n", i+1)
	}
	return b.String()
}

// folding is a view of 20 lines, of which 3 to 6 and, inside, 4 to 5 and then 10 to 12 can be
// folded.
func folding(line int) *Model {
	m := shown(lines(20), line, 1, 60, 12)
	m.SetFolds(fold.NewSet([]fold.Region{{Line: 3, Last: 6, Depth: 1, Kind: fold.Body}, {Line: 4, Last: 5, Depth: 2}, {Line: 10, Last: 12, Depth: 1, Kind: fold.Comment}}))
	return m
}

func TestFoldedLinesArePassedOver(t *testing.T) {
	m := folding(1)
	m.Folds().FoldIf(fold.All)
	m.Refold()
	text := strings.Join(screen(m), "\n")
	assert.Contains(t, text, "    3 ≡ line 3  ≡ 3 lines folded")
	assert.NotContains(t, text, "line 4")
	m.Move(2)
	m.Move(1)
	assert.Equal(t, [2]int{7, 1}, caret(m))
	m.Side(-1)
	assert.Equal(t, [2]int{3, 7}, caret(m), "from the beginning of a line to the end of the last that is seen")
	m.Side(1)
	assert.Equal(t, [2]int{7, 1}, caret(m))
	assert.Equal(t, m.Row(), 3, "folded lines take no row")
	m.Line(11)
	assert.Equal(t, 11, caret(m)[0], "going to a line opens what hides it")
	assert.Contains(t, strings.Join(screen(m), "\n"), "line 12")
	m.To(strings.Index(lines(20), "line 5"))
	assert.Equal(t, 5, caret(m)[0])
}

func TestFoldingAroundTheCaret(t *testing.T) {
	m := folding(5)
	m.Side(3)
	_, ok := m.Folds().FoldAround(5)
	require.True(t, ok)
	m.Refold()
	assert.Equal(t, [2]int{3, 4}, caret(m), "at what is folded, in the column where it was")
	m = folding(5)
	m.Fold([]fold.Mark{{Line: 3, Text: "line 3"}, {Line: 10, Text: "line 10"}})
	assert.Equal(t, 5, caret(m)[0], "nothing is folded that would hide the caret")
	assert.True(t, m.seen.Hides(11))
	(&Model{}).Fold([]fold.Mark{{Line: 3}})
	assert.Nil(t, (&Model{}).Folds())
}

func TestAPieceAlone(t *testing.T) {
	content := lines(20)
	m := shown(content, 8, 1, 60, 12)
	piece := place.Range{Start: uint32(strings.Index(content, "line 7")), End: uint32(strings.Index(content, "line 10") - 1)}
	m.Alone(piece)
	assert.Equal(t, piece, m.Solo())
	assert.Equal(t, []string{"    7   line 7", "    8   line 8", "    9   line 9"}, screen(m)[:3])
	assert.Empty(t, screen(m)[3])
	m.Move(99)
	assert.Equal(t, 9, caret(m)[0])
	m.Line(1)
	assert.Equal(t, 7, caret(m)[0], "the first that is to be seen")
	m.To(0)
	assert.Equal(t, [2]int{1, 1}, caret(m))
	assert.Zero(t, m.Solo().Len(), "what does not hold the caret is not alone any more")
}

func TestSelectingMoreAndLess(t *testing.T) {
	content := lines(200)
	m := shown(content, 100, 3, 60, 12)
	at := m.Offset()
	word := place.Range{Start: uint32(at - 2), End: uint32(at + 2)}
	m.Select(word)
	m.Select(place.Range{Start: uint32(at - 2), End: uint32(strings.Index(content, "line 105"))})
	first, last := m.Shown()
	assert.True(t, first <= 100 && last >= 105, "all of it is in sight")
	m.Select(place.Range{Start: 0, End: uint32(len(content))})
	assert.Equal(t, [2]int{1, 1}, caret(m))
	assert.True(t, m.Shrink() && m.Shrink())
	assert.Equal(t, word, m.Selection())
	assert.True(t, m.Shrink())
	assert.Equal(t, [2]int{100, 3}, caret(m), "back where one was")
	assert.False(t, m.Shrink())
	m.Select(word)
	m.Unselect()
	assert.False(t, m.Shrink())
}

func TestLookingWithoutTheCaret(t *testing.T) {
	m := shown(lines(100), 50, 1, 60, 12)
	m.Slide(30)
	assert.False(t, m.InSight())
	_, _, ok := m.Cursor()
	assert.False(t, ok)
	assert.Equal(t, 50, caret(m)[0])
	m.ToCaret()
	assert.True(t, m.InSight())
	m.Slide(-1000)
	assert.Equal(t, 1, m.State().Top)
	m.Slide(1000)
	assert.Equal(t, 100, m.State().Top)
}

func TestALineBeyondWhatIsReadSoFar(t *testing.T) {
	whole := lines(600_000)
	file := filepath.Join(t.TempDir(), "a.txt")
	require.NoError(t, os.WriteFile(file, []byte(whole), 0o600))
	head, err := text.LoadHead(file)
	require.NoError(t, err)
	require.False(t, head.Whole())
	m := &Model{}
	m.Resize(60, 12)
	m.Show(&codebase.File{Path: "a.txt", Text: head}, trail.View{Place: place.Place{Line: 1, Col: 1}})
	m.Move(549_999)
	assert.Less(t, caret(m)[0], 550_000)
	m.Replace(&codebase.File{Path: "a.txt", Text: text.NewDocument([]byte(whole))})
	assert.Equal(t, 550_000, caret(m)[0], "where one wanted to go")
}

// Colours stay on what they are on while one types; those of what is changed go.
func TestColoursMoveAlong(t *testing.T) {
	spans := highlight.Spans{{Start: 0, End: 4, Role: highlight.Keyword}, {Start: 5, End: 9, Role: highlight.Function}, {Start: 20, End: 30, Role: highlight.Comment}}
	moved := func(edits ...text.Edit) (out [][2]int) {
		for _, s := range shift(spans, edits) {
			out = append(out, [2]int{s.Start, s.End})
		}
		return out
	}
	assert.Equal(t, [][2]int{{0, 4}, {5, 9}, {20, 30}}, moved())
	assert.Equal(t, [][2]int{{0, 4}, {5, 9}, {22, 32}}, moved(text.Edit{Start: 12, End: 12, New: []byte("ab")}))
	assert.Equal(t, [][2]int{{0, 4}, {5, 10}, {21, 31}}, moved(text.Edit{Start: 7, End: 7, New: []byte("x")}), "within a name")
	assert.Equal(t, [][2]int{{0, 4}, {5, 10}, {21, 31}}, moved(text.Edit{Start: 9, End: 9, New: []byte("x")}), "at the end of a name")
	assert.Equal(t, [][2]int{{0, 4}, {16, 26}}, moved(text.Edit{Start: 5, End: 9}), "a name that is gone")
	assert.Equal(t, [][2]int{{0, 4}, {5, 9}, {15, 21}}, moved(text.Edit{Start: 10, End: 15}, text.Edit{Start: 22, End: 26}))
}

func TestWritingOnTheScreen(t *testing.T) {
	m := folding(1)
	m.Folds().FoldIf(fold.All)
	m.Refold()
	doc := text.NewDocument([]byte(lines(20)))
	edits := []text.Edit{{Start: 0, End: 0, New: []byte("new\n")}}
	m.Retext(&codebase.File{Path: "a.txt", Text: doc.Apply(edits)}, edits)
	assert.Contains(t, strings.Join(screen(m), "\n"), "    4 ≡ line 3", "what is folded moves along")
	m.Carets(4, []int{0, 9}, []place.Range{{Start: 4, End: 8}})
	assert.Equal(t, [2]int{2, 1}, caret(m))
	m.Carets(strings.Index(lines(20), "line 5")+4, nil, nil)
	assert.Equal(t, 6, caret(m)[0], "where one writes is not hidden")
	end := m.File().Text.Len()
	m.Carets(end, nil, nil)
	assert.Equal(t, [2]int{22, 1}, caret(m), "behind the last line end")
	_, _, ok := m.Cursor()
	assert.True(t, ok)
	m.NoCarets()
	assert.Equal(t, 21, caret(m)[0])
}

// Whatever one does, the caret is on a line that is to be seen, on a character of it and on
// the screen, and each row is as wide as the view.
func TestTheCaretIsNeverLost(t *testing.T) {
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 7))
		var b strings.Builder
		for range 1 + r.IntN(60) {
			parts := []string{"\t", "snow ", "雪", "e\u0301", "x", "\x1b[31m", strings.Repeat("long ", 30), "\xff", "‏ש"}
			for range r.IntN(9) {
				b.WriteString(parts[r.IntN(len(parts))])
			}
			b.WriteString([]string{"\n", "\r\n", "\n\n"}[r.IntN(3)])
		}
		content := b.String()
		m := shown(content, 1+r.IntN(50), 1+r.IntN(20), 5+r.IntN(70), 1+r.IntN(20))
		n := m.lines
		moves := []func(){
			func() { m.Move(r.IntN(21) - 10) }, func() { m.Side(r.IntN(9) - 4) }, func() { m.Word(r.IntN(2) == 0) }, m.LineEnd, m.LineStart,
			func() { m.Page(r.Float64()*4 - 2) }, func() { m.Scroll(r.IntN(9) - 4) }, func() { m.Line(r.IntN(n + 5)) }, m.ToCaret,
			func() { m.Resize(5+r.IntN(70), 1+r.IntN(20)) }, func() { m.To(r.IntN(len(content) + 1)) }, func() { m.Flush(r.IntN(2) == 0) },
			func() {
				if first := 1 + r.IntN(n); first < n {
					m.SetFolds(fold.NewSet([]fold.Region{{Line: first, Last: first + 1 + r.IntN(n-first), Depth: 1}}))
					m.Folds().FoldIf(fold.All)
					m.Refold()
				}
			},
			func() {
				start := r.IntN(len(content))
				m.Alone(place.Range{Start: uint32(start), End: uint32(start + r.IntN(len(content)-start))})
			},
			func() {
				start := r.IntN(len(content))
				m.Select(place.Range{Start: uint32(start), End: uint32(len(content))})
			}, func() { m.Shrink() },
		}
		for step := range 200 {
			move := r.IntN(len(moves))
			moves[move]()
			what := fmt.Sprintf("seed %d, step %d, move %d, %d by %d", seed, step, move, m.width, m.height)
			line, col := m.Caret()
			require.False(t, m.seen.Hides(line), what)
			require.Equal(t, col-1, m.boundary(col-1), what)
			x, y, ok := m.Cursor()
			require.True(t, ok || m.width <= m.gutter()+8 && y >= 0 && y < m.height, "%s: the caret is at %d, %d", what, x, y)
			for _, row := range m.Rows(&palette.Plain) {
				require.Equal(t, m.width, ink.Width(escapes.ReplaceAllString(row, "")), what)
			}
		}
	}
}
