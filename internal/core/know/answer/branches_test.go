package answer_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace/workspacetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drawn writes a tree as lines, opened so many levels deep.
func drawn(branches []answer.Branch, depth int, indent string) (lines []string) {
	group := ""
	for _, b := range branches {
		if b.Group != group {
			group = b.Group
			lines = append(lines, "# "+group)
		}
		line := fmt.Sprintf("%s%s: %s %d", indent, b.Role, b.Text, b.Line)
		for _, mark := range []struct {
			is   bool
			what string
		}{{b.Present, "present"}, {b.Outside, "outside"}, {b.Again, "again"}, {b.Why != "", b.Why}} {
			if mark.is {
				line += ", " + mark.what
			}
		}
		lines = append(lines, line)
		if depth > 1 && b.Grow != nil {
			lines = append(lines, drawn(b.Grow(context.Background()), depth-1, indent+"  ")...)
		}
	}
	return lines
}

// tree is what a tree of the name at the mark | in a file shows.
func tree(t *testing.T, kind answer.Tree, depth int, files map[string]string) string {
	t.Helper()
	at, offset := "", 0
	plain := map[string]string{}
	for p, code := range files {
		if i := strings.Index(code, "|"); i >= 0 {
			at, offset, code = p, i, code[:i]+code[i+1:]
		}
		plain[p] = code
	}
	_, first := workspacetest.Open(t, plain).Answers.Branches(context.Background(), kind, at, offset)
	return strings.Join(drawn(first, depth, ""), "\n")
}

func TestFamilies(t *testing.T) {
	assert.Equal(t, `# derived from
class: class Device(Thing): pass 2
  class: class Thing: pass 1
# this type
class: class Radio(Device): pass 3, present
# derived from it
class: class Relay(Radio): pass 4
  class: class Far(Relay): pass 6
# derived from the same
class: class Sensor(Device): pass 5, as Device`, tree(t, answer.Kin, 2, map[string]string{
		"a.py": "from b import Thing\nclass Device(Thing): pass\nclass |Radio(Device): pass\nclass Relay(Radio): pass\nclass Sensor(Device): pass\nclass Far(Relay): pass\n", "b.py": "class Thing: pass\n",
	}))
}

func TestFamiliesOfMethods(t *testing.T) {
	assert.Equal(t, `# overrides or implements
method: void ring(); 2
# this method
method: public void ring() {} 2, present
# the same in other types
method: public void ring() {} 5, as Bell.ring`, tree(t, answer.Kin, 2, map[string]string{
		"Bell.java": "interface Bell {\n  void ring();\n}\n", "Hut.java": "class Hut implements Bell {\n  public void |ring() {}\n}\nclass Post implements Bell {\n  public void ring() {}\n}\n",
	}))
}

// A supertype whose source is not there is named where it is said.
func TestAnUnknownSupertypeIsOutside(t *testing.T) {
	assert.Equal(t, `# derived from
outside: Screen 2, outside, named here, defined outside
# this type
class: export class Board extends Screen { 2, present`, tree(t, answer.Kin, 2, map[string]string{
		"board.ts": "import { Screen } from 'somewhere'\nexport class |Board extends Screen {\n}\n",
	}))
}

func TestCallsLevelByLevel(t *testing.T) {
	files := map[string]string{"a.c": "int |read(int n) {\n  return n > 9 ? read(n - 1) : n;\n}\nint measure(void) { return read(1) + read(2); }\nint report(void) { return measure(); }\nint main(void) { return report(); }\n"}
	assert.Equal(t, `function: read 2, again
  at: return n > 9 ? read(n - 1) : n; 2
function: measure 4
  at: int measure(void) { return read(1) + read(2); } 4
  at: int measure(void) { return read(1) + read(2); } 4
  function: report 5
    at: int report(void) { return measure(); } 5
    function: main 6`, tree(t, answer.Incoming, 3, files))
	files["a.c"] = strings.Replace(strings.Replace(files["a.c"], "|", "", 1), "int report", "int |report", 1)
	assert.Equal(t, `function: measure 4
  at: int report(void) { return measure(); } 5
  function: read 1
    at: int measure(void) { return read(1) + read(2); } 4
    at: int measure(void) { return read(1) + read(2); } 4
    function: read 1, again`, tree(t, answer.Outgoing, 3, files))
}

func TestValuesStepByStep(t *testing.T) {
	files := map[string]string{
		"hut.ts": "export function depth(): number {\n  return measured()\n}\nfunction measured(): number {\n  return 3\n}\n",
		"a.ts":   "import { depth } from './hut'\n\nexport function estimate(snow: number): number {\n  const |risk = snow * 2\n  return risk\n}\n\nexport function show() {\n  const now = estimate(depth())\n  console.log(now)\n}\n",
	}
	assert.Equal(t, `# where the value comes from
initial: const risk = snow * 2 4
  parameter: snow 4
    passed: const now = estimate(depth()) 9
      function: depth 9
        result: return measured() 2
# where it goes to
result: return risk 5
  call: const now = estimate(depth()) 9
    constant: now 9
      passed on: console.log(now) 10`, tree(t, answer.Flows, 5, files))
}

func TestTreesOfNothing(t *testing.T) {
	for _, kind := range []answer.Tree{answer.Kin, answer.Incoming, answer.Outgoing, answer.Flows} {
		w := workspacetest.Open(t, map[string]string{"a.go": "package a\n\n// a b c\n"})
		_, first := w.Answers.Branches(context.Background(), kind, "a.go", 14)
		require.Empty(t, first)
	}
}

// What is given to several at once goes to each in its place, and each field of a literal has its own value.
func TestValuesOfSeveral(t *testing.T) {
	code := `package hut

var snow, rain = 3, 4

func two(a, b int) (int, error) {
	if a > b {
		return a, nil
	}
	return swap(b, snow)
}

func swap(x, y int) (int, error) { return y, nil }

type hut struct{ timeout, depth int }

func made(timeout, deep int) hut {
	n, err := two(timeout, deep)
	_ = err
	return hut{
		timeout: timeout,
		depth:   deep + n,
	}
}
`
	at := func(name string) map[string]string {
		return map[string]string{"go.mod": "module hut\n", "hut.go": strings.Replace(code, name, "|"+name, 1)}
	}
	assert.Equal(t, `# where the value comes from
set: timeout: timeout, 20
  parameter: timeout 20`, tree(t, answer.Flows, 2, at("timeout, depth int }")))
	given, _, _ := strings.Cut(tree(t, answer.Flows, 6, at("n, err :=")), "# where it goes to")
	assert.Equal(t, `# where the value comes from
initial: n, err := two(timeout, deep) 17
  function: two 17
    result: return a, nil 7
      parameter: a 7
        passed: n, err := two(timeout, deep) 17
          parameter: timeout 17
    result: return swap(b, snow) 9
      function: swap 9
        result: func swap(x, y int) (int, error) { return y, nil } 12
          parameter: y 12
`, given)
}
