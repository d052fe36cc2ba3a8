package resolve_test

import (
	"cmp"
	"context"
	"fmt"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/langtest"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// A case is a few files, in which ‹=a› stands in front of the name of a definition, ‹a› in front of
// a use that means it, ‹?a› of one that may only be known by name, and ‹!a› of one that must not
// mean it.
var caseMark = regexp.MustCompile(`‹([=?!]?)(\w+)›`)

type caseUse struct {
	sign, key, file string
	offset          int
}

// laid lays out the files of a case without the marks in them.
func laid(t *testing.T, archive string) (root string, defs map[string]string, uses []caseUse) {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	files := map[string]string{}
	defs = map[string]string{}
	for _, f := range txtar.Parse([]byte(archive)).Files {
		var bare strings.Builder
		text := string(f.Data)
		for at := 0; ; {
			m := caseMark.FindStringSubmatchIndex(text[at:])
			if m == nil {
				bare.WriteString(text[at:])
				break
			}
			bare.WriteString(text[at : at+m[0]])
			sign, key := text[at+m[2]:at+m[3]], text[at+m[4]:at+m[5]]
			if sign == "=" {
				defs[key] = fmt.Sprintf("%s:%d", f.Name, bare.Len())
			} else {
				uses = append(uses, caseUse{sign, key, f.Name, bare.Len()})
			}
			at += m[1]
		}
		files[f.Name] = bare.String()
	}
	langtest.Lay(t, root, files)
	return root, defs, uses
}

func checkCase(t *testing.T, archive string) {
	root, defs, uses := laid(t, archive)
	ws := workspace.New(root)
	require.NoError(t, ws.Code.Read(context.Background()))
	require.Empty(t, ws.Code.Progress().LeftOut)
	require.NotEmpty(t, uses)
	for _, u := range uses {
		what := fmt.Sprintf("%s at %d, ‹%s%s›", u.file, u.offset, u.sign, u.key)
		res, all := ws.Answers.All(context.Background(), answer.ToDefinition.On(u.file, u.offset))
		var got []string
		for _, a := range all {
			got = append(got, fmt.Sprintf("%s:%d", a.Path, a.At.Start))
		}
		want := defs[u.key]
		if u.key == "none" {
			assert.Empty(t, got, what)
			continue
		}
		require.NotEmpty(t, want, "%s is defined nowhere", u.key)
		switch u.sign {
		case "!":
			assert.NotEqual(t, want, cmp.Or(append(got, "")[0], "nothing"), what)
		case "?":
			assert.Contains(t, got, want, what)
		default:
			if assert.NotEmpty(t, got, "%s: %+v", what, res) {
				assert.Equal(t, want, got[0], what)
				assert.NotEqual(t, resolve.ByName, all[0].Certainty, what)
			}
		}
		checkBack(t, ws, u, all, what)
	}
}

// checkBack asks for the references of what a use is sure to mean: the use is among them.
func checkBack(t *testing.T, ws *workspace.Workspace, u caseUse, all []answer.Answer, what string) {
	if u.sign != "" || len(all) == 0 || all[0].Certainty == resolve.ByName || all[0].Kind == facts.Package {
		return
	}
	_, refs := ws.Answers.All(context.Background(), answer.ToReferences.On(all[0].Path, int(all[0].At.Start)))
	assert.True(t, slices.ContainsFunc(refs, func(r answer.Answer) bool { return r.Path == u.file && int(r.At.Start) == u.offset }) ||
		all[0].Path == u.file && int(all[0].At.Start) == u.offset, "%s is no reference of what it means", what)
}

func TestCases(t *testing.T) {
	for _, all := range []map[string]string{cases, casesOfOthers, casesOfFlow, casesOfJavaScript, casesOfTypeScript, casesOfPython, casesOfFlowElsewhere, casesOfC} {
		for name, archive := range all {
			t.Run(name, func(t *testing.T) { checkCase(t, archive) })
		}
	}
}
