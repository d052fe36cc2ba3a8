package golang_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/golang"
)

const sample = `// Package dispatch decides.
package dispatch

import alias "errors"

// Roster knows.
type Roster struct {
	teams []Team // who there is
	inner struct{ deep int }
}

// Assign gives.
func (r *Roster) Assign(c Callout) (Team, error) {
	for i, t := range r.teams {
		r.teams[i] = t
	}
	return r.teams[0], alias.New("x")
}

const (
	A = iota
	B
)
`

func TestOutline(t *testing.T) {
	f, lines := factstest.Outline(t, golang.Language, sample)
	assert.Equal(t, []string{
		"struct Roster | type Roster struct  | // Roster knows.",
		"field Roster.teams | teams []Team | // who there is",
		"field Roster.inner | inner struct{ deep int } | ",
		"field inner.deep | deep int | ",
		"method Roster.Assign | func (r *Roster) Assign(c Callout) (Team, error) | // Assign gives.",
		"constant A | A = iota | ",
		"constant B | B | ",
	}, lines)
	assert.Equal(t, "dispatch", f.Package)
}

func TestRoles(t *testing.T) {
	f, err := golang.Language.Facts(context.Background(), []byte(sample))
	require.NoError(t, err)
	var uses []string
	for _, u := range f.Uses {
		uses = append(uses, u.Name+" "+u.Role.String())
	}
	assert.Equal(t, "Team type, int type, Roster type, Callout type, Team type, error type, r read, teams read, r read, teams readwrite, i read, t read, r read, teams read, alias read, New call, iota read",
		strings.Join(uses, ", "))
}

func TestBrokenCodeCostsWhatItTouches(t *testing.T) {
	f, err := golang.Language.Facts(context.Background(), []byte("package x\n\nfunc Good() {}\n\nfunc Bad( {\n\nfunc Later() {}\n"))
	require.NoError(t, err)
	assert.Equal(t, "Good", f.Defs[0].Name)
	f, err = golang.Language.Facts(context.Background(), []byte("no package at all"))
	require.NoError(t, err)
	assert.Empty(t, f.Defs)
}

// While one writes a declaration, those around it are known as before.
func TestUnfinishedDeclarations(t *testing.T) {
	const before, after = "package x\n\n// Hut is one.\ntype Hut struct{ Beds int }\n\nfunc (h *Hut) Free() int { return h.Beds }\n\n",
		"\n\n// Later is behind it.\nfunc (h *Hut) Later() int {\n\treturn h.Beds\n}\n\nvar (\n\ta = 1\n)\n"
	for _, written := range []string{
		"func (h *Hut) Now() int { return h.Free(1, ", "func (h *Hut) Now(", "func (h *Hut) Now() int {\n\tif h.Beds > 0 {", "func (h *Hut) Now() { x := []int{1, 2", "var Now = Hut{",
		"type Now struct {", "type Now struct {\n\tBeds int `json:\"beds", "func (h *Hut) Now() { h.Beds[", "func (h *Hut) Now() {\n\tfor i := range h.\n", "func (h *Hut) Now() {\n\tdefer func() {\n\t\tif",
	} {
		text := before + written + after
		f, err := golang.Language.Facts(t.Context(), []byte(text))
		require.NoError(t, err)
		names := map[string]*facts.Def{}
		for _, id := range f.Symbols() {
			names[f.Defs[id].Name] = &f.Defs[id]
		}
		if strings.Contains(written, "`") {
			continue // nobody knows where a text without an end ends
		}
		for _, name := range []string{"Hut", "Beds", "Free", "Now", "Later", "a"} {
			if assert.NotNil(t, names[name], "%s in %q", name, written) {
				assert.Equal(t, name, string(names[name].At.In([]byte(text))))
			}
		}
		if now, later := names["Now"], names["Later"]; now != nil && later != nil {
			assert.LessOrEqual(t, now.Full.End, later.Full.Start, written)
			assert.Equal(t, "// Later is behind it.", string(later.Doc.In([]byte(text))), written)
		}
	}
}

func FuzzFacts(f *testing.F) {
	factstest.Fuzz(f, golang.Language, sample, "package x\nfunc (", "package x\nvar x, y = struct{a int}{a: 1}, func() { L: for { break L } }",
		"package x\ntype T[P any] interface{ ~int; M() }\nfunc f[P any](x P) { switch x := any(x).(type) { case T[P]: } }")
}
