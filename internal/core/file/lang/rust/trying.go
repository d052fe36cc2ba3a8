package rust

import (
	"bytes"
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/report"
)

var trying = &lang.Trying{
	Proposing: []string{"Cargo.toml"},
	Propose: func(_ string, text []byte) []lang.Command {
		return []lang.Command{{Line: "cargo build"}, {Line: "cargo test"}, {Line: "cargo clippy"}}
	},
	Runners: []lang.Runner{{
		Name: "cargo test", Program: "cargo", Marks: []string{"Cargo.toml"}, Suits: lang.Always,
		Command: cargo, Form: report.Cargo,
	}},
	IsTest: func(d *facts.Def, head []byte) bool {
		return d.Kind == facts.Function && (bytes.Contains(head, []byte("#[test]")) || bytes.Contains(head, []byte("::test]")) || bytes.Contains(head, []byte("::test(")))
	},
}

// cargo runs tests by what their names begin with, as the modules of files are.
func cargo(w lang.TestsWanted) []string {
	args := []string{"cargo", "test", "--color=always"}
	var names []string
	for _, f := range w.Files {
		switch dir := path.Base(path.Dir(f)); {
		case dir == "tests":
			args = append(args, "--test", strings.TrimSuffix(path.Base(f), ".rs"))
		case len(w.Tests) == 0:
			if m := moduleOf(f); m != "" {
				names = append(names, m+"::")
			}
		}
	}
	for _, t := range w.Tests {
		name := strings.Join(t.Names, "::")
		if m := moduleOf(w.Files[t.File]); m != "" {
			name = m + "::" + name
		}
		names = append(names, name)
	}
	if len(names) > 0 {
		args = append(append(args, "--"), names...)
	}
	return args
}

// moduleOf is the path of the module in a file, from the root of its crate; "" for that itself.
func moduleOf(file string) string {
	_, rest, ok := strings.Cut("/"+file, "/src/")
	if !ok {
		return ""
	}
	rest = strings.TrimSuffix(strings.TrimSuffix(rest, ".rs"), "/mod")
	if rest == "lib" || rest == "main" {
		return ""
	}
	return strings.ReplaceAll(rest, "/", "::")
}
