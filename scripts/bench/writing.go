package main

import (
	"context"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/workspace"
)

// writingInALongFile times keys while one writes in a file of 100,000 lines, with one caret and
// with 500, and in a line of 10 MB.
func writingInALongFile() (rows []row) {
	folder, err := os.MkdirTemp("", "rooktrail-bench-writing-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	committed(longFile(folder, manyLines))
	line := strings.Repeat(`{"hut": "Käsealm", "depth": 31, "wind": "west"}, `, 10<<20/50)
	if err := os.WriteFile(filepath.Join(folder, "line.json"), []byte(line), 0o600); err != nil {
		log.Fatal(err)
	}
	ws := workspace.New(folder)
	if err := ws.Code.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	p := shown(ws, place.Place{Path: "long.go", Line: 50_000})
	p.settle(2 * time.Second)
	p.send(keysOf("w")[0])
	rows = append(rows, row{"typing in 100,000 lines with marks of 100 changes, Update and View, p99", p.typing99(6), ms(frame), "ms", "≤ 8 ms, half a frame"})
	rows = append(rows, row{"a pause in typing in 100,000 lines, and the next key, longest", p.pausing(10), ms(frame), "ms", "≤ 8 ms, half a frame"})
	// 500 carets, one in each of as many lines.
	for range 499 {
		p.send(tea.KeyPressMsg{Code: tea.KeyDown, Mod: tea.ModShift})
	}
	p.send(tea.KeyPressMsg{Code: 'e', Mod: tea.ModCtrl})
	p.send(keysOf("n")[0])
	rows = append(rows, row{"typing at 500 carets in 100,000 lines, Update and View, p99", p.typing99(3), ms(frame), "ms", "≤ 1 frame"})
	for _, at := range []struct {
		where string
		col   int
	}{{"the beginning", 1}, {"the middle", 5 << 20}, {"the end", 10 << 20}} {
		p := shown(ws, place.Place{Path: "line.json", Line: 1, Col: at.col})
		p.settle(2 * time.Second)
		p.send(keysOf("w")[0])
		rows = append(rows, row{"typing at " + at.where + " of a line of 10 MB, Update and View, p99", p.typing99(3), ms(frame), "ms", "≤ 1 frame"})
	}
	return rows
}

// committed commits a file in a repository of its own, and changes it in a few places, so that what differs is marked
// as one types.
func committed(file string) {
	for _, args := range [][]string{{"init", "-q"}, {"add", "."}, {"commit", "-qm", "snow"}} {
		cmd := exec.Command("git", append([]string{"-c", "user.name=n", "-c", "user.email=n@example.org"}, args...)...)
		cmd.Dir = filepath.Dir(file)
		if out, err := cmd.CombinedOutput(); err != nil {
			log.Fatalf("committing %s: %v: %s", file, err, out)
		}
	}
	body, err := os.ReadFile(file)
	if err != nil {
		log.Fatal(err)
	}
	lines := strings.SplitAfter(string(body), "\n")
	for n := 100; n < len(lines); n += 1000 {
		lines[n] = "// changed\n" + lines[n]
	}
	if err := os.WriteFile(file, []byte(strings.Join(lines, "")), 0o600); err != nil {
		log.Fatal(err)
	}
}

// typing99 is how long a key takes while one types some words several times, in 99 of 100 cases.
func (p *driven) typing99(times int) float64 {
	typed := append(keysOf(strings.Repeat("snow ", 12)), tea.KeyPressMsg{Code: tea.KeyEnter}, tea.KeyPressMsg{Code: tea.KeyBackspace}, tea.KeyPressMsg{Code: 'z', Mod: tea.ModCtrl})
	var took []time.Duration
	for range times {
		for _, k := range typed {
			took = append(took, p.send(k))
			p.settle(2 * time.Millisecond)
		}
	}
	p.settle(time.Second)
	slices.Sort(took)
	return ms(took[len(took)*99/100])
}

// pause is how long one stops, so that everything learns of what was typed.
const pause = 700 * time.Millisecond

// pausing is the longest that the program is at work at a stretch while one stops typing, and with the
// next key, in so many pauses.
func (p *driven) pausing(times int) float64 {
	var took []time.Duration
	for range times {
		took = append(took, p.hold(pause)...)
		for _, k := range keysOf("sn") {
			took = append(took, p.send(k))
		}
	}
	p.settle(time.Second)
	return ms(slices.Max(took))
}
