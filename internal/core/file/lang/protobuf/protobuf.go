// Package protobuf reads the facts of Protocol Buffers files.
package protobuf

import (
	"github.com/smacker/go-tree-sitter/protobuf"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Protobuf"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(protobuf.GetLanguage()), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":              reader.Nothing(),
	"package":              reader.Do(func(r *reader.Reader, n syntax.Node) { r.SetPackage(n.First("full_ident").Text()) }),
	"import":               reader.Do(imported),
	"message":              declares(facts.Message, "message_name", "message_body"),
	"enum":                 declares(facts.Enum, "enum_name", "enum_body"),
	"service":              declares(facts.Service, "service_name", ""),
	"rpc":                  reader.Do(rpc),
	"field":                field(facts.Field),
	"map_field":            field(facts.Field),
	"oneof_field":          field(facts.Field),
	"enum_field":           field(facts.EnumMember),
	"message_or_enum_type": reader.Dotted("identifier", ""),
	"type":                 reader.Type(reader.Nth(0)),
	"option":               reader.Nothing(),
}

func imported(r *reader.Reader, n syntax.Node) {
	if s := n.Part("path"); s.Range().Len() > 2 {
		at := s.Range()
		at.Start, at.End = at.Start+1, at.End-1
		r.Import(facts.Imported{Path: string(at.In(r.Text)), Name: "*", At: at})
	}
}

func declares(kind facts.Kind, name, body string) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		id, in := n.First(name).First("identifier"), n.First(body)
		if !id.OK() {
			r.All(n)
			return
		}
		if !in.OK() {
			in = n
		}
		d := r.Begin(n, id, n.First(body), kind)
		d.Head.End = id.Range().End
		r.Enter(r.Def(d), facts.TypeScope, n, func() { r.All(in) })
	})
}

func rpc(r *reader.Reader, n syntax.Node) {
	d := r.Begin(n, n.First("rpc_name").First("identifier"), syntax.Node{}, facts.Method)
	var types []syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "message_or_enum_type" {
			types = append(types, c)
		}
	}
	for i, t := range types {
		if e := r.TypeOf(t); i == 1 {
			d.Type = e
		}
	}
	if d.Name != "" {
		r.Def(d)
	}
}

func field(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		d := r.Begin(n, n.First("identifier"), syntax.Node{}, kind)
		if t := n.First("type"); t.OK() {
			d.Type = r.TypeOf(t)
		}
		if d.Name != "" {
			r.Def(d)
		}
	})
}
