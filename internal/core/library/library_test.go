package library_test

import (
	"archive/zip"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/library"
)

// lay writes files below a folder.
func lay(t *testing.T, root string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		p := filepath.Join(root, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
}

func TestGoPackages(t *testing.T) {
	root, goroot, modules := t.TempDir(), t.TempDir(), t.TempDir()
	lay(t, root, map[string]string{
		"go.mod":       "module tarn\n\nrequire hut.example/Radio v1.2.0\nrequire (\n\thut.example/snow v0.1.0 // indirect\n)\n",
		"tools/go.mod": "module tarn/tools\n",
	})
	lay(t, goroot, map[string]string{"src/fmt/print.go": "package fmt"})
	lay(t, modules, map[string]string{
		"hut.example/!radio@v1.2.0/band/band.go": "package band",
		"hut.example/snow@v0.1.0/snow.go":        "package snow",
	})
	t.Setenv("GOROOT", goroot)
	t.Setenv("GOMODCACHE", modules)
	f := library.New(root, "")
	assert.Equal(t, goroot+"/src/fmt", f.GoPackage("a.go", "fmt"))
	assert.Equal(t, modules+"/hut.example/!radio@v1.2.0/band", f.GoPackage("deep/in/a.go", "hut.example/Radio/band"))
	assert.Equal(t, modules+"/hut.example/snow@v0.1.0", f.GoPackage("a.go", "hut.example/snow"))
	assert.Empty(t, f.GoPackage("tools/a.go", "hut.example/snow"), "another module does not require it")
	assert.Empty(t, f.GoPackage("a.go", "nowhere.example/x"))
}

func TestScripts(t *testing.T) {
	root := t.TempDir()
	lay(t, root, map[string]string{
		"base.json":                                `{"compilerOptions": {"baseUrl": ".", "paths": {"@board/*": ["board/src/*"], "radio": ["lib/radio"]}}}`,
		"tsconfig.json":                            "{\n  // what all share\n  \"extends\": \"./base\", /* and no more */\n}",
		"plain/tsconfig.json":                      `{"compilerOptions": {"baseUrl": "src"}}`,
		"broken/tsconfig.json":                     `{"compilerOptions": `,
		"node_modules/snow/package.json":           `{"types": "./types/snow.d.ts", "main": "snow.js"}`,
		"node_modules/snow/types/snow.d.ts":        "",
		"node_modules/snow/deep/part.js":           "",
		"node_modules/@hut/map/index.js":           "",
		"node_modules/@types/hut__bell/index.d.ts": "",
		"board/node_modules/snow/index.d.ts":       "",
	})
	f := library.New(root, "")
	assert.Equal(t, []string{"board/src/app", "@board/app"}, f.ScriptPaths("server/a.ts", "@board/app"))
	assert.Equal(t, []string{"lib/radio", "radio"}, f.ScriptPaths("a.ts", "radio"))
	assert.Equal(t, []string{"plain/src/x"}, f.ScriptPaths("plain/deep/a.ts", "x"))
	assert.NotPanics(t, func() { f.ScriptPaths("broken/a.ts", "x") })

	modules := filepath.ToSlash(root) + "/node_modules/"
	assert.Equal(t, modules+"snow/types/snow.d.ts", f.ScriptPackage("a.ts", "snow"))
	assert.Equal(t, modules+"snow/deep/part.js", f.ScriptPackage("a.ts", "snow/deep/part"))
	assert.Equal(t, modules+"@hut/map/index.js", f.ScriptPackage("deep/a.ts", "@hut/map"))
	assert.Equal(t, modules+"@types/hut__bell/index.d.ts", f.ScriptPackage("a.ts", "@hut/bell"))
	assert.Equal(t, filepath.ToSlash(root)+"/board/node_modules/snow/index.d.ts", f.ScriptPackage("board/a.ts", "snow"), "the nearest one")
	assert.Empty(t, f.ScriptPackage("a.ts", "nowhere"))
}

func TestJavaArchive(t *testing.T) {
	home, cache := t.TempDir(), t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(home, "lib"), 0o755))
	out, err := os.Create(filepath.Join(home, "lib", "src.zip"))
	require.NoError(t, err)
	w := zip.NewWriter(out)
	for _, name := range []string{"java.base/java/util/List.java", "../../escape.java"} {
		e, err := w.Create(name)
		require.NoError(t, err)
		_, err = e.Write([]byte("package java.util; public interface List<E> {}"))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	require.NoError(t, out.Close())
	t.Setenv("JAVA_HOME", home)
	t.Setenv("PATH", "")
	f := library.New(t.TempDir(), cache)
	list := f.JavaType("java/util/List")
	require.NotEmpty(t, list)
	text, err := os.ReadFile(list)
	require.NoError(t, err)
	assert.Contains(t, string(text), "interface List")
	assert.Empty(t, f.JavaType("java/util/Nothing"))
	assert.Empty(t, f.JavaType("../../escape"), "nothing is unpacked outside the cache")
	assert.Empty(t, library.New(t.TempDir(), "").JavaType("java/util/List"), "without a cache nothing is")
}

func TestPythonAndHeaders(t *testing.T) {
	root := t.TempDir()
	lay(t, root, map[string]string{".venv/lib/python3.12/site-packages/snow/__init__.py": ""})
	f := library.New(root, "")
	require.NotEmpty(t, f.PythonPaths())
	assert.Equal(t, filepath.ToSlash(root)+"/.venv/lib/python3.12/site-packages", f.PythonPaths()[0], "the project's own comes first")
	assert.Empty(t, f.Header("no/such/header.h"))
}

func TestRustCrates(t *testing.T) {
	root, cargo, rustup := t.TempDir(), t.TempDir(), t.TempDir()
	lay(t, root, map[string]string{
		"Cargo.lock":             "[[package]]\nname = \"snow-depth\"\nversion = \"1.2.0\"\n",
		"vendor/bell/src/lib.rs": "",
	})
	lay(t, cargo, map[string]string{
		"registry/src/one/snow-depth-1.2.0/src/lib.rs": "",
		"registry/src/one/snow-depth-1.9.0/src/lib.rs": "",
		"registry/src/one/ridge-0.1.0/src/lib.rs":      "",
		"registry/src/one/ridge-0.4.0/src/lib.rs":      "",
		"registry/src/one/no-source-2.0.0/README.md":   "",
	})
	lay(t, rustup, map[string]string{"toolchains/stable/lib/rustlib/src/rust/library/std/src/lib.rs": ""})
	t.Setenv("CARGO_HOME", cargo)
	t.Setenv("RUSTUP_HOME", rustup)
	t.Setenv("PATH", t.TempDir())
	f := library.New(root, "")
	registry := filepath.ToSlash(cargo) + "/registry/src/one/"
	assert.Equal(t, registry+"snow-depth-1.2.0/src/lib.rs", f.RustCrate("src/main.rs", "snow_depth"), "the version that is locked")
	assert.Equal(t, registry+"ridge-0.4.0/src/lib.rs", f.RustCrate("src/main.rs", "ridge"), "else the last one")
	assert.Equal(t, filepath.ToSlash(root)+"/vendor/bell/src/lib.rs", f.RustCrate("src/main.rs", "bell"))
	assert.Equal(t, filepath.ToSlash(rustup)+"/toolchains/stable/lib/rustlib/src/rust/library/std/src/lib.rs", f.RustCrate("src/main.rs", "std"))
	assert.Empty(t, f.RustCrate("src/main.rs", "no_source"))
	assert.Empty(t, f.RustCrate("src/main.rs", "nowhere"))
}

// A path from the root of the disk, as somebody may write it, ends.
func TestAnImportFromTheRoot(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "go.mod"), []byte("module here\n"), 0o644))
	f := library.New(root, "")
	for _, imported := range []string{"/x", "/", "", ".", "..", "//a//b"} {
		assert.NotPanics(t, func() { f.GoPackage("a.go", imported) })
		assert.NotPanics(t, func() { f.ScriptPackage("/a.js", imported) })
	}
}
