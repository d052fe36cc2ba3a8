package app

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/habit"
)

// What is set has its effect at once, is found by name, and is kept.
func TestSettingsHaveTheirEffectAtOnce(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 3})
	file := filepath.Join(t.TempDir(), "settings.toml")
	p.model.Set(settings.Settings{}, file, "", &habit.Book{})
	p.see("trail  ", "    3   ").press("space", "=hide line numbers").see("setting   line numbers: absolute").press("enter")
	p.see("settings", "absolute", "Whether lines are numbered").press("right").see("relative", "by you").press("esc")
	p.see("    1   ", "    2   ", "    3   ").gone("    9   ")
	p.press("space", "=bottom line").see("strip: on").press("enter", "enter").see("off").press("esc").gone("trail  ")
	p.press("space", "=settings", "enter").press("=strip", "alt+d").see("by default").press("esc", "esc").see("trail  ")
	p.until(func(string) bool {
		data, err := os.ReadFile(file)
		return err == nil && string(data) == "[look]\nline_numbers = \"relative\"\n"
	}, "what is kept")
}

// It may begin in write.
func TestBeginningInWrite(t *testing.T) {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.txt"), []byte("a\n"), 0o600))
	p := open(t, root, place.Place{Path: "hut.txt"}, "")
	p.model.Set(settings.Settings{}.With(settings.Begin, "write", settings.ByUser), "", "", &habit.Book{})
	p.quiet(nil)
	p.press("=x").see("WRITE", "xa")
	assert.True(t, p.model.writing.Writing())
}
