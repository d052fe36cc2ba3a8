package facts_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang/catalog"
)

func TestModifiers(t *testing.T) {
	for _, c := range []struct {
		file, text, name string
		want             []string
	}{
		{"a.java", "class A { public static final int N = 1; }", "N", []string{"public", "static", "final"}},
		{"a.cs", "class A { protected override async Task Run() {} }", "Run", []string{"protected", "override", "async"}},
		{"a.rs", "pub(crate) const unsafe fn ring() {}", "ring", []string{"pub", "const", "unsafe"}},
		{"a.kt", "private suspend fun ring() {}", "ring", []string{"private", "suspend"}},
		{"a.ts", "export abstract class Bell {}", "Bell", []string{"export", "abstract"}},
		{"a.go", "package a\n\nfunc ring() {}\n", "ring", nil},
	} {
		f, err := catalog.Set().Of(c.file).Facts(context.Background(), []byte(c.text))
		require.NoError(t, err)
		for i := range f.Defs {
			if f.Defs[i].Name == c.name {
				assert.Equal(t, c.want, f.Defs[i].Modifiers([]byte(c.text)), c.text)
			}
		}
	}
}
