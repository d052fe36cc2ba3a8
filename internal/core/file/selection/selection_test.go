package selection_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/selection"
	"rooktrail/internal/core/file/text"
)

func ground(t *testing.T, file, body string) *selection.Ground {
	g := &selection.Ground{Doc: text.NewDocument([]byte(body))}
	g.Runs = catalog.Set().Signs(file).Runs(g.Doc.Bytes())
	if l := catalog.Set().Of(file); l != nil {
		var err error
		g.Keywords = l.Keywords
		g.Facts, err = l.Facts(context.Background(), g.Doc.Bytes())
		require.NoError(t, err)
		if l.Pieces != nil {
			g.Pieces, err = l.Pieces(context.Background(), g.Doc.Bytes())
			require.NoError(t, err)
		}
	}
	g.Regions = fold.Regions(catalog.Set().Signs(file), g.Doc, g.Facts, g.Runs)
	return g
}

// steps grows from a caret, marked ¦ in the text, up to the whole, each piece
// written on one line.
func steps(t *testing.T, file, marked string) (all []string) {
	at := strings.Index(marked, "¦")
	require.GreaterOrEqual(t, at, 0)
	body := strings.Replace(marked, "¦", "", 1)
	g := ground(t, file, body)
	for sel := (place.Range{Start: uint32(at), End: uint32(at)}); ; {
		grown, ok := g.Grow(sel)
		if !ok {
			return all
		}
		require.True(t, grown.Covers(sel) && grown.Len() > sel.Len())
		sel = grown
		all = append(all, strings.Join(strings.Fields(string(sel.In([]byte(body)))), " "))
	}
}

func TestGrowing(t *testing.T) {
	for _, c := range []struct {
		file, text string
		want       []string // the first steps
	}{
		{"a.go", "package a\n\n// F adds.\nfunc F(a, b int) int {\n\tg(a)\n\n\treturn a + b¦*2\n}\n", []string{
			"b", "b*2", "a + b*2", "return a + b*2", "g(a) return a + b*2", "{ g(a) return a + b*2 }",
			"func F(a, b int) int { g(a) return a + b*2 }", "// F adds. func F(a, b int) int { g(a) return a + b*2 }"}},
		{"a.go", "package a\n\nfunc F() { r.free(c.Val¦ley, 2) }\n", []string{"Valley", "c.Valley", "c.Valley, 2", "(c.Valley, 2)", "r.free(c.Valley, 2)"}},
		{"a.py", "class Hut:\n    def open(self):\n        if ready(self.do¦or):\n            ring()\n        return 1\n", []string{
			"door", "self.door", "(self.door)", "ready(self.door)", "if ready(self.door):", "if ready(self.door): ring()", "if ready(self.door): ring() return 1",
			"def open(self): if ready(self.door): ring() return 1"}},
		{"a.ts", "const a = 1;\nfunction f() {\n  return list.map(x => x.na¦me);\n}\n", []string{
			"name", "x.name", "x => x.name", "(x => x.name)", "list.map(x => x.name)", "return list.map(x => x.name)", "return list.map(x => x.name);", "{ return list.map(x => x.name); }",
			"function f() { return list.map(x => x.name); }"}},
		{"A.java", "class A {\n  void run(int n) {\n    if (n > 1¦0) {\n      stop();\n    }\n  }\n}\n", []string{
			"10", "n > 10", "(n > 10)", "if (n > 10) { stop(); }", "{ if (n > 10) { stop(); } }", "void run(int n) { if (n > 10) { stop(); } }"}},
		{"a.c", "static int read(struct probe *p)\n{\n\tp->de¦pth = 2;\n\treturn 0;\n}\n", []string{
			"depth", "p->depth", "p->depth = 2", "p->depth = 2;", "p->depth = 2; return 0;", "{ p->depth = 2; return 0; }"}},
		{"a.go", "package a\n\nvar s = \"two wo¦rds\"\n", []string{"words", "two words", `"two words"`, `s = "two words"`}},
		{"a.go", "package a\n\nfunc F( {\n\tg(a, b¦ + 1\n}\n", []string{"b", "b + 1"}},
		{"a.txt", "one\n\ntwo (th¦ree, four)\nfive\n\nsix\n", []string{"three", "three, four", "(three, four)", "two (three, four)", "two (three, four) five"}},
		{"a.unknown", "¦", nil},
	} {
		got := steps(t, c.file, c.text)
		if len(got) < len(c.want) {
			assert.Equal(t, c.want, got, c.file)
			continue
		}
		assert.Equal(t, c.want, got[:len(c.want)], "%s: %q", c.file, got)
		if len(got) > 0 {
			whole := strings.Fields(strings.Replace(c.text, "¦", "", 1))
			assert.Equal(t, strings.Join(whole, " "), got[len(got)-1], "the whole comes last")
		}
	}
}

func TestOtherEnd(t *testing.T) {
	for _, c := range []struct{ file, text, want string }{
		// ¦ is where one starts, and the text is what stands where one arrives.
		{"a.go", "f¦(a[1], \")\", {x: (2)})", ")"},
		{"a.go", "¦f(a[1], \")\", {x: (2)})", ")"},
		{"a.go", "f(a[1], \")\", {x: (2)}¦)", "(a[1], \")\", {x: (2)})"},
		{"a.go", "f(a¦[1], 2)", "], 2)"},
		{"a.go", "if x {\n  y¦\n}", "{\n  y\n}"},
		{"a.go", "// (\nf() ¦}", ""},
		{"a.ts", "draw(a => {¦ return [1]; })", "]; })"},
		{"a.ts", "¦const f = () => `}`; { g() }", ") => `}`; { g() }"},
		{"A.java", "class A ¦{ char c = '}'; void run() {} }", "}"},
		{"A.java", "class A { void run() { /* } */ }¦ }", "{ void run() { /* } */ } }"},
		{"a.c", "int a[] = ¦{1, 2}; // }", "}; // }"},
		{"a.py", "x = f(¦[1, (2)], '(')", "], '(')"},
		{"a.rb", "¦def ring\n  bell\nend\n", "end\n"},
		{"a.rb", "def ring\n  bell\ne¦nd\n", "def ring\n  bell\nend\n"},
		{"a.py", "i¦f x:\n    a()\n    b()\nc()\n", "b()\nc()\n"},
		{"a.html", "<div cl¦ass=\"a\"><div/><div><br></div></div><p>", "</div><p>"},
		{"a.html", "<ul><li>a</li><li>b</¦li></ul>", "<li>b</li></ul>"},
		{"a.html", "<p>¦plain", ""},
	} {
		at := strings.Index(c.text, "¦")
		body := strings.Replace(c.text, "¦", "", 1)
		g := ground(t, c.file, body)
		g.Markup = strings.HasSuffix(c.file, ".html")
		end, ok := g.OtherEnd(at)
		if c.want == "" {
			assert.False(t, ok, c.text)
			continue
		}
		assert.True(t, ok, c.text)
		assert.Equal(t, c.want, body[end:], c.text)
	}
}

// Wherever one starts in whatever text, growing ends with the whole of it.
func FuzzGrow(f *testing.F) {
	f.Add("a.go", "package a\nfunc f() { g(\"x\", 'y') }\n", 12)
	f.Add("a.py", "def f(:\n  '''", 4)
	f.Add("a.c", "}{)(][", 3)
	set := catalog.Set()
	f.Fuzz(func(t *testing.T, file, body string, at int) {
		g := &selection.Ground{Doc: text.NewDocument([]byte(body)), Runs: catalog.Set().Signs(file).Runs([]byte(body))}
		if l := set.Of(file); l != nil && l.Pieces != nil {
			g.Pieces, _ = l.Pieces(context.Background(), g.Doc.Bytes())
		}
		g.Regions = fold.Regions(catalog.Set().Signs(file), g.Doc, nil, g.Runs)
		sel := place.Range{Start: uint32(min(max(at, 0), len(g.Doc.Bytes())))}
		sel.End = sel.Start
		for n := 0; ; n++ {
			require.Less(t, n, 10_000)
			grown, ok := g.Grow(sel)
			if !ok {
				require.Equal(t, len(g.Doc.Bytes()), grown.Len())
				return
			}
			require.Greater(t, grown.Len(), sel.Len())
			sel = grown
		}
	})
}

func TestCall(t *testing.T) {
	for _, c := range []struct {
		file, text, name string
		argument         int
	}{
		{"a.go", "r.Assign(¦)", "Assign", 0},
		{"a.go", "f(a, g(b, c), ¦d)", "f", 2},
		{"a.go", "f(a, g(b, ¦c), d)", "g", 1},
		{"a.go", "f([]int{1, ¦2}, \",\", 3)", "f", 0},
		{"a.go", "max[int](1, \"a,b\", (2 + ¦3))", "max", 2},
		{"a.go", "if (a ¦) {}", "", 0},
		{"a.ts", "list.map<string>(x => ¦x)", "map", 0},
		{"a.py", "ring(bell,\n  ¦", "ring", 1},
		{"a.py", "x = (1, ¦2)", "", 0},
		{"a.go", "¦f(a)", "", 0},
	} {
		at := strings.Index(c.text, "¦")
		body := strings.Replace(c.text, "¦", "", 1)
		name, argument, ok := ground(t, c.file, body).Call(at)
		assert.Equal(t, c.name != "", ok, c.text)
		if ok {
			assert.Equal(t, c.name, string(name.In([]byte(body))), c.text)
			assert.Equal(t, c.argument, argument, c.text)
		}
	}
}

// A function is selected with its lines, so that cutting and pasting moves it as it is, and goes on
// growing from there.
func TestAFunctionWithItsLines(t *testing.T) {
	body := "package a\n\nfunc F() {\n\tx, y := 1, 2\n\tg(x, y)\n}\n\ntype T struct {\n\tn int\n}\n"
	g := ground(t, "a.go", body)
	at := strings.Index(body, "y :=")
	var all []string
	for sel := (place.Range{Start: uint32(at), End: uint32(at)}); ; {
		grown, ok := g.Grow(sel)
		if !ok {
			break
		}
		require.Greater(t, grown.Len(), sel.Len())
		sel = grown
		all = append(all, string(sel.In([]byte(body))))
	}
	assert.Equal(t, []string{"y", "x, y := 1, 2", "x, y := 1, 2\n\tg(x, y)", "{\n\tx, y := 1, 2\n\tg(x, y)\n}", "func F() {\n\tx, y := 1, 2\n\tg(x, y)\n}\n", strings.TrimSpace(body), body}, all)

	java := "class A {\n  int n;\n  void run() {\n    stop();\n  }\n  void go() {}\n}\n"
	g = ground(t, "A.java", java)
	sel := place.Range{Start: uint32(strings.Index(java, "void run")), End: uint32(strings.Index(java, "  void go"))}
	grown, ok := g.Grow(place.Range{Start: sel.Start, End: sel.Start + 4})
	for ok && !strings.HasSuffix(string(grown.In([]byte(java))), "}\n") {
		grown, ok = g.Grow(grown)
	}
	assert.Equal(t, "  void run() {\n    stop();\n  }\n", string(grown.In([]byte(java))))
}
