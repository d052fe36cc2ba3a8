package run_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sys/unix"

	uv "github.com/charmbracelet/ultraviolet"

	"rooktrail/internal/run"
)

// The test is begun anew as a keeper, as the program is.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == run.Keep {
		if err := run.Serve(os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(2)
		}
		os.Exit(0)
	}
	os.Exit(m.Run())
}

func start(t *testing.T, c run.Command) *run.Run {
	t.Helper()
	t.Setenv("SHELL", "/bin/sh")
	if c.Dir == "" {
		c.Dir = t.TempDir()
	}
	r, err := run.Start(c, 60, 8)
	require.NoError(t, err)
	t.Cleanup(r.End)
	return r
}

// until waits for what is to come, as a person does.
func until(t *testing.T, r *run.Run, what func() bool) {
	t.Helper()
	for end := time.After(30 * time.Second); !what(); {
		select {
		case <-r.Changes():
		case <-time.After(50 * time.Millisecond):
		case <-end:
			t.Fatalf("it does not come; there is:\n%s%+v", r.Text(), r.Standing())
		}
	}
}

func ended(r *run.Run) func() bool {
	return func() bool { return r.Standing().State != run.Running && !r.Alive() }
}

func shows(r *run.Run, text string) func() bool {
	return func() bool { return strings.Contains(r.Text(), text) }
}

func TestWhatBecomesOfACommand(t *testing.T) {
	r := start(t, run.Command{Line: `printf '\033[31mred\033[0m plain\n'; echo 'hut.go:3:2: too loud'; exit 3`})
	until(t, r, ended(r))
	s := r.Standing()
	assert.Equal(t, []any{run.Ended, 3, 1, false}, []any{s.State, s.Status, s.Found, s.Left})
	assert.Equal(t, "hut.go", r.Found(0)[0].Path)
	assert.Empty(t, r.Found(1))
	rows := r.View(8, 0).Rows
	require.Len(t, rows, 3)
	n, numbered := rows[0][0].Style.Fore.Number()
	assert.Equal(t, []any{"red", uint8(1), true, " plain"}, []any{rows[0][0].Text, n, numbered, rows[0][1].Text})
	r = start(t, run.Command{Line: "no-such-command-here"})
	until(t, r, ended(r))
	assert.Equal(t, 127, r.Standing().Status)
	r = start(t, run.Command{Line: "nothing", Args: []string{"/no/such/program"}})
	until(t, r, ended(r))
	assert.Equal(t, run.Refused, r.Standing().State)
	assert.Contains(t, r.Standing().Why, "no such file")
	r = start(t, run.Command{Line: "kill -9 $$"})
	until(t, r, ended(r))
	assert.Equal(t, []any{run.Killed, "SIGKILL"}, []any{r.Standing().State, r.Standing().Why})
}

// A command is at a terminal: it may ask, and is answered by keys.
// Whoever hears that a command has ended finds all that it has printed.
func TestAllIsPrintedBeforeItHasEnded(t *testing.T) {
	for range 40 {
		r := start(t, run.Command{Line: `echo 'hut.go:3:2: too loud'; exit 3`})
		for r.Standing().State == run.Running {
			time.Sleep(50 * time.Microsecond)
		}
		require.Equal(t, 1, r.Standing().Found)
	}
}

func TestACommandThatAsks(t *testing.T) {
	r := start(t, run.Command{Line: `test -t 0 && test -t 1 && stty size; printf 'name? '; read name; echo "got $name"`})
	until(t, r, shows(r, "name?"))
	assert.Contains(t, r.Text(), "8 60")
	for _, c := range "hut" {
		r.Key(uv.Key{Code: c, Text: string(c)})
	}
	r.Key(uv.Key{Code: uv.KeyEnter})
	until(t, r, shows(r, "got hut"))
	r.Resize(100, 5)
	until(t, r, ended(r))
	r.Resize(80, 8)
	r.Key(uv.Key{Code: 'x', Text: "x"})
	r.Paste("nobody reads it")
}

// pids are those that a command has written into a file.
func pids(t *testing.T, file string) (all []int) {
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	for _, f := range strings.Fields(string(data)) {
		n, err := strconv.Atoi(f)
		require.NoError(t, err)
		all = append(all, n)
	}
	return all
}

func gone(t *testing.T, pid int) {
	t.Helper()
	assert.Eventually(t, func() bool { return unix.Kill(pid, 0) == unix.ESRCH }, 20*time.Second, 20*time.Millisecond, "process %d is still there", pid)
}

// Whatever a command does, nothing of it is left once it was ended: it takes no notice of signals, goes into the background, begins
// a session of its own.
func TestNothingIsLeft(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "pids")
	r := start(t, run.Command{Dir: dir, Line: `trap '' TERM HUP INT
(trap '' TERM HUP; sleep 600 & echo $! >> pids; wait) &
setsid sh -c 'trap "" TERM HUP; echo $$ >> pids; sleep 601' &
echo $$ >> pids
while :; do sleep 0.1; done`})
	until(t, r, func() bool { _, err := os.Stat(file); return err == nil && len(pids(t, file)) == 3 })
	r.Stop()
	until(t, r, ended(r))
	for _, pid := range pids(t, file) {
		gone(t, pid)
	}
	assert.True(t, r.Standing().Stopped)
}

// What a command leaves in the background is known to be there, and ends with the program.
func TestTheBackground(t *testing.T) {
	dir := t.TempDir()
	r := start(t, run.Command{Dir: dir, Line: `nohup sleep 600 > /dev/null 2>&1 & echo $! > pids; sleep 0.2`})
	until(t, r, func() bool { return r.Standing().Left })
	assert.Equal(t, run.Ended, r.Standing().State)
	pid := pids(t, filepath.Join(dir, "pids"))[0]
	require.NoError(t, unix.Kill(pid, 0))
	r.End()
	gone(t, pid)
	assert.False(t, r.Standing().Left)
}

// What is printed is a terminal's own: nothing of it reaches the one in which the program runs.
func TestSequencesGoNoFurther(t *testing.T) {
	r := start(t, run.Command{Line: `printf '\033]0;title\007\033]52;c;aGk=\007\033]11;#ff0000\007\033[c\033P+q544e\033\\done\n'; sleep 600`})
	until(t, r, shows(r, "^[[?")) // what it asks the terminal is answered
	text := r.Text()
	assert.True(t, strings.HasPrefix(text, "done\n"), text)
	for _, not := range []string{"title", "aGk", "ff0000", "544e", "\x1b", "\a"} {
		assert.NotContains(t, text, not)
	}
}

// Much that is printed is kept within bounds, as are lines of many megabytes, and nothing is out of its order.
func TestMuchIsPrinted(t *testing.T) {
	r := start(t, run.Command{Line: `echo first; seq 100000; head -c 10000000 /dev/zero | tr '\0' x; echo; printf 'a\tb\n'; echo last`})
	until(t, r, ended(r))
	text := r.Text()
	assert.True(t, strings.HasPrefix(text, "… the first rows are not kept"), text[:60])
	assert.True(t, strings.HasSuffix(text, "\n"+strings.Repeat("x", 10000000%60)+"\na       b\nlast\n"), text[len(text)-200:])
	v := r.View(5, 10)
	assert.Len(t, v.Rows, 5)
	assert.Equal(t, strings.Repeat("x", 60), v.Rows[0].Text())
	r = start(t, run.Command{Line: `echo first; seq 30000`})
	until(t, r, ended(r))
	lines := strings.Split(strings.TrimSpace(r.Text()), "\n")
	require.Len(t, lines, 30001)
	for i, line := range lines[1:] {
		if line != strconv.Itoa(i+1) {
			t.Fatalf("%q stands where %d should", line, i+1)
		}
	}
}

// Lines may be shown otherwise than they were printed.
func TestEachLine(t *testing.T) {
	var lines []string
	r := start(t, run.Command{Line: `printf 'a\nb'; sleep 0.1; printf 'c\nlast'`, Each: func(line string) (string, bool) {
		lines = append(lines, line)
		return "<" + line + ">\n", line != "a"
	}})
	until(t, r, ended(r))
	assert.Equal(t, []string{"a", "bc", "last"}, lines)
	assert.Equal(t, "a\n<bc>\n<last>\n", r.Text())
}

// A program that uses all of the screen shows it, and gives it back.
func TestAllOfTheScreen(t *testing.T) {
	r := start(t, run.Command{Line: `echo before; printf '\033[?1049h\033[2J\033[1;1Hinside'; read x; printf '\033[?1049l'; echo after`})
	until(t, r, func() bool { return r.View(8, 0).Full })
	assert.Equal(t, "inside", r.View(8, 0).Rows[0].Text())
	r.Key(uv.Key{Code: uv.KeyEnter})
	until(t, r, shows(r, "after"))
	assert.Contains(t, r.Text(), "before")
	assert.NotContains(t, r.Text(), "inside")
}

// Where the terminal becomes lower, what was at its top is not lost.
func TestALowerTerminal(t *testing.T) {
	r := start(t, run.Command{Line: `seq 7; read x; echo more`})
	until(t, r, shows(r, "7"))
	r.Resize(60, 3)
	r.Resize(60, 6)
	r.Key(uv.Key{Code: uv.KeyEnter})
	until(t, r, ended(r))
	assert.Equal(t, "1\n2\n3\n4\n5\n6\n7\n\nmore\n", strings.TrimRight(r.Text(), "\n")+"\n")
}

// What is typed comes in its order, and Ctrl+C ends what does not say otherwise: nothing of how the keeper deals with signals is left
// to the command.
func TestKeysComeInTheirOrder(t *testing.T) {
	// What sleeps takes the place of the shell: one that begins a command at that moment may miss a Ctrl+C.
	r := start(t, run.Command{Line: `stty -echo; echo ready; for i in $(seq 100); do read line; test "$line" = "$i" || { echo "$line for $i"; exit 1; }; done; echo all; yes | head -1; exec sleep 600`})
	until(t, r, shows(r, "ready"))
	for i := range 100 {
		for _, c := range strconv.Itoa(i + 1) {
			r.Key(uv.Key{Code: c, Text: string(c)})
		}
		r.Key(uv.Key{Code: uv.KeyEnter})
		if i%20 == 0 {
			time.Sleep(20 * time.Millisecond) // what nobody reads for long is lost
		}
	}
	until(t, r, func() bool { return strings.Contains(r.Text(), "all\ny\n") || r.Standing().State != run.Running })
	assert.Equal(t, run.Running, r.Standing().State, r.Text())
	assert.NotContains(t, r.Text(), "roken pipe")
	r.Key(uv.Key{Code: 'c', Mod: uv.ModCtrl})
	until(t, r, ended(r))
	assert.Contains(t, []string{"SIGINT", ""}, r.Standing().Why)
	assert.NotEqual(t, 0, r.Standing().Status+len(r.Standing().Why))
}
