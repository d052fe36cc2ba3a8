package resolve

import (
	"path"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Type is what is known of the type of a value: the definition of a named type
// with its type arguments; or a shape such as a list, written as an expression
// in some file; or that it lies outside the project, and its name there.
type Type struct {
	named ref
	args  []Type
	// src and shape are an expression in which env says what type parameters
	// stand for.
	src   *source
	shape facts.ExprID
	env   *bindings
	// outside is what it belongs to, if that is outside the project, and name
	// what it is called there.
	outside, name string
	// other are what it may be instead, where a value is one of several.
	other *[]Type
	// above says that its own members do not count, only those of what it is derived from.
	above bool
	// loose says that it may be another one, too, of which nothing is known; pending that it is being worked out.
	loose, pending bool
	// takes is the type argument that says what it takes when it is called, counted from 1; 0 for none.
	takes int
	// empty says that it is a list or a map in which there is nothing so far.
	empty bool
	// holder is where the list or map that it is was first kept, of which it is not known what it holds.
	holder ref
}

// called is the name of a type.
func (t Type) called() string {
	if t.named.ok() {
		return t.named.def().Name
	}
	return t.name
}

// known says whether anything is known of the type.
func (t Type) known() bool { return t.named.ok() || t.src != nil || t.outside != "" || t.name != "" }

// expr is the expression of a shape; of another type, one of no kind.
func (t Type) expr() facts.Expr {
	if t.src == nil {
		return facts.Expr{}
	}
	return t.src.Exprs[t.shape]
}

// typeOf works out the type of an expression's value.
func (q *question) typeOf(src *source, id facts.ExprID, depth int) Type {
	if id == facts.NoExpr || depth > deepest {
		return Type{}
	}
	key := exprKey{src, id}
	if t, ok := q.types[key]; ok {
		return t
	}
	q.types[key] = Type{pending: true} // what leads back here by a circle knows nothing yet
	t := q.workOutType(src, id, depth)
	q.types[key] = t
	return t
}

func (q *question) workOutType(src *source, id facts.ExprID, depth int) Type {
	e := src.Exprs[id]
	switch e.Kind {
	case facts.Name, facts.Member:
		f := q.meaning(src, id, depth+1)
		if at, ok := src.lang.Values.Components.Members[e.Name]; ok && len(f.refs) == 0 && e.Kind == facts.Member {
			if t := q.typeOf(src, e.Base, depth+1); t.named.ok() {
				if given := q.givenToComponent(t.named, at, depth+1); given.known() {
					return given
				}
			}
		}
		if e.Kind == facts.Member && len(f.refs) == 0 && len(src.lang.Values.Holds) > 0 { // by a name that is a key
			if t := q.typeOf(src, e.Base, depth+1); !t.named.ok() && src.lang.Values.Holds[t.name] && len(t.args) == 2 {
				return t.args[1]
			}
		}
		if part := parts[e.Name]; len(f.refs) == 0 && e.Kind == facts.Member && part > 0 {
			if t := q.typeOf(src, e.Base, depth+1); t.name == together {
				return q.part(t, part, depth+1)
			}
		}
		if len(f.refs) == 0 && e.Kind == facts.Member && (e.Name == "first" || e.Name == "last") { // an element may be a member of a list
			if t := q.typeOf(src, e.Base, depth+1); !t.named.ok() {
				if of := q.element(t, false, depth+1); of.known() {
					return of
				}
			}
		}
		if len(f.refs) == 0 && f.outside == "" && e.Kind == facts.Member {
			return q.typeOfMember(src, e, depth+1)
		}
		if len(f.refs) > 0 && e.Kind == facts.Name && f.refs[0].src == src && !f.several {
			return q.narrowedTo(src, id, q.typeAt(valued(preferred(f.refs, false))[0], e, depth+1), depth+1)
		}
		return q.narrowedTo(src, id, q.typeOfFound(f, depth+1), depth+1)
	case facts.CallOf:
		return q.typeOfCall(src, e, depth+1)
	case facts.Own:
		return Type{named: q.ownType(src, "", e.Scope, depth+1)}
	case facts.PartOf:
		return q.part(q.typeOf(src, e.Base, depth+1), int(e.Part)+1, depth+1)
	case facts.PropsOf:
		return q.propsOf(src, e, depth+1)
	case facts.WantedOf:
		t := q.wantedOf(src, e, depth+1)
		t.pending = t.pending || !t.known() && src.lang.Values.Passed.Is() // nothing is wanted
		return t
	case facts.Labelled:
		return q.typeOf(src, e.Base, depth+1)
	case facts.Value:
		return q.typeNamed(src, e.Base, depth+1)
	case facts.Index, facts.Each:
		t := q.typeOf(src, e.Base, depth+1)
		if e.Kind == facts.Each && src.lang.Values.Pairs[t.name] {
			return Type{outside: src.itself(), name: together, args: []Type{q.element(t, true, depth+1), q.element(t, false, depth+1)}}
		}
		if of := q.element(t, false, depth+1); of.known() || src.sees() != lang.SeesIncludes || !t.named.ok() {
			return of
		}
		return t // what a pointer points to, of which there are several
	case facts.EachKey:
		return q.element(q.typeOf(src, e.Base, depth+1), true, depth+1)
	case facts.Awaited:
		return q.promised(q.typeOf(src, e.Base, depth+1), depth+1)
	case facts.Given:
		return q.given(src, e, depth+1)
	case facts.OneOf:
		var all []Type
		for _, a := range e.Args {
			all = append(all, q.typeOf(src, a, depth+1))
		}
		return oneOf(all)
	case facts.Joined:
		return q.joined(src, e, depth+1)
	case facts.Literal:
		return Type{outside: src.itself(), name: e.Name, empty: src.lang.Values.Holds[e.Name]}
	}
	return Type{src: src, shape: id}
}

// parts are the members of several values that come at once, counted from 1.
var parts = map[string]int{"first": 1, "second": 2}

// joined is the type of what an operator makes of two values: text as soon as
// one is text, or the wider of two numbers.
func (q *question) joined(src *source, e facts.Expr, depth int) (best Type) {
	for _, a := range e.Args {
		t := q.typeOf(src, a, depth+1)
		if t.named.ok() {
			return t
		}
		if !t.known() {
			if best.name != "String" {
				best = Type{}
			}
			continue
		}
		for box, w := range unboxed {
			if t.name == box {
				t.name = w
			}
		}
		if n := wideness[t.name]; n > 0 && n < wideness["int"] {
			t.name = "int"
		}
		if t.name == "String" || best.name != "String" && wideness[t.name] >= wideness[best.name] {
			best = t
		}
	}
	return best
}

// typeOfMember is the type of a member that no definition stands for, as the
// length of a list.
func (q *question) typeOfMember(src *source, e facts.Expr, depth int) Type {
	if e.Name == "prototype" && src.lang.Members.Prototypes.Is() { // what is made by it
		return q.typeOf(src, e.Base, depth+1)
	}
	if of := src.lang.Members.OfLists[e.Name]; of != "" && q.typeOf(src, e.Base, depth+1).expr().Kind == facts.ListOf {
		return Type{outside: src.itself(), name: of}
	}
	return Type{}
}

func (q *question) typeOfFound(f found, depth int) Type {
	if len(f.refs) == 0 {
		return Type{outside: f.outside, pending: f.pending}
	}
	refs := valued(preferred(f.refs, false))
	if !f.several {
		refs = refs[:1]
	}
	var all []Type
	for _, r := range refs {
		all = append(all, q.typeOfRef(r, depth))
	}
	t := all[0]
	if len(all) > 1 {
		t = oneOf(all)
	}
	t.loose = t.loose || f.unsure
	return t
}

// typeOfRef is the type of the value that a definition stands for; for a type
// it is that type, so that its members can be named behind it.
func (q *question) typeOfRef(r ref, depth int) Type {
	d := r.def()
	switch {
	case d.Kind.IsType() || d.Kind.IsSpace():
		return Type{named: r}
	case d.Kind == facts.Function && r.src.lang.Members.Prototypes.Is() && r.src.makes(r.id):
		return Type{named: r} // of this, in a function that makes objects
	case d.Kind.IsCallable() && !isProperty(r):
		return Type{}
	case d.Type != facts.NoExpr:
		return subst(q.typeNamed(r.src, d.Type, depth+1), r.env)
	case q.stubOf(r).ok() && q.stubOf(r).def().Type != facts.NoExpr:
		stub := q.stubOf(r)
		return q.typeNamed(stub.src, stub.def().Type, depth+1)
	case flows(d) && (len(r.src.set[d.Name]) > 0 || d.Kind == facts.Parameter && r.src.lang.Values.Passed.Is()):
		return subst(q.typeOfGiven(r, depth+1), r.env)
	case d.Init != facts.NoExpr && flows(d) && len(r.src.puts[d.Name]) > 0:
		return q.holding(r, subst(q.part(q.typeOf(r.src, d.Init, depth+1), d.Part, depth+1), r.env))
	case d.Init != facts.NoExpr:
		return subst(q.part(q.typeOf(r.src, d.Init, depth+1), d.Part, depth+1), r.env)
	case d.Body != 0:
		return Type{named: r} // an object whose members are known
	}
	return Type{}
}

// part is one of several results. What is not a tuple is its own first part,
// as in v, ok := m[k].
func (q *question) part(t Type, part, depth int) Type {
	if part == 0 || t.pending {
		return t
	}
	if t.other != nil {
		var all []Type
		for _, t := range t.each() {
			all = append(all, q.part(t, part, depth+1))
		}
		return oneOf(all)
	}
	if e := t.expr(); e.Kind == facts.TupleOf {
		if part <= len(e.Args) {
			return q.inside(t, e.Args[part-1], depth+1)
		}
		return Type{}
	} else if e.Kind == facts.ListOf {
		return q.element(t, false, depth+1)
	}
	if t.name == together {
		if part <= len(t.args) {
			return t.args[part-1]
		}
		return Type{}
	}
	if t.outside != "" && len(t.args) > 0 || t.holder.ok() { // a list that is taken apart
		return q.element(t, false, depth+1)
	}
	if part == 1 {
		return t
	}
	return Type{}
}

// inside reads a part of a shape as a type.
func (q *question) inside(t Type, id facts.ExprID, depth int) Type {
	return q.typeWith(t.src, id, t.env, depth+1)
}

// typeNamed reads an expression that is a type.
func (q *question) typeNamed(src *source, id facts.ExprID, depth int) Type {
	if id == facts.NoExpr || depth > deepest {
		return Type{}
	}
	e := src.Exprs[id]
	switch e.Kind {
	case facts.Name, facts.Member:
		f := q.meaning(src, id, depth+1)
		if src.sees() == lang.SeesIncludes && (len(f.refs) == 0 || members(structs(f.refs)[0]) == 0 && (f.refs[0].def().Type == facts.NoExpr || f.refs[0].def().Type == id && f.refs[0].src == src)) {
			if r := q.complete(src, e.Name, q.typesAround(src, e.Scope)); r.ok() {
				return Type{named: r}
			}
		}
		for _, r := range structs(typed(f.refs)) {
			if d := r.def(); d.Kind.IsType() || d.Kind.IsSpace() {
				return q.withUsual(Type{named: r}, depth+1)
			}
			// typeof x, or a class kept in a variable.
			return q.typeOfRef(r, depth+1)
		}
		return Type{outside: f.outside, name: e.Name}
	case facts.GenericOf:
		t := q.typeNamed(src, e.Base, depth+1)
		if t.src != nil {
			return t
		}
		values := &src.lang.Values
		if name := t.called(); t.named.ok() && path.IsAbs(t.named.src.path) && (src.lang.Types.Transparent[name] || values.Holds[name] || values.Together[name]) {
			t = Type{outside: src.itself(), name: name} // of the library, whose ways are known better than its source says
		}
		if !t.named.ok() && values.Together[t.name] {
			t.name = together
		}
		t.args = nil
		for _, a := range e.Args {
			t.args = append(t.args, q.typeNamed(src, a, depth+1))
		}
		t = q.withUsual(t, depth+1)
		if !t.named.ok() && src.lang.Types.Transparent[t.name] && len(t.args) > 0 && src.sees() != lang.SeesIncludes {
			return t.args[0]
		}
		if at, ok := src.lang.Values.Components.Types[t.name]; ok && !t.named.ok() && at < len(t.args) {
			t.takes = at + 1
		}
		return t
	case facts.EitherOf:
		return q.either(src, id, depth+1)
	case facts.Own:
		return Type{named: q.ownType(src, "", e.Scope, depth+1)}
	case facts.TypeOf:
		return q.typeOf(src, e.Base, depth+1)
	case facts.Taken:
		for _, t := range q.argumentTypes(src, e, depth+1) {
			return t
		}
		return Type{}
	case facts.Literal:
		return Type{outside: src.itself(), name: e.Name}
	case facts.CallOf, facts.Index, facts.Value: // a type by way of a value
		return q.typeOf(src, id, depth+1)
	}
	return Type{src: src, shape: id}
}

// either is a type that is one of several: the only one of which something is
// known here, or else the choice itself.
func (q *question) either(src *source, id facts.ExprID, depth int) (best Type) {
	known := 0
	for _, a := range src.Exprs[id].Args {
		t := q.typeNamed(src, a, depth+1)
		if t.named.ok() || t.src != nil {
			if known++; known == 1 {
				best = t
			}
		} else if known == 0 && !best.known() {
			best = t
		}
	}
	if known > 1 {
		return Type{src: src, shape: id}
	}
	return best
}

// element is the type of what a list or map holds, or of its keys.
func (q *question) element(t Type, key bool, depth int) Type {
	if t.pending || depth > deepest {
		return Type{pending: t.pending}
	}
	of := q.elementOf(t, key, depth)
	of.loose = of.loose || t.loose && of.known()
	return of
}

func (q *question) elementOf(t Type, key bool, depth int) Type {
	if t.other != nil {
		var all []Type
		for _, t := range t.each() {
			all = append(all, q.element(t, key, depth+1))
		}
		return oneOf(all)
	}
	if t.named.ok() {
		return q.elementOfNamed(t, key, depth+1)
	}
	if t.holder.ok() {
		own := t
		own.holder = ref{}
		put := q.putInto(t.holder, key, depth+1)
		return oneOf([]Type{q.element(own, key, depth+1), put})
	}
	switch e := t.expr(); e.Kind {
	case facts.ListOf:
		if key {
			return Type{outside: t.src.itself(), name: "int"}
		}
		return q.inside(t, e.Base, depth+1)
	case facts.MapOf:
		if key {
			return q.inside(t, e.Args[0], depth+1)
		}
		return q.inside(t, e.Base, depth+1)
	case facts.TupleOf:
		if len(e.Args) > 0 {
			return q.inside(t, e.Args[0], depth+1)
		}
	case facts.Shape:
		if t.src.lang.Values.Passed.Is() {
			return q.memberByKey(t.src, t.src.ScopeAt(int(e.At.Start)), key, depth+1)
		}
	case facts.EitherOf:
		for _, a := range q.arms(t, depth) {
			if el := q.element(a, key, depth+10); el.known() {
				return el
			}
		}
	}
	if t.name == together {
		return oneOf(t.args)
	}
	if t.empty {
		return Type{pending: true}
	}
	if len(t.args) > 0 {
		return argument(t, key)
	}
	return Type{outside: t.outside}
}

// memberByKey is the type of a member of an object that is written out and used like a map, or of its keys.
func (q *question) memberByKey(src *source, scope facts.ScopeID, key bool, depth int) Type {
	if key {
		return Type{outside: src.itself(), name: "string"}
	}
	var all []Type
	for i := range src.Defs {
		if d := &src.Defs[i]; d.Scope == scope && d.Kind != facts.Import && len(all) < mostTypes {
			all = append(all, q.typeOfRef(src.ref(facts.DefID(i)), depth+1))
		}
	}
	if len(all) == 0 {
		return Type{pending: true}
	}
	return oneOf(all)
}

// together is the name of the type of several values that come at once.
const together = "tuple"

// elementOfNamed looks for what a named type holds: it stands for a list or
// map, it is a container with type arguments, or it is derived from one.
func (q *question) elementOfNamed(t Type, key bool, depth int) Type {
	d := t.named.def()
	env := q.bindingsOf(t)
	if d.Type != facts.NoExpr && d.Kind.IsType() {
		return q.element(subst(q.typeNamed(t.named.src, d.Type, depth+1), env), key, depth+1)
	}
	if len(t.args) > 0 {
		return argument(t, key)
	}
	if d.Kind.IsValue() && d.Body != 0 && t.named.src.lang.Values.Passed.Is() {
		return oneOf([]Type{q.memberByKey(t.named.src, d.Body, key, depth+1), q.putInto(t.named, key, depth+1)})
	}
	for _, s := range d.Supers {
		if e := q.element(subst(q.typeNamed(t.named.src, s, depth+1), env), key, depth+1); e.known() {
			return e
		}
	}
	if held := q.putIntoNamed(t.named, key, depth+1); held.known() {
		return held
	}
	for _, name := range t.named.src.lang.Values.Iterators {
		for _, m := range q.members(t.named, name.Method, map[*facts.Def]bool{}, depth+1).refs {
			made := q.declaredResult(m, depth+1)
			if name.Steps && !(made.named.ok() && made.named.at() == t.named.at()) {
				made = q.element(made, key, depth+10)
			}
			if made.known() && !(made.named.ok() && made.named.at() == t.named.at()) {
				return made
			}
		}
	}
	return Type{}
}

// argument is the type argument of a container that stands for its elements:
// the last one, as in dict[str, Hut] and Array<Hut>; for keys the first.
func argument(t Type, key bool) Type {
	if key {
		return t.args[0]
	}
	return t.args[len(t.args)-1]
}

// promised is the type of what one gets by waiting for a value.
func (q *question) promised(t Type, depth int) Type {
	if len(t.args) == 0 || depth > deepest || t.named.ok() && !promises[t.named.def().Name] {
		return t
	}
	return argument(t, false)
}

// promises are the names of types that stand for a value to come.
var promises = lang.WordsOf("Promise PromiseLike Awaitable Coroutine Future Task ValueTask Deferred CompletableFuture")
