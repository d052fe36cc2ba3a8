// Package java reads the facts of Java files.
package java

import (
	"context"
	"strings"

	"github.com/smacker/go-tree-sitter/java"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "Java"

var grammar = syntax.NewGrammar(java.GetLanguage())

var (
	fName       = grammar.Field("name")
	fBody       = grammar.Field("body")
	fParameters = grammar.Field("parameters")
	fType       = grammar.Field("type")
	fValue      = grammar.Field("value")
	fObject     = grammar.Field("object")
	fField      = grammar.Field("field")
	fArguments  = grammar.Field("arguments")
	fLeft       = grammar.Field("left")
	fRight      = grammar.Field("right")
	fCondition  = grammar.Field("condition")
	fKey        = grammar.Field("key")
	fDeclarator = grammar.Field("declarator")
	fSuper      = grammar.Field("superclass")
)

// Facts reads one file.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	tree, err := syntax.Parse(ctx, grammar, text)
	if err != nil {
		return nil, err
	}
	w := &walker{Builder: facts.NewBuilder(name, len(text)), text: text, exprs: map[int]facts.ExprID{}, results: map[int]facts.ExprID{}}
	w.all(tree.Root())
	lang.Sections(w.Builder, text, "//", "/*")
	return w.File(), nil
}

type walker struct {
	*facts.Builder
	text []byte
	// exprs are those kept already, by node, so that what stands inside others
	// is kept once, in the scope it was first met in.
	exprs map[int]facts.ExprID
	// chosen is what the switch around chooses by.
	chosen facts.ExprID
	// results are what lambdas give back, by node.
	results map[int]facts.ExprID
}

func (w *walker) all(n syntax.Node) {
	for c := range n.NamedChildren() {
		w.node(c)
	}
}

func (w *walker) node(n syntax.Node) {
	switch n.Type() {
	case "package_declaration":
		if id := n.First("scoped_identifier", "identifier"); id.OK() {
			w.SetPackage(id.Text())
		}
	case "import_declaration":
		w.imported(n)
	case "class_declaration":
		w.typeDeclaration(n, facts.Class)
	case "interface_declaration", "annotation_type_declaration":
		w.typeDeclaration(n, facts.Interface)
	case "enum_declaration":
		w.typeDeclaration(n, facts.Enum)
	case "record_declaration":
		w.typeDeclaration(n, facts.Class)
	case "method_declaration", "annotation_type_element_declaration":
		w.method(n, facts.Method)
	case "constructor_declaration", "compact_constructor_declaration":
		w.method(n, facts.Constructor)
	case "field_declaration", "constant_declaration":
		w.declarators(n, facts.Field)
	case "local_variable_declaration":
		w.declarators(n, facts.Variable)
	case "enum_constant":
		w.enumConstant(n)
	case "return_statement":
		w.all(n)
		for v := range n.NamedChildren() {
			w.expr(v)
		}
	default:
		w.statement(n)
	}
}

// statement reads what stands in the bodies of methods.
func (w *walker) statement(n syntax.Node) {
	switch n.Type() {
	case "switch_expression", "switch_statement":
		w.choice(n)
	case "block", "switch_block", "switch_rule", "for_statement", "while_statement", "if_statement":
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() { w.all(n) })
	case "try_with_resources_statement", "try_statement":
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() { w.all(n) })
	case "enhanced_for_statement":
		w.forEach(n)
	case "catch_clause":
		w.In(facts.BlockScope, n.Range(), facts.NoDef, func() { w.all(n) })
	case "catch_formal_parameter":
		t := n.First("catch_type")
		w.useType(t)
		w.variable(n, n.Child(fName), w.typ(t), facts.NoExpr, facts.Variable)
	case "resource":
		w.resource(n)
	case "lambda_expression":
		w.lambda(n, facts.NoExpr, nil)
	case "switch_label":
		w.label(n)
	case "labeled_statement":
		for c := range n.NamedChildren() {
			if c.Type() != "identifier" {
				w.node(c)
			}
		}
	case "break_statement", "continue_statement", "line_comment", "block_comment":
	default:
		w.expression(n)
	}
}

// choice reads a switch, the labels of which may be members of the type of what
// it chooses by.
func (w *walker) choice(n syntax.Node) {
	condition := n.Child(fCondition)
	w.node(condition)
	was := w.chosen
	w.chosen = w.expr(condition)
	for c := range n.NamedChildren() {
		if c.Field() != fCondition {
			w.node(c)
		}
	}
	w.chosen = was
}

func (w *walker) label(n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "identifier" && w.chosen != facts.NoExpr {
			w.Use(c.Text(), facts.Read, c.Range(), w.chosen)
			continue
		}
		w.node(c)
	}
}

func (w *walker) imported(n syntax.Node) {
	path := n.First("scoped_identifier", "identifier")
	if !path.OK() {
		return
	}
	imp := facts.Imported{Path: path.Text(), At: path.Range()}
	static := n.Has("static")
	if n.First("asterisk").OK() {
		imp.Name = "*"
		w.Import(imp)
		return
	}
	id := path.Child(fName)
	if !id.OK() {
		id = path
	}
	if static {
		imp.Path, imp.Name = strings.TrimSuffix(strings.TrimSuffix(path.Text(), id.Text()), "."), id.Text()
	}
	imp.Alias = id.Text()
	w.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: w.Import(imp)})
}

// begin starts a definition whose body may follow.
func (w *walker) begin(n syntax.Node, kind facts.Kind) facts.Def {
	id, body := n.Child(fName), n.Child(fBody)
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: n.Range(), Head: n.Range(), Doc: lang.CommentAbove(w.text, n.Range().Start, "//")}
	if m := n.First("modifiers"); m.OK() {
		d.Static = m.Has("static")
		// Annotations are above the head that people read.
		for c := range m.Children() {
			if t := c.Type(); t == "marker_annotation" || t == "annotation" {
				d.Head.Start = skipBlanks(w.text, c.Range().End)
			}
		}
	}
	if body.OK() {
		d.Head.End = body.Range().Start
		for d.Head.End > d.Head.Start && strings.IndexByte(" \t\r\n", w.text[d.Head.End-1]) >= 0 {
			d.Head.End--
		}
	}
	return d
}

func skipBlanks(text []byte, at uint32) uint32 {
	for int(at) < len(text) && strings.IndexByte(" \t\r\n", text[at]) >= 0 {
		at++
	}
	return at
}

func (w *walker) typeDeclaration(n syntax.Node, kind facts.Kind) {
	w.all(n.First("modifiers"))
	id := w.Def(w.begin(n, kind))
	w.In(facts.TypeScope, place.Range{Start: w.At(id).At.End, End: n.Range().End}, id, func() {
		w.typeParameters(n)
		for _, clause := range []syntax.Node{n.Child(fSuper), n.First("super_interfaces"), n.First("extends_interfaces")} {
			w.supers(clause, id)
		}
		for p := range n.Child(fParameters).NamedChildren() { // of a record
			if p.Type() == "formal_parameter" {
				w.useType(p.Child(fType))
				w.variable(p, p.Child(fName), w.typ(p.Child(fType)), facts.NoExpr, facts.Field)
			}
		}
		w.members(n.Child(fBody))
	})
}

func (w *walker) members(body syntax.Node) {
	for m := range body.NamedChildren() {
		switch m.Type() {
		case "enum_body_declarations":
			w.members(m)
		case "static_initializer", "block":
			w.In(facts.FunctionScope, m.Range(), facts.NoDef, func() { w.all(m) })
		default:
			w.node(m)
		}
	}
}

// supers reads the types that a type extends or implements, which may stand in
// a list.
func (w *walker) supers(clause syntax.Node, owner facts.DefID) {
	for t := range clause.NamedChildren() {
		if k := t.Type(); k == "type_list" || k == "interface_type_list" {
			w.supers(t, owner)
			continue
		}
		w.useType(t)
		if super := w.typ(t); super != facts.NoExpr {
			d := w.At(owner)
			d.Supers = append(d.Supers, super)
		}
	}
}

func (w *walker) typeParameters(n syntax.Node) {
	for p := range n.First("type_parameters").NamedChildren() {
		id := p.First("type_identifier", "identifier")
		d := facts.Def{Name: id.Text(), Kind: facts.TypeParameter, At: id.Range(), Full: p.Range(), Head: p.Range()}
		for b := range p.First("type_bound").NamedChildren() {
			w.useType(b)
			if d.Type == facts.NoExpr {
				d.Type = w.typ(b)
			}
		}
		if id.OK() {
			w.Def(d)
		}
	}
}

func (w *walker) method(n syntax.Node, kind facts.Kind) {
	w.all(n.First("modifiers"))
	d := w.begin(n, kind)
	d.Parameters = 1
	for p := range n.Child(fParameters).NamedChildren() {
		switch p.Type() {
		case "spread_parameter":
			d.Variadic = true
			d.Parameters++
		case "formal_parameter":
			d.Parameters++
		}
	}
	id := w.Def(d)
	// The type parameters stand before the name, and the result's type may be
	// one of them.
	w.In(facts.FunctionScope, place.Range{Start: d.Head.Start, End: n.Range().End}, id, func() {
		w.typeParameters(n)
		w.useType(n.Child(fType))
		t := w.typ(n.Child(fType))
		w.At(id).Type = t
		params := w.paramTypes(n.Child(fParameters))
		w.At(id).Params = params
		w.parameters(n.Child(fParameters))
		w.useType(n.First("throws"))
		w.all(n.Child(fBody))
	})
}

// paramTypes are the declared types of parameters.
func (w *walker) paramTypes(list syntax.Node) (types []facts.ExprID) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "formal_parameter":
			types = append(types, w.dimensioned(p, w.typ(p.Child(fType))))
		case "spread_parameter":
			for c := range p.NamedChildren() {
				if k := c.Type(); k != "modifiers" && k != "variable_declarator" {
					types = append(types, w.Expr(facts.Expr{Kind: facts.ListOf, Base: w.typ(c), At: p.Range()}))
				}
			}
		}
	}
	return types
}

// dimensioned is a type with the brackets that may stand behind the name of what
// has it.
func (w *walker) dimensioned(n syntax.Node, t facts.ExprID) facts.ExprID {
	if n.First("dimensions").OK() {
		return w.Expr(facts.Expr{Kind: facts.ListOf, Base: t, At: n.Range()})
	}
	return t
}

func (w *walker) parameters(list syntax.Node) {
	for p := range list.NamedChildren() {
		switch p.Type() {
		case "formal_parameter", "receiver_parameter":
			w.all(p.First("modifiers"))
			w.useType(p.Child(fType))
			w.variable(p, p.Child(fName), w.dimensioned(p, w.typ(p.Child(fType))), facts.NoExpr, facts.Parameter)
		case "spread_parameter":
			var t syntax.Node
			for c := range p.NamedChildren() {
				switch c.Type() {
				case "variable_declarator":
					list := w.Expr(facts.Expr{Kind: facts.ListOf, Base: w.typ(t), At: p.Range()})
					w.variable(p, c.Child(fName), list, facts.NoExpr, facts.Parameter)
				case "modifiers":
					w.all(c)
				default:
					t = c
					w.useType(c)
				}
			}
		case "identifier": // of a lambda
			w.variable(p, p, facts.NoExpr, facts.NoExpr, facts.Parameter)
		}
	}
}

// variable defines a name with what is known of its type.
func (w *walker) variable(whole, id syntax.Node, t, init facts.ExprID, kind facts.Kind) {
	if !id.OK() {
		return
	}
	w.Def(facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Type: t, Init: init})
}

// declarators reads fields or variables declared together.
func (w *walker) declarators(n syntax.Node, kind facts.Kind) {
	m := n.First("modifiers")
	w.all(m)
	w.useType(n.Child(fType))
	isVar := n.Child(fType).Text() == "var"
	for c := range n.NamedChildren() {
		if c.Field() != fDeclarator {
			continue
		}
		id, value := c.Child(fName), c.Child(fValue)
		d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: n.Range(), Head: n.Range(), Static: m.Has("static")}
		if kind == facts.Field {
			d.Doc = lang.CommentAbove(w.text, n.Range().Start, "//")
			if m.Has("static") && m.Has("final") {
				d.Kind = facts.Constant
			}
		} else {
			d.From = id.Range().End
		}
		if !isVar {
			d.Type = w.dimensioned(c, w.typ(n.Child(fType)))
		}
		def := w.Def(d)
		w.node(value)
		init := w.expr(value)
		w.At(def).Init = init
	}
}

func (w *walker) enumConstant(n syntax.Node) {
	d := w.begin(n, facts.EnumMember)
	if owner := w.Owner(facts.TypeScope); owner != facts.NoDef {
		d.Type = w.Expr(facts.Expr{Kind: facts.Name, Name: w.At(owner).Name, At: w.At(owner).At})
	}
	w.Def(d)
	w.all(n.Child(fArguments))
	if body := n.Child(fBody); body.OK() { // a class of its own
		w.nameless(w.Owner(facts.TypeScope), body)
	}
}

// nameless reads the body of a class without a name, derived from what super
// defines.
func (w *walker) nameless(super facts.DefID, body syntax.Node) {
	var t facts.ExprID
	if super != facts.NoDef {
		t = w.Expr(facts.Expr{Kind: facts.Name, Name: w.At(super).Name, At: w.At(super).At})
	}
	w.anonymous(t, body)
}

// anonymous reads the body of a class without a name that is derived from the
// type t.
func (w *walker) anonymous(t facts.ExprID, body syntax.Node) {
	r := body.Range()
	at := place.Range{Start: r.Start, End: r.Start}
	d := facts.Def{Kind: facts.Class, At: at, Full: r, Head: at}
	if t != facts.NoExpr {
		d.Supers = []facts.ExprID{t}
	}
	w.In(facts.TypeScope, r, w.Def(d), func() { w.members(body) })
}

func (w *walker) forEach(n syntax.Node) {
	w.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		value := n.Child(fValue)
		w.node(value)
		w.useType(n.Child(fType))
		t, init := facts.NoExpr, facts.NoExpr
		if n.Child(fType).Text() == "var" {
			init = w.Expr(facts.Expr{Kind: facts.Each, Base: w.expr(value), At: value.Range()})
		} else {
			t = w.typ(n.Child(fType))
		}
		w.variable(n.Child(fName), n.Child(fName), t, init, facts.Variable)
		w.node(n.Child(fBody))
	})
}

func (w *walker) resource(n syntax.Node) {
	value := n.Child(fValue)
	w.useType(n.Child(fType))
	if id := n.Child(fName); id.OK() {
		t := w.typ(n.Child(fType))
		if n.Child(fType).Text() == "var" {
			t = facts.NoExpr
		}
		w.node(value)
		w.variable(n, id, t, w.expr(value), facts.Variable)
		return
	}
	w.all(n)
}

// lambda reads a function without a name, which given is called with: the
// parameters get what that gives to its argument behind those before. given may
// be none.
func (w *walker) lambda(n syntax.Node, given facts.ExprID, before []facts.ExprID) {
	w.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		p := n.Child(fParameters)
		switch p.Type() {
		case "identifier":
			w.variable(p, p, facts.NoExpr, w.given(given, before, 0), facts.Parameter)
		case "inferred_parameters":
			part := 0
			for id := range p.NamedChildren() {
				w.variable(id, id, facts.NoExpr, w.given(given, before, part), facts.Parameter)
				part++
			}
		default:
			w.parameters(p)
		}
		body := n.Child(fBody)
		w.node(body)
		if body.Type() == "block" {
			w.results[n.Index()] = w.returned(body)
		} else {
			w.results[n.Index()] = w.expr(body)
		}
	})
}

// given is what a function passed as an argument gets for a parameter.
func (w *walker) given(callee facts.ExprID, before []facts.ExprID, part int) facts.ExprID {
	if callee == facts.NoExpr || len(before) > 255 || part > 255 {
		return facts.NoExpr
	}
	return w.Expr(facts.Expr{Kind: facts.Given, Base: callee, Args: before, Arg: uint8(len(before)), Part: uint8(part)})
}

// returned is what the first return statement of a body gives back that is kept
// already.
func (w *walker) returned(n syntax.Node) facts.ExprID {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "return_statement":
			for v := range c.NamedChildren() {
				if e, ok := w.exprs[v.Index()]; ok {
					return e
				}
			}
		case "lambda_expression", "class_body":
		default:
			if e := w.returned(c); e != facts.NoExpr {
				return e
			}
		}
	}
	return facts.NoExpr
}
