// Package toml reads the keys of TOML files.
package toml

import (
	"github.com/smacker/go-tree-sitter/toml"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "TOML"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(toml.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":             reader.Nothing(),
	"table":               reader.Do(table),
	"table_array_element": reader.Do(table),
	"pair":                reader.Do(pair),
}

func key(n syntax.Node) syntax.Node { return n.First("bare_key", "dotted_key", "quoted_key") }

func table(r *reader.Reader, n syntax.Node) {
	id := key(n)
	if !id.OK() {
		r.All(n)
		return
	}
	d := r.Begin(n, id, n.First("pair"), facts.Key)
	r.Enter(r.Def(d), facts.TypeScope, n, func() { r.All(n) })
}

func pair(r *reader.Reader, n syntax.Node) {
	if id := key(n); id.OK() {
		d := r.Def(r.Begin(n, id, n.First("inline_table"), facts.Key))
		if in := n.First("inline_table"); in.OK() {
			r.Enter(d, facts.TypeScope, n, func() { r.All(in) })
		}
	}
}
