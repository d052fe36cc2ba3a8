package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The drawings are walked through, changed and written to files.
func TestDrawings(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]")

	term.press("G", "x").see("What Roster.Assign calls", "▸ Roster.Assign", "Left out").press("Right").see("called by 1").press("Tab").write("send").see("overlook  send", "Roster.send  method", "func (r *Roster) send")
	term.press("BSpace", "BSpace", "BSpace", "BSpace").press("+").see("Roster.find").press("<").see("┃Roster.Assign┃").press("Escape").seeNot("What Roster.Assign calls")
	term.see("line 59")

	term.press("G", "c").see("What calls Roster.Assign", "Left out").press("M-t").see("TestReleaseAndRest test").press("M-s").see("draw, from").press("u").see("The family of")
	term.press("Escape").seeNot("The family of").press("G", "u").see("The family of Roster.Assign", "Assigner.Assign").press("Escape").seeNot("The family of")

	term.press("G", "G").see("Imports of", "floor 1", "dispatch", "store").write("store").see("overlook  store").press("Space").see("file.go").press("M-h").see("write the drawing").press("Enter").see("write it to the file:", "imports-of-").press("Enter").see("its path is")
	svgs, err := filepath.Glob(filepath.Join(dir, "imports-of-*.svg"))
	require.NoError(t, err)
	require.Len(t, svgs, 1)
	svg, err := os.ReadFile(svgs[0])
	require.NoError(t, err)
	assert.Contains(t, string(svg), `<a href="`)
	assert.Contains(t, string(svg), "floor 1</text>")
	term.see("Imports of").write("file.go").see("overlook  file.go").press("Enter").see("store ▸ file.go")

	term.press("G", "a").see("overlook", "where you are").press("Up").see("Assign").press("M-z").see("roster.go").press("Escape").seeNot("where you are")
	term.press("G", "n").see("how large folders are").press("Down", "Down", "Enter").see("How large it is", "dispatch/").press("Right").see("How large it is in dispatch", "roster.go").press("M-z").see("│").press("Tab").see("What was changed").press("Escape").seeNot("What was changed")
	term.press("C-q").ended(0)
}

// From the shell a drawing goes to standard output or to a file, by the name of which follows what it is.
func TestDrawingFromTheShell(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := startShell(t, 142, 42, "cd "+quote(dir)+` && R=`+quote(program)+`; "$R" draw calls dispatch/roster.go:59:18 --size small; "$R" draw imports --depth 1 -o map.pdf && "$R" draw imports --depth 1 -o map.svg --theme dark && ls map.*; "$R" draw size --most 3; "$R" draw calls; "$R" draw beauty`)
	term.see("What Roster.Assign calls", "┃Roster.Assign┃", "map.pdf", "map.svg", "How large it is", "dispatch/", "of what? Write rooktrail draw calls FILE:LINE:COL", "no drawing and no chart called")
	for name, begin := range map[string]string{"map.pdf": "%PDF-", "map.svg": "<svg "} {
		data, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(string(data), begin))
	}
}
