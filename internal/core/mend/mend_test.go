package mend_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/mend"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// caret marks where one is in a sample.
const caret = "‸"

// mends opens a project in which one file has the caret, and gives what can be done there, with that file as it would be then.
func mends(t *testing.T, files map[string]string, setUp ...func(*workspace.Workspace)) (titles []string, after map[string]string) {
	t.Helper()
	path, at := "", 0
	laid := map[string]string{}
	for p, text := range files {
		if i := strings.Index(text, caret); i >= 0 {
			path, at = p, i
			text = strings.Replace(text, caret, "", 1)
		}
		laid[p] = text
	}
	ws := workspacetest.Open(t, laid)
	t.Cleanup(func() { ws.Code.Close() })
	ws.Code.KnowLibraries(t.TempDir())
	for _, do := range setUp {
		do(ws)
	}
	require.NoError(t, ws.Code.Check(t.Context(), check.Fast))
	all, err := ws.Mending.At(t.Context(), path, at)
	require.NoError(t, err)
	after = map[string]string{}
	for _, m := range all {
		titles = append(titles, m.Title)
		text := ""
		for _, f := range m.Proposal.Files {
			text += string(f.After().Bytes())
		}
		after[m.Title] = text
	}
	return titles, after
}

const module = "module ridge\n\ngo 1.22\n"

func TestMendingGo(t *testing.T) {
	for _, c := range []struct {
		name, text string
		title      string // of one that is among what can be done
		want       string // stands in the file then
		not        string // does not
	}{
		{"a slip", "package a\n\nfunc assign() int { return 1 }\n\nvar X = as‸signn()\n", "write assign in place of assignn", "var X = assign()", ""},
		{"a member", "package a\n\ntype Crew struct{ Name string }\n\nfunc f(c Crew) string { return c.Nm‸ae }\n", "write Name in place of Nmae", "return c.Name }", ""},
		{"an import", "package a\n\nfunc f() string { return str‸ings.ToUpper(\"a\") }\n", "import strings from strings", "import \"strings\"", ""},
		{"a spare import", "package a\n\nimport \"o‸s\"\n\nfunc f() {}\n", "take out what is imported for nothing", "func f()", "import"},
		{"unused", "package a\n\nfunc f() int {\n\tcr‸ew := 2\n\treturn 1\n}\n", "take out crew", "int {\n\treturn 1", "crew"},
		{"unused, of a call", "package a\n\nfunc g() int { return 1 }\n\nfunc f() int {\n\tcr‸ew := g()\n\treturn 1\n}\n", "take out crew", "\t_ = g()\n", "crew"},
		{"unused, of two", "package a\n\nfunc g() (int, int) { return 1, 2 }\n\nfunc f() int {\n\tcr‸ew, n := g()\n\treturn n\n}\n", "take out crew", "\t_, n := g()\n", "crew"},
		{"an error", "package a\n\nimport \"os\"\n\nfunc f() (int, error) {\n\tos.Re‸move(\"a\")\n\treturn 1, nil\n}\n", "hand on the error of Remove", "\tif err := os.Remove(\"a\"); err != nil {\n\t\treturn 0, err\n\t}\n", ""},
		{"an error with words", "package a\n\nimport \"os\"\n\nfunc f() (s []int, err error) {\n\tos.Re‸move(\"a\")\n\treturn s, nil\n}\n", "hand it on with what was being done", "return nil, fmt.Errorf(\"remove: %w\", err)", ""},
		{"too few names", "package a\n\nimport \"os\"\n\ntype hut struct{}\n\nfunc f() (hut, error) {\n\tx := os.Re‸adFile(\"a\")\n\t_ = x\n\treturn hut{}, nil\n}\n", "hand on the error of ReadFile", "\tx, err := os.ReadFile(\"a\")\n\tif err != nil {\n\t\treturn hut{}, err\n\t}\n", ""},
		{"in a test", "package a\n\nimport (\n\t\"os\"\n\t\"testing\"\n)\n\nfunc TestF(t *testing.T) {\n\tos.Re‸move(\"a\")\n}\n", "fail the test if Remove fails", "\t\tt.Fatal(err)\n", ""},
		{"methods", "package a\n\ntype Ringer interface {\n\tRing(times int) (Bell, error)\n\tStop()\n}\n\ntype Bell struct{}\n\nfunc (b Bell) Stop() {}\n\nvar X Ringer = Be‸ll{}\n", "write Ring, which Bell lacks of Ringer",
			"func (b Bell) Stop() {}\n\n// Ring is not written yet.\nfunc (b Bell) Ring(times int) (Bell, error) {\n\tpanic(\"Ring is not written yet\")\n}\n", ""},
	} {
		name := "a.go"
		if strings.Contains(c.text, "testing.T") {
			name = "a_test.go"
		}
		titles, after := mends(t, map[string]string{"go.mod": module, name: c.text})
		if !assert.Contains(t, titles, c.title, c.name) {
			continue
		}
		assert.Contains(t, after[c.title], c.want, c.name)
		if c.not != "" {
			assert.NotContains(t, after[c.title], c.not, c.name)
		}
	}
}

// What an analysis suggests is offered with what it finds.
func TestWhatAnAnalysisSuggests(t *testing.T) {
	titles, after := mends(t, map[string]string{"go.mod": module, "a.go": "package a\n\nfunc f(n int) int {\n\tn ‸= n\n\treturn n\n}\n"})
	require.NotEmpty(t, titles)
	assert.Equal(t, "package a\n\nfunc f(n int) int {\n\treturn n\n}\n", after[titles[0]])
}

// The methods of an interface of another package have its types under its name.
func TestStubsAcrossPackages(t *testing.T) {
	titles, after := mends(t, map[string]string{"go.mod": module,
		"bell/bell.go": "package bell\n\ntype Times int\n\ntype Ringer interface{ Ring(n Times, name string) map[string]*Times }\n",
		"hut/hut.go":   "package hut\n\nimport \"ridge/bell\"\n\ntype Hut struct{}\n\nvar X bell.Ringer = &H‸ut{}\n",
	})
	require.Contains(t, titles, "write Ring, which Hut lacks of Ringer")
	assert.Contains(t, after["write Ring, which Hut lacks of Ringer"], "func (h *Hut) Ring(n bell.Times, name string) map[string]*bell.Times {")
}

func TestMendingOtherLanguages(t *testing.T) {
	titles, after := mends(t, map[string]string{
		"Ringer.java": "interface Ringer {\n    int ring(int times);\n    default void stop() {}\n}\n",
		"Hut.java":    "class Hut impl‸ements Ringer {\n    private int n;\n}\n",
	})
	require.Contains(t, titles, "write ring, which Hut lacks of Ringer")
	assert.Contains(t, after["write ring, which Hut lacks of Ringer"], "    private int n;\n\n    @Override\n    public int ring(int times) {\n        throw new UnsupportedOperationException(\"ring is not written yet\");\n    }\n}")
	titles, after = mends(t, map[string]string{"hut.ts": "interface Ringer {\n  ring(times: number): string;\n  stop(): void;\n}\n\nclass Hut implements Ri‸nger {\n  stop(): void {}\n}\n"})
	require.Contains(t, titles, "write ring, which Hut lacks of Ringer")
	assert.Contains(t, after["write ring, which Hut lacks of Ringer"], "  stop(): void {}\n\n  ring(times: number): string {\n    throw new Error('ring is not written yet');\n  }\n}")
	titles, after = mends(t, map[string]string{"hut.py": "import os\n\n\ndef assign(n):\n    return asi‸gn(n)\n"})
	assert.Contains(t, titles, "write assign in place of asign")
	titles, after = mends(t, map[string]string{"hut.py": "import o‸s\n\n\ndef assign(n):\n    return n\n"})
	require.Contains(t, titles, "take out what is imported for nothing")
	assert.NotContains(t, after["take out what is imported for nothing"], "import")
	titles, after = mends(t, map[string]string{"bell.py": "class Bell:\n    pass\n", "hut.py": "x = Be‸ll()\n", "b.py": "from bell import Bell\n\ny = Bell()\n"})
	require.Contains(t, titles, "import Bell from bell")
	assert.Contains(t, after["import Bell from bell"], "from bell import Bell\n")
}

func TestSpelling(t *testing.T) {
	list := filepath.Join(t.TempDir(), "words")
	require.NoError(t, os.WriteFile(list, []byte("valley\nvolley\nRescue\n"), 0o600))
	own := func(ws *workspace.Workspace) { ws.Mending.Words = []string{list} }
	files := func(text string) map[string]string { return map[string]string{"go.mod": module, "a.go": text} }
	titles, after := mends(t, files("package a\n\n// In the Val‸ey nothing moves.\nvar X = 1\n"), own)
	require.Contains(t, titles, "spell it Valley")
	assert.Contains(t, after["spell it Valley"], "In the Valley nothing")
	titles, _ = mends(t, files("package a\n\n// In the valley nothing moves.\nvar Val‸ey = 1\n"), own)
	assert.Empty(t, titles, "names are not spelled by words")
	titles, _ = mends(t, files("package a\n\n// In the val‸ley nothing moves.\nvar X = 1\n"), own)
	assert.Empty(t, titles)
}

// What a report suggests is proposed as long as what it would replace stands there.
func TestWhatAReportSuggests(t *testing.T) {
	const report = `{"version":"2.1.0","runs":[{"tool":{"driver":{"name":"ridge"}},"results":[{"ruleId":"loud","message":{"text":"too loud"},
		"locations":[{"physicalLocation":{"artifactLocation":{"uri":"a.py"},"region":{"startLine":2,"startColumn":1,"endColumn":5}}}],
		"fixes":[{"description":{"text":"ring once"},"artifactChanges":[{"artifactLocation":{"uri":"a.py"},"replacements":[{"deletedRegion":{"startLine":2,"startColumn":6,"endColumn":11},"insertedContent":{"text":"1"}}]}]}]}]}]}`
	take := func(ws *workspace.Workspace) {
		ws.Lists.KnowSweeps(t.TempDir())
		one, _, err := ws.Lists.ReadList(t.Context(), "ridge", ".", strings.NewReader(report))
		require.NoError(t, err)
		require.NoError(t, ws.Lists.KeepSweep(one))
	}
	titles, after := mends(t, map[string]string{"a.py": "def ring(n): pass\nri‸ng(20000)\n"}, take)
	require.Contains(t, titles, "ring once")
	assert.Equal(t, "def ring(n): pass\nring(1)\n", after["ring once"])
}

func TestDistance(t *testing.T) {
	for _, c := range []struct {
		a, b string
		far  int
	}{{"hut", "hut", 1}, {"Hut", "hut", 1}, {"hut", "hat", 1}, {"hut", "huts", 1}, {"htu", "hut", 1}, {"assign", "asing", 2}, {"a", "xyz", 3}} {
		assert.Equal(t, c.far, mend.Distance(c.a, c.b), c.a+" "+c.b)
	}
}
