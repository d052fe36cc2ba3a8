package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// declared are the names that the packages of the project declare, as package.Name and
// package.Type.Method or package.Type.field, and the last two parts of the paths of all files.
func declared(t *testing.T) (names, packages, files map[string]bool) {
	names, packages, files = map[string]bool{}, map[string]bool{}, map[string]bool{}
	require.NoError(t, filepath.WalkDir("..", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || path.Ext(p) != ".go" || strings.Contains(filepath.ToSlash(p), "/testdata/") {
			return err
		}
		files[path.Join(path.Base(path.Dir(filepath.ToSlash(p))), path.Base(p))] = true
		tree, err := parser.ParseFile(token.NewFileSet(), p, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		pkg := tree.Name.Name
		packages[pkg] = true
		for _, decl := range tree.Decls {
			for _, name := range namesIn(decl) {
				names[pkg+"."+name] = true
			}
		}
		return nil
	}))
	return names, packages, files
}

// namesIn are the names that a declaration declares; those of methods and fields stand behind their type.
func namesIn(decl ast.Decl) (names []string) {
	if f, ok := decl.(*ast.FuncDecl); ok {
		if f.Recv == nil {
			return []string{f.Name.Name}
		}
		of := f.Recv.List[0].Type
		if star, ok := of.(*ast.StarExpr); ok {
			of = star.X
		}
		if id, ok := of.(*ast.Ident); ok {
			return []string{id.Name + "." + f.Name.Name, f.Name.Name}
		}
		return nil
	}
	for _, spec := range decl.(*ast.GenDecl).Specs {
		switch spec := spec.(type) {
		case *ast.ValueSpec:
			for _, id := range spec.Names {
				names = append(names, id.Name)
			}
		case *ast.TypeSpec:
			names = append(names, spec.Name.Name)
			var members *ast.FieldList
			switch of := spec.Type.(type) {
			case *ast.StructType:
				members = of.Fields
			case *ast.InterfaceType:
				members = of.Methods
			}
			if members == nil {
				continue
			}
			for _, field := range members.List {
				for _, id := range field.Names {
					names = append(names, spec.Name.Name+"."+id.Name)
				}
			}
		}
	}
	return names
}

// What the pages about the code name in it is there.
func TestThePagesNameWhatIsThere(t *testing.T) {
	names, packages, files := declared(t)
	quoted := regexp.MustCompile("`([^`\n]+)`")
	name := regexp.MustCompile(`^([a-z]+)((?:\.[A-Za-z]\w*)+)$`)
	file := regexp.MustCompile(`^(?:[a-z/]*/)?([a-z]+/[a-z_]+\.go)$`)
	checked := 0
	for _, page := range []string{"architecture.md", "languages.md"} {
		text, err := os.ReadFile(filepath.Join("..", "..", "docs", page))
		require.NoError(t, err)
		for _, m := range quoted.FindAllStringSubmatch(string(text), -1) {
			said, _, _ := strings.Cut(m[1], "(")
			said, _, _ = strings.Cut(said, "{")
			if f := file.FindStringSubmatch(said); f != nil {
				checked++
				assert.True(t, files[f[1]], "%s names the file %s", page, said)
			}
			n := name.FindStringSubmatch(said)
			if n == nil || !packages[n[1]] || strings.HasSuffix(said, ".go") || strings.HasSuffix(said, ".mod") {
				continue
			}
			checked++
			assert.True(t, names[n[1]+n[2]] || names[n[1]+"."+path.Ext(said)[1:]], "%s names %s", page, said)
		}
	}
	assert.Greater(t, checked, 60, "they name many things")
}
