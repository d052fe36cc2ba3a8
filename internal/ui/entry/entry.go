// Package entry is the line one types in, as all surfaces have it.
package entry

import (
	"charm.land/bubbles/v2/key"
	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/ink"
)

// Line is what is typed in it, and the caret.
type Line struct{ textinput.Model }

// New makes an empty line that takes keys. The terminal's own cursor stands in
// it, which need not be drawn to blink.
func New() Line {
	in := textinput.New()
	in.Prompt = ""
	in.SetVirtualCursor(false)
	// Deleting a word forward fails where nothing but blanks is left of the text; and what is
	// in the clipboard is not for a line to fetch.
	in.KeyMap.DeleteWordForward, in.KeyMap.Paste = key.NewBinding(), key.NewBinding()
	in.Focus()
	return Line{in}
}

// Put writes something in place of what is typed, with the caret behind it.
func (l *Line) Put(value string) {
	l.SetValue(value)
	l.CursorEnd()
}

// Edit takes a key or what was pasted, and says whether that changed what is typed.
func (l *Line) Edit(msg tea.Msg) (changed bool) {
	before := l.Value()
	l.Model, _ = l.Update(msg)
	return l.Value() != before
}

// Shown is as much of what is typed as goes into a number of columns with the caret in sight,
// and in which column of that the caret stands, from 0. The end is shown if it can be. Fewer than 8 columns are as 8.
func (l *Line) Shown(columns int) (part string, caret int) {
	whole := l.Value()
	typed := []rune(whole)
	before := string(typed[:min(l.Position(), len(typed))])
	width, at := ink.Width(whole), ink.Width(before)
	if width < columns {
		return whole, at
	}
	columns = max(columns, 8)
	end := ink.CutFront(whole, columns-1) // one column is for a caret behind it
	if behind := width - at; ink.Width(end) > behind {
		return end, ink.Width(end) - behind
	}
	front := ink.CutFront(before, columns/2)
	rest := whole[len(before):]
	return ink.Cut(front+rest, columns-1), ink.Width(front)
}

// Behind is Shown for a line of the screen of some width, behind a prompt: column is where the
// caret stands in that line, from 0.
func (l *Line) Behind(prompt string, width int) (part string, column int) {
	front := ink.Width(prompt)
	part, column = l.Shown(max(width-front-3, 8))
	return part, front + column
}
