package writing

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/uitest"
)

// A text of one's own is kept from what is selected, inserted by its word and Tab, and its places are filled in.
func TestTextsOfOnesOwn(t *testing.T) {
	t.Parallel()
	w := began("    bell {loud}\n")
	folder := filepath.Join(t.TempDir(), "snippets")
	assert.Equal(t, "there is no folder for texts of your own", w.do(keymap.Snippets).Say)
	w.KnowSnippets(folder)
	assert.Contains(t, w.do(keymap.Snippets).Say, "there are none yet")

	asked := w.do(keymap.SnippetKeep).Open
	require.NotNil(t, asked)
	asked.Resize(80, 1)
	assert.Contains(t, uitest.Of(asked, 80, 1), "keep this line by the word:")
	assert.Contains(t, uitest.Last(uitest.Press(asked, "ring", "enter")).Say, "ring and Tab inserts it")
	kept, err := os.ReadFile(filepath.Join(folder, "all.toml"))
	require.NoError(t, err)
	assert.Contains(t, string(kept), "bell {{loud}}")
	require.NoError(t, os.WriteFile(filepath.Join(folder, "all.toml"), append(kept, "\n[horn]\nabout = \"twice\"\ntext = \"horn {name} and {name}, {end}\"\n"...), 0o644))

	w.do(keymap.WriteAll)
	w.types("right", "ring", "tab")
	assert.Equal(t, "    bell {loud}\nbell {loud}", w.text())
	w.types("enter", "horn", "tab", "fog", "tab", "!")
	assert.Equal(t, "    bell {loud}\nbell {loud}\nhorn fog and fog, !", w.text())
	w.types("enter", "rings", "tab")
	assert.Contains(t, w.text(), "fog, !\nrings", "another word is not one of them")

	list := w.do(keymap.Snippets).Open
	require.NotNil(t, list)
	assert.Contains(t, uitest.Of(list, 80, 8), "twice")
	uitest.Press(list, "down", "enter")
	assert.Contains(t, w.text(), "bell {loud}", "as it was kept, braces and all")
}
