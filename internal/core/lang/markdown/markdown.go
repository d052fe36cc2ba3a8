// Package markdown reads the headings of Markdown files.
package markdown

import (
	"strings"

	markdown "github.com/smacker/go-tree-sitter/markdown/tree-sitter-markdown"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lang/reader"
	"rooktrail/internal/core/syntax"
)

const name = "Markdown"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(markdown.GetLanguage()), Rules: rules})

// Language is Markdown.
var Language = &lang.Language{Name: name, Extensions: []string{".md", ".markdown", ".mdx"}, Facts: language.Facts}

var rules = reader.Rules{
	"document":          reader.Do(below),
	"section":           reader.Do(section),
	"paragraph":         reader.Nothing(),
	"fenced_code_block": reader.Nothing(),
}

// section is a heading with all below it, deeper sections included. A heading
// with a line below its text begins none in the grammar.
func section(r *reader.Reader, n syntax.Node) {
	h := n.First("atx_heading")
	if !title(r, n, h, func() { below(r, n) }) {
		below(r, n)
	}
}

func below(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "setext_heading" {
			title(r, c, c, func() {})
			continue
		}
		r.Visit(c)
	}
}

// title defines a section by the words of its heading.
func title(r *reader.Reader, whole, h syntax.Node, inside func()) bool {
	at := h.Part("heading_content").Range()
	text, _, _ := strings.Cut(string(at.In(r.Text)), "\n")
	trimmed := strings.TrimRight(strings.TrimRight(text, " \t\r"), "#")
	trimmed = strings.TrimRight(trimmed, " \t\r")
	left := len(trimmed) - len(strings.TrimLeft(trimmed, " \t"))
	at.Start += uint32(left)
	trimmed = trimmed[left:]
	at.End = at.Start + uint32(len(trimmed))
	if trimmed == "" {
		return false
	}
	head := h.Range()
	head.End = at.End
	d := r.Def(facts.Def{Name: trimmed, Kind: facts.Section, At: at, Full: whole.Range(), Head: head})
	if whole != h {
		r.Enter(d, facts.TypeScope, whole, inside)
	}
	return true
}
