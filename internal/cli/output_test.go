package cli

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/adrg/xdg"
	"github.com/creack/pty"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestVisible(t *testing.T) {
	var b bytes.Buffer
	v := &visible{to: &b}
	for _, part := range []string{"plain\tand H", "ü", "tte\nsteer \x1b]52;", "c;aGk=\x07 and \u009b31m \xff", "\nlast"} {
		n, err := v.Write([]byte(part))
		require.NoError(t, err)
		assert.Equal(t, len(part), n)
	}
	require.NoError(t, v.flush())
	assert.Equal(t, "plain\tand Hütte\nsteer ␛]52;c;aGk=␇ and \\u009b31m \\xff\nlast", b.String())
}

// What a project holds does not steer a terminal, be it in a text or in a name.
func TestNothingSteersTheTerminal(t *testing.T) {
	t.Setenv("NO_COLOR", "1") // how paths stand out is the program's own
	root := sample(t)
	require.NoError(t, os.WriteFile(filepath.Join(root, "bad\x1b]0;name\x07.txt"), []byte("ring \x1b]52;c;aGk=\x07 ring\n"), 0o644))
	master, slave, err := pty.Open()
	require.NoError(t, err)
	var screen bytes.Buffer
	done := make(chan struct{})
	go func() {
		defer close(done)
		_, _ = io.Copy(&screen, master) // it ends with an error when the other end is closed
	}()
	for _, args := range [][]string{{"text", "52;"}, {"text", "52;", "--json"}, {"files", "bad"}, {"outline", "bad\x1b]0;none\x07"}, {"definition", "\x1b[31m"}, {"text", "x", "--in", "\x1b[31m"}, {"\x1b[31m"}} {
		if len(args) > 1 {
			args = append(args, "--root", root)
		}
		Run(args, strings.NewReader(""), slave, slave)
	}
	slave.Close()
	<-done
	master.Close()
	assert.NotContains(t, screen.String(), "\x1b")
	assert.NotContains(t, screen.String(), "\x07")
	assert.Contains(t, screen.String(), "␛]52;c;aGk=␇")
}

// A name that is no UTF-8 can be read back from JSON.
func TestNamesThatAreNoUTF8(t *testing.T) {
	root := sample(t)
	name := "h\xfctte.txt"
	if err := os.WriteFile(filepath.Join(root, name), []byte("drip\n"), 0o644); err != nil {
		t.Skip("this disk only has names in UTF-8")
	}
	status, out, _ := run(t, "", "text", "drip", "--json", "--root", root)
	assert.Equal(t, statusFound, status)
	var got textResult
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	path, err := base64.StdEncoding.DecodeString(got.PathBase64)
	require.NoError(t, err)
	assert.Equal(t, name, string(path))
	_, out, _ = run(t, "", "text", "ring", "--json", "--root", root)
	assert.NotContains(t, out, "base64")
}

// failing is an output that takes nothing.
type failing struct{ err error }

func (f failing) Write([]byte) (int, error) { return 0, f.err }

func TestStatuses(t *testing.T) {
	root := sample(t)
	for _, c := range []struct {
		name  string
		args  []string
		stdin string
		out   io.Writer
		want  int
		words string
	}{
		{"found", []string{"text", "ring"}, "", nil, statusFound, ""},
		{"nothing", []string{"text", "snowdrift"}, "", nil, statusNothing, ""},
		{"a full disk", []string{"text", "ring"}, "", failing{syscall.ENOSPC}, statusError, "no space left"},
		{"a full disk, for a question", []string{"definition", "a.go:5:9"}, "", failing{syscall.ENOSPC}, statusError, "no space left"},
		{"nobody reads on", []string{"text", "ring"}, "", failing{syscall.EPIPE}, statusFound, ""},
		{"a folder that is not there", []string{"text", "ring", "--in", "nowhere"}, "", nil, statusError, "there is no folder nowhere"},
		{"a glob that matches nothing", []string{"text", "ring", "--glob", "*.rs"}, "", nil, statusError, `no file of this project matches the glob "*.rs"`},
		{"a kind that is not there", []string{"symbols", "ring", "--kind", "gizmo"}, "", nil, statusError, `there is no kind "gizmo"`},
		{"a folder in a query", []string{"symbols", "ring in:nowhere"}, "", nil, statusError, "there is no folder nowhere"},
		{"a folder in a query that is there", []string{"symbols", "ring in:sub"}, "", nil, statusFound, ""},
		{"unused in a folder that is not there", []string{"unused", "nowhere"}, "", nil, statusError, "there is no folder nowhere"},
		{"a batch that nobody understands", []string{"definition", "--batch"}, "what\nis this\n", nil, statusError, "none of the lines is a position"},
		{"a batch in which one line is understood", []string{"definition", "--batch"}, "what\na.go:5:9\n", nil, statusFound, ""},
		{"a batch with nothing in it", []string{"definition", "--batch"}, "", nil, statusNothing, ""},
		{"a line that is too long", []string{"definition", "--batch"}, strings.Repeat("x", 2<<20), nil, statusError, "line 1: it is longer than any position"},
		{"an option that is not there", []string{"text", "--gizmo"}, "", nil, statusError, "there is no option --gizmo"},
		{"too few words", []string{"text"}, "", nil, statusError, "not the right number of arguments"},
		{"a number that is none", []string{"text", "ring", "--limit", "many"}, "", nil, statusError, `invalid argument "many"`},
	} {
		t.Run(c.name, func(t *testing.T) {
			var out, errs bytes.Buffer
			if c.out == nil {
				c.out = &out
			}
			assert.Equal(t, c.want, Run(append(c.args, "--root", root), strings.NewReader(c.stdin), c.out, &errs))
			if c.words == "" {
				assert.Empty(t, errs.String())
				return
			}
			assert.Contains(t, errs.String(), c.words)
			assert.Equal(t, 1, strings.Count(errs.String(), "\n"), "one line")
			assert.NotContains(t, errs.String(), "strconv")
		})
	}
}

// Whoever wants none of what is printed gives the empty device, opened in whatever way: what begins programs for others opens it for
// reading and writing.
func TestTheEmptyDeviceAsAStandardFile(t *testing.T) {
	root := sample(t)
	for _, mode := range []int{os.O_RDWR, os.O_WRONLY} {
		thrown, err := os.OpenFile(os.DevNull, mode, 0)
		require.NoError(t, err)
		defer thrown.Close()
		var errs bytes.Buffer
		assert.Equal(t, statusFound, Run([]string{"text", "ring", "--root", root}, strings.NewReader(""), thrown, &errs))
		assert.Empty(t, errs.String())
	}
	empty, err := os.OpenFile(os.DevNull, os.O_RDWR, 0)
	require.NoError(t, err)
	defer empty.Close()
	var errs bytes.Buffer
	assert.Equal(t, statusNothing, Run([]string{"definition", "--batch", "--root", root}, empty, io.Discard, &errs))
	assert.Empty(t, errs.String())
}

// An import that fails leaves nothing behind.
func TestAFailedImport(t *testing.T) {
	data := t.TempDir()
	t.Setenv("XDG_DATA_HOME", data)
	xdg.Reload()
	t.Cleanup(xdg.Reload)
	root := sample(t)
	for _, args := range [][]string{{"trail", "--import", "-"}, {"trail", "--import", "nowhere"}, {"sweep", "--keep"}} {
		status, _, words := run(t, "{}\nno place\n", append(args, "--root", root)...)
		assert.Equal(t, statusError, status, words)
	}
	entries, err := os.ReadDir(data)
	require.NoError(t, err)
	assert.Empty(t, entries)
}

func TestWhatCounts(t *testing.T) {
	full := fmt.Errorf("printing: %w", syscall.ENOSPC)
	assert.Equal(t, statusError, statusOf(errors.Join(errNothing, full)))
	assert.Equal(t, statusNothing, statusOf(errors.Join(errNothing, nil)))
	assert.Equal(t, statusFound, statusOf(errors.Join(nil, nil)))
}

// Whether paths stand out is chosen, or else said by the environment.
func TestWhetherPathsStandOut(t *testing.T) {
	for _, c := range []struct {
		chosen   string
		terminal bool
		env      string
		want     bool
	}{
		{"auto", true, "", true}, {"auto", false, "", false}, {"auto", true, "NO_COLOR=1", false}, {"auto", true, "CLICOLOR=0", false}, {"auto", true, "TERM=dumb", false},
		{"auto", false, "CLICOLOR_FORCE=1", true}, {"auto", false, "CLICOLOR_FORCE=0", false}, {"auto", false, "CLICOLOR_FORCE=1 NO_COLOR=1", false},
		{"always", false, "NO_COLOR=1", true}, {"never", true, "CLICOLOR_FORCE=1", false},
	} {
		env := map[string]string{}
		for word := range strings.FieldsSeq(c.env) {
			name, value, _ := strings.Cut(word, "=")
			env[name] = value
		}
		assert.Equal(t, c.want, wantsColor(c.chosen, c.terminal, func(name string) string { return env[name] }), "%+v", c)
	}
	root := sample(t)
	plain := "a.go:3:6: func Ring() int { return 1 }\n"
	for chosen, want := range map[string]string{"auto": plain, "never": plain, "always": "\x1b[1ma.go\x1b[22m\x1b[2m:3:6:\x1b[22m func Ring() int { return 1 }\n"} {
		_, out, _ := run(t, "", "definition", "--color", chosen, "--root", root, "a.go:5:9")
		assert.Equal(t, want, out)
	}
	_, out, _ := run(t, "", "definition", "--json", "--color", "always", "--root", root, "a.go:5:9")
	assert.NotContains(t, out, "\x1b", "objects are for programs")
	status, _, errs := run(t, "", "definition", "--color", "loud", "--root", root, "a.go:5:9")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "auto, always or never")
}

// A path may hold a line end, but no zero byte.
func TestAnswersThatEndWithAZeroByte(t *testing.T) {
	root := sample(t)
	require.NoError(t, os.WriteFile(filepath.Join(root, "odd\nname.py"), []byte("odd = 1\n"), 0o600))
	for want, args := range map[string][]string{
		"odd\nname.py\x00":                           {"files", "-0", "odd"},
		"odd\nname.py:1:1: odd = 1\x00":              {"text", "--null", "odd"},
		"a.go:3:6: func Ring() int { return 1 }\x00": {"definition", "-0", "a.go:5:9"},
	} {
		_, out, errs := run(t, "", append(args, "--root", root)...)
		assert.Equal(t, want, out, errs)
	}
	status, _, errs := run(t, "", "files", "-0", "--json", "--root", root, "odd")
	assert.Equal(t, 2, status, errs)
}
