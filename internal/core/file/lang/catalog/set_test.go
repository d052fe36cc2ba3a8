package catalog_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
)

func TestLanguagesOfFiles(t *testing.T) {
	for file, want := range map[string]string{
		"a/b.go": "Go", "X.PY": "Python", "a.tsx": "TypeScript", "a.jsx": "JavaScript", "in/Makefile": "Makefile", "Dockerfile": "Dockerfile",
		"a.hpp": "C++", "a.h": "C", "a.scss": "CSS", "build.sbt": "Scala", "go.mod": "", "notes.txt": "", "Makefile.txt": "",
	} {
		name := ""
		if l := catalog.Set().Of(file); l != nil {
			name = l.Name
		}
		assert.Equal(t, want, name, file)
	}
	assert.Equal(t, "C++", catalog.Set().Named("C++").Name)
	assert.Nil(t, catalog.Set().Named("Latin"))
}

// Files of one family can name each other's things.
func TestFamilies(t *testing.T) {
	s := catalog.Set()
	for _, alike := range [][]string{{"a.ts", "b.js", "c.jsx"}, {"a.c", "b.h", "c.hpp", "d.inl"}, {"a.py", "b.pyi"}, {"a.kt", "b.kts"}, {"a.sh", "b.bash"}} {
		for _, f := range alike[1:] {
			assert.Equal(t, s.Family(alike[0]), s.Family(f), f)
		}
	}
	families := map[string]bool{}
	for _, f := range []string{"a.ts", "a.c", "a.py", "a.kt", "a.java", "a.scala", "a.xyz", "a.XYZ", "README"} {
		families[s.Family(f)] = true
	}
	assert.Len(t, families, 8)
}

func TestTestFiles(t *testing.T) {
	for file, want := range map[string]bool{
		"a_test.go": true, "test_a.py": true, "a_test.py": true, "conftest.py": true, "a.test.ts": true, "a.spec.js": true, "RosterTest.java": true,
		"RosterTests.cs": true, "roster_spec.rb": true, "RosterSpec.scala": true, "tests/a.go": true, "a/__tests__/b.js": true, "testdata/a.txt": true,
		"a.go": false, "contest.go": false, "latest.py": false, "Fastest.kt": false, "Latest.java": false, "attest/a.go": false, "a.testing.ts": false,
	} {
		assert.Equal(t, want, catalog.Set().IsTest(file), file)
	}
	assert.True(t, catalog.Set().HoldsTests("a_test.go"))
	assert.False(t, catalog.Set().HoldsTests("tests/a.go"), "the go command takes it for what it is")
}

func TestHalves(t *testing.T) {
	for _, c := range []struct {
		file, stem  string
		with, never string
	}{
		{"in/frame.h", "frame", ".cpp", ".hpp"},
		{"frame.cc", "frame", ".hpp", ".c"},
		{"board.tsx", "board", ".module.css", ".js"},
		{"board.module.css", "board", ".tsx", ".css"},
		{"board.html", "board", ".ts", ".htm"},
		{"radio.proto", "radio", ".pb.go", ".proto"},
		{"radio.pb.go", "radio", ".proto", ".go"},
	} {
		stem, endings := catalog.Set().OtherHalves(c.file)
		assert.Equal(t, c.stem, stem, c.file)
		assert.Contains(t, endings, c.with, c.file)
		assert.NotContains(t, endings, c.never, c.file)
	}
	stem, endings := catalog.Set().OtherHalves("main.go")
	assert.Equal(t, "main.go", stem)
	assert.Empty(t, endings)
}

func TestWhatFoldersSay(t *testing.T) {
	in := func(files ...string) func(string) bool {
		return func(base string) bool { return slices.Contains(files, base) }
	}
	s := catalog.Set()
	assert.Equal(t, "doc.go", s.Front("a/hut", in("a.go", "hut.go", "doc.go")))
	assert.Equal(t, "hut.go", s.Front("a/hut", in("a.go", "hut.go")))
	assert.Equal(t, "__init__.py", s.Front("hut", in("a.py", "__init__.py")))
	assert.Empty(t, s.Front("hut", in("a.go")))
	assert.True(t, s.IsInstalled("web/node_modules/snow/index.js") && s.IsInstalled("env/site-packages/a.py"))
	assert.False(t, s.IsInstalled("node_modules"), "the folder itself is not in it")
	for _, top := range []string{"go.mod", "package.json", "Cargo.toml", "build.sbt"} {
		assert.Contains(t, s.Tops(), top)
	}
	assert.Len(t, s.Tops(), len(slices.Compact(slices.Sorted(slices.Values(s.Tops())))), "each once")
}

// Of two that claim an ending or a name, the first has it.
func TestTheFirstHasIt(t *testing.T) {
	one := &lang.Language{Name: "One", Files: lang.Files{Extensions: []string{".x"}}}
	two := &lang.Language{Name: "Two", Files: lang.Files{Extensions: []string{".x", ".y"}}}
	s := lang.NewSet([]*lang.Language{one, two}, nil)
	assert.Same(t, one, s.Of("a.x"))
	assert.Same(t, two, s.Of("a.y"))
	assert.False(t, s.IsCode("a.x"))
}
