package main

import (
	"context"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/workspace"
)

// How much is remembered in what is timed.
const (
	manyStops     = 100_000
	manyBookmarks = 5_000
	manyFiles     = 40
)

// remembered times the screen with a trail of 100,000 stops and 5,000 bookmarks: each key
// by itself, what is done beside it not counted.
func remembered() (rows []row) {
	root, err := os.MkdirTemp("", "rooktrail-bench-kept-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(root)
	code := text.NewDocument([]byte(keptCode()))
	for n := range manyFiles {
		if err := os.WriteFile(filepath.Join(root, fmt.Sprintf("f%d.go", n)), code.Bytes(), 0o600); err != nil {
			log.Fatal(err)
		}
	}
	data, err := os.MkdirTemp("", "rooktrail-bench-data-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(data)
	keepMany(data, code)
	ws := workspace.New(root)
	ws.Lists.KnowTrails(filepath.Join(data, "trails"))
	ws.Lists.KnowBookmarks(filepath.Join(data, "bookmarks"))
	if err := ws.Code.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	p := shown(ws, place.Place{Path: "f1.go", Line: 5})
	p.settle(3 * time.Second)
	for _, what := range []struct {
		name string
		keys []tea.KeyPressMsg
	}{
		{"back and forward", keysOf("bfbfbf")},
		{"the trail", append(keysOf("AA"), tea.KeyPressMsg{Code: tea.KeyUp}, tea.KeyPressMsg{Code: tea.KeyPgUp}, tea.KeyPressMsg{Code: 'f', Text: "f"}, tea.KeyPressMsg{Code: tea.KeyTab}, tea.KeyPressMsg{Code: tea.KeyEscape})},
		{"the bookmarks", append(keysOf(";"), tea.KeyPressMsg{Code: tea.KeyDown}, tea.KeyPressMsg{Code: '/', Text: "/"}, tea.KeyPressMsg{Code: 'f', Text: "f"}, tea.KeyPressMsg{Code: tea.KeyEscape}, tea.KeyPressMsg{Code: tea.KeyEscape})},
		{"a bookmark, and the next", keysOf("jmj''\"")},
		{"the scout", append(keysOf(" f3"), tea.KeyPressMsg{Code: tea.KeyEscape})},
	} {
		var took []time.Duration
		for range 12 {
			for _, k := range what.keys {
				took = append(took, p.send(k))
				took = append(took, p.hold(150*time.Millisecond)...)
			}
		}
		slices.Sort(took)
		rows = append(rows, row{what.name + " with 100,000 stops and 5,000 bookmarks, p99", ms(took[len(took)*99/100]), ms(frame), "ms", "≤ 1 frame"})
	}
	return rows
}

func keysOf(s string) (keys []tea.KeyPressMsg) {
	for _, l := range letters(s) {
		keys = append(keys, l.key)
	}
	return keys
}

// keptCode is a file in which no two lines are the same.
func keptCode() string {
	var b strings.Builder
	b.WriteString("package kept\n\n")
	for n := range 1000 {
		fmt.Fprintf(&b, "// Slope%d is one of many.\nvar Slope%d = %d\n\n", n, n, n)
	}
	return b.String()
}

// keepMany writes a trail and bookmarks as they lie on disk.
func keepMany(data string, code *text.Document) {
	anchors := make([]place.Anchor, code.Lines()+1)
	for n := range anchors {
		anchors[n] = place.NewAnchor(place.Place{Line: n, Col: 1}, code, "kept")
	}
	var t trail.Trail
	for n := range manyStops {
		at := place.Place{Path: fmt.Sprintf("f%d.go", n%manyFiles), Line: 3 + (n/manyFiles)%2900, Col: 1}
		t.Go(trail.View{Place: at}, "text: kept", "")
		a := anchors[at.Line]
		a.Path = at.Path
		t.Remember(a, "Kept")
		if n%7 == 0 {
			t.Back()
		}
	}
	st := trail.NewStore(filepath.Join(data, "trails"))
	if err := st.Begin(t.Whole(), nil); err != nil {
		log.Fatal(err)
	}
	st.Close()
	l := bookmark.NewList("kept")
	for n := range manyBookmarks {
		a := anchors[4+n%2000]
		a.Path = fmt.Sprintf("f%d.go", n%manyFiles)
		l.Add(bookmark.Mark{Kind: bookmark.Line, Memory: place.Remember(a)})
	}
	if err := bookmark.NewStore(filepath.Join(data, "bookmarks")).Save(l); err != nil {
		log.Fatal(err)
	}
}
