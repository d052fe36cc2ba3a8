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

// told is what another compiler says about one name; a name may stand in several lines, as one that is
// called on values of several types. Above says that the target is not itself what is meant there, but what that overrides.
type told struct {
	Query, Target string
	Above         bool
}

// compareTold compares definitions with what a file says of them.
func compareTold(s settings, file, dir string) error {
	ws, err := open(s, dir)
	if err != nil {
		return err
	}
	queries, targets, above, err := readTold(file)
	if err != nil {
		return err
	}
	wanted := sampler(s.share)
	uses, asked := map[place.Place]map[string]bool{}, map[string]bool{}
	t := tally{left: s.verbose}
	for _, query := range queries {
		asked[query] = len(above[query]) == 0 // else it may well count as a use of what is above alone
		for _, want := range targets[query] {
			if want.Path == "" || !asked[query] {
				continue
			}
			if uses[want] == nil {
				uses[want] = map[string]bool{}
			}
			uses[want][query] = true
		}
		if !wanted() {
			continue
		}
		at := place.Split(query)
		doc, err := ws.Code.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		_, spots := ws.Answers.All(context.Background(), answer.ToDefinition.On(at.Path, doc.Text.Offset(at.Line, at.Col)))
		if wrong := t.compare(append(targets[query], above[query]...), spots); wrong != "" && t.left > 0 {
			t.left--
			fmt.Printf("%s is at %s; got %s\n    %s\n", at, targets[query], wrong, doc.Text.Line(at.Line))
		}
	}
	t.print("definition")
	toldReferences(s, ws, uses, asked)
	return nil
}

// readTold reads what is said of names: the names in their order, and of each where it may be defined, and what that
// overrides.
func readTold(file string) (queries []string, targets, above map[string][]place.Place, err error) {
	f, err := os.Open(file)
	if err != nil {
		return nil, nil, nil, err
	}
	defer f.Close()
	targets, above = map[string][]place.Place{}, map[string][]place.Place{}
	scan := bufio.NewScanner(f)
	for scan.Scan() {
		var line told
		if err := json.Unmarshal(scan.Bytes(), &line); err != nil {
			return nil, nil, nil, fmt.Errorf("reading %s: %w", file, err)
		}
		if line.Above {
			above[line.Query] = append(above[line.Query], place.Split(line.Target))
			continue
		}
		if targets[line.Query] == nil {
			queries = append(queries, line.Query)
		}
		targets[line.Query] = append(targets[line.Query], place.Split(line.Target))
	}
	return queries, targets, above, scan.Err()
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
