// Package yaml reads the keys of YAML files.
package yaml

import (
	"strings"

	"github.com/smacker/go-tree-sitter/yaml"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "YAML"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(yaml.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":            reader.Nothing(),
	"block_mapping_pair": reader.Do(pair),
	"flow_pair":          reader.Do(pair),
	"alias_name":         {Visit: func(r *reader.Reader, n syntax.Node) { r.Use("&"+n.Text(), facts.Read, n.Range(), facts.NoExpr) }},
}

// pair is a key with what belongs to it.
func pair(r *reader.Reader, n syntax.Node) {
	id, value := n.Part("key"), n.Part("value")
	if !id.OK() || strings.Contains(id.Text(), "\n") || id.Text() == "<<" {
		r.All(n)
		return
	}
	d := r.Begin(n, id, value, facts.Key)
	if q := d.Name; len(q) > 2 && (q[0] == '"' || q[0] == '\'') {
		d.Name, d.At.Start, d.At.End = q[1:len(q)-1], d.At.Start+1, d.At.End-1
	}
	d.Head.End = id.Range().End
	r.Enter(r.Def(d), facts.TypeScope, n, func() { r.Visit(value) })
}
