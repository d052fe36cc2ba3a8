package rust_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/langtest"
	"rooktrail/internal/core/file/lang/rust"
)

func TestCratesOnTheMachine(t *testing.T) {
	cargo, rustup := t.TempDir(), t.TempDir()
	p := langtest.New(t, map[string]string{
		"Cargo.lock":             "[[package]]\nname = \"snow-depth\"\nversion = \"1.2.0\"\n",
		"vendor/bell/src/lib.rs": "",
	})
	langtest.Lay(t, cargo, map[string]string{
		"registry/src/one/snow-depth-1.2.0/src/lib.rs": "",
		"registry/src/one/snow-depth-1.9.0/src/lib.rs": "",
		"registry/src/one/ridge-0.1.0/src/lib.rs":      "",
		"registry/src/one/ridge-0.4.0/src/lib.rs":      "",
		"registry/src/one/ridge-0.10.0/src/lib.rs":     "",
		"registry/src/one/scree-1.0.0/Cargo.toml":      "[lib]\npath = \"scree.rs\"\n",
		"registry/src/one/scree-1.0.0/scree.rs":        "",
		"registry/src/one/no-source-2.0.0/README.md":   "",
	})
	langtest.Lay(t, rustup, map[string]string{"toolchains/stable/lib/rustlib/src/rust/library/std/src/lib.rs": ""})
	t.Setenv("CARGO_HOME", cargo)
	t.Setenv("RUSTUP_HOME", rustup)
	t.Setenv("PATH", t.TempDir())
	tree := rust.Language.Imports(p).(lang.Tree)
	registry := filepath.ToSlash(cargo) + "/registry/src/one/"
	for name, want := range map[string]string{
		"snow_depth": registry + "snow-depth-1.2.0/src/lib.rs", // the version that is locked
		"ridge":      registry + "ridge-0.10.0/src/lib.rs",     // else the last one
		"scree":      registry + "scree-1.0.0/scree.rs",
		"bell":       filepath.ToSlash(p.Root) + "/vendor/bell/src/lib.rs",
		"std":        filepath.ToSlash(rustup) + "/toolchains/stable/lib/rustlib/src/rust/library/std/src/lib.rs",
		"no_source":  "",
		"nowhere":    "",
	} {
		assert.Equal(t, want, tree.Named("src/main.rs", name), name)
	}
}

func TestModulesOfAProject(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"Cargo.toml": "[package]\nname = \"tarn-well\"\n[dependencies]\nsnow-depth = \"1\"\n",
		"src/lib.rs": "", "src/radio.rs": "", "src/radio/band.rs": "", "src/hut/mod.rs": "", "src/hut/bell.rs": "",
		"src/bin/page.rs": "", "tests/all.rs": "", "other/Cargo.toml": "[package]\nname = 'ridge'\n", "other/src/lib.rs": "", "odd.rs": "",
	})
	p.Outside = nil
	i := rust.Language.Imports(p)
	tree, ok := i.(lang.Tree)
	require.True(t, ok)
	assert.Equal(t, "src/lib.rs", tree.Root("src/radio/band.rs"))
	assert.Equal(t, "tests/all.rs", tree.Root("tests/all.rs"))
	assert.Equal(t, "src/radio.rs", tree.Above("src/radio/band.rs"))
	assert.Equal(t, "src/lib.rs", tree.Above("src/hut/mod.rs"))
	assert.Empty(t, tree.Above("src/lib.rs"))
	assert.Equal(t, "src/radio/band.rs", tree.Declared("src/radio.rs", nil, "band"))
	assert.Equal(t, "src/hut/bell.rs", tree.Declared("src/lib.rs", []string{"hut"}, "bell"))
	assert.Equal(t, "other", tree.Package("other/src/lib.rs"))
	assert.Equal(t, "src/lib.rs", tree.Named("tests/all.rs", "tarn_well"))
	assert.Equal(t, "other/src/lib.rs", tree.Named("src/lib.rs", "ridge"))
	assert.True(t, tree.Needs("src/lib.rs", "snow_depth"))
	assert.False(t, tree.Needs("src/lib.rs", "ridge"))
	assert.Equal(t, "odd.rs", i.Module("main.rs", facts.Imported{Path: "odd.rs"}))
}

// Manifests are read as what they are written in, and followed when they change.
func TestWhatManifestsSay(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"Cargo.toml": "[workspace]\nmembers = [\"*\"]\n[workspace.dependencies]\nbell = { package = \"hut-bell\", path = \"bell\" }\n",
		"dispatch/Cargo.toml": `[package]
name = "dispatch" # the heart of it
[dependencies]
snow = { package = "snow-depth", version = "1" }
bell.workspace = true
[dependencies.beacon]
path = "../radio"
[target.'cfg(unix)'.dependencies]
signal = "0.3"
[dev-dependencies]
page = "1"
`,
		"dispatch/src/main.rs": "", "dispatch/src/lib.rs": "",
		"snow/Cargo.toml": "package = { name = \"snow-depth\" }\n", "snow/src/lib.rs": "",
		"bell/Cargo.toml": "[package]\nname = \"hut-bell\"\n[lib]\nname = \"ringing\"\npath = \"src/ringing.rs\"\n", "bell/src/ringing.rs": "", "bell/src/tone/deep.rs": "",
		"radio/Cargo.toml": "[package]\nname = \"radio-beacon\"\n", "radio/src/lib.rs": "",
	})
	p.Outside = nil
	tree := rust.Language.Imports(p).(lang.Tree)
	const from = "dispatch/src/main.rs"
	for name, want := range map[string]string{
		"dispatch": "dispatch/src/lib.rs",
		"snow":     "snow/src/lib.rs",     // under another name
		"bell":     "bell/src/ringing.rs", // as all packages of the project know it
		"beacon":   "radio/src/lib.rs",    // by its folder
		"signal":   "",
		"ridge":    "",
	} {
		assert.Equal(t, want, tree.Named(from, name), name)
	}
	assert.Equal(t, "bell/src/ringing.rs", tree.Root("bell/src/tone/deep.rs"))
	for _, name := range []string{"snow", "bell", "beacon", "signal", "page"} {
		assert.True(t, tree.Needs(from, name), name)
	}
	assert.False(t, tree.Needs(from, "name"))

	langtest.Lay(t, p.Root, map[string]string{"dispatch/Cargo.toml": "[package]\nname = \"dispatch\"\n[dependencies]\nsnow = "})
	assert.True(t, tree.Needs(from, "bell"), "while it is malformed, as it was")
	langtest.Lay(t, p.Root, map[string]string{"dispatch/Cargo.toml": "[package]\nname = \"dispatch\"\n"})
	assert.False(t, tree.Needs(from, "bell"))
}

// Of several versions of a package, that one counts which the package needs in which a name stands.
func TestSeveralVersions(t *testing.T) {
	cargo := t.TempDir()
	p := langtest.New(t, map[string]string{
		"Cargo.lock": `version = 3
[[package]]
name = "dispatch"
version = "0.1.0"
dependencies = ["bell", "snow 1.2.0"]
[[package]]
name = "snow"
version = "1.2.0"
[[package]]
name = "snow"
version = "2.0.0"
`,
		"Cargo.toml": "[package]\nname = \"dispatch\"\n", "src/lib.rs": "",
	})
	langtest.Lay(t, cargo, map[string]string{"registry/src/one/snow-1.2.0/src/lib.rs": "", "registry/src/one/snow-2.0.0/src/lib.rs": "", "registry/src/one/bell-1.0.0/src/lib.rs": ""})
	t.Setenv("CARGO_HOME", cargo)
	t.Setenv("PATH", t.TempDir())
	tree := rust.Language.Imports(p).(lang.Tree)
	registry := filepath.ToSlash(cargo) + "/registry/src/one/"
	assert.Equal(t, registry+"snow-1.2.0/src/lib.rs", tree.Named("src/lib.rs", "snow"))
	assert.Equal(t, registry+"snow-2.0.0/src/lib.rs", tree.Named(registry+"bell-1.0.0/src/lib.rs", "snow"))
}
