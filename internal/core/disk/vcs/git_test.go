package vcs

import (
	"bytes"
	"context"
	"crypto/sha1"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// naming tells the settings of git that may name a program from others.
var naming = regexp.MustCompile(`(?i)program|command|cmd|helper|editor|pager|hook|external|textconv|clean|smudge|process|driver|monitor|askpass|proxy|browser|viewer|tool|exec|gpg|sign|alias|hookspath|worktree|run|ssh|vcs|uploadpack|receivepack`)

// repository makes one with a commit that looks signed and a file that its history has deleted.
func repository(t *testing.T) (dir string, git func(args ...string)) {
	dir = t.TempDir()
	git = func(args ...string) {
		cmd := exec.Command("git", append([]string{"-c", "user.name=a", "-c", "user.email=a@b.example", "-c", "commit.gpgsign=false"}, args...)...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
	}
	git("init", "-q")
	for name, text := range map[string]string{"a.txt": "one\ntwo\nthree\n", "gone.txt": "four\nfive\nsix\n", ".gitattributes": "* filter=x diff=x merge=x\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	git("add", ".")
	git("commit", "-qm", "first")
	git("mv", "gone.txt", "there.txt")
	git("commit", "-qm", "second")
	head, err := exec.Command("git", "-C", dir, "cat-file", "commit", "HEAD").Output()
	require.NoError(t, err)
	signed := strings.Replace(string(head), "\n\n", "\ngpgsig -----BEGIN PGP SIGNATURE-----\n \n aaaa\n -----END PGP SIGNATURE-----\n\n", 1)
	cmd := exec.Command("git", "-C", dir, "hash-object", "-t", "commit", "-w", "--stdin")
	cmd.Stdin = strings.NewReader(signed)
	hash, err := cmd.Output()
	require.NoError(t, err)
	git("update-ref", "HEAD", strings.TrimSpace(string(hash)))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "a.txt"), []byte("one\n2\nthree\n"), 0o644))
	return dir, git
}

// Whatever a repository configures to be run, asking git about it runs nothing.
func TestNothingOfTheRepositoryIsRun(t *testing.T) {
	dir, git := repository(t)
	elsewhere := t.TempDir()
	witness, script := filepath.Join(elsewhere, "was-run"), filepath.Join(elsewhere, "script.sh")
	require.NoError(t, os.WriteFile(script, []byte("#!/bin/sh\necho \"$0 $*\" >> "+witness+"\ncat\n"), 0o755))
	listed, err := exec.Command("git", "help", "--config").Output()
	require.NoError(t, err)
	var settings []string
	for name := range strings.FieldsSeq(string(listed)) {
		name = regexp.MustCompile(`<[^>]*>|\*`).ReplaceAllString(name, "x")
		if naming.MatchString(name) && strings.Count(name, ".") > 0 {
			settings = append(settings, name)
		}
	}
	require.Greater(t, len(settings), 100)
	settings = append(settings, "gpg.program", "gpg.openpgp.program", "gpg.ssh.program", "gpg.ssh.defaultKeyCommand", "filter.x.clean", "filter.x.smudge", "filter.x.process",
		"diff.x.command", "diff.x.textconv", "merge.x.driver", "core.fsmonitor", "core.sshCommand", "diff.external", "credential.helper", "core.hooksPath")
	git("config", "log.showSignature", "true")
	plain, err := os.ReadFile(filepath.Join(dir, ".git", "config"))
	require.NoError(t, err)
	for _, hook := range []string{"post-index-change", "fsmonitor-watchman", "reference-transaction", "post-checkout"} {
		require.NoError(t, os.MkdirAll(filepath.Join(dir, ".git", "hooks"), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, ".git", "hooks", hook), []byte("#!/bin/sh\necho hook >> "+witness+"\n"), 0o755))
	}
	ctx, answered := context.Background(), 0
	for _, setting := range settings {
		section, key := setting[:strings.LastIndexByte(setting, '.')], setting[strings.LastIndexByte(setting, '.')+1:]
		if top, sub, ok := strings.Cut(section, "."); ok {
			section = top + ` "` + sub + `"`
		}
		config := string(plain) + "[" + section + "]\n\t" + key + " = " + script + "\n"
		require.NoError(t, os.WriteFile(filepath.Join(dir, ".git", "config"), []byte(config), 0o644))
		if changed, err := Changed(ctx, dir); err == nil && len(changed) > 0 {
			answered++
		}
		_ = Renamed(ctx, dir, "gone.txt", "never.txt")
		if c, err := Resolve(ctx, dir, "HEAD..."); err == nil {
			_, _ = Blob(ctx, dir, c, "a.txt")
			_, _ = output(ctx, dir, "diff-index", "--cached", "--name-status", "-M", "--relative", "--no-ext-diff", "--ignore-submodules", "-z", c.ID)
			_, _ = History(ctx, dir, c, "a.txt", 1, 1)
		}
		for _, args := range [][]string{{"check-ignore", "--quiet", "."}, {"ls-files", "-z", "--cached"}} {
			_, _ = output(ctx, dir, args...)
		}
		require.NoFileExists(t, witness, setting)
	}
	assert.Greater(t, answered, len(settings)*3/4, "most settings are none at which git gives up")
}

// The setting that did run something: a signature that is checked.
func TestNoSignatureIsChecked(t *testing.T) {
	dir, git := repository(t)
	witness, script := filepath.Join(t.TempDir(), "was-run"), filepath.Join(t.TempDir(), "gpg.sh")
	require.NoError(t, os.WriteFile(script, []byte("#!/bin/sh\necho ran >> "+witness+"\n"), 0o755))
	git("config", "log.showSignature", "true")
	git("config", "gpg.program", script)
	_ = exec.Command("git", "-C", dir, "log", "-1").Run()
	require.FileExists(t, witness, "without care it does run")
	require.NoError(t, os.Remove(witness))
	assert.Equal(t, map[string]string{"gone.txt": "there.txt"}, Renamed(context.Background(), dir, "gone.txt"))
	assert.NoFileExists(t, witness)
}

// A hook of git runs programs with the place of its own repository in the environment.
func TestTheEnvironmentOfAHook(t *testing.T) {
	dir, _ := repository(t)
	t.Setenv("GIT_DIR", filepath.Join(t.TempDir(), "elsewhere"))
	t.Setenv("GIT_INDEX_FILE", "nowhere")
	changed, err := Changed(context.Background(), dir)
	require.NoError(t, err)
	assert.Equal(t, []Change{{Path: "a.txt"}}, changed)
}

// What git says of paths outside of the project is not believed.
func TestEntriesThatLeadOut(t *testing.T) {
	dir, git := repository(t)
	git("config", "core.protectNTFS", "false")
	index, err := os.ReadFile(filepath.Join(dir, ".git", "index"))
	require.NoError(t, err)
	for _, bad := range []string{"/etc/x", "../../x"} { // of the same length as a name that is there
		name := strings.Repeat("t", len(bad))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte("x\n"), 0o644))
		git("add", name)
		index, err = os.ReadFile(filepath.Join(dir, ".git", "index"))
		require.NoError(t, err)
		index = bytes.ReplaceAll(index, []byte(name), []byte(bad))
		sum := sha1.Sum(index[:len(index)-20])
		copy(index[len(index)-20:], sum[:])
		require.NoError(t, os.WriteFile(filepath.Join(dir, ".git", "index"), index, 0o644))
		changed, err := Changed(context.Background(), dir)
		if err == nil {
			for _, c := range changed {
				assert.NotContains(t, c.Path, "x\n")
				assert.NotEqual(t, bad, c.Path)
			}
		}
	}
}

func TestItIsCancelled(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Error(t, Git(ctx, t.TempDir(), "version").Run())
	out, err := Git(context.Background(), t.TempDir(), "version").Output()
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(out), "git version"))
}
