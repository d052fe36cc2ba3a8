package javascript

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
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
			if name := d.Child(w.f.name); name.OK() {
				start := d.Range().Start
				w.exportDefault(name, d, place.Range{Start: start, End: start})
			} else {
				defer func() { w.exportDefault(d, d, n.First("default").Range()) }()
			}
		}
		w.exported = n
		w.node(d)
		w.exported = syntax.Node{}
		return
	}
	if v := n.Child(w.f.value); isDefault && v.OK() {
		w.node(v)
		w.exportDefault(v, v, n.First("default").Range())
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
func (w *walker) exportDefault(value, whole syntax.Node, at place.Range) {
	r := whole.Range()
	w.Def(facts.Def{Name: DefaultExport, Kind: facts.Import, At: at, Full: r, Head: at, Init: w.expr(value)})
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

// requiredPath is the module that require('path') or import('path') brings in.
func (w *walker) requiredPath(call syntax.Node) (path string, ok bool) {
	if f := call.Child(w.f.function); f.Text() != "require" && f.Type() != "import" {
		return "", false
	}
	argument := call.Child(w.f.arguments).First("string")
	if !argument.OK() {
		return "", false
	}
	path, _ = source(argument)
	return path, true
}

// Exports is the name under which what a module assigns to module.exports is
// kept.
const Exports = "module.exports"

// exports reads the statements by which older modules say what they have to
// offer, and those that give a function members; it is false for any other.
func (w *walker) exports(n syntax.Node) bool {
	assignment := n.First("assignment_expression")
	if w.typed || !assignment.OK() {
		return false
	}
	left, value := assignment.Child(w.f.left), assignment.Child(w.f.right)
	inner := value
	for inner.Type() == "assignment_expression" { // module.exports = exports = value
		w.export(inner.Child(w.f.left), inner.Child(w.f.right), n)
		inner = inner.Child(w.f.right)
	}
	return w.export(left, inner, n)
}

// export reads one assignment of a value to a member.
func (w *walker) export(left, value, statement syntax.Node) bool {
	object, id := left.Child(w.f.object), left.Child(w.f.property)
	if w.Scope() != 0 {
		return false
	}
	if left.Type() != "member_expression" && left.Text() != "exports" || value.Type() == "assignment_expression" {
		return false
	}
	container := object.Text()
	switch container {
	case "exports", "module.exports":
		container = Exports
	}
	if proto, ok := strings.CutSuffix(container, ".prototype"); ok {
		container = proto
	}
	if w.members[member{0, container, id.Text()}] {
		return false
	}
	switch text := object.Text(); {
	case left.Text() == "module.exports" || left.Text() == "exports":
		w.exportWhole(value, statement)
		return true
	case text == "exports" || text == "module.exports":
		w.exportMember(id, value, statement, Exports)
		return true
	case object.Type() == "member_expression" && object.Child(w.f.property).Text() == "prototype" && object.Child(w.f.object).Type() == "identifier":
		w.node(object.Child(w.f.object))
		w.exportMember(id, value, statement, object.Child(w.f.object).Text())
		return true
	case object.Type() == "identifier":
		owner := w.Visible(text)
		if owner == facts.NoDef || w.At(owner).Scope != 0 {
			return false
		}
		if k := w.At(owner).Kind; k != facts.Function && k != facts.Variable && k != facts.Constant && k != facts.Class {
			return false
		}
		if body := w.At(owner).Body; body != 0 && w.Defined(body, id.Text()) != facts.NoDef {
			return false
		}
		w.node(object)
		w.exportMember(id, value, statement, text)
		return true
	}
	return false
}

// exportWhole keeps what a module is.
func (w *walker) exportWhole(value, statement syntax.Node) {
	w.node(value)
	r := statement.Range()
	at := place.Range{Start: r.Start, End: r.Start}
	init := w.expr(value)
	w.Def(facts.Def{Name: Exports, Kind: facts.Import, At: at, Full: r, Head: at, Init: init})
}

// exportMember defines a member of what the container names.
func (w *walker) exportMember(id, value, statement syntax.Node, container string) {
	w.members[member{0, container, id.Text()}] = true
	d := facts.Def{Name: id.Text(), Kind: facts.Property, Container: container, At: id.Range(), Full: statement.Range(), Head: statement.Range()}
	d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
	switch value.Type() {
	case "arrow_function", "function", "function_expression", "generator_function":
		d.Kind = facts.Method
		if container == Exports {
			d.Kind = facts.Function
		}
		d.Head.End = trimEnd(w.text, d.Head.Start, value.Child(w.f.body).Range().Start)
		w.functionBody(value, w.Def(d))
		return
	}
	def := w.Def(d)
	w.node(value)
	init := w.expr(value)
	w.At(def).Init = init
}
