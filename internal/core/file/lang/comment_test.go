package lang_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

func TestCommentAbove(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"// one\n// two\nHERE", "// one\n// two"},
		{"// far\n\nHERE", ""},
		{"/* a\n b */\n  HERE", "/* a\n b */"},
		{"#!/bin/sh\nHERE", ""},
		{"HERE", ""},
		{"// a\n" + strings.Repeat(" ", 5000) + "HERE", ""}, // all one line, as generated code is
	} {
		at := strings.Index(c.text, "HERE")
		r := lang.CommentAbove([]byte(c.text), uint32(at), "//", "#")
		assert.Equal(t, c.want, c.text[r.Start:r.End], c.text)
	}
}

func TestSections(t *testing.T) {
	text := `package a
// ---- teams ----
// === Radio
//////////////////////
// In banners
//////////////////////
/* **** stars **** */
/*******************
 * boxed
 *******************/
// MARK: - Marked
//region folded
#region Sharp
// no section, but --- dashes within
// ---------------------------
// -> x
x := 1 // ---- behind code ----
`
	b := facts.NewBuilder("Go", len(text))
	lang.Sections(b, []byte(text), "//", "/*")
	var titles []string
	for _, d := range b.File().Defs {
		assert.Equal(t, d.Name, text[d.At.Start:d.At.End])
		titles = append(titles, d.Name)
	}
	assert.Equal(t, []string{"teams", "Radio", "In banners", "stars", "boxed", "Marked", "folded", "Sharp"}, titles)
}
