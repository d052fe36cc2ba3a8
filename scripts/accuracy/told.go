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
// called on values of several types. Above says that the target is not itself what is meant there, but what that overrides;
// Used that it is a use of the target, though the first answer may be another definition.
type told struct {
	Query, Target string
	Above, Used   bool
}

// said is all that is told about a name: where it may be defined, and what that overrides, and of what it is a use besides.
type said struct{ targets, above, used []place.Place }

// compareTold compares definitions with what a file says of them.
func compareTold(s settings, file, dir string) error {
	ws, err := open(s, dir)
	if err != nil {
		return err
	}
	queries, names, err := readTold(file)
	if err != nil {
		return err
	}
	wanted := sampler(s.share)
	uses, asked := map[place.Place]map[string]bool{}, map[string]bool{}
	t := tally{left: s.verbose}
	for _, query := range queries {
		name := names[query]
		if asked[query] = len(name.above) == 0; asked[query] { // else it may well count as a use of what is above alone
			noteUses(uses, query, append(name.used, name.targets...))
		}
		if len(name.targets) == 0 || !wanted() {
			continue
		}
		at := place.Split(query)
		doc, err := ws.Code.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		_, spots := ws.Answers.All(context.Background(), answer.ToDefinition.On(at.Path, doc.Text.Offset(at.Line, at.Col)))
		if wrong := t.compare(append(name.targets, name.above...), spots); wrong != "" && t.left > 0 {
			t.left--
			fmt.Printf("%s is at %s; got %s\n    %s\n", at, name.targets, wrong, doc.Text.Line(at.Line))
		}
	}
	t.print("definition")
	toldReferences(s, ws, uses, asked)
	return nil
}

// noteUses notes that a name is a use of what is defined in some places.
func noteUses(uses map[place.Place]map[string]bool, query string, of []place.Place) {
	for _, want := range of {
		if want.Path == "" {
			continue
		}
		if uses[want] == nil {
			uses[want] = map[string]bool{}
		}
		uses[want][query] = true
	}
}

// readTold reads what is said of names, and the names in their order.
func readTold(file string) (queries []string, names map[string]*said, err error) {
	f, err := os.Open(file)
	if err != nil {
		return nil, nil, err
	}
	defer f.Close()
	names = map[string]*said{}
	scan := bufio.NewScanner(f)
	for scan.Scan() {
		var line told
		if err := json.Unmarshal(scan.Bytes(), &line); err != nil {
			return nil, nil, fmt.Errorf("reading %s: %w", file, err)
		}
		name := names[line.Query]
		if name == nil {
			name = &said{}
			names[line.Query] = name
			queries = append(queries, line.Query)
		}
		list := &name.targets
		switch {
		case line.Above:
			list = &name.above
		case line.Used:
			list = &name.used
		}
		*list = append(*list, place.Split(line.Target))
	}
	return queries, names, scan.Err()
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
