package cli

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The keys are printed as text, as Markdown and as JSON; words choose among them as on the page of keys.
func TestKeys(t *testing.T) {
	status, out, _ := run(t, "", "keys")
	assert.Equal(t, 0, status)
	assert.Regexp(t, `(?m)^find\n  Space, Ctrl\+Space +find a file`, out)
	assert.Regexp(t, `(?m)^bookmarks\n`, out)
	_, out, _ = run(t, "", "keys", "dead", "code")
	assert.Regexp(t, `W u +list what nothing in this folder refers to`, out)
	_, out, _ = run(t, "", "keys", "--markdown")
	assert.Contains(t, out, "## find\n\n| key | does |\n|---|---|\n| Space, Ctrl+Space | find a file")
	assert.Contains(t, out, `| \| | a second view beside this one |`)
	_, out, _ = run(t, "", "keys", "--json", "who uses this")
	first, _, _ := strings.Cut(out, "\n")
	var k printedKey
	require.NoError(t, json.Unmarshal([]byte(first), &k))
	assert.Equal(t, "references", k.Action)
	assert.Equal(t, []string{"r"}, k.Keys)
	assert.Contains(t, k.Also, "usages")
	status, out, _ = run(t, "", "keys", "zzqq")
	assert.Equal(t, 1, status)
	assert.Empty(t, out)
}

// The keys of one's own are printed, and those of somebody else can be taken.
func TestOnesOwnKeys(t *testing.T) {
	theirs := filepath.Join(t.TempDir(), "theirs.toml")
	require.NoError(t, os.WriteFile(theirs, []byte("[keys]\nunused = [\"F4\"]\n\n[commands.\"all done\"]\nkeys = [\"F8\"]\ndoes = [\"save-all\", \"quit\"]\n"), 0o600))
	status, out, stderr := run(t, "", "keys", "--take", theirs)
	assert.Equal(t, 0, status, stderr)
	t.Cleanup(func() { _ = os.Remove(keysFile()) })
	assert.Contains(t, out, "3 taken into")
	_, out, _ = run(t, "", "keys", "dead", "code")
	assert.Regexp(t, `F4 +list what nothing`, out)
	_, out, _ = run(t, "", "keys", "all done")
	assert.Regexp(t, `F8 +do: save-all, quit`, out)
	_, out, _ = run(t, "", "keys", "--delivered", "dead", "code")
	assert.Regexp(t, `W u +list what nothing`, out)

	require.NoError(t, os.WriteFile(theirs, []byte("[keys]\nsnow = [\"F4\"]\n"), 0o600))
	status, _, stderr = run(t, "", "keys", "--take", theirs)
	assert.Equal(t, 2, status)
	assert.Contains(t, stderr, "nothing was taken")
}
