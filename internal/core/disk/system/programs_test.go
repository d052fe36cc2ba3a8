package system_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/system"
)

func TestEditor(t *testing.T) {
	dir := t.TempDir()
	script := filepath.Join(dir, "an editor")
	require.NoError(t, os.WriteFile(script, []byte("#!/bin/sh\nfor a in \"$@\"; do echo \"<$a>\"; done\n"), 0o700))
	for _, c := range []struct{ visual, editor, want string }{
		{"", "'" + script + "'", "<+7>\n</a $(b) \"c\".go>\n"},
		{"'" + script + "' --wait", "other", "<--wait>\n<+7>\n</a $(b) \"c\".go>\n"},
		{"", "'" + script + "' --goto {path}:{line}", "<--goto>\n</a $(b) \"c\".go:7>\n"},
	} {
		cmd, err := system.Editor(func(name string) string {
			return map[string]string{"VISUAL": c.visual, "EDITOR": c.editor}[name]
		}, "/a $(b) \"c\".go", 7)
		require.NoError(t, err)
		out, err := cmd.Output()
		require.NoError(t, err)
		assert.Equal(t, c.want, string(out))
	}
	_, err := system.Editor(func(string) string { return " " }, "/a", 1)
	assert.ErrorIs(t, err, system.ErrNoEditor)
}

func TestOpen(t *testing.T) {
	dir := t.TempDir()
	t.Setenv("PATH", dir)
	assert.ErrorContains(t, system.Open(context.Background(), "/a"), "there is no")
	for _, name := range []string{"xdg-open", "open"} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte("#!/bin/sh\n[ \"$1\" = /good ] || { echo 'nothing opens this'; exit 3; }\n"), 0o700))
	}
	assert.NoError(t, system.Open(context.Background(), "/good"))
	assert.ErrorContains(t, system.Open(context.Background(), "/bad"), "nothing opens this")
}
