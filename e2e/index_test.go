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
		if version > 0 && i%3 > 0 {
			continue // it is as it was
		}
		code := fmt.Sprintf("package p\n\n// F%d does.\nfunc F%d() int { return F%d() }\n%s", i, i, (i+1)%files, map[bool]string{true: "\n// once more\n"}[version%2 == 1 && i%3 == 0])
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("f%d.go", i)), []byte(code), 0o600))
	}
}

// sensors writes as many files of C beside them, which are read behind the others since they have a header that says how.
func sensors(t *testing.T, root string, files int) {
	header := "#define SENSOR __attribute__((unused))\n"
	for i := range files {
		header += fmt.Sprintf("SENSOR int h%d(void);\n", i)
		code := fmt.Sprintf("#include \"sensor.h\"\n\nSENSOR int h%d(void) {\n\treturn h%d();\n}\n", i, (i+1)%files)
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("h%d.c", i)), []byte(code), 0o600))
	}
	require.NoError(t, os.WriteFile(filepath.Join(root, "sensor.h"), []byte(header), 0o600))
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
	ask := func(args ...string) string {
		out, err := run(args...).Output()
		require.NoError(t, err, "%v", args)
		return string(out)
	}
	sensors(t, root, 40)
	random := rand.New(rand.NewSource(5))
	for n := range kills {
		huts(t, root, 1500, n)
		if n%4 == 0 { // from the beginning, which is broken off more than once
			require.NoError(t, os.RemoveAll(filepath.Join(cache, "rooktrail")))
			kill(t, run("index", root), random)
		}
		args := []string{"index", root}
		if _, err := os.Stat(pack); n%3 == 1 {
			args = append(args, "--pack", pack)
		} else if n%3 == 2 && err == nil {
			args = append(args, "--from", pack)
		}
		if n%4 == 3 {
			args = append(args, "--rebuild")
		}
		kill(t, run(args...), random)
		require.Equal(t, "f0.go:4:6: func F0() int { return F1() }\n", ask("definition", "--root", root, "f1499.go:4:27"), "kill %d, %v", n, args)
		require.Equal(t, "h0.c:3:12: SENSOR int h0(void) {\nsensor.h:2:12: SENSOR int h0(void);\n", ask("definition", "--root", root, "h39.c:4:9"), "kill %d, %v", n, args)
		if n%5 == 0 {
			damage(t, cache, random)
		}
	}
	assert.Contains(t, ask("symbols", "--root", root, "F777"), "f777.go:4:6: func F777() int { return F778() }\n")
	whole := ask("index", root)
	require.NoError(t, os.RemoveAll(filepath.Join(cache, "rooktrail")))
	assert.Equal(t, counted(ask("index", root)), counted(whole))
}

// counted is what rooktrail index counts, without how long it took and what the index takes.
func counted(said string) (lines []string) {
	for line := range strings.Lines(said) {
		if !strings.Contains(line, " parsed, ") && !strings.HasPrefix(line, "kept at ") {
			lines = append(lines, line)
		}
	}
	return lines
}

// kill begins the program and kills it after some time.
func kill(t *testing.T, killed *exec.Cmd, random *rand.Rand) {
	require.NoError(t, killed.Start())
	time.Sleep(time.Duration(random.Intn(900)) * time.Millisecond)
	_ = killed.Process.Kill()
	_ = killed.Wait()
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
	require.Eventually(t, func() bool { return os.RemoveAll(filepath.Join(cache, "rooktrail")) == nil }, time.Minute, time.Millisecond, "the program may be writing there")
	term.press("Space").write("F299").see("func F299()").press("Enter").see("f299.go ▸ F299").press("C-q").ended(0) // while it is read, something else may come first
	assert.Equal(t, want, ask(cache))
}
