package codebase_test

import (
	"context"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The tests are begun anew to ask a compiler, as the program is.
func TestMain(m *testing.M) {
	if asked, err := workspace.Asked(os.Args[1:], os.Stdin, os.Stdout); asked {
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		os.Exit(0)
	}
	os.Exit(m.Run())
}

// compiled is a project of C with an index, in which a compiler is asked.
type compiled struct {
	*testing.T
	root, indexes string
	ws            *workspace.Workspace
}

func openCompiled(t *testing.T, files map[string]string) *compiled {
	if catalog.Set().Named("C").Units.Compiler("") == "" {
		t.Skip("there is no libclang on this machine")
	}
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	c := &compiled{T: t, root: root, indexes: t.TempDir()}
	for name, text := range files {
		c.write(name, text)
	}
	c.open()
	return c
}

func (c *compiled) write(name, text string) {
	at := filepath.Join(c.root, name)
	require.NoError(c, os.MkdirAll(filepath.Dir(at), 0o700))
	require.NoError(c, os.WriteFile(at, []byte(text), 0o600))
}

// open begins the program anew.
func (c *compiled) open() {
	program, err := os.Executable()
	require.NoError(c, err)
	c.ws = workspace.New(c.root)
	c.ws.Code.Compilers.Know(program, nil)
	c.ws.Code.KeepIndex(context.Background(), c.indexes)
	require.NoError(c, c.ws.Code.Read(context.Background()))
	c.Cleanup(func() { _ = c.ws.Code.Close() })
}

func (c *compiled) check() { require.NoError(c, c.ws.Code.Check(context.Background(), check.Fast)) }

// definition is where the last of some words in a file leads, and how that is known.
func (c *compiled) definition(file, words string) string {
	text, err := os.ReadFile(filepath.Join(c.root, file))
	require.NoError(c, err)
	_, all := c.ws.Answers.All(context.Background(), answer.ToDefinition.On(file, strings.LastIndex(string(text), words)))
	require.NotEmpty(c, all, words)
	return fmt.Sprintf("%s %s", all[0].Place(), all[0].Certainty)
}

var ofHuts = map[string]string{
	"src/hut.h":    "#ifndef HUT_H\n#define HUT_H\nstruct hut { int snow; };\nint closed(const struct hut *h);\n#endif\n",
	"src/hut.c":    "#include \"hut.h\"\nint closed(const struct hut *h) { return h->snow > 40; }\n",
	"src/board.c":  "#include <hut.h>\nint shown(struct hut *h) { return !closed(h) && h->snow; }\n",
	"src/broken.c": "#include \"hut.h\"\nint half(struct hut *h) { return closed(h) + gone; }\n",
}

func TestACompilerIsAskedAboutC(t *testing.T) {
	c := openCompiled(t, ofHuts)
	assert.Equal(t, "src/hut.h:3:18 inferred", c.definition("src/board.c", "snow"), "before it was asked")
	c.check()
	assert.Equal(t, "src/hut.h:3:18 exact", c.definition("src/board.c", "snow"))
	assert.Equal(t, "src/hut.c:2:5 exact", c.definition("src/board.c", "closed"), "what is only declared in what it sees")
	assert.Equal(t, "src/hut.h:3:8 exact", c.definition("src/hut.h", "hut *h"), "a header, by what includes it")
	assert.Equal(t, "src/hut.c:2:5 inferred", c.definition("src/broken.c", "closed"), "a file with an error is not known exactly")
	_, all := c.ws.Answers.All(context.Background(), answer.ToReferences.On("src/hut.h", strings.Index(ofHuts["src/hut.h"], "closed")))
	certain := map[string]resolve.Certainty{}
	for _, a := range all {
		certain[a.Place().String()] = a.Certainty
	}
	assert.Equal(t, resolve.Exact, certain["src/board.c:2:36"])
	assert.Equal(t, resolve.Inferred, certain["src/broken.c:2:34"])
}

func TestWhatACompilerSaidIsKept(t *testing.T) {
	c := openCompiled(t, ofHuts)
	c.check()
	c.open()
	assert.Equal(t, "src/hut.h:3:18 exact", c.definition("src/board.c", "snow"), "without being asked again")

	c.write("src/hut.h", strings.Replace(ofHuts["src/hut.h"], "int snow", "int depth, snow", 1))
	c.ws.Code.Refresh(context.Background())
	assert.Equal(t, "src/hut.h:3:25 inferred", c.definition("src/board.c", "snow"), "what it rests on has changed")
	c.check()
	assert.Equal(t, "src/hut.h:3:25 exact", c.definition("src/board.c", "snow"))

	c.write("include/other.h", "int other;\n")
	c.ws.Code.Refresh(context.Background())
	assert.Equal(t, "src/hut.h:3:25 inferred", c.definition("src/board.c", "snow"), "a header may be another one now")
}

func TestWhatABuildSaysToACompiler(t *testing.T) {
	c := openCompiled(t, map[string]string{
		"lib/inner/hut.h":             "#ifdef WINTER\nstruct hut { int snow; };\n#endif\n",
		"app/main.c":                  "#include <hut.h>\nint main(void) { struct hut h = {DEEP}; return h.snow; }\n",
		"build/compile_commands.json": `[{"directory": "/elsewhere/build", "file": "/elsewhere/app/main.c", "command": "cc -I../lib/inner -DWINTER -DDEEP=4 -fplugin=evil.so -Xclang -load -Xclang evil.so @evil -c ../app/main.c"}]`,
	})
	c.check()
	assert.Equal(t, "lib/inner/hut.h:2:18 exact", c.definition("app/main.c", "snow"))
}

func TestACompilerIsAskedAboutOneFile(t *testing.T) {
	c := openCompiled(t, ofHuts)
	require.NoError(t, c.ws.Code.CheckAround(context.Background(), "src/board.c"))
	assert.Equal(t, "src/hut.h:3:18 exact", c.definition("src/board.c", "snow"))
	assert.Equal(t, "src/hut.h:3:18 inferred", c.definition("src/hut.c", "snow"))
	assert.Equal(t, "src/hut.h:3:8 exact", c.definition("src/hut.h", "hut *h"), "which it includes")
}

// What a compiler does not take is a problem where a build says how files are compiled; elsewhere how that is done is guessed.
func TestWhatACompilerDoesNotTake(t *testing.T) {
	found := func(files map[string]string) (words []string) {
		c := openCompiled(t, files)
		c.check()
		all, err := c.ws.Problems.In(t.Context(), "src/broken.c")
		require.NoError(t, err)
		for _, p := range all {
			words = append(words, fmt.Sprintf("%d:%d %s %s: %s", p.Line, p.Col, p.Kind, p.Certainty, p.Text))
		}
		return words
	}
	assert.Empty(t, found(ofHuts))
	built := maps.Clone(ofHuts)
	built["compile_commands.json"] = `[{"directory":".","file":"src/broken.c","command":"cc -c src/broken.c"}]`
	assert.Equal(t, []string{"2:46 types exact: use of undeclared identifier 'gone'"}, found(built))
}
