package golang

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/syntax"
)

func TestBracketsThatAreNeverClosed(t *testing.T) {
	for _, open := range []string{"{", "(", "[", "f(", "func() {"} {
		_, err := Facts(context.Background(), []byte("package a\nfunc f() {"+strings.Repeat(open, 100_000)))
		require.ErrorIs(t, err, syntax.ErrTooDeep, open)
	}
	f, err := Facts(context.Background(), []byte("package a\n// "+strings.Repeat("{", 100_000)+"\nvar s = \""+strings.Repeat("(", 100_000)+"\"\nfunc g() {}\n"))
	require.NoError(t, err, "what stands in comments and strings opens nothing")
	assert.Len(t, f.Symbols(), 2)
}
