// Command problems measures what the program finds wrong. With a folder it prints what is found there, in code that is taken to
// be right, and how often. With -seed it makes faults in the files of the folder, one at a time: a bracket taken out, a name
// misspelled, an import taken out, a type changed, and says how many of them are found; nothing is written to disk.
//
//	go run ./scripts/problems [-seed N] [-most N] DIR
package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/workspace"
)

func main() {
	seeds := flag.Int("seed", 0, "make so many faults of each kind in each language")
	most := flag.Int("most", 100, "print so many problems")
	flag.Parse()
	ctx := context.Background()
	root, err := project.CheckFolder(flag.Arg(0))
	if err != nil {
		log.Fatal(err)
	}
	ws := workspace.New(root)
	if err := ws.Code.Read(ctx); err != nil {
		log.Fatal(err)
	}
	if err := ws.Code.Check(ctx, check.Fast); err != nil {
		log.Fatal(err)
	}
	if *seeds > 0 {
		seeded(ctx, ws, *seeds)
		return
	}
	count(ctx, ws, *most)
}

// count prints what is found, and how often, by languages and kinds.
func count(ctx context.Context, ws *workspace.Workspace, most int) {
	lines, kinds := map[string]int{}, map[string]int{}
	for f := range ws.Code.Listing().Files() {
		if l := ws.Code.Languages().Of(f.Path); l != nil {
			lines[l.Name] += bytes.Count(ws.Code.Text(f.Path), []byte("\n"))
		}
	}
	var all []problem.Problem
	if _, err := ws.Problems.All(ctx, ".", true, func(found []problem.Problem) bool { all = append(all, found...); return true }); err != nil {
		log.Fatal(err)
	}
	problem.Sort(all)
	for i, p := range all {
		kinds[ws.Code.Languages().Of(p.Path).Name+" "+string(p.Kind)]++
		if i < most {
			fmt.Printf("%s:%d:%d: %s (%s)\n", p.Path, p.Line, p.Col, p.Text, p.Kind)
		}
	}
	for l, n := range lines {
		fmt.Printf("= %-12s %8d lines", l, n)
		for _, k := range problem.Kinds {
			if n := kinds[l+" "+string(k)]; n > 0 {
				fmt.Printf("  %s %d", k, n)
			}
		}
		fmt.Println()
	}
}

// fault makes a fault of a file; ok is false where it has no place for one.
type fault struct {
	name string
	make func(r *rand.Rand, f *codebase.File) (edit text.Edit, ok bool)
}

var faults = []fault{{"a bracket taken out", bracket}, {"a name misspelled", name}, {"an import taken out", imported}, {"a member misspelled", member}, {"a type changed", typed}}

func bracket(r *rand.Rand, f *codebase.File) (text.Edit, bool) {
	data := f.Text.Bytes()
	var at []int
	for i, b := range data {
		if strings.IndexByte("(){}[]", b) >= 0 && !inProse(f, i) {
			at = append(at, i)
		}
	}
	if len(at) == 0 {
		return text.Edit{}, false
	}
	i := at[r.IntN(len(at))]
	return text.Edit{Start: i, End: i + 1}, true
}

func name(r *rand.Rand, f *codebase.File) (text.Edit, bool) { return misspelled(r, f, false) }

func member(r *rand.Rand, f *codebase.File) (text.Edit, bool) { return misspelled(r, f, true) }

// misspelled takes out a letter of a name that is used.
func misspelled(r *rand.Rand, f *codebase.File, member bool) (text.Edit, bool) {
	var uses []facts.Use
	for _, u := range f.Facts.Uses {
		if len(u.Name) > 3 && (u.Base != facts.NoExpr) == member && u.Role != facts.ImportUse && u.Role != facts.Write && int(u.At.Len()) == len(u.Name) && !inProse(f, int(u.At.Start)) {
			uses = append(uses, u)
		}
	}
	if len(uses) == 0 {
		return text.Edit{}, false
	}
	u := uses[r.IntN(len(uses))]
	i := int(u.At.Start) + 1 + r.IntN(len(u.Name)-2)
	return text.Edit{Start: i, End: i + 1}, true
}

// imported takes out the line of an import that is on one line.
func imported(r *rand.Rand, f *codebase.File) (text.Edit, bool) {
	var lines []int
	for _, i := range f.Facts.Imports {
		line, _ := f.Text.Position(int(i.At.Start))
		words := strings.TrimSpace(string(f.Text.Line(line)))
		if i.At.Len() > 0 && !slices.Contains(lines, line) && (strings.HasPrefix(words, "import ") && !strings.HasSuffix(words, "(") || strings.HasPrefix(words, "from ") && !strings.HasSuffix(words, "(") || strings.HasPrefix(words, `"`)) {
			lines = append(lines, line)
		}
	}
	if len(lines) == 0 {
		return text.Edit{}, false
	}
	line := lines[r.IntN(len(lines))]
	start := f.Text.Offset(line, 1)
	return text.Edit{Start: start, End: start + len(f.Text.Line(line))}, true
}

// types are those that are made into others.
var types = regexp.MustCompile(`\b(int|string|bool|float64)\b`)

// typed makes another type of one.
func typed(r *rand.Rand, f *codebase.File) (text.Edit, bool) {
	all := types.FindAllIndex(f.Text.Bytes(), -1)
	all = slices.DeleteFunc(all, func(at []int) bool { return inProse(f, at[0]) })
	if len(all) == 0 {
		return text.Edit{}, false
	}
	at := all[r.IntN(len(all))]
	other := "string"
	if string(f.Text.Slice(at[0], at[1])) == other {
		other = "bool"
	}
	return text.Edit{Start: at[0], End: at[1], New: []byte(other)}, true
}

// inProse says whether an offset lies in a comment or a string.
func inProse(f *codebase.File, at int) bool {
	_, said := languages.Signs(f.Path).Runs(f.Text.Bytes()).At(at)
	return said
}

// languages are those that are read.
var languages = catalog.Set()

// seeded makes faults, one at a time, and prints how many are found.
func seeded(ctx context.Context, ws *workspace.Workspace, n int) {
	byLanguage := map[string][]string{}
	for f := range ws.Code.Listing().Files() {
		l := ws.Code.Languages().Of(f.Path)
		if l != nil && l.Code.Is() && (ws.Code.Checked(l) == nil || ws.Code.Checked(l).Single || ws.Code.Checked(l).Checked(f.Path)) && !ws.Code.Languages().IsTest(f.Path) && !strings.Contains(f.Path, "testdata") {
			byLanguage[l.Name] = append(byLanguage[l.Name], f.Path)
		}
	}
	r := rand.New(rand.NewPCG(1, 2))
	for language, files := range byLanguage {
		slices.Sort(files)
		if len(files) < 5 {
			continue
		}
		for _, kind := range faults {
			made, found := 0, 0
			for range n * 4 {
				if made == n {
					break
				}
				f, err := ws.Code.OnDisk(ctx, files[r.IntN(len(files))])
				if err != nil || f.Facts == nil || f.Text.Binary() {
					continue
				}
				edit, ok := kind.make(r, f)
				if !ok {
					continue
				}
				made++
				if isFound(ctx, ws, f, edit) {
					found++
				}
			}
			if made > 0 {
				fmt.Printf("%-12s %-22s %4d made %4d found %4d %%\n", language, kind.name, made, found, found*100/made)
			}
		}
	}
}

// isFound says whether something is told of the file with a fault that was not without it.
func isFound(ctx context.Context, ws *workspace.Workspace, f *codebase.File, edit text.Edit) bool {
	before := told(ctx, ws, f.Path)
	ws.Code.Write(ctx, f.Path, f.Text.Apply([]text.Edit{edit}))
	if err := ws.Code.CheckAround(ctx, f.Path); err != nil {
		log.Fatal(err)
	}
	after := told(ctx, ws, f.Path)
	ws.Code.Write(ctx, f.Path, f.Text)
	ws.Code.Settle(ctx, f.Path, f.Text)
	for words, n := range after {
		if n > before[words] {
			return true
		}
	}
	return false
}

func told(ctx context.Context, ws *workspace.Workspace, p string) map[string]int {
	words := map[string]int{}
	all, err := ws.Problems.In(ctx, p)
	if err != nil {
		log.Fatal(err)
	}
	for _, p := range all {
		words[p.Text]++
	}
	return words
}
