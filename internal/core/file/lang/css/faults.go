package css

import (
	"bytes"
	"context"

	"rooktrail/internal/core/file/syntax"
)

// faults finds brackets that do not go together. Style sheets with variables and conditions of their own are let be: the grammar
// does not know these.
func faults(ctx context.Context, text []byte) ([]syntax.Fault, error) {
	for _, sign := range []string{"$", "#{", "@if", "@include", "@mixin", "//", "&"} {
		if bytes.Contains(text, []byte(sign)) {
			return nil, nil
		}
	}
	return language.Grammar.Brackets(ctx, text)
}
