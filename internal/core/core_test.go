// Package core_test checks a rule that holds for all of the core.
package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The core is computation; whatever knows of terminals belongs to the screens.
func TestCoreKnowsNoTerminal(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "./...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		for _, forbidden := range []string{"charm.land/", "charmbracelet/", "rooktrail/internal/ui", "rooktrail/internal/cli", "golang.org/x/term", "spf13/cobra"} {
			assert.NotContains(t, p, forbidden)
		}
	}
}

// Work that may be left behind when it hangs cannot have an owner who waits for it.
var mayHang = []string{"work/work.go", "file/syntax/tree.go", "disk/system/programs.go"}

// All other work beside something else is begun by a work.Group, so that somebody waits for it and a
// failure in it is not the end of the program. (The type checker's own group guards each package.)
func TestNoWorkWithoutAnOwner(t *testing.T) {
	require.NoError(t, filepath.WalkDir("..", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(p, ".go") || strings.HasSuffix(p, "_test.go") {
			return err
		}
		for _, allowed := range mayHang {
			if filepath.ToSlash(p) == "../core/"+allowed {
				return nil
			}
		}
		fset := token.NewFileSet()
		tree, err := parser.ParseFile(fset, p, nil, 0)
		if err != nil {
			return err
		}
		ast.Inspect(tree, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.GoStmt:
				t.Errorf("%s: work is begun beside its owner", fset.Position(n.Pos()))
			case *ast.SelectorExpr:
				x, ok := n.X.(*ast.Ident)
				if ok && x.Name == "sync" && n.Sel.Name == "WaitGroup" {
					t.Errorf("%s: a group whose work can end the program", fset.Position(n.Pos()))
				}
			}
			return true
		})
		return nil
	}))
}

// mostMethods is how many exported methods the workspace may have, and each of its parts:
// what has more is a house, not a door.
const mostMethods = 60

// The workspace is the door to the core, and hands out what is behind it as a few parts.
func TestDoorsStayDoors(t *testing.T) {
	methods := map[string]int{}
	doors := []string{"codebase", "search", "answer", "lists", "workspace"}
	require.NoError(t, filepath.WalkDir(".", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(p, ".go") || strings.HasSuffix(p, "_test.go") || !slices.Contains(doors, filepath.Base(filepath.Dir(p))) {
			return err
		}
		tree, err := parser.ParseFile(token.NewFileSet(), p, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		for _, decl := range tree.Decls {
			f, ok := decl.(*ast.FuncDecl)
			if !ok || f.Recv == nil || !f.Name.IsExported() {
				continue
			}
			of := f.Recv.List[0].Type
			if star, ok := of.(*ast.StarExpr); ok {
				of = star.X
			}
			if name, ok := of.(*ast.Ident); ok {
				methods[filepath.ToSlash(filepath.Dir(p))+"."+name.Name]++
			}
		}
		return nil
	}))
	for _, of := range []string{"codebase.Base", "search.Searcher", "answer.Guide", "lists.Keeper", "workspace.Workspace"} {
		at := slices.IndexFunc(slices.Collect(maps.Keys(methods)), func(m string) bool { return m == of || strings.HasSuffix(m, "/"+of) })
		assert.GreaterOrEqual(t, at, 0, "%s is among them", of)
	}
	for of, n := range methods {
		assert.LessOrEqual(t, n, mostMethods, of)
	}
}

// rooms are the folders of the core, from the lowest up; those on one line know nothing of each
// other.
var rooms = [][]string{{"work"}, {"report"}, {"disk"}, {"file"}, {"draw"}, {"know"}, {"keep", "change"}, {"overlook", "problem", "tests"}, {"mend"}, {"workspace"}}

// The order of the rooms is that of the imports: none knows of one above it, nor beside it.
func TestRoomsStandOneAboveTheOther(t *testing.T) {
	floor := map[string]int{}
	for i, names := range rooms {
		for _, name := range names {
			floor[name] = i
		}
	}
	const core = "rooktrail/internal/core/"
	room := func(pkg string) string {
		name, _, _ := strings.Cut(strings.TrimPrefix(pkg, core), "/")
		return name
	}
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "./...").Output()
	require.NoError(t, err)
	seen := map[string]bool{}
	for line := range strings.Lines(string(out)) {
		packages := strings.Fields(line)
		if !strings.HasPrefix(packages[0], core) {
			continue
		}
		from := room(packages[0])
		_, known := floor[from]
		assert.True(t, known, "%s is in no room", packages[0])
		seen[from] = true
		for _, p := range packages[1:] {
			if to := room(p); strings.HasPrefix(p, core) && to != from {
				assert.Less(t, floor[to], floor[from], "%s imports %s", packages[0], p)
			}
		}
	}
	assert.Len(t, seen, len(floor))
}
