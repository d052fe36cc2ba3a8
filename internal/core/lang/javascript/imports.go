package javascript

import (
	"strings"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/syntax"
)

// DefaultExport is the name under which a module's default export is kept.
const DefaultExport = "default"

// source is the module named by a string.
func source(n syntax.Node) (path string, at place.Range) {
	return strings.Trim(n.Text(), "\"'`"), n.Range()
}

// bring defines a name that an import brings in: original is its name in the
// module, "" for the module as a whole.
func (w *walker) bring(path string, at place.Range, original string, id, statement syntax.Node) {
	number := w.Import(facts.Imported{Path: path, At: at, Name: original, Alias: id.Text()})
	w.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: statement.Range(), Head: statement.Range(), Import: number})
}

func (w *walker) importStatement(n syntax.Node) {
	path, at := source(n.Child(w.f.source))
	clause := n.First("import_clause")
	if !clause.OK() {
		w.Import(facts.Imported{Path: path, At: at})
		return
	}
	for c := range clause.NamedChildren() {
		switch c.Type() {
		case "identifier":
			w.bring(path, at, DefaultExport, c, n)
		case "namespace_import":
			w.bring(path, at, "", c.First("identifier"), n)
		case "named_imports":
			for s := range c.NamedChildren() {
				w.specifier(s, path, at, n)
			}
		}
	}
}

// specifier reads a or a as b in braces.
func (w *walker) specifier(s syntax.Node, path string, at place.Range, statement syntax.Node) {
	name, id := s.Child(w.f.name), s.Child(w.f.alias)
	if !name.OK() {
		return
	}
	if !id.OK() {
		id = name
	}
	w.bring(path, at, name.Text(), id, statement)
	if id.Index() != name.Index() {
		// Resolved by the name it has here, which leads to the same thing.
		w.Use(id.Text(), facts.ImportUse, name.Range(), facts.NoExpr)
	}
}

func (w *walker) exportStatement(n syntax.Node) {
	if from := n.Child(w.f.source); from.OK() {
		w.reExport(n, from)
		return
	}
	isDefault := n.Has("default")
	if d := n.Child(w.f.declaration); d.OK() {
		if isDefault {
			w.exportDefault(d.Child(w.f.name), d)
		}
		w.exported = n
		w.node(d)
		w.exported = syntax.Node{}
		return
	}
	if v := n.Child(w.f.value); isDefault && v.OK() {
		w.exportDefault(v, v)
		w.node(v)
		return
	}
	for s := range n.First("export_clause").NamedChildren() {
		name, alias := s.Child(w.f.name), s.Child(w.f.alias)
		w.Use(name.Text(), facts.Read, name.Range(), facts.NoExpr)
		if alias.OK() {
			w.Def(facts.Def{Name: alias.Text(), Kind: facts.Import, At: alias.Range(), Full: n.Range(), Head: n.Range(), Init: w.expr(name)})
		}
	}
	if !n.First("export_clause").OK() {
		w.all(n)
	}
}

// exportDefault keeps what the module exports without a name.
func (w *walker) exportDefault(value, whole syntax.Node) {
	r := whole.Range()
	w.Def(facts.Def{Name: DefaultExport, Kind: facts.Import, At: place.Range{Start: r.Start, End: r.Start}, Full: r, Head: r, Init: w.expr(value)})
}

// reExport reads export … from 'path'.
func (w *walker) reExport(n, from syntax.Node) {
	path, at := source(from)
	if clause := n.First("export_clause"); clause.OK() {
		for s := range clause.NamedChildren() {
			w.specifier(s, path, at, n)
		}
		return
	}
	if ns := n.First("namespace_export"); ns.OK() {
		w.bring(path, at, "", ns.First("identifier"), n)
		return
	}
	w.Import(facts.Imported{Path: path, At: at, Name: "*"})
}

// required reads const x = require('path') and const {a, b: c} =
// require('path'); it is false for anything else.
func (w *walker) required(id, value, statement syntax.Node) bool {
	if value.Type() != "call_expression" || value.Child(w.f.function).Text() != "require" {
		return false
	}
	argument := value.Child(w.f.arguments).First("string")
	if !argument.OK() {
		return false
	}
	path, at := source(argument)
	switch id.Type() {
	case "identifier":
		w.bring(path, at, "", id, statement)
		return true
	case "object_pattern":
		for c := range id.NamedChildren() {
			switch c.Type() {
			case "shorthand_property_identifier_pattern":
				w.bring(path, at, c.Text(), c, statement)
			case "pair_pattern":
				w.bring(path, at, c.Child(w.f.key).Text(), c.Child(w.f.value), statement)
			}
		}
		return true
	}
	return false
}
