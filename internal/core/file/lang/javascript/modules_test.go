package javascript_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/javascript"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestModules(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"base.json":                                `{"compilerOptions": {"baseUrl": ".", "paths": {"@board/*": ["board/src/*"], "radio": ["lib/radio"]}}}`,
		"tsconfig.json":                            "{\n  // what all share\n  \"extends\": \"./base\", /* and no more */\n}",
		"board/src/app.ts":                         "",
		"lib/radio/index.ts":                       "",
		"plain/tsconfig.json":                      `{"compilerOptions": {"baseUrl": "src"}}`,
		"plain/src/x.tsx":                          "",
		"broken/tsconfig.json":                     `{"compilerOptions": `,
		"node_modules/snow/package.json":           `{"types": "./types/snow.d.ts", "main": "snow.js"}`,
		"node_modules/snow/types/snow.d.ts":        "",
		"node_modules/snow/deep/part.js":           "",
		"node_modules/@hut/map/index.js":           "",
		"node_modules/@types/hut__bell/index.d.ts": "",
		"board/node_modules/snow/index.d.ts":       "",
	})
	i := javascript.TypeScript.Imports(p)
	modules := filepath.ToSlash(p.Root) + "/node_modules/"
	for _, c := range []struct{ file, imported, want string }{
		{"board/src/b.ts", "./app", "board/src/app.ts"},
		{"board/src/b.ts", "./app.js", "board/src/app.ts"}, // named as its output will be
		{"board/src/b.ts", "./nowhere", ""},
		{"server/a.ts", "@board/app", "board/src/app.ts"},
		{"a.ts", "radio", "lib/radio/index.ts"},
		{"plain/deep/a.ts", "x", "plain/src/x.tsx"},
		{"broken/a.ts", "x", ""},
		{"a.ts", "snow", modules + "snow/types/snow.d.ts"},
		{"a.ts", "snow/deep/part", modules + "snow/deep/part.js"},
		{"deep/a.ts", "@hut/map", modules + "@hut/map/index.js"},
		{"a.ts", "@hut/bell", modules + "@types/hut__bell/index.d.ts"},
		{"board/a.ts", "snow", filepath.ToSlash(p.Root) + "/board/node_modules/snow/index.d.ts"}, // the nearest one
		{"a.ts", "nowhere", ""},
	} {
		assert.Equal(t, c.want, i.Module(c.file, facts.Imported{Path: c.imported}), "%s in %s", c.imported, c.file)
	}
}

// The settings around a file are followed when they change.
func TestSettingsThatChange(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"tsconfig.json": `{"extends": ["./first.json", "./second"]}`,
		"first.json":    `{"compilerOptions": {"paths": {"@hut/*": ["old/*"]}}}`, "second.json": `{"compilerOptions": {"paths": {"@hut/*": ["hut/*"]}}}`,
		"hut/bell.ts": "", "old/bell.ts": "", "board/bell.ts": "", "a.ts": "",
	})
	i := javascript.TypeScript.Imports(p)
	bell := func() string { return i.Module("a.ts", facts.Imported{Path: "@hut/bell"}) }
	assert.Equal(t, "hut/bell.ts", bell(), "of several, the last one")
	langtest.Lay(t, p.Root, map[string]string{"second.json": `{"compilerOptions": {"paths": {"@hut/*": ["board/*"]}}}`})
	assert.Equal(t, "board/bell.ts", bell())
	langtest.Lay(t, p.Root, map[string]string{"second.json": `{"compilerOptions": {"paths"`})
	assert.Equal(t, "board/bell.ts", bell(), "while they are malformed, as they were")
	langtest.Lay(t, p.Root, map[string]string{"second.json": `{}`})
	assert.Equal(t, "old/bell.ts", bell())
	langtest.Lay(t, p.Root, map[string]string{"tsconfig.json": `{"extends": "./tsconfig"}`})
	assert.Empty(t, bell(), "and one that extends itself says nothing")
}
