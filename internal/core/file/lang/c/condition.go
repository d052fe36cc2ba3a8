package c

import (
	"rooktrail/internal/core/file/lang/c/preprocess"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// prepare does what a preprocessor does. What stands between #if and #endif is all
// read, but where a name is defined in several branches, it matters which of them a
// compiler would take. With no word on how the project is built, it is the one that a
// compiler on a common system takes without any options.
func prepare(cpp bool) func([]byte) reader.Prepared {
	return func(text []byte) reader.Prepared {
		p := preprocess.Prepare(text, cpp, preprocess.Options{})
		return reader.Prepared{Text: p.Text, Hidden: p.Hidden, Origin: p}
	}
}

// conditional reads the branches of conditional code, and the names in its conditions.
func conditional(r *reader.Reader, n syntax.Node) {
	if name := n.Part("name"); name.OK() {
		r.Visit(name)
	}
	for c := range n.NamedChildren() {
		if c.FieldName() != "name" {
			r.Visit(c)
		}
	}
}
