package c

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func registers(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "#define mmSLOPE_%d   0x%04x\n", i, i)
		if i%3 == 0 {
			fmt.Fprintf(&b, "/* the slope of %d */\n#define mmSLOPE_%d_SHIFT (0x%x << 3)  \n\n// and more\n", i, i, i)
		}
	}
	return b.String()
}

// A table gives what the grammar gives.
func TestTablesAreReadAsByTheGrammar(t *testing.T) {
	text := registers(900)
	texts := map[string]string{
		"bare":    text,
		"guarded": "/*\n * Of the valley.\n */\n#ifndef _SLOPES_H\n#define _SLOPES_H\n\n" + text + "#endif\n",
		"behind":  "// Slopes\n#ifndef _SLOPES_H\n#define _SLOPES_H\n" + text + "#endif /* _SLOPES_H */\n\n",
		"windows": strings.ReplaceAll(text, "\n", "\r\n"),
		"no end":  text + "#define mmLAST 3",
	}
	if dir := os.Getenv("TABLES"); dir != "" {
		require.NoError(t, filepath.WalkDir(dir, func(p string, d os.DirEntry, err error) error {
			if err == nil && strings.HasSuffix(p, ".h") {
				data, err := os.ReadFile(p)
				texts[p] = string(data)
				return err
			}
			return err
		}))
	}
	for name, text := range texts {
		table := tableOf(plainName, []byte(text))
		if table == nil {
			assert.NotContains(t, "bare guarded behind windows no end", name)
			continue
		}
		want, err := plain.Facts(t.Context(), []byte(text))
		require.NoError(t, err)
		require.Len(t, table.Defs, len(want.Defs), name)
		for i := range want.Defs {
			require.Equal(t, want.Defs[i], table.Defs[i], name)
		}
		table.Defs, want.Defs = nil, nil
		require.Equal(t, want, table, name)
	}
}

func TestWhatIsNoTable(t *testing.T) {
	text := registers(900)
	for _, more := range []string{
		"int slope;\n", "#define SLOPE(x) x\n", "#if SLOPE\n#endif\n", "#include \"hut.h\"\n", "#define A \\\n 1\n", "#define A \"x\"\n",
		"/* open\n", "#endif\n", "#ifndef A\n#endif\n", "/* a */ int x;\n", "#define\n", "  int x;\n", "// more \\\nint x;\n", "#undef A\n", "#define A 'x'\n", "#define A 1 /* one */\n",
	} {
		assert.Nil(t, tableOf(plainName, []byte(text+more)), more)
	}
	assert.Nil(t, tableOf(plainName, []byte("#define A 1\n")), "it is small")
}
