package c

import (
	"testing"

	"rooktrail/internal/core/file/lang/langtest"

	"github.com/stretchr/testify/assert"
)

const replies = "build/.cmake/api/v1/reply/"

// ofHuts are answers as CMake writes them, with what is read of them.
var ofHuts = map[string]string{
	replies + "index-2026-01-01T00-00-00-0000.json": `{"objects": [{"kind": "codemodel", "jsonFile": "codemodel-v2-old.json"}]}`,
	replies + "index-2026-02-01T00-00-00-0000.json": `{"objects": [{"kind": "cache", "jsonFile": "cache.json"}, {"kind": "codemodel", "jsonFile": "codemodel-v2-a.json"}]}`,
	replies + "codemodel-v2-a.json": `{"paths": {"source": "/elsewhere/huts", "build": "/elsewhere/huts/build"},
		"configurations": [{"targets": [{"jsonFile": "target-huts.json"}, {"jsonFile": "gone.json"}, {"jsonFile": "../../../../../../secret.json"}]}]}`,
	replies + "target-huts.json": `{"sources": [{"path": "src/hut.c"}, {"path": "src/hut.h"}, {"path": "/elsewhere/huts/src/board.c"}],
		"compileGroups": [{"sourceIndexes": [0, 2, 7, -1], "compileCommandFragments": [{"fragment": " -std=c11 -fplugin=evil.so"}],
			"defines": [{"define": "WINTER=1"}], "includes": [{"path": "/elsewhere/huts/include"}, {"path": "/usr/include/snow", "isSystem": true}]}]}`,
	"src/hut.c": "", "src/hut.h": "", "src/board.c": "",
}

func TestWhatCMakeSaysOfABuild(t *testing.T) {
	b := &build{project: langtest.New(t, ofHuts)}
	for _, file := range []string{"src/hut.c", "src/board.c", "src/hut.h"} {
		w := b.of(file)
		if assert.NotNil(t, w, file) {
			assert.Equal(t, []string{"-std=c11", "-D", "WINTER=1", "-I", "include", "-isystem", "/usr/include/snow"}, w.arguments, file)
			assert.Equal(t, []string{"include", "/usr/include/snow"}, w.folders)
			assert.NotNil(t, w.defined["WINTER"])
		}
	}
	assert.NotEmpty(t, b.digest())
}

func FuzzReplies(f *testing.F) {
	f.Add(ofHuts[replies+"index-2026-02-01T00-00-00-0000.json"], ofHuts[replies+"codemodel-v2-a.json"], ofHuts[replies+"target-huts.json"])
	f.Add("[]", "{", "null")
	f.Fuzz(func(t *testing.T, index, model, target string) {
		p := langtest.New(t, map[string]string{"src/hut.c": "", replies + "index-1.json": index, replies + "codemodel-v2-a.json": model, replies + "target-huts.json": target})
		(&build{project: p}).of("src/hut.c").header(p, "a.h")
	})
}
