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
	from  uint32      // from where on it has the value; 0 for from its end on
	// taken is the value instead, where it is a part of a part.
	taken facts.ExprID
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
	case "pattern_list", "tuple_pattern", "list_pattern", "tuple", "list": // the last two behind as
		part := 0
		for c := range n.NamedChildren() {
			part++
			inner := b
			if b.part > 0 { // a part of a part
				inner.taken = partOf(r, b.of(r), b.part, c.Range())
			}
			inner.part = part
			target(r, c, inner)
		}
	case "list_splat_pattern", "as_pattern_target", "parenthesized_expression", "list_splat":
		for c := range n.NamedChildren() {
			target(r, c, b)
		}
	case "subscript":
		elementOf(r, n)
		if b.value.OK() && b.part == 0 {
			put(r, n.Part("value"), r.Expression(n.Part("subscript")), b.of(r))
		}
	default:
		r.Visit(n)
	}
}

// elementOf reads an element that is given a value, which reads and writes what holds it.
func elementOf(r *reader.Reader, n syntax.Node) {
	of := n.Part("value")
	switch of.Type() {
	case "identifier":
		r.Use(of.Text(), facts.ReadWrite, of.Range(), facts.NoExpr)
	case "attribute":
		member(r, of, facts.ReadWrite)
	default:
		r.Visit(of)
	}
	for c := range n.NamedChildren() {
		if c != of {
			r.Visit(c)
		}
	}
}

// partOf is one of the values that come together, counted from 1.
func partOf(r *reader.Reader, e facts.ExprID, part int, at place.Range) facts.ExprID {
	if e == facts.NoExpr || part > 255 {
		return facts.NoExpr
	}
	return r.Expr(facts.Expr{Kind: facts.PartOf, Base: e, Part: uint8(part - 1), At: at})
}

// of is the value of which a target gets all, or the part.
func (b *binding) of(r *reader.Reader) facts.ExprID {
	switch {
	case b.taken != facts.NoExpr:
		return b.taken
	case !b.value.OK():
		return facts.NoExpr
	case b.each:
		return r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(b.value), At: b.value.Range()})
	}
	return r.Expression(b.value)
}

// set notes that something that is defined already gets a value.
func set(r *reader.Reader, name syntax.Node, of facts.ScopeID, base facts.ExprID, b binding) {
	value := b.of(r)
	if b.role == facts.ReadWrite || value == facts.NoExpr {
		return
	}
	if b.part > 0 {
		value = partOf(r, value, b.part, name.Range())
	}
	from := max(b.from, name.Range().End, b.full.End)
	r.Set(facts.Setting{Name: name.Text(), Of: of, Base: base, At: name.Range().Start, From: from, Value: value})
}

// bindingScope is where a name that is assigned to is defined.
func bindingScope(r *reader.Reader) facts.ScopeID {
	return r.Enclosing(facts.FunctionScope, facts.TypeScope, facts.BlockScope)
}

func bind(r *reader.Reader, n syntax.Node, b binding) {
	name, scope := n.Text(), bindingScope(r)
	of, elsewhere := stateOf(r).outer[scopedName{scope, name}]
	if !elsewhere {
		of = scope
	}
	if existing := r.Defined(scope, name); b.role == facts.ReadWrite || elsewhere || existing != facts.NoDef && (scope != 0 || isValue(r.At(existing).Kind)) {
		r.Use(name, b.role, n.Range(), facts.NoExpr)
		set(r, n, of, facts.NoExpr, b)
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

// isValue says whether a definition is one of a variable, which an assignment sets, not something that it takes the place of.
func isValue(k facts.Kind) bool {
	return k.IsValue() || k == facts.Parameter
}

func isConstant(name string) bool {
	return len(name) > 1 && strings.ToUpper(name) == name && strings.ToLower(name) != name
}

// bindAttribute reads a.b = …, which for self.b defines b in the class, as it does for the name of a class.
func bindAttribute(r *reader.Reader, n syntax.Node, b binding) {
	object, name := n.Part("object"), n.Part("attribute")
	if b.role == facts.ReadWrite {
		member(r, n, b.role)
		return
	}
	if class := classOfSelf(r, object); class != facts.NoDef && r.Defined(r.At(class).Body, name.Text()) == facts.NoDef && !stateOf(r).declared[r.At(class).Body][name.Text()] {
		r.Visit(object)
		d := valueDef(r, name, b)
		d.Kind = facts.Field
		r.Inner(r.At(class).Body, func() { r.At(r.Def(d)).Parent = class })
		return
	}
	if class := classNamed(r, object); class != facts.NoDef && r.Defined(r.At(class).Body, name.Text()) == facts.NoDef {
		r.Visit(object)
		d := valueDef(r, name, b)
		d.Kind = facts.Field
		r.Inner(r.At(class).Body, func() { r.At(r.Def(d)).Parent = class })
		return
	}
	member(r, n, b.role)
	set(r, name, 0, r.Expression(object), b)
}

// classNamed is the class of this file that a name stands for outside of all functions; NoDef if it is none.
func classNamed(r *reader.Reader, n syntax.Node) facts.DefID {
	if n.Type() != "identifier" || r.Scope() != 0 {
		return facts.NoDef
	}
	if id := r.Defined(0, n.Text()); id != facts.NoDef && r.At(id).Kind == facts.Class && r.At(id).Body != 0 {
		return id
	}
	return facts.NoDef
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
	switch {
	case b.typ.OK():
		d.Type = typ(r, b.typ)
	case b.plain && b.part == 0 && b.value.OK():
		d.Type = typeBehind(r, b.value)
	}
	d.Init, d.Part = b.of(r), b.part
	return d
}
