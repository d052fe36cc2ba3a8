package javascript

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

func (w *walker) class(n syntax.Node) {
	if !n.Child(w.f.name).OK() {
		w.classBody(n, facts.NoDef)
		return
	}
	w.classBody(n, w.Def(w.begin(n, facts.Class)))
}

// classBody reads the heritage and the members of a class, whose definition
// is owner.
func (w *walker) classBody(n syntax.Node, owner facts.DefID) {
	at := n.Range()
	if id := n.Child(w.f.name); id.OK() {
		at.Start = id.Range().End
	}
	w.In(facts.TypeScope, at, owner, func() {
		w.typeParameters(n)
		if heritage := n.First("class_heritage"); heritage.OK() {
			w.heritage(heritage, owner)
		}
		for m := range n.Child(w.f.body).NamedChildren() {
			w.member(m)
		}
		w.assignedMembers(owner)
	})
}

// assignedMembers defines the members that a class is given by assignments to
// this, where nothing else declares them: the first defines it, as is usual in
// JavaScript, and the others set it.
func (w *walker) assignedMembers(class facts.DefID) {
	for _, a := range w.assigned[class] {
		name := a.id.Text()
		if w.typed || w.Defined(w.At(class).Body, name) != facts.NoDef {
			w.Inner(a.scope, func() {
				this := w.Expr(facts.Expr{Kind: facts.Name, Name: "this", At: a.whole.Range()})
				w.Use(name, a.role, a.id.Range(), this)
			})
			continue
		}
		w.Inner(w.At(class).Body, func() {
			d := facts.Def{Name: name, Kind: facts.Property, At: a.id.Range(), Full: a.whole.Range(), Head: a.whole.Range(), Init: a.init}
			w.At(w.Def(d)).Parent = class
		})
	}
	delete(w.assigned, class)
}

// heritage reads what a class extends and implements. In JavaScript the
// expression stands there without a clause around it.
func (w *walker) heritage(n syntax.Node, owner facts.DefID) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "extends_clause", "extends_type_clause", "implements_clause":
			w.supers(c, owner)
		default:
			w.super(c, owner)
		}
	}
}

// supers reads a list of types that the definition owner is derived from.
func (w *walker) supers(clause syntax.Node, owner facts.DefID) {
	for t := range clause.NamedChildren() {
		if t.Type() == "type_arguments" { // of the class that stands in front
			w.useType(t)
			if owner == facts.NoDef {
				continue
			}
			if s := w.At(owner).Supers; len(s) > 0 {
				generic := w.generic(s[len(s)-1], t)
				w.At(owner).Supers[len(s)-1] = generic
			}
			continue
		}
		w.super(t, owner)
	}
}

func (w *walker) super(t syntax.Node, owner facts.DefID) {
	w.superUse(t)
	if id := w.typ(t); owner != facts.NoDef && id != facts.NoExpr {
		d := w.At(owner)
		d.Supers = append(d.Supers, id)
	}
}

// superUse notes the use of a class as a supertype, which is written as an
// expression.
func (w *walker) superUse(n syntax.Node) {
	if n.Type() == "identifier" {
		w.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr)
		return
	}
	w.useType(n)
}

// member reads one member of a class or an object literal.
func (w *walker) member(n syntax.Node) {
	switch n.Type() {
	case "method_definition", "method_signature", "abstract_method_signature", "function_signature":
		w.method(n)
	case "public_field_definition", "field_definition", "property_signature":
		w.field(n)
	case "class_static_block", "decorator":
		w.all(n)
	case "comment":
	default:
		w.useType(n)
	}
}

// memberName is the name of a member; no node for one that is computed.
func (w *walker) memberName(n syntax.Node) syntax.Node {
	id := n.Child(w.f.name)
	if !id.OK() {
		id = n.Child(w.f.property)
	}
	switch id.Type() {
	case "property_identifier", "private_property_identifier", "identifier":
		return id
	case "computed_property_name":
		w.all(id)
	}
	return syntax.Node{}
}

func (w *walker) method(n syntax.Node) {
	id := w.memberName(n)
	owner := facts.NoDef
	if id.OK() {
		d := facts.Def{Name: id.Text(), Kind: facts.Method, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: n.Has("static")}
		d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
		if body := n.Child(w.f.body); body.OK() {
			d.Head.End = trimEnd(w.text, d.Head.Start, body.Range().Start)
		}
		switch {
		case d.Name == "constructor":
			d.Kind = facts.Constructor
		case n.Has("get") || n.Has("set"):
			d.Kind = facts.Property
		}
		owner = w.Def(d)
	}
	w.functionBody(n, owner)
}

func (w *walker) field(n syntax.Node) {
	id, value := w.memberName(n), n.Child(w.f.value)
	if !id.OK() || !n.Child(w.f.typ).First("object_type").OK() { // its members are read below
		w.useType(n.Child(w.f.typ))
	}
	if !id.OK() {
		w.node(value)
		return
	}
	d := facts.Def{Name: id.Text(), Kind: facts.Property, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: n.Has("static")}
	d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
	d.Type = w.typ(n.Child(w.f.typ))
	if value.Type() == "arrow_function" || value.Type() == "function" || value.Type() == "function_expression" {
		d.Kind = facts.Method
		d.Head.End = trimEnd(w.text, d.Head.Start, value.Child(w.f.body).Range().Start)
		w.functionBody(value, w.Def(d))
		return
	}
	if t := n.Child(w.f.typ).First("function_type"); t.OK() {
		d.Kind, d.Type, d.Params = facts.Method, w.typ(w.resultType(t)), w.paramTypes(t.Child(w.f.parameters))
	}
	def := w.Def(d)
	w.inlineType(n.Child(w.f.typ), def)
	w.node(value)
	init := w.expr(value)
	w.At(def).Init = init
}

// inlineType makes the members of an object type without a name those of the
// definition that has it as its type.
func (w *walker) inlineType(annotation syntax.Node, owner facts.DefID) {
	if t := annotation.First("object_type"); t.OK() {
		w.In(facts.TypeScope, t.Range(), owner, func() {
			for m := range t.NamedChildren() {
				w.member(m)
			}
		})
	}
}

func (w *walker) interfaceType(n syntax.Node) {
	id := w.Def(w.begin(n, facts.Interface))
	w.In(facts.TypeScope, place.Range{Start: w.At(id).At.End, End: n.Range().End}, id, func() {
		w.typeParameters(n)
		if extends := n.First("extends_type_clause", "extends_clause"); extends.OK() {
			w.supers(extends, id)
		}
		for m := range n.Child(w.f.body).NamedChildren() {
			w.member(m)
		}
	})
}

func (w *walker) typeAlias(n syntax.Node) {
	value := n.Child(w.f.value)
	id := w.Def(w.begin(n, facts.Type))
	w.In(facts.TypeScope, n.Range(), id, func() {
		w.typeParameters(n)
		if value.Type() == "object_type" {
			for m := range value.NamedChildren() {
				w.member(m)
			}
			return
		}
		w.useType(value)
		t := w.typ(value)
		w.At(id).Type = t
	})
}

func (w *walker) enum(n syntax.Node) {
	id := w.Def(w.begin(n, facts.Enum))
	w.In(facts.TypeScope, n.Child(w.f.body).Range(), id, func() {
		for m := range n.Child(w.f.body).NamedChildren() {
			name := m
			if m.Type() == "enum_assignment" {
				name = m.Child(w.f.name)
				w.node(m.Child(w.f.value))
			}
			if m.Type() == "comment" {
				continue
			}
			self := w.Expr(facts.Expr{Kind: facts.Name, Name: w.At(id).Name, At: w.At(id).At})
			w.Def(facts.Def{Name: strings.Trim(name.Text(), `"'`), Kind: facts.EnumMember, At: name.Range(), Full: m.Range(), Head: m.Range(), Type: self, Doc: lang.CommentAbove(w.text, m.Range().Start, "//")})
		}
	})
}

func (w *walker) namespace(n syntax.Node) {
	d := w.begin(n, facts.Namespace)
	id := w.Def(d)
	w.In(facts.TypeScope, n.Child(w.f.body).Range(), id, func() { w.all(n.Child(w.f.body)) })
}

// typeName defines a name that stands for a type inside another type.
func (w *walker) typeName(id, whole syntax.Node) {
	if id.OK() {
		w.Def(facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: whole.Range(), Head: whole.Range()})
	}
}

// typ keeps a type, or an annotation of one.
func (w *walker) typ(n syntax.Node) facts.ExprID {
	e := facts.Expr{At: n.Range()}
	first := func() facts.ExprID {
		for c := range n.NamedChildren() {
			return w.typ(c)
		}
		return facts.NoExpr
	}
	switch n.Type() {
	case "type_annotation", "parenthesized_type", "readonly_type", "constraint", "opting_type_annotation", "optional_type", "rest_type":
		return first()
	case "type_identifier", "identifier":
		e.Kind, e.Name = facts.Name, n.Text()
	case "predefined_type", "literal_type":
		e.Kind, e.Name = facts.Literal, n.Text()
	case "nested_type_identifier":
		e.Kind, e.Name, e.Base = facts.Member, n.Child(w.f.name).Text(), w.typ(n.Child(w.f.module))
	case "nested_identifier", "member_expression":
		return w.expr(n)
	case "generic_type":
		e.Kind, e.Base = facts.GenericOf, w.typ(n.Child(w.f.name))
		for a := range n.First("type_arguments").NamedChildren() {
			e.Args = append(e.Args, w.typ(a))
		}
	case "array_type":
		e.Kind, e.Base = facts.ListOf, first()
	case "object_type":
		return w.shape(n)
	case "lookup_type":
		e.Kind, e.Base = facts.Index, first()
	case "type_query":
		for c := range n.NamedChildren() {
			return w.expr(c)
		}
		return facts.NoExpr
	case "tuple_type":
		e.Kind = facts.TupleOf
		for c := range n.NamedChildren() {
			e.Args = append(e.Args, w.typ(c))
		}
	case "union_type", "intersection_type":
		e.Kind, e.Args = facts.EitherOf, w.arms(n, nil)
	case "function_type":
		e.Kind, e.Base, e.Args = facts.FuncOf, w.typ(w.resultType(n)), w.paramTypes(n.Child(w.f.parameters))
	default:
		return facts.NoExpr
	}
	return w.Expr(e)
}

// arms are the types between the bars of a type, which the grammar nests.
func (w *walker) arms(n syntax.Node, arms []facts.ExprID) []facts.ExprID {
	for c := range n.NamedChildren() {
		if c.Type() == n.Type() {
			arms = w.arms(c, arms)
		} else if t := w.typ(c); t != facts.NoExpr {
			arms = append(arms, t)
		}
	}
	return arms
}

// useType notes the names used in a type.
func (w *walker) useType(n syntax.Node) {
	switch n.Type() {
	case "type_identifier":
		w.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr)
	case "identifier":
		w.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	case "nested_type_identifier":
		module, name := n.Child(w.f.module), n.Child(w.f.name)
		w.useType(module)
		w.Use(name.Text(), facts.TypeUse, name.Range(), w.typ(module))
	case "member_expression":
		w.memberUse(n, facts.TypeUse)
	case "call_expression":
		w.node(n)
	case "function_type", "call_signature", "construct_signature", "constructor_type":
		w.functionBody(n, facts.NoDef)
	case "object_type":
		w.In(facts.TypeScope, n.Range(), facts.NoDef, func() {
			for m := range n.NamedChildren() {
				w.member(m)
			}
		})
	case "conditional_type": // what infer names counts in all of it
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
			was := w.conditional
			w.conditional = w.Scope()
			for c := range n.NamedChildren() {
				w.useType(c)
			}
			w.conditional = was
		})
	case "infer_type":
		w.Inner(w.conditional, func() { w.typeName(n.First("type_identifier"), n) })
	case "mapped_type_clause":
		w.typeName(n.Child(w.f.name), n)
		for c := range n.NamedChildren() {
			if c.Field() != w.f.name {
				w.useType(c)
			}
		}
	case "property_identifier", "predefined_type", "literal_type", "comment", "this_type":
	default:
		for c := range n.NamedChildren() {
			w.useType(c)
		}
	}
}
