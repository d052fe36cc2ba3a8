package reader_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/smacker/go-tree-sitter/javascript"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// A small language, written with the grammar of another one.
var (
	grammar = syntax.NewGrammar(javascript.GetLanguage()).WithoutBlanks()
	signs   = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}}
	rules   = reader.Rules{
		"identifier":                      reader.Name(),
		"property_identifier":             reader.Name(),
		"this":                            reader.Self(),
		"member_expression":               reader.Member(reader.Part("object"), reader.Part("property")),
		"call_expression":                 reader.Invocation(reader.Part("function"), reader.Part("arguments")),
		"new_expression":                  reader.Creation(reader.Part("constructor")),
		"assignment_expression":           reader.Assignment(reader.Part("left"), reader.Part("right")),
		"augmented_assignment_expression": reader.Assignment(reader.Part("left"), reader.Part("right")),
		"update_expression":               reader.Update(reader.Part("argument")),
		"parenthesized_expression":        reader.Same(reader.Nth(0)),
		"subscript_expression":            reader.Element(reader.Part("object")),
		"string":                          reader.Literal("string"),
		"statement_block":                 reader.Block(),
		"regex":                           reader.Nothing(),
		"variable_declarator": reader.Do(func(r *reader.Reader, n syntax.Node) {
			value := n.Part("value")
			r.Visit(value)
			r.Local(n, n.Part("name"), facts.Variable, facts.NoExpr, r.Expression(value))
		}),
		"function_declaration": reader.Do(func(r *reader.Reader, n syntax.Node) {
			body := n.Part("body")
			d := r.Begin(n, n.Part("name"), body, facts.Function)
			r.In(facts.FunctionScope, n.Range(), r.Def(d), func() {
				for p := range n.Part("parameters").NamedChildren() {
					r.Local(p, p, facts.Parameter, facts.NoExpr, facts.NoExpr)
				}
				r.All(body)
			})
		}),
	}
)

func read(t *testing.T, text string, change ...func(*reader.Language)) *facts.File {
	t.Helper()
	l := reader.Language{Name: "Small", Grammar: grammar, Rules: rules, Signs: signs}
	for _, c := range change {
		c(&l)
	}
	f, err := reader.New(l).Facts(context.Background(), []byte(text))
	require.NoError(t, err)
	require.NoError(t, factstest.Check(f, len(text)))
	return f
}

// uses are those of a text: the name, with what stands in front of it, its role, and how many
// arguments it is called with.
func uses(f *facts.File) (all []string) {
	for _, u := range f.Uses {
		s := u.Name
		if u.Base != facts.NoExpr {
			s = factstest.Written(f, u.Base) + "." + s
		}
		s += " " + fmt.Sprint(u.Role)
		if u.Arguments > 0 {
			s += fmt.Sprintf("/%d", u.Arguments-1)
		}
		all = append(all, s)
	}
	return all
}

func TestUsesByRules(t *testing.T) {
	for text, want := range map[string]string{
		"snow":               "snow read",
		"hut.snow":           "hut read, hut.snow read",
		"hut.snow.deep":      "hut read, hut.snow read, hut.snow.deep read",
		"ring(1, two)":       "ring call/2, two read",
		"hut.ring()":         "hut read, hut.ring call/0",
		"(ring)(/* no */ 1)": "ring call/1",
		"snow = deep":        "snow write, deep read",
		"snow += deep":       "snow readwrite, deep read",
		"hut.snow = 1":       "hut read, hut.snow write",
		"(hut.snow) = 1":     "hut read, hut.snow write",
		"snow++":             "snow readwrite",
		"new Hut(snow)":      "Hut call/1, snow read",
		"this.snow":          "this.snow read",
		"huts[0].snow":       "huts read, huts[].snow read",
		"/abc/":              "",
	} {
		assert.Equal(t, want, strings.Join(uses(read(t, text)), ", "), text)
	}
}

func TestDefinitionsByRules(t *testing.T) {
	text := "// Opens a hut.\n// Twice.\nfunction open(hut) {\n  let snow = hut.snow; // no description\n  {\n    let snow = 'x'\n  }\n}\n\nlet a = open\n"
	f := read(t, text)
	var all []string
	for i, d := range f.Defs {
		s := fmt.Sprintf("%v %s: %s", d.Kind, d.Name, d.Head.In([]byte(text)))
		if d.Init != facts.NoExpr {
			s += " = " + factstest.Written(f, d.Init)
		}
		if f.Local(&f.Defs[i]) {
			s += ", local"
		}
		all = append(all, s)
	}
	assert.Equal(t, []string{
		"function open: function open(hut)",
		"parameter hut: hut, local",
		"variable snow: snow = hut.snow = hut.snow, local",
		"variable snow: snow = 'x' = <string>, local",
		"variable a: a = open = open",
	}, all)
	assert.Equal(t, "// Opens a hut.\n// Twice.", string(f.Defs[0].Doc.In([]byte(text))))
	assert.NotEqual(t, f.Defs[2].Scope, f.Defs[3].Scope, "a block is a scope of its own")
}

// What a grammar does not know is replaced by something as long, and the names it hid are used
// all the same.
func TestWhatIsEased(t *testing.T) {
	ease := func(l *reader.Language) {
		l.Ease = func(text []byte) ([]byte, []place.Range) {
			at := bytes.Index(text, []byte("@deep"))
			eased := bytes.Replace(text, []byte("@deep"), []byte("     "), 1)
			return eased, []place.Range{{Start: uint32(at + 1), End: uint32(at + 5)}}
		}
	}
	assert.Equal(t, []string{"deep read", "ring call/0"}, uses(read(t, "@deep ring()", ease)))
}

// Where expressions are kept once, that of a node is the same wherever it is asked for, but for
// those that are kept anew.
func TestExpressionsAreKeptOnce(t *testing.T) {
	count := func(once, anew bool) int {
		f := read(t, "a.b.c.d()", func(l *reader.Language) {
			l.Once = once
			l.Rules = reader.Rules{}
			for k, r := range rules {
				r.Anew = anew
				l.Rules[k] = r
			}
		})
		return len(f.Exprs)
	}
	assert.Less(t, count(true, false), count(false, false))
	assert.Equal(t, count(false, false), count(true, true))
}

func TestStateOfAFile(t *testing.T) {
	var seen []string
	state := func(l *reader.Language) {
		l.State = func() any { return &[]string{} }
		l.Rules = reader.Rules{"identifier": reader.Do(func(r *reader.Reader, n syntax.Node) {
			if all := r.State.(*[]string); r.First(n.Text()) {
				*all = append(*all, n.Text())
				seen = *all
			}
		})}
	}
	read(t, "a; b; a", state)
	assert.Equal(t, []string{"a", "b"}, seen)
	read(t, "c", state)
	assert.Equal(t, []string{"c"}, seen, "each file has its own")
}

// A function without a name that is an argument is given what the callee passes to it.
func TestWhatIsPassed(t *testing.T) {
	f := read(t, "each(first, x => x.snow)", func(l *reader.Language) {
		l.Rules = reader.Rules{}
		for k, r := range rules {
			l.Rules[k] = r
		}
		l.Rules["call_expression"] = reader.Do(func(r *reader.Reader, n syntax.Node) {
			r.Passing(r.Expression(n.Part("function")), n.Part("arguments").NamedChildren(), r.Visit)
		})
		l.Rules["arrow_function"] = reader.Do(func(r *reader.Reader, n syntax.Node) {
			p := n.Part("parameter")
			r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
				r.Local(p, p, facts.Parameter, facts.NoExpr, r.Given(p.Range(), 0))
				r.Taken(func() { r.Visit(n.Part("body")) })
			})
		})
	})
	require.Len(t, f.Defs, 1)
	init := f.Exprs[f.Defs[0].Init]
	assert.Equal(t, facts.Given, init.Kind)
	assert.Equal(t, "each", factstest.Written(f, init.Base))
	assert.EqualValues(t, 1, init.Arg)
	require.Len(t, init.Args, 1)
	assert.Equal(t, "first", factstest.Written(f, init.Args[0]))
}

func TestPicks(t *testing.T) {
	tree, err := syntax.Parse(context.Background(), grammar, []byte("ring(one, two, three)"))
	require.NoError(t, err)
	call := tree.Root().First("expression_statement").First("call_expression")
	arguments := reader.Part("arguments")(call)
	assert.Equal(t, "one", reader.Nth(0)(arguments).Text())
	assert.Equal(t, "three", reader.Nth(-1)(arguments).Text())
	assert.Equal(t, "two", reader.Nth(-2)(arguments).Text())
	assert.False(t, reader.Nth(3)(arguments).OK())
	assert.Equal(t, "ring", reader.Kind("identifier")(call).Text())
	assert.False(t, reader.Kind("string")(call).OK())
	assert.Len(t, reader.Named(arguments, "identifier"), 3)
	assert.Equal(t, 3, reader.Count(arguments))
	assert.Zero(t, reader.Count(syntax.Node{}))
}

// Text that is not well formed gives what can be had.
func TestBrokenText(t *testing.T) {
	for _, text := range []string{"", "(", "hut.", "ring(", "let = 3", "function (", "a.b.(c", "}}}", "\x00", "new", "x = ", "this."} {
		read(t, text)
	}
}
