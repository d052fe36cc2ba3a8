package tips

import (
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/keymap"
)

// How often a key is pressed until there may have been a better one.
const (
	manySteps = 6
	manyPages = 4
	veryMany  = 25
)

// better is the command that would have led in one step to where the caret has come by many; "" if there is
// none.
func (r run) better(c *code.Model) keymap.Action {
	line, _ := c.Caret()
	switch r.action {
	case keymap.Up, keymap.Down:
		if r.times >= manySteps && r.path == c.Path() && line != r.line {
			return r.acrossLines(c, line)
		}
	case keymap.Left, keymap.Right:
		if r.times >= manySteps && line == r.line {
			return r.alongTheLine(c)
		}
	case keymap.PageDown, keymap.HalfDown:
		if f := c.File(); r.times >= manyPages && f != nil && line >= f.Text.Lines()-1 {
			return keymap.FileEnd
		}
	case keymap.PageUp, keymap.HalfUp:
		if r.times >= manyPages && line == 1 {
			return keymap.FileStart
		}
	case keymap.NextSymbol, keymap.PreviousSymbol:
		if r.times >= manySteps {
			return keymap.Outline
		}
	case keymap.Back:
		if r.times >= manyPages {
			return keymap.TrailTree
		}
	}
	return ""
}

// acrossLines is what leads to the line at once.
func (r run) acrossLines(c *code.Model, line int) keymap.Action {
	f := c.File()
	if f != nil && f.Facts != nil {
		lineOf := func(offset int) int {
			n, _ := f.Text.Position(offset)
			return n
		}
		forward := r.action == keymap.Down
		at, ok := outline.Hop(f.Facts, r.offset, forward)
		if ok && lineOf(int(at.Start)) == r.line { // its own name, further on in the line
			at, ok = outline.Hop(f.Facts, int(at.Start), forward)
		}
		if ok && lineOf(int(at.Start)) == line {
			if forward {
				return keymap.NextSymbol
			}
			return keymap.PreviousSymbol
		}
		for _, id := range outline.Around(f.Facts, r.offset) {
			switch full := f.Facts.Defs[id].Full; line {
			case lineOf(max(int(full.End)-1, 0)):
				return keymap.SymbolEnd
			case lineOf(int(full.Start)):
				return keymap.SymbolStart
			}
		}
	}
	if r.times >= veryMany {
		return keymap.HalfDown
	}
	return ""
}

// alongTheLine is what leads there faster.
func (r run) alongTheLine(c *code.Model) keymap.Action {
	f := c.File()
	if f == nil {
		return ""
	}
	line, col := c.Caret()
	text := f.Text.Line(line)
	first := 0
	for first < len(text) && (text[first] == ' ' || text[first] == '\t') {
		first++
	}
	switch {
	case col-1 >= len(text)-1 && r.action == keymap.Right:
		return keymap.LineEnd
	case (col == 1 || col-1 == first) && r.action == keymap.Left:
		return keymap.LineStart
	case r.action == keymap.Left:
		return keymap.WordLeft
	}
	return keymap.WordRight
}

// words are what is said of the commands; of others that they do it, too.
var words = map[keymap.Action]string{
	keymap.NextSymbol:     "{next-symbol} goes to the next function or type",
	keymap.PreviousSymbol: "{previous-symbol} goes to the function or type before",
	keymap.SymbolStart:    "{symbol-start} goes to the beginning of this, {symbol-end} to its end",
	keymap.SymbolEnd:      "{symbol-end} goes to the end of this, {symbol-start} to its beginning",
	keymap.HalfDown:       "{half-down} scrolls half a screen, {go-line} goes to a line",
	keymap.LineEnd:        "{line-end} goes to the end of the line",
	keymap.LineStart:      "{line-start} goes to the beginning of the line",
	keymap.WordLeft:       "{word-left} goes back by words",
	keymap.WordRight:      "{word-right} goes on by words",
	keymap.FileEnd:        "{file-end} goes to the last line",
	keymap.FileStart:      "{file-start} goes to the first line",
	keymap.Outline:        "{outline} lists the functions and types of this file",
	keymap.TrailTree:      "{trail} shows the trail; from there to any stop",
	keymap.Back:           "{back} goes back to where you were, line and all",
	keymap.Forward:        "{forward} goes forward to where you were before",
	keymap.EditBack:       "{edit-back} goes to where you last changed something",
	keymap.NextView:       "{next-view} turns to the next open file",
	keymap.PreviousView:   "{previous-view} turns to the open file before",
	keymap.Definition:     "{definition} goes from a name to its definition",
	keymap.LeafDefinition: "{leaf-definition} lays a definition beside the code",
	keymap.Related:        "{related} goes to the test, header or style of a file",
	keymap.Bookmark:       "{bookmark} puts a bookmark here, {bookmarks} lists them all",
}
