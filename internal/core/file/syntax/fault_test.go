package syntax

import (
	"context"
	"testing"

	"github.com/smacker/go-tree-sitter/java"
	"github.com/smacker/go-tree-sitter/javascript"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// told are the faults of a text of Java, each with where it is.
func told(t *testing.T, text string) (all []string) {
	found, err := NewGrammar(java.GetLanguage()).Faults(context.Background(), []byte(text))
	require.NoError(t, err)
	for _, f := range found {
		all = append(all, string(f.At.In([]byte(text)))+" "+f.Text)
	}
	return all
}

func TestFaults(t *testing.T) {
	for text, want := range map[string][]string{
		"class A {\n    void b() {\n        if (c) {\n            d();\n    }\n    void e() {}\n}\n": {"{ this { is not closed: } is missing"},
		"class A {\n    void b() {\n        d();\n    }\n    }\n}\n":                                 {"} nothing opens this }"},
		"class A {\n    void b( {\n    }\n}\n":                                                       {"( this ( is not closed: ) is missing"},
		"class A {\n    int b = 1\n}\n":                                                              {"1 ; is missing"},
		"class A {\n    int b = {(1, \"}\")};\n}\n":                                                  nil,
		"": nil,
	} {
		got := told(t, text)
		if want == nil {
			for _, g := range got {
				assert.NotContains(t, g, "closed", text)
			}
			continue
		}
		assert.Equal(t, want, got, text)
	}
}

// Whatever the text, what is told lies within it.
func FuzzFaults(f *testing.F) {
	for _, seed := range []string{"function a( { return [1, 2 }", "`${a}` }}} ((( [", "a => {", "\x00{\xff", "x = /[)]/ ("} {
		f.Add(seed)
	}
	g := NewGrammar(javascript.GetLanguage())
	f.Fuzz(func(t *testing.T, text string) {
		found, err := g.Faults(context.Background(), []byte(text))
		if err != nil {
			return
		}
		for _, x := range found {
			if x.At.Start > x.At.End || int(x.At.End) > len(text) || x.Text == "" {
				t.Fatalf("%v of %q", x, text)
			}
		}
	})
}
