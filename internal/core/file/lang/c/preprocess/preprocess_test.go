package preprocess

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
)

func TestConditions(t *testing.T) {
	macros := map[string]*Macro{}
	for _, text := range []string{"ON 1", "OFF 0", "EMPTY", "LIMIT 0x20u", "BOTH ON && OFF", "ASK(x) __has_feature(x)", "AT(a, b) ((a) * 100 + (b))", "SELF SELF", "__GNUC__ 4"} {
		name, m := define(text)
		macros[name] = m
	}
	find := func(name string) *Macro {
		if m := macros[name]; m != nil {
			return m
		}
		return commonly(name, true)
	}
	for condition, is := range map[string]bool{
		"ON": true, "OFF": false, "!OFF": true, "MISSING": false, "defined ON": true, "defined(MISSING)": false, "defined(EMPTY) && ON": true,
		"LIMIT == 32": true, "BOTH": false, "ON ? OFF : ON": false, "1 + 2 * 3 == 7": true, "(1 + 2) * 3 == 9": true, "-1 < 0": true, "-1 < 0u": false,
		"AT(4, 2) >= 402": true, "AT(4, 2) > 402": false, "ASK(cxx_constexpr)": true, "ASK(other)": false, "__has_include(<vector>)": true,
		`__has_include("hut.h")`: false, "SELF": false, "1 / 0": false, "1 % 0": false, "7 % 4 == 3": true, "1 << 4 == 16": true, "~0 == -1": true,
		"'a' == 97": true, "__cplusplus >= 201703L": true, "1'000 == 1000": true, "": false, "(": false, ")": false, "1 &&": false, "unknown(3, 4)": false, "true": true,
		"6 & 3": true, "4 | 1": true, "5 ^ 5": false, "1 < 2 && 2 <= 2 && 3 >= 3 && 1 != 2": true,
		strings.Repeat("(", 10000): false, strings.Repeat("!", 10001): true,
	} {
		assert.Equal(t, is, holds(condition, &expander{find: find, left: mostTokens}), "%.80s", condition)
	}
}

func TestExpansion(t *testing.T) {
	macros := map[string]*Macro{}
	for _, text := range []string{"A B C", "B A", "CAT(x, y) x##y", "STR(x) #x", "TWICE(x) x x", "ALL(first, ...) first: __VA_ARGS__", "REST(args...) (args)", "NONE()", "LOUD(x) TWICE(TWICE(x))", "GROW GROW1 GROW1", "OPEN TWICE", "NOTHING"} {
		name, m := define(text)
		macros[name] = m
	}
	for _, more := range []string{"1 2", "2 3", "3 4"} {
		numbers := strings.Fields(more)
		name, m := define(fmt.Sprintf("GROW%s GROW%s GROW%s", numbers[0], numbers[1], numbers[1]))
		macros[name] = m
	}
	for in, out := range map[string]string{
		"A": "A C", "CAT(a, b)": "ab", "CAT(a,)": "a", "CAT(, b)": "b", "STR(a + b)": `"a + b"`, "TWICE(n)": "n n", "TWICE": "TWICE", "ALL(a, b, c)": "a: b,c",
		"REST(1, 2)": "(1,2)", "NONE() x": "x", "LOUD(n)": "n n n n", "TWICE(A)": "A C A C", "f(TWICE(1))": "f(1 1)", "TWICE(": "TWICE(", "OPEN (3)": "3 3",
		"GROW": strings.TrimSpace(strings.Repeat("GROW4 ", 16)), "NOTHING x": "x",
	} {
		x := expander{find: func(name string) *Macro { return macros[name] }, left: mostTokens}
		assert.Equal(t, strings.ReplaceAll(out, " ", ""), strings.ReplaceAll(spell(x.expand(scan(in, false), nil, 0)), " ", ""), in)
	}
}

// What grows without bounds comes to an end.
func TestExpansionIsBounded(t *testing.T) {
	macros := map[string]*Macro{}
	for i := range 40 {
		name, m := define(fmt.Sprintf("M%d(x) M%d(x x x x) M%d(x x x x)", i, i+1, i+1))
		macros[name] = m
	}
	x := expander{find: func(name string) *Macro { return macros[name] }, left: mostTokens}
	assert.Less(t, len(x.expand(scan("M0(a)", false), nil, 0)), 20*mostTokens)
}

// A text is prepared as is said behind it; what is not written there leads back to the macro.
func TestWhatIsPrepared(t *testing.T) {
	for _, c := range []struct{ name, text, prepared string }{
		{"a macro on a line of its own", "namespace lib {\nNS_BEGIN\nstruct A {};\nNS_END\n}", "namespace lib {\n\nstruct A {};\n\n}"},
		{"one that is known", "#define NS_BEGIN namespace lib { inline namespace v1 {\nNS_BEGIN\nint n;\n", "#define NS_BEGIN namespace lib { inline namespace v1 {\nnamespace lib { inline namespace v1 { \nint n;\n"},
		{"attributes", "#define API __attribute__((visibility(\"default\")))\nAPI int f(void);", "#define API __attribute__((visibility(\"default\")))\n int f(void);"},
		{"before a class", "EXPORTED class A {};", " class A {};"},
		{"with arguments", "DECLARED(A, 3)\nclass A {};", "\nclass A {};"},
		{"a test stays", "TEST(A, b)\n{\n}", "TEST(A, b)\n{\n}"},
		{"the last of an enumeration stays", "enum E {\nONE,\nTWO\n};", "enum E {\nONE,\nTWO\n};"},
		{"a value stays", "int n = f(\nTHREE\n);", "int n = f(\nTHREE\n);"},
		{"a type stays", "HANDLE open(void);", "HANDLE open(void);"},
		{"a constructor", "class Hut {\npublic:\nEXPLICIT_HERE Hut(int n);\n};", "class Hut {\npublic:\n Hut(int n);\n};"},
		{"blocks", "#define TRY try\n#define CATCH(x) catch (x)\nvoid f() { TRY { g(); } CATCH (E e) { } }", "#define TRY try\n#define CATCH(x) catch (x)\nvoid f() { try { g(); } catch ( E e ) { } }"},
		{"declarations", "#define FIELD(type, name) type name; type get_##name();\nstruct A { FIELD(int, depth) };", "#define FIELD(type, name) type name; type get_##name();\nstruct A { int depth ; int get_depth ( ) ; };"},
		{"uneven branches", "#ifdef _WIN32\nif (a) {\n#else\nif (b) {\n#endif\n}", "\n\n\nif (b) {\n\n}"},
		{"even branches stay", "#ifdef _WIN32\nint a;\n#else\nint b;\n#endif\n", "#ifdef _WIN32\nint a;\n#else\nint b;\n#endif\n"},
	} {
		p := Prepare([]byte(c.text), true, Options{})
		assert.Equal(t, squeezed(c.prepared), squeezed(string(p.Text)), c.name)
		leadsBack(t, c.text, p)
	}
}

// squeezed writes one space where there are several.
func squeezed(s string) string {
	lines := strings.Split(s, "\n")
	for i := range lines {
		lines[i] = strings.Join(strings.Fields(lines[i]), " ")
	}
	return strings.Join(lines, "\n")
}

// leadsBack fails if a part of a prepared text leads elsewhere than where it is written.
func leadsBack(t *testing.T, text string, p *Prepared) {
	t.Helper()
	for start := 0; start < len(p.Text); start += 1 + len(p.Text)/500 {
		for _, length := range []int{1, 2, 7} {
			end := min(start+length, len(p.Text))
			at, exact := p.Origin(place.Range{Start: uint32(start), End: uint32(end)})
			require.LessOrEqual(t, at.Start, at.End)
			require.LessOrEqual(t, int(at.End), len(text))
			if exact && end-start == 1 && p.Text[start] != ' ' {
				require.Equal(t, string(p.Text[start:end]), string(at.In([]byte(text))))
			}
		}
	}
	for _, h := range p.Hidden {
		require.Less(t, h.Start, h.End)
		require.LessOrEqual(t, int(h.End), len(text))
	}
}

func TestBranchesThatAreNotBuilt(t *testing.T) {
	text := "#if 0\nint never;\n#elif defined(__linux__)\nint here;\n#if 1\nint deep;\n#else\nint not;\n#endif\n#else\nint there;\n#endif\nint after;\n#ifdef MISSING\nint open;\n"
	p := Prepare([]byte(text), false, Options{})
	for name, off := range map[string]bool{"never": true, "here": false, "deep": false, "not": true, "there": true, "after": false, "open": true} {
		assert.Equal(t, off, p.Inactive(uint32(strings.Index(text, name))), name)
	}
}

func TestHeaders(t *testing.T) {
	text := "// #include \"no.h\"\n#include \"a/b.h\"\n  #  include <vector> // x\n#include MACRO\n#includes \"no\"\nint a; # include \"no\"\n#define LEVEL 3\n#define OPEN namespace hut {\n#undef LEVEL\n#ifdef OTHER\n#define GONE 1\n#endif\n#if KNOWN > 2\n#define HERE OPEN\n#endif\n"
	assert.Equal(t, []string{"a/b.h", "vector"}, Includes([]byte(text)))
	_, three := define("KNOWN 3")
	macros := Read([]byte(text)).Macros(true, Options{Known: func(name string) *Macro {
		if name == "KNOWN" {
			return three
		}
		return nil
	}})
	assert.Len(t, macros, 2)
	assert.Equal(t, open, macros["OPEN"].effect)
	assert.Equal(t, open, macros["HERE"].effect)
	assert.True(t, three.Same(three))
	assert.False(t, three.Same(macros["OPEN"]))
	assert.NotEqual(t, three.Digest("A"), three.Digest("B"))
}

func FuzzPrepare(f *testing.F) {
	for _, seed := range []string{
		"#define A(x, ...) x##__VA_ARGS__ {\nA(1, 2)\n#if A\n}\n#else\n{{\n#endif", "R\"x(\n#if\n)x\" \\\n#", "#if (((\n#elif\n#endif\n#endif", "FOO\nclass A {\nFOO(\n", "#define X X(\nX X", "/*", "\"",
		"#define F(a) namespace a { int a##a;\nF(b)\nF(", "template <class T, X(1)>\nX(2) f(T<a> b);", "# define\n#define 1\n#undef\n#include\n#include \"", "'\\", "#define T(x) #x #\nT(\"a\\n\")",
	} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, cpp := range []bool{false, true} {
			leadsBack(t, text, Prepare([]byte(text), cpp, Options{}))
			Includes([]byte(text))
			Read([]byte(text)).Macros(cpp, Options{})
		}
	})
}
