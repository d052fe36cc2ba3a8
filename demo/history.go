package demo

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
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

// makeHistory commits the project step by step.
func makeHistory(ctx context.Context, dir string, texts map[string]string) error {
	if err := git(ctx, dir, commit{}, "init", "--quiet", "--initial-branch=main"); err != nil {
		return err
	}
	for i, c := range commits {
		stage := map[string]string{}
		for name, text := range texts {
			if addedBy(name) <= i {
				at, err := textAt(name, text, i)
				if err != nil {
					return err
				}
				stage[name] = at
			}
		}
		if err := write(dir, stage); err != nil {
			return err
		}
		if err := git(ctx, dir, c, "add", "--all"); err != nil {
			return err
		}
		if err := git(ctx, dir, c, "commit", "--quiet", "--no-verify", "--message", c.message); err != nil {
			return err
		}
	}
	return nil
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

// git runs git in the new repository as the commit's author and at its date,
// untouched by the configuration of whoever runs the demo.
func git(ctx context.Context, dir string, c commit, args ...string) error {
	name, mail, _ := strings.Cut(c.author, " <")
	mail = strings.TrimSuffix(mail, ">")
	cmd := exec.CommandContext(ctx, "git", append([]string{"-c", "commit.gpgsign=false", "-c", "core.hooksPath=" + os.DevNull, "-c", "core.autocrlf=false"}, args...)...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(),
		"GIT_CONFIG_GLOBAL="+os.DevNull, "GIT_CONFIG_NOSYSTEM=1", "GIT_DIR="+filepath.Join(dir, ".git"), "GIT_WORK_TREE="+dir,
		"GIT_AUTHOR_NAME="+name, "GIT_AUTHOR_EMAIL="+mail, "GIT_AUTHOR_DATE="+c.date,
		"GIT_COMMITTER_NAME="+name, "GIT_COMMITTER_EMAIL="+mail, "GIT_COMMITTER_DATE="+c.date)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("git %s: %w: %s", args[0], err, strings.TrimSpace(string(out)))
	}
	return nil
}
