package javascript

import (
	"bytes"
	"encoding/json"
	"maps"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/lang"
)

const manifestName = "package.json"

var trying = &lang.Trying{
	Proposing: []string{manifestName},
	Propose:   scripts,
	Runners: []lang.Runner{
		runner("vitest", func(w lang.TestsWanted) []string {
			return append(chosenTests(w, "-t", " "), w.Files...)
		}, "run", "--reporter=default", "--reporter=junit", "--outputFile.junit="),
		runner("mocha", func(w lang.TestsWanted) []string {
			return append(chosenTests(w, "-g", " "), w.Files...)
		}, "--reporter", "xunit", "--reporter-option", "output="),
		{Name: "node --test", Program: "node", Marks: []string{manifestName}, Anywhere: true, Suits: forNode, Command: nodeTest},
	},
}

// runner is one that is installed among the packages of the project; the last of the arguments is followed by the path of the report.
func runner(name string, which func(lang.TestsWanted) []string, args ...string) lang.Runner {
	return lang.Runner{
		Name: name, Program: "./node_modules/.bin/" + name, Marks: []string{manifestName},
		Suits: func(_, says []byte) bool { return bytes.Contains(says, []byte(`"`+name+`"`)) },
		Command: func(w lang.TestsWanted) []string {
			all := append([]string{"./node_modules/.bin/" + name}, args...)
			all[len(all)-1] += w.Report
			return append(all, which(w)...)
		},
	}
}

// chosenTests are the arguments by which tests are chosen by name.
func chosenTests(w lang.TestsWanted, flag, between string) []string {
	var names []string
	for _, t := range w.Tests {
		names = append(names, regexp.QuoteMeta(strings.Join(t.Names, between)))
	}
	if len(names) == 0 {
		return nil
	}
	return []string{flag, strings.Join(names, "|")}
}

// forNode says whether node itself runs the tests of a file.
func forNode(test, _ []byte) bool {
	return bytes.Contains(test, []byte("node:test")) || bytes.Contains(test, []byte(`require('test')`))
}

// nodeTest runs tests by their own names: those around them are run, too, so that they are reached.
func nodeTest(w lang.TestsWanted) []string {
	args := []string{"node", "--test", "--test-reporter=spec", "--test-reporter-destination=stdout", "--test-reporter=tap", "--test-reporter-destination=" + w.Report}
	for _, t := range w.Tests {
		args = append(args, "--test-name-pattern=^"+regexp.QuoteMeta(t.Names[len(t.Names)-1])+"$")
	}
	if len(w.Files) == 0 && w.Folder != "." {
		return append(args, w.Folder)
	}
	return append(args, w.Files...)
}

// scripts are those that a manifest has.
func scripts(_ string, text []byte) (all []lang.Command) {
	var manifest struct {
		Scripts map[string]string `json:"scripts"`
	}
	if json.Unmarshal(text, &manifest) != nil {
		return nil // what is wrong with it is told in the file itself
	}
	for _, name := range slices.Sorted(maps.Keys(manifest.Scripts)) {
		line := "npm run " + name
		if name == "test" || name == "start" {
			line = "npm " + name
		}
		all = append(all, lang.Command{Line: line, What: manifest.Scripts[name]})
	}
	return all
}
