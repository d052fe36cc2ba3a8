package c

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

var trying = &lang.Trying{
	Proposing: []string{"CMakeLists.txt"},
	Propose: func(_ string, text []byte) []lang.Command {
		all := []lang.Command{{Line: "cmake -S . -B build && cmake --build build"}}
		if strings.Contains(string(text), "enable_testing") || strings.Contains(string(text), "include(CTest)") {
			all = append(all, lang.Command{Line: "cmake --build build && ctest --test-dir build --output-on-failure"})
		}
		return all
	},
	Runners: []lang.Runner{{
		Name: "ctest", Program: "ctest", Marks: []string{"CMakeLists.txt"}, Suits: top, Command: ctest,
	}},
	IsTest: func(d *facts.Def, _ []byte) bool {
		return d.Kind == facts.Function && strings.HasPrefix(d.Name, "test_")
	},
}

// top says whether a CMakeLists.txt is that of a build with tests, and not of a part of one.
func top(_, says []byte) bool {
	return bytes.Contains(says, []byte("enable_testing")) || bytes.Contains(says, []byte("include(CTest)"))
}

// ctest builds what is in the folder build, which is made if it is not there, and runs the tests with the names of those wanted, or
// of their files, as a build calls them by custom.
func ctest(w lang.TestsWanted) []string {
	line := "test -d build || cmake -S . -B build; cmake --build build && ctest --test-dir build --output-on-failure --output-junit \"$1\""
	var names []string
	for _, t := range w.Tests {
		names = append(names, `(.*\.)?`+regexp.QuoteMeta(t.Names[len(t.Names)-1]))
	}
	for _, f := range w.Files {
		names = append(names, regexp.QuoteMeta(strings.TrimSuffix(path.Base(f), path.Ext(f))))
	}
	if len(names) > 0 {
		line += ` -R "$2"`
	}
	return []string{"sh", "-c", line, "sh", w.Report, "^(" + strings.Join(names, "|") + ")$"}
}
