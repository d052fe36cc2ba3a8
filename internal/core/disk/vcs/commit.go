package vcs

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path"
	"strings"

	"rooktrail/internal/core/disk/door"
)

// The errors that say why nothing can be compared.
var (
	// ErrNoRepository says that a folder is in no repository, or that there is no git.
	ErrNoRepository = errors.New("this project is in no repository that git can be asked about")
	// ErrNoCommit says that nothing has been committed yet.
	ErrNoCommit = errors.New("nothing has been committed yet")
)

// Staged stands for what is staged, where a commit is asked for.
const Staged = ":"

// Commit is what something is compared with.
type Commit struct {
	// ID is that of the commit in full, or Staged.
	ID string
	// Words say what it is, for people.
	Words string
}

// Short is the beginning of its ID, as people write it.
func (c Commit) Short() string { return c.ID[:min(len(c.ID), 10)] }

// Resolve finds the commit that a revision means: a commit, tag or branch as git writes it; "" for the last commit,
// Staged for what is staged, and OTHER... for the one at which the present branch has left another.
func Resolve(ctx context.Context, dir, rev string) (Commit, error) {
	if _, err := output(ctx, dir, "rev-parse", "--git-dir"); err != nil {
		return Commit{}, ErrNoRepository
	}
	if rev == Staged {
		return Commit{Staged, "what is staged"}, nil
	}
	head, err := commitOf(ctx, dir, "HEAD")
	if err != nil {
		return Commit{}, ErrNoCommit
	}
	switch other, left := strings.CutSuffix(rev, "..."); {
	case rev == "" || rev == "HEAD":
		return Commit{head, "the last commit"}, nil
	case left:
		id, err := commitOf(ctx, dir, other)
		if err != nil {
			return Commit{}, fmt.Errorf("there is no commit, tag or branch %q", other)
		}
		out, err := output(ctx, dir, "merge-base", head, id)
		if err != nil {
			return Commit{}, fmt.Errorf("the present branch and %s have no commit in common", other)
		}
		return Commit{strings.TrimSpace(string(out)), "where this branch has left " + other}, nil
	}
	id, err := commitOf(ctx, dir, rev)
	if err != nil {
		return Commit{}, fmt.Errorf("there is no commit, tag or branch %q", rev)
	}
	return Commit{id, rev}, nil
}

func commitOf(ctx context.Context, dir, rev string) (string, error) {
	if rev == "" || strings.HasPrefix(rev, "-") {
		return "", errors.New("that is no revision")
	}
	out, err := output(ctx, dir, "rev-parse", "--verify", "--quiet", "--end-of-options", rev+"^{commit}")
	return strings.TrimSpace(string(out)), err
}

// ErrNotThere says that a commit does not have a file.
var ErrNotThere = errors.New("the commit does not have it")

// Blob is a file as a commit has it, or as it is staged; the path is relative to dir. The error wraps ErrNotThere if it
// does not have one.
func Blob(ctx context.Context, dir string, c Commit, file string) ([]byte, error) {
	at := c.ID + ":./" + file
	if c.ID == Staged {
		at = ":./" + file
	}
	out, err := output(ctx, dir, "cat-file", "blob", at)
	if err != nil && ctx.Err() == nil && !errors.Is(err, errMuch) {
		return nil, fmt.Errorf("%s: %w", path.Base(file), ErrNotThere)
	}
	return out, err
}

// Difference is a file that differs from a commit.
type Difference struct {
	// Path is where it is now; Was where the commit has it, "" for nowhere, and another one for a file that was renamed.
	Path, Was string
	// Gone says that it is not here any more.
	Gone bool
}

// Differences are the files below dir that differ from a commit, or from what is staged: edited, added, renamed, taken
// away, or not known to git yet. Nothing that the repository configures is run.
func Differences(ctx context.Context, dir string, c Commit) (all []Difference, err error) {
	entries, err := output(ctx, dir, "ls-files", "--stage", "--debug", "-z")
	if err != nil {
		return nil, err
	}
	d := differences{byPath: map[string]*Difference{}}
	for _, e := range parseEntries(entries) {
		if e.differs(dir) {
			d.add(e.path, e.path)
		}
	}
	others, err := output(ctx, dir, "ls-files", "--others", "--exclude-standard", "-z")
	if err != nil {
		return nil, err
	}
	for p := range strings.SplitSeq(string(others), "\x00") {
		d.add(p, "")
	}
	if c.ID != Staged {
		out, err := output(ctx, dir, "diff-index", "--cached", "--name-status", "-M", "--relative", "--no-ext-diff", "--ignore-submodules", "-z", c.ID)
		if err != nil {
			return nil, err
		}
		d.take(out)
	}
	for _, p := range d.order {
		one := d.byPath[p]
		one.Gone = !isFile(dir, p)
		if one.Was != "" || !one.Gone {
			all = append(all, *one)
		}
	}
	return all, nil
}

// differences are those found so far, by their paths.
type differences struct {
	byPath map[string]*Difference
	order  []string
}

func (d *differences) add(p, was string) {
	if p == "" || !door.Inside(p) || was != "" && !door.Inside(was) {
		return
	}
	if one := d.byPath[p]; one != nil {
		one.Was = was
		return
	}
	d.byPath[p] = &Difference{Path: p, Was: was}
	d.order = append(d.order, p)
}

// take reads what git diff-index --name-status -z prints: a letter, a path, for a rename another one, and so on.
func (d *differences) take(out []byte) {
	parts := bytes.Split(out, []byte{0})
	for i := 0; i+1 < len(parts); i += 2 {
		letter, p := string(parts[i]), string(parts[i+1])
		switch {
		case strings.HasPrefix(letter, "R") || strings.HasPrefix(letter, "C"):
			if i+2 < len(parts) {
				d.add(string(parts[i+2]), p)
				i++
			}
		case letter == "A":
			d.add(p, "")
		default:
			d.add(p, p)
		}
	}
}
