package resolve

import (
	"slices"

	"rooktrail/internal/core/file/facts"
)

// bindings say what type parameters stand for; nil says nothing.
type bindings struct {
	param *facts.Def
	is    Type
	next  *bindings
}

func (b *bindings) find(param *facts.Def) (Type, bool) {
	for ; b != nil; b = b.next {
		if b.param == param {
			return b.is, true
		}
	}
	return Type{}, false
}

// mostNested bounds how deep type arguments are put into each other, as types
// that mention themselves do without end.
const mostNested = 8

// subst puts what type parameters stand for in their place.
func subst(t Type, env *bindings) Type { return substTo(t, env, mostNested) }

func substTo(t Type, env *bindings, depth int) Type {
	if env == nil || depth == 0 {
		return t
	}
	if t.named.ok() && t.named.def().Kind == facts.TypeParameter {
		if is, ok := env.find(t.named.def()); ok && is.known() {
			return is
		}
		return t
	}
	if len(t.args) > 0 {
		t.args = slices.Clone(t.args)
		for i := range t.args {
			t.args[i] = substTo(t.args[i], env, depth-1)
		}
	}
	if t.src != nil && t.env == nil {
		t.env = env
	}
	return t
}

// typeParams are the type parameters of a definition, in order.
func (r ref) typeParams() []facts.DefID {
	if body := r.def().Body; body != 0 {
		return r.src.params[body]
	}
	return nil
}

// bind adds what the type parameters of a definition stand for.
func bind(r ref, args []Type, next *bindings) *bindings {
	for i, id := range r.typeParams() {
		if i < len(args) {
			next = &bindings{&r.src.Defs[id], args[i], next}
		}
	}
	return next
}

// usual is what a type parameter stands for where nothing else says it, by what those before it do.
func (q *question) usual(src *source, id facts.DefID, env *bindings, depth int) Type {
	d := &src.Defs[id]
	if d.Init == facts.NoExpr || depth > deepest {
		return Type{}
	}
	return q.typeWith(src, d.Init, env, depth+1)
}

// typeWith is typeNamed where it is known what type parameters stand for, by which also what is looked up in one is found, as
// in T['level'].
func (q *question) typeWith(src *source, id facts.ExprID, env *bindings, depth int) Type {
	if env == nil || depth > deepest {
		return q.typeNamed(src, id, depth+1)
	}
	if e := src.Exprs[id]; e.Kind == facts.TypeOf {
		if of := src.Exprs[e.Base]; of.Kind == facts.Member {
			if base := q.typeWith(src, of.Base, env, depth+1); base.known() {
				return q.typeOfFound(q.memberOfType(base, of.Name, depth+1), depth+1)
			}
		}
	}
	return subst(q.typeNamed(src, id, depth+1), env)
}

// withUsual adds to a type what those of its parameters stand for that are not written.
func (q *question) withUsual(t Type, depth int) Type {
	if !t.named.ok() {
		return t
	}
	params := t.named.typeParams()
	for i := len(t.args); i < len(params); i++ {
		is := q.usual(t.named.src, params[i], q.bindingsOf(t), depth+10)
		if !is.known() {
			break
		}
		t.args = append(slices.Clone(t.args), is)
	}
	return t
}

// bindUsual adds what those type parameters of a function stand for of which the arguments say nothing.
func (q *question) bindUsual(r ref, env *bindings, depth int) *bindings {
	for _, id := range r.typeParams() {
		if _, ok := env.find(&r.src.Defs[id]); ok {
			continue
		}
		if is := q.usual(r.src, id, env, depth+1); is.known() {
			env = &bindings{&r.src.Defs[id], is, env}
		}
	}
	return env
}

// bindingsOf says what the type parameters of a named type stand for in t.
func (q *question) bindingsOf(t Type) *bindings {
	if !t.named.ok() {
		return nil
	}
	return bind(t.named, t.args, t.named.env)
}

// typeOfCall is the type of the result of a call, or of the value that calling
// a type makes.
func (q *question) typeOfCall(src *source, e facts.Expr, depth int) Type {
	if above := q.superOfCall(src, e.Base, depth+1); above.named.ok() {
		return above
	}
	f := q.callee(src, e.Base, depth+1)
	f.refs = preferred(f.refs, true)
	if f.pending {
		return Type{pending: true}
	}
	if f.several || inBranches(f.refs) {
		t := q.resultOfEach(src, f.refs, e, depth+1)
		t.loose = t.loose || f.unsure
		return t
	}
	t := q.typeOfOneCall(src, f, e, depth)
	t.loose = t.loose || f.unsure && t.known()
	return t
}

func (q *question) typeOfOneCall(src *source, f found, e facts.Expr, depth int) Type {
	if len(f.refs) > 1 && len(e.Args) > 0 {
		f.refs, _ = q.overloaded(src, f.refs, e, depth+1)
	}
	for _, r := range fitting(f.refs, len(e.Args)+1) {
		d := r.def()
		switch {
		case d.Kind.IsType():
			return Type{named: r, args: q.typeArguments(src, e.Base, depth)}
		case d.Kind.IsCallable() && !isProperty(r):
			return q.resultOf(src, r, e, depth+1)
		case d.Kind == facts.EnumMember, src.lang.Values.Bare.Is():
			return q.typeOfRef(r, depth+1) // one that holds values
		}
	}
	if !ofBuiltin(src, e.Base) {
		if t := q.fromContainer(src, e, depth+1); t.known() {
			return t
		}
	}
	if len(f.refs) == 0 {
		if t := q.fromLibrary(src, e, depth+1); t.known() {
			return t
		}
	}
	if f.outside != "" {
		return Type{outside: f.outside, args: q.typeArguments(src, e.Base, depth)} // such as new Map<Name, Hut>()
	}
	return q.resultOfValue(q.typeOf(src, e.Base, depth+1), depth+1)
}

// ofBuiltin says whether an expression is a function of what the language itself has, as Object.values is, which it gives for.
func ofBuiltin(src *source, id facts.ExprID) bool {
	e := src.Exprs[id]
	if _, gives := src.lang.Values.Gives[e.Name]; e.Kind != facts.Member || !gives {
		return false
	}
	before := src.Exprs[e.Base]
	return before.Kind == facts.Name && src.lang.Scopes.Builtin[before.Name]
}

// resultOfEach is what a call gives that may be one of several functions.
func (q *question) resultOfEach(src *source, functions []ref, e facts.Expr, depth int) Type {
	var all []Type
	for _, r := range functions {
		switch {
		case r.def().Kind.IsType():
			all = append(all, Type{named: r})
		case r.def().Kind.IsCallable() && !isProperty(r):
			all = append(all, q.resultOf(src, r, e, depth+1))
		default:
			all = append(all, q.resultOfValue(q.typeOfRef(r, depth+1), depth+1))
		}
	}
	return oneOf(all)
}

// callee is what an expression names that is called.
func (q *question) callee(src *source, id facts.ExprID, depth int) found {
	if e := src.Exprs[id]; e.Kind == facts.Name && depth < deepest {
		return q.lookupCalled(src, e.Name, e.Scope, int(e.At.Start), depth+1)
	}
	return q.meaning(src, id, depth)
}

// typeArguments are those written behind what is called.
func (q *question) typeArguments(src *source, base facts.ExprID, depth int) (args []Type) {
	if b := src.Exprs[base]; b.Kind == facts.GenericOf {
		for _, a := range b.Args {
			args = append(args, q.typeNamed(src, a, depth+1))
		}
	}
	return args
}

// resultOf is what a function gives when it is called as e says.
func (q *question) resultOf(src *source, r ref, e facts.Expr, depth int) Type {
	d := r.def()
	t := q.declaredResult(r, depth)
	if params := r.typeParams(); len(params) > 0 && depth < deepest {
		env := bind(r, q.typeArguments(src, e.Base, depth), nil)
		for i, a := range e.Args {
			if p := parameterType(d, i); p != facts.NoExpr {
				env = q.unify(r.src, p, q.typeOf(src, a, depth+1), env, depth+1)
			}
		}
		t = subst(t, q.bindUsual(r, env, depth+1))
	}
	if !t.known() && r.src.lang.Members.Prototypes.Is() && d.Kind == facts.Function {
		return Type{named: r} // what it makes when it is called with new
	}
	return subst(t, r.env)
}

// declaredResult is what a function gives, as it is declared or else by what it
// returns.
func (q *question) declaredResult(r ref, depth int) Type {
	d := r.def()
	if d.Type != facts.NoExpr {
		return q.typeNamed(r.src, d.Type, depth+1)
	}
	if stub := q.stubOf(r); stub.ok() && stub.def().Type != facts.NoExpr {
		return q.typeNamed(stub.src, stub.def().Type, depth+1)
	}
	return q.typeOf(r.src, d.Init, depth+1)
}

// parameterType is the declared type of the parameter for which argument i is
// passed.
func parameterType(d *facts.Def, i int) facts.ExprID {
	switch {
	case i < len(d.Params):
		return d.Params[i]
	case d.Variadic && len(d.Params) > 0:
		return d.Params[len(d.Params)-1]
	}
	return facts.NoExpr
}

// resultOfValue is what calling a value of a function type gives.
func (q *question) resultOfValue(t Type, depth int) Type {
	switch e := t.expr(); e.Kind {
	case facts.EitherOf:
		for _, a := range q.arms(t, depth) {
			if r := q.resultOfValue(a, depth+10); r.known() {
				return r
			}
		}
		return Type{}
	case facts.FuncOf:
		return q.inside(t, e.Base, depth+1)
	case facts.Func:
		if e.Base != facts.NoExpr {
			return q.inside(t, e.Base, depth+1)
		}
		if len(e.Args) > 0 {
			return q.typeOf(t.src, e.Args[0], depth+1)
		}
	case facts.Shape:
		if called := q.inShape(t, "", depth+1); len(called.refs) > 0 {
			return subst(q.declaredResult(called.refs[0], depth+1), t.env)
		}
	}
	if t.named.ok() {
		if d := t.named.def(); d.Type != facts.NoExpr && d.Kind.IsType() {
			return q.resultOfValue(subst(q.typeNamed(t.named.src, d.Type, depth+1), q.bindingsOf(t)), depth+1)
		}
		if called := q.own(t.named, ""); len(called) > 0 {
			return subst(q.declaredResult(called[0], depth+1), q.bindingsOf(t))
		}
		if t.named.src.lang.Values.Passed.Is() && t.named.def().Kind.IsType() { // the type itself, kept as a value
			return t
		}
		return Type{}
	}
	return Type{outside: t.outside}
}

// unify finds what the type parameters in a declared type stand for where a
// value of the actual type is given.
func (q *question) unify(src *source, declared facts.ExprID, actual Type, env *bindings, depth int) *bindings {
	if declared == facts.NoExpr || !actual.known() || depth > deepest {
		return env
	}
	switch e := src.Exprs[declared]; e.Kind {
	case facts.Name:
		t := q.typeNamed(src, declared, depth+1)
		if !variable(t) {
			return env
		}
		if _, ok := env.find(t.named.def()); !ok {
			env = &bindings{t.named.def(), actual, env}
		}
	case facts.ListOf:
		return q.unify(src, e.Base, q.element(actual, false, depth+1), env, depth+1)
	case facts.MapOf:
		env = q.unify(src, e.Base, q.element(actual, false, depth+1), env, depth+1)
		return q.unify(src, e.Args[0], q.element(actual, true, depth+1), env, depth+1)
	case facts.FuncOf:
		return q.unify(src, e.Base, q.resultOfValue(actual, depth+1), env, depth+1)
	case facts.EitherOf:
		for _, a := range e.Args {
			env = q.unify(src, a, actual, env, depth+1)
		}
	case facts.GenericOf:
		return q.unifyGeneric(src, e, actual, env, depth+1)
	}
	return env
}

func (q *question) unifyGeneric(src *source, e facts.Expr, actual Type, env *bindings, depth int) *bindings {
	base := q.typeNamed(src, e.Base, depth+1)
	if k := actual.expr().Kind; (k == facts.Func || k == facts.FuncOf) && base.named.ok() {
		if sam := q.singleMethod(base.named, depth); sam.ok() {
			result := q.typeNamed(sam.src, sam.def().Type, depth+1)
			if i := slices.IndexFunc(base.named.typeParams(), func(id facts.DefID) bool {
				return result.named.ok() && result.named.def() == &base.named.src.Defs[id]
			}); i >= 0 && i < len(e.Args) {
				return q.unify(src, e.Args[i], q.resultOfValue(actual, depth+1), env, depth+1)
			}
		}
		return env
	}
	as := actual
	if base.named.ok() {
		as = q.asType(actual, base.named, depth+1)
	}
	if !as.known() && actual.src != nil { // a list where a container is wanted
		if el := q.element(actual, false, depth+1); el.known() && len(e.Args) == 1 {
			return q.unify(src, e.Args[0], el, env, depth+1)
		}
	}
	for i, a := range e.Args {
		if i < len(as.args) {
			env = q.unify(src, a, as.args[i], env, depth+1)
		}
	}
	return env
}

// asType is a type seen as one that it is derived from, with the type arguments
// it has as such.
func (q *question) asType(t Type, super ref, depth int) Type {
	if !t.named.ok() || depth > deepest {
		return Type{}
	}
	if t.named.at() == super.at() {
		return t
	}
	env := q.bindingsOf(t)
	for _, s := range t.named.def().Supers {
		if as := q.asType(subst(q.typeNamed(t.named.src, s, depth+1), env), super, depth+10); as.known() {
			return as
		}
	}
	return Type{}
}

// given is what a function gets for a parameter when it is passed to another
// one that calls it.
func (q *question) given(src *source, e facts.Expr, depth int) Type {
	for _, t := range q.argumentTypes(src, e, depth+1) {
		if p := q.taken(t, int(e.Part), depth+1); p.known() {
			return p
		}
	}
	if t := q.givenByMaker(src, e, depth+1); t.known() {
		return t
	}
	return q.givenByContainer(src, e, depth+1)
}

// givenByMaker is what a function gets of which a library makes a component.
func (q *question) givenByMaker(src *source, e facts.Expr, depth int) Type {
	callee := src.Exprs[e.Base]
	if callee.Kind != facts.GenericOf || e.Part > 0 || e.Arg > 0 {
		return Type{}
	}
	at, ok := src.lang.Values.Components.Makers[src.Exprs[callee.Base].Name]
	if args := q.typeArguments(src, e.Base, depth+1); ok && at < len(args) {
		return args[at]
	}
	return Type{}
}

// takers are what runs when each of refs is called: for a type, its
// constructors.
func (q *question) takers(refs []ref) (takers []ref) {
	for _, r := range refs {
		if r.def().Kind.IsType() {
			takers = append(takers, q.makers(r, 0)...)
		} else if r.def().Kind.IsCallable() {
			takers = append(takers, r)
		}
	}
	return takers
}

// signatures say how a value of a type is called.
func (q *question) signatures(t Type, depth int) (all []ref) {
	if depth > deepest {
		return nil
	}
	if t.expr().Kind == facts.Shape {
		return q.inShape(t, "", depth+1).refs
	}
	if !t.named.ok() {
		return nil
	}
	if d := t.named.def(); d.Type != facts.NoExpr && d.Kind.IsType() && d.Kind != facts.TypeParameter {
		return q.signatures(q.typeWith(t.named.src, d.Type, q.bindingsOf(t), depth+10), depth+10)
	}
	for _, r := range q.own(t.named, "") {
		r.env = q.bindingsOf(t)
		all = append(all, r)
	}
	return all
}

// makers are the constructors of a type, or else of the nearest type that it is derived from and that has some.
func (q *question) makers(r ref, depth int) (all []ref) {
	if all = q.constructors([]ref{r}, facts.Use{}); len(all) > 0 || depth > deepest {
		return all
	}
	for _, s := range r.def().Supers {
		super := subst(q.typeNamed(r.src, s, depth+1), r.env)
		if !super.named.ok() || !super.named.def().Kind.IsType() {
			continue
		}
		of := super.named
		of.env = q.bindingsOf(super)
		if all = q.makers(of, depth+10); len(all) == 0 {
			continue
		}
		for i := range all {
			if all[i].env == nil {
				all[i].env = of.env
			}
		}
		return all
	}
	return nil
}

// taken is the type of a parameter of a function type.
func (q *question) taken(t Type, part, depth int) Type {
	if e := t.expr(); e.Kind == facts.EitherOf {
		for _, a := range q.arms(t, depth) {
			if p := q.taken(a, part, depth+10); p.known() {
				return p
			}
		}
	} else if e.Kind == facts.FuncOf {
		if part < len(e.Args) {
			return q.inside(t, e.Args[part], depth+1)
		}
		return Type{}
	} else if e.Kind == facts.Func {
		if part+1 < len(e.Args) {
			return q.inside(t, e.Args[part+1], depth+1)
		}
		return Type{}
	} else if e.Kind == facts.Shape {
		for _, called := range q.inShape(t, "", depth+1).refs {
			if p := parameterType(called.def(), part); p != facts.NoExpr {
				return q.typeWith(called.src, p, t.env, depth+1)
			}
		}
		return Type{}
	}
	if t.takes > 0 && part == 0 {
		return t.args[t.takes-1]
	}
	if !t.named.ok() || depth > deepest {
		return Type{}
	}
	d := t.named.def()
	if d.Type != facts.NoExpr && d.Kind.IsType() && d.Kind != facts.TypeParameter {
		return q.taken(subst(q.typeNamed(t.named.src, d.Type, depth+1), q.bindingsOf(t)), part, depth+1)
	}
	sam := q.singleMethod(t.named, depth)
	if called := q.own(t.named, ""); len(called) > 0 { // what can be called
		sam = called[0]
	}
	if sam.ok() {
		if p := parameterType(sam.def(), part); p != facts.NoExpr {
			return q.typeWith(sam.src, p, q.bindingsOf(t), depth+1)
		}
	}
	return Type{}
}

// singleMethod is the only method of an interface that has to be implemented.
func (q *question) singleMethod(iface ref, depth int) (only ref) {
	if iface.def().Kind != facts.Interface || depth > deepest {
		return ref{}
	}
	for i := range iface.src.Defs {
		d := &iface.src.Defs[i]
		if d.Scope != iface.def().Body || d.Kind != facts.Method || d.Static || q.hasBody(iface.src.ref(facts.DefID(i))) {
			continue
		}
		if only.ok() {
			return ref{}
		}
		only = iface.src.ref(facts.DefID(i))
	}
	if only.ok() {
		return only
	}
	for _, s := range iface.def().Supers {
		if t := q.typeNamed(iface.src, s, depth+1); t.named.ok() {
			if m := q.singleMethod(t.named, depth+10); m.ok() {
				return m
			}
		}
	}
	return ref{}
}

// isProperty says whether a callable is used without being called.
func isProperty(r ref) bool { return r.def().Kind == facts.Property }
