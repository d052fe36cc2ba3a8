package cli

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestProblems(t *testing.T) {
	root := t.TempDir()
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Join(root, filepath.Dir(name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o600))
	}
	write("risk/a.py", "import os\n\nprint(bell)\n")
	write("fine/b.py", "print(1)\n")
	problems := func(args ...string) (int, string, string) {
		return run(t, "", append([]string{"problems", "--root", root}, args...)...)
	}

	status, out, _ := problems()
	assert.Equal(t, 0, status)
	assert.Equal(t, "risk/a.py:1:8: nothing uses os, which is imported here (Rook Trail)\nrisk/a.py:3:7: nothing defines bell (Rook Trail)\n", out)
	status, out, _ = problems(filepath.Join(root, "fine"))
	assert.Equal(t, 1, status)
	assert.Empty(t, out)
	_, out, _ = problems("--without", "spare,unused", "--as", "json")
	var got problemResult
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, problemResult{in{Path: "risk/a.py"}, 3, 7, 3, 11, "name", "Rook Trail", "inferred", "nothing defines bell"}, got)
	status, out, _ = problems("--only", "types", "--as", "sarif")
	assert.Equal(t, 1, status)
	assert.Contains(t, out, `"version": "2.1.0"`, "a report without results is one, too")
	for args, says := range map[string]string{"--as=xml": `cannot be printed as "xml"`, "--only=odd": `no kind of problem called "odd"`} {
		status, _, errs := problems(args)
		assert.Equal(t, 2, status)
		assert.Contains(t, errs, says)
	}
	status, _, errs := problems(filepath.Join(root, "nowhere"))
	assert.Equal(t, 2, status, errs)
}
