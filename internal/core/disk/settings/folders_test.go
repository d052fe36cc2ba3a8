package settings_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
)

func TestProjectsInWhichNothingIsLeftOut(t *testing.T) {
	home := t.TempDir()
	t.Setenv("HOME", home)
	file := filepath.Join(t.TempDir(), "settings.toml")
	require.NoError(t, os.WriteFile(file, []byte("[find]\ntake_in = [\"~/src/hut/\", \"/valley\"]\n"), 0o600))
	s, problems := settings.Load(file, "")
	require.Empty(t, problems)
	assert.True(t, s.Everything(home+"/src/hut"))
	assert.True(t, s.Everything("/valley"))
	assert.False(t, s.Everything("/valley/below"))
	assert.Equal(t, []string{"~/src/hut/", "/valley", "/slope"}, s.WithEverything("/slope", true))
	assert.Equal(t, []string{"~/src/hut/"}, s.WithEverything("/valley", false))
}
