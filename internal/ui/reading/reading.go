// Package reading is what one does with the file on the screen while one reads it: move by lines, by
// words and by meaning, fold, select, look for a text.
package reading

import (
	"context"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/selection"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Host is the program around the code.
type Host interface {
	surface.Host
	// Code is what shows the file in which the caret is.
	Code() *code.Model
	// Writing says whether letters are typed into it.
	Writing() bool
}

// Grounds knows on what selections grow; see package workspace.
type Grounds interface {
	Ground(ctx context.Context, f *codebase.File) *selection.Ground
	Related(ctx context.Context, file string) []codebase.Related
}

// Model carries out what is done with the file on the screen.
type Model struct {
	host     Host
	project  Grounds
	related  *relatives
	question askline.Surface

	beforeImports *spot // where one was before one went to the imports
}

// spot is a place in a file.
type spot struct {
	path   string
	offset int
}

// New makes one.
func New(host Host, project Grounds, keys keymap.Map) *Model {
	return &Model{host: host, project: project, related: newRelatives(host, project, keys)}
}

// Commands are what is done with the file.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{keymap.Related: m.related.open, keymap.GoLine: m.askLine}
	for a, move := range moves {
		all[a] = func() surface.Intent {
			c := m.host.Code()
			move(c)
			c.Unselect()
			return surface.Intent{Caret: true}
		}
	}
	for a, slide := range slides {
		all[a] = func() surface.Intent {
			c := m.host.Code()
			slide(c)
			return surface.Intent{Slid: true}
		}
	}
	for a, hop := range m.hops() {
		all[a] = func() surface.Intent {
			todo := hop()
			m.host.Code().Unselect()
			return todo
		}
	}
	for a, do := range m.foldings() {
		all[a] = do
	}
	all[keymap.Solo], all[keymap.Grow], all[keymap.Shrink] = m.solo, m.grow, m.shrink
	return all
}

// moves only move the caret.
var moves = map[keymap.Action]func(c *code.Model){
	keymap.Up: func(c *code.Model) { c.Move(-1) }, keymap.Down: func(c *code.Model) { c.Move(1) },
	keymap.Left: func(c *code.Model) { c.Side(-1) }, keymap.Right: func(c *code.Model) { c.Side(1) },
	keymap.WordLeft: func(c *code.Model) { c.Word(false) }, keymap.WordRight: func(c *code.Model) { c.Word(true) },
	keymap.PageUp: func(c *code.Model) { c.Page(-1) }, keymap.PageDown: func(c *code.Model) { c.Page(1) },
	keymap.HalfUp: func(c *code.Model) { c.Page(-0.5) }, keymap.HalfDown: func(c *code.Model) { c.Page(0.5) },
	keymap.LineStart: (*code.Model).LineStart, keymap.LineEnd: (*code.Model).LineEnd,
	keymap.FileStart: func(c *code.Model) { c.Line(1) }, keymap.FileEnd: func(c *code.Model) { c.Line(1 << 30) },
}

// slideStep is by how many columns one scrolls to the side.
const slideStep = 8

// slides move what is shown and not the caret.
var slides = map[keymap.Action]func(c *code.Model){
	keymap.SlideUp: func(c *code.Model) { c.Slide(-1) }, keymap.SlideDown: func(c *code.Model) { c.Slide(1) },
	keymap.SlideLeft: func(c *code.Model) { c.SlideAside(-slideStep) }, keymap.SlideRight: func(c *code.Model) { c.SlideAside(slideStep) },
	keymap.ToCaret: (*code.Model).ToCaret,
}

// solo puts the function or type around the caret alone on the screen, or
// brings the rest of the file back.
func (m *Model) solo() surface.Intent {
	c := m.host.Code()
	if c.Solo().Len() > 0 {
		c.Alone(place.Range{})
		return surface.Intent{Caret: true}
	}
	f := c.File()
	if f == nil || f.Facts == nil {
		return m.host.Here().Lack("no functions, types or sections are known in this file")
	}
	piece, ok := outline.Piece(f.Facts, c.Offset())
	if !ok {
		return surface.Say("the caret is in no function or type; {next-symbol} goes to the next")
	}
	c.Alone(piece)
	todo := surface.Say("alone on the screen; {previous-symbol} and {next-symbol} go to its neighbours, {solo} brings the rest back")
	todo.Caret = true
	return todo
}

// soloHop moves on to the neighbour of the piece that is alone.
func (m *Model) soloHop(forward bool) surface.Intent {
	c := m.host.Code()
	piece, ok := outline.NextPiece(c.File().Facts, c.Solo(), forward)
	if !ok {
		return surface.Say("there is no other function or type on this side; {solo} brings the rest of the file back")
	}
	c.Alone(place.Range{})
	name := int(piece.Name.Start)
	c.To(name)
	c.Alone(piece.All)
	c.To(name)
	return surface.Intent{Caret: true}
}

// grow selects the next larger piece, for which the syntax of the whole file may
// have to be read first.
func (m *Model) grow() surface.Intent {
	c := m.host.Code()
	f := c.File()
	if f == nil || f.Text.Binary() {
		return surface.Say("there is nothing here to select")
	}
	sel := c.Selection()
	if sel.Len() == 0 {
		at := uint32(c.Offset())
		sel = place.Range{Start: at, End: at}
	}
	type grown struct {
		piece place.Range
		ok    bool
	}
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) grown {
		piece, ok := m.project.Ground(ctx, f).Grow(sel)
		return grown{piece, ok}
	}, func(g grown) surface.Intent {
		switch {
		case c.File() != f:
			return surface.Intent{}
		case !g.ok:
			return surface.Say("all of the file is selected")
		}
		c.Select(g.piece)
		todo := surface.Intent{Caret: true}
		if first, last := fold.Lines(f.Text, g.piece); first != last {
			todo = todo.And(surface.Say("%s selected; {shrink} goes back to less, Esc to none", sheet.Count(last-first+1, "line", "lines")))
		}
		return todo
	}))
}

func (m *Model) shrink() surface.Intent {
	todo := surface.Intent{Caret: true}
	if !m.host.Code().Shrink() {
		return todo.And(surface.Say("nothing is selected; {grow} selects what the caret is in"))
	}
	return todo
}
