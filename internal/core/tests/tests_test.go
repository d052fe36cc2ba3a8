package tests_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/report"
	"rooktrail/internal/core/tests"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

var mountain = map[string]string{
	"go.mod":        "module tarnwell\n\ngo 1.22\n",
	"dispatch/a.go": "package dispatch\n\nfunc Free(n int) int { return inner(n) }\n\nfunc inner(n int) int { return n + 1 }\n",
	"dispatch/a_test.go": `package dispatch

import "testing"

func TestFree(t *testing.T) {
	if got := Free(1); got != 2 {
		t.Errorf("got %d, want 2", got)
	}
}

func TestSteps(t *testing.T) {
	t.Run("up hill", func(t *testing.T) {
		if got := Free(2); got != 2 {
			t.Errorf("got %d, want 2", got)
		}
	})
	t.Run("down", func(t *testing.T) {})
}

func Testify() {}
`,
	"risk/test_slope.py": `import unittest

class TestSlope(unittest.TestCase):
    def test_steep(self):
        self.assertEqual(2, 3)

    def test_flat(self):
        pass
`,
	"board/map.test.js": `const { test, describe } = require('node:test');
const assert = require('node:assert');

describe('map', () => {
  test('draws huts', () => {
    assert.strictEqual(2, 3);
  });
  test('is flat', () => {});
});
`,
	"lib/Cargo.toml": "[package]\nname = \"ridge\"\nversion = \"0.1.0\"\nedition = \"2021\"\n",
	"lib/src/lib.rs": `pub fn free(n: i32) -> i32 { n + 1 }

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn adds() {
        assert_eq!(free(1), 3);
    }

    #[test]
    fn stays() {}
}
`,
	"gateway/pom.xml": "<project/>",
	"gateway/src/test/java/tarnwell/RadioTest.java": "package tarnwell;\n\nimport org.junit.jupiter.api.Test;\n\nclass RadioTest {\n    @Test\n    void sends() {}\n\n    void helps() {}\n}\n",
}

func names(all []tests.Test) (out []string) {
	for _, t := range all {
		out = append(out, t.Title())
	}
	return out
}

func TestWhichTestsThereAre(t *testing.T) {
	ws := workspacetest.Open(t, mountain)
	for path, want := range map[string][]string{
		"dispatch/a.go":      nil,
		"dispatch/a_test.go": {"TestFree", "TestSteps", "TestSteps › up hill", "TestSteps › down"},
		"risk/test_slope.py": {"TestSlope", "TestSlope › test_steep", "TestSlope › test_flat"},
		"board/map.test.js":  {"map", "map › draws huts", "map › is flat"},
		"lib/src/lib.rs":     {"tests › adds", "tests › stays"},
		"gateway/src/test/java/tarnwell/RadioTest.java": {"RadioTest › sends"},
	} {
		file, err := ws.Code.Load(t.Context(), path)
		require.NoError(t, err)
		assert.Equal(t, want, names(ws.Tests.In(file)), path)
	}
	file, err := ws.Code.Load(t.Context(), "dispatch/a_test.go")
	require.NoError(t, err)
	around, ok := ws.Tests.Around(file, strings.Index(string(file.Text.Bytes()), "Free(2)"))
	assert.Equal(t, []any{true, "TestSteps › up hill"}, []any{ok, around.Title()})
	source, err := ws.Code.Load(t.Context(), "dispatch/a.go")
	require.NoError(t, err)
	reaching, of := ws.Tests.Reaching(t.Context(), "dispatch/a.go", strings.Index(string(source.Text.Bytes()), "inner(n int)"))
	assert.Equal(t, "inner", of)
	require.NotEmpty(t, reaching)
	assert.Contains(t, names(reaching), "TestFree")
	assert.Equal(t, "through Free", reaching[0].Via)
}

func TestHowTestsAreRun(t *testing.T) {
	ws := workspacetest.Open(t, mountain)
	one := func(path, title string) tests.Test {
		file, err := ws.Code.Load(t.Context(), path)
		require.NoError(t, err)
		for _, x := range ws.Tests.In(file) {
			if x.Title() == title {
				return x
			}
		}
		t.Fatal(title)
		return tests.Test{}
	}
	line := func(w tests.Wanted) string {
		jobs, err := ws.Tests.Jobs(t.Context(), w, "/r")
		if err != nil {
			return err.Error()
		}
		require.Len(t, jobs, 1)
		return jobs[0].Dir + ": " + jobs[0].Line
	}
	assert.Equal(t, ".: go test -json -run '^TestSteps$/^up_hill$' ./dispatch", line(tests.Wanted{Tests: []tests.Test{one("dispatch/a_test.go", "TestSteps › up hill")}}))
	assert.Equal(t, ".: go test -json -run '^(TestFree|TestSteps)$' ./dispatch", line(tests.Wanted{Files: []string{"dispatch/a_test.go"}}))
	assert.Equal(t, ".: go test -json ./dispatch/...", line(tests.Wanted{Folder: "dispatch"}))
	assert.Contains(t, line(tests.Wanted{Tests: []tests.Test{one("board/map.test.js", "map › draws huts")}}), "node --test")
	assert.Contains(t, line(tests.Wanted{Title: "docs", Folder: "docs"}), "there are no tests in docs")
	ws.Tests.Set(map[string]string{"Go": "try {files} -n {names} > {report}"})
	assert.Equal(t, ".: try dispatch/a_test.go -n TestFree > /r/tests-0.xml", line(tests.Wanted{Tests: []tests.Test{one("dispatch/a_test.go", "TestFree")}}))
	ws.Tests.Set(nil)
	t.Setenv("PATH", t.TempDir())
	assert.Contains(t, line(tests.Wanted{Files: []string{"dispatch/a_test.go"}}), "are run by go test, for which go has to be there, which it is not; the setting tests.commands")
}

// carryOut runs a job as the program does, but without a terminal.
func carryOut(t *testing.T, ws *workspace.Workspace, j tests.Job) *report.Report {
	t.Helper()
	c := exec.Command(j.Args[0], j.Args[1:]...)
	c.Dir = filepath.Join(ws.Code.Root(), j.Dir)
	out, _ := c.CombinedOutput() // tests that fail end it with an error
	read, err := tests.ReadReport(ws.Code.Root(), j, string(out))
	require.NoError(t, err, string(out))
	require.NotEmpty(t, read.Results, string(out))
	return read
}

// Real runners run real tests; what failed leads to its line.
func TestWhatBecomesOfTests(t *testing.T) {
	ws := workspacetest.Open(t, mountain)
	for _, c := range []struct {
		program, path  string
		failed, passed string
		line           int
		says           string
	}{
		{"go", "dispatch/a_test.go", "TestSteps › up hill", "TestFree", 14, "got 3, want 2"},
		{"python3", "risk/test_slope.py", "TestSlope › test_steep", "TestSlope › test_flat", 5, "AssertionError: 2 != 3"},
		{"node", "board/map.test.js", "map › draws huts", "map › is flat", 6, "(expected 3, got 2)"},
		{"cargo", "lib/src/lib.rs", "tests › adds", "tests › stays", 9, "assertion `left == right` failed left: 2 right: 3"},
	} {
		if _, err := exec.LookPath(c.program); err != nil {
			t.Logf("%s is not here, so its tests are not run", c.program)
			continue
		}
		jobs, err := ws.Tests.Jobs(t.Context(), tests.Wanted{Files: []string{c.path}}, t.TempDir())
		require.NoError(t, err)
		read := carryOut(t, ws, jobs[0])
		unknown := ws.TestBook.Take(t.Context(), jobs[0], read.Results)
		assert.Empty(t, unknown, c.path)
		file, err := ws.Code.Load(t.Context(), c.path)
		require.NoError(t, err)
		became := ws.TestBook.Of(file)
		outcomes := map[string]report.Outcome{}
		for _, x := range ws.Tests.In(file) {
			outcomes[x.Title()] = became[x.At.Start].Outcome
		}
		assert.Equal(t, report.Failed, outcomes[c.failed], c.path)
		assert.Equal(t, report.Passed, outcomes[c.passed], c.path)
		failures := ws.TestBook.FailuresIn(t.Context(), file)
		require.NotEmpty(t, failures, c.path)
		var lines []int
		said := ""
		for _, f := range failures {
			lines = append(lines, f.Line)
			said += f.Note
		}
		assert.Contains(t, lines, c.line, c.path)
		assert.Contains(t, said, c.says, c.path)
	}
	var failed []string
	for _, x := range ws.TestBook.Failed(context.Background()) {
		failed = append(failed, x.Title())
	}
	assert.Contains(t, failed, "TestSteps › up hill")
	assert.NotContains(t, failed, "TestSteps", "what is in it failed")
	_ = os.Remove(filepath.Join(ws.Code.Root(), "lib/Cargo.lock")) // which cargo makes
}

// Tests of C are programs, which ctest builds and runs; they are known by the names that their build gives them, and lead to where
// they failed.
func TestTestsOfC(t *testing.T) {
	for _, program := range []string{"cmake", "ctest", "cc", "make"} {
		if _, err := exec.LookPath(program); err != nil {
			t.Skip(program + " is not here")
		}
	}
	ws := workspacetest.Open(t, map[string]string{
		"station/CMakeLists.txt":       "cmake_minimum_required(VERSION 3.10)\nproject(station C)\nenable_testing()\nadd_executable(ring test_ring.c)\nadd_test(NAME rings COMMAND ring)\n",
		"station/bells/CMakeLists.txt": "add_custom_target(bells)\n",
		"station/bells/test_bell.c":    "int main(void) { return 0; }\n",
		"station/test_ring.c":          "#include <stdio.h>\n\nint main(void) {\n    printf(\"test_ring.c:4: it is silent\\n\");\n    return 1;\n}\n",
	})
	jobs, err := ws.Tests.Jobs(t.Context(), tests.Wanted{Folder: "station"}, t.TempDir())
	require.NoError(t, err)
	require.Len(t, jobs, 1)
	assert.Equal(t, "station", jobs[0].Dir, "where the build begins")
	read := carryOut(t, ws, jobs[0])
	unknown := ws.TestBook.Take(t.Context(), jobs[0], read.Results)
	require.Len(t, unknown, 1)
	assert.Equal(t, []any{"rings", report.Failed}, []any{unknown[0].Title(), unknown[0].Outcome})
	one, _ := ws.Lists.SweepOf(t.Context(), "tests", jobs[0].Dir, &report.Report{Form: read.Form, Results: unknown})
	require.Len(t, one.Items, 1)
	assert.Equal(t, []any{"station/test_ring.c", 4}, []any{one.Items[0].Path, one.Items[0].Line})
}

// Tests of a plain project of Java are run by the command that is set for them.
func TestTestsByACommandThatIsSet(t *testing.T) {
	for _, program := range []string{"javac", "java"} {
		if _, err := exec.LookPath(program); err != nil {
			t.Skip(program + " is not here")
		}
	}
	const code = `import java.lang.annotation.*;
import java.lang.reflect.*;

class RadioTest {
    @Retention(RetentionPolicy.RUNTIME) @interface Test {}

    @Test void sends() {
        if (1 + 1 != 3) throw new IllegalStateException("2, not 3");
    }

    @Test void hears() {}

    public static void main(String[] args) throws Exception {
        System.out.println("TAP version 13");
        for (String name : args[0].split("[|]")) {
            try {
                RadioTest.class.getDeclaredMethod(name).invoke(new RadioTest());
                System.out.println("ok - " + name);
            } catch (InvocationTargetException e) {
                System.out.println("not ok - " + name + "\\n  ---\\n  error: " + e.getCause().getMessage());
                for (StackTraceElement at : e.getCause().getStackTrace()) System.out.println("  at " + at);
                System.out.println("  ...");
            }
        }
    }
}
`
	ws := workspacetest.Open(t, map[string]string{"RadioTest.java": strings.ReplaceAll(code, `\\n`, `\n`)})
	ws.Tests.Set(map[string]string{"Java": "javac -d " + t.TempDir() + " {files} && java RadioTest.java {names}"})
	file, err := ws.Code.Load(t.Context(), "RadioTest.java")
	require.NoError(t, err)
	all := ws.Tests.In(file)
	require.Equal(t, []string{"RadioTest › sends", "RadioTest › hears"}, names(all))
	jobs, err := ws.Tests.Jobs(t.Context(), tests.Wanted{Tests: all}, t.TempDir())
	require.NoError(t, err)
	jobs[0].Args = []string{"sh", "-c", jobs[0].Line}
	read := carryOut(t, ws, jobs[0])
	assert.Empty(t, ws.TestBook.Take(t.Context(), jobs[0], read.Results))
	became := ws.TestBook.Of(file)
	assert.Equal(t, report.Failed, became[all[0].At.Start].Outcome)
	assert.Equal(t, report.Passed, became[all[1].At.Start].Outcome)
	failures := ws.TestBook.FailuresIn(t.Context(), file)
	require.Len(t, failures, 1)
	assert.Equal(t, 8, failures[0].Line)
}
