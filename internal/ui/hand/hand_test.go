package hand

import (
	"context"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/disk/system"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func at(words string, line int) (*Model, *uitest.Host) {
	h := &uitest.Host{At: surface.Here{File: &codebase.File{Path: "huts/tarn.go", Text: text.NewDocument([]byte(words))}, View: trail.View{Place: place.Place{Path: "huts/tarn.go", Line: line, Col: 1}}}}
	return New(h, func(p string) string { return "/valley/" + p }), h
}

func TestWhatIsCopied(t *testing.T) {
	m, h := at("one\ntwo\nthree", 2)
	do := func(a keymap.Action) surface.Copy { return *m.Commands()[a]().Copy }
	assert.Equal(t, surface.Copy{Text: "huts/tarn.go", What: "huts/tarn.go"}, do(keymap.CopyPath))
	assert.Equal(t, "/valley/huts/tarn.go", do(keymap.CopyAbsolute).Text)
	assert.Equal(t, "huts/tarn.go:2", do(keymap.CopyLine).Text)
	assert.Equal(t, surface.Copy{Text: "two\n", What: "line 2"}, do(keymap.CopyText))
	h.At.Selection = place.Range{Start: 1, End: 6}
	assert.Equal(t, surface.Copy{Text: "ne\ntw", What: "the selection, 5 bytes,"}, do(keymap.CopyText))
	assert.Equal(t, "huts/tarn.go", m.Commands()[keymap.Edit]().Edit)
	assert.Equal(t, "huts/tarn.go", m.Commands()[keymap.OpenOutside]().Desktop)
}

func TestWhatCannotBeCopied(t *testing.T) {
	m, h := at("a\x00b", 1)
	assert.Equal(t, surface.Say("there is no text here to copy"), m.Commands()[keymap.CopyText]())
	h.At = surface.Here{}
	for a, do := range m.Commands() {
		assert.Equal(t, surface.Say("no file is shown that could be handed on"), do(), a)
	}
}

func TestWhatIsSaidOfACopy(t *testing.T) {
	for _, c := range []struct {
		size int
		err  error
		said string
	}{
		{3, nil, "line 7 is copied"},
		{3, system.ErrNoClipboard, "line 7 is handed to the terminal's clipboard"},
		{3, errors.New("it is shut"), "line 7 is handed to the terminal's clipboard; it is shut"},
		{mostForTerminal + 1, system.ErrNoClipboard, "line 7 is too much for the terminal's clipboard"},
	} {
		m, _ := at("x", 1)
		got := ""
		m.copy = func(_ context.Context, text string) error { got = text; return c.err }
		words := strings.Repeat("x", c.size)
		all := uitest.Carry(surface.Begin(m.Copy(surface.Copy{Text: words, What: "line 7"}, 80)))
		assert.Equal(t, c.said, uitest.Last(all).Say)
		assert.Equal(t, words, got)
	}
}
