package restructure_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/workspace/workspacetest"
)

// unfolded puts a function in place that is marked by a | in a file, and gives the files as they would be.
func unfolded(t *testing.T, files map[string]string, file string) (map[string]string, error) {
	t.Helper()
	at := strings.Index(files[file], "|")
	require.GreaterOrEqual(t, at, 0)
	plain := map[string]string{"go.mod": "module tarn\n\ngo 1.24\n"}
	for p, text := range files {
		plain[p] = strings.Replace(text, "|", "", 1)
	}
	p, err := workspacetest.Open(t, plain).Changes.Inline(context.Background(), restructure.Part{Path: file, At: place.Range{Start: uint32(at), End: uint32(at)}})
	if err != nil {
		return nil, err
	}
	w, stopped := p.Stopped()
	require.False(t, stopped, w.Text)
	out := map[string]string{}
	for _, f := range p.Files {
		out[f.Path] = string(f.After().Bytes())
	}
	return out, nil
}

// What a function names is imported where it is put in place, and no more where nothing else needs it.
func TestImportsGoAlong(t *testing.T) {
	shout := "package huts\n\nimport (\n\t\"fmt\"\n\t\"strings\"\n)\n\nfunc shout(names []string) string { return strings.Join(names, \",\") }\n\nfunc say() { fmt.Println(\"here\") }\n"
	all := "package huts\n\nfunc all(names []string) string { return shout(names) }\n"
	got, err := unfolded(t, map[string]string{"huts/hut.go": strings.Replace(all, "shout(", "|shout(", 1), "huts/shout.go": shout}, "huts/hut.go")
	require.NoError(t, err)
	assert.Equal(t, "package huts\n\nimport (\n\t\"strings\"\n)\n\nfunc all(names []string) string { return strings.Join(names, \",\") }\n", strings.Replace(got["huts/hut.go"], "import \"strings\"", "import (\n\t\"strings\"\n)", 1))
	assert.NotContains(t, got, "huts/shout.go", "it stays where it is defined, since one call alone was asked about")

	got, err = unfolded(t, map[string]string{"huts/hut.go": all, "huts/shout.go": strings.Replace(shout, "func shout", "func |shout", 1)}, "huts/shout.go")
	require.NoError(t, err)
	assert.Contains(t, got["huts/hut.go"], `"strings"`)
	assert.NotContains(t, got["huts/shout.go"], `"strings"`, "nothing else needs it there")
	assert.Contains(t, got["huts/shout.go"], `"fmt"`)
}

func TestImportsThatCannotGoAlong(t *testing.T) {
	_, err := unfolded(t, map[string]string{
		"huts/hut.py":    "from radio.shout import shout\n\ndef all_names(names):\n    return |shout(names)\n",
		"radio/shout.py": "from .low import low\n\ndef shout(names):\n    return low(names)\n",
		"radio/low.py":   "def low(names):\n    return names\n", "radio/__init__.py": "", "huts/__init__.py": "",
	}, "huts/hut.py")
	assert.Error(t, err, "a relative import means something else elsewhere")
}
