package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
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

func assignment(r *reader.Reader, n syntax.Node) {
	right, typ := n.Part("right"), n.Part("type")
	if typ.OK() {
		r.UseType(typ)
	}
	if right.OK() {
		r.Visit(right)
	}
	target(r, n.Part("left"), binding{value: right, typ: typ, full: n.Range(), plain: true})
}

// target reads what stands on the left of an assignment: a name is defined by
// the first one and written by the others, an attribute of self defines a
// field of the class.
func target(r *reader.Reader, n syntax.Node, b binding) {
	if b.role != facts.ReadWrite {
		b.role = facts.Write
	}
	switch n.Type() {
	case "identifier":
		bind(r, n, b)
	case "attribute":
		bindAttribute(r, n, b)
	case "pattern_list", "tuple_pattern", "list_pattern":
		part := 0
		for c := range n.NamedChildren() {
			part++
			inner := b
			inner.part = part
			target(r, c, inner)
		}
	case "list_splat_pattern", "as_pattern_target", "parenthesized_expression", "list_splat":
		for c := range n.NamedChildren() {
			target(r, c, b)
		}
	default:
		r.Visit(n)
	}
}

// bindingScope is where a name that is assigned to is defined.
func bindingScope(r *reader.Reader) facts.ScopeID {
	return r.Enclosing(facts.FunctionScope, facts.TypeScope, facts.BlockScope)
}

func bind(r *reader.Reader, n syntax.Node, b binding) {
	name, scope := n.Text(), bindingScope(r)
	if b.role == facts.ReadWrite || stateOf(r).outer[scopedName{scope, name}] || r.Defined(scope, name) != facts.NoDef {
		r.Use(name, b.role, n.Range(), facts.NoExpr)
		return
	}
	d := valueDef(r, n, b)
	d.Kind = facts.Variable
	switch {
	case scope == r.Enclosing(facts.TypeScope) && scope != 0:
		d.Kind = facts.Field
	case isConstant(name):
		d.Kind = facts.Constant
	}
	r.Def(d)
}

func isConstant(name string) bool {
	return len(name) > 1 && strings.ToUpper(name) == name && strings.ToLower(name) != name
}

// bindAttribute reads a.b = …, which for self.b defines b in the class.
func bindAttribute(r *reader.Reader, n syntax.Node, b binding) {
	object, name := n.Part("object"), n.Part("attribute")
	class := classOfSelf(r, object)
	if class == facts.NoDef || b.role == facts.ReadWrite || r.Defined(r.At(class).Body, name.Text()) != facts.NoDef {
		member(r, n, b.role)
		return
	}
	r.Visit(object)
	d := valueDef(r, name, b)
	d.Kind = facts.Field
	r.Inner(r.At(class).Body, func() { r.At(r.Def(d)).Parent = class })
}

// classOfSelf is the class of which the expression, the first parameter of a
// method, is a value; NoDef if it is something else.
func classOfSelf(r *reader.Reader, n syntax.Node) facts.DefID {
	if t := n.Text(); n.Type() != "identifier" || t != "self" && t != "cls" {
		return facts.NoDef
	}
	return r.Owner(facts.TypeScope)
}

// valueDef begins the definition of a name that gets a value.
func valueDef(r *reader.Reader, id syntax.Node, b binding) facts.Def {
	d := facts.Def{Name: id.Text(), At: id.Range(), Full: id.Range(), Head: id.Range()}
	if b.plain {
		d.Full, d.Head = b.full, b.full
		d.Doc = lang.CommentAbove(r.Text, b.full.Start, "#")
	}
	if b.typ.OK() {
		d.Type = typ(r, b.typ)
	}
	if b.value.OK() {
		d.Init, d.Part = r.Expression(b.value), b.part
		if b.each {
			d.Init = r.Expr(facts.Expr{Kind: facts.Each, Base: d.Init, At: b.value.Range()})
		}
	}
	return d
}
