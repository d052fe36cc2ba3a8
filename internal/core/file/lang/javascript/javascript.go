// Package javascript reads the facts of JavaScript and TypeScript files, with
// or without JSX. The grammars name most things alike, so one walk serves all.
package javascript

import (
	"context"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// reader reads the facts of files in a dialect.
func (d *dialect) reader(name string) lang.Extractor {
	return func(ctx context.Context, text []byte) (*facts.File, error) {
		tree, err := syntax.Parse(ctx, d.grammar, text)
		if err != nil {
			return nil, err
		}
		w := &walker{
			Builder: facts.NewBuilder(name, len(text)), f: d, text: text, typed: name == typescriptName,
			exprs: map[int]facts.ExprID{}, assigned: map[facts.DefID][]assigned{}, members: map[member]bool{},
		}
		w.all(tree.Root())
		lang.Sections(w.Builder, text, signs.Marks()...)
		return w.File(), nil
	}
}

// dialect is a grammar with the numbers of its fields.
type dialect struct {
	grammar *syntax.Grammar

	name, body, parameters, parameter, returnType, typ, value, left, right, key,
	object, property, function, arguments, constructor, source, alias, declaration,
	pattern, index, constraint, module, kind syntax.Field
}

func newDialect(g *syntax.Grammar) *dialect {
	f := g.Field
	return &dialect{
		grammar: g, name: f("name"), body: f("body"), parameters: f("parameters"), parameter: f("parameter"),
		returnType: f("return_type"), typ: f("type"), value: f("value"), left: f("left"), right: f("right"),
		key: f("key"), object: f("object"), property: f("property"), function: f("function"),
		arguments: f("arguments"), constructor: f("constructor"), source: f("source"), alias: f("alias"),
		declaration: f("declaration"), pattern: f("pattern"), index: f("index"), constraint: f("constraint"),
		module: f("module"), kind: f("kind"),
	}
}

type walker struct {
	*facts.Builder
	f        *dialect
	text     []byte
	exported syntax.Node // the export statement around the next definition, if any
	// exprs are those kept already, by node, so that what stands inside others
	// is kept once, in the scope it was met in.
	exprs map[int]facts.ExprID
	// returns are what the functions around give back, the innermost last.
	returns [][]facts.ExprID
	// assigned are the members that classes are given by assignments to this.
	assigned map[facts.DefID][]assigned
	// members are those that have been defined outside the type they belong to.
	members map[member]bool
	// conditional is the scope in which infer defines a name.
	conditional facts.ScopeID
	typed       bool // members have to be declared
	// until is where the statements end that the walk is among.
	until uint32
}

// member is a member of a type, or of a function or a variable used like one.
type member struct {
	scope           facts.ScopeID
	container, name string
}

// assigned is a member of this that a value is assigned to.
type assigned struct {
	id, whole syntax.Node
	scope     facts.ScopeID
	role      facts.Role // of the use, if another one defines it
	init      facts.ExprID
}

func (w *walker) all(n syntax.Node) {
	for c := range n.NamedChildren() {
		w.node(c)
	}
}

// node reads a statement, or an expression whose value is read.
func (w *walker) node(n syntax.Node) {
	switch n.Type() {
	case "import_statement":
		w.importStatement(n)
	case "export_statement":
		w.exportStatement(n)
	case "function_declaration", "generator_function_declaration", "function_signature":
		w.function(n, facts.Function)
	case "class_declaration", "abstract_class_declaration", "class":
		w.class(n)
	case "interface_declaration":
		w.interfaceType(n)
	case "type_alias_declaration":
		w.typeAlias(n)
	case "enum_declaration":
		w.enum(n)
	case "internal_module", "module":
		w.namespace(n)
	case "lexical_declaration", "variable_declaration":
		w.variables(n)
	case "statement_block", "switch_body", "for_statement":
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() { w.block(n) })
	case "switch_case", "switch_default":
		w.block(n)
	case "if_statement":
		w.branches(n)
	case "ternary_expression", "while_statement", "switch_statement", "binary_expression":
		w.tests(n)
		w.expression(n)
	case "for_in_statement":
		w.forIn(n)
	case "catch_clause":
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
			w.pattern(n.Child(w.f.parameter), facts.Def{Kind: facts.Variable})
			w.node(n.Child(w.f.body))
		})
	case "labeled_statement":
		w.node(n.Child(w.f.body))
	case "return_statement":
		w.returned(n)
	case "expression_statement":
		if !w.exports(n) {
			w.all(n)
		}
	case "break_statement", "continue_statement", "comment":
	default:
		w.expression(n)
	}
}

// begin starts the definition of a named declaration.
func (w *walker) begin(n syntax.Node, kind facts.Kind) facts.Def {
	outer := n
	if w.exported.OK() {
		outer, w.exported = w.exported, syntax.Node{}
	}
	id := n.Child(w.f.name)
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: outer.Range(), Head: outer.Range()}
	if body := n.Child(w.f.body); body.OK() {
		d.Head.End = trimEnd(w.text, d.Head.Start, body.Range().Start)
	}
	d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
	return d
}

// trimEnd moves an end back over blanks.
func trimEnd(text []byte, start, end uint32) uint32 {
	for end > start && (text[end-1] == ' ' || text[end-1] == '\n' || text[end-1] == '\t' || text[end-1] == '\r') {
		end--
	}
	return end
}

func (w *walker) function(n syntax.Node, kind facts.Kind) {
	w.functionBody(n, w.Def(w.begin(n, kind)))
}

// returned reads a return statement and keeps what it gives back.
func (w *walker) returned(n syntax.Node) {
	w.all(n)
	if len(w.returns) == 0 {
		return
	}
	for v := range n.NamedChildren() {
		if e := w.expr(v); e != facts.NoExpr {
			at := len(w.returns) - 1
			w.returns[at] = append(w.returns[at], e)
		}
		return
	}
}

// mostReturns is how many of the values a function gives back are kept.
const mostReturns = 4

// one is the value of one of several expressions.
func (w *walker) one(list []facts.ExprID, at place.Range) facts.ExprID {
	switch {
	case len(list) == 0:
		return facts.NoExpr
	case len(list) == 1:
		return list[0]
	}
	return w.Expr(facts.Expr{Kind: facts.OneOf, Args: list[:min(len(list), mostReturns)], At: at})
}

// functionBody reads parameters, result type and body of anything that has
// them; owner is its definition, or NoDef.
func (w *walker) functionBody(n syntax.Node, owner facts.DefID) {
	w.functionGiven(n, owner, facts.NoExpr, nil)
}

// functionGiven is functionBody for a function that is the argument behind those
// before of a call of callee, which gives its parameters their values.
func (w *walker) functionGiven(n syntax.Node, owner facts.DefID, callee facts.ExprID, before []facts.ExprID) {
	at := n.Range()
	if id := n.Child(w.f.name); id.OK() {
		at.Start = id.Range().End
	}
	w.In(facts.FunctionScope, at, owner, func() {
		w.typeParameters(n)
		result := w.typ(w.resultType(n))
		if owner != facts.NoDef {
			w.signature(owner, n, result)
		}
		part := 0
		given := func() facts.ExprID {
			part++
			if callee == facts.NoExpr || len(before) > 255 || part > 255 {
				return facts.NoExpr
			}
			return w.Expr(facts.Expr{Kind: facts.Given, Base: callee, Args: before, Arg: uint8(len(before)), Part: uint8(part - 1)})
		}
		if p := n.Child(w.f.parameter); p.OK() { // x => …
			w.pattern(p, facts.Def{Kind: facts.Parameter, Init: given()})
		}
		for p := range n.Child(w.f.parameters).NamedChildren() {
			w.parameterNode(p, given)
		}
		w.useType(w.resultType(n))
		w.returns = append(w.returns, nil)
		body := n.Child(w.f.body)
		if body.Type() == "statement_block" {
			w.block(body)
		} else if body.OK() {
			w.node(body)
			if e := w.expr(body); e != facts.NoExpr {
				w.returns[len(w.returns)-1] = []facts.ExprID{e}
			}
		}
		gives := w.one(w.returns[len(w.returns)-1], at)
		w.returns = w.returns[:len(w.returns)-1]
		if gives != facts.NoExpr && n.Has("async") {
			gives = w.Expr(facts.Expr{Kind: facts.Awaited, Base: gives, At: at})
		}
		if owner != facts.NoDef && result == facts.NoExpr && w.At(owner).Kind.IsCallable() {
			w.At(owner).Init = gives
		}
		f := facts.Expr{Kind: facts.Func, Base: result, At: n.Range()}
		if gives != facts.NoExpr {
			f.Args = []facts.ExprID{gives}
		}
		w.exprs[n.Index()] = w.Expr(f)
	})
}

// resultType is what a function or a signature says of its result.
func (w *walker) resultType(n syntax.Node) syntax.Node {
	if t := n.Child(w.f.returnType); t.OK() || n.Type() != "construct_signature" && n.Type() != "call_signature" {
		return t
	}
	return n.Child(w.f.typ)
}

// signature notes the types of what a function takes and gives.
func (w *walker) signature(owner facts.DefID, n syntax.Node, result facts.ExprID) {
	params := w.paramTypes(n.Child(w.f.parameters))
	d := w.At(owner)
	if d.Kind.IsCallable() || result != facts.NoExpr && d.Type == facts.NoExpr {
		d.Type = result
	}
	d.Params = params
	if len(params) > 0 && d.Kind.IsCallable() {
		d.Variadic = w.Facts().Exprs[params[len(params)-1]].Kind == facts.ListOf && n.Child(w.f.parameters).Has("rest_pattern")
	}
}

// paramTypes are the declared types of parameters, none if none is declared.
func (w *walker) paramTypes(list syntax.Node) (types []facts.ExprID) {
	some := false
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "required_parameter", "optional_parameter":
			if p.Child(w.f.pattern).Type() == "this" {
				continue
			}
			t := w.typ(p.Child(w.f.typ))
			some = some || t != facts.NoExpr
			types = append(types, t)
		case "identifier", "assignment_pattern", "object_pattern", "array_pattern", "rest_pattern":
			types = append(types, facts.NoExpr)
		}
	}
	if !some {
		return nil
	}
	return types
}

func (w *walker) typeParameters(n syntax.Node) {
	for p := range n.First("type_parameters").NamedChildren() {
		id := p.Child(w.f.name)
		if !id.OK() {
			id = p.First("type_identifier")
		}
		w.Def(facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: p.Range(), Head: p.Range(), Type: w.typ(p.Child(w.f.constraint))})
		for c := range p.NamedChildren() {
			if c.Index() != id.Index() {
				w.useType(c)
			}
		}
	}
}

// parameterNode reads one parameter: a pattern, in TypeScript with a type around
// it.
func (w *walker) parameterNode(p syntax.Node, given func() facts.ExprID) {
	switch p.Type() {
	case "required_parameter", "optional_parameter":
		w.useType(p.Child(w.f.typ))
		d := facts.Def{Kind: facts.Parameter, Type: w.typ(p.Child(w.f.typ)), Full: p.Range(), Head: p.Range()}
		if p.Child(w.f.pattern).Type() != "this" {
			if g := given(); d.Type == facts.NoExpr {
				d.Init = g
			}
		}
		if v := p.Child(w.f.value); v.OK() {
			w.node(v)
			if d.Init == facts.NoExpr {
				d.Init = w.expr(v)
			}
		}
		w.pattern(p.Child(w.f.pattern), d)
		w.parameterProperty(p)
	case "decorator", "comment":
		w.all(p)
	default:
		w.pattern(p, facts.Def{Kind: facts.Parameter, Init: given()})
	}
}

// parameterProperty makes a parameter with a modifier, as in
// constructor(private store: Store), a property of the class too.
func (w *walker) parameterProperty(p syntax.Node) {
	id, class := p.Child(w.f.pattern), w.Owner(facts.TypeScope)
	if class == facts.NoDef || id.Type() != "identifier" || !p.First("accessibility_modifier", "readonly", "override_modifier").OK() {
		return
	}
	w.Inner(w.At(class).Body, func() {
		d := facts.Def{Name: id.Text(), Kind: facts.Property, At: id.Range(), Full: p.Range(), Head: p.Range(), Type: w.typ(p.Child(w.f.typ))}
		w.At(w.Def(d)).Parent = class
	})
}

// pattern defines the names of a pattern; d says all that is known of them.
func (w *walker) pattern(n syntax.Node, d facts.Def) {
	define := func(id syntax.Node) {
		d.Name, d.At = id.Text(), id.Range()
		if d.Full.Len() == 0 {
			d.Full, d.Head = id.Range(), id.Range()
		}
		if existing := w.Defined(w.Scope(), d.Name); existing != facts.NoDef && hasValue(w.At(existing).Kind) {
			w.Use(d.Name, facts.Write, d.At, facts.NoExpr)
			return
		}
		w.Def(d)
	}
	switch n.Type() {
	case "identifier", "shorthand_property_identifier_pattern", "this":
		define(n)
	case "assignment_pattern", "object_assignment_pattern":
		w.node(n.Child(w.f.right))
		w.pattern(n.Child(w.f.left), d)
	case "object_pattern":
		for c := range n.NamedChildren() {
			w.propertyPattern(c, d)
		}
	case "array_pattern":
		for c := range n.NamedChildren() {
			inner := d
			inner.Type, inner.Init, inner.Part = facts.NoExpr, w.each(d), 0
			w.pattern(c, inner)
		}
	case "rest_pattern":
		for c := range n.NamedChildren() {
			w.pattern(c, facts.Def{Kind: d.Kind, Type: d.Type, Full: d.Full, Head: d.Head})
		}
	default:
		w.target(n, facts.Write)
	}
}

// propertyPattern reads one part of an object pattern, which takes a property
// of the value apart.
func (w *walker) propertyPattern(c syntax.Node, d facts.Def) {
	key, inner := c, c
	switch c.Type() {
	case "pair_pattern":
		key, inner = c.Child(w.f.key), c.Child(w.f.value)
	case "object_assignment_pattern":
		key = c.Child(w.f.left)
	case "rest_pattern":
		w.pattern(c, facts.Def{Kind: d.Kind})
		return
	}
	base := d.Init
	if d.Type != facts.NoExpr {
		base = w.Expr(facts.Expr{Kind: facts.Value, Base: d.Type, At: c.Range()})
	}
	part := facts.Def{Kind: d.Kind}
	if base != facts.NoExpr {
		part.Init = w.Expr(facts.Expr{Kind: facts.Member, Name: key.Text(), Base: base, At: key.Range()})
		w.Use(key.Text(), facts.Read, key.Range(), base)
	}
	w.pattern(inner, part)
}

// each is an element of what d stands for.
func (w *walker) each(d facts.Def) facts.ExprID {
	base := d.Init
	if d.Type != facts.NoExpr {
		base = w.Expr(facts.Expr{Kind: facts.Value, Base: d.Type})
	}
	if base == facts.NoExpr {
		return base
	}
	return w.Expr(facts.Expr{Kind: facts.Each, Base: base})
}

// variables reads the declarators of const, let and var.
func (w *walker) variables(n syntax.Node) {
	outer := n
	if w.exported.OK() {
		outer, w.exported = w.exported, syntax.Node{}
	}
	kind := facts.Variable
	if n.Has("const") {
		kind = facts.Constant
	}
	scope := w.Scope()
	if n.Has("var") {
		scope = w.Enclosing(facts.FunctionScope)
	}
	for c := range n.NamedChildren() {
		if c.Type() == "variable_declarator" {
			w.declarator(c, outer, kind, scope)
		}
	}
}

func (w *walker) declarator(n, outer syntax.Node, kind facts.Kind, scope facts.ScopeID) {
	id, value := n.Child(w.f.name), n.Child(w.f.value)
	w.useType(n.Child(w.f.typ))
	if w.required(id, value, outer) {
		return
	}
	d := facts.Def{Kind: kind, Type: w.typ(n.Child(w.f.typ)), Full: outer.Range(), Head: outer.Range()}
	d.Doc = lang.CommentAbove(w.text, d.Full.Start, "//")
	if id.Type() != "identifier" {
		w.node(value)
		d.Init = w.expr(value)
		w.Inner(scope, func() { w.pattern(id, facts.Def{Kind: kind, Type: d.Type, Init: d.Init}) })
		return
	}
	d.Name, d.At = id.Text(), id.Range()
	if existing := w.Defined(scope, d.Name); existing != facts.NoDef && hasValue(w.At(existing).Kind) {
		w.Use(d.Name, facts.Write, d.At, facts.NoExpr)
		w.node(value)
		return
	}
	body := value.Child(w.f.body)
	switch value.Type() {
	case "arrow_function", "function", "function_expression", "generator_function":
		d.Kind, d.Type = facts.Function, facts.NoExpr
		d.Head.End = trimEnd(w.text, d.Head.Start, body.Range().Start)
		var def facts.DefID
		w.Inner(scope, func() { def = w.Def(d) })
		w.functionBody(value, def)
	case "class":
		d.Kind = facts.Class
		d.Head.End = trimEnd(w.text, d.Head.Start, body.Range().Start)
		var def facts.DefID
		w.Inner(scope, func() { def = w.Def(d) })
		w.classBody(value, def)
	case "object":
		d.Head.End = value.Range().Start
		var def facts.DefID
		w.Inner(scope, func() { def = w.Def(d) })
		w.In(facts.TypeScope, value.Range(), def, func() { w.objectMembers(value) })
		w.exprs[value.Index()] = w.shape(value)
	default:
		var def facts.DefID
		w.Inner(scope, func() { def = w.Def(d) })
		w.node(value)
		init := w.expr(value)
		w.At(def).Init = init
	}
}

// hasValue says whether what is defined has a value, rather than being only a
// type, which may share a name with a value.
func hasValue(k facts.Kind) bool {
	return k != facts.TypeParameter && k != facts.Interface && k != facts.Type
}

func (w *walker) forIn(n syntax.Node) {
	w.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		right, left := n.Child(w.f.right), n.Child(w.f.left)
		w.node(right)
		kind := facts.Each
		if n.Has("in") {
			kind = facts.EachKey
		}
		if n.Child(w.f.kind).OK() || n.Has("const") || n.Has("let") || n.Has("var") {
			w.pattern(left, facts.Def{Kind: facts.Variable, Init: w.Expr(facts.Expr{Kind: kind, Base: w.expr(right), At: right.Range()}), Full: place.Range{Start: n.Range().Start, End: right.Range().End}})
		} else {
			w.target(left, facts.Write)
		}
		w.node(n.Child(w.f.body))
	})
}
