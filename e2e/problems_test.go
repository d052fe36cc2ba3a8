package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// What broke is seen, walked to over files, mended, and seen to be mended, without leaving.
func TestFromProblemToProblem(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	write("go.mod", "module tarnwell.example/rescue\n\ngo 1.24\n")
	write("hut/hut.go", "package hut\n\n// Ring rings.\nfunc Ring() int {\n\treturn 3\n}\n\n// Twice rings twice.\nfunc Twice() string {\n\treturn 2 * Ring()\n}\n")
	write("risk/model.py", "import math\n\n\ndef load(path):\n    return opne(path)\n")
	term := start(t, 120, 30, filepath.Join(dir, "hut", "hut.go"))
	term.see("1 problem", "10 !", "cannot use 2 * Ring()").press("%").see("line 10 column 9", "1 of 1 problem in this file: cannot use 2 * Ring()").press("Right").see("the compiler of Go, exact")
	term.press("%").see("risk ▸ model.py", "nothing uses math", "2 problems").press("n").see("line 5 column 12", "nothing defines opne").press("p").see("line 1 column 8")
	term.press("$").see("hut.go ▸ Twice", "line 10")
	term.press("W", "%").see("what is wrong  3 of 3", "types", "spare", "name").press("M-k").see("kept as the sweep", "sweep 3 to do")

	write("hut/hut.go", "package hut\n\n// Ring rings.\nfunc Ring() int {\n\treturn 3\n}\n\n// Twice rings twice.\nfunc Twice() int {\n\treturn 2 * Ring()\n}\n")
	term.see("func Twice() int").seeNot("1 problem").seeNot("cannot use")
	term.press("W", "a").see("0 new", "sweep 2 to do")
	term.press("C-q").ended(0)
}
