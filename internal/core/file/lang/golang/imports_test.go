package golang_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/golang"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestPackages(t *testing.T) {
	goroot, modules := t.TempDir(), t.TempDir()
	p := langtest.New(t, map[string]string{
		"go.mod":                           "module tarn\n\nrequire hut.example/Radio v1.2.0\nrequire (\n\thut.example/snow v0.1.0 // indirect\n)\n",
		"band/b.go":                        "package band",
		"tools/go.mod":                     "module tarn/tools\n",
		"tools/x/x.go":                     "package x",
		"bell/go.mod":                      "module (\n\t\"hut.example/bell\" // in brackets\n)\n",
		"bell/b.go":                        "package bell",
		"torn/go.mod":                      "module hut.example/torn\nrequire (",
		"torn/t.go":                        "package torn",
		"deep/vendor/slope.example/s/s.go": "package s",
	})
	langtest.Lay(t, goroot, map[string]string{"src/fmt/print.go": "package fmt"})
	langtest.Lay(t, modules, map[string]string{
		"hut.example/!radio@v1.2.0/band/band.go": "package band",
		"hut.example/snow@v0.1.0/snow.go":        "package snow",
	})
	t.Setenv("GOROOT", goroot)
	t.Setenv("GOMODCACHE", modules)
	i := golang.Language.Imports(p)
	for _, c := range []struct{ file, imported, want string }{
		{"a.go", "tarn/band", "band"},
		{"a.go", "tarn/tools/x", "tools/x"},
		{"a.go", "hut.example/bell", "bell"},
		{"a.go", "hut.example/torn", "torn"},
		{"deep/in/a.go", "slope.example/s", "deep/vendor/slope.example/s"},
		{"a.go", "fmt", goroot + "/src/fmt"},
		{"deep/in/a.go", "hut.example/Radio/band", modules + "/hut.example/!radio@v1.2.0/band"},
		{modules + "/hut.example/snow@v0.1.0/snow.go", "hut.example/Radio/band", modules + "/hut.example/!radio@v1.2.0/band"},
		{"a.go", "hut.example/snow", modules + "/hut.example/snow@v0.1.0"},
		{"tools/a.go", "hut.example/snow", ""}, // another module does not require it
		{"a.go", "nowhere.example/x", ""},
	} {
		assert.Equal(t, c.want, i.Module(c.file, facts.Imported{Path: c.imported}), "%s in %s", c.imported, c.file)
	}
	p.Outside = nil
	assert.Empty(t, golang.Language.Imports(p).Module("a.go", facts.Imported{Path: "fmt"}), "nothing is looked for outside")
}
