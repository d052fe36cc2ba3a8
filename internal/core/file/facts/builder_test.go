package facts_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/place"
)

// sketch builds the facts of a text in which every name stands once.
type sketch struct {
	*facts.Builder
	text string
}

func newSketch(text string) *sketch { return &sketch{facts.NewBuilder("Sketch", len(text)), text} }

// at is where a piece of the text stands.
func (s *sketch) at(piece string) place.Range {
	i := strings.Index(s.text, piece)
	if i < 0 {
		panic("no " + piece)
	}
	return place.Range{Start: uint32(i), End: uint32(i + len(piece))}
}

// span is from one piece of the text to another one.
func (s *sketch) span(from, to string) place.Range {
	return place.Range{Start: s.at(from).Start, End: s.at(to).End}
}

func (s *sketch) def(kind facts.Kind, name string, full place.Range) facts.DefID {
	return s.Def(facts.Def{Name: name, Kind: kind, At: s.at(name), Full: full, Head: s.at(name)})
}

func (s *sketch) use(role facts.Role, name string) { s.Use(name, role, s.at(name), facts.NoExpr) }

// hut is a class with a method in it, and a function behind it.
const hutText = "class hut { snow; method ring(times) { local = times2 } } function alert() { block { inner } } last"

func hut(t *testing.T) (*sketch, *facts.File) {
	s := newSketch(hutText)
	class := s.def(facts.Class, "hut", s.span("class", "} }"))
	s.In(facts.TypeScope, s.span("{ snow", "} }"), class, func() {
		s.def(facts.Field, "snow", s.at("snow;"))
		method := s.def(facts.Method, "ring", s.span("method", "times2 }"))
		s.In(facts.FunctionScope, s.span("(times)", "times2 }"), method, func() {
			s.def(facts.Parameter, "times", s.at("times"))
			s.def(facts.Variable, "local", s.at("local"))
			s.use(facts.Read, "times2")
		})
	})
	alert := s.def(facts.Function, "alert", s.span("function", "inner } }"))
	s.In(facts.FunctionScope, s.span("() {", "inner } }"), alert, func() {
		s.In(facts.BlockScope, s.span("{ inner", "inner }"), facts.NoDef, func() { s.use(facts.Call, "inner") })
	})
	f := s.File()
	require.NoError(t, factstest.Check(f, len(s.text)))
	return s, f
}

func TestScopesAndContainers(t *testing.T) {
	s, f := hut(t)
	var all []string
	for i := range f.Defs {
		d := &f.Defs[i]
		all = append(all, d.Kind.String()+" "+d.Qualified())
	}
	assert.Equal(t, []string{"class hut", "field hut.snow", "method hut.ring", "parameter times", "variable local", "function alert"}, all)
	for piece, local := range map[string]bool{"snow": false, "ring": false, "local": true, "times": true, "alert": false} {
		id := f.DefAt(int(s.at(piece).Start))
		require.NotEqual(t, facts.NoDef, id, piece)
		assert.Equal(t, local, f.Local(&f.Defs[id]), piece)
	}
	kinds := map[string]facts.ScopeKind{"class": facts.FileScope, "snow": facts.TypeScope, "local": facts.FunctionScope, "inner": facts.BlockScope, "last": facts.FileScope}
	for piece, kind := range kinds {
		assert.Equal(t, kind, f.Scopes[f.ScopeAt(int(s.at(piece).Start))].Kind, piece)
	}
	assert.Equal(t, facts.ScopeID(0), f.ScopeAt(len(s.text)+50))
}

func TestWhatStandsAtAnOffset(t *testing.T) {
	s, f := hut(t)
	u, ok := f.UseAt(int(s.at("inner").Start) + 2)
	assert.True(t, ok)
	assert.Equal(t, facts.Call, u.Role)
	u, ok = f.UseAt(int(s.at("inner").End))
	assert.True(t, ok, "also right behind it")
	assert.Equal(t, "inner", u.Name)
	_, ok = f.UseAt(int(s.at("class").Start))
	assert.False(t, ok)
	assert.Equal(t, facts.NoDef, f.DefAt(int(s.at("class").Start)))
	names := func(offset int) (all []string) {
		for _, id := range f.Around(offset) {
			all = append(all, f.Defs[id].Name)
		}
		return all
	}
	assert.Equal(t, []string{"hut", "ring"}, names(int(s.at("local").Start)))
	assert.Equal(t, []string{"hut", "snow"}, names(int(s.at("snow").Start)))
	assert.Equal(t, []string{"alert"}, names(int(s.at("inner").Start)))
	assert.Empty(t, names(len(s.text)))
}

// Of two uses that touch, the one that begins there is meant.
func TestUsesThatTouch(t *testing.T) {
	s := newSketch("a->b")
	s.Use("a->", facts.Read, s.at("a->"), facts.NoExpr)
	s.Use("b", facts.Write, s.at("b"), facts.NoExpr)
	f := s.File()
	u, _ := f.UseAt(3)
	assert.Equal(t, "b", u.Name)
	u, _ = f.UseAt(2)
	assert.Equal(t, "a->", u.Name)
}

// What a walk meets in another order than it stands in is put in order, and all that refers to it
// follows.
func TestFactsArePutInOrder(t *testing.T) {
	s := newSketch("func ring() { body } type bell { member }")
	bell := s.def(facts.Class, "bell", s.span("type", "member }"))
	s.In(facts.TypeScope, s.span("{ member", "member }"), bell, func() {
		e := s.Expr(facts.Expr{Kind: facts.Name, Name: "member", At: s.at("member")})
		d := s.def(facts.Field, "member", s.at("member"))
		s.At(d).Type = e
	})
	ring := s.def(facts.Function, "ring", s.span("func", "body }"))
	s.In(facts.FunctionScope, s.span("() {", "body }"), ring, func() { s.use(facts.Read, "body") })
	f := s.File()
	require.NoError(t, factstest.Check(f, len(s.text)))
	assert.Equal(t, []string{"ring", "bell", "member"}, []string{f.Defs[0].Name, f.Defs[1].Name, f.Defs[2].Name})
	for i := range f.Defs {
		if body := f.Defs[i].Body; body != 0 {
			assert.Equal(t, facts.DefID(i), f.Scopes[body].Owner, f.Defs[i].Name)
		}
	}
	assert.Equal(t, facts.DefID(1), f.Defs[2].Parent)
	assert.Equal(t, facts.TypeScope, f.Scopes[f.Exprs[f.Defs[2].Type].Scope].Kind)
	assert.Equal(t, facts.FunctionScope, f.Scopes[f.Uses[0].Scope].Kind)
}

func TestLookingUpWhileBuilding(t *testing.T) {
	s := newSketch("outer block { inner }")
	outer := s.def(facts.Variable, "outer", s.at("outer"))
	assert.Equal(t, outer, s.Defined(0, "outer"))
	assert.Equal(t, facts.NoDef, s.Defined(0, "inner"))
	s.In(facts.BlockScope, s.span("{ inner", "inner }"), facts.NoDef, func() {
		inner := s.def(facts.Variable, "inner", s.at("inner"))
		assert.Equal(t, inner, s.Known("inner"))
		assert.Equal(t, outer, s.Known("outer"), "through the block")
		assert.Equal(t, s.Scope(), s.Enclosing(facts.BlockScope, facts.FunctionScope))
		assert.Zero(t, s.Enclosing(facts.FunctionScope))
		again := s.def(facts.Variable, "inner", s.at("inner"))
		assert.NotEqual(t, inner, again)
		assert.Equal(t, inner, s.Known("inner"), "the first of a name is meant")
	})
	s.In(facts.FunctionScope, s.span("{ inner", "inner }"), facts.NoDef, func() {
		assert.Equal(t, facts.NoDef, s.Known("outer"), "not through a function")
		assert.Equal(t, outer, s.Visible("outer"))
		assert.Equal(t, facts.NoDef, s.Visible("nowhere"))
		assert.Equal(t, facts.NoDef, s.Owner(facts.TypeScope))
	})
}

// A scope may be opened before its end is known, and gone back to from elsewhere.
func TestScopesThatAreOpened(t *testing.T) {
	s := newSketch("stage one run two stage2 x")
	stage := s.def(facts.Stage, "one", s.span("stage", "two"))
	scope := s.Open(facts.TypeScope, s.at("one").End, stage)
	inside := s.def(facts.Variable, "two", s.at("two"))
	s.Shut(scope, s.at("two").End)
	assert.Zero(t, s.Scope())
	s.Inner(scope, func() { s.def(facts.Variable, "stage2", s.at("stage2")) })
	f := s.File()
	assert.Equal(t, "one", f.Defs[inside].Container)
	assert.Equal(t, "one.stage2", f.Defs[2].Qualified())
	assert.Equal(t, s.at("two").End, f.Scopes[scope].At.End)
}

func TestSectionsAreInTheScopeAroundThem(t *testing.T) {
	s := newSketch("// top\nclass hut {\n// inside\nx }\n// end")
	class := s.def(facts.Class, "hut", s.span("class", "x }"))
	s.In(facts.TypeScope, s.span("{\n", "x }"), class, func() {})
	for _, title := range []string{"top", "inside", "end"} {
		s.Section(title, s.at(title), s.at("// "+title))
	}
	f := s.File()
	require.NoError(t, factstest.Check(f, len(s.text)))
	in := map[string]facts.DefID{}
	for i := range f.Defs {
		if f.Defs[i].Kind == facts.Section {
			in[f.Defs[i].Name] = f.Defs[i].Parent
		}
	}
	assert.Equal(t, map[string]facts.DefID{"top": facts.NoDef, "inside": 1, "end": facts.NoDef}, in)
}

// The facts of a part in another language are taken in as if they stood there.
func TestEmbeddingAnotherLanguage(t *testing.T) {
	_, inner := hut(t)
	text := "<script>" + hutText + "</script>"
	s := newSketch(text)
	tag := s.def(facts.ID, "script", s.span("<script", "</script"))
	s.In(facts.TypeScope, place.Range{Start: 8, End: uint32(8 + len(hutText))}, tag, func() {
		before := s.Expr(facts.Expr{Kind: facts.Name, Name: "x"})
		s.Embed(inner, 8)
		assert.NotEqual(t, before, s.Expr(facts.Expr{Kind: facts.Name, Name: "y"}))
	})
	f := s.File()
	require.NoError(t, factstest.Check(f, len(text)))
	for i := range f.Defs {
		d := &f.Defs[i]
		assert.Equal(t, d.Name, string(d.At.In([]byte(text))), "it is where it stands")
	}
	u, ok := f.UseAt(strings.Index(text, "inner"))
	assert.True(t, ok)
	assert.Equal(t, facts.BlockScope, f.Scopes[u.Scope].Kind)
	around := f.Around(strings.Index(text, "times2"))
	var all []string
	for _, id := range around {
		all = append(all, f.Defs[id].Name)
	}
	assert.Equal(t, []string{"script", "hut", "ring"}, all)
}

// Expressions that would be as many as the square of a text are cut off.
func TestTooManyExpressions(t *testing.T) {
	s := newSketch("tiny")
	last := facts.NoExpr
	for range 5000 {
		if last = s.Expr(facts.Expr{Kind: facts.Name, Name: "x"}); last == facts.NoExpr {
			break
		}
	}
	assert.Equal(t, facts.NoExpr, last)
}

func TestCallsAndWhatTakesThem(t *testing.T) {
	s := newSketch("f(a, b)")
	call := s.Expr(facts.Expr{Kind: facts.CallOf, Args: []facts.ExprID{1, 1}})
	s.CallWith("f", s.at("f"), facts.NoExpr, call)
	s.Call("a", s.at("a"), facts.NoExpr, 0)
	f := s.File()
	assert.Equal(t, []int{3, 1}, []int{f.Uses[0].Arguments, f.Uses[1].Arguments})
	for _, c := range []struct {
		parameters, arguments int
		variadic, takes       bool
	}{{0, 3, false, true}, {3, 0, false, true}, {3, 3, false, true}, {3, 2, false, false}, {3, 4, false, false}, {3, 2, true, true}, {3, 9, true, true}, {3, 1, true, false}} {
		d := facts.Def{Parameters: c.parameters, Variadic: c.variadic}
		assert.Equal(t, c.takes, d.Takes(c.arguments), "%+v", c)
	}
}

func TestSymbolsOfAFile(t *testing.T) {
	s := newSketch("import os; def ring; _ = label: echo2 fn(p) { local }")
	s.def(facts.Import, "os", s.at("os"))
	s.def(facts.Function, "ring", s.at("ring"))
	s.def(facts.Variable, "_", s.at("_"))
	s.def(facts.Label, "label", s.at("label"))
	echo := s.def(facts.Type, "echo2", s.at("echo2"))
	s.At(echo).Echo = true
	fn := s.def(facts.Function, "fn", s.at("fn"))
	s.In(facts.FunctionScope, s.span("(p)", "local }"), fn, func() {
		s.def(facts.Parameter, "p", s.at("p)"))
		s.def(facts.Variable, "local", s.at("local"))
	})
	f := s.File()
	var symbols []string
	for _, id := range f.Symbols() {
		symbols = append(symbols, f.Defs[id].Name)
	}
	assert.Equal(t, []string{"ring", "fn"}, symbols)
}

func TestModuleNames(t *testing.T) {
	for path, want := range map[string][2]string{
		"./hut": {"hut", "hut"}, "../a/hut.bell.js": {"hut", "js"}, "tarn.gateway": {"tarn", "gateway"}, `a\b.php`: {"b", "php"}, "": {"", ""},
	} {
		i := facts.Imported{Path: path}
		file, last := i.ModuleNames()
		assert.Equal(t, want, [2]string{file, last}, path)
	}
}

// Every kind has a name of its own, and is at most one of a type, a space, a value and what is called.
func TestKinds(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range facts.Kinds() {
		assert.True(t, k.Valid())
		assert.False(t, seen[k.String()], k.String())
		seen[k.String()] = true
		n := 0
		for _, is := range []bool{k.IsType(), k.IsSpace(), k.IsValue(), k.IsCallable()} {
			if is {
				n++
			}
		}
		assert.LessOrEqual(t, n, 1, k.String())
	}
	assert.True(t, seen["enum member"] && seen["block"])
	assert.False(t, facts.Kind(200).Valid())
}
