package app

import (
	"os"
	"path/filepath"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/keymap"
)

// own begins the program with keys and commands of the user's own.
func own(t *testing.T, toml string, start place.Place) *program {
	file := filepath.Join(t.TempDir(), "keys.toml")
	require.NoError(t, os.WriteFile(file, []byte(toml), 0o600))
	owned, problems := keymap.LoadOwn(file)
	require.Empty(t, problems)
	p := beginOwn(t, start, owned)
	p.model.Set(settings.Settings{}, "", file, &habit.Book{})
	return p
}

// A command of one's own does others one after the other, each when one has arrived.
func TestACommandOfOnesOwn(t *testing.T) {
	p := own(t, "[commands.\"look around\"]\nkeys = [\"F8\"]\ndoes = [\"definition\", \"references\", \"Down\", \"Enter\"]\n", place.Place{Path: "dispatch/roster.go", Line: 6, Col: 15})
	p.see("line 6 column 15", "Team")
	p.press("f8").see("line 8", "[")
	p.press("space", "=look around").see("command   look around", "do: definition, references").press("esc")
}

// A text of one's own is inserted where one writes, with its places to fill in.
func TestATextOfOnesOwn(t *testing.T) {
	p := own(t, "[commands.guard]\nkeys = [\"F9\"]\ntext = \"if {what} {\\n\\treturn {what}.{}\\n}\"\n", place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9")
	p.press("f9").see("WRITE", "Tab goes to the next place")
	p.press("=t", "tab", "=Name").see("if t {", "return t.Name")
	p.press("tab", "=!").see("}!")
}

// Keys of one's own can hold in files of some names, where letters are typed, and in a list.
func TestKeysThatHoldSomewhere(t *testing.T) {
	p := own(t, "[files.\"*.go\"]\noutline = [\"e\"]\n[write]\nreferences = [\"F2\"]\n[lists.places]\n\"Ctrl+R\" = \"Alt+K\"\n", place.Place{Path: "dispatch/roster.go", Line: 4, Col: 6})
	p.see("line 4").press("e").see("by name").press("esc")
	p.press("w").see("WRITE").press("f2").see("references of Team").send(tea.KeyPressMsg{Code: 'r', Mod: tea.ModCtrl})
	p.see("kept as the sweep")
}
