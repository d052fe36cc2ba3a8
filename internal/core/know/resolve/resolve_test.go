package resolve_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// A mark in a comment says what a name on its line is or leads to:
//
//	@def key          the name defines key
//	@use key          the name leads to the definition of key
//	@byname key       the same, but only its name says so
//	@outside name     the name leads out of the project
//
// The name is the key up to a colon, or what follows the colon where that is
// a key of its own: "a:b" names a key b-of-a if some definition is marked so,
// and else the name a leading to key b. "#2" behind it means the second time
// that the name stands on the line.
var markPattern = regexp.MustCompile(`@(def|use|byname|outside) ([^\s#@]+)(?:#(\d+))?`)

type mark struct {
	verb, key      string
	file           string
	line, col, nth int
	offset         int
	at             string
}

func TestSamples(t *testing.T) {
	folders, err := os.ReadDir("testdata")
	require.NoError(t, err)
	for _, folder := range folders {
		if !folder.IsDir() || folder.Name() == "fuzz" || folder.Name() == "questions" {
			continue
		}
		t.Run(folder.Name(), func(t *testing.T) { checkSample(t, filepath.Join("testdata", folder.Name())) })
	}
}

func checkSample(t *testing.T, dir string) {
	root, err := filepath.Abs(dir)
	require.NoError(t, err)
	ws := workspace.New(root)
	require.NoError(t, ws.Code.Read(context.Background()))
	require.Empty(t, ws.Code.Progress().LeftOut)
	var marks []mark
	require.NoError(t, filepath.WalkDir(root, func(p string, d os.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			marks = append(marks, marksIn(t, ws.Code.Relative(p), p)...)
		}
		return err
	}))
	keys := map[string]bool{}
	for _, m := range marks {
		if m.verb == "def" {
			keys[m.key] = true
		}
	}
	defs := map[string]string{}
	for i := range marks {
		locate(t, &marks[i], keys)
		if marks[i].verb == "def" {
			require.Empty(t, defs[marks[i].key], "%s is defined twice", marks[i].key)
			defs[marks[i].key] = marks[i].at
		}
	}
	for _, m := range marks {
		result, spots := ws.Answers.All(context.Background(), answer.ToDefinition.On(m.file, m.offset))
		check(t, m, defs, result, spots)
	}
}

func check(t *testing.T, m mark, defs map[string]string, result resolve.Result, spots []answer.Answer) {
	what := fmt.Sprintf("%s: @%s %s", m.at, m.verb, m.key)
	switch m.verb {
	case "outside":
		assert.NotEmpty(t, result.Outside, what)
		assert.Empty(t, result.Answers, what)
		return
	case "def":
		assert.True(t, result.Here, what)
	}
	if !assert.NotEmpty(t, spots, what) {
		return
	}
	want := defs[m.key]
	if want == "" && strings.HasSuffix(m.key, ":pkg") {
		return
	}
	got := spots[0].Place().String()
	if m.verb == "byname" {
		assert.Equal(t, resolve.ByName, spots[0].Certainty, what)
		return
	}
	assert.Equal(t, resolve.Inferred, spots[0].Certainty, what)
	assert.Equal(t, want, got, what)
}

func marksIn(t *testing.T, rel, path string) (marks []mark) {
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	offset := 0
	for i, line := range strings.SplitAfter(string(data), "\n") {
		for _, m := range markPattern.FindAllStringSubmatch(line, -1) {
			nth, _ := strconv.Atoi(m[3])
			marks = append(marks, mark{verb: m[1], key: m[2], file: rel, line: i + 1, nth: max(nth, 1), offset: offset, at: line})
		}
		offset += len(line)
	}
	return marks
}

// locate finds the name that a mark speaks of on its line.
func locate(t *testing.T, m *mark, keys map[string]bool) {
	name, rest, qualified := strings.Cut(strings.TrimSuffix(m.key, ":"), ":")
	if qualified && !keys[m.key] && keys[rest] {
		m.key = rest
	}
	code := m.at[:markPattern.FindStringIndex(m.at)[0]]
	found := regexp.MustCompile(`\b`+regexp.QuoteMeta(name)+`\b`).FindAllStringIndex(code, -1)
	require.GreaterOrEqual(t, len(found), m.nth, "%s:%d: no %s", m.file, m.line, name)
	m.col = found[m.nth-1][0] + 1
	m.offset += m.col - 1
	m.at = fmt.Sprintf("%s:%d:%d", m.file, m.line, m.col)
}

// Circles and broken code must cost no more than an answer.
func FuzzDefinition(f *testing.F) {
	f.Add("package a\n\ntype A struct{ B }\ntype B struct{ A }\nvar x = y.z\nvar y = x\nfunc (a A) m() A { return a.m().m() }\n", "go")
	f.Add("from a import a\nclass A(A):\n    def f(self):\n        self.g = self.g.h\n        return self.f().f\nx = x.y\n", "py")
	f.Add("export * from './a';\nimport a, { b as b } from './a';\ninterface A extends B { x: A['x'] }\ninterface B extends A {}\nlet c = c.d(c);\n", "ts")
	f.Add("mod a { pub use super::b::*; pub use self::c as c; } mod b { pub use super::a::*; pub use crate::a::c; }\nuse a::x;\nimpl x::Y for Z {}\ntrait Z: Z { fn z(self) -> Self::Z; }\nfn f(z: Z) { z.z().z; crate::super::self::x }\n", "rs")
	f.Add("namespace a { using namespace a; namespace b { using a::x; struct S : S { S* s; }; } }\nnamespace a = a::b;\nstruct a::b::S::T { int t; };\nint a::b::S::f() { return s->s->t + a::b::x; }\n", "cpp")
	f.Add("local M = require 'a'\nfunction M.f(self) return self.f.g end\nM.g = M\nreturn M\n", "lua")
	f.Add("source ./a.sh\n. a.sh\nf() { f; }\nf $x\n", "sh")
	f.Add("type A = { k: 'a'; x: A } | { k: 'b'; x: A } | A; function f(a: A) { switch (a.k) { case 'a': return a.x; } if (a.x.k !== 'b') return; a.x.x; }\n", "ts")
	f.Fuzz(func(t *testing.T, text, extension string) {
		if len(text) > 4000 || !slices.Contains([]string{"go", "py", "ts", "rs", "cpp", "lua", "sh"}, extension) {
			return
		}
		root := t.TempDir()
		if err := os.WriteFile(filepath.Join(root, "a."+extension), []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		ws := workspace.New(root)
		if err := ws.Code.Read(context.Background()); err != nil {
			t.Fatal(err)
		}
		for offset := range len(text) + 1 {
			result, spots := ws.Answers.All(context.Background(), answer.ToDefinition.On("a."+extension, offset))
			for _, s := range spots {
				if int(s.At.End) > len(text) || s.Line < 1 || result.Name == "" {
					t.Fatalf("%+v at %d in %q", s, offset, text)
				}
			}
		}
	})
}
