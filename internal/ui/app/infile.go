package app

import (
	"cmp"
	"context"
	"sort"

	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/find"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// inFile is the search in the file on the screen. What it found stays marked
// when it is closed by Enter, and can be gone through until Esc.
type inFile struct {
	input  textinput.Model
	how    find.Query
	file   *workspace.File
	from   int         // where the caret was
	within place.Range // what is looked through, if not all; see where
	where  string
	hits   []place.Range
	err    error
	looked bool // hits are those of what is typed
	taking bool // Enter was pressed before they were there
	number int
	cancel context.CancelFunc
}

// mostInFile is how many places are marked at the most.
const mostInFile = 100_000

// inFileMsg brings the places that were found.
type inFileMsg struct {
	number int
	hits   []place.Range
	err    error
}

func newInFile() inFile {
	in := entry.New()
	return inFile{input: in}
}

func (m *Model) openInFile() {
	f := m.code.File()
	if f == nil || f.Text.Binary() {
		m.say("there is no text here to look through")
		return
	}
	m.remember()
	m.clearInFile()
	s := &m.inFile
	s.input.Reset()
	s.file, s.from = f, m.code.Offset()
	s.within, s.where = m.code.Selection(), " in the selection"
	if s.within.Len() == 0 {
		s.within, s.where = m.code.Solo(), " in what is alone here"
	}
	if s.within.Len() == 0 {
		s.where = ""
	}
	t := m.ws.State().Text
	s.how.Word, s.how.Case, s.how.Regexp = t.Word, t.Case, t.Regexp
	m.overlay = inFileOverlay
}

// clearInFile takes the marks away.
func (m *Model) clearInFile() {
	m.inFile.hits, m.inFile.err, m.inFile.looked, m.inFile.taking = nil, nil, false, false
	m.inFile.number++
	if m.inFile.cancel != nil {
		m.inFile.cancel()
		m.inFile.cancel = nil
	}
	m.code.Found(nil)
}

// inFileKey acts on a key while one types what to look for.
func (m *Model) inFileKey(k tea.KeyPressMsg) tea.Cmd {
	s := &m.inFile
	switch k.String() {
	case "esc":
		m.clearInFile()
		return m.restore()
	case "enter":
		if s.taking = s.input.Value() != "" && !s.looked; !s.taking {
			m.stayInFile()
		}
		return nil
	case "down", "ctrl+n":
		return m.nextHit(true)
	case "up", "ctrl+p":
		return m.nextHit(false)
	case "tab":
		return m.takeWord()
	case "alt+w":
		s.how.Word = !s.how.Word
	case "alt+c":
		s.how.Case = !s.how.Case
	case "alt+r":
		s.how.Regexp = !s.how.Regexp
	default:
		return m.inFileEdit(k)
	}
	return m.lookInFile()
}

// stayInFile closes the search where it is and leaves the marks.
func (m *Model) stayInFile() {
	m.inFile.taking = false
	m.closeOverlay()
	if len(m.inFile.hits) == 0 {
		m.clearInFile()
		m.say("nothing was found")
		return
	}
	if m.desk.on != "" {
		m.say("%s; Alt+N and Alt+P go on, Ctrl+E f puts a caret at each", m.whichHit())
		return
	}
	m.say("%s; n and p go on, Esc takes the marks away", m.whichHit())
}

// takeWord looks for the word that was under the caret.
func (m *Model) takeWord() tea.Cmd {
	s := &m.inFile
	m.code.To(s.from)
	word := m.code.WordHere()
	if word == "" {
		return nil
	}
	s.input.SetValue(word)
	s.input.CursorEnd()
	return m.lookInFile()
}

func (m *Model) inFileEdit(msg tea.Msg) tea.Cmd {
	s := &m.inFile
	before := s.input.Value()
	s.input, _ = s.input.Update(msg)
	if s.input.Value() == before {
		return nil
	}
	return m.lookInFile()
}

// lookInFile looks for what is typed, as a command.
func (m *Model) lookInFile() tea.Cmd {
	s := &m.inFile
	m.clearInFile()
	q := s.how
	q.Pattern = s.input.Value()
	if q.Pattern == "" {
		m.code.To(s.from)
		return tea.Batch(m.caretMoved(), m.repaint())
	}
	ctx, cancel := context.WithCancel(context.Background())
	s.cancel = cancel
	number, text, from := s.number, s.file.Text.Bytes(), 0
	if s.within.Len() > 0 {
		from = int(s.within.Start)
		text = s.within.In(text)
	}
	return func() tea.Msg {
		matcher, err := find.Compile(q)
		if err != nil {
			return inFileMsg{number, nil, err}
		}
		var hits []place.Range
		matcher.All(text, func(h find.Match) bool {
			hits = append(hits, place.Range{Start: uint32(from + h.Start), End: uint32(from + h.End)})
			return len(hits) < mostInFile && ctx.Err() == nil
		})
		if ctx.Err() != nil {
			return nil
		}
		return inFileMsg{number, hits, nil}
	}
}

// foundInFile marks what was found and goes to the first of it from where the
// caret was.
func (m *Model) foundInFile(msg inFileMsg) tea.Cmd {
	s := &m.inFile
	if msg.number != s.number {
		return nil
	}
	s.hits, s.err, s.looked = msg.hits, msg.err, true
	m.code.Found(s.hits)
	if len(s.hits) == 0 {
		m.code.To(s.from)
	} else {
		m.toHit(m.hitFrom(s.from))
	}
	if s.taking {
		m.stayInFile()
	}
	return tea.Batch(m.caretMoved(), m.repaint())
}

// hitFrom is the number of the first hit that does not end before an offset;
// behind the last, it is the first.
func (m *Model) hitFrom(offset int) int {
	hits := m.inFile.hits
	i := sort.Search(len(hits), func(i int) bool { return int(hits[i].End) > offset })
	return i % len(hits)
}

func (m *Model) toHit(number int) {
	h := m.inFile.hits[number]
	m.code.To(int(h.Start))
	m.code.Point(h)
}

// nextHit goes to the next hit, or the one before, and round at the ends.
func (m *Model) nextHit(forward bool) tea.Cmd {
	s := &m.inFile
	if len(s.hits) == 0 || s.file != m.code.File() {
		m.say("nothing is being looked for in this file; / does")
		return nil
	}
	offset := m.code.Offset()
	next := sort.Search(len(s.hits), func(i int) bool { return int(s.hits[i].Start) > offset })
	round := ""
	switch {
	case forward && next == len(s.hits):
		next, round = 0, ", from the beginning again"
	case !forward:
		next = sort.Search(len(s.hits), func(i int) bool { return int(s.hits[i].Start) >= offset }) - 1
		if next < 0 {
			next, round = len(s.hits)-1, ", from the end again"
		}
	}
	m.toHit(next)
	m.say("%s%s", m.whichHit(), round)
	return tea.Batch(m.caretMoved(), m.repaint())
}

// whichHit says which of how many the caret is on.
func (m *Model) whichHit() string {
	hits := m.inFile.hits
	return sheet.Number(m.hitFrom(m.code.Offset())+1) + " of " + sheet.Count(len(hits), "place", "places") + m.inFile.where
}

const inFilePrompt = " look for  "

// inFileLine is the line in which one types what to look for.
func (m *Model) inFileLine(p *palette.Palette) string {
	s := &m.inFile
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(m.width).Put(inFilePrompt, palette.On(p.Here, p.Sheet).Strong())
	r.Put(ink.CutFront(s.input.Value(), max(m.width/2, 10)), palette.On(p.Text, p.Sheet).Strong()).Put("   ", quiet)
	right := "   " + sheet.Toggle("Alt+W", "words", s.how.Word) + "  " + sheet.Toggle("Alt+C", "case", s.how.Case) + "  " + sheet.Toggle("Alt+R", "regular", s.how.Regexp)
	switch {
	case s.err != nil:
		r.Put(ink.Cut(s.err.Error(), max(r.Left()-ink.Width(right)-2, 20)), palette.On(p.Problem, p.Sheet))
	case s.input.Value() == "":
		r.Put("Tab takes the word under the caret", quiet)
	case !s.looked:
		r.Put("looking …", quiet)
	case len(s.hits) == 0:
		r.Put("it is not"+cmp.Or(s.where, " in this file"), palette.On(p.Problem, p.Sheet))
	default:
		r.Put(m.whichHit(), quiet)
	}
	return r.End(right+" ", quiet, quiet).String(quiet)
}
