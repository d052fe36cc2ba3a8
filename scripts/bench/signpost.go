package main

import (
	"context"
	"fmt"
	"log"
	"regexp"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/app"
	"rooktrail/internal/ui/keymap"
)

// repeat is how fast a key repeats that is held.
const repeat = 30 * time.Millisecond

// Names up to mostCounted uses are to be counted within countedIn of stopping.
const (
	mostCounted = 1000
	countedIn   = 250 * time.Millisecond
)

// signpost times the screen with the signpost on, over a large body of code: keys that
// are held, and how long after stopping on a name the counts are there.
func signpost(ws *workspace.Workspace) (rows []row) {
	p := shown(ws, longest(ws))
	var took []time.Duration
	for _, held := range []string{"j", "l", "]", "k"} {
		for range 250 {
			took = append(took, p.send(tea.KeyPressMsg{Code: rune(held[0]), Text: held}))
			took = append(took, p.hold(repeat)...)
		}
		p.settle(time.Second)
	}
	slices.Sort(took)
	rows = append(rows, row{"a held key with the signpost, Update and View, p99", ms(took[len(took)*99/100]), ms(frame), "ms", "≤ 8 ms, half a frame"})
	counts := countTimes(ws)
	what := fmt.Sprintf("counts on a name with up to %d uses, after stopping", mostCounted)
	return append(rows,
		row{what + ", median", ms(counts[len(counts)/2]), ms(countedIn), "ms", "≤ 250 ms"},
		row{what + ", p95", ms(counts[len(counts)*95/100]), ms(countedIn), "ms", ""})
}

// shown is the program with a place on its screen.
func shown(ws *workspace.Workspace, at place.Place) *driven {
	model, err := app.New(context.Background(), ws, at, "", keymap.Owned{})
	if err != nil {
		log.Fatal(err)
	}
	p := &driven{model, make(chan tea.Msg, 1000)}
	p.run(model.Init())
	p.send(tea.WindowSizeMsg{Width: 142, Height: 42})
	p.settle(300 * time.Millisecond)
	return p
}

// hold takes in messages for a time, and tells how long each took.
func (p *driven) hold(d time.Duration) (took []time.Duration) {
	over := time.After(d)
	for {
		select {
		case msg := <-p.messages:
			took = append(took, p.send(msg))
		case <-over:
			return took
		}
	}
}

// longest is the beginning of the file with the most definitions of some.
func longest(ws *workspace.Workspace) (at place.Place) {
	files, most := ws.Search.Files(context.Background(), "ext:go", 1<<20), 0
	for i := 0; i < len(files); i += 20 {
		f, err := ws.Code.Load(context.Background(), files[i].Path)
		if err == nil && f.Facts != nil && len(f.Facts.Defs) > most {
			at, most = place.Place{Path: f.Path, Line: 1}, len(f.Facts.Defs)
		}
	}
	return at
}

var (
	escapes = regexp.MustCompile("\x1b\\[[0-9;]*m")
	counted = regexp.MustCompile(`references  [0-9]`)
)

// countTimes are how long it took, sorted, from the last key until the counts of the
// name under the caret were on the screen.
func countTimes(ws *workspace.Workspace) (all []time.Duration) {
	ctx := context.Background()
	for _, s := range oftenNamed(ws) {
		f, err := ws.Code.Load(ctx, s.Path)
		if err != nil {
			continue
		}
		_, refs := ws.Answers.All(ctx, answer.ToReferences.On(s.Path, s.Offset))
		if len(refs) < fewestUses/4 || len(refs) > mostCounted {
			continue
		}
		line, col := f.Text.Position(s.Offset)
		p := shown(ws, place.Place{Path: s.Path, Line: line, Col: max(col-1, 1)})
		if col == 1 || p.counted(s.Name) {
			continue // there is no place beside the name
		}
		started := time.Now()
		p.send(tea.KeyPressMsg{Code: 'l', Text: "l"})
		for time.Since(started) < 5*time.Second && !p.counted(s.Name) {
			p.hold(5 * time.Millisecond)
		}
		all = append(all, time.Since(started))
		if len(all) == namesTimed {
			break
		}
	}
	if len(all) == 0 {
		log.Fatal("no name has so many references")
	}
	slices.Sort(all)
	return all
}

// counted says whether the signpost tells how often a name is used.
func (p *driven) counted(name string) bool {
	view := escapes.ReplaceAllString(p.model.View().Content, "")
	return strings.Contains(view, name) && counted.MatchString(view)
}
