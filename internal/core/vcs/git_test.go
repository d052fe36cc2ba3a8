package vcs

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever a repository configures to be run, asking git about it runs nothing.
func TestNothingOfTheRepositoryIsRun(t *testing.T) {
	dir := t.TempDir()
	witness := filepath.Join(dir, "was-run")
	script := filepath.Join(dir, "script.sh")
	require.NoError(t, os.WriteFile(script, []byte("#!/bin/sh\necho ran >> "+witness+"\n"), 0o755))
	ctx := context.Background()
	require.NoError(t, Git(ctx, dir, "init", "--quiet").Run())
	for _, setting := range []string{"core.fsmonitor", "core.editor", "core.pager", "core.sshCommand", "diff.external", "credential.helper"} {
		require.NoError(t, Git(ctx, dir, "config", setting, script).Run())
	}
	hook := filepath.Join(dir, ".git", "hooks", "post-index-change")
	require.NoError(t, os.MkdirAll(filepath.Dir(hook), 0o755))
	require.NoError(t, os.WriteFile(hook, []byte("#!/bin/sh\necho ran >> "+witness+"\n"), 0o755))
	for _, args := range [][]string{{"ls-files", "--others"}, {"status", "--porcelain"}, {"add", "script.sh"}, {"diff", "--cached"}, {"update-index", "--refresh"}, {"log", "-1"}} {
		_ = Git(ctx, dir, args...).Run() // some of them fail, which is not the point
	}
	assert.NoFileExists(t, witness)
}

func TestItIsCancelled(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Error(t, Git(ctx, t.TempDir(), "version").Run())
	out, err := Git(context.Background(), t.TempDir(), "version").Output()
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(out), "git version"))
}
