package replace_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/workspace/workspacetest"
)

var files = map[string]string{
	"dispatch/roster.go": "package dispatch\n\n// The roster of teams.\ntype Roster struct{ roster, size int }\n\nconst ROSTER = \"roster\"\n\nfunc log(a, b int) { log(1, 2); log(b, a) }\n",
	"docs/roster.md":     "# Roster\r\n\r\nA roster.\r\n",
	"data.bin":           "roster\x00\x01\x02",
}

func after(p *proposal.Proposal, file string) string {
	if f := p.File(file); f != nil {
		return string(f.After().Bytes())
	}
	return ""
}

func TestReplacing(t *testing.T) {
	for name, c := range map[string]struct {
		asked replace.Asked
		want  string // in roster.go, what is there afterwards
		count int
	}{
		"any case, kept":       {replace.Asked{Query: find.Query{Pattern: "roster"}, By: "team", KeepCase: true}, "// The team of teams.\ntype Team struct{ team, size int }\n\nconst TEAM = \"team\"", 7},
		"any case, as written": {replace.Asked{Query: find.Query{Pattern: "roster"}, By: "team"}, "type team struct{ team, size int }\n\nconst team", 7},
		"the same case":        {replace.Asked{Query: find.Query{Pattern: "roster", Case: true}, By: "team"}, "type Roster struct{ team, size int }\n\nconst ROSTER = \"team\"", 4},
		"groups":               {replace.Asked{Query: find.Query{Pattern: `log\((\w+), (?P<second>\w+)\)`, Regexp: true}, By: `log($0, ${second}1, $$$1x)`}, "log(log(1, 2), 21, $1x); log(log(b, a), a1, $bx)", 2},
		"lines":                {replace.Asked{Query: find.Query{Pattern: `; log`, Regexp: true}, By: `\n\tlog`}, "log(1, 2)\n\tlog(b, a) }", 1},
		"by nothing":           {replace.Asked{Query: find.Query{Pattern: "size"}}, "{ roster,  int }", 1},
		"only comments":        {replace.Asked{Query: find.Query{Pattern: "roster"}, By: "list", Roles: []find.Role{find.Comment}}, "// The list of teams.\ntype Roster struct{ roster", 1},
		"only strings":         {replace.Asked{Query: find.Query{Pattern: "roster"}, By: "list", Roles: []find.Role{find.String}}, "const ROSTER = \"list\"", 1},
		"only definitions":     {replace.Asked{Query: find.Query{Pattern: "Roster"}, By: "List", Roles: []find.Role{find.Definition}}, "type List struct{ roster", 1},
		"in a file":            {replace.Asked{Query: find.Query{Pattern: "roster", Case: true}, By: "list", In: "dispatch/roster.go"}, "// The list of", 3},
		"in a part":            {replace.Asked{Query: find.Query{Pattern: "roster", Case: true}, By: "list", In: "dispatch/roster.go", Part: place.Range{Start: 30, End: 80}}, "const ROSTER = \"roster\"", 1},
		"in lines":             {replace.Asked{Query: find.Query{Pattern: "roster"}, By: "list", Lines: map[string][]int{"dispatch/roster.go": {4}}}, "// The roster of teams.\ntype list struct{ list,", 2},
		"words that narrow":    {replace.Asked{Query: find.Query{Pattern: "roster in:docs"}, Words: true, By: "list"}, "", 2},
	} {
		ws := workspacetest.Open(t, files)
		p, err := ws.Changes.Replace(context.Background(), c.asked)
		require.NoError(t, err, name)
		assert.Contains(t, after(p, "dispatch/roster.go"), c.want, name)
		assert.Equal(t, c.count, p.Count().Places, name)
		assert.Nil(t, p.File("data.bin"), name)
	}
}

func TestLineEndsAreThoseOfTheFile(t *testing.T) {
	ws := workspacetest.Open(t, files)
	p, err := ws.Changes.Replace(context.Background(), replace.Asked{Query: find.Query{Pattern: "A roster", Regexp: true, Case: true}, By: `a\nb`})
	require.NoError(t, err)
	assert.Equal(t, "# Roster\r\n\r\na\r\nb.\r\n", after(p, "docs/roster.md"))
}

func TestWhatCannotBeReplaced(t *testing.T) {
	ws := workspacetest.Open(t, files)
	for _, c := range []struct {
		q    find.Query
		want string
	}{
		{find.Query{Pattern: ""}, "empty"},
		{find.Query{Pattern: "(", Regexp: true}, "does not compile"},
		{find.Query{Pattern: "^", Regexp: true}, "matches only the empty string"},
		{find.Query{Pattern: "q*", Regexp: true}, "matches only the empty string"},
	} {
		_, err := ws.Changes.Replace(context.Background(), replace.Asked{Query: c.q, By: "x"})
		assert.ErrorContains(t, err, c.want, c.q.Pattern)
	}
}

// What is written and not saved counts, not what is on disk.
func TestTextThatIsNotSaved(t *testing.T) {
	ws := workspacetest.Open(t, files)
	ws.Code.Write(context.Background(), "docs/roster.md", text.NewDocument([]byte("the bell\n")))
	p, err := ws.Changes.Replace(context.Background(), replace.Asked{Query: find.Query{Pattern: "bell"}, By: "horn"})
	require.NoError(t, err)
	assert.Equal(t, "the horn\n", after(p, "docs/roster.md"))
	p, err = ws.Changes.Replace(context.Background(), replace.Asked{Query: find.Query{Pattern: "A roster"}, By: "horn"})
	require.NoError(t, err)
	assert.Empty(t, p.Files)
}

// Very many places are proposed, and made, in one piece.
func TestVeryManyPlaces(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a.txt": strings.Repeat("snow and snow\n", 100_000)})
	ws.KnowChanges(t.TempDir())
	p, err := ws.Changes.Replace(context.Background(), replace.Asked{Query: find.Query{Pattern: "snow"}, By: "ice"})
	require.NoError(t, err)
	assert.Equal(t, 200_000, p.Count().Places)
	_, err = ws.Changes.Make(context.Background(), p)
	require.NoError(t, err)
	f, err := ws.Code.Load(context.Background(), "a.txt")
	require.NoError(t, err)
	assert.Equal(t, strings.Repeat("ice and ice\n", 100_000), string(f.Text.Bytes()))
}
