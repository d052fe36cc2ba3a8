package cli

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every option that takes one of a few words is there, and its words are those of its description.
func TestWordsThatOptionsTake(t *testing.T) {
	root := Commands()
	for name, flags := range chosenFrom() {
		cmd, _, err := root.Find([]string{name})
		if name == "" {
			cmd, err = root, nil
		}
		require.NoError(t, err)
		for flag, words := range flags {
			f := cmd.Flag(flag)
			require.NotNil(t, f, name+" --"+flag)
			assert.NotEmpty(t, words)
			for _, w := range words {
				if flag == "palette" && (w == "slate" || w == "sand") || flag == "kind" || flag == "only" || flag == "without" {
					continue // there are too many to be named
				}
				assert.Contains(t, f.Usage, w, name+" --"+flag)
			}
		}
	}
}

func TestCompletion(t *testing.T) {
	root := sample(t)
	require.NoError(t, os.WriteFile(filepath.Join(root, "sub", "bell.py"), []byte("class Bell:\n    def ring_all(self):\n        pass\n"), 0o600))
	complete := func(args ...string) string {
		_, out, _ := run(t, "", append([]string{"__complete"}, args...)...)
		return strings.ReplaceAll(strings.TrimSpace(out), "\n", " ")
	}
	assert.Equal(t, ":4", complete("symbols", "--root", root, "ri"), "nothing waits for the project to be read")
	assert.Equal(t, ":0", complete("outline", "--root", root, "a"), "a shell has files of its own")
	require.NoError(t, filepath.WalkDir(root, func(p string, _ fs.DirEntry, _ error) error { // what has just changed is not relied on
		return os.Chtimes(p, time.Time{}, time.Now().Add(-time.Hour))
	}))
	status, _, errs := run(t, "", "index", root)
	require.Equal(t, 0, status, errs)
	for want, args := range map[string][]string{
		"ring ring_all :4":        {"symbols", "--root", root, "ri"},
		"Bell.ring_all :4":        {"symbols", "--root", root, "Bell.r"},
		"kind:method :4":          {"symbols", "--root", root, "kind:met"},
		"ext:toml :4":             {"symbols", "--root", root, "ext:tom"},
		"a.go :4":                 {"outline", "--root", root, "a"},
		"sub/ :6":                 {"definition", "--root", root, "s"},
		"sub/b.py sub/bell.py :4": {"references", "--root", root, "sub/b"},
		"sub/ :6 ":                {"unused", "--root", root, "s"},
		"auto always never :4":    {"files", "--color", "al"},
		"read write readwrite call type import :4": {"references", "--access", "readw"},
		"text json sarif :4":                       {"problems", "--as", "sa"},
		"sub/ :6  ":                                {"text", "--root", root, "--in", ""},
		":0":                                       {"tests", "--root", root, "nowhere"},
		":16":                                      {"files", "--root", ""},
		"is:test is:code is:changed is:all :4":     {"files", "is:"},
	} {
		assert.Equal(t, strings.TrimSpace(want), complete(args...), "%v", args)
	}
}
