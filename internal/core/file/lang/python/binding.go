package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// binding is what a target of an assignment gets.
type binding struct {
	value syntax.Node // no node if unknown
	typ   syntax.Node // the annotation, if any
	each  bool        // an element of value rather than value itself
	part  int         // which element of a tuple, counted from 1
	role  facts.Role  // ReadWrite for x += 1
	full  place.Range // the whole assignment
	plain bool        // an assignment statement, which may document what it defines
}

func (w *walker) assignment(n syntax.Node) {
	right, typ := n.Child(fRight), n.Child(fType)
	if typ.OK() {
		w.useType(typ)
	}
	if right.OK() {
		w.node(right)
	}
	w.target(n.Child(fLeft), binding{value: right, typ: typ, full: n.Range(), plain: true})
}

// target reads what stands on the left of an assignment: a name is defined by
// the first one and written by the others, an attribute of self defines a
// field of the class.
func (w *walker) target(n syntax.Node, b binding) {
	if b.role != facts.ReadWrite {
		b.role = facts.Write
	}
	switch n.Type() {
	case "identifier":
		w.bind(n, b)
	case "attribute":
		w.bindAttribute(n, b)
	case "pattern_list", "tuple_pattern", "list_pattern":
		part := 0
		for c := range n.NamedChildren() {
			part++
			inner := b
			inner.part = part
			w.target(c, inner)
		}
	case "list_splat_pattern", "as_pattern_target", "parenthesized_expression", "list_splat":
		for c := range n.NamedChildren() {
			w.target(c, b)
		}
	default:
		w.node(n)
	}
}

// bindingScope is where a name that is assigned to is defined.
func (w *walker) bindingScope() facts.ScopeID {
	return w.Enclosing(facts.FunctionScope, facts.TypeScope, facts.BlockScope)
}

func (w *walker) bind(n syntax.Node, b binding) {
	name, scope := n.Text(), w.bindingScope()
	if b.role == facts.ReadWrite || w.outer[scopedName{scope, name}] || w.Defined(scope, name) != facts.NoDef {
		w.Use(name, b.role, n.Range(), facts.NoExpr)
		return
	}
	d := w.valueDef(n, b)
	d.Kind = facts.Variable
	switch {
	case scope == w.Enclosing(facts.TypeScope) && scope != 0:
		d.Kind = facts.Field
	case isConstant(name):
		d.Kind = facts.Constant
	}
	w.Def(d)
}

func isConstant(name string) bool {
	return len(name) > 1 && strings.ToUpper(name) == name && strings.ToLower(name) != name
}

// bindAttribute reads a.b = …, which for self.b defines b in the class.
func (w *walker) bindAttribute(n syntax.Node, b binding) {
	object, name := n.Child(fObject), n.Child(fAttribute)
	class := w.classOfSelf(object)
	if class == facts.NoDef || b.role == facts.ReadWrite || w.Defined(w.At(class).Body, name.Text()) != facts.NoDef {
		w.attribute(n, b.role)
		return
	}
	w.node(object)
	d := w.valueDef(name, b)
	d.Kind = facts.Field
	w.Inner(w.At(class).Body, func() { w.At(w.Def(d)).Parent = class })
}

// classOfSelf is the class of which the expression, the first parameter of a
// method, is a value; NoDef if it is something else.
func (w *walker) classOfSelf(n syntax.Node) facts.DefID {
	if t := n.Text(); n.Type() != "identifier" || t != "self" && t != "cls" {
		return facts.NoDef
	}
	return w.Owner(facts.TypeScope)
}

// valueDef begins the definition of a name that gets a value.
func (w *walker) valueDef(id syntax.Node, b binding) facts.Def {
	d := facts.Def{Name: id.Text(), At: id.Range(), Full: id.Range(), Head: id.Range()}
	if b.plain {
		d.Full, d.Head = b.full, b.full
		d.Doc = lang.CommentAbove(w.text, b.full.Start, "#")
	}
	if b.typ.OK() {
		d.Type = w.typ(b.typ)
	}
	if b.value.OK() {
		d.Init, d.Part = w.expr(b.value), b.part
		if b.each {
			d.Init = w.Expr(facts.Expr{Kind: facts.Each, Base: d.Init, At: b.value.Range()})
		}
	}
	return d
}
