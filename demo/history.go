package demo

import (
	"context"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// commit is one step of the demo's history. The embedded files are how the
// project stands at the end, with the changes that are not committed; a commit
// names the files it adds, and the history works backwards from there.
type commit struct {
	date    string // RFC 3339
	author  string
	message string
	adds    []string // files, or folders with a slash behind
}

// revision is a change of a text: before the commit of the given number,
// counted from 0, it read was; from then on it reads now. Uncommitted changes
// belong to a commit that never comes.
type revision struct {
	commit   int
	file     string
	was, now string
}

// makeHistory makes a repository with all commits in the folder, in one go, and
// its index. No file of the project is written.
func makeHistory(ctx context.Context, dir string, texts map[string]string) error {
	stream, err := historyStream(texts)
	if err != nil {
		return err
	}
	if err := git(ctx, dir, "", "init", "--quiet", "--initial-branch=main"); err != nil {
		return err
	}
	if err := git(ctx, dir, stream, "fast-import", "--quiet"); err != nil {
		return err
	}
	return git(ctx, dir, "", "read-tree", "HEAD")
}

// historyStream is the history as git's fast-import reads it: each commit with
// the files that are new or otherwise in it.
func historyStream(texts map[string]string) (string, error) {
	var b strings.Builder
	data := func(text string) { fmt.Fprintf(&b, "data %d\n%s\n", len(text), text) }
	names := slices.Sorted(maps.Keys(texts))
	last := map[string]string{}
	for i, c := range commits {
		date, err := time.Parse(time.RFC3339, c.date)
		if err != nil {
			return "", fmt.Errorf("the date of commit %q: %w", c.message, err)
		}
		fmt.Fprintf(&b, "commit refs/heads/main\n")
		for _, who := range []string{"author", "committer"} {
			fmt.Fprintf(&b, "%s %s %d +0000\n", who, c.author, date.Unix())
		}
		data(c.message + "\n")
		for _, name := range names {
			if addedBy(name) > i {
				continue
			}
			text, err := textAt(name, texts[name], i)
			if err != nil {
				return "", err
			}
			if before, ok := last[name]; !ok || before != text {
				fmt.Fprintf(&b, "M 100644 inline %s\n", name)
				data(text)
				last[name] = text
			}
		}
	}
	return b.String(), nil
}

// addedBy is the number of the commit that adds a file; one that no commit
// names is added by none, and stays untracked.
func addedBy(name string) int {
	for i, c := range commits {
		for _, a := range c.adds {
			if a == name || strings.HasSuffix(a, "/") && strings.HasPrefix(name, a) {
				return i
			}
		}
	}
	return len(commits)
}

// textAt is how a file read after the commit of the given number.
func textAt(name, text string, number int) (string, error) {
	for i := len(revisions) - 1; i >= 0; i-- {
		r := revisions[i]
		if r.file != name || r.commit <= number {
			continue
		}
		if strings.Count(text, r.now) != 1 {
			return "", fmt.Errorf("%s: a revision does not fit: %q stands there %d times", name, r.now, strings.Count(text, r.now))
		}
		text = strings.Replace(text, r.now, r.was, 1)
	}
	return text, nil
}

// git runs git in the new repository, with the text as its input, untouched by
// the configuration of whoever runs the demo. Nothing is flushed to the disk: it
// is made again each time, and on a busy disk one would wait for it.
func git(ctx context.Context, dir, input string, args ...string) error {
	cmd := exec.CommandContext(ctx, "git", append([]string{"-c", "core.fsync=none", "-c", "core.hooksPath=" + os.DevNull, "-c", "core.autocrlf=false"}, args...)...)
	cmd.Dir = dir
	cmd.Stdin = strings.NewReader(input)
	cmd.Env = append(os.Environ(),
		"GIT_CONFIG_GLOBAL="+os.DevNull, "GIT_CONFIG_NOSYSTEM=1", "GIT_DIR="+filepath.Join(dir, ".git"), "GIT_WORK_TREE="+dir)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("git %s: %w: %s", args[0], err, strings.TrimSpace(string(out)))
	}
	return nil
}
