package index_test

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"flag"
	"fmt"
	"io/fs"
	"os"
	"path"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/index"
)

var update = flag.Bool("update", false, "write the version of the index anew")

// samples are folders with files in all languages, from here.
var samples = []string{"../../file/lang/catalog/testdata", "../resolve/testdata", "../../../../demo/_tarnwell"}

// An index on disk is used as long as the program reads files as the one did that
// made it, which what it makes of the samples tells.
func TestVersionStandsForWhatIsExtracted(t *testing.T) {
	h := sha256.New()
	read := 0
	for _, folder := range samples {
		root := os.DirFS(folder)
		require.NoError(t, fs.WalkDir(root, ".", func(p string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			text, err := fs.ReadFile(root, p)
			require.NoError(t, err)
			name := path.Base(p)
			if bare, ok := strings.CutSuffix(name, ".sample"); ok {
				name, text = bare, factstest.Bare(text)
			}
			l := catalog.Set().Of(name)
			if l == nil {
				return nil
			}
			f, err := l.Read(context.Background(), text)
			require.NoError(t, err, p)
			sum := index.Summarise(text, f)
			symbols, err := sum.Symbols(name)
			require.NoError(t, err)
			fmt.Fprintln(h, name, sum.Lines, sum.Defs, sum.Uses, symbols)
			for _, u := range f.Uses {
				fmt.Fprintln(h, u.Name, sum.Mentions(u.Name))
			}
			for _, s := range f.Shared {
				fmt.Fprintln(h, s.Realm, s.Name, s.At, s.Given, s.Import, s.Keys(s.Given))
			}
			for _, i := range f.Imports {
				fmt.Fprintln(h, i.Name, sum.Mentions(i.Name))
			}
			read++
			return nil
		}))
	}
	require.Greater(t, read, 100)
	want := hex.EncodeToString(h.Sum(nil)[:5])
	if *update {
		source, err := os.ReadFile("version.go")
		require.NoError(t, err)
		written := regexp.MustCompile(`Extracted = ".*"`).ReplaceAll(source, []byte(`Extracted = "`+want+`"`))
		require.NoError(t, os.WriteFile("version.go", written, 0o644))
		return
	}
	assert.Equal(t, want, index.Extracted, "what is extracted has changed: go test ./internal/core/know/index -run Version -update")
}
