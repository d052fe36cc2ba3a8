// Package dockerfile reads the facts of the files that say how a container
// image is made.
package dockerfile

import (
	"strings"

	"github.com/smacker/go-tree-sitter/dockerfile"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Dockerfile"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(dockerfile.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":          reader.Nothing(),
	"from_instruction": reader.Do(from),
	"arg_instruction":  reader.Do(func(r *reader.Reader, n syntax.Node) { variable(r, n, n.Part("name")) }),
	"env_pair":         reader.Do(func(r *reader.Reader, n syntax.Node) { variable(r, n, n.Part("name")) }),
	"variable":         reader.Name(),
	"param":            reader.Do(param),
}

// from begins a stage, which is named or known by the image it starts from.
func from(r *reader.Reader, n syntax.Node) {
	image, id := n.First("image_spec"), n.Part("as")
	r.All(image)
	if !id.OK() {
		id = image
	} else if base := image.Part("name"); r.Defined(0, base.Text()) != facts.NoDef {
		r.Use(base.Text(), facts.Read, base.Range(), facts.NoExpr)
	}
	if id.OK() {
		r.Def(r.Begin(n, id, syntax.Node{}, facts.Stage))
	}
}

func variable(r *reader.Reader, n, id syntax.Node) {
	for c := range n.NamedChildren() {
		if c != id {
			r.Visit(c)
		}
	}
	if id.OK() {
		r.Def(r.Begin(n, id, syntax.Node{}, facts.Variable))
	}
}

// param may name the stage that something is copied from.
func param(r *reader.Reader, n syntax.Node) {
	if stage, ok := strings.CutPrefix(n.Text(), "--from="); ok {
		at := n.Range()
		at.Start = at.End - uint32(len(stage))
		r.Use(stage, facts.Read, at, facts.NoExpr)
	}
}
