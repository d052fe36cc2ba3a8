package signpost

import (
	"path"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// Way is one way from the name: the key that goes it, what it leads to, and how many
// places, or which.
type Way struct {
	Key, What, Where string
	// More is what those places do, if that differs.
	More   string
	Action keymap.Action
}

// counting stands for a number that is still being worked out.
const counting = "…"

// None is what is said of a way that leads nowhere.
const none = "none"

// Ways are those that lead on from the name, also those that lead nowhere, which say so, as
// somebody who misses one would not know which it is.
func (m *Model) Ways() (ways []Way) {
	from := m.From()
	d := &from
	if d.Name == "" || d.Candidates == 0 || d.Outside != "" {
		return nil
	}
	add := func(what, where string, action keymap.Action) {
		ways = append(ways, Way{Key: m.keys.Key(action), What: what, Where: where, Action: action})
	}
	named := !m.inside && m.call == nil // else only what is around is meant, which has no definition elsewhere
	if named && !d.Here {
		where := path.Base(d.Best.Path) + " " + strconv.Itoa(d.Best.Line)
		if d.Candidates > 1 && d.Best.Certainty == resolve.ByName {
			where = sheet.Count(d.Candidates, "candidate", "candidates")
		}
		add("definition", where, keymap.Definition)
	}
	kind, n := d.Best.Kind, &m.ways
	if len(d.Shared) > 0 && !d.Here { // what else is asked of it is not known by its name alone
		kind = facts.NoKind
	}
	value := kind.IsValue() || kind == facts.Parameter
	if named && value {
		add("type", "", keymap.TypeDefinition)
	}
	if !m.counted {
		add("references", counting, keymap.References)
		return ways
	}
	add("references", m.references(), keymap.References)
	ways[len(ways)-1].More = m.accesses()
	m.addRelations(add, kind)
	if value {
		where := "set nowhere else"
		if n.Writes > 0 {
			where = "set in " + sheet.Count(n.Writes, "place", "places")
		}
		add("value", where, keymap.Values)
	}
	if kind.IsCallable() || kind.IsType() || n.InTests > 0 {
		add("tests", m.tests(), keymap.Tests)
	}
	return ways
}

// tests says how many there are, and how many of them use it themselves.
func (m *Model) tests() string {
	n := &m.ways
	switch direct := n.Tests - n.TestsThrough; {
	case n.TestsThrough == 0:
		return m.count(n.Tests, "")
	case direct == 0:
		return sheet.Number(n.TestsThrough) + " through others"
	default:
		return sheet.Number(direct) + " + " + sheet.Number(n.TestsThrough) + " through others"
	}
}

// addRelations adds what is below and above a name, and the calls of and by it.
func (m *Model) addRelations(add func(what, where string, action keymap.Action), kind facts.Kind) {
	n := &m.ways
	if related := kind.IsType() || kind == facts.Method; related || n.Implementations+n.Supers > 0 {
		if kind == facts.Field {
			add("may be", m.count(n.Implementations, "function"), keymap.Implementations)
			return
		}
		below := "overridden by"
		if n.Abstract && !n.Extended {
			below = "implemented by"
		} else if kind.IsType() || n.Extended {
			below = "derived from it"
		}
		count := m.count(n.Implementations, "") + possibly(n.PossibleBelow)
		if n.Implementations == 0 && n.PossibleBelow > 0 {
			count = onlyPossible(n.PossibleBelow)
		}
		add(below, count, keymap.Implementations)
		where := m.count(n.Supers, "")
		if n.Supers > 0 {
			where = n.Super
		}
		if n.Supers > 1 {
			where += ", " + sheet.Number(n.Supers-1) + " more"
		}
		add("up", where, keymap.Supers)
	}
	if kind.IsCallable() || n.Callers+n.Called > 0 {
		from := m.count(n.Callers, "function")
		switch {
		case n.PossibleCallers > 0 && n.Callers == 0:
			from = onlyPossible(n.PossibleCallers)
		case n.PossibleCallers > 0:
			from = m.count(n.Callers, "") + possibly(n.PossibleCallers)
		}
		if n.Through > 0 {
			from += ", " + sheet.Number(n.Through) + " through " + n.Super
		}
		add("called from", from, keymap.Callers)
		add("calls", m.count(n.Called, "function"), keymap.Called)
	}
}

// count says how many there are, that there are none, or that it is not known yet.
func (m *Model) count(n int, one string) string {
	switch {
	case n == 0 && !m.ways.Related:
		return counting
	case n == 0:
		return none
	case one == "":
		return sheet.Number(n)
	}
	return sheet.Number(n) + " " + plural(n, one)
}

// Looks are the ways to look without going: beside the code, and as trees.
func (m *Model) Looks() (ways []Way) {
	all := m.Ways()
	has := func(actions ...keymap.Action) bool {
		return slices.ContainsFunc(all, func(w Way) bool { return slices.Contains(actions, w.Action) && w.Where != none })
	}
	add := func(action keymap.Action, where string, from ...keymap.Action) {
		if has(from...) {
			ways = append(ways, Way{Key: m.keys.Key(action), What: "look", Where: where, Action: action})
		}
	}
	add(keymap.LeafDefinition, "the definition, beside the code", keymap.Definition)
	add(keymap.LeafType, "its type, beside the code", keymap.TypeDefinition)
	add(keymap.LeafImplementations, "what is below it, beside the code", keymap.Implementations)
	add(keymap.LeafReferences, "its references, beside the code", keymap.References)
	add(keymap.Family, "its family, as a tree", keymap.Implementations, keymap.Supers)
	add(keymap.CallTree, "calls, as a tree", keymap.Callers, keymap.Called)
	return ways
}

func plural(n int, one string) string {
	if n == 1 {
		return one
	}
	return one + "s"
}

// references says how many there are.
func (m *Model) references() string {
	n := &m.ways
	switch {
	case n.References == 0 && n.Possible > 0:
		return onlyPossible(n.Possible)
	case n.References == 0:
		return none
	}
	all := sheet.Number(n.References)
	if n.More {
		all = "over " + all
	}
	if n.Possible > 0 { // which says more than in how many files they are
		return all + possibly(n.Possible)
	}
	return all + " in " + sheet.Count(n.Files, "file", "files")
}

// onlyPossible says how many there may be where none is sure.
func onlyPossible(n int) string { return sheet.Number(n) + " possible" }

// possibly says how many there may be besides, which were not resolved.
func possibly(n int) string {
	if n == 0 {
		return ""
	}
	return ", and " + sheet.Number(n) + " possible"
}

// accesses says what the references do, if not all do the same.
func (m *Model) accesses() string {
	n, words := &m.ways, []string{}
	for _, part := range []struct {
		n    int
		what string
	}{{n.Writes, "write"}, {n.Calls, "call"}, {n.Reads, "read"}} {
		if part.n > 0 && part.n < n.References {
			words = append(words, sheet.Number(part.n)+" "+plural(part.n, part.what))
		}
	}
	return strings.Join(words, ", ")
}
