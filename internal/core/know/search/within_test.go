package search_test

import (
	"context"
	"strings"
	"testing"

	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func symbols(w *workspace.Workspace, query string) (found []string) {
	for _, h := range w.Search.Symbols(context.Background(), query, 20) {
		found = append(found, h.Path+" "+h.Qualified())
	}
	return found
}

func TestAFolderInFrontOfASymbol(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"encoding/json/encode.go": "package json\n\nfunc Marshal() {}\n\ntype Decoder struct{}\n\nfunc (d *Decoder) Decode() {}\n",
		"encoding/xml/marshal.go": "package xml\n\nfunc Marshal() {}\n",
		"radio/frame.go":          "package radio\n\nfunc Marshal() {}\n\nfunc jsonMarshaller() {}\n",
		"radio/json.go":           "package radio\n\nfunc Unmarshal() {}\n",
	})
	assert.Equal(t, "encoding/json/encode.go Marshal", symbols(w, "json.Marshal")[0])
	assert.Equal(t, "encoding/json/encode.go Marshal", symbols(w, "marshal json")[0])
	assert.Equal(t, "encoding/json/encode.go Marshal", symbols(w, "json marshal")[0])
	assert.Equal(t, "encoding/xml/marshal.go Marshal", symbols(w, "xml.marsh")[0])
	assert.Equal(t, "radio/json.go Unmarshal", symbols(w, "json.unm")[0], "a file counts as well")
	assert.Equal(t, "encoding/json/encode.go Decoder.Decode", symbols(w, "json.decoder.decode")[0])
	assert.Equal(t, "encoding/json/encode.go Decoder.Decode", symbols(w, "dec.decode")[0])
	assert.Empty(t, symbols(w, "nowhere.Marshal"))
	clock := workspacetest.Open(t, map[string]string{"time/time.go": "package time\n\ntype Time struct{}\n\nfunc (t Time) Sub() {}\n"})
	assert.Equal(t, "time/time.go Time.Sub", symbols(clock, "time.Time.Sub")[0], "a type that is called like its folder")
	assert.NotContains(t, symbols(w, "json.Marshal kind:type"), "encoding/json/encode.go Marshal")
	seen := map[string]bool{}
	for _, s := range symbols(w, "json marshal") {
		assert.False(t, seen[s], "%s twice", s)
		seen[s] = true
	}
}

func TestCodeFromElsewhereComesSecond(t *testing.T) {
	code := "package a\n\nfunc Ring() {}\n"
	w := workspacetest.Open(t, map[string]string{
		"vendor/b.example/a/ring.go": code, "a/testdata/ring.go": code, "deep/in/here/ring.go": code, "z/ring.go": code, "a/ring_test.go": code,
	})
	assert.Equal(t, []string{
		"z/ring.go Ring", "deep/in/here/ring.go Ring", "a/ring_test.go Ring", "a/testdata/ring.go Ring", "vendor/b.example/a/ring.go Ring",
	}, symbols(w, "ring"))
	assert.Equal(t, "z/ring.go", w.Search.Files(context.Background(), "ring.go", 5)[0].Path)
	assert.Equal(t, "vendor/b.example/a/ring.go Ring", symbols(w, "ring in:vendor")[0], "asked for, it is there")
}

func TestWhatIsWrittenOutComesBeforeWhatIsOnlyDeclared(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"src/a.h": "int ring(int hut);\nstruct hut { int ring_count; int struct_size; };\n",
		"src/z.c": "#include \"a.h\"\nint ring(int hut) { return hut; }\n",
		"b.d.ts":  "export declare function blow(n: number): void;\n",
		"c/b.ts":  "export function blow(n: number): void { n; }\n",
		"Gear.go": "package a\n\ntype Gear struct{}\n\nfunc gear() {}\n\nfunc HornBlow() {}\n\nfunc hornBlow() {}\n",
	})
	assert.Equal(t, []string{"src/z.c ring", "src/a.h ring"}, symbols(w, "ring")[:2])
	assert.Equal(t, []string{"c/b.ts blow", "b.d.ts blow"}, symbols(w, "blow")[:2])
	assert.Equal(t, "Gear.go hornBlow", symbols(w, "hornBlow")[0], "as it was typed")
	assert.Equal(t, "Gear.go HornBlow", symbols(w, "HornBlow")[0])

	w = workspacetest.Open(t, map[string]string{
		"gear.h":     "struct gear { void lift(int n); };\n",
		"gear-inl.h": "#include \"gear.h\"\nvoid gear::lift(int n) { n; }\n",
	})
	assert.Equal(t, []string{"gear-inl.h gear.lift", "gear.h gear.lift"}, symbols(w, "gear::lift"), "in whichever file")
}

func TestSymbolsAsTheyAreDeclared(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"src/a.h": "int ring(int hut);\nstruct hut { int ring_count; int struct_size; };\n",
		"src/z.c": "#include \"a.h\"\nint ring(int hut) { return hut; }\n",
		"Gear.go": "package a\n\ntype Gear struct{}\n\nfunc gear() {}\n",
	})
	for query, want := range map[string]string{"struct hut": "src/a.h hut", "type gear": "Gear.go Gear", "class gear": "Gear.go Gear", "func gear": "Gear.go gear", "func ring": "src/z.c ring"} {
		assert.Equal(t, want, symbols(w, query)[0], "%s: as it is declared", query)
	}
	for query, want := range map[string]string{"ring in:z.c": "src/z.c ring", "ring in:a": "src/a.h ring", "ring in:src/z": "src/z.c ring"} {
		assert.Equal(t, []string{want}, symbols(w, query+" kind:function"), "%s: in a file", query)
	}
	require.NoError(t, w.Search.CheckFilter("ring in:z.c"))
	assert.ErrorContains(t, w.Search.CheckFilter("ring in:y.c"), "there is no folder y.c with files, and no such file")
}

func TestWhichFilesMentionAName(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{"a.go": "package a\n\nfunc Ring() {}\n", "b.py": "ring()\nRing()\n", "c.go": "package a\n"})
	assert.Equal(t, []string{"a.go", "b.py"}, w.Code.Mentioning("Ring"))
	for _, l := range codebase.CountLanguages(w.Code) {
		if l.Name == "Python" {
			assert.Equal(t, codebase.LanguageCount{Name: "Python", Files: 1, Lines: 2, Uses: 2}, l)
		}
	}
}

// What is left out is not found, unless all is asked for.
func TestWhatIsLeftOut(t *testing.T) {
	code := "package a\n\nfunc Ring() {}\n"
	w := workspacetest.Open(t, map[string]string{"a/ring.go": code, "a/gen/ring.go": code, "b/Ring.gen.go": code, "gen.go": code})
	assert.Len(t, symbols(w, "Ring"), 4)
	w.Search.LeaveOut([]string{"gen/", "*.gen.go"})
	assert.Equal(t, []string{"gen.go Ring", "a/ring.go Ring"}, symbols(w, "Ring"))
	assert.Len(t, w.Search.Files(context.Background(), "ring", 9), 1)
	assert.Len(t, symbols(w, "Ring is:all"), 4)
	w.Search.LeaveOut(nil)
	assert.Len(t, symbols(w, "Ring"), 4)
}

func TestOfSeveralOfANameTheOneWithSomethingInItComesFirst(t *testing.T) {
	long := "package a\n\nfunc Ring() {\n" + strings.Repeat("\t_ = 1 // and so on\n", 500) + "}\n"
	w := workspacetest.Open(t, map[string]string{
		"cmd/hut/hut.go": "package a\n\nfunc Ring() {}\n", "pkg/inner/hut/hut.go": long,
		"a/board_list.h": "int board(void);\n", "a/board_list.cc": strings.Repeat("int x() { return 0; }\n", 300),
	})
	ctx := context.Background()
	assert.Equal(t, "pkg/inner/hut/hut.go", w.Search.Files(ctx, "hut.go", 5)[0].Path)
	assert.Equal(t, "a/board_list.cc", w.Search.Files(ctx, "boardlist", 5)[0].Path)
	assert.Equal(t, "pkg/inner/hut/hut.go Ring", symbols(w, "ring")[0])
	assert.Equal(t, "cmd/hut/hut.go", w.Search.Files(ctx, "cmd/hut", 5)[0].Path, "what was typed of the folder counts for more")
}

func TestANameWithItsWordsApartAndItsVeryCapitals(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"irc.py":   "class IRCClient:\n    pass\n\nclass DccChat:\n    client = None\n",
		"board.py": "def get_plugins(): pass\ngetPlugIns = get_plugins\ndef getPlugins(): pass\nclass GetPluginsHandler: pass\n",
	})
	assert.Equal(t, "irc.py IRCClient", symbols(w, "irc client")[0])
	assert.Equal(t, "board.py getPlugins", symbols(w, "getPlugins")[0])
	assert.Equal(t, "board.py getPlugIns", symbols(w, "getPlugIns")[0])
	assert.Equal(t, "board.py GetPluginsHandler", symbols(w, "get plugins handler")[0])
}
