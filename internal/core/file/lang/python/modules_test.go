package python_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/langtest"
	"rooktrail/internal/core/file/lang/python"
)

func TestModules(t *testing.T) {
	p := langtest.New(t, map[string]string{
		".venv/lib/python3.12/site-packages/snow/__init__.py": "",
		"src/hut/__init__.py": "", "src/hut/bell.py": "", "src/hut/bell.pyi": "", "bare/ridge.py": "", "app/main.py": "",
	})
	i := python.Language.Imports(p)
	for _, c := range []struct {
		file string
		imp  facts.Imported
		want string
	}{
		{"app/main.py", facts.Imported{Path: "hut.bell", Name: "ring"}, "src/hut/bell.py"},
		{"app/main.py", facts.Imported{Path: "hut.bell"}, "src/hut/__init__.py"}, // import hut.bell makes hut known
		{"app/main.py", facts.Imported{Path: "hut.bell", Alias: "b"}, "src/hut/bell.py"},
		{"src/hut/bell.py", facts.Imported{Level: 1, Name: "bell"}, "src/hut/__init__.py"},
		{"src/hut/bell.py", facts.Imported{Level: 2, Path: "nowhere", Name: "x"}, ""},
		{"app/main.py", facts.Imported{Path: "bare", Name: "ridge"}, "bare"}, // a package without a file of its own
		{"app/main.py", facts.Imported{Path: "snow", Name: "x"}, filepath.ToSlash(p.Root) + "/.venv/lib/python3.12/site-packages/snow/__init__.py"},
	} {
		assert.Equal(t, c.want, i.Module(c.file, c.imp), "%+v", c.imp)
	}
	assert.Equal(t, "src/hut/bell.py", i.Inside("src/hut/__init__.py", "bell"))
	assert.Equal(t, "bare/ridge.py", i.Inside("bare", "ridge"))
	assert.Empty(t, i.Inside("src/hut/bell.py", "bell"))
}
