package highlight

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang/golang"
)

func TestTokensAndNames(t *testing.T) {
	code := "package x\n\n// Team goes out.\ntype Team struct{ n int }\n\nfunc (t Team) Go() string { return call(\"a\", 12) }\n"
	f, err := golang.Facts(context.Background(), []byte(code))
	require.NoError(t, err)
	spans := Text(context.Background(), "x.go", []byte(code), 0, f)
	got := map[string]Role{}
	end := 0
	for _, s := range spans {
		assert.GreaterOrEqual(t, s.Start, end, "they do not overlap")
		end = s.End
		got[strings.TrimSpace(code[s.Start:s.End])] = s.Role
	}
	for text, role := range map[string]Role{"package": Keyword, "// Team goes out.": Comment, "Go": Defined, "call": Function, `"a"`: String, "12": Number, "int": Type} {
		assert.Equal(t, role, got[text], text)
	}
	assert.Equal(t, spans[len(spans)-1:], spans.From(end-1))
	assert.Empty(t, spans.From(end))
}

func TestAPieceAndAnUnknownLanguage(t *testing.T) {
	spans := Text(context.Background(), "a.py", []byte("def f():\n"), 100, nil)
	require.NotEmpty(t, spans)
	assert.Equal(t, Span{100, 103, Keyword}, spans[0])
	assert.Empty(t, Text(context.Background(), "a.unknown", []byte("x"), 0, nil))
}
