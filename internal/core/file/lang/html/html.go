// Package html reads the facts of pages and of components that are written in
// one file: their headings, the elements with an id, and what their scripts
// and styles say, each in its own language.
package html

import (
	"context"
	"path"
	"strings"

	"github.com/smacker/go-tree-sitter/html"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/css"
	"rooktrail/internal/core/file/lang/javascript"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "HTML"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(html.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":          reader.Nothing(),
	"element":          reader.Do(element),
	"start_tag":        reader.Do(tag),
	"self_closing_tag": reader.Do(tag),
	"script_element":   reader.Do(script),
	"style_element":    reader.Do(style),
}

// element may be a heading.
func element(r *reader.Reader, n syntax.Node) {
	start := n.First("start_tag")
	if t := start.First("tag_name").Text(); len(t) == 2 && t[0]|0x20 == 'h' && '1' <= t[1] && t[1] <= '6' {
		if text := n.First("text"); text.OK() {
			d := r.Begin(n, text, syntax.Node{}, facts.Section)
			d.Name, _, _ = strings.Cut(d.Name, "\n")
			d.Name = strings.TrimSpace(d.Name)
			d.At.End = d.At.Start + uint32(len(d.Name))
			if d.Name != "" {
				r.Def(d)
			}
		}
	}
	r.All(n)
}

// tag may give its element an id, and lead to another file.
func tag(r *reader.Reader, n syntax.Node) {
	for a := range n.NamedChildren() {
		if a.Type() != "attribute" {
			continue
		}
		v := value(a)
		switch a.First("attribute_name").Text() {
		case "id":
			if v.OK() {
				d := r.Begin(n, v, syntax.Node{}, facts.ID)
				r.Def(d)
			}
		case "src", "href", "poster", "data-src", "action":
			if to, ok := fileOf(v.Text()); ok {
				r.Import(facts.Imported{Path: to, At: v.Range()})
			}
		}
	}
}

// fileOf is the file that the address of a page or of a part of it leads to, if that may be one of the project.
func fileOf(address string) (to string, ok bool) {
	to, _, _ = strings.Cut(address, "#")
	to, _, _ = strings.Cut(to, "?")
	if to == "" || strings.Contains(to, ":") || strings.HasPrefix(to, "//") || strings.ContainsAny(to, "{}<$ ") || path.Ext(to) == "" {
		return "", false
	}
	return to, true
}

func value(attribute syntax.Node) syntax.Node {
	if v := attribute.First("attribute_value"); v.OK() {
		return v
	}
	return attribute.First("quoted_attribute_value").First("attribute_value")
}

// attribute is the value that a start tag gives to a name.
func attribute(n syntax.Node, name string) string {
	for _, a := range reader.Named(n, "attribute") {
		if a.First("attribute_name").Text() == name {
			return value(a).Text()
		}
	}
	return ""
}

// script reads what stands between its tags as its attributes say.
func script(r *reader.Reader, n syntax.Node) {
	start := n.First("start_tag")
	tag(r, start)
	l := javascript.JavaScript
	switch attribute(start, "lang") {
	case "ts", "typescript":
		l = javascript.TypeScript
	case "tsx":
		l = javascript.TSX
	}
	if t := attribute(start, "type"); strings.Contains(t, "json") || strings.Contains(t, "template") || strings.Contains(t, "glsl") {
		return
	}
	embed(r, n.First("raw_text"), l)
}

func style(r *reader.Reader, n syntax.Node) {
	tag(r, n.First("start_tag"))
	embed(r, n.First("raw_text"), css.Language)
}

// embed reads a part of the page in another language. What cannot be read
// costs that part only.
func embed(r *reader.Reader, n syntax.Node, l *lang.Language) {
	if !n.OK() {
		return
	}
	f, err := l.Facts(context.Background(), n.Range().In(r.Text))
	if err != nil {
		return
	}
	r.Embed(f, n.Range().Start)
}
