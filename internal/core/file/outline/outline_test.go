package outline_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/outline"
)

var samples = map[string]string{
	"a.go":   "package a\n\nimport \"fmt\"\n\n// ---- teams ----\n\ntype Team struct {\n\tName string\n}\n\nfunc (t Team) Go() { fmt.Print(func() int { return 1 }()) }\n\n// ---- huts ----\n\nfunc hut() {}\n",
	"a.py":   "import os\nclass Hut:\n    # --- doors ---\n    def open(self):\n        def inner():\n            pass\n        inner()\n\ndef ring():\n    pass\n",
	"a.ts":   "import { x } from './x';\nexport class Board { rows = 1; draw() { return 1; } }\nexport function start() {}\n",
	"A.java": "import a.B;\nclass A {\n  int n;\n  A() {}\n  void run() { }\n  static class In { void deep() {} }\n}\n",
	"a.c":    "#include <a.h>\nstruct probe { int depth; };\nstatic int read(struct probe *p) { return p->depth; }\n",
	"a.md":   "# One\ntext\n## Two\ntext\n# Three\n",
	"a.yaml": "huts:\n  alpha: 1\nteams: 2\n",
}

func read(t *testing.T, file string) *facts.File {
	f, err := catalog.Set().Of(file).Facts(context.Background(), []byte(samples[file]))
	require.NoError(t, err)
	return f
}

func TestEntries(t *testing.T) {
	for file, want := range map[string]string{
		"a.go":   "import fmt|section teams| struct Team|  field Name| method Go|section huts| function hut",
		"a.py":   "import os|class Hut| section doors|  method open|   function inner|function ring",
		"a.ts":   "import ./x x|class Board| property rows| method draw|function start",
		"A.java": "import a.B|class A| field n| constructor A| method run| class In|  method deep",
		"a.c":    "import a.h|struct probe| field depth|function read",
		"a.md":   "section One| section Two|section Three",
		"a.yaml": "key huts| key alpha|key teams",
	} {
		var got []string
		for _, e := range outline.Entries(read(t, file)) {
			got = append(got, fmt.Sprintf("%s%s %s", strings.Repeat(" ", e.Depth), e.Kind, e.Name))
		}
		assert.Equal(t, want, strings.Join(got, "|"), file)
	}
}

func TestInnermostAndChoices(t *testing.T) {
	all := outline.Entries(read(t, "a.go"))
	name := func(needle string) string {
		i := outline.Innermost(all, strings.Index(samples["a.go"], needle))
		if i < 0 {
			return ""
		}
		return all[i].Name
	}
	assert.Equal(t, "Name", name("string\n}"))
	assert.Equal(t, "Go", name("return 1"))
	assert.Equal(t, "hut", name("{}\n"))
	assert.Equal(t, "", name("package"))
	shown := map[outline.Choice]int{}
	for c := outline.Everything; ; {
		for _, e := range all {
			if c.Holds(e.Kind) {
				shown[c]++
			}
		}
		if c = c.Next(); c == outline.Everything {
			break
		}
	}
	assert.Equal(t, map[outline.Choice]int{outline.Everything: 6, outline.Types: 1, outline.Functions: 2, outline.Values: 1, outline.Sections: 2, outline.Imports: 1}, shown)
}

// hops lists the names that one comes by when hopping through a file.
func hops(f *facts.File, text string, forward bool) string {
	at, names := -1, []string(nil)
	if !forward {
		at = len(text)
	}
	for {
		r, ok := outline.Hop(f, at, forward)
		if !ok {
			return strings.Join(names, " ")
		}
		names = append(names, text[r.Start:r.End])
		at = int(r.Start)
	}
}

func TestHops(t *testing.T) {
	for file, want := range map[string]string{
		"a.go": "teams Team Go huts hut", "a.py": "Hut doors open inner ring", "a.ts": "Board draw start",
		"A.java": "A A run In deep", "a.c": "probe read", "a.md": "One Two Three", "a.yaml": "huts alpha teams",
	} {
		f := read(t, file)
		assert.Equal(t, want, hops(f, samples[file], true), file)
		back := strings.Fields(hops(f, samples[file], false))
		assert.Len(t, back, len(strings.Fields(want)), file)
		assert.Equal(t, strings.Fields(want)[0], back[len(back)-1], file)
	}
}

func TestOutward(t *testing.T) {
	text := samples["A.java"]
	f := read(t, "A.java")
	offset := strings.Index(text, "deep() {}") + len("deep() {")
	var names []string
	for {
		at, ok := outline.Parent(f, offset)
		if !ok {
			break
		}
		names = append(names, text[at.Start:at.End])
		offset = int(at.Start)
	}
	assert.Equal(t, []string{"deep", "In", "A"}, names)
}
