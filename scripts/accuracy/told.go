package main

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"math/rand"
	"os"
	"slices"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// told is what another compiler says about one name.
type told struct{ Query, Target string }

// compareTold compares definitions with what a file says of them.
func compareTold(s settings, file, dir string) error {
	ws, err := open(s, dir)
	if err != nil {
		return err
	}
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	wanted := sampler(s.share)
	uses, asked := map[place.Place]map[string]bool{}, map[string]bool{}
	t := tally{left: s.verbose}
	for scan := bufio.NewScanner(f); scan.Scan(); {
		var line told
		if err := json.Unmarshal(scan.Bytes(), &line); err != nil {
			return fmt.Errorf("reading %s: %w", file, err)
		}
		at, want := place.Split(line.Query), place.Split(line.Target)
		asked[line.Query] = true
		if want.Path != "" {
			if uses[want] == nil {
				uses[want] = map[string]bool{}
			}
			uses[want][line.Query] = true
		}
		if !wanted() {
			continue
		}
		doc, err := ws.Code.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		_, spots := ws.Answers.All(context.Background(), answer.ToDefinition.On(at.Path, doc.Text.Offset(at.Line, at.Col)))
		if wrong := t.compare(want, spots); wrong != "" && t.left > 0 {
			t.left--
			fmt.Printf("%s is at %s; got %s\n    %s\n", at, want, wrong, doc.Text.Line(at.Line))
		}
	}
	t.print("definition")
	toldReferences(s, ws, uses, asked)
	return nil
}

// toldReferences compares the references of some definitions, at the places
// about which the other compiler says anything.
func toldReferences(s settings, ws *workspace.Workspace, uses map[place.Place]map[string]bool, asked map[string]bool) {
	targets := make([]place.Place, 0, len(uses))
	for t := range uses {
		if t.Col > 1 || t.Line > 1 { // not a whole module
			targets = append(targets, t)
		}
	}
	slices.SortFunc(targets, func(a, b place.Place) int { return strings.Compare(a.String(), b.String()) })
	rand.New(rand.NewSource(2)).Shuffle(len(targets), func(i, j int) { targets[i], targets[j] = targets[j], targets[i] })
	targets = targets[:min(len(targets), s.asked)]
	var counted share
	for _, t := range targets {
		doc, err := ws.Code.Load(context.Background(), t.Path)
		if err != nil {
			continue
		}
		got := map[string]resolve.Certainty{}
		_, refs := ws.Answers.All(context.Background(), answer.ToReferences.On(t.Path, doc.Text.Offset(t.Line, t.Col)))
		for i := range refs {
			if at := refs[i].Place().String(); asked[at] {
				got[at] = refs[i].Certainty
			}
		}
		missing, extra := counted.add(uses[t], got)
		if len(missing)+len(extra) > 0 && s.verbose > 0 {
			s.verbose--
			fmt.Printf("references of %s: missing %v, too many %v\n", t, missing[:min(3, len(missing))], extra[:min(3, len(extra))])
		}
	}
	counted.print("references", len(targets))
}
