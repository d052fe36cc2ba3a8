package scout

import (
	"context"
	"fmt"
	"regexp"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/find"
	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/index"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
)

// project is a small one, of which a part may still be unread.
type project struct {
	files   []string
	symbols []index.Symbol
	text    string
	done    bool
}

func (p *project) Files(_ context.Context, query string, limit int) (hits []workspace.FileHit) {
	q := fuzzy.Parse(query)
	for _, f := range p.files {
		if m, ok := q.Match(f, strings.LastIndexByte(f, '/')+1); ok && len(hits) < limit {
			hits = append(hits, workspace.FileHit{Path: f, Match: m})
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

func (p *project) SearchText(_ context.Context, q find.Query, _ int, yield func([]workspace.TextHit) bool) (workspace.TextReport, error) {
	m, err := find.Compile(q)
	if err != nil {
		return workspace.TextReport{}, err
	}
	var hits []workspace.TextHit
	m.All([]byte(p.text), func(f find.Match) bool {
		at := place.Range{Start: uint32(f.Start), End: uint32(f.End)}
		hits = append(hits, workspace.TextHit{Place: place.Place{Path: "notes.txt", Line: 1, Col: f.Start + 1}, At: at, Mark: at, Text: p.text})
		return true
	})
	if len(hits) > 0 {
		yield(hits)
	}
	return workspace.TextReport{Binary: 2}, nil
}

func (p *project) Progress() workspace.Progress {
	return workspace.Progress{Files: len(p.files), Listed: true, Readable: 10, Read: 3, Done: p.done}
}

func newScout(p *project) *Model {
	m := New(p, keymap.Default().Commands())
	m.Open(Before{Files: []string{"b/old.go", "a/older.go"}}, place.Place{Path: "a/here.go", Line: 7}, 90, 16)
	return m
}

// press sends keys and carries out what the scout asks for; it returns the
// last event that was not Nothing.
func press(m *Model, keys ...string) (last Event) {
	for _, k := range keys {
		code := tea.KeyPressMsg{Text: k, Code: []rune(k)[0]}
		if special, ok := map[string]rune{"enter": tea.KeyEnter, "esc": tea.KeyEscape, "down": tea.KeyDown, "up": tea.KeyUp, "tab": tea.KeyTab, "space": tea.KeySpace, "backspace": tea.KeyBackspace}[k]; ok {
			code = tea.KeyPressMsg{Code: special}
			if k == "space" {
				code.Text = " "
			}
		}
		cmd, event := m.Update(code)
		if event != Nothing {
			last = event
		}
		if e := carryOut(m, cmd); e != Nothing {
			last = e
		}
	}
	return last
}

func carryOut(m *Model, cmd tea.Cmd) Event {
	if cmd == nil {
		return Nothing
	}
	switch msg := cmd().(type) {
	case tea.BatchMsg:
		last := Nothing
		for _, c := range msg {
			if e := carryOut(m, c); e != Nothing {
				last = e
			}
		}
		return last
	case foundMsg, textMsg:
		_, e := m.Update(msg)
		return e
	}
	return Nothing
}

func rows(m *Model) string {
	return regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(strings.Join(m.Rows(100, &palette.Plain), "\n"), "")
}

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
	assert.Equal(t, Selected, press(m, "space"))
	assert.Equal(t, "a/older.go", chosen(t, m).Place.Path)
	assert.Contains(t, rows(m), "command   follow the name")
	assert.Equal(t, Taken, press(m, "enter"))
}

func TestLanesWithTheBestFirst(t *testing.T) {
	m := newScout(rescue)
	press(m, strings.Split("roster", "")...)
	assert.Equal(t, Choice{Place: place.Place{Path: "dispatch/roster.go", Line: 12}, Symbol: "Roster", Offset: 99, Length: 6, How: "symbol: roster"}, chosen(t, m))
	assert.Regexp(t, `(?s)symbols  1.*struct.*Roster.*files  2.*roster\.go.*roster\.ts`, rows(m))
	assert.Equal(t, Selected, press(m, "down"))
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
	assert.Equal(t, place.Place{Path: "a/here.go", Line: 42, Col: 1}, chosen(t, m).Place)
	press(m, "0")
	assert.Contains(t, rows(m), "line 420 of here.go, which has 90 lines")
	m = newScout(rescue)
	press(m, strings.Split("callout.go:8", "")...)
	assert.Equal(t, place.Place{Path: "dispatch/callout.go", Line: 8}, chosen(t, m).Place)
}

func TestNothingFound(t *testing.T) {
	m := newScout(rescue)
	press(m, "x", "q", "x", "q")
	assert.Contains(t, rows(m), "nothing has these letters")
	assert.Equal(t, Nothing, press(m, "enter"))
	press(m, "backspace", "backspace", "backspace", "backspace")
	assert.Contains(t, rows(m), "recent files")
	assert.Equal(t, Closed, press(m, "esc"))
}

func TestEnterWaitsForWhatIsNotReadYet(t *testing.T) {
	p := &project{files: rescue.files}
	m := newScout(p)
	press(m, strings.Split("calloutbell", "")...)
	assert.Equal(t, Waiting, press(m, "enter"))
	assert.Contains(t, rows(m), "goes there when all is read")
	assert.Equal(t, Nothing, carryOut(m, m.Refresh()))
	p.symbols = []index.Symbol{{Name: "CalloutBellRinger", Path: "late.go", Line: 5}}
	assert.Equal(t, Nothing, carryOut(m, m.Refresh()), "a better one may come")
	p.symbols = append([]index.Symbol{{Name: "CalloutBell", Path: "late.go", Line: 9}}, p.symbols...)
	assert.Equal(t, Taken, carryOut(m, m.Refresh()), "no better one can come")
	assert.Equal(t, 9, chosen(t, m).Place.Line)
}

func TestAnOldSearchComesTooLate(t *testing.T) {
	m := newScout(rescue)
	cmd, _ := m.Update(tea.KeyPressMsg{Text: "r", Code: 'r'})
	old := cmd
	press(m, "z", "z", "z")
	carryOut(m, old)
	assert.NotContains(t, rows(m), "roster.go")
}

func TestManyRowsAndFewLines(t *testing.T) {
	p := &project{done: true}
	for i := range 500 {
		p.files = append(p.files, fmt.Sprintf("deep/folder/number%d/file%d.go", i, i))
	}
	m := newScout(p)
	press(m, "f", "i", "l", "e")
	for height := 3; height < 30; height++ {
		m.Resize(height)
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
	_, event := m.Update(tea.KeyPressMsg{Code: 'c', Mod: tea.ModAlt})
	assert.Equal(t, Nothing, event)
	carryOut(m, m.Refresh())
	press(m, "enter")
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
		s.hits = append(s.hits, workspace.TextHit{Place: place.Place{Path: path, Line: line, Col: col}, At: mark, Mark: mark, Text: text, Above: above, Below: below})
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
