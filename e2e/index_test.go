package e2e

import (
	"fmt"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two programs read one project for the first time and one of them is killed:
// the other goes on, and the next is right.
func TestAKilledProgramLeavesTheIndexRight(t *testing.T) {
	root, cache := t.TempDir(), t.TempDir()
	for i := range 4000 {
		code := fmt.Sprintf("package p\n\n// F%d does.\nfunc F%d() int { return F%d() }\n", i, i, (i+1)%4000)
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("f%d.go", i)), []byte(code), 0o600))
	}
	command := func() *exec.Cmd {
		cmd := exec.Command(program, "definition", "--root", root, "f3999.go:4:27")
		cmd.Env = append(os.Environ(), "XDG_CACHE_HOME="+cache)
		return cmd
	}
	const want = "f0.go:4:6: func F0() int { return F1() }\n"
	for delay := 20 * time.Millisecond; delay < time.Second; delay *= 2 {
		killed, other := command(), command()
		require.NoError(t, killed.Start())
		time.AfterFunc(delay, func() { _ = killed.Process.Kill() })
		out, err := other.Output()
		require.NoError(t, err)
		assert.Equal(t, want, string(out))
		_ = killed.Wait()
	}
	out, err := command().Output()
	require.NoError(t, err)
	assert.Equal(t, want, string(out))
}

// huts writes a project of many small files, of which each calls the next.
func huts(t *testing.T, root string, files, version int) {
	for i := range files {
		code := fmt.Sprintf("package p\n\n// F%d does.\nfunc F%d() int { return F%d() }\n%s", i, i, (i+1)%files, map[bool]string{true: "\n// once more\n"}[version%2 == 1 && i%3 == 0])
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("f%d.go", i)), []byte(code), 0o600))
	}
}

// Whenever it is killed while it reads, merges, packs or takes in, the next answer is right, and nothing is left of what was half done.
func TestKillsLeaveTheIndexRight(t *testing.T) {
	t.Parallel()
	kills := 12
	if os.Getenv("ROOKTRAIL_ALL_KILLS") != "" {
		kills = 500
	}
	root, cache := t.TempDir(), t.TempDir()
	pack := filepath.Join(t.TempDir(), "index.pack")
	run := func(args ...string) *exec.Cmd {
		cmd := exec.Command(program, args...)
		cmd.Env = append(os.Environ(), "XDG_CACHE_HOME="+cache)
		return cmd
	}
	random := rand.New(rand.NewSource(5))
	for n := range kills {
		huts(t, root, 1500, n)
		args := []string{"index", root}
		if _, err := os.Stat(pack); n%3 == 1 {
			args = append(args, "--pack", pack)
		} else if n%3 == 2 && err == nil {
			args = append(args, "--from", pack)
		}
		if n%4 == 3 {
			args = append(args, "--rebuild")
		}
		killed := run(args...)
		require.NoError(t, killed.Start())
		time.Sleep(time.Duration(random.Intn(900)) * time.Millisecond)
		_ = killed.Process.Kill()
		_ = killed.Wait()
		out, err := run("definition", "--root", root, "f1499.go:4:27").Output()
		require.NoError(t, err)
		require.Equal(t, "f0.go:4:6: func F0() int { return F1() }\n", string(out), "kill %d, %v", n, args)
		if n%5 == 0 {
			damage(t, cache, random)
		}
	}
	out, err := run("symbols", "--root", root, "F777").Output()
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(out), "f777.go:4:6: func F777() int { return F778() }\n"), "%s", out)
}

// damage has some byte of what lies in a folder be another one, cuts a file short, or removes one.
func damage(t *testing.T, folder string, random *rand.Rand) {
	var files []string
	require.NoError(t, filepath.WalkDir(folder, func(p string, d os.DirEntry, err error) error {
		if err == nil && d.Type().IsRegular() && (strings.HasSuffix(p, ".segment") || strings.HasSuffix(p, ".listing") || strings.HasSuffix(p, "list")) {
			files = append(files, p)
		}
		return err
	}))
	if len(files) == 0 {
		return
	}
	file := files[random.Intn(len(files))]
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	switch at := random.Intn(len(data) + 1); random.Intn(3) {
	case 0:
		if at < len(data) {
			data[at] ^= 4
		}
		require.NoError(t, os.WriteFile(file, data, 0o600))
	case 1:
		require.NoError(t, os.Truncate(file, int64(at)))
	case 2:
		require.NoError(t, os.Remove(file))
	}
}

// Where nothing can be written, or all of it is taken away, it goes on without.
func TestWithoutRoomForTheIndex(t *testing.T) {
	t.Parallel()
	root := t.TempDir()
	huts(t, root, 300, 0)
	ask := func(cache string) string {
		cmd := exec.Command(program, "definition", "--root", root, "f299.go:4:27")
		cmd.Env = append(os.Environ(), "XDG_CACHE_HOME="+cache)
		out, err := cmd.Output()
		require.NoError(t, err)
		return string(out)
	}
	const want = "f0.go:4:6: func F0() int { return F1() }\n"
	assert.Equal(t, want, ask("/proc/nowhere"))
	cache := t.TempDir()
	term := startShell(t, 100, 30, "XDG_CACHE_HOME="+quote(cache)+" "+quote(program)+" "+quote(filepath.Join(root, "f1.go")))
	term.see("func F1()")
	require.NoError(t, os.RemoveAll(filepath.Join(cache, "rooktrail")))
	term.press("Space").write("F299").see("func F299()").press("Enter").see("f299.go ▸ F299").press("C-q").ended(0) // while it is read, something else may come first
	assert.Equal(t, want, ask(cache))
}
