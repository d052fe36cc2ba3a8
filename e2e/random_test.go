package e2e

import (
	"crypto/sha256"
	"fmt"
	"io/fs"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/creack/pty"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// wanderer presses keys on the program in a pseudo-terminal of its own, without a shell around it.
type wanderer struct {
	t      *testing.T
	folder string
	cmd    *exec.Cmd
	screen *os.File
	drawn  *atomic.Int64 // how many bytes the program has written
	ended  chan struct{}
	wide   bool
	keys   []string // all that was pressed
}

func (w *wanderer) start() {
	w.cmd = exec.Command(program, w.folder)
	quiet := w.t.TempDir() // where the desktop's program would be found; nor is what is typed as a command carried out
	require.NoError(w.t, os.WriteFile(filepath.Join(quiet, "xdg-open"), []byte("#!/bin/sh\n"), 0o755))
	w.cmd.Env = append(os.Environ(), "TERM=xterm-256color", "LC_ALL=C.UTF-8", "EDITOR=", "VISUAL=", "SHELL=/bin/true", "PATH="+quiet+string(os.PathListSeparator)+os.Getenv("PATH"))
	screen, err := pty.StartWithSize(w.cmd, &pty.Winsize{Rows: 30, Cols: 100})
	require.NoError(w.t, err)
	w.screen, w.drawn, w.ended = screen, new(atomic.Int64), make(chan struct{})
	drawn, ended, cmd := w.drawn, w.ended, w.cmd
	go func() {
		buf := make([]byte, 1<<16)
		for {
			n, err := screen.Read(buf)
			drawn.Add(int64(n))
			if err != nil {
				break
			}
		}
		_ = cmd.Wait() // the status of a program that was told to end says nothing here
		close(ended)
	}()
	w.answers()
}

// answers makes sure that the program still does: it draws the screen anew in another size. It is
// false if the program has ended, as it may have been told to.
func (w *wanderer) answers() bool {
	w.wide = !w.wide
	size := &pty.Winsize{Rows: 30, Cols: 100}
	if w.wide {
		size = &pty.Winsize{Rows: 24, Cols: 80}
	}
	before := w.drawn.Load()
	_ = pty.Setsize(w.screen, size) // it fails only if the program has ended
	for end := time.Now().Add(patience); time.Now().Before(end); {
		select {
		case <-w.ended:
			return false
		case <-time.After(time.Millisecond):
		}
		if w.drawn.Load() > before {
			return true
		}
	}
	require.Fail(w.t, "the program does not answer any more", "after %q", w.keys[max(len(w.keys)-40, 0):])
	return false
}

// randomKey is a key as a terminal sends it, or a paste.
func randomKey(r *rand.Rand) string {
	switch r.Intn(12) {
	case 0:
		return string(rune(1 + r.Intn(26))) // with Ctrl
	case 1, 2:
		return "\x1b" + string(rune(' '+1+r.Intn(94))) // with Alt
	case 3, 4:
		return []string{"\x1b[A", "\x1b[B", "\x1b[C", "\x1b[D", "\x1b[H", "\x1b[F", "\x1b[5~", "\x1b[6~", "\x1b[1;5C", "\x1b[1;2D", "\x1b[3~", "\x1b[Z"}[r.Intn(12)]
	case 5, 6:
		return "\r"
	case 7:
		return "\x1b"
	case 8:
		return []string{"\t", " ", "\x7f", "\x1b[200~pasted\nlines\x1b[201~", "\x00"}[r.Intn(5)]
	}
	return string(rune('!' + r.Intn(94)))
}

// digests are those of all files below some folders.
func digests(t *testing.T, folders ...string) map[string]string {
	all := map[string]string{}
	for _, folder := range folders {
		err := filepath.WalkDir(folder, func(p string, d fs.DirEntry, err error) error {
			if err != nil || !d.Type().IsRegular() {
				return err
			}
			data, err := os.ReadFile(p)
			all[p] = fmt.Sprintf("%x", sha256.Sum256(data))
			return err
		})
		require.NoError(t, err)
	}
	return all
}

// Whatever is pressed, the program goes on answering, changes nothing outside of the project, and
// ends when it is told to.
func TestRandomKeys(t *testing.T) {
	base, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	goRoot, err := exec.Command("go", "env", "GOROOT").Output()
	require.NoError(t, err)
	library := filepath.Join(strings.TrimSpace(string(goRoot)), "src")
	folder := filepath.Join(base, "project")
	for name, text := range map[string]string{
		"project/go.mod": "module huts\n\ngo 1.21\n", "project/hut.go": "package huts\n\nimport (\n\t\"sort\"\n\t\"time\"\n)\n\n// Hut is a hut.\ntype Hut struct{ Seen time.Time }\n\nfunc (h Hut) Age() time.Duration { return time.Since(h.Seen) }\n\nfunc Order(all []Hut) { sort.Slice(all, func(i, j int) bool { return all[i].Age() < all[j].Age() }) }\n",
		"project/a.py": "class A:\n    def ring(self):\n        return self.ring()\n", "project/README.md": "# Huts\n\nSee hut.go:8.\n", "beside/keep.go": "package beside\n", "beside/notes.txt": "kept\n",
	} {
		p := filepath.Join(base, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
	watched := []string{filepath.Join(base, "beside"), filepath.Join(library, "time"), filepath.Join(library, "sort"), filepath.Join(library, "slices")}
	before := digests(t, watched...)
	for seed := range int64(2) {
		r := rand.New(rand.NewSource(seed))
		w := &wanderer{t: t, folder: folder}
		w.start()
		for range 300 {
			k := randomKey(r)
			w.keys = append(w.keys, k)
			_, _ = w.screen.WriteString(k) // it fails only if the program has ended
			if !w.answers() {
				w.start()
			}
		}
		require.NoError(t, w.cmd.Process.Signal([]syscall.Signal{syscall.SIGTERM, syscall.SIGHUP}[seed]))
		select {
		case <-w.ended:
		case <-time.After(patience):
			require.Fail(t, "the program does not end when it is told to")
		}
		w.screen.Close()
	}
	assert.Equal(t, before, digests(t, watched...))
	entries, err := os.ReadDir(base)
	require.NoError(t, err)
	assert.Len(t, entries, 2, "nothing came beside the project")
}
