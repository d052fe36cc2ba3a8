package codebase

import (
	"cmp"
	"context"
	"path"
	"slices"
	"strings"
	"unicode"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Relation is how a file goes with another of the same name.
type Relation uint8

// The relations, in the order in which they are listed.
const (
	// Half is the source of a header, the style or the page of a component.
	Half Relation = iota
	// Test holds tests of it, Subject is what its tests are for.
	Test
	Subject
	// Story shows a component in its states.
	Story
	// Origin is what a program made the file from, Made what a program made from it.
	Origin
	Made
	// Prose is its documentation.
	Prose
	// Beside has another ending, in the same folder; Namesake has the same name elsewhere.
	Beside
	Namesake
)

var relations = [...]string{"other half", "test", "what it tests", "story", "generated from", "generated", "documentation", "same name", "same name elsewhere"}

// String names the relation, as seen from the file.
func (r Relation) String() string { return relations[r] }

// Related is a file that goes with another.
type Related struct {
	Path     string
	Relation Relation
}

// mostNamesakes is how many files of one name may be listed: of an index.js there are hundreds.
const mostNamesakes = 12

// Related are the files that go with a file: its other half, its tests, its stories, what it was made from, its
// documentation, and what else has its name; the nearest of a kind first.
func (b *Base) Related(ctx context.Context, file string) (found []Related) {
	name := plainName(path.Base(file))
	if name == "" {
		return nil
	}
	halves := b.halves(file)
	for f := range b.Listing().Files() {
		if p := f.Path; p != file && (slices.Contains(halves, p) || plainName(path.Base(p)) == name) {
			found = append(found, Related{p, Namesake})
		}
	}
	from := relating{file, halves, b.isMade(ctx, file), b.isProse(ctx, file)}
	for i := range found {
		if ctx.Err() != nil {
			return nil
		}
		found[i].Relation = b.relation(ctx, &from, found[i].Path)
	}
	slices.SortFunc(found, func(x, y Related) int {
		return cmp.Or(cmp.Compare(x.Relation, y.Relation), cmp.Compare(place.Distance(file, x.Path), place.Distance(file, y.Path)), strings.Compare(x.Path, y.Path))
	})
	if first := slices.IndexFunc(found, func(r Related) bool { return r.Relation == Namesake }); first >= 0 && len(found)-first > mostNamesakes {
		found = found[:first] // a name that so many have says nothing
	}
	return found
}

// halves are the other halves of a file: the source of a header, the style or the page of a component.
func (b *Base) halves(file string) (found []string) {
	stem, wanted := b.languages.OtherHalves(file)
	if len(wanted) == 0 {
		return nil
	}
	for f := range b.Listing().Files() {
		p, base := f.Path, path.Base(f.Path)
		other, _ := b.languages.OtherHalves(p)
		if other == stem && p != file && slices.Contains(wanted, strings.ToLower(strings.TrimPrefix(base, base[:min(len(stem), len(base))]))) {
			found = append(found, p)
		}
	}
	return found
}

// relating is a file whose relations are looked for, with its other halves; made says that a program wrote it,
// prose that it is written for people.
type relating struct {
	file        string
	halves      []string
	made, prose bool
}

// relation says how another file of the same name goes with a file.
func (b *Base) relation(ctx context.Context, from *relating, other string) Relation {
	test, otherTest := b.languages.IsTest(from.file), b.languages.IsTest(other)
	near := path.Dir(from.file) == path.Dir(other)
	switch {
	case isStory(other) != isStory(from.file):
		return Story
	case otherTest && !test:
		return Test
	case test && !otherTest:
		return Subject
	case from.made && near && !b.isMade(ctx, other):
		return Origin
	case !from.made && near && b.isMade(ctx, other):
		return Made
	case slices.Contains(from.halves, other):
		return Half
	case !from.prose && b.isProse(ctx, other):
		return Prose
	case near:
		return Beside
	}
	return Namesake
}

// isMade says whether a program wrote a file.
func (b *Base) isMade(ctx context.Context, file string) bool {
	f, err := b.Load(ctx, file)
	return err == nil && f.Generated()
}

// isProse says whether a file is written for people: it has sections, and defines nothing.
func (b *Base) isProse(ctx context.Context, file string) bool {
	if b.languages.IsCode(file) {
		return false
	}
	f, _ := b.Facts(ctx, file)
	return f != nil && len(f.Defs) > 0 && !slices.ContainsFunc(f.Defs, func(d facts.Def) bool { return d.Kind != facts.Section })
}

// storyMarks are what stories of components have in their names in front of the ending.
var storyMarks = []string{".stories", ".story"}

func isStory(file string) bool {
	base := strings.ToLower(path.Base(file))
	return slices.ContainsFunc(storyMarks, func(m string) bool { return strings.Contains(base, m+".") })
}

// marks stand at an end of the name of a file that goes with another, without being part of the name.
var marks = struct{ front, back []string }{
	[]string{"test_"},
	[]string{"_test", "_tests", ".test", ".spec", "-test", "_spec", ".stories", ".story", ".module", ".d", ".pb", ".gen", "_gen", ".generated", "_generated", ".styles"},
}

// plainName is the name of a file without its endings, and without what says that it is a test, a story, a style
// or made by a program of the file that is meant.
func plainName(base string) string {
	name := base
	if i := strings.LastIndexByte(base, '.'); i > 0 {
		name = base[:i]
	}
	for _, word := range []string{"Tests", "Test", "Spec", "IT"} { // RosterTest is one of Roster; Latest is none of La
		if cut, ok := strings.CutSuffix(name, word); ok && cut != "" && unicode.IsLower(rune(cut[len(cut)-1])) {
			name = cut
			break
		}
	}
	name = strings.ToLower(name)
	for changed := true; changed; {
		changed = false
		for _, m := range marks.back {
			if cut, ok := strings.CutSuffix(name, m); ok && cut != "" {
				name, changed = cut, true
			}
		}
	}
	for _, m := range marks.front {
		if cut, ok := strings.CutPrefix(name, m); ok && cut != "" {
			name = cut
		}
	}
	return name
}
