package main

import (
	"fmt"
	"io"
	"io/fs"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"time"

	"github.com/creack/pty"

	"rooktrail/internal/core/file/lang/catalog"
)

const (
	switchFiles   = 20_000  // how many files of the project are copied, for its branches to be switched
	switchChanged = 5_000   // how many of them are others on the other branch
	switchBytes   = 1 << 18 // longer files are left out
)

// switching times keys in a copy of a part of the project while its branches are switched: what changes is read then.
func switching(program, root string, add func(row)) {
	folder, err := os.MkdirTemp("", "rooktrail-bench-switch-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	copied := filepath.Join(folder, "project")
	file, changed := twoBranches(root, copied)
	own := filepath.Join(folder, "own")
	run := exec.Command(program, "index", copied)
	run.Env = append(os.Environ(), "XDG_CACHE_HOME="+own)
	if out, err := run.CombinedOutput(); err != nil {
		log.Fatalf("%s index: %v\n%s", program, err, out)
	}
	keys := pressing(program, file, own)
	defer keys.end()
	alone := keys.times(10*time.Second, func() {})
	beside := keys.times(0, spinFor10s)
	var during []float64
	for range 4 {
		during = append(during, keys.times(6*time.Second, func() { git(copied, "checkout", "-q", "-") })...)
	}
	slices.Sort(alone)
	slices.Sort(beside)
	slices.Sort(during)
	what := fmt.Sprintf("a key while %d files change with the branch: ", changed)
	add(row{what + "median", during[len(during)/2], alone[len(alone)/2], "ms", "when nothing goes on"})
	add(row{what + "99th percentile", during[len(during)*99/100], beside[len(beside)*99/100], "ms", "while another program computes"})
	add(row{what + "the slowest", during[len(during)-1], beside[len(beside)-1], "ms", "while another program computes"})
}

// spinning is the argument with which this program computes, and nothing else, for a while.
const spinning = "--spin"

func spinFor10s() {
	self, err := os.Executable()
	if err != nil {
		log.Fatal(err)
	}
	if err := exec.Command(self, spinning).Run(); err != nil {
		log.Fatal(err)
	}
}

// spin computes for ten seconds.
func spin() {
	for until := time.Now().Add(10 * time.Second); time.Now().Before(until); {
	}
}

// twoBranches copies some of a project, and commits it to two branches that differ in many files. File is one that is the same on both.
func twoBranches(from, to string) (file string, changed int) {
	var files []string
	if err := filepath.WalkDir(from, func(p string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() || catalog.Set().Of(d.Name()) == nil {
			return err
		}
		if info, err := d.Info(); err == nil && info.Size() < switchBytes {
			files = append(files, p)
		}
		if len(files) == switchFiles {
			return fs.SkipAll
		}
		return nil
	}); err != nil {
		log.Fatal(err)
	}
	for i, f := range files {
		rel, err := filepath.Rel(from, f)
		if err != nil {
			log.Fatal(err)
		}
		files[i] = filepath.Join(to, rel)
		if err := copyFile(f, files[i]); err != nil {
			log.Fatal(err)
		}
	}
	git(to, "init", "-q")
	git(to, "add", "-A", "-f")
	git(to, "commit", "-q", "-m", "as it was")
	git(to, "checkout", "-q", "-b", "other")
	every := max(1, len(files)/switchChanged)
	for i := 1; i < len(files); i += every {
		f, err := os.OpenFile(files[i], os.O_APPEND|os.O_WRONLY, 0)
		if err != nil {
			log.Fatal(err)
		}
		if _, err := f.WriteString("\n\n"); err != nil {
			log.Fatal(err)
		}
		if err := f.Close(); err != nil {
			log.Fatal(err)
		}
		changed++
	}
	git(to, "commit", "-q", "-a", "-m", "otherwise")
	return files[0], changed
}

func copyFile(from, to string) error {
	if err := os.MkdirAll(filepath.Dir(to), 0o700); err != nil {
		return err
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.Create(to)
	if err != nil {
		return err
	}
	if _, err := io.Copy(out, in); err != nil {
		return err
	}
	return out.Close()
}

// git runs git in a folder, as nobody in particular.
func git(folder string, args ...string) {
	cmd := exec.Command("git", args...)
	cmd.Dir = folder
	cmd.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_CONFIG_SYSTEM=/dev/null",
		"GIT_AUTHOR_NAME=bench", "GIT_AUTHOR_EMAIL=bench@localhost", "GIT_COMMITTER_NAME=bench", "GIT_COMMITTER_EMAIL=bench@localhost")
	if out, err := cmd.CombinedOutput(); err != nil {
		log.Fatalf("git %v: %v\n%s", args, err, out)
	}
}

// presser is the built program, with a file on its screen.
type presser struct {
	cmd    *exec.Cmd
	screen *os.File
	output <-chan time.Time
}

func pressing(program, file, own string) *presser {
	cmd := exec.Command(program, file)
	cmd.Env = append(os.Environ(), "TERM=xterm-256color", "XDG_CACHE_HOME="+own, "XDG_DATA_HOME="+own)
	screen, err := pty.StartWithSize(cmd, &pty.Winsize{Rows: 42, Cols: 142})
	if err != nil {
		log.Fatal(err)
	}
	p := &presser{cmd, screen, screenTimes(screen)}
	quietFor(p.output, 3*time.Second)
	return p
}

func (p *presser) end() {
	_ = p.cmd.Process.Kill()
	_ = p.cmd.Wait()
	_ = p.screen.Close()
}

// times are those of moves down and up, from the press to the screen, in ms: while something is done, and for some time behind it.
func (p *presser) times(behind time.Duration, do func()) (took []float64) {
	done := make(chan struct{})
	go func() {
		do()
		time.Sleep(behind)
		close(done)
	}()
	for n := 0; ; n++ {
		select {
		case <-done:
			return took
		case <-time.After(25 * time.Millisecond):
		}
		drain(p.output)
		started := time.Now()
		if _, err := p.screen.WriteString([]string{"j", "j", "k", "k"}[n%4]); err != nil {
			log.Fatal(err)
		}
		select {
		case at := <-p.output:
			took = append(took, ms(at.Sub(started)))
		case <-time.After(time.Second):
			took = append(took, ms(time.Second))
		}
	}
}

// screenTimes are when something was drawn.
func screenTimes(screen io.Reader) <-chan time.Time {
	output := make(chan time.Time, 10_000)
	go func() {
		defer close(output)
		buf := make([]byte, 1<<16)
		for {
			if _, err := screen.Read(buf); err != nil {
				return
			}
			output <- time.Now()
		}
	}()
	return output
}

// drain takes what was drawn so far.
func drain(output <-chan time.Time) {
	for {
		select {
		case <-output:
		default:
			return
		}
	}
}

// quietFor waits until nothing has been drawn for a while.
func quietFor(output <-chan time.Time, d time.Duration) {
	for {
		select {
		case _, ok := <-output:
			if !ok {
				log.Fatal("the program ended while its keys were timed")
			}
		case <-time.After(d):
			return
		}
	}
}
