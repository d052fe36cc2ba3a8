package syntax

import (
	"context"
	"strings"
	"testing"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/kotlin"
	"github.com/smacker/go-tree-sitter/python"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const sample = `class Roster:
    def assign(self, callout: Callout) -> Team:
        return self.free[0]  # the nearest
`

func TestFlatTreeIsTheParsersTree(t *testing.T) {
	g := NewGrammar(python.GetLanguage())
	tree, err := Parse(context.Background(), g, []byte(sample))
	require.NoError(t, err)
	root, err := sitter.ParseCtx(context.Background(), []byte(sample), python.GetLanguage())
	require.NoError(t, err)
	assert.Equal(t, root.String(), tree.Root().String())
	compare(t, root, tree.Root())
}

func compare(t *testing.T, want *sitter.Node, got Node) {
	t.Helper()
	require.Equal(t, want.Type(), got.Type())
	require.Equal(t, want.Content([]byte(sample)), got.Text())
	require.Equal(t, want.IsNamed(), got.Named())
	i := 0
	for c := range got.Children() {
		compare(t, want.Child(i), c)
		i++
	}
	require.EqualValues(t, want.ChildCount(), i)
}

func TestFields(t *testing.T) {
	g := NewGrammar(python.GetLanguage())
	tree, err := Parse(context.Background(), g, []byte(sample))
	require.NoError(t, err)
	class := tree.Root().First("class_definition")
	assert.Equal(t, "Roster", class.Child(g.Field("name")).Text())
	assert.False(t, class.Child(g.Field("no_such_field")).OK())
	assert.Equal(t, "", Node{}.Type())
}

func TestTooDeepIsAnError(t *testing.T) {
	g := NewGrammar(python.GetLanguage())
	_, err := Parse(context.Background(), g, []byte(strings.Repeat("(", 20000)+strings.Repeat(")", 20000)))
	require.ErrorIs(t, err, ErrTooDeep)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = Parse(ctx, g, []byte(strings.Repeat(sample, 2000)))
	require.ErrorIs(t, err, context.Canceled)
}

// A grammar that ends the program where it does not know any further costs the
// file only.
func TestAParserThatGivesUpIsAnError(t *testing.T) {
	g := NewGrammar(kotlin.GetLanguage())
	_, err := Parse(context.Background(), g, []byte(strings.Repeat(`"${`, 3000)))
	require.ErrorIs(t, err, ErrDied)
	tree, err := Parse(context.Background(), g, []byte("fun ring() {}"))
	require.NoError(t, err)
	assert.Equal(t, "function_declaration", tree.Root().First("function_declaration").Type())
}

func TestEmptyText(t *testing.T) {
	tree, err := Parse(context.Background(), NewGrammar(python.GetLanguage()), nil)
	require.NoError(t, err)
	assert.Equal(t, "module", tree.Root().Type())
}

func TestALineThatIsTooLong(t *testing.T) {
	g := NewGrammar(python.GetLanguage())
	line := strings.Repeat("f(1), ", longestLine/6+1)
	_, err := Parse(context.Background(), g, []byte("x = 1\ny = ["+line+"]\n"))
	require.ErrorIs(t, err, ErrTooLong)
	assert.True(t, IsForGood(err))
	assert.False(t, hasLongLine([]byte(line[:longestLine]+"\n"+line[:longestLine])))
	assert.False(t, hasLongLine(nil))
	assert.False(t, IsForGood(ErrStuck))
}
