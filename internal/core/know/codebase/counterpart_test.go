package codebase

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestCounterparts(t *testing.T) {
	w := opened(t, map[string]string{
		"src/probe.c": "", "include/probe.h": "", "src/test/probe.c": "", "src/other.h": "", "old/probe.hpp": "",
		"board/List.tsx": "", "board/List.module.css": "", "board/List.html": "", "board/Lists.css": "", "README.md": "", ".c": "",
	})
	assert.Equal(t, []string{"include/probe.h", "old/probe.hpp"}, w.Counterparts("src/probe.c"))
	assert.Equal(t, []string{"src/probe.c", "src/test/probe.c"}, w.Counterparts("include/probe.h"))
	assert.Equal(t, []string{"board/List.html", "board/List.module.css"}, w.Counterparts("board/List.tsx"))
	assert.Equal(t, []string{"board/List.html", "board/List.tsx"}, w.Counterparts("board/List.module.css"))
	assert.Empty(t, w.Counterparts("src/other.h"))
	assert.Empty(t, w.Counterparts("README.md"))
	assert.Empty(t, w.Counterparts(".c"))
}
