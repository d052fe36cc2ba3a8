package scout

import (
	"context"
	"fmt"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// project is a small one, of which a part may still be unread.
type project struct {
	files   []string
	symbols []index.Symbol
	text    string
	done    bool
	marks   []Remembered
	chosen  []string // after which query
}

func (p *project) Files(_ context.Context, query string, limit int) (hits []search.FileHit) {
	q := fuzzy.Parse(query)
	for _, f := range p.files {
		if m, ok := q.Match(f, strings.LastIndexByte(f, '/')+1); ok && len(hits) < limit {
			hits = append(hits, search.FileHit{Path: f, Match: m})
		}
	}
	return hits
}

func (p *project) Symbols(_ context.Context, query string, limit int) (hits []index.Hit) {
	q := fuzzy.Parse(query)
	for _, s := range p.symbols {
		if m, ok := q.Match(s.Name, 0); ok && len(hits) < limit {
			hits = append(hits, index.Hit{Symbol: s, Match: m})
		}
	}
	return hits
}

func (p *project) SearchText(_ context.Context, q find.Query, _ int, yield func([]search.TextHit) bool) (search.TextReport, error) {
	m, err := find.Compile(q)
	if err != nil {
		return search.TextReport{}, err
	}
	var hits []search.TextHit
	m.All([]byte(p.text), func(f find.Match) bool {
		at := place.Range{Start: uint32(f.Start), End: uint32(f.End)}
		hits = append(hits, search.TextHit{Place: place.Place{Path: "notes.txt", Line: 1, Col: f.Start + 1}, At: at, Mark: at, Text: p.text})
		return true
	})
	if len(hits) > 0 {
		yield(hits)
	}
	return search.TextReport{Binary: 2}, nil
}

func (p *project) Progress() codebase.Progress {
	return codebase.Progress{Files: len(p.files), Listed: true, Readable: 10, Read: 3, Done: p.done}
}

func (p *project) Choose(path, symbol, query string) error {
	p.chosen = append(p.chosen, path+" "+symbol+" "+query)
	return nil
}

func (p *project) Before(string) Before {
	return Before{Files: []string{"b/old.go", "a/older.go"}, Marks: p.marks}
}
func (p *project) Open() []string                        { return []string{"a/here.go"} }
func (p *project) Stop(number int) (surface.Visit, bool) { return surface.Visit{}, false }
func (p *project) Standings() map[keymap.Action]surface.Standing {
	return map[keymap.Action]surface.Standing{keymap.SaveFile: {Lack: "here.go has no changes to save"}, keymap.References: {On: "of Assign"}}
}
func (p *project) Recent() []keymap.Action { return []keymap.Action{keymap.Unused} }
func (p *project) Settings() *settings.Settings {
	s := settings.Settings{}.With(settings.Palette, "chalk", settings.ByUser)
	return &s
}
func (p *project) ShowSetting(key string) surface.Intent { return surface.Say("setting %s", key) }
func (p *project) Mark(key, how string) surface.Intent   { return surface.Say("to %s by %s", key, how) }
func (p *project) KeepText(q find.Query) surface.Intent  { return surface.Say("kept %s", q.Pattern) }

func newScout(p *project) *Model {
	f := &codebase.File{Path: "a/here.go", Text: text.NewDocument([]byte(strings.Repeat("\n", 90)))}
	host := &uitest.Host{At: surface.Here{File: f, View: trail.View{Place: place.Place{Path: "a/here.go", Line: 7}}}}
	m := New(host, p, p, keymap.Default())
	m.Resize(100, 16)
	m.Open()
	return m
}

// press sends keys and carries out what the scout asks for; it returns what is to be done
// after all.
func press(m *Model, keys ...string) surface.Intent { return uitest.Last(uitest.Press(m, keys...)) }

func carryOut(cmd tea.Cmd) surface.Intent { return uitest.Last(uitest.Carry(surface.Begin(cmd))) }

func rows(m *Model) string { return uitest.Of(m, 100, m.Height) }

func chosen(t *testing.T, m *Model) Choice {
	c, ok := m.Chosen()
	require.True(t, ok)
	return c
}

var rescue = &project{
	files:   []string{"dispatch/roster.go", "dispatch/callout.go", "board/roster.ts"},
	symbols: []index.Symbol{{Name: "Roster", Kind: facts.Struct, Path: "dispatch/roster.go", Line: 12, Offset: 99}, {Name: "callout", Kind: facts.Function, Path: "x.go", Line: 3}},
	done:    true,
}

func TestRecentFilesFirst(t *testing.T) {
	m := newScout(rescue)
	assert.Equal(t, "b/old.go", chosen(t, m).Place.Path)
	assert.Equal(t, "a/older.go", press(m, "space").Look.Path)
	assert.Equal(t, "a/older.go", chosen(t, m).Place.Path)
	assert.Contains(t, rows(m), "command   outline")
	assert.Equal(t, "a/older.go", press(m, "enter").Go.Path)
}

// Commands are found by what people call them, say what they would act on, and why they cannot be done.
func TestCommandsByWhatPeopleCallThem(t *testing.T) {
	m := newScout(&project{done: true})
	assert.Regexp(t, `(?s)commands.*unused code.*outline`, rows(m), "what was done lately comes first")
	for typed, want := range map[string]keymap.Action{"quit": keymap.Quit, "dead code": keymap.Unused, "go to line": keymap.GoLine, "who uses this": keymap.References, "help": keymap.Keys} {
		m.Open()
		press(m, typed)
		assert.Equal(t, want, chosen(t, m).Action, typed)
	}
	m.Open()
	press(m, "usages")
	assert.Regexp(t, `find references +of Assign .* r `, rows(m))
	m.Open()
	press(m, "save")
	assert.Contains(t, rows(m), "here.go has no changes to save")
	assert.Equal(t, keymap.SaveFile, press(m, "enter").Do)
}

// Settings are found beside them, with their values.
func TestSettingsByWhatPeopleCallThem(t *testing.T) {
	m := newScout(&project{done: true})
	press(m, "dark mode")
	assert.Regexp(t, `setting +palette: chalk +The colours: peat is dark`, rows(m))
	for chosen(t, m).Setting == "" {
		press(m, "down")
	}
	assert.Equal(t, "setting look.palette", press(m, "enter").Say)
}

func TestLanesWithTheBestFirst(t *testing.T) {
	m := newScout(rescue)
	press(m, "roster")
	assert.Equal(t, Choice{Place: place.Place{Path: "dispatch/roster.go", Line: 12}, Symbol: "Roster", Offset: 99, Length: 6, How: "symbol: roster"}, chosen(t, m))
	assert.Regexp(t, `(?s)symbols  1.*struct.*Roster.*files  2.*roster\.go.*roster\.ts`, rows(m))
	assert.NotNil(t, press(m, "down").Look)
	assert.Equal(t, "dispatch/roster.go", chosen(t, m).Place.Path)
	press(m, "tab")
	assert.NotContains(t, rows(m), "symbols")
	assert.Equal(t, "file: roster", chosen(t, m).How, "the row stays chosen")
	press(m, "tab")
	assert.Contains(t, rows(m), "symbols")
}

func TestALineOfAFile(t *testing.T) {
	m := newScout(rescue)
	press(m, "4", "2")
	assert.Equal(t, place.Place{Path: "a/here.go", Line: 42}, chosen(t, m).Place)
	press(m, "0")
	assert.Contains(t, rows(m), "line 420 of here.go, which has 90 lines")
	m = newScout(rescue)
	press(m, "callout.go:8")
	assert.Equal(t, place.Place{Path: "dispatch/callout.go", Line: 8}, chosen(t, m).Place)
}

func TestNothingFound(t *testing.T) {
	m := newScout(rescue)
	press(m, "x", "q", "x", "q")
	assert.Contains(t, rows(m), "nothing has these letters")
	assert.Equal(t, surface.Intent{}, press(m, "enter"))
	press(m, "backspace", "backspace", "backspace", "backspace")
	assert.Contains(t, rows(m), "recent files")
	assert.True(t, press(m, "esc").Close)
}

func TestEnterWaitsForWhatIsNotReadYet(t *testing.T) {
	p := &project{files: rescue.files}
	m := newScout(p)
	press(m, "calloutbell")
	press(m, "enter")
	assert.True(t, m.Busy())
	assert.Contains(t, rows(m), "goes there when all is read")
	assert.Nil(t, carryOut(m.Refresh()).Go)
	p.symbols = []index.Symbol{{Name: "CalloutBellRinger", Path: "late.go", Line: 5}}
	assert.Nil(t, carryOut(m.Refresh()).Go, "a better one may come")
	p.symbols = append([]index.Symbol{{Name: "CalloutBell", Path: "late.go", Line: 9}}, p.symbols...)
	taken := carryOut(m.Refresh())
	require.NotNil(t, taken.Go, "no better one can come")
	assert.Equal(t, 9, taken.Go.Line)
	assert.False(t, m.Busy())
	assert.Equal(t, []string{"late.go CalloutBell calloutbell"}, p.chosen, "it ranks higher the next time")
}

func TestAnOldSearchComesTooLate(t *testing.T) {
	m := newScout(rescue)
	old := m.Update(uitest.Keys("r")[0])
	press(m, "zzz")
	assert.Len(t, uitest.Carry(old), 1, "it is not delivered")
	assert.NotContains(t, rows(m), "roster.go")
	late := uitest.Answers(m.Update(uitest.Keys("z")[0]).Cmd)
	m.Closed()
	for _, a := range late {
		_, wanted := a.Deliver()
		assert.False(t, wanted, "nor after it was closed")
	}
}

func TestManyRowsAndFewLines(t *testing.T) {
	p := &project{done: true}
	for i := range 500 {
		p.files = append(p.files, fmt.Sprintf("deep/folder/number%d/file%d.go", i, i))
	}
	m := newScout(p)
	press(m, "f", "i", "l", "e")
	for height := 3; height < 30; height++ {
		m.Resize(100, height)
		assert.Len(t, strings.Split(rows(m), "\n"), height)
	}
	for range 300 {
		press(m, "down")
	}
	assert.Contains(t, rows(m), "▌")
}

func TestTheTextOfTheFiles(t *testing.T) {
	p := &project{done: true, text: "the bell rings, the Bell rang"}
	m := newScout(p)
	press(m, "b", "e", "l", "l")
	assert.Contains(t, rows(m), "text  2   2 binary files left out")
	assert.Equal(t, Choice{Place: place.Place{Path: "notes.txt", Line: 1, Col: 5}, Offset: 4, Length: 4, How: "text: bell", Text: true}, chosen(t, m))
	assert.True(t, press(m, "alt+c").Keep, "it stays so")
	assert.Contains(t, rows(m), "text  1")
	kept := press(m, "alt+k")
	assert.True(t, kept.Close)
	assert.Equal(t, "kept bell", kept.Say)
	m = newScout(p)
	m.how.Regexp = true
	press(m, "b", "(", "l")
	assert.Contains(t, rows(m), "does not compile: missing closing )")
	assert.Contains(t, rows(m), "text  0   the regular expression")
	press(m, "backspace", "backspace", "backspace", "b", ".", "l")
	assert.Contains(t, rows(m), "text  2")
}

func TestTheTextLaneWidenedIsGroupedByFile(t *testing.T) {
	s := &textSearch{query: find.Query{Pattern: "bell"}}
	hit := func(path string, line, col int, text, above, below string) {
		mark := place.Range{Start: uint32(col - 1), End: uint32(col + 3)}
		s.hits = append(s.hits, search.TextHit{Place: place.Place{Path: path, Line: line, Col: col}, At: mark, Mark: mark, Text: text, Above: above, Below: below})
	}
	hit("a.go", 4, 3, "\t\tbell, bell", "\tif x {", "\t\tend")
	hit("a.go", 4, 9, "\t\tbell, bell", "\tif x {", "\t\tend")
	hit("a.go", 6, 1, "bell", "\t\tend", "")
	hit("b.go", 1, 1, "bell", "", "next")
	l := s.lane(true)
	assert.Len(t, l.rows, 4)
	require.Len(t, l.groups, 2)
	a, b := l.groups[0], l.groups[1]
	assert.Equal(t, "a.go", a.Title)
	assert.Equal(t, "3 hits", a.Note)
	require.Len(t, a.Rows, 2, "the hits of one line are on one row")
	assert.Equal(t, "    3   if x {", a.Rows[0].Above)
	assert.Equal(t, "    4    bell, bell", a.Rows[0].Name)
	assert.Equal(t, "    5    end", a.Rows[0].Below)
	assert.Equal(t, []int{9, 10, 11, 12, 15, 16, 17, 18}, a.Rows[0].At)
	assert.Empty(t, a.Rows[1].Above, "it is shown already")
	assert.Empty(t, b.Rows[0].Above)
	assert.Equal(t, "    2  next", b.Rows[0].Below)
}

// A bookmark is gone to wherever it is by now, and a command is done once the scout is closed.
func TestBookmarksAndCommands(t *testing.T) {
	m := newScout(&project{done: true, marks: []Remembered{{What: "line", Title: "the winch", Place: place.Place{Path: "winch.go", Line: 4}, Mark: "k1", How: "bookmark w"}}})
	todo := press(m, "winch", "enter")
	assert.Equal(t, "to k1 by bookmark w", todo.Say)
	assert.True(t, todo.Leave)
	m = newScout(&project{done: true})
	todo = press(m, "leave the program", "enter")
	assert.Equal(t, keymap.Quit, todo.Do)
	assert.True(t, todo.Close)
}

// A search is made again with what was typed, and where one was in it; n and p may lead along what was found in
// texts.
func TestTheSearchAgain(t *testing.T) {
	p := &project{done: true, files: rescue.files, symbols: rescue.symbols}
	m := newScout(p)
	assert.Nil(t, m.Left(), "nothing was looked for")
	press(m, "roster", "down", "down")
	last := m.Left()
	assert.Equal(t, "roster", last.Query)
	assert.Equal(t, "board/roster.ts", last.At.Path)
	assert.Empty(t, last.Source.Kind)
	other := newScout(p)
	todo := uitest.Last(uitest.Carry(other.Again(*last)))
	assert.Same(t, other, todo.Open)
	assert.Equal(t, "board/roster.ts", chosen(t, other).Place.Path)
	assert.Equal(t, "roster", other.Query())
	press(m, "esc")
	m.Open()
	press(m, "quit")
	assert.Nil(t, m.Left(), "a command is no list to come back to")
	m.Open()
	press(m, "roster")
	p.text = "no bell"
	press(m, "backspace", "backspace", "backspace", "backspace", "backspace", "backspace", "bell")
	last = m.Left()
	assert.Equal(t, "bell", last.Source.Query.Pattern)
}
