package answer_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace/workspacetest"
)

func TestCallAround(t *testing.T) {
	files := map[string]string{
		"a.go":   "package a\n\ntype R struct{}\n\nfunc (r *R) Assign(c string, valleys ...int) {}\n\nfunc pick[T any](x T, f func(a, b int) int) T { return x }\n\nfunc use(r *R) {\n\tr.Assign(«one», «two», 3, «four»)\n\tpick(«x», «f»)\n\tprintln(«p»)\n}\n",
		"a.py":   "class Hut:\n    def open(self, key, door=(1, 2)): pass\n\ndef ring(*bells): pass\n\ndef use(h):\n    Hut().open(«key», «door»)\n    ring(1, «bell»)\n",
		"A.java": "class A {\n  void send(java.util.Map<String, Integer> m, int n) {}\n  void use() { send(null, «n»); }\n}\n",
		"a.ts":   "export function draw(rows: number[], paint?: (x: number) => void): void {}\ndraw([1, 2], «paint»)\n",
	}
	want := map[string]string{
		"one": "c string", "two": "valleys ...int", "four": "valleys ...int", "x": "x T", "f": "f func(a, b int) int", "p": "",
		"key": "key", "door": "door=(1, 2)", "bell": "*bells", "n": "int n", "paint": "paint?: (x: number) => void",
	}
	plain := map[string]string{}
	for name, body := range files {
		plain[name] = strings.NewReplacer("«", "", "»", "").Replace(body)
	}
	ws := workspacetest.Open(t, plain)
	seen := 0
	for name, body := range files {
		f, err := ws.Code.Load(context.Background(), name)
		require.NoError(t, err)
		for rest, gone := body, 0; ; {
			i := strings.Index(rest, "«")
			if i < 0 {
				break
			}
			word := rest[i+len("«") : strings.Index(rest, "»")]
			offset := gone + i
			call, ok := ws.Answers.CallAround(context.Background(), f, offset)
			assert.Equal(t, want[word] != "", ok, word)
			assert.Equal(t, want[word], call.Parameter, word)
			seen++
			end := strings.Index(rest, "»") + len("»")
			gone += end - len("«»")
			rest = rest[end:]
		}
	}
	assert.Equal(t, len(want), seen)
}

func TestSiblings(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{
		"main.go": "package main\n", "dispatch/roster.go": "package dispatch\n\ntype Roster struct{ name string }\n\nfunc (r *Roster) Assign() {}\n\nfunc (r *Roster) Free() {}\n\nfunc label() {}\n",
		"dispatch/store.go": "package dispatch\n", "dispatch/deep/x.py": "class A:\n    def b(self): pass\n    def c(self): pass\n", ".gitignore": "left.log\n", "left.log": "",
	})
	names := func(file string, offset string, step int) string {
		f, err := ws.Code.Load(context.Background(), file)
		require.NoError(t, err)
		at := strings.Index(string(f.Text.Bytes()), offset)
		steps := ws.Answers.Steps(file, codebase.Crumbs(f, at))
		if step < 0 {
			step += len(steps)
		}
		all, here := ws.Answers.Siblings(f, steps, step)
		var out []string
		for i, s := range all {
			name := s.Name
			if i == here {
				name = "[" + name + "]"
			}
			out = append(out, name)
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "dispatch .gitignore main.go", names("dispatch/roster.go", "package", 0))
	assert.Equal(t, "[dispatch] .gitignore main.go", names("dispatch/roster.go", "package", 1))
	assert.Equal(t, "deep [roster.go] store.go", names("dispatch/roster.go", "package", 2))
	assert.Equal(t, "name [Assign] Free", names("dispatch/roster.go", "Assign", -1))
	assert.Equal(t, "Roster [label]", names("dispatch/roster.go", "label()", -1))
	assert.Equal(t, "b [c]", names("dispatch/deep/x.py", "c(self)", -1))
	assert.Equal(t, "name Assign Free", names("dispatch/roster.go", "Roster struct", 4), "what is inside the type")
	assert.Equal(t, "Roster Assign Free label", names("dispatch/roster.go", "package", 3), "what is inside the file")
	var steps []string
	for _, s := range ws.Answers.FolderSteps("dispatch/deep") {
		steps = append(steps, s.Path)
	}
	assert.Equal(t, []string{".", "dispatch", "dispatch/deep"}, steps)
}
