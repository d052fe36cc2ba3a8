package javascript

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
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
func bring(r *reader.Reader, path string, at place.Range, original string, id, statement syntax.Node) {
	number := r.Import(facts.Imported{Path: path, At: at, Name: original, Alias: id.Text()})
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: statement.Range(), Head: statement.Range(), Import: number})
}

func importStatement(r *reader.Reader, n syntax.Node) {
	path, at := source(n.Part("source"))
	clause := n.First("import_clause")
	if !clause.OK() {
		r.Import(facts.Imported{Path: path, At: at})
		return
	}
	for c := range clause.NamedChildren() {
		switch c.Type() {
		case "identifier":
			bring(r, path, at, DefaultExport, c, n)
		case "namespace_import":
			bring(r, path, at, "", c.First("identifier"), n)
		case "named_imports":
			for s := range c.NamedChildren() {
				specifier(r, s, path, at, n)
			}
		}
	}
}

// specifier reads a or a as b in braces.
func specifier(r *reader.Reader, s syntax.Node, path string, at place.Range, statement syntax.Node) {
	name, id := s.Part("name"), s.Part("alias")
	if !name.OK() {
		return
	}
	if !id.OK() {
		id = name
	}
	bring(r, path, at, name.Text(), id, statement)
	if id.Index() != name.Index() {
		// Resolved by the name it has here, which leads to the same thing.
		r.Use(id.Text(), facts.ImportUse, name.Range(), facts.NoExpr)
	}
}

func exportStatement(r *reader.Reader, n syntax.Node) {
	noted := stateOf(r)
	if from := n.Part("source"); from.OK() {
		reExport(r, n, from)
		return
	}
	isDefault := n.Has("default")
	if d := n.Part("declaration"); d.OK() {
		if isDefault {
			if name := d.Part("name"); name.OK() {
				start := d.Range().Start
				exportDefault(r, name, d, place.Range{Start: start, End: start})
			} else {
				defer func() { exportDefault(r, d, d, n.First("default").Range()) }()
			}
		}
		noted.exported = n
		r.Visit(d)
		noted.exported = syntax.Node{}
		return
	}
	if v := n.Part("value"); isDefault && v.OK() {
		r.Visit(v)
		exportDefault(r, v, v, n.First("default").Range())
		return
	}
	for s := range n.First("export_clause").NamedChildren() {
		name, alias := s.Part("name"), s.Part("alias")
		r.Use(name.Text(), facts.Read, name.Range(), facts.NoExpr)
		if alias.OK() {
			r.Def(facts.Def{Name: alias.Text(), Kind: facts.Import, At: alias.Range(), Full: n.Range(), Head: n.Range(), Init: r.Expression(name)})
		}
	}
	if !n.First("export_clause").OK() {
		r.All(n)
	}
}

// exportDefault keeps what the module exports without a name.
func exportDefault(r *reader.Reader, value, whole syntax.Node, at place.Range) {
	r.Def(facts.Def{Name: DefaultExport, Kind: facts.Import, At: at, Full: whole.Range(), Head: at, Init: r.Expression(value)})
}

// reExport reads export … from 'path'.
func reExport(r *reader.Reader, n, from syntax.Node) {
	path, at := source(from)
	if clause := n.First("export_clause"); clause.OK() {
		for s := range clause.NamedChildren() {
			specifier(r, s, path, at, n)
		}
		return
	}
	if ns := n.First("namespace_export"); ns.OK() {
		bring(r, path, at, "", ns.First("identifier"), n)
		return
	}
	r.Import(facts.Imported{Path: path, At: at, Name: "*"})
}

// required reads const x = require('path'), const x = require('path').name and
// const {a, b: c} = require('path'); it is false for anything else.
func required(r *reader.Reader, id, value, statement syntax.Node) bool {
	name, whole := "", value
	if member := value.Part("property"); value.Type() == "member_expression" && id.Type() == "identifier" {
		name, value = member.Text(), value.Part("object")
	}
	if value.Type() != "call_expression" || value.Part("function").Text() != "require" {
		return false
	}
	argument := value.Part("arguments").First("string")
	if !argument.OK() {
		return false
	}
	path, at := source(argument)
	switch id.Type() {
	case "identifier":
		bring(r, path, at, name, id, statement)
		if name != "" {
			memberUse(r, whole, facts.Read)
		}
		return true
	case "object_pattern":
		for c := range id.NamedChildren() {
			switch c.Type() {
			case "shorthand_property_identifier_pattern":
				bring(r, path, at, c.Text(), c, statement)
			case "pair_pattern":
				bring(r, path, at, c.Part("key").Text(), c.Part("value"), statement)
			}
		}
		return true
	}
	return false
}

// requiredPath is the module that require('path') or import('path') brings in.
func requiredPath(r *reader.Reader, call syntax.Node) (path string, ok bool) {
	if f := call.Part("function"); f.Text() != "require" && f.Type() != "import" {
		return "", false
	}
	argument := call.Part("arguments").First("string")
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
func exports(r *reader.Reader, n syntax.Node) bool {
	assignment := n.First("assignment_expression")
	if stateOf(r).typed || !assignment.OK() {
		return false
	}
	left, value := assignment.Part("left"), assignment.Part("right")
	inner := value
	for inner.Type() == "assignment_expression" { // module.exports = exports = value
		export(r, inner.Part("left"), inner.Part("right"), n)
		inner = inner.Part("right")
	}
	return export(r, left, inner, n)
}

// export reads one assignment of a value to a member.
func export(r *reader.Reader, left, value, statement syntax.Node) bool {
	object, id := left.Part("object"), left.Part("property")
	if r.Scope() != 0 {
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
	if stateOf(r).members[memberOf{0, container, id.Text()}] {
		return false
	}
	switch text := object.Text(); {
	case left.Text() == "module.exports" || left.Text() == "exports":
		exportWhole(r, value, statement)
		return true
	case text == "exports" || text == "module.exports":
		exportMember(r, id, value, statement, Exports)
		return true
	case object.Type() == "member_expression" && object.Part("property").Text() == "prototype" && object.Part("object").Type() == "identifier":
		r.Visit(object.Part("object"))
		exportMember(r, id, value, statement, object.Part("object").Text())
		return true
	case object.Type() == "identifier":
		owner := r.Visible(text)
		if owner == facts.NoDef || r.At(owner).Scope != 0 {
			return false
		}
		if k := r.At(owner).Kind; k != facts.Function && k != facts.Variable && k != facts.Constant && k != facts.Class {
			return false
		}
		if body := r.At(owner).Body; body != 0 && r.Defined(body, id.Text()) != facts.NoDef {
			return false
		}
		r.Visit(object)
		exportMember(r, id, value, statement, text)
		return true
	}
	return false
}

// exportWhole keeps what a module is.
func exportWhole(r *reader.Reader, value, statement syntax.Node) {
	r.Visit(value)
	full := statement.Range()
	at := place.Range{Start: full.Start, End: full.Start}
	r.Def(facts.Def{Name: Exports, Kind: facts.Import, At: at, Full: full, Head: at, Init: r.Expression(value)})
}

// exportMember defines a member of what the container names.
func exportMember(r *reader.Reader, id, value, statement syntax.Node, container string) {
	stateOf(r).members[memberOf{0, container, id.Text()}] = true
	d := facts.Def{Name: id.Text(), Kind: facts.Property, Container: container, At: id.Range(), Full: statement.Range(), Head: statement.Range()}
	d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
	switch value.Type() {
	case "arrow_function", "function", "function_expression", "generator_function":
		d.Kind = facts.Method
		if container == Exports {
			d.Kind = facts.Function
		}
		d.Head.End = trimEnd(r.Text, d.Head.Start, value.Part("body").Range().Start)
		functionBody(r, value, r.Def(d))
		return
	}
	if value.Type() == "identifier" && container == Exports { // another name of it
		d.Kind = facts.Import
	}
	d.Type = valueSaid(r, d.Doc)
	def := r.Def(d)
	r.Visit(value)
	init := r.Expression(value)
	r.At(def).Init = init
}
