package fold_test

import (
	"context"
	"errors"
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
)

// In the samples, a line that ends with «n kind» begins a region that hides n
// lines; every other line begins none.
var samples = map[string]string{
	"a.go": `package a

import ( «3 block»
	"fmt"
	"os"
)

// Team is «1 comment»
// a team.
type Team struct { «2 type»
	Name string
}

// ---- work ---- «11 section»

func (t *Team) Go( «1 block»
	where string,
) error { «7 body»
	if where == "" { «1 block»
		return nil
	} else { «2 block»
		fmt.Println(where)
	}
	return os.Chdir(where)
}
`,
	"a.py": `import os «2 imports»
import sys
import json

class Hut: «8 type»
    """What a hut «2 comment»
    is.
    """

    def open(self, «3 block»
             key): «2 body»
        for k in key: «1 block»
            print(k)

text = """
  deep
"""
`,
	"a.ts": `import { a } from './a';

/** The board. «2 comment»
 *  It shows things.
 */
export class Board { «8 type»
  rows = [ «3 block»
    1,
    2,
  ];
  draw(): number { «2 body»
    return this.rows.length;
  }
}
`,
	"A.java": `package a;

class A { «10 type»
  int n;

  A() { «2 body»
    n = 1;
  }
  void run() { «3 body»
    // one «1 comment»
    // two
  }
}
`,
	"a.c": `#include <a.h>

static int read(struct probe *p) «8 body»
{ «7 block»
#ifdef FAST
	return 0;
#endif
	while (p->depth) { «2 block»
		p->depth--;
	}
}
`,
	"a.yaml": `huts: «2 block»
  alpha: 1
  beta: 2
teams: 2
`,
	"broken.go": `package a

func a( { «2 block»
	if x { «1 block»
		y(
`,
	"a.txt": `list «3 block»
  one
  two
end
`,
}

func regions(t *testing.T, file, body string) (*text.Document, []fold.Region) {
	doc := text.NewDocument([]byte(body))
	l := catalog.Set().Of(file)
	runs := catalog.Set().Signs(file).Runs(doc.Bytes())
	if l == nil {
		return doc, fold.Regions(catalog.Set().Signs(file), doc, nil, runs)
	}
	f, err := l.Facts(context.Background(), doc.Bytes())
	if errors.Is(err, syntax.ErrTooDeep) {
		return doc, fold.Regions(catalog.Set().Signs(file), doc, nil, runs)
	}
	require.NoError(t, err)
	return doc, fold.Regions(catalog.Set().Signs(file), doc, f, runs)
}

var kinds = map[fold.Kind]string{fold.Body: "body", fold.Type: "type", fold.Section: "section", fold.Comment: "comment", fold.Imports: "imports", fold.Block: "block"}

// bare takes the notes from a sample.
func bare(sample string) string {
	lines := strings.Split(sample, "\n")
	for i, l := range lines {
		lines[i], _, _ = strings.Cut(l, " «")
	}
	return strings.Join(lines, "\n")
}

func TestRegions(t *testing.T) {
	for file, want := range samples {
		doc, all := regions(t, file, bare(want))
		byLine := map[int]fold.Region{}
		for _, r := range all {
			byLine[r.Line] = r
		}
		var got []string
		for n := 1; n <= doc.Lines(); n++ {
			line := string(doc.Line(n))
			if r, ok := byLine[n]; ok {
				line += fmt.Sprintf(" «%d %s»", r.Hides(), kinds[r.Kind])
			}
			got = append(got, line)
		}
		assert.Equal(t, want, strings.Join(got, "\n")+"\n", file)
	}
}

// shown are the lines that are left to see.
func shown(doc *text.Document, v *fold.View) string {
	var lines []string
	for row := range v.Rows() {
		lines = append(lines, strings.TrimSpace(string(doc.Line(v.Line(row)))))
	}
	return strings.Join(lines, "|")
}

func TestWhatIsLeftToSee(t *testing.T) {
	for _, c := range []struct {
		what, file string
		fold       func(s *fold.Set)
		want       string
	}{
		{"bodies", "A.java", func(s *fold.Set) { s.FoldIf(fold.Bodies) }, "package a;||class A {|int n;||A() {|void run() {|}"},
		{"bodies", "a.go", func(s *fold.Set) { s.FoldIf(fold.Bodies) }, `package a||import (|"fmt"|"os"|)||// Team is|// a team.|type Team struct {|Name string|}||// ---- work ----||func (t *Team) Go(|where string,|) error {`},
		{"everything", "a.go", func(s *fold.Set) { s.FoldIf(fold.All) }, "package a||import (||// Team is|type Team struct {||// ---- work ----"},
		{"comments", "A.java", func(s *fold.Set) { s.FoldIf(fold.Comments) }, "package a;||class A {|int n;||A() {|n = 1;|}|void run() {|// one|}|}"},
		{"the first level", "a.ts", func(s *fold.Set) { s.FoldIf(fold.Level(1)) }, "import { a } from './a';||/** The board.|*  It shows things.|*/|export class Board {"},
		{"the second level", "a.c", func(s *fold.Set) { s.FoldIf(fold.Level(2)) }, "#include <a.h>||static int read(struct probe *p)|{"},
		{"one body", "a.py", func(s *fold.Set) { s.Toggle(11) }, `import os|import sys|import json||class Hut:|"""What a hut|is.|"""||def open(self,|key):||text = """|deep|"""`},
		{"around that", "a.yaml", func(s *fold.Set) { s.FoldAround(2) }, "huts:|teams: 2"},
	} {
		doc, all := regions(t, c.file, bare(samples[c.file]))
		s := fold.NewSet(all)
		c.fold(s)
		assert.Equal(t, c.want, shown(doc, fold.NewView(doc.Lines(), s, 0, 0)), "%s of %s", c.what, c.file)
	}
}

func TestFoldingHereAndOutward(t *testing.T) {
	doc, all := regions(t, "A.java", bare(samples["A.java"]))
	s := fold.NewSet(all)
	r, folded, ok := s.Toggle(7)
	assert.True(t, ok && folded)
	assert.Equal(t, 6, r.Line)
	_, isFolded := s.Folded(6)
	assert.True(t, isFolded && s.Any() && s.Begins(6))
	r, ok = s.FoldAround(6)
	assert.True(t, ok)
	assert.Equal(t, 3, r.Line)
	assert.True(t, s.Reveal(7), "both are opened")
	assert.False(t, s.Any())
	_, _, ok = s.Toggle(1)
	assert.False(t, ok, "nothing is around the package clause")

	v := fold.NewView(doc.Lines(), s, 6, 8)
	assert.Equal(t, "A() {|n = 1;|}", shown(doc, v), "one method alone")
	assert.True(t, v.Hides(3) && v.Hides(9) && !v.Hides(7))
	assert.Equal(t, 0, v.Row(1))
	assert.Equal(t, 2, v.Row(12))
}

func TestRowsAndLinesAreEachOthersReverse(t *testing.T) {
	doc, all := regions(t, "a.go", bare(samples["a.go"]))
	s := fold.NewSet(all)
	for level := 1; level < 5; level++ {
		s.FoldIf(fold.Level(level))
		v := fold.NewView(doc.Lines(), s, 0, 0)
		for row := range v.Rows() {
			line := v.Line(row)
			assert.Equal(t, row, v.Row(line))
			assert.False(t, v.Hides(line))
		}
	}
	v := fold.NewView(10, nil, 0, 0)
	assert.Equal(t, 10, v.Rows())
	assert.Equal(t, 7, v.Line(6))
	assert.Equal(t, 10, v.Line(99))
}

func TestFoldsAreFoundAgain(t *testing.T) {
	body := bare(samples["A.java"])
	doc, all := regions(t, "A.java", body)
	s := fold.NewSet(all)
	s.Toggle(7)
	marks := s.Marks(doc)
	require.Equal(t, []fold.Mark{{Line: 6, Text: "A() {"}}, marks)

	later, all := regions(t, "A.java", "// new\n\n"+strings.Replace(body, "package a;", "package b;\n", 1))
	s = fold.NewSet(all)
	s.Restore(append(marks, fold.Mark{Line: 2, Text: "gone {"}), later)
	_, ok := s.Folded(9)
	assert.True(t, ok)
	assert.Len(t, s.Marks(later), 1)
}

// Whatever the text is, folding all of it leaves something to see.
// As one types, folds stay where they are, until what can be folded is known anew.
func TestFoldsMoveWithWhatIsTyped(t *testing.T) {
	for seed := range int64(200) {
		r := rand.New(rand.NewSource(seed))
		file := []string{"a.go", "A.java", "a.ts", "a.py"}[r.Intn(4)]
		doc, all := regions(t, file, bare(samples[file]))
		s := fold.NewSet(all)
		s.FoldIf(func(fold.Region) bool { return r.Intn(2) == 0 })
		var edits []text.Edit
		for line := 1 + r.Intn(4); line < doc.Lines(); line += 2 + r.Intn(3) { // whole lines come in between
			at := doc.Offset(line, 1)
			edits = append(edits, text.Edit{Start: at, End: at, New: []byte(strings.Repeat("// new\n", 1+r.Intn(3)))})
		}
		later := doc.Apply(edits)
		now := s.Edited(doc, edits)
		at := 0
		for _, m := range s.Marks(doc) {
			marks := now.Marks(later)
			require.Less(t, at, len(marks), "%s, seed %d", file, seed)
			require.Equal(t, m.Text, marks[at].Text, "%s, seed %d", file, seed)
			before, _ := s.Folded(m.Line)
			after, _ := now.Folded(marks[at].Line)
			require.Equal(t, string(doc.Line(before.Last)), string(later.Line(after.Last)), "it ends with the same line; seed %d", seed)
			at++
		}
		back := now.Edited(later, doc.Inverse(edits))
		require.Equal(t, s.Marks(doc), back.Marks(doc), "seed %d", seed)
	}
	doc, all := regions(t, "A.java", bare(samples["A.java"]))
	s := fold.NewSet(all)
	s.FoldIf(fold.Bodies)
	gone := s.Edited(doc, []text.Edit{{Start: doc.Offset(6, 1), End: doc.Offset(9, 1)}})
	assert.Len(t, gone.Marks(doc), 1, "the body that was deleted is folded no more")
}

func TestHostileText(t *testing.T) {
	for _, body := range []string{"", "\n\n", strings.Repeat("{", 10000), strings.Repeat(" ", 10000), "\t\t}\n}\n\t)\n", "/*", "'''", strings.Repeat("{\n", 5000)} {
		for _, file := range []string{"a.go", "a.py", "a.c", "a.txt"} {
			doc, all := regions(t, file, body)
			s := fold.NewSet(all)
			s.FoldIf(fold.All)
			assert.Positive(t, fold.NewView(doc.Lines(), s, 0, 0).Rows())
		}
	}
	var deep strings.Builder
	for i := range 3000 {
		deep.WriteString(strings.Repeat(" ", i) + "x\n")
	}
	_, all := regions(t, "a.txt", deep.String())
	assert.Len(t, all, 2999)
}

// Regions lie inside each other or apart, also where a template, a list of
// parameters or a long comment reaches into what follows.
func TestRegionsAreNested(t *testing.T) {
	for file, body := range map[string]string{
		"a.cpp": "template<\n  typename A,\n  typename B> class Hut\n{\n  int n;\n};\n",
		"a.c":   "int\nring(bell)\n  int bell; {\n  return 1;\n}\n/* one\n * ---- two ---- */\nint b(void)\n{\n  return 2;\n}\n",
		"a.mk":  "all:\n\techo\n# ---- more ----\n\techo\nnext:\n\techo\n",
	} {
		_, all := regions(t, file, body)
		assert.NotEmpty(t, all, file)
		for i, a := range all {
			for _, b := range all[i+1:] {
				assert.True(t, b.Line > a.Last || b.Last <= a.Last, "%s: %v and %v", file, a, b)
			}
		}
	}
}
