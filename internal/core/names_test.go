package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang/catalog"
)

// alsoWords are what is in some code for other reasons: the name of a language or
// of a kind of file that is also something else there, by the folder.
var alsoWords = map[string][]string{
	"core/keep/userdata":  {".json"}, // what the program keeps for itself is in such files
	"core/change/history": {".json"},
	"core/keep/bookmark":  {".toml", ".json"},
	"core/keep/sweep":     {".json"},
	"core/keep/trail":     {".json"},
	"core/keep/lists":     {".json", ".md"},
	"core/draw":           {".md"}, // as which a drawing is written
	"ui/bookmarks":        {".toml", ".md"},
}

// What is known of a language stands in its own folder: no other code knows one
// by its name, nor by what its files are called.
func TestLanguagesAreKnownInTheirFoldersOnly(t *testing.T) {
	known := map[string]bool{}
	for _, l := range catalog.All() {
		known[l.Name] = true
		for _, list := range [][]string{l.Files.Extensions, l.Files.Names, l.Files.Tops, l.Files.Front, l.Files.Installed} {
			for _, w := range list {
				known[w] = true
			}
		}
	}
	delete(known, "C") // which is also a key, and what Go calls all that is written in it
	require.True(t, known["C++"] && known[".py"] && known["go.mod"])
	root := os.DirFS("..")
	require.NoError(t, fs.WalkDir(root, ".", func(p string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && (p == "core/file/lang" || d.Name() == "testdata"):
			return fs.SkipDir
		case path.Ext(p) != ".go" || strings.HasSuffix(p, "_test.go"):
			return nil
		}
		for _, word := range languageWords(t, root, p, known) {
			assert.Contains(t, alsoWords[path.Dir(p)], word, "%s knows of %q, which belongs into a folder of core/file/lang", p, word)
		}
		return nil
	}))
}

// languageWords are the texts in a file that are among the words, or contain the
// name of a file that is.
func languageWords(t *testing.T, root fs.FS, file string, known map[string]bool) (found []string) {
	data, err := fs.ReadFile(root, file)
	require.NoError(t, err)
	parsed, err := parser.ParseFile(token.NewFileSet(), file, data, 0)
	require.NoError(t, err)
	ast.Inspect(parsed, func(n ast.Node) bool {
		lit, ok := n.(*ast.BasicLit)
		if !ok || lit.Kind != token.STRING {
			return true
		}
		text, err := strconv.Unquote(lit.Value)
		require.NoError(t, err)
		for _, word := range strings.Fields(text) {
			if known[word] && !slices.Contains(found, word) && (len(strings.Fields(text)) == 1 || strings.ContainsAny(word, ".+#")) {
				found = append(found, word)
			}
		}
		return true
	})
	return found
}
