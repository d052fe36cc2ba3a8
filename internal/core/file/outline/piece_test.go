package outline_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/outline"
)

// soloed are the first lines of all pieces that one comes by when going from one
// that is alone to its neighbours.
func soloed(t *testing.T, file, from string, forward bool) (all []string) {
	text, f := samples[file], read(t, file)
	piece, ok := outline.Piece(f, strings.Index(text, from))
	require.True(t, ok, "%s: %s", file, from)
	for n := 0; ok; n++ {
		require.Less(t, n, 100)
		first, _, _ := strings.Cut(text[piece.Start:piece.End], "\n")
		all = append(all, first)
		var next outline.Solo
		next, ok = outline.NextPiece(f, piece, forward)
		piece = next.All
	}
	return all
}

func TestOnePieceAndItsNeighbours(t *testing.T) {
	for _, c := range []struct {
		file, from    string
		forward, back []string
	}{
		{"a.go", "return 1", []string{"func (t Team) Go() { fmt.Print(func() int { return 1 }()) }", "func hut() {}"}, []string{"func (t Team) Go() { fmt.Print(func() int { return 1 }()) }", "type Team struct {"}},
		{"a.py", "self):", []string{"# --- doors ---", "def ring():"}, []string{"# --- doors ---"}},
		{"a.py", "class", []string{"class Hut:", "def ring():"}, []string{"class Hut:"}},
		{"a.ts", "draw", []string{"draw() { return 1; }", "function start() {}"}, []string{"draw() { return 1; }"}},
		{"A.java", "A() {}", []string{"A() {}", "void run() { }", "static class In { void deep() {} }"}, []string{"A() {}"}},
		{"A.java", "deep", []string{"void deep() {}"}, []string{"void deep() {}", "void run() { }", "A() {}"}},
		{"a.c", "depth; }\n", []string{"static int read(struct probe *p) { return p->depth; }"}, []string{"static int read(struct probe *p) { return p->depth; }", "struct probe { int depth; }"}},
		{"a.md", "## Two", []string{"## Two", "# Three"}, []string{"## Two"}},
	} {
		trim := func(all []string) []string {
			for i := range all {
				all[i] = strings.TrimPrefix(strings.TrimSpace(all[i]), "export ")
			}
			return all
		}
		assert.Equal(t, c.forward, trim(soloed(t, c.file, c.from, true)), "%s: on from %s", c.file, c.from)
		assert.Equal(t, c.back, trim(soloed(t, c.file, c.from, false)), "%s: back from %s", c.file, c.from)
	}
	_, ok := outline.Piece(read(t, "a.go"), 0)
	assert.False(t, ok)
}

func TestAPieceHasItsComment(t *testing.T) {
	samples["doc.go"] = "package a\n\n// F adds.\nfunc F() {}\n"
	defer delete(samples, "doc.go")
	f := read(t, "doc.go")
	piece, ok := outline.Piece(f, strings.Index(samples["doc.go"], "adds"))
	assert.True(t, ok)
	assert.Equal(t, "// F adds.\nfunc F() {}", samples["doc.go"][piece.Start:piece.End])
}
