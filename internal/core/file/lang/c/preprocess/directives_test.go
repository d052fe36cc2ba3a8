package preprocess

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is judged later is judged as what is judged at once.
func TestWhatIsSettledLater(t *testing.T) {
	text := "#define QUIET\n#define API __attribute__((used)) QUIET\n#define OPEN extern \"C\" {\n#define SUM(a, b) ((a) + (b))\n#define MAKE(x) struct x { int l; };\n" +
		"#define LONG " + strings.Repeat("+ 1 ", mostOfPlain) + "\n#if SUM(1, 0)\n#define ON 1\n#else\n#define OFF 1\n#endif\n#define AGAIN AGAIN ;\n#undef AGAIN\n"
	at := Read([]byte(text))
	now := at.Macros(false, Options{})
	later, ok := at.Unsettled(false, Options{})
	require.True(t, ok)
	matter := 0
	for name, m := range later {
		assert.False(t, m.Settled(), name)
		if !m.Settle() {
			assert.Nil(t, now[name], name)
			continue
		}
		matter++
		require.NotNil(t, now[name], name)
		assert.Equal(t, now[name].effect, m.effect, name)
		assert.Equal(t, now[name].Digest(name), m.Digest(name), name)
	}
	assert.Len(t, now, matter)
	assert.Equal(t, []effect{hide, open, none, declares}, []effect{now["API"].effect, now["OPEN"].effect, now["SUM"].effect, now["MAKE"].effect})
	assert.Nil(t, now["OFF"])
	_, ok = Read([]byte(strings.Repeat("#define A 1\n", mostPlain+1))).Unsettled(false, Options{})
	assert.False(t, ok, "of a table, which of them matter depends on all")
}
