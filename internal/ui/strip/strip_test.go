package strip

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

func view(path string, line int) trail.View {
	return trail.View{Place: place.Place{Path: path, Line: line, Col: 1}}
}

func drawn(t *trail.Trail, width int) (string, string) {
	rows := Rows(t, width, &palette.Plain)
	clean := regexp.MustCompile("\x1b\\[[0-9;]*m")
	return strings.TrimRight(clean.ReplaceAllString(rows[0], ""), " "), strings.TrimRight(clean.ReplaceAllString(rows[1], ""), " ")
}

func TestAFork(t *testing.T) {
	var tr trail.Trail
	tr.Go(view("main.go", 12), "", "")
	tr.Go(view("in/server.go", 88), "", "Server.routes")
	tr.Go(view("store.go", 19), "", "Store")
	tr.Go(view("store.go", 30), "", "Store.Save")
	tr.Back()
	tr.Back()
	tr.Go(view("roster.go", 42), "", "")
	upper, lower := drawn(&tr, 100)
	assert.Equal(t, " trail  main.go 12 ── routes server.go 88 ─┬─ [roster.go 42]", upper)
	assert.Equal(t, strings.Repeat(" ", 43)+"└─ Store store.go 19 +1", lower)
	tr.Back()
	upper, lower = drawn(&tr, 100)
	assert.Equal(t, " trail  main.go 12 ── [routes server.go 88] ─┬─ roster.go 42", upper)
	assert.Equal(t, strings.Repeat(" ", 45)+"└─ Store store.go 19 +1", lower)
	tr.Go(view("third.go", 3), "", "")
	_, lower = drawn(&tr, 100)
	assert.Contains(t, lower, "└─ roster.go 42 and 1 more")
}

// Of a stop one came by before, neither a way that is drawn on the walk hangs below it, nor one
// that hangs below it elsewhere.
func TestNoStopIsShownTwiceAtOnce(t *testing.T) {
	var tr trail.Trail
	for _, line := range []int{100, 200, 100, 300, 100, 400, 100} {
		tr.Go(view("a.go", line), "", "")
	}
	tr.Back()
	upper, lower := drawn(&tr, 160)
	assert.Equal(t, " trail  a.go 100 ── a.go 200 ── a.go 100 ── a.go 300 ── a.go 100 ── [a.go 400] ── a.go 100", upper)
	assert.Empty(t, lower)
	tr.Back()
	tr.Back()
	tr.Go(view("a.go", 500), "", "")
	tr.Go(view("a.go", 100), "", "")
	tr.Go(view("a.go", 600), "", "")
	upper, lower = drawn(&tr, 160)
	assert.Contains(t, upper, "[a.go 600]")
	assert.Equal(t, 1, strings.Count(lower, "a.go 400"), lower)
}

func TestThePresentStopIsAlwaysThere(t *testing.T) {
	var tr trail.Trail
	upper, _ := drawn(&tr, 40)
	assert.Equal(t, " trail", upper)
	for i := range 60 {
		tr.Go(view(fmt.Sprintf("file%d.go", i), i+1), "", "")
	}
	for i := range 30 {
		if i%2 == 0 {
			tr.Back()
		}
		for _, width := range []int{40, 60, 80, 142, 200} {
			rows := Rows(&tr, width, &palette.Plain)
			upper, _ := drawn(&tr, width)
			assert.Contains(t, upper, "[", "at width %d", width)
			assert.Contains(t, upper, "]", "at width %d", width)
			assert.Equal(t, width, ink.Width(regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(rows[0], "")))
		}
	}
	upper, _ = drawn(&tr, 80)
	assert.Contains(t, upper, "before …")
	assert.Contains(t, upper, "ahead")
}

func TestAVeryLongName(t *testing.T) {
	var tr trail.Trail
	tr.Go(view(strings.Repeat("x", 300)+".go", 1), "", "")
	tr.Go(view("b.go", 1), "", "")
	upper, _ := drawn(&tr, 60)
	assert.Contains(t, upper, "[b.go 1]")
	for _, width := range []int{60, 80, 142} {
		tr.Go(view(strings.Repeat("y", 300)+".go", 742), "", "")
		upper, _ = drawn(&tr, width)
		assert.Contains(t, upper, "… 742]", "what is cut says so, and it is not the number")
	}
}

// Going to and fro between two files does not fill the strip, and what a stop stands in is told.
func TestRepeatsAreLeftOut(t *testing.T) {
	var tr trail.Trail
	go1 := func(path string) {
		tr.Go(trail.View{Place: place.Place{Path: path, Line: 1, Col: 1}}, "", "")
		tr.Leave(trail.View{Place: place.Place{Path: path, Line: 1, Col: 1}}, "")
	}
	go1("z.go")
	for range 6 {
		go1("a.go")
		go1("b.go")
	}
	rows := Rows(&tr, 100, &palette.Plain)
	line := regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(rows[0], "")
	assert.Equal(t, 1, strings.Count(line, "a.go 1"), line)
	assert.Equal(t, 1, strings.Count(line, "[b.go 1]"), line)
	assert.Contains(t, line, "z.go 1")
	tr.Back()
	line = regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(Rows(&tr, 100, &palette.Plain)[0], "")
	assert.Contains(t, line, "[a.go 1]")
}
