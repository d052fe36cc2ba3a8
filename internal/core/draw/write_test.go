package draw_test

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/place"
)

func written(t *testing.T, d draw.Drawing, as draw.Format) string {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, d.Write(&b, as, &draw.Light, draw.PlaceLinks("../src")))
	return b.String()
}

// parts are the texts of the elements of a name in an SVG, which must be well formed.
func parts(t *testing.T, svg, name string) (texts []string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(svg))
	for depth := 0; ; {
		token, err := d.Token()
		if err == io.EOF {
			return texts
		}
		require.NoError(t, err)
		switch e := token.(type) {
		case xml.StartElement:
			if depth > 0 || e.Name.Local == name {
				depth++
			}
			if e.Name.Local == name {
				texts = append(texts, "")
			}
		case xml.EndElement:
			depth = max(depth-1, 0)
		case xml.CharData:
			if depth > 0 {
				texts[len(texts)-1] += string(e)
			}
		}
	}
}

func example() *draw.Scene {
	s := scene("main server", "server roster", "roster team", "team roster", "main log", "log log")
	s.Title, s.Notes = `What <main> & "board" need`, []string{"Left out: 12 of tests."}
	s.Boxes[0].Look, s.Lines[1].Look, s.Lines[3].Look, s.Lines[1].Label = draw.Present, draw.Indirect, draw.Marked, "by Assigner"
	s.Boxes[2].Details, s.Boxes[3].Name, s.Boxes[1].Badge = []string{"dispatch"}, "Team<T>", "test"
	s.Legend = []draw.Meaning{{Look: draw.Indirect, Line: true, Words: "through an interface"}, {Look: draw.Present, Words: "what was asked about"}}
	return s
}

func TestSVG(t *testing.T) {
	p := draw.Lay(example(), draw.Large)
	svg := written(t, p, draw.SVG)
	texts := parts(t, svg, "text")
	for _, want := range []string{`What <main> & "board" need`, "main", "Team<T>", "dispatch", "server test", "log " + draw.LoopMark, "function  roster.go 4", "Left out: 12 of tests."} {
		assert.Contains(t, texts, want)
	}
	assert.Contains(t, parts(t, svg, "title"), "roster.go:4", "each box says its place")
	assert.Contains(t, svg, `<a href="../src/roster.go#L4">`, "and leads to it")
	dark := &bytes.Buffer{}
	require.NoError(t, p.Write(dark, draw.SVG, &draw.Dark, nil))
	assert.NotContains(t, dark.String(), "<a ", "nothing is linked without links")
	assert.Contains(t, dark.String(), draw.Dark.Ground.String())
}

// What is drawn is written alike each time: such files are kept beside code.
func TestADrawingIsWrittenAlike(t *testing.T) {
	s := scene("main server", "main roster", "main log", "server team", "server log", "roster team", "roster log", "team store", "log store")
	svg := written(t, draw.Lay(s, draw.Large), draw.SVG)
	for range 20 {
		require.Equal(t, svg, written(t, draw.Lay(s, draw.Large), draw.SVG))
	}
}

// Whatever stands in names, the file is well formed.
func TestSVGOfAnyName(t *testing.T) {
	s := scene("a b")
	s.Boxes[0].Name, s.Boxes[1].Name = "x\x00\x1b]0;y\x07<script>", "\xff\xfe & ]]>"
	svg := written(t, draw.Lay(s, draw.Medium), draw.SVG)
	assert.NotContains(t, svg, "<script>")
	assert.NotContains(t, svg, "\x1b")
	assert.NotEmpty(t, parts(t, svg, "text"))
}

func TestPDF(t *testing.T) {
	s := example()
	s.Boxes[1].Name = "山岳 صفحة"
	p := draw.Lay(s, draw.Medium)
	pdf := written(t, p, draw.PDF)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	assert.Contains(t, pdf, "/URI (../src/roster.go#L4)", "boxes lead to their places")
	assert.Contains(t, pdf, "/FontFile2", "the font is in the file")
	assert.Equal(t, 2, p.Lacking(), "letters that the font does not have are counted")
	assert.True(t, pdf == written(t, p, draw.PDF), "the same drawing is the same file")
	wide := &draw.Scene{}
	for range 400 {
		wide.Boxes = append(wide.Boxes, draw.Box{ID: strings.Repeat("w", len(wide.Boxes)+1), Name: strings.Repeat("wide", 10), Group: -1, Layer: -1})
	}
	wide.Down = true
	assert.True(t, strings.HasPrefix(written(t, draw.Lay(wide, draw.Small), draw.PDF), "%PDF-"), "one that no page could hold is made smaller")
}

func TestTextAndMarkdown(t *testing.T) {
	p := draw.Lay(example(), draw.Small)
	text := written(t, p, draw.Text)
	assert.Contains(t, text, "┃main┃")
	assert.Contains(t, text, "╌╌▶ through an interface")
	for line := range strings.Lines(text) {
		assert.Equal(t, strings.TrimRight(line, " \n"), strings.TrimRight(line, "\n"), "no blanks at the ends of lines")
	}
	md := written(t, p, draw.Markdown)
	assert.Contains(t, md, "## What \\<main\\> & \"board\" need\n\n```text\n")
	assert.Contains(t, md, "- **server**, function, [server.go:4](<../src/server.go#L4>) → roster (by Assigner)\n")
}

func TestDOTAndJSON(t *testing.T) {
	p := draw.Lay(example(), draw.Small)
	dot := written(t, p, draw.DOT)
	assert.Contains(t, dot, `digraph "What <main> & \"board\" need" {`)
	assert.Contains(t, dot, `n1 -> n2 [label="by Assigner", style=dashed];`)
	var out struct {
		Boxes []struct {
			Name, Path string
			Line, X, Y int
		}
		Lines []struct {
			From, To int
			Look     string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(written(t, p, draw.JSON)), &out))
	assert.Len(t, out.Boxes, len(p.Boxes))
	assert.Equal(t, "roster.go", out.Boxes[2].Path)
	assert.Equal(t, "marked", out.Lines[3].Look)
}

// broken is a file on a disk that is full.
type broken struct{}

var errFull = errors.New("no space left on device")

func (broken) Write([]byte) (int, error) { return 0, errFull }

func TestWhatCannotBeWritten(t *testing.T) {
	p := draw.Lay(example(), draw.Small)
	for _, as := range draw.Formats {
		assert.ErrorContains(t, p.Write(broken{}, as, &draw.Light, nil), "writing the drawing", as)
	}
	_, err := draw.FormatOf("board.doc")
	assert.ErrorContains(t, err, "there are svg")
	for name, want := range map[string]draw.Format{".SVG": draw.SVG, "pdf": draw.PDF, "a/b.md": draw.Markdown, "text": draw.Text, ".txt": draw.Text, "markdown": draw.Markdown} {
		got, err := draw.FormatOf(name)
		assert.NoError(t, err)
		assert.Equal(t, want, got)
	}
	assert.Equal(t, "./a:b.go", draw.PlaceLinks("")("a:b.go", 0), "a colon makes no other address of it")
}

func chart() *draw.Chart {
	c := &draw.Chart{Title: "How large it is", Unit: "lines", Parts: []string{"code", "tests"}}
	for i, n := range []float64{566, 385, 348, 90, 12, 1} {
		c.Bars = append(c.Bars, draw.Bar{Name: string(rune('a'+i)) + "/", Values: []float64{n, n / 5}, Place: place.Place{Path: string(rune('a' + i))}})
	}
	return c
}

func TestCharts(t *testing.T) {
	c := chart()
	assert.Equal(t, []int{37, 7}, draw.Pieces([]float64{566, 113}, 740, 48))
	assert.Equal(t, []int{1, 1}, draw.Pieces([]float64{0.1, 0.1}, 740, 48), "what is more than nothing is seen")
	assert.Equal(t, []int{0, 0}, draw.Pieces([]float64{0, 0}, 0, 48))
	for highest, want := range map[float64][]float64{679: {0, 200, 400, 600, 800}, 7: {0, 2, 4, 6, 8}, 0: {0, 1}, 0.6: {0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6}} {
		assert.InDeltaSlice(t, want, draw.Ticks(highest, 6), 1e-9)
	}
	svg := written(t, c, draw.SVG)
	texts := parts(t, svg, "text")
	for _, want := range []string{"How large it is", "a/", "679.2", "lines", "code", "tests", "0", "200", "800"} {
		assert.Contains(t, texts, want)
	}
	assert.Contains(t, svg, `<a href="../src/a">`)
	assert.True(t, strings.HasPrefix(written(t, c, draw.PDF), "%PDF-"))
	assert.Contains(t, written(t, c, draw.Text), "█▒")
	assert.Contains(t, written(t, c, draw.Markdown), "| [a/](<../src/a>) | 679.2 | 566 | 113.2 |")
	var out struct{ Bars []struct{ Values []float64 } }
	require.NoError(t, json.Unmarshal([]byte(written(t, c, draw.JSON)), &out))
	assert.Equal(t, 566.0, out.Bars[0].Values[0])
	assert.ErrorContains(t, c.Write(io.Discard, draw.DOT, &draw.Light, nil), "not written as dot")
}

// Areas fill their rectangle, do not overlap, and are as large as their numbers.
func TestAreas(t *testing.T) {
	c := chart()
	for _, size := range [][2]int{{78, 24}, {20, 40}, {200, 10}} {
		a := c.Area(size[0], size[1])
		taken := map[draw.Point]int{}
		for i, f := range a.Frames {
			for y := f.Y; y < f.Y+f.H; y++ {
				for x := f.X; x < f.X+f.W; x++ {
					_, twice := taken[draw.Point{X: x, Y: y}]
					require.False(t, twice, "bar %d at %d, %d", i, x, y)
					taken[draw.Point{X: x, Y: y}] = i
				}
			}
		}
		assert.Len(t, taken, size[0]*size[1])
		assert.Greater(t, a.Frames[0].W*a.Frames[0].H, a.Frames[1].W*a.Frames[1].H)
		for i := range a.Bars {
			for _, line := range a.Lines(i) {
				assert.LessOrEqual(t, draw.CellsOf(line), a.Frames[i].W-2)
			}
		}
	}
	c.AsMap = true
	assert.Contains(t, written(t, c, draw.Text), "│a/")
	assert.Contains(t, parts(t, written(t, c, draw.SVG), "text"), "a/")
	assert.True(t, strings.HasPrefix(written(t, c, draw.PDF), "%PDF-"))
	assert.NotPanics(t, func() { (&draw.Chart{Bars: []draw.Bar{{Values: []float64{0}}}}).Area(10, 10) })
}
