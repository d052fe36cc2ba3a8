package mending_test

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/mend"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/mending"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// mender knows some things that can be done.
type mender struct {
	all []mend.Mend
	err error
}

func (m *mender) At(context.Context, string, int) ([]mend.Mend, error) { return m.all, m.err }

// maker notes what is made.
type maker struct{ made []string }

func (m *maker) Change(p *proposal.Proposal) surface.Intent {
	m.made = append(m.made, p.Title)
	return surface.Say("made")
}

func one(doc *text.Document, title, was, now string) mend.Mend {
	p := &proposal.Proposal{Title: title}
	p.Add("hut.go", func() *text.Document { return doc }, proposal.Place{At: place.Range{Start: 0, End: uint32(len(was))}, New: now})
	return mend.Mend{Title: title, About: "nothing\ndefines opne", Proposal: p}
}

func TestMending(t *testing.T) {
	doc := text.NewDocument([]byte("opne()\n"))
	knows, makes, h := &mender{}, &maker{}, &uitest.Host{}
	m := mending.New(h, knows, makes)
	do := func(a keymap.Action) surface.Intent { return uitest.Last(uitest.Carry(m.Commands()[a]())) }
	assert.Contains(t, do(keymap.Mend).Say, "nothing here that could be mended")
	h.At = surface.Here{File: &codebase.File{Path: "hut.go", Text: doc}}
	assert.Contains(t, do(keymap.Mend).Say, "nothing is known that could be done here; % goes to the next problem")
	knows.err = errors.New("no disk")
	assert.Equal(t, "no disk", do(keymap.Mend).Say)
	knows.err, knows.all = nil, []mend.Mend{one(doc, "write open in place of opne", "opne", "open"), one(doc, "take it out", "opne()\n", "")}
	list := do(keymap.Mend).Open
	require.NotNil(t, list)
	rows := uitest.Of(list, 80, 12)
	for _, want := range []string{"nothing defines opne", "write open in place of opne", "will read: open()", "take it out", "goes: opne()"} {
		assert.Contains(t, rows, want)
	}
	assert.Empty(t, makes.made, "nothing is done before it is chosen")
	uitest.Press(list, "down", "enter")
	assert.Equal(t, []string{"take it out"}, makes.made)
	assert.Equal(t, "made", do(keymap.MendBest).Say)
	assert.Equal(t, "write open in place of opne", makes.made[1])
}
