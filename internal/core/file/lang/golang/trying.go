package golang

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/report"
)

var trying = &lang.Trying{
	Proposing: []string{"go.mod"},
	Propose: func(string, []byte) []lang.Command {
		return []lang.Command{{Line: "go build ./..."}, {Line: "go vet ./..."}, {Line: "go test ./..."}}
	},
	Runners: []lang.Runner{{
		Name: "go test", Program: "go", Marks: []string{"go.mod"}, ByName: true, Suits: lang.Always,
		Command: testCommand, Form: report.GoTest,
	}},
	IsTest: func(d *facts.Def, _ []byte) bool { return d.Kind == facts.Function && goTest.MatchString(d.Name) },
}

// goTest are the names of functions that go test runs.
var goTest = regexp.MustCompile(`^(Test|Fuzz|Example|Benchmark)([^a-z].*)?$`)

// testCommand runs tests of packages. A test of another one is what t.Run was given, with what go makes of blanks in names.
func testCommand(w lang.TestsWanted) []string {
	args := []string{"go", "test", "-json"}
	if len(w.Tests) > 0 {
		args = append(args, "-run", "^"+strings.Join(patterns(w.Tests), "$/^")+"$")
	}
	if len(w.Files) == 0 {
		return append(args, packageOf(w.Folder)+"/...")
	}
	for _, f := range w.Files {
		if p := packageOf(path.Dir(f)); !slices.Contains(args, p) {
			args = append(args, p)
		}
	}
	return args
}

func packageOf(folder string) string {
	if folder == "." || folder == "" {
		return "."
	}
	return "./" + folder
}

// patterns are the expressions for each level of the names; deeper than all of them have none, everything is taken.
func patterns(tests []lang.TestName) (all []string) {
	for level := 0; ; level++ {
		var names []string
		for _, t := range tests {
			if level >= len(t.Names) {
				return all
			}
			if n := regexp.QuoteMeta(strings.ReplaceAll(t.Names[level], " ", "_")); !slices.Contains(names, n) {
				names = append(names, n)
			}
		}
		if len(names) == 1 {
			all = append(all, names[0])
		} else {
			all = append(all, "("+strings.Join(names, "|")+")")
		}
	}
}
