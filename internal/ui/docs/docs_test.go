package docs

import (
	"context"
	"regexp"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
)

func screen(m *Model, width int) []string {
	rows := m.Rows(width, &palette.Plain)
	for i, r := range rows {
		rows[i] = strings.TrimRight(regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(r, ""), " ─")
	}
	return rows
}

func description(doc string) *answer.Description {
	d := &answer.Description{Candidates: 1, Signature: "func Ring(bells int,\n\ttimes int) error", Doc: doc}
	d.Name = "Ring"
	d.Best = answer.Answer{Answer: resolve.Answer{Path: "hut/bell.go", Name: "Ring", Kind: facts.Method, Container: "Hut", Certainty: resolve.Inferred}, Line: 7}
	return d
}

func TestASymbolIsRead(t *testing.T) {
	var m Model
	m.Show(Symbol(context.Background(), description("Ring rings *all* bells, `n` times.\n\n\tring(2)\n\n- one\n- two that goes on and on\n"), "Go"), 20)
	assert.Equal(t, []string{
		"  Hut.Ring   method   hut/…",
		"  func Ring(bells int,",
		"      times int) error",
		"",
		"  Ring rings all bells, n",
		"  times.",
		"",
		"      ring(2)",
		"",
		"    – one",
		"    – two that goes on and",
		"      on",
		"── Enter go to its",
	}, append(screen(&m, 28)[:12], "── Enter go to its"))
	assert.Equal(t, 13, m.Lines(28))
	for width := 1; width < 60; width++ {
		for _, r := range m.Rows(width, &palette.Plain) {
			assert.LessOrEqual(t, ink.Width(regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(r, "")), width)
		}
	}
}

func TestLongWordsAreScrolled(t *testing.T) {
	var m Model
	m.Show(Symbol(context.Background(), description(strings.Repeat("A line.\n\n", 30)), "Go"), 10)
	assert.Len(t, screen(&m, 80), 10)
	assert.Contains(t, screen(&m, 80)[9], "% read")
	for range 100 {
		m.Update(tea.KeyPressMsg{Code: tea.KeyPgDown})
	}
	assert.Contains(t, screen(&m, 80)[9], "100 % read")
	m.Update(tea.KeyPressMsg{Code: tea.KeyHome})
	assert.Contains(t, screen(&m, 80)[0], "Hut.Ring")
	assert.Equal(t, picker.Taken, m.Update(tea.KeyPressMsg{Code: tea.KeyEnter}))
	assert.Equal(t, picker.Closed, m.Update(tea.KeyPressMsg{Code: tea.KeyEscape}))
}

func TestTheParameterOfACall(t *testing.T) {
	ctx := context.Background()
	call := &answer.Call{Description: *description(""), Parameter: "bells int", At: place.Range{Start: 10, End: 19}, Number: 1, Of: 2}
	var m Model
	m.Show(Symbol(ctx, description("Words."), "Go").Within(Call(ctx, call)), 20)
	rows := strings.Join(screen(&m, 80), "|")
	assert.Contains(t, rows, "parameter 1 of 2: bells int||  Hut.Ring")
	call.Parameter, call.Number = "", 3
	m.Show(Call(ctx, call), 20)
	assert.Contains(t, strings.Join(screen(&m, 80), "|"), "this would be parameter 3; it takes 2")
	call.Of = 0
	m.Show(Call(ctx, call), 20)
	assert.Contains(t, strings.Join(screen(&m, 80), "|"), "it takes no parameters")
}
