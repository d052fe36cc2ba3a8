package settings_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
)

func load(t *testing.T, text string) (settings.Settings, error) {
	name := filepath.Join(t.TempDir(), "settings.toml")
	require.NoError(t, os.WriteFile(name, []byte(text), 0o600))
	return settings.Load(name)
}

func TestSettings(t *testing.T) {
	s, err := settings.Load(filepath.Join(t.TempDir(), "none.toml"))
	require.NoError(t, err)
	assert.False(t, s.Plain)
	s, err = load(t, "[write]\nformat_go = false\ncomplete = false\n[formatters]\n\".txt\" = [\"tr\", \"a-z\", \"A-Z\"]\n\".bad\" = [\"false\"]\n\".none\" = [\"true\"]\n")
	require.NoError(t, err)
	assert.True(t, s.Plain && s.Silent)
	out, ok, err := s.Format(t.Context(), t.TempDir(), "a.txt", []byte("snow\n"))
	require.NoError(t, err)
	assert.True(t, ok)
	assert.Equal(t, "SNOW\n", string(out))
	_, ok, err = s.Format(t.Context(), t.TempDir(), "a.go", []byte("x"))
	require.NoError(t, err)
	assert.False(t, ok)
	for _, file := range []string{"a.bad", "a.none"} {
		out, _, err = s.Format(t.Context(), t.TempDir(), file, []byte("x"))
		assert.Error(t, err)
		assert.Equal(t, "x", string(out), "the text stays")
	}
	for text, words := range map[string]string{
		"[write]\nformat_go = 3\n": "in line 2", "[write]\n\nsnow = true\n": "write.snow in line 3 is not known", "x\n": "in line 1", "[formatters]\npy = [\"x\"]\n": "wants an ending",
	} {
		_, err := load(t, text)
		assert.ErrorContains(t, err, words)
	}
}
