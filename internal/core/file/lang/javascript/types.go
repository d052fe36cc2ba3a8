package javascript

import (
	"cmp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

func class(r *reader.Reader, n syntax.Node) {
	if !n.Part("name").OK() {
		classBody(r, n, facts.NoDef)
		return
	}
	classBody(r, n, r.Def(begin(r, n, facts.Class)))
}

// classBody reads the heritage and the members of a class, whose definition
// is owner.
func classBody(r *reader.Reader, n syntax.Node, owner facts.DefID) {
	at := n.Range()
	if id := n.Part("name"); id.OK() {
		at.Start = id.Range().End
	}
	r.In(facts.TypeScope, at, owner, func() {
		typeParameters(r, n)
		heritage(r, n.First("class_heritage"), owner)
		for m := range n.Part("body").NamedChildren() {
			typeMember(r, m)
		}
		assignedMembers(r, owner)
	})
}

// rank puts those first that give a member its first value: that set it where the object is made.
func (a *assigned) rank() int {
	if a.role == facts.Write {
		return 0
	}
	return 1
}

// assignedMembers defines the members that a class is given by assignments to
// this, where nothing else declares them: the first defines it, as is usual in
// JavaScript, and the others set it.
func assignedMembers(r *reader.Reader, class facts.DefID) {
	noted := stateOf(r)
	all := noted.assigned[class]
	slices.SortStableFunc(all, func(a, b assigned) int { return cmp.Compare(a.rank(), b.rank()) })
	for _, a := range all {
		name := a.id.Text()
		changes := a.role != facts.Write && len(r.At(class).Supers) > 0 // what it is derived from may have set it
		if noted.typed || changes || r.Defined(r.At(class).Body, name) != facts.NoDef {
			r.Inner(a.scope, func() {
				this := r.Expr(facts.Expr{Kind: facts.Name, Name: "this", At: a.whole.Range()})
				r.Use(name, a.role, a.id.Range(), this)
			})
			continue
		}
		r.Inner(r.At(class).Body, func() {
			d := facts.Def{Name: name, Kind: facts.Property, At: a.id.Range(), Full: a.whole.Range(), Head: a.whole.Range(), Init: a.init}
			d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
			d.Type = valueSaid(r, d.Doc)
			r.At(r.Def(d)).Parent = class
		})
	}
	delete(noted.assigned, class)
}

// heritage reads what a class extends and implements. In JavaScript the
// expression stands there without a clause around it.
func heritage(r *reader.Reader, n syntax.Node, owner facts.DefID) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "extends_clause", "extends_type_clause", "implements_clause":
			supers(r, c, owner)
		default:
			super(r, c, owner)
		}
	}
}

// supers reads a list of types that the definition owner is derived from.
func supers(r *reader.Reader, clause syntax.Node, owner facts.DefID) {
	for t := range clause.NamedChildren() {
		if t.Type() == "type_arguments" { // of the class that stands in front
			r.UseType(t)
			if owner == facts.NoDef {
				continue
			}
			if s := r.At(owner).Supers; len(s) > 0 {
				generic := generic(r, s[len(s)-1], t)
				r.At(owner).Supers[len(s)-1] = generic
			}
			continue
		}
		super(r, t, owner)
	}
}

func super(r *reader.Reader, t syntax.Node, owner facts.DefID) {
	superUse(r, t)
	if owner == facts.NoDef || !isNamed(t) {
		return
	}
	if id := r.Expression(t); id != facts.NoExpr {
		d := r.At(owner)
		d.Supers = append(d.Supers, id)
	}
}

// isNamed says whether what a class is derived from is a type, or the name of one, and not worked
// out.
func isNamed(t syntax.Node) bool {
	switch t.Type() {
	case "identifier", "nested_identifier", "member_expression":
		return true
	}
	_, isType := types[t.Type()]
	return isType
}

// superUse notes the use of a class as a supertype, which is written as an
// expression.
func superUse(r *reader.Reader, n syntax.Node) {
	if n.Type() == "identifier" {
		r.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr)
		return
	}
	r.UseType(n)
}

// typeMember reads one member of a class or an object type.
func typeMember(r *reader.Reader, n syntax.Node) {
	switch n.Type() {
	case "method_definition", "method_signature", "abstract_method_signature", "function_signature":
		method(r, n)
	case "public_field_definition", "field_definition", "property_signature":
		field(r, n)
	case "class_static_block", "decorator":
		r.All(n)
	case "comment":
	case "call_signature", "construct_signature":
		at := place.Range{Start: n.Range().Start, End: n.Range().Start}
		functionBody(r, n, r.Def(facts.Def{Kind: facts.Method, At: at, Full: n.Range(), Head: n.Range()}))
	default:
		r.UseType(n)
	}
}

// memberName is the name of a member; no node for one that is computed.
func memberName(r *reader.Reader, n syntax.Node) syntax.Node {
	id := n.Part("name")
	if !id.OK() {
		id = n.Part("property")
	}
	switch id.Type() {
	case "property_identifier", "private_property_identifier", "identifier":
		return id
	case "computed_property_name":
		r.All(id)
	}
	return syntax.Node{}
}

func method(r *reader.Reader, n syntax.Node) {
	id := memberName(r, n)
	owner := facts.NoDef
	if id.OK() {
		d := facts.Def{Name: id.Text(), Kind: facts.Method, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: n.Has("static")}
		d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
		if body := n.Part("body"); body.OK() {
			d.Head.End = trimEnd(r.Text, d.Head.Start, body.Range().Start)
		}
		switch {
		case d.Name == "constructor":
			d.Kind = facts.Constructor
		case n.Has("get") || n.Has("set"):
			d.Kind = facts.Property
		}
		owner = r.Def(d)
	}
	functionBody(r, n, owner)
}

func field(r *reader.Reader, n syntax.Node) {
	id, value := memberName(r, n), n.Part("value")
	if !id.OK() || !n.Part("type").First("object_type").OK() { // its members are read below
		r.UseType(n.Part("type"))
	}
	if !id.OK() {
		r.Visit(value)
		return
	}
	d := facts.Def{Name: id.Text(), Kind: facts.Property, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: n.Has("static")}
	d.Doc = lang.CommentAbove(r.Text, d.Full.Start, "//")
	if d.Type = r.Expression(n.Part("type")); d.Type == facts.NoExpr {
		d.Type = valueSaid(r, d.Doc)
	}
	if value.Type() == "arrow_function" || value.Type() == "function" || value.Type() == "function_expression" {
		d.Kind = facts.Method
		d.Head.End = trimEnd(r.Text, d.Head.Start, value.Part("body").Range().Start)
		functionBody(r, value, r.Def(d))
		return
	}
	if t := n.Part("type").First("function_type"); t.OK() {
		d.Kind, d.Type, d.Params = facts.Method, r.Expression(resultType(r, t)), paramTypes(r, t.Part("parameters"))
	}
	def := r.Def(d)
	inlineType(r, n.Part("type"), def)
	r.Visit(value)
	expect(r, value, r.At(def).Type)
	init := r.Expression(value)
	r.At(def).Init = init
}

// inlineType makes the members of an object type without a name those of the
// definition that has it as its type.
func inlineType(r *reader.Reader, annotation syntax.Node, owner facts.DefID) {
	if t := annotation.First("object_type"); t.OK() {
		r.In(facts.TypeScope, t.Range(), owner, func() {
			for m := range t.NamedChildren() {
				typeMember(r, m)
			}
		})
	}
}

func interfaceType(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, facts.Interface))
	r.In(facts.TypeScope, place.Range{Start: r.At(id).At.End, End: n.Range().End}, id, func() {
		typeParameters(r, n)
		if extends := n.First("extends_type_clause", "extends_clause"); extends.OK() {
			supers(r, extends, id)
		}
		for m := range n.Part("body").NamedChildren() {
			typeMember(r, m)
		}
	})
}

func typeAlias(r *reader.Reader, n syntax.Node) {
	value := n.Part("value")
	id := r.Def(begin(r, n, facts.Type))
	r.In(facts.TypeScope, n.Range(), id, func() {
		typeParameters(r, n)
		if value.Type() == "object_type" {
			for m := range value.NamedChildren() {
				typeMember(r, m)
			}
			if of := mappedFrom(r, value); of != facts.NoExpr {
				r.At(id).Type = of
			}
			return
		}
		r.UseType(value)
		t := r.Expression(value)
		r.At(id).Type = t
	})
}

func enum(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, facts.Enum))
	r.In(facts.TypeScope, n.Part("body").Range(), id, func() {
		for m := range n.Part("body").NamedChildren() {
			name := m
			if m.Type() == "enum_assignment" {
				name = m.Part("name")
				r.Visit(m.Part("value"))
			}
			if m.Type() == "comment" {
				continue
			}
			self := r.Expr(facts.Expr{Kind: facts.Name, Name: r.At(id).Name, At: r.At(id).At})
			r.Def(facts.Def{Name: strings.Trim(name.Text(), `"'`), Kind: facts.EnumMember, At: name.Range(), Full: m.Range(), Head: m.Range(), Type: self, Doc: lang.CommentAbove(r.Text, m.Range().Start, "//")})
		}
	})
}

func namespace(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, facts.Namespace)
	id := r.Def(d)
	r.In(facts.TypeScope, n.Part("body").Range(), id, func() { r.All(n.Part("body")) })
}

// typeName defines a name that stands for a type inside another type.
func typeName(r *reader.Reader, id, whole syntax.Node) {
	if id.OK() {
		r.Def(facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: whole.Range(), Head: whole.Range()})
	}
}

// armsOf are the types between the bars of a type, which the grammar nests.
func armsOf(r *reader.Reader, n syntax.Node, arms []facts.ExprID) []facts.ExprID {
	for c := range n.NamedChildren() {
		if c.Type() == n.Type() {
			arms = armsOf(r, c, arms)
		} else if t := r.Expression(c); t != facts.NoExpr {
			arms = append(arms, t)
		}
	}
	return arms
}

// written is a type that is known by what it reads.
var written = func() reader.Rule {
	rule := reader.BuiltIn()
	rule.Visit = nil
	return rule
}()

// nestedType notes the names of a type in a module.
func nestedType(r *reader.Reader, n syntax.Node) {
	module, name := n.Part("module"), n.Part("name")
	r.UseType(module)
	r.Use(name.Text(), facts.TypeUse, name.Range(), moduleName(r, module))
}

// moduleName keeps the name of a module in front of a type.
func moduleName(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Type() == "identifier" {
		return name.Expr(r, n)
	}
	return r.Expression(n)
}

// nested keeps a type in a module.
func nested(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Member, Name: n.Part("name").Text(), Base: moduleName(r, n.Part("module")), At: n.Range()})
}

// lookupType reads the type of a member, as in Hut['level'].
func lookupType(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		r.UseType(c)
	}
	if at, ok := lookupKey(n); ok {
		r.Use(string(at.In(r.Text)), facts.Read, at, r.Expression(reader.Nth(0)(n)))
	}
}

func lookedUp(r *reader.Reader, n syntax.Node) facts.ExprID {
	at, ok := lookupKey(n)
	if !ok {
		return reader.Element(reader.Nth(0)).Expr(r, n)
	}
	of := r.Expr(facts.Expr{Kind: facts.Member, Name: string(at.In(r.Text)), Base: r.Expression(reader.Nth(0)(n)), At: at})
	return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: of, At: n.Range()})
}

// lookupKey is the name of the member that is written between quotes.
func lookupKey(n syntax.Node) (at place.Range, ok bool) {
	return quotedName(reader.Nth(1)(n))
}

// quotedName is the name between the quotes of a type that is one text.
func quotedName(key syntax.Node) (at place.Range, ok bool) {
	at = key.Range()
	if s := key.Text(); key.Type() != "literal_type" || len(s) < 3 || s[0] != '\'' && s[0] != '"' {
		return at, false
	}
	return place.Range{Start: at.Start + 1, End: at.End - 1}, true
}

// keyOf keeps the type of the names of a type's members.
func keyOf(r *reader.Reader, n syntax.Node) facts.ExprID {
	of := r.Expression(reader.Nth(0)(n))
	if of == facts.NoExpr {
		return of
	}
	return r.Expr(facts.Expr{Kind: facts.KeyOf, Base: of, At: n.Range()})
}

func tuple(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for c := range n.NamedChildren() {
		e.Args = append(e.Args, r.Expression(c))
	}
	return r.Expr(e)
}

// oneOfTypes keeps types between bars.
func oneOfTypes(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.EitherOf, Args: armsOf(r, n, nil), At: n.Range()})
}

// functionOf keeps the type of a function.
func functionOf(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.FuncOf, Base: r.Expression(resultType(r, n)), Args: paramTypes(r, n.Part("parameters")), At: n.Range()})
}

// objectType reads an object type that no name is given to.
func objectType(r *reader.Reader, n syntax.Node) {
	r.In(facts.TypeScope, n.Range(), facts.NoDef, func() {
		for m := range n.NamedChildren() {
			typeMember(r, m)
		}
	})
}

// conditionalType reads one; what infer names counts in all of it.
func conditionalType(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		s := stateOf(r)
		was := s.conditional
		s.conditional = r.Scope()
		for c := range n.NamedChildren() {
			r.UseType(c)
		}
		s.conditional = was
	})
}

// conditionalOf keeps one as what it may be.
func conditionalOf(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.EitherOf, At: n.Range()}
	for _, arm := range []string{"consequence", "alternative"} {
		if t := r.Expression(n.Part(arm)); t != facts.NoExpr {
			e.Args = append(e.Args, t)
		}
	}
	return r.Expr(e)
}

// mappedFrom is the type whose members one has that is made for each key of it, as in { [K in keyof Hut]?: Hut[K] }.
func mappedFrom(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Type() != "object_type" {
		return facts.NoExpr
	}
	keys := n.First("index_signature").First("mapped_type_clause").Part("type")
	if keys.Type() != "index_type_query" {
		return facts.NoExpr
	}
	return r.Expression(reader.Nth(0)(keys))
}

// generic types that choose among the members of another one by their names.
var choosing = lang.WordsOf("Pick Omit")

// genericType reads one; the members that it names between quotes are used.
func genericType(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		r.UseType(c)
	}
	list := n.First("type_arguments")
	if !choosing[n.Part("name").Text()] || !list.OK() {
		return
	}
	of := r.Expression(reader.Nth(0)(list))
	if of == facts.NoExpr {
		return
	}
	base := r.Expr(facts.Expr{Kind: facts.Value, Base: of, At: list.Range()})
	var names func(t syntax.Node)
	names = func(t syntax.Node) {
		switch t.Type() {
		case "union_type", "parenthesized_type":
			for c := range t.NamedChildren() {
				names(c)
			}
		case "literal_type":
			if at, ok := quotedName(t); ok {
				r.Use(string(at.In(r.Text)), facts.Read, at, base)
			}
		}
	}
	names(reader.Nth(1)(list))
}

// genericOf keeps a generic type; some stand for what a value gives, or what a component is given.
func genericOf(r *reader.Reader, n syntax.Node) facts.ExprID {
	id, argument := n.Part("name"), reader.Nth(0)(n.First("type_arguments"))
	name := id.Text()[strings.LastIndexByte(id.Text(), '.')+1:]
	if argument.Type() == "type_query" {
		of := r.Expression(argument)
		e := facts.Expr{At: n.Range()}
		switch {
		case name == "ReturnType":
			e = facts.Expr{Kind: facts.CallOf, Base: of, At: n.Range()}
		case flow.Components.Of[name]:
			e = facts.Expr{Kind: facts.PropsOf, Base: of, At: n.Range()}
		}
		if e.Kind != facts.NoExprKind && of != facts.NoExpr {
			return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: r.Expr(e), At: n.Range()})
		}
	}
	return plainGeneric(r, n)
}

var plainGeneric = reader.Generic(part("name"), reader.Kind("type_arguments")).Expr

func mappedType(r *reader.Reader, n syntax.Node) {
	id := n.Part("name")
	typeName(r, id, n)
	for c := range n.NamedChildren() {
		if c != id {
			r.UseType(c)
		}
	}
}
