package search_test

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace/workspacetest"
)

func TestFindText(t *testing.T) {
	files := map[string]string{"bin.dat": "ring\x00", "wide.txt": "\xff\xfer\x00i\x00n\x00g\x00", "a.go": "package a\n\n// ring\nfunc ring() { ring(); _ = \"ring\" }\n"}
	for i := range 300 {
		files[fmt.Sprintf("many/%03d.txt", i)] = "one ring\nand a ring\n"
	}
	files["long.txt"] = strings.Repeat("x", 5000) + "ring" + strings.Repeat("y", 5000)
	w := workspacetest.Open(t, files)
	m, err := find.Compile(find.Query{Pattern: "ring"})
	require.NoError(t, err)
	var hits []search.TextHit
	report := w.Search.FindText(context.Background(), m, func(h []search.TextHit) bool {
		hits = append(hits, h...)
		return true
	})
	assert.Equal(t, search.TextReport{Files: 304, Binary: 1}, report)
	assert.Len(t, hits, 4+600+1+1)
	var roles []string
	for _, h := range hits[:4] {
		roles = append(roles, h.Role.String())
	}
	assert.Equal(t, "comment definition code string", strings.Join(roles, " "))
	for i, h := range hits {
		assert.Equal(t, "ring", h.Text[h.Mark.Start:h.Mark.End], h.Place.String())
		assert.LessOrEqual(t, len(h.Text), 400)
		assert.True(t, i == 0 || hits[i-1].Path < h.Path || hits[i-1].Path == h.Path && hits[i-1].At.Start < h.At.Start, "they come in order")
	}
	n := 0
	w.Search.FindText(context.Background(), m, func(h []search.TextHit) bool { n += len(h); return n < 10 })
	assert.Less(t, n, 20, "it ends when one has enough")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	w.Search.FindText(ctx, m, func([]search.TextHit) bool { t.Error("it was cancelled"); return true })
}

func TestFilters(t *testing.T) {
	rest, f := search.ParseFilter("as in:dispatch kind:meth ext:.go x:y is:test http://z")
	assert.Equal(t, "as x:y http://z", rest)
	for p, want := range map[string]bool{"dispatch/a_test.go": true, "src/Dispatch/deep/b_test.go": true, "dispatch/a.go": false, "other/a_test.go": false, "dispatch/test_a.py": false} {
		assert.Equal(t, want, f.Path(p), p)
	}
	assert.True(t, f.Kind(facts.Method))
	assert.False(t, f.Kind(facts.Function))
	_, f = search.ParseFilter("kind:type is:code")
	assert.True(t, f.Kind(facts.Struct) && f.Kind(facts.Interface) && !f.Kind(facts.Field))
	assert.True(t, f.Path("a.go") && !f.Path("tests/a.py") && !f.Path("a.spec.ts") && !f.Path("ATest.java"))
	_, f = search.ParseFilter("roster.go:42")
	assert.True(t, f.Empty())
}

func TestStarsAndKinds(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"dispatch/roster.go": "package dispatch\n\ntype Roster struct{ Free int }\n\nfunc (r Roster) Assign() {}\n\nfunc Rota() {}\n",
		"display/rows.go":    "package display\n", "other/roster.go": "package other\n",
	})
	ctx := context.Background()
	paths := func(query string) (list []string) {
		for _, h := range w.Search.Files(ctx, query, 10) {
			list = append(list, h.Path)
		}
		return list
	}
	assert.ElementsMatch(t, []string{"dispatch/roster.go", "display/rows.go"}, paths("dis*/ro"))
	assert.Equal(t, []string{"dispatch/roster.go"}, paths("dis*/ros*go"))
	assert.Empty(t, paths("dis*ros*ro"))
	assert.Len(t, paths("*.go"), 3)
	names := func(query string) (list []string) {
		for _, h := range w.Search.Symbols(ctx, query, 10) {
			list = append(list, h.Name)
		}
		return list
	}
	assert.Equal(t, []string{"Assign"}, names("ro*assi"))
	assert.Equal(t, []string{"Roster"}, names("ro kind:type"))
	assert.Equal(t, []string{"Rota"}, names("ro kind:function"))
	assert.Equal(t, []string{"Free"}, names("r kind:value"))
	_, err := w.Search.SearchText(ctx, find.Query{Pattern: "ro*r"}, 10, func(hits []search.TextHit) bool {
		assert.Fail(t, "in a text a star is a star", hits)
		return true
	})
	require.NoError(t, err)
	assert.Equal(t, []string{"other/roster.go"}, paths("ros glob:oth*/**"))
	assert.Equal(t, []string{"display/rows.go"}, paths("ro not:ROSTER*"))
	assert.Empty(t, paths("roster is:changed"), "in no repository nothing has changed")
}

func TestTextIsHandedOverFileByFile(t *testing.T) {
	files := map[string]string{"z/defines.go": "package z\n\nfunc bell() {}\n"}
	for i := range 40 {
		files[fmt.Sprintf("a%02d.txt", i)] = "before\na bell rings\nafter\nbell again"
	}
	w := workspacetest.Open(t, files)
	var all []search.TextHit
	require.NoError(t, os.WriteFile(w.Code.Absolute("a00.bin"), []byte("bell\x00bell"), 0o644))
	w.Code.Refresh(context.Background())
	report, err := w.Search.SearchText(context.Background(), find.Query{Pattern: "bell"}, 5000, func([]search.TextHit) bool { return true })
	require.NoError(t, err)
	assert.Equal(t, 1, report.Binary)
	_, err = w.Search.SearchText(context.Background(), find.Query{Pattern: "bell"}, 50, func(hits []search.TextHit) bool {
		for _, h := range hits {
			assert.Equal(t, hits[0].Path, h.Path)
		}
		all = append(all, hits...)
		return true
	})
	require.NoError(t, err)
	require.Len(t, all, 50)
	assert.Equal(t, "z/defines.go", all[0].Path, "where it is defined comes first")
	assert.Equal(t, "a00.txt", all[1].Path)
	assert.Equal(t, "before", all[1].Above)
	assert.Equal(t, "after", all[1].Below)
	assert.Empty(t, all[2].Below)
	stopped := 0
	_, err = w.Search.SearchText(context.Background(), find.Query{Pattern: "bell"}, 50, func([]search.TextHit) bool { stopped++; return stopped < 3 })
	require.NoError(t, err)
	assert.Equal(t, 3, stopped)
}
