package cli

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/adrg/xdg"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/workspace"
)

func TestMain(m *testing.M) {
	if asked, err := workspace.Asked(os.Args[1:], os.Stdin, os.Stdout); asked { // the program is begun anew to ask a compiler
		if err != nil {
			panic(err)
		}
		os.Exit(0)
	}
	dir, err := os.MkdirTemp("", "rooktrail-cli-")
	if err != nil {
		panic(err)
	}
	if err := os.Setenv("XDG_CACHE_HOME", dir); err != nil {
		panic(err)
	}
	xdg.Reload()
	status := m.Run()
	_ = os.RemoveAll(dir)
	os.Exit(status)
}

func sample(t *testing.T) string {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, os.Mkdir(filepath.Join(root, "sub"), 0o755))
	for name, text := range map[string]string{
		"go.mod": "module x\n", "a.go": "package a\n\nfunc Ring() int { return 1 }\n\nvar n = Ring()\n",
		"sub/b.py": "def ring():\n    pass\n\nring()\nother()\n",
	} {
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o644))
	}
	return root
}

func run(t *testing.T, stdin string, args ...string) (status int, stdout, stderr string) {
	var out, errs bytes.Buffer
	status = Run(args, strings.NewReader(stdin), &out, &errs)
	return status, out.String(), errs.String()
}

func TestDefinition(t *testing.T) {
	root := sample(t)
	status, out, _ := run(t, "", "definition", "--root", root, "a.go:5:9")
	assert.Equal(t, 0, status)
	assert.Equal(t, "a.go:3:6: func Ring() int { return 1 }\n", out)

	certainty := func(args ...string) string {
		_, out, _ := run(t, "", append([]string{"definition", "--json", "--root", root}, args...)...)
		var got result
		require.NoError(t, json.Unmarshal([]byte(out), &got))
		return got.Certainty
	}
	assert.Equal(t, "inferred", certainty("a.go:5:9"), "nothing was checked so far")
	assert.Equal(t, "exact", certainty("a.go:5:9", "--exact"))
	assert.Equal(t, "exact", certainty("a.go:5:9"), "what was said is kept")

	t.Chdir(filepath.Join(root, "sub"))
	status, out, _ = run(t, "", "definition", "--root", root, "b.py:4:1", "--json")
	assert.Equal(t, 0, status)
	var got result
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, result{inFile("sub/b.py"), 1, 5, "ring", "function", "", "inferred", "def ring():"}, got)
}

func TestExitStatus(t *testing.T) {
	root := sample(t)
	for _, c := range []struct {
		args   []string
		status int
		says   string
	}{
		{[]string{"definition", "--root", root, "a.go:2:1"}, 1, ""},
		{[]string{"definition", "--root", root, "sub/b.py:5:1"}, 1, ""},
		{[]string{"definition", "--root", root, "a.go:99:1"}, 2, "the file has only 5 lines"},
		{[]string{"definition", "--root", root, "a.go:3"}, 2, "has no column"},
		{[]string{"definition", "--root", root, "none.go:3:1"}, 2, "there is no such file"},
		{[]string{"definition", "--root", root}, 2, "name one position"},
		{[]string{"definition", "--root", filepath.Join(root, "nowhere"), "a.go:1:1"}, 2, "no such file"},
		{[]string{"definition", "--wrong"}, 2, "there is no option"},
		{[]string{filepath.Join(root, "nowhere")}, 2, "no such file"},
		{[]string{root, "too", "many"}, 2, "arg"},
		{[]string{root}, 2, "needs a terminal"},
		{[]string{"--palette", "slate", root}, 2, "needs a terminal"},
	} {
		status, out, errs := run(t, "", c.args...)
		assert.Equal(t, c.status, status, "%v", c.args)
		assert.Empty(t, out)
		assert.Contains(t, errs, c.says)
		assert.LessOrEqual(t, strings.Count(errs, "\n"), 1, "one line says what to do")
	}
}

func TestBatch(t *testing.T) {
	root := sample(t)
	status, out, _ := run(t, "a.go:5:9\n\na.go:5:9: var n = Ring()\nnonsense\nsub/b.py:5:1\n", "definition", "--batch", "--root", root)
	assert.Equal(t, 0, status)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	require.Len(t, lines, 4)
	var r struct {
		Query   string
		Results []result
	}
	require.NoError(t, json.Unmarshal([]byte(lines[1]), &r))
	assert.Equal(t, "a.go:5:9: var n = Ring()", r.Query)
	assert.Equal(t, 3, r.Results[0].Line)
	assert.Contains(t, lines[2], `"results":[],"error":"position`)
	assert.Equal(t, `{"query":"sub/b.py:5:1","results":[]}`, lines[3])
	status, _, _ = run(t, "sub/b.py:5:1\n", "definition", "--batch", "--root", root)
	assert.Equal(t, 1, status)
}

// Each position of a batch is answered before the next one has to be there.
func TestBatchStreams(t *testing.T) {
	root := sample(t)
	in, ask := io.Pipe()
	answers, out := io.Pipe()
	ended := make(chan int)
	go func() {
		ended <- Run([]string{"definition", "--batch", "--root", root}, in, out, io.Discard)
		out.Close()
	}()
	lines := bufio.NewReader(answers)
	for range 3 {
		fmt.Fprintln(ask, "a.go:5:9")
		line, err := lines.ReadString('\n')
		require.NoError(t, err)
		assert.Contains(t, line, `"line":3`)
	}
	require.NoError(t, ask.Close())
	assert.Equal(t, 0, <-ended)
}

func TestHelpAndVersion(t *testing.T) {
	status, out, _ := run(t, "", "--version")
	assert.Equal(t, 0, status)
	assert.True(t, strings.HasPrefix(out, "rooktrail "+Version+"\n"), out)
	for _, says := range []string{"built by  go1.", "TypeScript", "formats   index v"} {
		assert.Contains(t, out, says)
	}
	_, out, _ = run(t, "", "--help")
	assert.Contains(t, out, "rooktrail demo")
	assert.Contains(t, out, "rooktrail definition store.go:19:7")
}

func TestOpenTarget(t *testing.T) {
	root := sample(t)
	t.Chdir(filepath.Join(root, "sub"))
	for _, c := range []struct{ target, root, start string }{
		{"", root, ""},
		{".", filepath.Join(root, "sub"), ""},
		{"b.py", root, "sub/b.py"},
		{"b.py:4", root, "sub/b.py:4"},
		{"../a.go:3:6", root, "a.go:3:6"},
	} {
		gotRoot, start, err := openTarget(c.target)
		require.NoError(t, err)
		assert.Equal(t, c.root, gotRoot, c.target)
		assert.Equal(t, c.start, start.String(), c.target)
	}
}

func TestFindingFromTheShell(t *testing.T) {
	root := sample(t)
	for _, c := range []struct {
		args string
		want string
	}{
		{"files b.p", "sub/b.py\n"},
		{"files in:sub ext:py", "sub/b.py\n"},
		{"files zzz", ""},
		{"symbols ring", "a.go:3:6: func Ring() int { return 1 }\nsub/b.py:1:5: def ring():\n"},
		{"symbols ring --limit 1", "a.go:3:6: func Ring() int { return 1 }\n"},
		{"symbols ring ext:py", "sub/b.py:1:5: def ring():\n"},
		{"symbols ring --in sub", "sub/b.py:1:5: def ring():\n"},
		{"symbols ring --kind type", ""},
		{"symbols ring --json --in sub", `{"path":"sub/b.py","line":1,"col":5,"name":"ring","kind":"function","container":"","text":"def ring():"}` + "\n"},
		{"outline a.go", "a.go:3:6: function Ring\na.go:5:5: variable n\n"},
		{"text ring\\( --regex --glob *.py", "sub/b.py:1:5: def ring():\nsub/b.py:4:1: ring()\n"},
		{"text ring --role definition", "a.go:3:6: func Ring() int { return 1 }\nsub/b.py:1:5: def ring():\n"},
		{"text Ring --case --limit 1 --json", `{"path":"a.go","line":3,"col":6,"role":"definition","text":"func Ring() int { return 1 }"}` + "\n"},
		{"text other --in sub --exclude *.go", "sub/b.py:5:1: other()\n"},
	} {
		status, out, errs := run(t, "", append(strings.Fields(c.args), "--root", root)...)
		assert.Equal(t, c.want, out, c.args)
		assert.Empty(t, errs, c.args)
		assert.Equal(t, c.want == "", status == statusNothing, c.args)
	}
	for args, want := range map[string]string{
		"text a(b --regex": "missing closing )", "text x --glob [": "not well formed", "text x --role verb": "there is no role", "outline none.go": "no such file",
	} {
		status, out, errs := run(t, "", append(strings.Fields(args), "--root", root)...)
		assert.Equal(t, 2, status)
		assert.Empty(t, out)
		assert.Contains(t, errs, want)
	}
}

func TestIndex(t *testing.T) {
	root := sample(t)
	status, out, _ := run(t, "", "index", root)
	assert.Equal(t, 0, status)
	assert.Contains(t, out, "3 files, 2 in a language that is read, 3 symbols\n2 parsed, 0 known from before")
	_, out, _ = run(t, "", "index", root)
	assert.Contains(t, out, "0 parsed, 2 known from before")
	_, out, _ = run(t, "", "index", "--rebuild", root)
	assert.Contains(t, out, "2 parsed, 0 known from before")
	require.NoError(t, os.WriteFile(filepath.Join(root, "nul.py"), []byte("x\x00"), 0o600))
	_, out, _ = run(t, "", "index", root)
	assert.Contains(t, out, "left as text: nul.py: binary")
}

func TestIndexInJSON(t *testing.T) {
	root := sample(t)
	status, out, _ := run(t, "", "index", root, "--json")
	assert.Equal(t, 0, status)
	var got indexResult
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, root, got.Root)
	assert.Equal(t, 3, got.Files)
	assert.Equal(t, 2, got.Parsed)
	assert.Equal(t, []languageResult{{"Go", 1, 5, 2, 2}, {"Python", 1, 5, 1, 2}}, got.Languages)
	assert.Equal(t, []leftOutResult{}, got.LeftOut)
	assert.FileExists(t, got.Kept)

	status, out, _ = run(t, "", "index", root)
	assert.Equal(t, 0, status)
	assert.Contains(t, out, "0 parsed, 2 known from before")
	assert.Regexp(t, `1 +5 +2 +2 +Go`, out)
}

func TestOutlineTellsModifiers(t *testing.T) {
	root := sample(t)
	require.NoError(t, os.WriteFile(filepath.Join(root, "C.java"), []byte("public class C { private static int n; }\n"), 0o644))
	_, out, _ := run(t, "", "outline", "--root", root, filepath.Join(root, "C.java"), "--json")
	assert.Contains(t, out, `"modifiers":["public"]`)
	assert.Contains(t, out, `"modifiers":["private","static"]`)
}

// Each question is answered on its own and as a batch, in text and as JSON.
func TestQuestions(t *testing.T) {
	root := sample(t)
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"references", "a.go:3:6"}, "a.go:5:9: var n = Ring()"},
		{[]string{"references", "--json", "a.go:3:6"}, `"access":"call"`},
		{[]string{"references", "--access", "call", "a.go:3:6"}, "a.go:5:9"},
		{[]string{"calls", "--incoming", "a.go:3:6"}, "a.go:5:9"},
		{[]string{"values", "a.go:5:5"}, "a.go:5:5"},
		{[]string{"describe", "a.go:5:9"}, "a.go:3:6: func Ring()"},
		{[]string{"describe", "--json", "a.go:5:9"}, `"signature":"func Ring()`},
		{[]string{"unused"}, "a.go:5:5"},
	} {
		status, out, errs := run(t, "", append(c.args, "--root", root)...)
		assert.Equal(t, 0, status, "%v: %s", c.args, errs)
		assert.Contains(t, out, c.want, "%v", c.args)
	}
	for _, args := range [][]string{{"references", "--access", "write", "a.go:3:6"}, {"implementations", "a.go:3:6"}, {"supertypes", "a.go:3:6"}, {"subtypes", "--all", "a.go:3:6"}, {"type-definition", "a.go:5:5"}, {"tests", "a.go:3:6"}, {"tests", "a.go"}} {
		status, out, errs := run(t, "", append(args, "--root", root)...)
		assert.Equal(t, 1, status, "%v: %s", args, errs)
		assert.Empty(t, out, "%v", args)
	}
	status, _, errs := run(t, "", "calls", "--root", root, "a.go:3:6")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "incoming")
	status, out, _ := run(t, "a.go:3:6\nnonsense\n", "references", "--batch", "--root", root)
	assert.Equal(t, 0, status)
	assert.Contains(t, out, `{"query":"a.go:3:6","results":[{"path":"a.go","line":5,"col":9,"name":"Ring"`)
	assert.Contains(t, out, `"results":[],"error":"position`)
}
