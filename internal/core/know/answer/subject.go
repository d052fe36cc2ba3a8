package answer

import (
	"context"

	"rooktrail/internal/core/know/codebase"
)

// Subject is what a question at a byte offset of a file is about: the name there, or else the innermost
// function or type around it, or whose comment it is in, of which at is the offset of the name, and around what it is called; "" if the
// question is about the name at the offset itself.
func (g *Guide) Subject(ctx context.Context, p string, offset int) (at int, around string) {
	if g.resolver.Definition(ctx, p, offset).Name != "" {
		return offset, ""
	}
	f, err := g.code.Load(ctx, p)
	if err != nil {
		return offset, ""
	}
	if name, called, ok := codebase.Surrounds(f, offset); ok {
		return int(name.Start), called
	}
	return offset, ""
}
