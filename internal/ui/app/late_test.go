package app

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/surface"
)

// quiet takes what comes until nothing has come for a moment; what hold holds back is kept.
func (p *program) quiet(hold func(surface.Answer) bool) (held []tea.Msg) {
	for {
		select {
		case msg := <-p.messages:
			if a, ok := msg.(surface.Answer); ok && hold != nil && hold(a) {
				held = append(held, msg)
				continue
			}
			p.send(msg)
		case <-time.After(60 * time.Millisecond):
			return held
		}
	}
}

// caught takes what comes until something is held back, which it gives.
func (p *program) caught(hold func(surface.Answer) bool) []tea.Msg {
	for msg := range p.messages {
		if a, ok := msg.(surface.Answer); ok && hold(a) {
			return append([]tea.Msg{msg}, p.quiet(hold)...)
		}
		p.send(msg)
	}
	return nil
}

// asking are the surfaces that ask for something, with how they are opened, by what one knows that they
// are, and what has them ask.
var asking = map[string]struct {
	open []string
	see  string
	ask  []string
	of   func(m *Model) surface.Surface
}{
	"scout":            {[]string{"space"}, "a file, a symbol, a command", []string{"=read"}, func(m *Model) surface.Surface { return m.scout }},
	"breadcrumbs":      {[]string{"."}, "other breadcrumb", []string{"left"}, func(m *Model) surface.Surface { return m.crumbs }},
	"folders":          {[]string{"g"}, "letters jump to a name", []string{"tab", "tab", "=zzqq"}, func(m *Model) surface.Surface { return m.folders }},
	"places":           {[]string{"r"}, "references of read", []string{"alt+m"}, func(m *Model) surface.Surface { return m.places }},
	"trees":            {[]string{"X"}, "what calls read", []string{"right"}, func(m *Model) surface.Surface { return m.branches }},
	"drawings":         {[]string{"G", "x"}, "What read calls", []string{"alt+t"}, func(m *Model) surface.Surface { return m.drawings }},
	"charts":           {[]string{"G", "n", "down", "down", "enter"}, "How large it is", []string{"alt+z"}, func(m *Model) surface.Surface { return m.counts }},
	"sweeps":           {[]string{"W", "W"}, "sweep  letters of a file", []string{"alt+a"}, func(m *Model) surface.Surface { return m.sweeps }},
	"bookmarks":        {[]string{";"}, "bookmarks  1 of 1", []string{"alt+s", "alt+s"}, func(m *Model) surface.Surface { return m.marks }},
	"trails":           {[]string{"A", "s"}, "begin one here", []string{"alt+s", "alt+s"}, func(m *Model) surface.Surface { return m.trails }},
	"find in a file":   {[]string{"/"}, "look for", []string{"=n"}, func(m *Model) surface.Surface { return m.search }},
	"the keys":         {[]string{"?"}, "keys for", nil, func(m *Model) surface.Surface { return m.keysPage }},
	"the outline":      {[]string{"o"}, "outline  ", []string{}, func(m *Model) surface.Surface { return m.outline }},
	"documentation":    {[]string{"y"}, "go to its definition", nil, func(m *Model) surface.Surface { return m.docs }},
	"proposals":        {[]string{"C", "space"}, "replace  read", []string{"=x"}, func(m *Model) surface.Surface { return m.changes }},
	"a name of a stop": {[]string{"A", "r"}, "name of this stop", nil, nil},
}

// The late answers of every surface, while every other one is open and while none is, change nothing
// on the screen; and the surface, opened again, works.
func TestLateAnswersOfEverySurface(t *testing.T) {
	for name, s := range asking {
		if s.ask == nil {
			continue
		}
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 14, Col: 7})
			p.see("[hut.go 14]").press("m").see("is in the list").press("r").see("references of read").press("alt+k").see("kept as the sweep")
			p.quiet(nil)
			mine := func(a surface.Answer) bool { return a.From() == s.of(p.model) }
			for other, o := range asking {
				if other == name {
					continue
				}
				lateAnswers(t, p, s.open, s.see, s.ask, mine, o.open, o.see, other)
			}
			lateAnswers(t, p, s.open, s.see, s.ask, mine, nil, "", "nothing")
			p.press(s.open...).see(s.see).press("down", "up", "esc")
			p.until(func(string) bool { return p.model.over == nil }, "it works as ever")
		})
	}
}

func lateAnswers(t *testing.T, p *program, open []string, see string, ask []string, mine func(surface.Answer) bool, other []string, otherSee, name string) {
	p.press(open...).see(see)
	p.quiet(nil)
	p.press(ask...)
	held := p.quiet(mine)
	for tries := 0; p.model.over != nil && tries < 3; tries++ { // Esc may first take back what was typed
		p.press("esc")
	}
	require.Nil(t, p.model.over, "it is closed, before %s", name)
	held = append(held, p.quiet(mine)...)
	if other != nil {
		p.press(other...).see(otherSee)
	}
	p.quiet(nil)
	before, over := withoutSignpost(p.view()), p.model.over
	for _, msg := range held { // and nothing else meanwhile
		p.send(msg)
	}
	require.Equal(t, before, withoutSignpost(p.view()), "beneath %s", name)
	p.quiet(nil)
	require.Equal(t, over, p.model.over)
	for tries := 0; p.model.over != nil && tries < 3; tries++ {
		p.press("esc")
	}
	p.quiet(nil)
	p.press("esc") // what was found in the file stays marked else
	require.Nil(t, p.model.over, name)
}

// withoutSignpost is what stands left of the signpost, which comes to know more while one waits, and
// without the line above the strip.
func withoutSignpost(view string) string {
	rows := strings.Split(view, "\n")
	for i, r := range rows {
		front, _, _ := strings.Cut(r, "│ ")
		if rows[i] = front; strings.HasPrefix(r, " ▪ ") || strings.HasPrefix(r, "────") {
			rows[i] = "" // what was asked for and done is said
		}
	}
	return strings.Join(rows, "\n")
}

// What is renamed in the folders is followed on the screen although they were closed meanwhile, and
// opened again they answer keys.
func TestRenamingWhileTheFoldersAreClosed(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("g").see("letters jump to a name")
	p.quiet(nil)
	p.press("alt+r").see("rename or move").press("=x", "enter")
	held := p.caught(func(a surface.Answer) bool { return a.From() == p.model.folders })
	p.press("esc", "space").see("a file, a symbol, a command")
	for _, msg := range held {
		p.send(msg)
	}
	p.quiet(nil)
	assert.Contains(t, p.view(), "a file, a symbol, a command")
	p.see("hut.go is hut.gox now").press("esc").see(" hut.gox ", "func (h *Hut) Report")
	_, err := os.Stat(filepath.Join(root, "hut.gox"))
	require.NoError(t, err)
	p.press("g").see("letters jump to a name")
	p.quiet(nil)
	chosen := func() string {
		e, _ := p.model.folders.Chosen()
		return e.Path
	}
	first := chosen()
	p.press("up", "up")
	if chosen() == first {
		p.press("down")
	}
	assert.NotEqual(t, first, chosen(), "they answer")
	assert.True(t, strings.HasSuffix(first, "hut.gox"), first)
}

// Esc gives up a question, and the work ends with it.
func TestEscEndsTheWork(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("[roster.go 6]")
	ended := make(chan error, 1)
	p.run(surface.Ask(p.model.way, func(ctx context.Context) bool { <-ctx.Done(); ended <- ctx.Err(); return true }, func(bool) surface.Intent { return surface.Say("it came") }))
	p.press("j").see("line 6")
	p.press("esc")
	select {
	case err := <-ended:
		assert.Error(t, err)
	case <-time.After(20 * time.Second):
		t.Fatal("the work goes on")
	}
	p.quiet(nil)
	assert.NotContains(t, p.view(), "it came")
	p.press("j").see("line 7")
}
