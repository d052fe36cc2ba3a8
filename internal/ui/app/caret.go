package app

import (
	"context"
	"path"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/highlight"
	"rooktrail/internal/core/outline"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/signpost"
)

// A question about the caret is only asked when it has stood this long, so
// that moving fast costs nothing.
const pause = 30 * time.Millisecond

// Counting where the ways lead can mean reading many files; it begins when the caret
// has stood still for as much longer.
const longerPause = 120 * time.Millisecond

// askMsg says that the caret has stood still, if number is still the latest.
type askMsg struct{ number int }

// describedMsg is what is known of the name at the caret.
type describedMsg struct {
	number int
	about  workspace.Description
	inside bool
	call   *workspace.Call // the one whose brackets are around, if there is no name
	// before and after are where a hop back and on leads.
	before, after signpost.Neighbour
}

// foundMsg brings the definitions of the name at the caret.
type foundMsg struct {
	number int
	result resolve.Result
	spots  []workspace.Spot
	on     bool // from a definition to its references
}

// caretMoved brings what depends on the caret up to date.
func (m *Model) caretMoved() tea.Cmd {
	m.asks++
	if m.stopCounting != nil {
		m.stopCounting()
	}
	number := m.asks
	var cmds []tea.Cmd
	if m.dropLeaves() {
		cmds = append(cmds, m.repaint())
	}
	m.crumbs = workspace.Crumbs(m.code.File(), m.code.Offset())
	m.sign.Working()
	return tea.Batch(append(cmds, tea.Tick(pause, func(time.Time) tea.Msg { return askMsg{number} }), m.keepLater())...)
}

// ask finds out about the name at the caret.
func (m *Model) ask(msg askMsg) tea.Cmd {
	file := m.code.File()
	if msg.number != m.asks || file == nil {
		return nil
	}
	m.sign.File(aboutFile(file)...)
	number, offset, crumbs := m.asks, m.code.Offset(), m.crumbs
	return func() tea.Msg {
		msg := m.describe(file, offset, crumbs)
		msg.number = number
		if file.Facts != nil {
			before, after := outline.Neighbours(file.Facts, offset)
			msg.before, msg.after = neighbour(file, before), neighbour(file, after)
		}
		return msg
	}
}

func neighbour(f *workspace.File, n outline.Neighbour) signpost.Neighbour {
	line, _ := f.Text.Position(int(n.At.Start))
	return signpost.Neighbour{Name: n.Name, Line: line}
}

// describe finds out about the name at an offset: or about the call in whose brackets
// that is, or about what is around.
func (m *Model) describe(file *workspace.File, offset int, crumbs []workspace.Crumb) describedMsg {
	ctx := context.Background()
	d, inside := workspace.Description{}, false
	if file.Facts != nil {
		d = m.ws.Describe(ctx, file.Path, offset)
	}
	if d.Name == "" && file.Facts != nil {
		if call, ok := m.ws.CallAround(ctx, file, offset); ok {
			return describedMsg{about: call.Description, call: &call}
		}
	}
	if d.Name == "" && len(crumbs) > 0 {
		inside = true
		d = m.ws.Describe(ctx, file.Path, int(crumbs[len(crumbs)-1].At.Start))
	}
	return describedMsg{about: d, inside: inside}
}

// aboutFile says in a few words what kind of file it is.
func aboutFile(f *workspace.File) []string {
	words := []string{path.Base(f.Path), sheet.Count(f.Text.Lines(), "line", "lines")}
	if f.Facts != nil {
		words = append(words, f.Facts.Language)
	}
	return append(words, f.Text.Encoding().String()+", "+f.Text.LineEnds().String())
}

// described shows what is known of the name, and has the places counted to which the
// ways from it lead.
func (m *Model) described(msg describedMsg) tea.Cmd {
	if msg.number != m.asks {
		return nil
	}
	m.sign.Show(msg.about, msg.inside)
	m.sign.Call(msg.call)
	m.sign.Neighbours(msg.before, msg.after)
	if m.waysWanted {
		m.waysWanted = false
		return tea.Batch(m.countLater(msg), m.allWays())
	}
	return m.countLater(msg)
}

// countLater has the ways from the name counted if the caret rests on it.
func (m *Model) countLater(msg describedMsg) tea.Cmd {
	if msg.inside || msg.call != nil || len(msg.about.Answers) == 0 {
		return nil
	}
	return tea.Tick(longerPause, func(time.Time) tea.Msg { return countMsg{msg.number, int(msg.about.At.Start)} })
}

// define looks for the definition of the name at the caret, to go there; from the
// definition itself it goes on to the references, if that is asked for.
func (m *Model) define(on bool) tea.Cmd {
	file := m.code.File()
	if file == nil || file.Facts == nil {
		m.say("there are no definitions to be had from this file")
		return nil
	}
	m.opens++
	m.going = true
	number, offset := m.opens, m.code.Offset()
	return func() tea.Msg {
		r, spots := m.ws.Definition(context.Background(), file.Path, offset)
		return foundMsg{number, r, spots, on}
	}
}

// foundDefinition goes to the definition, or shows the candidates.
func (m *Model) foundDefinition(msg foundMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil // one has gone elsewhere meanwhile
	}
	if msg.on && msg.result.Here {
		return m.goAlong(workspace.ToReferences)
	}
	cmd := m.takeDefinition(msg)
	if m.opens > msg.number && m.overlay == noOverlay {
		return cmd // and on to the file
	}
	return m.arrived(cmd)
}

func (m *Model) takeDefinition(msg foundMsg) tea.Cmd {
	r := msg.result
	switch {
	case r.Name == "":
		m.say("there is no name under the caret")
	case r.Here:
		m.say("%s is defined here", r.Name)
	case r.Outside != "":
		m.say("%s belongs to %s, which is outside this project", r.Name, r.Outside)
	case len(msg.spots) == 0 && !m.ws.Progress().Done:
		m.say("nothing read so far defines %s; the project is still being read", r.Name)
	case len(msg.spots) == 0:
		m.say("nothing in this project defines %s", r.Name)
	case msg.spots[0].Certainty == resolve.ByName && len(msg.spots) > 1:
		m.openCandidates(r.Name, msg.spots)
		return m.previewChoice()
	default:
		if msg.spots[0].Certainty == resolve.ByName {
			m.say("by name: this is the only %s that the project defines", r.Name)
		}
		return m.open(toSpot(msg.spots[0]))
	}
	return nil
}

// toSpot is the opening that goes to a definition.
func toSpot(s workspace.Spot) opening {
	symbol := s.Name
	if s.Container != "" {
		symbol = s.Container + "." + s.Name
	}
	return opening{path: s.Path, line: s.Line, col: s.Col, name: s.At, how: "definition of " + s.Name, symbol: symbol}
}

// painting keeps which part of which file has its colours.
type painting struct {
	file        *workspace.File
	first, last int // lines
	number      int
	cancel      context.CancelFunc
}

// paintedMsg brings the colours of a part of a file.
type paintedMsg struct {
	side        *side
	number      int
	first, last int
	spans       highlight.Spans
}

// Files up to this size are coloured whole; of larger ones, as many lines
// around what is shown.
const (
	paintedWhole  = 256 << 10
	paintedAround = 400
)

// paintedLines are from which line to which a large text is coloured: what is shown, and so many lines
// before and behind as are not too long.
func paintedLines(doc *text.Document, first, last int) (from, to int) {
	from, to = max(first-paintedAround, 1), min(last+paintedAround, doc.Lines())
	shown := doc.Offset(first, 1)
	for from < first && shown-doc.Offset(from, 1) > paintedWhole/4 {
		from = (from + first + 1) / 2
	}
	for to > last && doc.Offset(to+1, 1)-doc.Offset(from, 1) > paintedWhole {
		to = (to + last) / 2
	}
	return from, to
}

// repaint colours what is shown, if it has no colours yet.
func (s *side) repaint() tea.Cmd {
	file := s.code.File()
	if file == nil {
		return nil
	}
	first, last := s.code.Shown()
	if p := &s.paints; p.file == file && p.first <= first && last <= p.last {
		return nil
	}
	from, to := 1, file.Text.Lines()
	start, end := 0, file.Text.Len()
	if end > paintedWhole {
		from, to = paintedLines(file.Text, first, last)
		start, end = file.Text.Offset(from, 1), min(file.Text.Offset(to+1, 1), file.Text.Offset(from, 1)+paintedWhole)
	}
	if s.paints.cancel != nil {
		s.paints.cancel()
	}
	ctx, cancel := context.WithCancel(context.Background())
	s.paints = painting{file: file, first: from, last: to, number: s.paints.number + 1, cancel: cancel}
	number := s.paints.number
	return func() tea.Msg {
		spans := highlight.Text(ctx, path.Base(file.Path), file.Text.Slice(start, end), start, file.Facts)
		if ctx.Err() != nil {
			return nil
		}
		return paintedMsg{s, number, from, to, spans}
	}
}

// painted takes colours that were found for what the side still shows.
func (s *side) painted(msg paintedMsg) {
	if msg.number == s.paints.number && s.paints.file == s.code.File() {
		s.code.Paint(msg.spans)
	}
}
