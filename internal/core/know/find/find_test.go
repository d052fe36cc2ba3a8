package find

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"rooktrail/internal/core/file/lang/catalog"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func found(t *testing.T, q Query, text string) string {
	m, err := Compile(q)
	require.NoError(t, err)
	var out []string
	m.All([]byte(text), func(h Match) bool {
		out = append(out, fmt.Sprintf("%d:%s", h.Start, text[h.Start:h.End]))
		return true
	})
	return strings.Join(out, " ")
}

func TestMatching(t *testing.T) {
	for _, c := range []struct {
		q          Query
		text, want string
	}{
		{Query{Pattern: "team"}, "a team, Teams, TEAM", "2:team 8:Team 15:TEAM"},
		{Query{Pattern: "Team"}, "a team, Teams, TEAM", "8:Team"},
		{Query{Pattern: "team", Case: true}, "a team, Teams", "2:team"},
		{Query{Pattern: "team", Word: true}, "team teams steam my_team team", "0:team 25:team"},
		{Query{Pattern: "a.b", Word: true}, "xa.b a.bc a.b", "10:a.b"},
		{Query{Pattern: "(c)"}, "f(c) (C)", "1:(c) 5:(C)"},
		{Query{Pattern: "aa"}, "aaaaa", "0:aa 2:aa"},
		{Query{Pattern: "grün"}, "GRÜN grün", "0:GRÜN 6:grün"},
		{Query{Pattern: "雪"}, "a雪b", "1:雪"},
		{Query{Pattern: `^\s*func (\w+)`, Regexp: true}, "func a\n  func b\nx func c", "0:func a 7:  func b"},
		{Query{Pattern: `x*`, Regexp: true}, "axxb", "1:xx"},
		{Query{Pattern: `\bgo\b`, Regexp: true}, "go ago going go", "0:go 13:go"},
		{Query{Pattern: "Go|team", Regexp: true}, "go Go team", "3:Go 6:team"},
		{Query{Pattern: "z"}, "", ""},
	} {
		assert.Equal(t, c.want, found(t, c.q, c.text), "%+v", c.q)
	}
}

func TestWhatIsWrongWithAQuery(t *testing.T) {
	for q, want := range map[string]string{"a(b": "missing closing )", "x[z-a]": "invalid character class range at column 3", "+": "missing argument"} {
		_, err := Compile(Query{Pattern: q, Regexp: true})
		assert.ErrorContains(t, err, want, q)
	}
	_, err := Compile(Query{Pattern: "x", Include: []string{"[a"}})
	assert.ErrorContains(t, err, "check its brackets")
	_, err = Compile(Query{})
	assert.ErrorContains(t, err, "empty")
}

func TestWhichFilesAreWanted(t *testing.T) {
	for _, c := range []struct {
		q    Query
		want string
	}{
		{Query{}, "a.go b/c.go b/d.py bb/e.go"},
		{Query{Include: []string{"*.go"}}, "a.go b/c.go bb/e.go"},
		{Query{Include: []string{"b/**"}}, "b/c.go b/d.py"},
		{Query{Include: []string{"*.go"}, Exclude: []string{"a.*"}}, "b/c.go bb/e.go"},
		{Query{Folder: "b"}, "b/c.go b/d.py"},
		{Query{Folder: "b/", Include: []string{"*.{py,ts}"}}, "b/d.py"},
	} {
		c.q.Pattern = "x"
		m, err := Compile(c.q)
		require.NoError(t, err)
		var wanted []string
		for _, p := range []string{"a.go", "b/c.go", "b/d.py", "bb/e.go"} {
			if m.Wants(p) {
				wanted = append(wanted, p)
			}
		}
		assert.Equal(t, c.want, strings.Join(wanted, " "), "%+v", c.q)
	}
}

func TestRoles(t *testing.T) {
	for file, text := range map[string]string{
		"a.go":   "x // x 'x\ny \"x \\\" x\" x /* x\nx */ x `x \\` x 'x' x",
		"a.py":   "x # x \"\n'''x\nx''' x \"x' x\" x",
		"a.sql":  "x -- x\nx 'x''x' /* x */",
		"a.html": "<x a=\"x\"> x <!-- x\nx -->",
		"a.txt":  "x 'x' # x",
		"b.go":   "x \"x not closed\nx",
	} {
		want := map[string]string{
			"a.go":   "code comment comment string string code comment comment code string code string code",
			"a.py":   "code comment string string code string string code",
			"a.sql":  "code comment code string string comment",
			"a.html": "code string code comment comment",
			"a.txt":  "other other other",
			"b.go":   "code string code",
		}[file]
		var offsets []int
		for _, loc := range regexp.MustCompile("x").FindAllStringIndex(text, -1) {
			offsets = append(offsets, loc[0])
		}
		var got []string
		for _, r := range Roles(catalog.Set().Signs(file), []byte(text), offsets) {
			got = append(got, r.String())
		}
		assert.Equal(t, want, strings.Join(got, " "), file)
	}
	r, ok := ParseRole("comment")
	assert.True(t, ok && r == Comment)
	_, ok = ParseRole("nonsense")
	assert.False(t, ok)
}

func FuzzAll(f *testing.F) {
	f.Add("Te", "steam Te te", true, false)
	f.Add("a*|^b", "ab\nb\xff", false, true)
	f.Fuzz(func(t *testing.T, pattern, text string, word, isRegexp bool) {
		m, err := Compile(Query{Pattern: pattern, Word: word, Regexp: isRegexp})
		if err != nil {
			return
		}
		last, n := 0, 0
		var offsets []int
		m.All([]byte(text), func(h Match) bool {
			if h.Start < last || h.End <= h.Start || h.End > len(text) {
				t.Fatalf("%+v after %d in %q", h, last, text)
			}
			last = h.End
			offsets = append(offsets, h.Start)
			n++
			return true
		})
		if !word && !isRegexp && strings.ToLower(pattern) != pattern && n != strings.Count(text, pattern) {
			t.Fatalf("%d hits for %q in %q", n, pattern, text)
		}
		for _, name := range []string{"a.go", "a.py", "a.lua", "a.html"} {
			Roles(catalog.Set().Signs(name), []byte(text), offsets)
		}
	})
}

func TestAWrongExpressionSaysWhere(t *testing.T) {
	for pattern, want := range map[string]string{
		`a(b`:           "missing closing ) for the one at column 2",
		`(a)\((b[(]c`:   "missing closing ) for the one at column 6",
		`ab[z-a]`:       "invalid character class range at column 4: z-a",
		`x*** and more`: "at column",
	} {
		_, err := Compile(Query{Pattern: pattern, Regexp: true})
		assert.ErrorContains(t, err, want, pattern)
	}
}
