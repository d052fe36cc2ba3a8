package publish

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

var huts = map[string]string{
	"go.mod":       "module tarnwell.example/huts\n\ngo 1.24\n",
	"hut/hut.go":   "package hut\n\n// Hut is one.\ntype Hut struct{ Level int }\n\nfunc (h *Hut) Ring(times int) int { return times * h.Level }\n",
	"main.go":      "package main\n\nimport \"tarnwell.example/huts/hut\"\n\nfunc main() {\n\th := &hut.Hut{Level: 2}\n\t/* 𝄞é */ h.Ring(3)\n}\n",
	"bell.py":      "class Bell:\n    def ring(self):\n        return self\n\n\nBell().ring()\n",
	"odd\tname.py": "odd = 1\n",
	"notes.md":     "# Notes\n",
}

func source(t *testing.T) *Source {
	t.Helper()
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range huts {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o700))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o600))
	}
	code := codebase.New(root)
	require.NoError(t, code.Read(t.Context()))
	return &Source{Code: code, Resolver: resolve.New(code)}
}

func TestTags(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, Tags(t.Context(), source(t), &out))
	lines := strings.Split(strings.TrimSuffix(out.String(), "\n"), "\n")
	assert.True(t, slices.IsSorted(lines))
	assert.Contains(t, lines, "Bell\tbell.py\t/^class Bell:$/")
	assert.Contains(t, lines, "Ring\thut/hut.go\t/^func (h *Hut) Ring(times int) int { return times * h.Level }$/")
	assert.NotContains(t, out.String(), "odd", "its path does not fit into such a line")
	assert.Equal(t, `/^a \/\\ b\$$/`, found([]byte("a /\\ b$\r\n"), 3))
	assert.Equal(t, "3", found([]byte(strings.Repeat("x", longestPattern+1)), 3))
}

func TestLines(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, Lines(t.Context(), source(t), &out))
	assert.Contains(t, out.String(), `{"path":"bell.py","line":2,"col":9,"symbol":"ring","kind":"method","container":"Bell"}`+"\n")
	assert.Contains(t, out.String(), `{"path":"bell.py","line":6,"col":8,"reference":"ring","access":"call","certainty":"inferred","to":{"path":"bell.py","line":2,"col":9}}`+"\n")
	for line := range strings.Lines(out.String()) {
		assert.True(t, json.Valid([]byte(line)), line)
	}
}

// element is a vertex or an edge.
type element struct {
	ID                     int
	Type, Label, URI       string
	OutV, InV, Shard, Data int
	InVs                   []int
	Property, Kind, Scope  string
	Start, End             struct{ Line, Character int }
}

// graph is a dump as another program reads it.
type graph struct {
	all  map[int]element
	from map[int][]element // edges
	doc  map[int]int       // of a range
}

func read(t *testing.T, dump string) *graph {
	t.Helper()
	g := &graph{all: map[int]element{}, from: map[int][]element{}, doc: map[int]int{}}
	open := map[int]bool{}
	for line := range strings.Lines(dump) {
		var e element
		require.NoError(t, json.Unmarshal([]byte(line), &e), line)
		require.NotContains(t, g.all, e.ID)
		if e.Type == "edge" {
			for _, v := range append(slices.Clone(e.InVs), e.OutV, e.InV, e.Shard) {
				if v != 0 {
					require.Contains(t, g.all, v, "nothing is referred to before it is there: %s", line)
				}
			}
			g.from[e.OutV] = append(g.from[e.OutV], e)
		}
		if e.Label == "$event" {
			require.Equal(t, e.Kind == "end", open[e.Data], line)
			open[e.Data] = e.Kind == "begin"
		}
		if e.Label == "contains" && g.all[e.OutV].Label == "document" {
			require.True(t, open[e.OutV])
			for _, r := range e.InVs {
				require.NotContains(t, g.doc, r)
				g.doc[r] = e.OutV
			}
		}
		g.all[e.ID] = e
	}
	for of, still := range open {
		assert.False(t, still, "%d has no end", of)
	}
	return g
}

// place is a range as a file and where it begins.
func (g *graph) place(r int) string {
	e := g.all[r]
	return fmt.Sprintf("%s:%d:%d", filepath.Base(g.all[g.doc[r]].URI), e.Start.Line, e.Start.Character)
}

// answers are the ranges to which a request on a range leads.
func (g *graph) answers(r int, request, property string) (places []string) {
	for _, next := range g.from[r] {
		if next.Label != "next" {
			continue
		}
		for _, e := range g.from[next.InV] {
			if e.Label != request {
				continue
			}
			for _, item := range g.from[e.InV] {
				if item.Label == "item" && (property == "" || item.Property == property) {
					for _, v := range item.InVs {
						places = append(places, g.place(v))
					}
				}
			}
		}
	}
	slices.Sort(places)
	return places
}

func (g *graph) at(place string) int {
	for id, e := range g.all {
		if e.Label == "range" && g.place(id) == place {
			return id
		}
	}
	return 0
}

func TestLSIF(t *testing.T) {
	var out bytes.Buffer
	s := source(t)
	require.NoError(t, LSIF(t.Context(), s, &out, "rooktrail", "0"))
	first, _, _ := strings.Cut(out.String(), "\n")
	assert.JSONEq(t, fmt.Sprintf(`{"id":1,"type":"vertex","label":"metaData","version":"0.6.0","projectRoot":"file://%s","positionEncoding":"utf-16","toolInfo":{"name":"rooktrail","version":"0"}}`, s.Code.Root()), first)
	g := read(t, out.String())
	ring := g.at("hut.go:5:14")
	require.NotZero(t, ring)
	assert.Equal(t, []string{"main.go:6:13"}, g.answers(ring, "textDocument/references", "references"), "counted in units of UTF-16, from 0")
	use := g.at("main.go:6:13")
	require.NotZero(t, use)
	assert.Equal(t, []string{"hut.go:5:14"}, g.answers(use, "textDocument/definition", ""))
	assert.Equal(t, []string{"hut.go:5:14"}, g.answers(use, "textDocument/references", "definitions"))
	level := g.at("hut.go:3:17")
	assert.Equal(t, []string{"hut.go:5:53", "main.go:5:15"}, g.answers(level, "textDocument/references", "references"))
	times := g.at("hut.go:5:19")
	assert.Equal(t, []string{"hut.go:5:43"}, g.answers(times, "textDocument/references", "references"), "a parameter, which is no symbol")
	assert.Equal(t, []string{"bell.py:1:8"}, g.answers(g.at("bell.py:5:7"), "textDocument/definition", ""))
	assert.Contains(t, out.String(), "odd%09name.py")
}

type full struct{}

func (full) Write([]byte) (int, error) { return 0, errors.New("no space is left") }

func TestAnOutputThatIsFull(t *testing.T) {
	s := source(t)
	assert.ErrorContains(t, Tags(t.Context(), s, full{}), "no space is left")
	assert.ErrorContains(t, Lines(t.Context(), s, full{}), "no space is left")
	assert.ErrorContains(t, LSIF(t.Context(), s, full{}, "", ""), "no space is left")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.ErrorIs(t, Lines(ctx, s, &bytes.Buffer{}), context.Canceled)
}
