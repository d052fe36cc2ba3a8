package catalog_test

import (
	"context"
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/catalog"
)

var rewrite = flag.Bool("rewrite", false, "write the notes of the samples anew; read what changed")

// The samples in testdata say below each line what its facts are, see
// factstest.Annotate. Every language has one.
func TestSamples(t *testing.T) {
	set := catalog.Set()
	files, err := filepath.Glob("testdata/*.sample")
	require.NoError(t, err)
	sampled := map[string]bool{}
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".sample"), func(t *testing.T) {
			l := set.Of(strings.TrimSuffix(filepath.Base(file), ".sample"))
			require.NotNil(t, l)
			sampled[l.Name] = true
			want, err := os.ReadFile(file)
			require.NoError(t, err)
			text := factstest.Bare(want)
			f, err := l.Read(context.Background(), text)
			require.NoError(t, err)
			require.NoError(t, factstest.Check(f, len(text)))
			got := factstest.Annotate(f, text)
			if *rewrite {
				require.NoError(t, os.WriteFile(file, got, 0o644))
				return
			}
			assert.Equal(t, string(want), string(got))
		})
	}
	for _, l := range catalog.All() {
		assert.True(t, sampled[l.Name], "%s has no sample", l.Name)
	}
}
