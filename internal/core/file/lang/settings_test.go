package lang_test

import (
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestSettings(t *testing.T) {
	p := langtest.New(t, map[string]string{"hut.lock": "outer", "valley/hut.lock": "inner", "ridge/snow.lock": "snow", "scree/hut.lock": "?"})
	reads := 0
	read := func(text []byte) (string, error) {
		if reads++; string(text) == "?" {
			return "", errors.New("malformed")
		}
		return string(text), nil
	}
	var s lang.Settings[string]
	above := func(file string) string {
		folder, value, ok := s.Above(p, file, read, "snow.lock", "hut.lock")
		if !ok {
			return ""
		}
		return folder + " " + value
	}
	assert.Equal(t, "valley inner", above("valley/deep/a.x"))
	assert.Equal(t, ". outer", above("a.x"))
	assert.Equal(t, "ridge snow", above("ridge/a.x"), "the nearest, in the order of the names")
	assert.Equal(t, ". outer", above("scree/a.x"), "what was never understood is as if it were not there")
	reads = 0
	assert.Equal(t, "valley inner", above("valley/a.x"))
	assert.Equal(t, ". outer", above("scree/a.x"))
	assert.Zero(t, reads, "each text is read once")

	write := func(file, text string) {
		require.NoError(t, os.WriteFile(filepath.Join(p.Root, file), []byte(text), 0o644))
	}
	write("valley/hut.lock", "?")
	assert.Equal(t, "valley inner", above("valley/a.x"), "while it is malformed, as it was")
	write("valley/hut.lock", "other")
	assert.Equal(t, "valley other", above("valley/a.x"))
	require.NoError(t, os.Remove(filepath.Join(p.Root, "valley/hut.lock")))
	assert.Equal(t, ". outer", above("valley/a.x"))

	_, ok := s.Of(p, "none.lock", read)
	assert.False(t, ok)
	assert.NotPanics(t, func() { above("/"); above("//a//b") })
}
