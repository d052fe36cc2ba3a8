// Package hcl reads the facts of HCL files.
package hcl

import (
	"github.com/smacker/go-tree-sitter/hcl"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "HCL"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(hcl.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":   reader.Nothing(),
	"block":     reader.Do(block),
	"attribute": reader.Do(attribute),
}

// block is known by its last label, or by its type if it has none.
func block(r *reader.Reader, n syntax.Node) {
	var id syntax.Node
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "identifier":
			id = c
		case "string_lit":
			if label := c.First("template_literal"); label.OK() {
				id = label
			}
		}
	}
	if !id.OK() {
		r.All(n)
		return
	}
	b := r.Def(r.Begin(n, id, n.First("block_start"), facts.Block))
	r.Enter(b, facts.TypeScope, n, func() { r.All(n.First("body")) })
}

func attribute(r *reader.Reader, n syntax.Node) {
	if id := n.First("identifier"); id.OK() {
		r.Def(r.Begin(n, id, n.First("expression"), facts.Key))
	}
	r.All(n)
}
