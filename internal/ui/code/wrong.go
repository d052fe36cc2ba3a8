package code

import (
	"slices"
	"sort"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Trouble is something that is wrong in the text.
type Trouble struct {
	At place.Range
	// Text says what is wrong, By who says so.
	Text, By string
	// Grave says that the code does not do what it should.
	Grave bool
	// Compiled says that a compiler said so, which may take a while to say something else.
	Compiled bool
}

// Line is what is wrong in one line.
func (t *Trouble) Line() string { return text.Visible(strings.Join(strings.Fields(t.Text), " ")) }

// Sign is something else that is known of a line: what became of a test, or that nothing ran it.
type Sign struct {
	At place.Range
	// Mark stands in the margin, of one column; "" for Bare.
	Mark string
	// Grave says that it is drawn as what is wrong is.
	Grave bool
	// Bare says that no test ran the line.
	Bare bool
}

// troubles are those of a text, and the signs at its lines.
type troubles struct {
	of    *text.Document
	all   []Trouble // by where they begin
	signs []Sign    // by where they begin
}

// Sign shows signs at the lines of a text, in order. What is written after that is followed.
func (m *Model) Sign(of *text.Document, all []Sign) {
	if m.file == nil {
		return
	}
	if m.wrong.of != m.file.Text {
		m.wrong = troubles{of: m.file.Text}
	}
	m.wrong.signs = all
	if of != m.file.Text {
		m.wrong.signs = movedSigns(all, text.Between(of, m.file.Text))
	}
}

func movedSigns(all []Sign, edits []text.Edit) []Sign {
	all = slices.Clone(all)
	for i := range all {
		at := &all[i].At
		at.Start, at.End = uint32(text.Moved(int(at.Start), edits)), uint32(text.Moved(int(at.End), edits))
	}
	return all
}

// signOf is the sign in the margin of a line, and whether no test ran it.
func (m *Model) signOf(line int) (sign Sign, ok, bare bool) {
	if m.wrong.of != m.file.Text || len(m.wrong.signs) == 0 {
		return sign, false, false
	}
	all := m.wrong.signs
	start := m.file.Text.Offset(line, 1)
	end := start + len(m.file.Text.Line(line))
	for i := sort.Search(len(all), func(i int) bool { return int(all[i].At.Start) >= start }); i < len(all) && int(all[i].At.Start) <= end; i++ {
		if all[i].Bare {
			bare = true
		} else if !ok || all[i].Grave {
			sign, ok = all[i], true
		}
	}
	return sign, ok, bare
}

// Signs are those that are shown, in order.
func (m *Model) Signs() []Sign {
	if m.file == nil || m.wrong.of != m.file.Text {
		return nil
	}
	return m.wrong.signs
}

// Wrong marks what is wrong in a text, in order. What is written after that is followed.
func (m *Model) Wrong(of *text.Document, all []Trouble) {
	signs := m.Signs()
	m.wrong = troubles{of: of, all: all}
	if m.file != nil && m.file.Text != of {
		m.followWrong(of, m.file.Text, nil)
	}
	m.wrong.signs = signs
}

// Troubles are what is known to be wrong in the text that is shown, in order.
func (m *Model) Troubles() []Trouble {
	if m.file == nil || m.wrong.of != m.file.Text {
		return nil
	}
	return m.wrong.all
}

// followWrong has the marks follow edits; nil for edits that are not known.
func (m *Model) followWrong(was, now *text.Document, edits []text.Edit) {
	if len(m.wrong.all)+len(m.wrong.signs) == 0 || m.wrong.of != was || was == now {
		if m.wrong.of == was {
			m.wrong.of = now
		}
		return
	}
	if edits == nil {
		edits = text.Between(was, now)
	}
	all := slices.Clone(m.wrong.all)
	for i := range all {
		at := &all[i].At
		at.Start, at.End = uint32(text.Moved(int(at.Start), edits)), uint32(text.Moved(int(at.End), edits))
	}
	m.wrong = troubles{now, all, movedSigns(m.wrong.signs, edits)}
}

// troublesOn are those that begin on a line.
func (m *Model) troublesOn(line int) []Trouble {
	all := m.Troubles()
	if len(all) == 0 {
		return nil
	}
	start := m.file.Text.Offset(line, 1)
	end := start + len(m.file.Text.Line(line))
	first := sort.Search(len(all), func(i int) bool { return int(all[i].At.Start) >= start })
	last := first
	for last < len(all) && int(all[last].At.Start) <= end {
		last++
	}
	return all[first:last]
}

// troubleOf is what is told of a line: the gravest, or the first; ok is false if nothing is wrong on it.
func (m *Model) troubleOf(line int) (t Trouble, ok bool) {
	on := m.troublesOn(line)
	if len(on) == 0 {
		return t, false
	}
	if i := slices.IndexFunc(on, func(t Trouble) bool { return t.Grave }); i >= 0 {
		return on[i], true
	}
	return on[0], true
}

// Trouble is what is wrong where the caret is, or else on its line; ok is false if nothing is.
func (m *Model) Trouble() (t Trouble, ok bool) {
	for _, t := range m.troublesOn(m.line) {
		if at := uint32(m.Offset()); t.At.Start <= at && at < max(t.At.End, t.At.Start+1) {
			return t, true
		}
	}
	return m.troubleOf(m.line)
}

// isWrong says whether something is wrong at an offset of a line.
func isWrong(on []Trouble, offset int) bool {
	return slices.ContainsFunc(on, func(t Trouble) bool { return int(t.At.Start) <= offset && offset < int(t.At.End) })
}

// bareMark stands right in front of a line that no test ran.
const bareMark = "▏"

// wrongMark stands in the margin of a line where something is wrong, in front of what is.
const wrongMark = "!"

// roomForTrouble is how many columns have to be left behind a line to say there what is wrong.
const roomForTrouble = 16

// style is that of the mark, and of the words.
func (t *Trouble) style(p *palette.Palette, ground ink.Color) ink.Style {
	if t.Grave {
		return palette.On(p.Problem, ground).Strong()
	}
	return palette.On(p.Quiet, ground)
}

// told says behind a line what is wrong there, as far as there is room.
func (t *Trouble) told(r *ink.Row, p *palette.Palette, ground ink.Color) {
	if r.Left() >= roomForTrouble {
		st := t.style(p, ground)
		r.To(r.Used()+3, st).Put(ink.Cut(wrongMark+" "+t.Line(), r.Left()), st)
	}
}
