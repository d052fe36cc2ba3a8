package cli

import (
	"encoding/json"
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
