package app

import (
	"math/rand"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
)

// randomKeys are those of every binding, and what one types in lists.
func randomKeys() (keys []tea.KeyPressMsg) {
	codes := map[string]rune{
		"enter": tea.KeyEnter, "esc": tea.KeyEscape, "up": tea.KeyUp, "down": tea.KeyDown, "tab": tea.KeyTab, "space": tea.KeySpace, "home": tea.KeyHome,
		"end": tea.KeyEnd, "backspace": tea.KeyBackspace, "left": tea.KeyLeft, "right": tea.KeyRight, "pgup": tea.KeyPgUp, "pgdown": tea.KeyPgDown,
	}
	add := func(name string) {
		mod := tea.KeyMod(0)
		if rest, ok := strings.CutPrefix(name, "ctrl+"); ok {
			mod, name = tea.ModCtrl, rest
		} else if rest, ok := strings.CutPrefix(name, "alt+"); ok {
			mod, name = tea.ModAlt, rest
		}
		if code, ok := codes[name]; ok {
			keys = append(keys, tea.KeyPressMsg{Code: code, Mod: mod})
			return
		}
		k := tea.KeyPressMsg{Code: []rune(name)[0], Mod: mod}
		if mod == 0 {
			k.Text = name
		}
		keys = append(keys, k)
	}
	for _, b := range keymap.Default() {
		if b.Action == keymap.Quit || b.Action == keymap.OpenOutside || b.Action == keymap.Edit {
			continue
		}
		for _, k := range b.Keys {
			for part := range strings.FieldsSeq(k) {
				if part != "alt+h" {
					add(part)
				}
			}
		}
	}
	for _, k := range []string{"esc", "esc", "esc", "enter", "enter", "down", "r", "o", "s", "t"} {
		add(k)
	}
	return keys
}

// Whatever one presses in whatever order, there is always a screen of the right
// size, and the caret is on a line of the file.
func TestRandomKeys(t *testing.T) {
	keys := randomKeys()
	presses, _ := strconv.Atoi(os.Getenv("ROOKTRAIL_RANDOM_KEYS")) // for longer tries by hand
	presses = max(presses, 400)
	for seed := int64(1); seed <= 2; seed++ {
		random := rand.New(rand.NewSource(seed))
		p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
		root := p.ws.Code.Root()
		require.NoError(t, os.WriteFile(filepath.Join(root, "empty.py"), nil, 0o600))
		require.NoError(t, os.WriteFile(filepath.Join(root, "broken.go"), []byte("package x\nfunc (((\n\tif {\n"), 0o600))
		p.ws.Code.Refresh(t.Context())
		var pressed []string
		width, height := 120, 30
		for n := range presses {
			k := keys[random.Intn(len(keys))]
			pressed = append(pressed, k.String())
			p.send(k)
			for waiting := true; waiting; {
				select {
				case msg := <-p.messages:
					p.send(msg)
				case <-time.After(time.Duration(random.Intn(3)) * time.Millisecond):
					waiting = false
				}
			}
			if n%50 == 0 {
				width, height = 30+random.Intn(180), 8+random.Intn(50)
				p.send(tea.WindowSizeMsg{Width: width, Height: height})
			}
			rows := strings.Split(p.view(), "\n")
			last := pressed[max(0, len(pressed)-12):]
			if width >= frame.LeastWidth && height >= frame.LeastHeight {
				require.Len(t, rows, height, "%dx%d after %v", width, height, last)
			}
			for _, r := range rows {
				require.LessOrEqual(t, ink.Width(r), width, "%dx%d after %v: %s", width, height, last, r)
			}
			if f := p.model.frame.Code.File(); f != nil {
				line, _ := p.model.frame.Code.Caret()
				last := f.Text.Lines()
				if p.model.writing.On() == f.Path { // behind the last line end one can write, too
					last++
				}
				require.True(t, line >= 1 && line <= last, "line %d after %v", line, last)
			}
			require.Contains(t, p.model.frame.Sides(), p.model.frame.CodeSide(), "the keys go to a side that is there, after %v", last)
		}
	}
}
