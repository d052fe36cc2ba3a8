package main

import (
	"context"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/creack/pty"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/app"
	"rooktrail/internal/ui/keymap"
)

// frame is the time between two frames of a usual screen, 60 a second.
const frame = time.Second / 60

// manyLines is how long the file is in which keys are timed.
const manyLines = 100_000

// longFile writes a Go file of so many lines into a folder: functions with a few
// blocks each, comments and sections.
func longFile(folder string, lines int) string {
	var b strings.Builder
	b.WriteString("package long\n\nimport \"fmt\"\n\n")
	for n := range lines / 14 {
		if n%50 == 0 {
			fmt.Fprintf(&b, "// ---- part %d ----\n\n", n/50)
		}
		fmt.Fprintf(&b, "// Slope%d tells about\n// one slope.\nfunc Slope%d(depth int) int {\n\tif depth > %d {\n\t\treturn depth\n\t}\n", n, n, n)
		fmt.Fprintf(&b, "\tfor i := range depth {\n\t\tfmt.Println(i, \"snow\")\n\t}\n\treturn %d\n}\n\nvar snow%d = 1\n\n", n, n)
	}
	file := filepath.Join(folder, "long.go")
	if err := os.WriteFile(file, []byte(b.String()), 0o600); err != nil {
		log.Fatal(err)
	}
	return file
}

// press is a key in the two forms in which it is needed.
type press struct {
	bytes string
	key   tea.KeyPressMsg
}

func letters(s string) (all []press) {
	for _, r := range s {
		all = append(all, press{string(r), tea.KeyPressMsg{Code: r, Text: string(r)}})
	}
	return all
}

func special(bytes string, code rune, mod tea.KeyMod) press {
	return press{bytes, tea.KeyPressMsg{Code: code, Mod: mod}}
}

// deeds are what one does in a long file, each with its keys, and how often that
// is done over.
var deeds = []struct {
	name  string
	keys  []press
	times int
}{
	{"scrolling", []press{special("\x1b[6~", tea.KeyPgDown, 0)}, 300},
	{"moving by lines", letters("j"), 300},
	{"hopping", letters("]"), 300},
	{"folding all and opening", letters("Sa"), 60},
	{"folding bodies, one here", letters("Sb*"), 60},
	// Without Esc, with which every program waits a while for what else it may begin.
	{"finding", append(letters("/snow4"), special("\r", tea.KeyEnter, 0)), 40},
	// The first w begins to write, and all that follows is typed.
	{"typing", letters("wsnow "), 40},
	{"selecting lines", []press{special("\x1b[1;2B", tea.KeyDown, tea.ModShift)}, 499},
	{"typing at 500 carets", append([]press{{"\x05", tea.KeyPressMsg{Code: 'e', Mod: tea.ModCtrl}}}, letters("nsnow")...), 30},
}

// keysInALongFile times keys in a file of 100,000 lines: what the program itself
// takes for one, and how long it is from the press to the screen.
func keysInALongFile(program string) (rows []row) {
	folder, err := os.MkdirTemp("", "rooktrail-bench-long-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	file := longFile(folder, manyLines)
	ms99 := func(all []time.Duration) float64 {
		slices.Sort(all)
		return ms(all[len(all)*99/100])
	}
	inside := updates(folder)
	own, err := os.MkdirTemp("", "rooktrail-bench-own-") // outside of the project, which is watched
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(own)
	outside := presses(program, file, own)
	for i, d := range deeds {
		rows = append(rows,
			row{d.name + " in 100,000 lines, Update and View, p99", ms99(inside[i]), ms(frame), "ms", "≤ 8 ms, half a frame"},
			row{d.name + " in 100,000 lines, press to screen, p99", ms99(outside[i]), ms(frame), "ms", "≤ 1.5 frames"})
	}
	return rows
}

// updates times Update and View together, key by key, with the commands carried
// out in between.
func updates(root string) (all [][]time.Duration) {
	ws := workspace.New(root)
	if err := ws.Code.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	model, err := app.New(context.Background(), ws, place.Place{Path: "long.go", Line: 5}, "", keymap.Owned{})
	if err != nil {
		log.Fatal(err)
	}
	messages := make(chan tea.Msg, 1000)
	p := &driven{model, messages}
	p.run(model.Init())
	p.send(tea.WindowSizeMsg{Width: 142, Height: 42})
	p.settle(2 * time.Second)
	for _, d := range deeds {
		var took []time.Duration
		for range d.times {
			for _, k := range d.keys {
				took = append(took, p.send(k.key))
				p.settle(3 * time.Millisecond)
			}
		}
		p.settle(200 * time.Millisecond)
		all = append(all, took)
	}
	return all
}

// driven is the program with its commands carried out as they come.
type driven struct {
	model    tea.Model
	messages chan tea.Msg
}

func (p *driven) run(cmd tea.Cmd) {
	if cmd == nil {
		return
	}
	go func() {
		switch msg := cmd().(type) {
		case nil:
		case tea.BatchMsg:
			for _, c := range msg {
				p.run(c)
			}
		default:
			p.messages <- msg
		}
	}()
}

// send takes a message and draws what comes of it; it returns how long both took.
func (p *driven) send(msg tea.Msg) time.Duration {
	started := time.Now()
	_, cmd := p.model.Update(msg)
	_ = p.model.View()
	took := time.Since(started)
	p.run(cmd)
	return took
}

// settle takes in messages until none has come for a while.
func (p *driven) settle(quiet time.Duration) {
	for {
		select {
		case msg := <-p.messages:
			p.send(msg)
		case <-time.After(quiet):
			return
		}
	}
}

// presses times keys on the built program, in a terminal of its own: from the
// press to the first of what that brings to the screen.
func presses(program, file, own string) (all [][]time.Duration) {
	cmd := exec.Command(program, file)
	cmd.Env = append(os.Environ(), "TERM=xterm-256color", "XDG_CACHE_HOME="+own, "XDG_DATA_HOME="+own)
	screen, err := pty.StartWithSize(cmd, &pty.Winsize{Rows: 42, Cols: 142})
	if err != nil {
		log.Fatal(err)
	}
	defer func() {
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		_ = screen.Close()
	}()
	output := screenTimes(screen)
	quietFor(output, 3*time.Second)
	for _, d := range deeds {
		var took []time.Duration
		for range d.times {
			for _, k := range d.keys {
				started := time.Now()
				if _, err := screen.WriteString(k.bytes); err != nil {
					log.Fatal(err)
				}
				select {
				case at := <-output:
					took = append(took, at.Sub(started))
				case <-time.After(300 * time.Millisecond): // nothing is to be seen of it
				}
				quietFor(output, 50*time.Millisecond)
			}
		}
		all = append(all, took)
	}
	return all
}
