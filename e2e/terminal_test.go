// Package e2e drives the built program in a real terminal, as a user does: it
// presses keys and looks at the screen.
package e2e

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// program is the path of the built program.
var program string

func TestMain(m *testing.M) {
	if os.Getenv(failWhen) != "" {
		os.Exit(runToFail())
	}
	os.Exit(buildAndRun(m))
}

func buildAndRun(m *testing.M) int {
	dir, err := os.MkdirTemp("", "rooktrail-e2e-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(dir)
	program = filepath.Join(dir, "rooktrail")
	if out, err := exec.Command("go", "build", "-o", program, "rooktrail/cmd/rooktrail").CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "building the program: %v\n%s", err, out)
		return 1
	}
	// What is run in the program builds with what is built already.
	if cache, err := exec.Command("go", "env", "GOCACHE").Output(); err == nil {
		if err := os.Setenv("GOCACHE", strings.TrimSpace(string(cache))); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
	}
	// Only now: the build has its cache there, too.
	for name, sub := range map[string]string{"XDG_CACHE_HOME": "cache", "XDG_DATA_HOME": "data", "XDG_CONFIG_HOME": "config", "XDG_RUNTIME_DIR": "run"} {
		if err := os.MkdirAll(filepath.Join(dir, sub), 0o700); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
		if err := os.Setenv(name, filepath.Join(dir, sub)); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
	}
	// Somebody has used the program before: what is shown at the first start is tested by itself.
	habits := filepath.Join(dir, "data", "rooktrail", "habits.json")
	if err := errors.Join(os.MkdirAll(filepath.Dir(habits), 0o700), os.WriteFile(habits, []byte(`{"outline": {"keyed": 1}}`), 0o600)); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	return m.Run()
}

// terminal is a terminal with the program in it.
type terminal struct {
	t      *testing.T
	socket string
}

var terminals atomic.Int32

// patience is how long something may take to appear on a busy machine.
const patience = 60 * time.Second

// start runs the program with the arguments in a terminal of the size.
func start(t *testing.T, columns, rows int, arguments ...string) *terminal {
	t.Helper()
	quoted := quote(program)
	for _, a := range arguments {
		quoted += " " + quote(a)
	}
	return startShell(t, columns, rows, quoted)
}

// startShell runs a line of the shell in a terminal of the size.
func startShell(t *testing.T, columns, rows int, line string) *terminal {
	t.Helper()
	if _, err := exec.LookPath("tmux"); err != nil {
		t.Fatal("these tests need tmux; scripts/setup test installs it")
	}
	term := &terminal{t: t, socket: fmt.Sprintf("rooktrail-e2e-%d-%d", os.Getpid(), terminals.Add(1))}
	config := filepath.Join(t.TempDir(), "tmux.conf")
	require.NoError(t, os.WriteFile(config, []byte("set -g status off\nset -s escape-time 0\nset -g default-terminal tmux-256color\n"), 0o600))
	line += "; echo \"[ended with $?]\"; exec sleep 1000"
	cmd := exec.Command("tmux", "-L", term.socket, "-f", config, "new-session", "-d", "-s", "s", "-x", fmt.Sprint(columns), "-y", fmt.Sprint(rows), line)
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8", "COLORTERM=truecolor")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s", out)
	t.Cleanup(func() { _ = exec.Command("tmux", "-L", term.socket, "kill-server").Run() })
	return term
}

func quote(s string) string { return "'" + strings.ReplaceAll(s, "'", `'\''`) + "'" }

func (term *terminal) tmux(args ...string) string {
	term.t.Helper()
	out, err := exec.Command("tmux", append([]string{"-L", term.socket}, args...)...).CombinedOutput()
	require.NoError(term.t, err, "tmux %v: %s", args, out)
	return string(out)
}

// press sends keys as tmux names them.
func (term *terminal) press(keys ...string) *terminal {
	term.t.Helper()
	for _, k := range keys {
		term.tmux("send-keys", "-t", "s", "--", k)
	}
	return term
}

// write types text.
func (term *terminal) write(text string) *terminal {
	term.t.Helper()
	term.tmux("send-keys", "-t", "s", "-l", "--", text)
	return term
}

func (term *terminal) resize(columns, rows int) *terminal {
	term.tmux("resize-window", "-t", "s", "-x", fmt.Sprint(columns), "-y", fmt.Sprint(rows))
	return term
}

// screen is what the terminal shows.
func (term *terminal) screen() string { return term.tmux("capture-pane", "-p", "-t", "s") }

// rows are the lines of the screen.
func (term *terminal) rows() []string {
	return strings.Split(strings.TrimSuffix(term.screen(), "\n"), "\n")
}

// until waits for the screen to satisfy a condition.
func (term *terminal) until(what string, holds func(screen string) bool) *terminal {
	term.t.Helper()
	// Each look starts a program: soon at first, then less often.
	for end, pause := time.Now().Add(patience), 10*time.Millisecond; ; pause = min(2*pause, 80*time.Millisecond) {
		time.Sleep(pause)
		s := term.screen()
		if holds(s) {
			return term
		}
		if time.Now().After(end) {
			term.t.Fatalf("never saw %s; the screen is\n%s", what, s)
		}
	}
}

// see waits until all of the texts are on the screen.
func (term *terminal) see(texts ...string) *terminal {
	term.t.Helper()
	return term.until(fmt.Sprintf("%q", texts), func(s string) bool {
		for _, text := range texts {
			if !strings.Contains(s, text) {
				return false
			}
		}
		return true
	})
}

var progress = regexp.MustCompile(`reading \d+ %`)

// still waits until the project is read and nothing more is added to the screen,
// and returns its rows.
func (term *terminal) still() []string {
	term.t.Helper()
	last, same := "", 0
	term.until("the screen come to rest", func(s string) bool {
		if same++; s != last || progress.MatchString(s) {
			same = 0
		}
		last = s
		return same >= 5
	})
	return term.rows()
}

// codeIn takes the signpost off rows of the screen, which comes to know more while one
// waits.
func codeIn(rows []string) []string {
	cut := make([]string, len(rows))
	for i, r := range rows {
		front, _, _ := strings.Cut(r, "│")
		cut[i] = strings.TrimRight(front, " ")
	}
	return cut
}

// seeNot waits until a text is gone.
func (term *terminal) seeNot(text string) *terminal {
	term.t.Helper()
	return term.until(fmt.Sprintf("%q go", text), func(s string) bool { return !strings.Contains(s, text) })
}

// ended waits until the program has come to its end with an exit status and
// the shell has its screen back.
func (term *terminal) ended(status int) {
	term.t.Helper()
	term.see(fmt.Sprintf("[ended with %d]", status)).seeNot("trail  ")
}
