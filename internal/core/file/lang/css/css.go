// Package css reads the facts of style sheets.
package css

import (
	"strings"

	"github.com/smacker/go-tree-sitter/css"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "CSS"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(css.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":             reader.Nothing(),
	"import_statement":    reader.Do(imported),
	"rule_set":            reader.Do(ruleSet),
	"keyframes_statement": reader.Do(keyframes),
	"media_statement":     reader.Do(media),
	"supports_statement":  reader.Do(media),
	"declaration":         reader.Do(declaration),
	"plain_value":         reader.Do(value),
}

func imported(r *reader.Reader, n syntax.Node) {
	if s := n.First("string_value"); s.Range().Len() > 2 {
		at := s.Range()
		at.Start, at.End = at.Start+1, at.End-1
		r.Import(facts.Imported{Path: string(at.In(r.Text)), Name: "*", At: at})
	}
}

// ruleSet is known by each of its selectors.
func ruleSet(r *reader.Reader, n syntax.Node) {
	for s := range n.First("selectors").NamedChildren() {
		if s.Type() == "comment" {
			continue
		}
		at := s.Range()
		text, _, _ := strings.Cut(s.Text(), "\n")
		text = strings.TrimSpace(text)
		at.End = at.Start + uint32(len(text))
		head := place.Range{Start: n.Range().Start, End: n.First("selectors").Range().End}
		r.Def(facts.Def{Name: text, Kind: facts.Rule, At: at, Full: n.Range(), Head: head, Doc: r.Begin(n, s, syntax.Node{}, facts.Rule).Doc})
	}
	r.All(n.First("block"))
}

func keyframes(r *reader.Reader, n syntax.Node) {
	body := n.First("keyframe_block_list")
	if id := n.First("keyframes_name"); id.OK() {
		r.Def(r.Begin(n, id, body, facts.Rule))
	}
	r.All(body)
}

// media is a condition with rules inside.
func media(r *reader.Reader, n syntax.Node) { r.Visit(n.First("block")) }

// declaration sets a property. One of its own that begins with -- is a
// variable.
func declaration(r *reader.Reader, n syntax.Node) {
	id := n.First("property_name")
	if strings.HasPrefix(id.Text(), "--") {
		if r.Defined(0, id.Text()) == facts.NoDef {
			r.Def(r.Begin(n, id, syntax.Node{}, facts.Variable))
		} else {
			r.Use(id.Text(), facts.Write, id.Range(), facts.NoExpr)
		}
	}
	r.All(n)
}

func value(r *reader.Reader, n syntax.Node) {
	if strings.HasPrefix(n.Text(), "--") {
		r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	}
}
