package app

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
)

// The trail goes on where it ended, with its forks, and the places on it move with the
// code.
func TestTheTrailGoesOnTheNextTime(t *testing.T) {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	file := filepath.Join(root, "hut.go")
	require.NoError(t, os.WriteFile(file, []byte(hutCode), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(root, "other.go"), []byte("package huts\n\nfunc other() {}\n"), 0o644))
	state := filepath.Join(keptFolder(t), "state")
	p := open(t, root, place.Place{Path: "hut.go", Line: 8, Col: 14}, state)
	p.see("[hut.go 8]", "measure").press("d").see("[measure 12]").press("b").see("[hut.go 8]").press("space", "=other", "enter").see("[other")
	p.until(func(string) bool { return p.model.trails.IsRead() }, "the trail read")
	p.model.quit()()
	p.ws.Lists.CloseTrail()

	require.NoError(t, os.WriteFile(file, []byte("// Huts.\n\n"+strings.Replace(hutCode, "measure() int {", "measure() (n int) {", 1)), 0o644))
	again := open(t, root, place.Place{}, state)
	again.see("[other", "hut.go 8").press("b").see("[hut.go 10]", "line 10 column 14").press("F").see("ways on from", "measure").press("up", "up", "enter").see("[other")
	again.press("b").see("line 10 column 14").press("F", "down", "enter").see("line 14 column 15", "this line has changed since one was here")

	two := open(t, root, place.Place{Path: "other.go"}, state)
	two.see("trail  [other.go ").until(func(string) bool { return two.model.trails.IsRead() }, "a trail of its own")
}

// A place that is gone is said to be.
func TestAStopThatIsGone(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("d").see("[measure 12]")
	require.NoError(t, os.WriteFile(p.ws.Code.Absolute("hut.go"), []byte(strings.Replace(hutCode, "\tdepth := h.measure()\n", "", 1)), 0o644))
	time.Sleep(20 * time.Millisecond)
	p.press("b").see("what one saw here is gone: depth := h.measure()", "line 8")
}
