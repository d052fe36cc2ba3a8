package app

import (
	"context"
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/fold"
	"rooktrail/internal/core/outline"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// shape carries out an action that folds, puts a piece alone on the screen or
// selects; ok is false for any other.
func (m *Model) shape(a keymap.Action, key string) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.FoldHere, keymap.FoldParent, keymap.FoldAll, keymap.FoldBodies, keymap.FoldComments, keymap.FoldLevel, keymap.FoldNone:
		return m.fold(a, key), true
	case keymap.Solo:
		return m.solo(), true
	case keymap.Grow:
		return m.grow(), true
	case keymap.Shrink:
		if !m.code.Shrink() {
			m.say("nothing is selected; + selects what the caret is in")
		}
		return m.moved(), true
	}
	return nil, false
}

// moved brings up to date what depends on where the caret is and what is in
// sight.
func (m *Model) moved() tea.Cmd { return tea.Batch(m.caretMoved(), m.repaint()) }

func (m *Model) fold(a keymap.Action, key string) tea.Cmd {
	set := m.code.Folds()
	if set == nil || m.code.File().Text.Binary() {
		m.say("there is nothing here to fold")
		return nil
	}
	if !m.code.File().Text.Whole() {
		m.say("the rest of this file is still being read; it can be folded then")
		return nil
	}
	line, _ := m.code.Caret()
	switch a {
	case keymap.FoldHere:
		if r, folded, ok := set.Toggle(line); !ok {
			m.say("nothing that could be folded is around this line")
		} else if folded {
			m.code.Line(r.Line)
		}
	case keymap.FoldParent:
		if r, ok := set.FoldAround(line); !ok {
			m.say("nothing that could be folded is around this line")
		} else {
			m.code.Line(r.Line)
		}
	default:
		m.foldAll(set, a, key)
	}
	m.code.Refold()
	return m.moved()
}

// foldAll folds by what the regions are, over all of the file.
func (m *Model) foldAll(set *fold.Set, a keymap.Action, key string) {
	want, what := fold.All, ""
	switch a {
	case keymap.FoldAll:
		if set.Any() {
			want = fold.None
		}
	case keymap.FoldNone:
		want = fold.None
	case keymap.FoldBodies:
		want, what = fold.Bodies, "; only signatures are left"
	case keymap.FoldComments:
		want = fold.Comments
	case keymap.FoldLevel:
		level, err := strconv.Atoi(key[max(len(key)-1, 0):])
		if err != nil { // it was chosen as a command
			m.prefix = "Z"
			return
		}
		want, what = fold.Level(level), " at level "+strconv.Itoa(level)+" and deeper"
	}
	n := set.FoldIf(want)
	switch {
	case n > 0:
		m.say("%s folded%s; z opens one, Z o all", sheet.Count(n, "part is", "parts are"), what)
	case a == keymap.FoldAll && !set.Foldable():
		m.say("there is nothing in this file that could be folded")
	case a == keymap.FoldAll || a == keymap.FoldNone:
		m.say("everything is open")
	default:
		m.say("there is nothing of the kind in this file")
	}
}

// solo puts the function or type around the caret alone on the screen, or
// brings the rest of the file back.
func (m *Model) solo() tea.Cmd {
	if m.code.Solo().Len() > 0 {
		m.code.Alone(place.Range{})
		return m.moved()
	}
	f := m.code.File()
	if f == nil || f.Facts == nil {
		m.say("nothing is known of the inside of this file")
		return nil
	}
	piece, ok := outline.Piece(f.Facts, m.code.Offset())
	if !ok {
		m.say("the caret is in no function or type; ] goes to the next")
		return nil
	}
	return m.showAlone(piece)
}

func (m *Model) showAlone(piece place.Range) tea.Cmd {
	m.code.Alone(piece)
	m.say("alone on the screen; [ and ] go to its neighbours, S brings the rest back")
	return m.moved()
}

// soloHop moves on to the neighbour of the piece that is alone.
func (m *Model) soloHop(forward bool) tea.Cmd {
	f := m.code.File()
	piece, ok := outline.NextPiece(f.Facts, m.code.Solo(), forward)
	if !ok {
		m.say("there is no neighbour on this side; S brings the rest of the file back")
		return nil
	}
	m.code.Alone(place.Range{})
	name := int(piece.Name.Start)
	m.code.To(name)
	m.code.Alone(piece.All)
	m.code.To(name)
	return m.moved()
}

// grownMsg brings the next larger piece around what was selected.
type grownMsg struct {
	number int
	file   *workspace.File
	piece  place.Range
	ok     bool
}

// grow selects the next larger piece, for which the syntax of the whole file may
// have to be read first.
func (m *Model) grow() tea.Cmd {
	f := m.code.File()
	if f == nil || f.Text.Binary() {
		m.say("there is nothing here to select")
		return nil
	}
	sel := m.code.Selection()
	if sel.Len() == 0 {
		at := uint32(m.code.Offset())
		sel = place.Range{Start: at, End: at}
	}
	m.opens++
	m.going = true
	number, ws := m.opens, m.ws
	return func() tea.Msg {
		piece, ok := ws.Ground(context.Background(), f).Grow(sel)
		return grownMsg{number, f, piece, ok}
	}
}

func (m *Model) grown(msg grownMsg) tea.Cmd {
	if msg.number != m.opens || msg.file != m.code.File() {
		return nil
	}
	if !msg.ok {
		m.say("all of the file is selected")
		return m.arrived(nil)
	}
	m.code.Select(msg.piece)
	first, last := fold.Lines(msg.file.Text, msg.piece)
	if first != last {
		m.say("%s selected; - goes back to less, Esc to none", sheet.Count(last-first+1, "line", "lines"))
	}
	return m.arrived(m.moved())
}
