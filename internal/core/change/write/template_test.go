package write_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
)

// fill inserts a template and fills in its places, one after the other.
func fill(doc, template string, at int, answers ...string) string {
	e := write.New(text.NewDocument([]byte(doc)), at, write.Style{Indent: "    "})
	f := e.Insert(write.ParseTemplate(template))
	for i, a := range answers {
		if i > 0 && !e.NextField(f) {
			return "there is no such place"
		}
		e.Type(a)
		f.Moved(e.Edits())
	}
	return string(e.Document().Bytes())
}

func TestTemplates(t *testing.T) {
	for _, c := range []struct {
		doc, template string
		at            int
		answers       []string
		want          string
	}{
		{"", "// TODO: {}", 0, []string{"ring the hut"}, "// TODO: ring the hut"},
		{"  x\n", "if {err} != nil {\n\treturn {err}\n}", 2, []string{"late"}, "  if late != nil {\n      return late\n  }x\n"},
		{"", "{name}({first}, {}) {{}} {{x}}", 0, []string{"send", "team", "hut"}, "send(team, hut) {} {x}"},
		{"", "for {i:i} := range {all} {", 0, []string{"n", "huts", "!"}, "for n := range huts {!"},
		{"ab", "<{}>", 1, []string{"x", "y", "z"}, "there is no such place"},
		{"", "nothing to fill in", 0, nil, "nothing to fill in"},
	} {
		assert.Equal(t, c.want, fill(c.doc, c.template, c.at, c.answers...), c.template)
	}
}

// What is inserted, and each place that is filled in, is taken back as a step.
func TestATemplateIsTakenBack(t *testing.T) {
	e := write.New(text.NewDocument([]byte("a\n")), 2, write.Style{})
	f := e.Insert(write.ParseTemplate("({x})({x})"))
	e.Type("hut")
	assert.Equal(t, "a\n(hut)(hut)", string(e.Document().Bytes()))
	assert.True(t, e.NextField(f), "behind it")
	assert.False(t, e.NextField(f))
	e.Undo()
	assert.Equal(t, "a\n()()", string(e.Document().Bytes()))
	e.Undo()
	assert.Equal(t, "a\n", string(e.Document().Bytes()))
}
