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
