package index

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/golang"
	"rooktrail/internal/core/file/lang/json"
	"rooktrail/internal/core/know/fuzzy"
)

func put(t *testing.T, x *Index, path, code string) {
	f, err := golang.Facts(context.Background(), []byte(code))
	require.NoError(t, err)
	require.NoError(t, x.Put(path, Summarise([]byte(code), f)))
}

func found(x *Index, query string) (names []string) {
	for _, h := range x.Search(context.Background(), fuzzy.Parse(query), 10) {
		names = append(names, h.Qualified())
	}
	return names
}

func TestPutAndReplace(t *testing.T) {
	var x Index
	put(t, &x, "a.go", "package a\n\ntype Hut struct{ Height int }\n\nfunc (h Hut) Ring() { local := 1; _ = local }\n")
	put(t, &x, "b.go", "package a\n\nfunc Ring() {}\n")
	assert.Equal(t, []string{"Ring", "Hut.Ring"}, found(&x, "ring"))
	assert.Equal(t, []string{"Hut.Ring"}, found(&x, "hu.ri"))
	assert.Equal(t, "Hut.Height", found(&x, "hut.h")[0])
	assert.Equal(t, []string{"Hut"}, found(&x, "hut"))
	assert.Empty(t, found(&x, "local"), "what is local is not looked for")
	s := x.Named("Height")
	require.Len(t, s, 1)
	assert.Equal(t, Symbol{Name: "Height", Container: "Hut", Kind: s[0].Kind, Path: "a.go", Line: 3, Offset: 28}, s[0])

	put(t, &x, "a.go", "package a\n\nfunc Toll() {}\n")
	assert.Equal(t, []string{"Ring"}, found(&x, "ring"))
	assert.Equal(t, []string{"Toll"}, found(&x, "toll"))
	x.Remove("a.go")
	assert.Empty(t, found(&x, "toll"))
	assert.Empty(t, x.Named("Toll"))
	x.Remove("never.go")
}

// The filter of a search need not know that several goroutines search.
func TestAFilterIsAskedOneAtATime(t *testing.T) {
	var x Index
	for i := range 300 {
		symbols := make([]Symbol, 200)
		for j := range symbols {
			symbols[j] = Symbol{Name: fmt.Sprintf("ring%dOf%d", j, i), Kind: facts.Function, Line: 1}
		}
		require.NoError(t, x.Put(fmt.Sprintf("%03d.go", i), summary(symbols...)))
	}
	asked := map[string]int{}
	hits := x.SearchIn(t.Context(), fuzzy.Parse("ring"), 1000, func(path string) (int, bool) {
		asked[path]++
		return 0, path < "150"
	})
	assert.NotEmpty(t, hits)
	for path, n := range asked {
		assert.LessOrEqual(t, n, 2, path)
	}
}

// Symbols come in the same order in whatever order their files were read.
func TestNamedComesInTheOrderOfThePaths(t *testing.T) {
	files := []string{"a.go", "b/a.go", "b/z.go", "c.go"}
	for _, order := range [][]int{{0, 1, 2, 3}, {3, 1, 0, 2}, {2, 3, 1, 0}} {
		var x Index
		for _, i := range order {
			put(t, &x, files[i], "package a\n\nfunc (A) Ring() {}\nfunc Ring() {}\n")
		}
		var got []string
		for _, s := range x.Named("Ring") {
			got = append(got, fmt.Sprint(s.Path, s.Line))
		}
		assert.Equal(t, []string{"a.go3", "a.go4", "b/a.go3", "b/a.go4", "b/z.go3", "b/z.go4", "c.go3", "c.go4"}, got)
	}
}

func TestManyGoneOnesDoNotHideTheRest(t *testing.T) {
	var x Index
	put(t, &x, "kept.go", "package a\n\nfunc RingTheBellOften() {}\n")
	for range 30 {
		put(t, &x, "a.go", "package a\n\nfunc Ring() {}\nfunc RingB() {}\n")
	}
	x.Remove("a.go")
	assert.Equal(t, []string{"RingTheBellOften"}, found(&x, "ring"))
}

func TestFilesThatMentionAName(t *testing.T) {
	var x Index
	put(t, &x, "b.go", "package a\n\nfunc Ring() { toll() }\n")
	put(t, &x, "a.go", "package a\n\nfunc toll() { var local int; _ = local }\n")
	assert.Equal(t, []string{"a.go", "b.go"}, x.Mentioning("toll"))
	assert.Equal(t, []string{"a.go"}, x.Mentioning("local"))
	assert.Empty(t, x.Mentioning("Bell"))
	x.Remove("a.go")
	assert.Equal(t, []string{"b.go"}, x.Mentioning("toll"))
	assert.Equal(t, 3, x.Summary("b.go").Lines)
}

func TestManyFilesAtOnce(t *testing.T) {
	var x Index
	var paths []string
	var summaries []*Summary
	for i := range 3000 {
		s := &Summary{}
		s.add(&Symbol{Name: fmt.Sprintf("Ring%d", i), Container: "Bell", Line: i + 1, Offset: i})
		s.add(&Symbol{Name: "common", Line: i + 2, Offset: i + 1})
		paths, summaries = append(paths, fmt.Sprintf("%04d.go", i)), append(summaries, s)
	}
	require.NoError(t, x.PutAll(paths, summaries))
	assert.Len(t, x.Named("common"), 3000)
	assert.Equal(t, "0000.go", x.Named("common")[0].Path)
	s := x.Named("Ring2999")
	require.Len(t, s, 1)
	assert.Equal(t, Symbol{Name: "Ring2999", Container: "Bell", Path: "2999.go", Line: 3000, Offset: 2999}, s[0])
	assert.Equal(t, []int{7, 8}, x.In("0007.go"))
	assert.Equal(t, "Bell.Ring42", found(&x, "ring42")[0])
}

func TestKeysDeepInDataAreNotLookedFor(t *testing.T) {
	text := []byte(`{"a": {"b": {"c": {"d": 1}}}}`)
	f, err := json.Facts(context.Background(), text)
	require.NoError(t, err)
	var x Index
	require.NoError(t, x.Put("a.json", Summarise(text, f)))
	assert.NotEmpty(t, x.Named("c"))
	assert.Empty(t, x.Named("d"))
}
