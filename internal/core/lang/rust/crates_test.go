package rust_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lang/langtest"
	"rooktrail/internal/core/lang/rust"
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
		"ridge":      registry + "ridge-0.4.0/src/lib.rs",      // else the last one
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
