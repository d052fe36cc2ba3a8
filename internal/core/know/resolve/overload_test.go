package resolve_test

import (
	"context"
	"strings"
	"testing"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace/workspacetest"

	"github.com/stretchr/testify/assert"
)

// References of one overload are not those of another.
func TestReferencesOfOverloads(t *testing.T) {
	text := `struct A {}; struct B {};
struct V {
  virtual bool visit(const A& a) { return true; }
  virtual bool visit(const B& b) { return true; }
  bool go(const A& a);
  bool go(const B& b);
};
bool V::go(const A& a) { return true; }
bool V::go(const B& b) { return true; }
void f(V* v) {
  A a; B b;
  v->visit(a);
  v->visit(b);
  v->go(a);
  v->go(b);
}
`
	w := workspacetest.Open(t, map[string]string{"a.cc": text})
	for def, use := range map[string]string{"visit(const A& a) { ": "visit(a)", "visit(const B& b) { ": "visit(b)", "go(const A& a) { ": "go(a)", "go(const B& b) { ": "go(b)"} {
		_, all := w.Answers.All(context.Background(), answer.ToReferences.On("a.cc", strings.Index(text, def)))
		var uses []string
		for _, a := range all {
			if at := int(a.At.Start); at > strings.Index(text, "void f") {
				uses = append(uses, text[at:at+len(use)])
			}
		}
		assert.Equal(t, []string{use}, uses, def)
	}
}

// A declaration leads to where it is written out, and that to the declaration.
func TestToAndFroBetweenDeclarationAndBody(t *testing.T) {
	header, source := "extern int deep;\nint lift(int n);\nstruct Hut { void open(int n); };\n", "#include \"hut.hpp\"\nint deep = 3;\nint lift(int n) { return n; }\nvoid Hut::open(int n) {}\n"
	w := workspacetest.Open(t, map[string]string{"hut.hpp": header, "hut.cc": source})
	at := func(path, text, name string) (places []string) {
		res, all := w.Answers.All(context.Background(), answer.ToDefinition.On(path, strings.Index(text, name)))
		assert.True(t, res.Here)
		for _, a := range answer.Elsewhere(all, path, res.At) {
			places = append(places, a.Place().String())
		}
		return places
	}
	assert.Equal(t, []string{"hut.cc:3:5", "hut.hpp:2:5"}, at("hut.hpp", header, "lift"))
	assert.Equal(t, []string{"hut.hpp:2:5", "hut.cc:3:5"}, at("hut.cc", source, "lift"))
	assert.Equal(t, []string{"hut.cc:4:11", "hut.hpp:3:19"}, at("hut.hpp", header, "open"))
	assert.Equal(t, []string{"hut.cc:2:5", "hut.hpp:1:12"}, at("hut.hpp", header, "deep"))
	_, all := w.Answers.All(context.Background(), answer.ToDefinition.On("hut.cc", strings.Index(source, "lift")))
	assert.Equal(t, "hut.cc:3:5", all[0].Place().String(), "asked about by a script, the definition comes first")
}
