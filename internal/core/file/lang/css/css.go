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
	"call_expression":     reader.Do(call),
	"at_rule":             reader.Do(atRule),
	"postcss_statement":   reader.Do(atRule),
}

func imported(r *reader.Reader, n syntax.Node) {
	addressesIn(r, n)
}

// addresses notes the files that the texts in a node lead to.
func addressesIn(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "string_value" {
			address(r, c.Range())
			continue
		}
		addressesIn(r, c)
	}
}

// call may be url(…), which leads to a file.
func call(r *reader.Reader, n syntax.Node) {
	arguments := n.First("arguments")
	if n.First("function_name").Text() != "url" {
		r.All(n)
		return
	}
	at := arguments.Range()
	if at.Len() > 2 {
		at.Start, at.End = at.Start+1, at.End-1
		address(r, at)
	}
}

// atRule may bring in another sheet, as @use and @forward do where there is a preprocessor.
func atRule(r *reader.Reader, n syntax.Node) {
	if word := n.First("at_keyword").Text(); word == "@use" || word == "@forward" || word == "@import" {
		addressesIn(r, n)
		return
	}
	r.All(n)
}

// address notes the file that an address leads to, which may stand in quotes.
func address(r *reader.Reader, at place.Range) {
	text := at.In(r.Text)
	for len(text) > 1 && strings.IndexByte("\"' ", text[0]) >= 0 {
		at.Start, text = at.Start+1, text[1:]
	}
	for len(text) > 1 && strings.IndexByte("\"' ", text[len(text)-1]) >= 0 {
		at.End, text = at.End-1, text[:len(text)-1]
	}
	to, _, _ := strings.Cut(string(text), "#")
	to, _, _ = strings.Cut(to, "?")
	if to != "" && !strings.ContainsAny(to, ":{}$") {
		r.Import(facts.Imported{Path: to, Name: "*", At: at})
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
