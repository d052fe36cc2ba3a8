// Package ui_test checks rules that hold for all surfaces.
package ui_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// sources calls do with each source file below this folder that is no test.
func sources(t *testing.T, do func(file string, tree *ast.File, fset *token.FileSet)) {
	require.NoError(t, filepath.WalkDir(".", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(p, ".go") || strings.HasSuffix(p, "_test.go") {
			return err
		}
		fset := token.NewFileSet()
		tree, err := parser.ParseFile(fset, p, nil, 0)
		if err == nil {
			do(p, tree, fset)
		}
		return err
	}))
}

// A package that grows beyond this is to be parted, and so is a struct with more fields.
const (
	mostLines  = 2500
	mostFields = 25
)

func TestNoHouseInOneRoom(t *testing.T) {
	lines := map[string]int{}
	sources(t, func(file string, tree *ast.File, fset *token.FileSet) {
		lines[filepath.Dir(file)] += fset.Position(tree.End()).Line
		ast.Inspect(tree, func(n ast.Node) bool {
			if s, ok := n.(*ast.TypeSpec); ok {
				if st, ok := s.Type.(*ast.StructType); ok && file != "surface/intent.go" { // which is a list of all there is to be done
					assert.LessOrEqual(t, st.Fields.NumFields(), mostFields, "%s: %s", file, s.Name)
				}
			}
			return true
		})
	})
	for folder, n := range lines {
		assert.LessOrEqual(t, n, mostLines, folder)
	}
}

// Whatever is asked for has a context that ends with whoever asked, and all work beside the screen is
// begun by an asker.
func TestNoWorkWithoutAnOwner(t *testing.T) {
	sources(t, func(file string, tree *ast.File, fset *token.FileSet) {
		ast.Inspect(tree, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.GoStmt:
				t.Errorf("%s: work is begun beside its owner", fset.Position(n.Pos()))
			case *ast.SelectorExpr:
				if x, ok := n.X.(*ast.Ident); ok && x.Name == "context" && (n.Sel.Name == "Background" || n.Sel.Name == "TODO") && !strings.HasPrefix(file, "uitest/") {
					t.Errorf("%s: a context that nobody ends", fset.Position(n.Pos()))
				}
			}
			return true
		})
	})
}

var (
	keyName = regexp.MustCompile(`^(?:(?:ctrl|alt|shift)\+\S+|esc|enter|tab|space|backspace|pgup|pgdown)$`)
	// These are words, too: they name a key where something is compared with them.
	keyWord = regexp.MustCompile(`^(?:delete|up|down|left|right|home|end)$`)
)

// Every key is a binding that matches and documents at once: there are no others.
func TestEveryKeyIsABinding(t *testing.T) {
	sources(t, func(file string, tree *ast.File, fset *token.FileSet) {
		if base := filepath.Base(file); base == "keys.go" || strings.HasPrefix(file, "keymap/") || strings.HasPrefix(file, "keyboard/") || strings.HasPrefix(file, "uitest/") {
			return
		}
		bound, compared := map[ast.Node]bool{}, map[ast.Node]bool{} // with keymap.On, or with something else
		ast.Inspect(tree, func(n ast.Node) bool {
			if c, ok := n.(*ast.CallExpr); ok {
				if f, ok := c.Fun.(*ast.SelectorExpr); ok && f.Sel.Name == "On" {
					for _, a := range c.Args {
						bound[a] = true
					}
				}
			}
			switch n := n.(type) {
			case *ast.BinaryExpr:
				compared[n.X], compared[n.Y] = true, true
			case *ast.CaseClause:
				for _, e := range n.List {
					compared[e] = true
				}
			}
			l, ok := n.(*ast.BasicLit)
			if !ok || l.Kind != token.STRING || bound[l] {
				return true
			}
			if word := strings.Trim(l.Value, "`\""); keyName.MatchString(word) || keyWord.MatchString(word) && compared[l] {
				t.Errorf("%s: %s is the name of a key", fset.Position(l.Pos()), l.Value)
			}
			return true
		})
	})
}

// keyInWords is a key of roam that is named in a message, such as "S brings it back".
var keyInWords = regexp.MustCompile(`(?:^|[ ;,(])(?:[A-Za-z?/;*#\[\]]|[A-Z] [A-Za-z]|Ctrl\+\w|Alt\+\w) (?:goes|shows|lists|lays|brings|opens|closes|leads|finds|makes|gives|takes|hands|writes|walks|saves|undoes|leaves|unlocks|ticks|marks|begins) `)

// Messages name keys by the actions they are for, since the keys may be others: {back}, not b.
func TestMessagesNameNoKeys(t *testing.T) {
	sources(t, func(file string, tree *ast.File, fset *token.FileSet) {
		if strings.HasPrefix(file, "keymap/") || strings.HasSuffix(file, "keys.go") {
			return
		}
		ast.Inspect(tree, func(n ast.Node) bool {
			if l, ok := n.(*ast.BasicLit); ok && l.Kind == token.STRING {
				if found := keyInWords.FindString(l.Value); found != "" && !strings.HasSuffix(found, " a goes ") {
					assert.Empty(t, found, "%s: %s", fset.Position(l.Pos()), l.Value)
				}
			}
			return true
		})
	})
	assert.Regexp(t, keyInWords, "alone on the screen; S brings the rest back")
}
