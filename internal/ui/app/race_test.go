package app

import (
	"math/rand"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// take hands over what a command brings, at once.
func (p *program) take(cmd tea.Cmd) {
	if cmd == nil {
		return
	}
	switch msg := cmd().(type) {
	case nil:
	case tea.BatchMsg:
		for _, c := range msg {
			p.take(c)
		}
	default:
		p.send(msg)
	}
}

// A file is read anew in the moment between undoing and everybody's learning of that: what was
// undone is not taken for what is on disk.
func TestReadAnewRightAfterUndoing(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w", "=idle").until(func(string) bool { return p.model.writing.Known() }, "known")
	p.ctrl("z").take(p.model.reload())
	assert.Equal(t, onDisk(t, root, "hut.go"), string(p.text().Editor.Document().Bytes()))
	p.until(func(string) bool { return p.model.writing.Known() }, "known")
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte("package hut\n\n// Another.\n"), 0o644))
	p.take(p.model.reload())
	p.see("// Another.", "has changed on disk; this is how it is now")
}

// Saving again before the first time is through is no change by somebody else.
func TestSavingTwiceAtOnce(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w", "=//").ctrl("s").press("=//").ctrl("s").press("=// x").ctrl("s")
	p.until(func(v string) bool {
		assert.NotContains(t, v, "differ")
		return strings.Contains(onDisk(t, root, "hut.go"), "////// x") && !strings.Contains(v, "not saved")
	}, "all of it saved")
}

// A file that was only touched is saved without asking.
func TestATouchedFileIsSaved(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w", "=//")
	later := time.Now().Add(time.Hour)
	require.NoError(t, os.Chtimes(filepath.Join(root, "hut.go"), later, later))
	p.ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "hut.go"), "//")
}

// In whatever order one types, undoes and saves, others write the file and it is read anew: what
// the screen says is saved is what is on disk, and all answers are about that.
func TestWritingSavingAndReadingAnewInAnyOrder(t *testing.T) {
	for seed := range int64(4) {
		random := rand.New(rand.NewSource(seed))
		p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 3, Col: 1})
		p.see("[hut.go 3]").press("w")
		file := filepath.Join(root, "hut.go")
		for range 80 {
			switch random.Intn(12) {
			case 0, 1, 2, 3:
				p.press("=" + string(rune('a'+random.Intn(26))))
			case 4, 5:
				p.ctrl("z")
			case 6:
				p.ctrl("y")
			case 7, 8:
				p.ctrl("s")
			case 9:
				p.take(p.model.reload())
			case 10:
				if random.Intn(3) == 0 {
					require.NoError(t, os.WriteFile(file, []byte(onDisk(t, root, "hut.go")+"// theirs\n"), 0o644))
				}
			default:
				p.wait(time.Duration(random.Intn(80)) * time.Millisecond)
			}
			if p.model.over != nil { // both are shown: take both
				p.press("enter")
			}
		}
		p.settle()
		p.ws.Code.RefreshFiles(t.Context(), []string{"hut.go"})
		for range 5 {
			p.settle()
			if p.text().Editor.Changed() {
				p.ctrl("s")
			}
			p.wait(200 * time.Millisecond)
			if p.model.over != nil {
				p.press("enter")
			}
		}
		require.False(t, p.text().Editor.Changed(), "seed %d", seed)
		disk := onDisk(t, root, "hut.go")
		require.Equal(t, disk, string(p.text().Editor.Document().Bytes()), "seed %d", seed)
		require.Equal(t, disk, string(p.model.frame.Code.File().Text.Bytes()), "seed %d", seed)
		f, err := p.ws.Code.Load(t.Context(), "hut.go")
		require.NoError(t, err)
		require.True(t, text.Same(f.Text, p.model.frame.Code.File().Text), "seed %d", seed)
	}
}

// wait takes what comes for a while.
func (p *program) wait(long time.Duration) {
	for end := time.After(long); ; {
		select {
		case msg := <-p.messages:
			p.send(msg)
		case <-end:
			return
		}
	}
}

// settle waits until all that was written is known everywhere and nothing is being saved.
func (p *program) settle() {
	p.until(func(string) bool {
		return p.text().State() != desk.BeingSaved && p.model.writing.Known()
	}, "everything known")
}
