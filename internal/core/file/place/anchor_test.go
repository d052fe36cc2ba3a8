package place_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

const roster = `package dispatch

func (r *Roster) Assign(c Callout) (Team, error) {
	free := r.free(c.Valley)
	if len(free) == 0 {
		return Team{}, ErrNoTeam
	}
	r.log(free)
	return free[0], nil
}

func (r *Roster) Release(t Team) error {
	if t.Out {
		return ErrNoTeam
	}
	r.log(t)
	return nil
}
`

// find remembers a line of the roster and looks for it in another text.
func find(line int, now string) (int, place.Fate) {
	symbol := func(doc *text.Document) func(line, col int) string {
		return func(line, _ int) string {
			for ; line > 0; line-- {
				if l := string(doc.Line(line)); strings.HasPrefix(l, "func") {
					return strings.Fields(l)[3]
				}
			}
			return ""
		}
	}
	was := text.NewDocument([]byte(roster))
	a := place.NewAnchor(place.Place{Path: "roster.go", Line: line, Col: 3}, was, symbol(was)(line, 1))
	is := text.NewDocument([]byte(now))
	p, fate := place.NewFinder(is, symbol(is)).Find(a)
	return p.Line, fate
}

func TestAnchorsStayWithTheCode(t *testing.T) {
	for _, c := range []struct {
		name, now string
		line      int
		at        int
		fate      place.Fate
	}{
		{"nothing changed", roster, 4, 4, place.Same},
		{"lines above", "// Dispatch\n\n" + roster, 4, 6, place.Moved},
		{"the file turned round", roster[strings.Index(roster, "func (r *Roster) Release"):] + "\n" + roster, 4, 12, place.Moved},
		{"the line changed", strings.Replace(roster, "free := r.free(c.Valley)", "free := r.free(c.Valley, c.Skill)", 1), 4, 4, place.Changed},
		{"the line changed and moved", "// Dispatch\n" + strings.Replace(roster, "free := r.free(c.Valley)", "free := r.free(c.Valley, c.Skill)", 1), 4, 5, place.Changed},
		{"the line removed", strings.Replace(roster, "\tfree := r.free(c.Valley)\n", "", 1), 4, 4, place.Gone},
		{"the line removed, with one like it beside", strings.Replace(roster, "\tr.log(free)\n\treturn free[0], nil\n", "\treturn free[0], nil\n", 1), 8, 8, place.Gone},
		{"one of two alike, by the function", "// x\n" + roster, 14, 15, place.Moved},
		{"a bracket by what is around", "// x\n" + roster, 7, 8, place.Moved},
		{"everything removed", "", 4, 1, place.Gone},
		{"indented", strings.ReplaceAll(roster, "\n", "\n  "), 4, 4, place.Same},
	} {
		line, fate := find(c.line, c.now)
		assert.Equal(t, c.fate, fate, c.name)
		assert.Equal(t, c.at, line, c.name)
	}
}

// Of lines that are alike in every respect none is taken for another.
func TestAnchorsDoNotGuess(t *testing.T) {
	same := strings.Repeat("\tcase open:\n\t\tcount++\n", 20)
	was := text.NewDocument([]byte(same))
	a := place.NewAnchor(place.Place{Path: "a", Line: 21, Col: 1}, was, "")
	p, fate := place.NewFinder(was, nil).Find(a)
	assert.Equal(t, place.Same, fate)
	assert.Equal(t, 21, p.Line)
	_, fate = place.NewFinder(text.NewDocument([]byte("\tx := 1\n"+same)), nil).Find(a)
	assert.Equal(t, place.Gone, fate)
}

func TestAnchorsOfOddTexts(t *testing.T) {
	for _, odd := range []string{"", "\n", "\n\n\n", strings.Repeat("x", 10_000), "\xff\xfe\x00"} {
		doc := text.NewDocument([]byte(odd))
		for line := range 5 {
			a := place.NewAnchor(place.Place{Path: "a", Line: line, Col: 99}, doc, "")
			p, _ := place.NewFinder(doc, nil).Find(a)
			assert.True(t, p.Line >= 1 && p.Col >= 1, fmt.Sprintf("%q line %d: %v", odd[:min(len(odd), 9)], line, p))
		}
	}
}

const twins = `func open() {
	count++

	check(door)
	close(door)
}

func shut() {
	count++

	check(door)
	close(door)
}
`

// inTwins tells in which of the two functions a line stands.
func inTwins(text *text.Document) func(line, col int) string {
	return func(line, _ int) string {
		for n := line; n >= 1; n-- {
			if name, ok := strings.CutPrefix(string(text.Line(n)), "func "); ok {
				return name[:strings.IndexByte(name, '(')]
			}
		}
		return ""
	}
}

// What happened behind one's back: the function around a place counts more than the words of a
// line that another function has, too.
func TestTwinsInAnotherFunction(t *testing.T) {
	was := text.NewDocument([]byte(twins))
	for name, c := range map[string]struct {
		line     int
		from, to string
		want     int
		fate     place.Fate
	}{
		"the line was edited":                {4, "check(door)", "inspect(all, doors)", 4, place.Changed},
		"the line went":                      {4, "\tcheck(door)\n", "", 4, place.Gone},
		"nothing happened":                   {4, "x", "y", 4, place.Same},
		"another line was edited":            {4, "count++", "n++", 4, place.Same},
		"lines came before":                  {11, "func open() {", "// Door.\n\nfunc open() {", 13, place.Moved},
		"a blank line":                       {3, "x", "y", 3, place.Same},
		"a blank line, and others before it": {3, "func open() {", "// Door.\nfunc open() {", 4, place.Moved},
		"a blank line that was written in":   {3, "count++\n\n", "count++\n\tlook()\n", 3, place.Changed},
	} {
		a := place.NewAnchor(place.Place{Path: "a.go", Line: c.line, Col: 2}, was, inTwins(was)(c.line, 1))
		now := text.NewDocument([]byte(strings.Replace(twins, c.from, c.to, 1)))
		at, fate := place.NewFinder(now, inTwins(now)).Find(a)
		assert.Equal(t, c.fate, fate, name)
		if fate != place.Gone {
			assert.Equal(t, c.want, at.Line, name)
		}
	}
}
