package making_test

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/file/text"
)

// project makes a folder with files, and one for what is kept.
func project(t *testing.T, files map[string]string) (root, kept string) {
	root, kept = t.TempDir(), filepath.Join(t.TempDir(), "changes")
	for p, body := range files {
		require.NoError(t, os.MkdirAll(filepath.Join(root, filepath.Dir(p)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(root, p), []byte(body), 0o644))
	}
	return root, kept
}

// files are those of a folder, with what they hold.
func files(t *testing.T, root string) map[string]string {
	all := map[string]string{}
	require.NoError(t, filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			data, err := os.ReadFile(p)
			require.NoError(t, err)
			rel, _ := filepath.Rel(root, p)
			all[rel] = string(data)
		}
		return err
	}))
	return all
}

// sample is a change of every kind of step.
func sample() (before, after map[string]string, c *making.Change) {
	before = map[string]string{"a.go": "a", "in/b.go": "b", "c.go": "c", "gone.go": "g", "old/d.go": "d"}
	after = map[string]string{"a.go": "A", "in/b2.go": "b", "deep/in/c.go": "C", "new.go": "n", "old/d.go": "D"}
	return before, after, &making.Change{Title: "sample", Steps: []making.Step{
		{From: "a.go", To: "a.go", Before: []byte("a"), After: []byte("A")},
		{From: "in/b.go", To: "in/b2.go", Before: []byte("b"), After: []byte("b")},
		{From: "c.go", To: "deep/in/c.go", Before: []byte("c"), After: []byte("C")},
		{From: "gone.go", Before: []byte("g")},
		{To: "new.go", After: []byte("n")},
		{From: "old/d.go", To: "old/d.go", Before: []byte("d"), After: []byte("D")},
	}}
}

func TestMakeUndoRedo(t *testing.T) {
	ctx := context.Background()
	before, after, c := sample()
	root, kept := project(t, before)
	require.NoError(t, os.Chmod(filepath.Join(root, "gone.go"), 0o600))
	require.NoError(t, making.New(root, kept).Make(ctx, c))
	assert.Equal(t, after, files(t, root))
	assert.Equal(t, [][2]string{{"in/b.go", "in/b2.go"}, {"c.go", "deep/in/c.go"}, {"gone.go", ""}, {"", "new.go"}}, c.Moved(false))

	m := making.New(root, kept) // as after a restart
	_, err := m.Redo(ctx)
	assert.ErrorIs(t, err, making.ErrNothing)
	u, err := m.Undo(ctx)
	require.NoError(t, err)
	assert.Equal(t, "sample", u.Title)
	assert.Equal(t, before, files(t, root))
	assert.NoDirExists(t, filepath.Join(root, "deep"), "folders that were made are gone again")
	info, err := os.Stat(filepath.Join(root, "gone.go"))
	require.NoError(t, err)
	assert.Equal(t, fs.FileMode(0o600), info.Mode().Perm())
	_, err = m.Undo(ctx)
	assert.ErrorIs(t, err, making.ErrNothing)
	_, err = m.Redo(ctx)
	require.NoError(t, err)
	assert.Equal(t, after, files(t, root))

	require.NoError(t, os.WriteFile(filepath.Join(root, "old/d.go"), []byte("D, and more"), 0o644))
	_, err = m.Undo(ctx)
	assert.ErrorIs(t, err, making.ErrDiffers)
	assert.ErrorContains(t, err, "old/d.go")
	assert.Equal(t, "A", files(t, root)["a.go"], "nothing is touched")
}

func TestOnlyIfAllIsAsItWas(t *testing.T) {
	for name, spoil := range map[string]func(root string) error{
		"changed":   func(root string) error { return os.WriteFile(filepath.Join(root, "old/d.go"), []byte("x"), 0o644) },
		"gone":      func(root string) error { return os.Remove(filepath.Join(root, "old/d.go")) },
		"in way":    func(root string) error { return os.WriteFile(filepath.Join(root, "new.go"), []byte("x"), 0o644) },
		"read-only": func(root string) error { return os.Chmod(filepath.Join(root, "old/d.go"), 0o444) },
		"a folder": func(root string) error {
			return errors.Join(os.Remove(filepath.Join(root, "old/d.go")), os.Mkdir(filepath.Join(root, "old/d.go"), 0o755))
		},
	} {
		before, _, c := sample()
		root, kept := project(t, before)
		require.NoError(t, spoil(root))
		was := files(t, root)
		assert.Error(t, making.New(root, kept).Make(context.Background(), c), name)
		assert.Equal(t, was, files(t, root), name)
		_, err := making.New(root, kept).Undo(context.Background())
		assert.ErrorIs(t, err, making.ErrNothing, name)
	}
	for _, p := range []string{"../x", "/etc/x", ".git/hooks/x", "a/../../x"} {
		root, kept := project(t, nil)
		assert.Error(t, making.New(root, kept).Make(context.Background(), &making.Change{Steps: []making.Step{{To: p, After: []byte("x")}}}), p)
	}
}

var errBroken = errors.New("the disk is broken")

// steps is a disk that counts what is done to it; at is asked before each step.
type steps struct {
	making.System
	n  int
	at func(n int) error
}

func (d *steps) step() error { d.n++; return d.at(d.n) }

func (d *steps) Rename(from, to string) error {
	if err := d.step(); err != nil {
		return err
	}
	return d.System.Rename(from, to)
}

func (d *steps) Remove(p string) error {
	if err := d.step(); err != nil {
		return err
	}
	return d.System.Remove(p)
}

func (d *steps) MkdirAll(p string, mode fs.FileMode) error {
	if err := d.step(); err != nil {
		return err
	}
	return d.System.MkdirAll(p, mode)
}

func (d *steps) CreateAs(p string, mode fs.FileMode) (text.Temporary, error) {
	if err := d.step(); err != nil {
		return nil, err
	}
	f, err := d.System.CreateAs(p, mode)
	return &stepsFile{f, d}, err
}

func (d *steps) WriteWhole(file string, data []byte) error {
	if err := d.step(); err != nil {
		return err
	}
	return d.System.WriteWhole(file, data)
}

type stepsFile struct {
	text.Temporary
	d *steps
}

func (f *stepsFile) Write(p []byte) (int, error) {
	if err := f.d.step(); err != nil {
		n, _ := f.Temporary.Write(p[:len(p)/2])
		return n, err
	}
	return f.Temporary.Write(p)
}

// Whatever step fails, all files are as they were, or all are as they are to be.
func TestFailingAtEachStep(t *testing.T) {
	t.Parallel()
	for n := 1; ; n++ {
		before, after, c := sample()
		root, kept := project(t, before)
		d := &steps{at: func(at int) error {
			if at == n {
				return errBroken
			}
			return nil
		}}
		err := making.NewOn(d, root, kept).Make(context.Background(), c)
		if d.n < n {
			require.NoError(t, err)
			assert.Greater(t, n, 12)
			return
		}
		want := before
		if err == nil {
			want = after // what failed did not matter
		}
		assert.Equal(t, want, files(t, root), "step %d: %v", n, err)
		left, err := making.New(root, kept).Left(context.Background())
		assert.NoError(t, err)
		assert.Empty(t, left)
	}
}

// A disk that is full leaves all as it was, also if it stays full.
func TestAFullDisk(t *testing.T) {
	t.Parallel()
	root, kept, c, before, _ := many(t, 50)
	d := &steps{}
	made := 0
	full := &fullDisk{d, func() bool { made++; return made > 30 }}
	d.at = func(int) error { return nil }
	assert.ErrorIs(t, making.NewOn(full, root, kept).Make(context.Background(), c), syscall.ENOSPC)
	assert.Equal(t, before, files(t, root))
}

type fullDisk struct {
	*steps
	isFull func() bool
}

func (d *fullDisk) CreateAs(p string, mode fs.FileMode) (text.Temporary, error) {
	if d.isFull() {
		return nil, syscall.ENOSPC
	}
	return d.steps.CreateAs(p, mode)
}

// many is a change over many files.
func many(t *testing.T, number int) (root, kept string, c *making.Change, before, after map[string]string) {
	before, after, c = map[string]string{}, map[string]string{}, changeMany(number)
	for _, s := range c.Steps {
		before[s.From], after[s.To] = string(s.Before), string(s.After)
	}
	root, kept = project(t, before)
	return root, kept, c, before, after
}

func changeMany(number int) *making.Change {
	c := &making.Change{Title: "many"}
	for i := range number {
		p := fmt.Sprintf("in/%d.go", i)
		s := making.Step{From: p, To: p, Before: []byte("roster " + p), After: []byte("team " + p)}
		if i%7 == 0 {
			s.To = fmt.Sprintf("other/%d.go", i)
		}
		c.Steps = append(c.Steps, s)
	}
	return c
}

const killedAt = "ROOKTRAIL_TEST_KILLED_AT"

// TestMain makes a change, and is killed at a step of it, if it is told to.
func TestMain(m *testing.M) {
	words := os.Getenv(killedAt)
	if words == "" {
		os.Exit(m.Run())
	}
	parts := strings.Split(words, " ")
	n, _ := strconv.Atoi(parts[0])
	d := &steps{at: func(at int) error {
		if at == n {
			syscall.Kill(os.Getpid(), syscall.SIGKILL)
			select {}
		}
		return nil
	}}
	maker := making.NewOn(d, parts[1], parts[2])
	if parts[3] == "undo" {
		if _, err := maker.Undo(context.Background()); err != nil {
			fmt.Println(err)
			os.Exit(2)
		}
		os.Exit(0)
	}
	if err := maker.Make(context.Background(), changeMany(50)); err != nil {
		fmt.Println(err)
		os.Exit(2)
	}
	os.Exit(0)
}

// A change over 50 files, killed at each of its steps (or, unless asked for all, at some of them), made and taken
// back: afterwards all files are old, or all are new, as the user says.
func TestKilledAtEachStep(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	all, kills := os.Getenv("ROOKTRAIL_ALL_KILLS") != "", 0
	for _, what := range []string{"make", "undo"} {
		for n := 1; ; n++ {
			if !all && n%50 != 1 {
				continue
			}
			root, kept, c, before, after := many(t, 50)
			if what == "undo" {
				require.NoError(t, making.New(root, kept).Make(ctx, c))
			}
			cmd := exec.Command(os.Args[0])
			cmd.Env = append(os.Environ(), fmt.Sprintf("%s=%d %s %s %s", killedAt, n, root, kept, what))
			if out, err := cmd.CombinedOutput(); err == nil {
				break // it came to its end before that step
			} else if cmd.ProcessState.ExitCode() == 2 {
				t.Fatal(string(out))
			}
			kills++
			m := making.New(root, kept)
			left, err := m.Left(ctx)
			require.NoError(t, err)
			now := files(t, root)
			if len(left) == 0 {
				assert.Contains(t, []map[string]string{before, after}, now, "%s, step %d", what, n)
				continue
			}
			require.Len(t, left, 1)
			assert.Empty(t, left[0].Other)
			assert.Equal(t, 50, left[0].Old+left[0].Done)
			want, settle := after, m.Finish
			if kills%2 == 0 {
				want, settle = before, m.TakeBack
			}
			require.NoError(t, settle(ctx, left[0]))
			assert.Equal(t, want, files(t, root), "%s, step %d", what, n)
			left, err = m.Left(ctx)
			require.NoError(t, err)
			assert.Empty(t, left)
		}
	}
	if all {
		assert.GreaterOrEqual(t, kills, 200)
	}
}

// What was made is what can be undone, however often the program is started.
func TestSeveralChanges(t *testing.T) {
	ctx := context.Background()
	root, kept := project(t, map[string]string{"a": "0"})
	for i := range 3 {
		c := &making.Change{Title: strconv.Itoa(i), Steps: []making.Step{{From: "a", To: "a", Before: []byte(strconv.Itoa(i)), After: []byte(strconv.Itoa(i + 1))}}}
		require.NoError(t, making.New(root, kept).Make(ctx, c))
	}
	for i := 2; i >= 1; i-- {
		c, err := making.New(root, kept).Undo(ctx)
		require.NoError(t, err)
		assert.Equal(t, strconv.Itoa(i), c.Title)
		assert.Equal(t, strconv.Itoa(i), files(t, root)["a"])
	}
	c, err := making.New(root, kept).Redo(ctx)
	require.NoError(t, err)
	assert.Equal(t, "1", c.Title)
	other := &making.Change{Title: "other", Steps: []making.Step{{From: "a", To: "a", Before: []byte("2"), After: []byte("other")}}}
	require.NoError(t, making.New(root, kept).Make(ctx, other))
	_, err = making.New(root, kept).Redo(ctx)
	assert.ErrorIs(t, err, making.ErrNothing, "something else was done since")
}
