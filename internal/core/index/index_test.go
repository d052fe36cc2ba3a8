package index

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/lang/golang"
)

func put(t *testing.T, x *Index, path, code string) {
	f, err := golang.Facts(context.Background(), []byte(code))
	require.NoError(t, err)
	x.Put(path, SymbolsOf(path, []byte(code), f))
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

func TestManyGoneOnesDoNotHideTheRest(t *testing.T) {
	var x Index
	put(t, &x, "kept.go", "package a\n\nfunc RingTheBellOften() {}\n")
	for range 30 {
		put(t, &x, "a.go", "package a\n\nfunc Ring() {}\nfunc RingB() {}\n")
	}
	x.Remove("a.go")
	assert.Equal(t, []string{"RingTheBellOften"}, found(&x, "ring"))
}
