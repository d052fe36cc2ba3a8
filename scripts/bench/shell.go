package main

import (
	"bytes"
	"fmt"
	"io/fs"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// shellLines is how many lines the project has about which the shell asks.
const shellLines = 1_000_000

// fromTheShell times a question about a name in a project that is indexed, against
// starting the program and doing nothing. The project is a copy of a part of another
// one, since that may be of any size.
func fromTheShell(program, from string) row {
	folder, err := os.MkdirTemp("", "rooktrail-bench-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	root := filepath.Join(folder, "project")
	lines := copyLines(from, root, shellLines)
	env := append(os.Environ(), "XDG_CACHE_HOME="+filepath.Join(folder, "cache"), "XDG_DATA_HOME="+filepath.Join(folder, "data"))
	run := func(args ...string) time.Duration {
		cmd := exec.Command(program, args...)
		cmd.Env = env
		started := time.Now()
		out, err := cmd.CombinedOutput()
		if err != nil {
			log.Fatalf("%s %s: %v\n%s", program, strings.Join(args, " "), err, out)
		}
		return time.Since(started)
	}
	run("index", root)
	const ask = "net/http/server.go:2814:45"
	var nothing, asked []time.Duration
	for range 15 {
		nothing = append(nothing, run("--version"))
		asked = append(asked, run("definition", "--root", root, ask))
	}
	slices.Sort(nothing)
	slices.Sort(asked)
	return row{fmt.Sprintf("definition from the shell, %d lines, median", lines), ms(asked[len(asked)/2]), ms(nothing[len(nothing)/2]), "ms", "≤ 3 × starting and doing nothing"}
}

// copyLines copies files of a project, folder by folder, those of net/http first,
// until there are so many lines.
func copyLines(from, to string, lines int) (copied int) {
	var files []string
	if err := filepath.WalkDir(from, func(p string, d fs.DirEntry, err error) error {
		if err == nil && d.Type().IsRegular() && (filepath.Ext(p) == ".go" || d.Name() == "go.mod") {
			files = append(files, p)
		}
		return err
	}); err != nil {
		log.Fatal(err)
	}
	first := filepath.Join(from, "net", "http") + string(filepath.Separator)
	slices.SortStableFunc(files, func(a, b string) int {
		switch x, y := strings.HasPrefix(a, first), strings.HasPrefix(b, first); {
		case x && !y:
			return -1
		case y && !x:
			return 1
		}
		return 0
	})
	old := time.Now().Add(-time.Hour)
	for _, f := range files {
		if copied >= lines {
			break
		}
		data, err := os.ReadFile(f)
		if err != nil {
			log.Fatal(err)
		}
		rel, err := filepath.Rel(from, f)
		if err != nil {
			log.Fatal(err)
		}
		target := filepath.Join(to, rel)
		if err := os.MkdirAll(filepath.Dir(target), 0o755); err == nil {
			err = os.WriteFile(target, data, 0o600)
		}
		if err != nil {
			log.Fatal(err)
		}
		copied += bytes.Count(data, []byte{'\n'})
	}
	// A folder to which something has just come is not trusted to be known.
	if err := filepath.WalkDir(to, func(p string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() {
			err = os.Chtimes(p, old, old)
		}
		return err
	}); err != nil {
		log.Fatal(err)
	}
	return copied
}
