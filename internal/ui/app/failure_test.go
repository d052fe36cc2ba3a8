package app

import (
	"os"
	"path/filepath"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/surface"
)

// A failure ends the program in order, says where the report is, and loses nothing typed.
func TestAFailureInTheMiddleOfTyping(t *testing.T) {
	fail := func() tea.Msg { panic("the bell cracked") }
	for what, failing := range map[string]func(p *program) tea.Msg{
		"a message": func(p *program) tea.Msg {
			_, cmd := p.model.Update(surface.Answer{}) // of nobody, which is never sent
			return cmd()
		},
		"a command": func(p *program) tea.Msg {
			_, cmd := p.model.Update(p.model.Guarded(fail)())
			return cmd()
		},
		"one of several commands": func(p *program) tea.Msg {
			all := p.model.Guarded(func() tea.Msg { return tea.BatchMsg{nil, fail} })().(tea.BatchMsg)
			assert.Nil(t, all[0])
			_, cmd := p.model.Update(all[1]())
			return cmd()
		},
	} {
		p, _, state := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
		p.ws.KnowRecovery(state + "-recovery")
		p.model.ReportTo(filepath.Join(state+"-data", "failures"))
		p.see("[hut.go 8]").press("w", "=// typed just now")
		assert.Empty(t, p.model.Failure())
		assert.Equal(t, tea.QuitMsg{}, failing(p), what)
		require.NoError(t, p.model.Rescue())
		p.ws.Recovery().Close()
		left, err := recovery.NewStore(state + "-recovery").Left()
		require.NoError(t, err)
		require.Len(t, left, 1, what)
		assert.Contains(t, string(left[0].Body), "// typed just now", what)

		reports, err := filepath.Glob(filepath.Join(state+"-data", "failures", "failure-*.txt"))
		require.NoError(t, err)
		require.Len(t, reports, 1, what)
		assert.Contains(t, p.model.Failure(), "; the report is in "+reports[0])
		report, err := os.ReadFile(reports[0])
		require.NoError(t, err)
		assert.Contains(t, string(report), "failure_test.go", "it says where")
	}
}

func TestAReportThatCannotBeWritten(t *testing.T) {
	p := begin(t, place.Place{})
	p.model.ReportTo("/dev/null/failures")
	p.model.Guarded(func() tea.Msg { panic("the bell cracked") })()
	p.model.Guarded(func() tea.Msg { panic("later") })()
	assert.Contains(t, p.model.Failure(), "the program failed: the bell cracked; the report could not be written")
	assert.Contains(t, p.model.Failure(), "failure_test.go")
}
