package golang

import (
	"context"
	"go/ast"
	"go/parser"
	"go/token"

	"rooktrail/internal/core/file/place"
)

// Pieces reads where the parts of a file stand. Of a file with errors in it,
// that is what the parser makes of it.
func Pieces(_ context.Context, text []byte) ([]place.Range, error) {
	if err := tooDeep(text); err != nil {
		return nil, err
	}
	set := token.NewFileSet()
	file, _ := parser.ParseFile(set, "", text, parser.ParseComments|parser.SkipObjectResolution|parser.AllErrors)
	if file == nil {
		return nil, nil
	}
	base := set.File(file.FileStart).Base()
	var pieces []place.Range
	add := func(from, to token.Pos) {
		start, end := int(from)-base, int(to)-base
		if start >= 0 && end > start && end <= len(text) {
			pieces = append(pieces, place.Range{Start: uint32(start), End: uint32(end)})
		}
	}
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case nil:
			return true
		case *ast.File:
			add(n.FileStart, n.FileEnd)
		case *ast.FieldList:
			if n.Opening.IsValid() {
				add(n.Opening, n.Closing+1)
			}
			if len(n.List) > 0 {
				add(n.Pos(), n.End())
				add(n.List[0].Pos(), n.List[len(n.List)-1].End())
			}
		case *ast.CallExpr:
			if len(n.Args) > 0 {
				add(n.Args[0].Pos(), n.Args[len(n.Args)-1].End())
			}
			add(n.Pos(), n.End())
		case *ast.FuncDecl:
			add(n.Pos(), n.End())
			add(n.Type.Pos(), n.End()) // without the documentation
		default:
			add(n.Pos(), n.End())
		}
		return true
	})
	return pieces, nil
}
