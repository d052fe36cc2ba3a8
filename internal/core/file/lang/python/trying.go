package python

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/report"
)

var projectFiles = []string{"pyproject.toml", "setup.cfg", "setup.py", "tox.ini", "pytest.ini"}

var trying = &lang.Trying{
	Proposing: []string{"pytest.ini", "pyproject.toml", "tox.ini", "setup.cfg"},
	Propose: func(name string, text []byte) []lang.Command {
		if name == "pytest.ini" || bytes.Contains(text, []byte("pytest")) {
			return []lang.Command{{Line: "python3 -m pytest"}}
		}
		return nil
	},
	Runners: []lang.Runner{
		{Name: "pytest", Program: "pytest", Marks: projectFiles, Anywhere: true, Suits: lang.Always, Command: pytest},
		{Name: "unittest", Program: "python3", Marks: projectFiles, Anywhere: true, Suits: forUnittest, Command: unittest, Form: report.Unittest},
	},
	IsTest: func(d *facts.Def, head []byte) bool {
		return d.Kind.IsCallable() && strings.HasPrefix(d.Name, "test") || d.Kind == facts.Class && (strings.HasPrefix(d.Name, "Test") || strings.HasSuffix(d.Name, "Test") || strings.HasSuffix(d.Name, "Tests"))
	},
}

// ownTests are functions that are tests by themselves, which only pytest runs.
var ownTests = regexp.MustCompile(`(?m)^(?:async )?def test_|^\s*(?:import|from) pytest\b`)

// forUnittest says whether unittest can run the tests of a file.
func forUnittest(test, _ []byte) bool { return !ownTests.Match(test) }

func pytest(w lang.TestsWanted) []string {
	args := []string{"pytest", "--color=yes", "-o", "junit_family=xunit1", "--junitxml=" + w.Report}
	for _, t := range w.Tests {
		args = append(args, w.Files[t.File]+"::"+strings.Join(t.Names, "::"))
	}
	switch {
	case len(w.Tests) > 0:
	case len(w.Files) > 0:
		args = append(args, w.Files...)
	default:
		args = append(args, w.Folder)
	}
	return args
}

func unittest(w lang.TestsWanted) []string {
	args := []string{"python3", "-m", "unittest", "-v"}
	for _, t := range w.Tests {
		args = append(args, moduleOf(w.Files[t.File])+"."+strings.Join(t.Names, "."))
	}
	switch {
	case len(w.Tests) > 0:
	case len(w.Files) > 0:
		for _, f := range w.Files {
			args = append(args, moduleOf(f))
		}
	default:
		args = append(args[:3], "discover", "-v", "-s", w.Folder, "-t", ".", "-p", "*test*.py")
	}
	return args
}

// moduleOf is the name of the module in a file.
func moduleOf(file string) string {
	return strings.ReplaceAll(strings.TrimSuffix(file, ".py"), "/", ".")
}
