package javascript

import (
	"bytes"
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
)

// faults finds what cannot be read. The types that may be written are more than the grammar knows, so of those only brackets
// are told.
func faults(name string, g *syntax.Grammar) func(ctx context.Context, text []byte) ([]syntax.Fault, error) {
	if name == typescriptName {
		return g.Brackets
	}
	return func(ctx context.Context, text []byte) ([]syntax.Fault, error) {
		if bytes.Contains(text[:min(len(text), 2000)], []byte("@flow")) {
			return g.Brackets(ctx, text)
		}
		return g.Faults(ctx, text)
	}
}

// hasToLead says whether an import has to lead to a file of the project: one by a relative path, to code that is not made by a
// build.
func hasToLead(i facts.Imported, _ []byte) bool {
	if !strings.HasPrefix(i.Path, "./") && !strings.HasPrefix(i.Path, "../") || strings.ContainsAny(i.Path, "!?*$") {
		return false
	}
	ending := path.Ext(i.Path)
	return ending == "" || slices.Contains([]string{".js", ".ts", ".tsx", ".jsx", ".mjs", ".cjs"}, ending)
}

// wanting says whether a name that could be imported has to be: types may be those of a page, of which nothing is known here, and
// some names are given by what the grammar does not know.
func wanting(u facts.Use, text []byte) bool {
	before := bytes.TrimRight(text[:u.At.Start], " \t")
	named := bytes.HasSuffix(before, []byte("import")) || bytes.HasSuffix(before, []byte("[")) && bytes.HasPrefix(text[u.At.End:], []byte(":"))
	return u.Role != facts.TypeUse && !named
}
