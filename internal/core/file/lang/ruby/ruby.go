// Package ruby reads the facts of Ruby files.
package ruby

import (
	"strings"

	"github.com/smacker/go-tree-sitter/ruby"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Ruby"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(ruby.GetLanguage()), Rules: rules, Signs: signs})

var part, first = reader.Part, reader.Nth(0)

var rules = reader.Rules{
	"identifier":        {Visit: identifier, Write: assign, Call: bareCall, Expr: bare},
	"constant":          {Visit: reader.Name().Visit, Write: constant, Call: bareCall, Type: reader.Name().Type, Expr: (*reader.Reader).NameOf},
	"instance_variable": {Visit: reader.Name().Visit, Write: member, Expr: (*reader.Reader).NameOf},
	"class_variable":    {Visit: reader.Name().Visit, Write: member, Expr: (*reader.Reader).NameOf},
	"global_variable":   {Visit: reader.Name().Visit, Write: global, Expr: (*reader.Reader).NameOf},
	"self":              reader.Self(),
	"super":             reader.Self(),
	"comment":           reader.Nothing(),
	"hash_key_symbol":   reader.Nothing(),

	"scope_resolution":             {Visit: scoped.Visit, Write: scoped.Write, Call: scoped.Call, Type: scopedType, Expr: scoped.Expr},
	"call":                         {Visit: call, Write: attribute, Expr: callExpr},
	"assignment":                   {Visit: assignment, Expr: reader.Same(part("right")).Expr},
	"operator_assignment":          {Visit: operatorAssignment, Expr: reader.Same(part("left")).Expr},
	"element_reference":            {Write: element, Expr: reader.Element(part("object")).Expr},
	"left_assignment_list":         {Write: targets},
	"destructured_left_assignment": {Write: targets},
	"rest_assignment":              {Write: targets},
	"parenthesized_statements":     reader.Same(first),
	"string":                       {Expr: reader.Literal("String").Expr},
	"array":                        {Expr: array},
	"hash":                         {Expr: hash},
	"binary":                       {Visit: shovel, Expr: eitherSide},
	"if":                           {Visit: parted, Expr: conditional},
	"unless":                       {Visit: parted, Expr: conditional},
	"case":                         {Visit: parted, Expr: conditional},
	"conditional":                  {Visit: parted, Expr: conditional},
	"if_modifier":                  {Visit: parted},
	"unless_modifier":              {Visit: parted},
	"while":                        {Visit: parted},
	"until":                        {Visit: parted},
	"begin":                        {Visit: parted, Expr: conditional},
	"integer":                      reader.Literal("Integer"),
	"float":                        reader.Literal("Float"),
	"simple_symbol":                reader.Literal("Symbol"),

	"class":            reader.Do(func(r *reader.Reader, n syntax.Node) { class(r, n, facts.Class) }),
	"module":           reader.Do(func(r *reader.Reader, n syntax.Node) { class(r, n, facts.Module) }),
	"singleton_class":  reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("body")) }),
	"method":           reader.Do(method),
	"singleton_method": reader.Do(method),
	"alias":            reader.Do(alias),

	"block":              reader.Do(block),
	"do_block":           reader.Do(block),
	"lambda":             reader.Do(block),
	"for":                reader.Do(forEach),
	"exceptions":         reader.Do((*reader.Reader).UseType),
	"exception_variable": reader.Do(func(r *reader.Reader, n syntax.Node) { r.Write(first(n), facts.Write) }),
	"as_pattern":         reader.Do(asPattern),
	"keyword_pattern":    reader.Do(keywordPattern),
}

// scoped is a constant of a class or a module.
var scoped = reader.Member(part("scope"), part("name"))

func scopedType(r *reader.Reader, n syntax.Node) {
	scope := n.Part("scope")
	r.UseType(scope)
	r.MemberUse(n.Part("name"), facts.TypeUse, r.Expression(scope), -1)
}

// identifier is a local variable if one of that name is known, or else the
// call of a method.
func identifier(r *reader.Reader, n syntax.Node) {
	if r.Known(n.Text()) != facts.NoDef {
		r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
		return
	}
	r.Builder.Call(n.Text(), n.Range(), facts.NoExpr, 0)
}

// bare keeps a local variable, or else what the method of that name gives.
func bare(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := r.NameOf(n)
	if r.Known(n.Text()) != facts.NoDef {
		return e
	}
	return r.Expr(facts.Expr{Kind: facts.CallOf, Base: e, At: n.Range()})
}

func bareCall(r *reader.Reader, n syntax.Node, arguments int) {
	r.Builder.Call(n.Text(), n.Range(), facts.NoExpr, arguments)
}

// assign gives a value to a local variable, which defines it the first time.
func assign(r *reader.Reader, n syntax.Node, role facts.Role) { bind(r, n, n, role, facts.NoExpr) }

func bind(r *reader.Reader, whole, id syntax.Node, role facts.Role, init facts.ExprID) {
	if r.Known(id.Text()) != facts.NoDef {
		r.Use(id.Text(), role, id.Range(), facts.NoExpr)
		set(r, id, scopeOf(r, id.Text()), facts.NoExpr, init, whole.Range().End)
		return
	}
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Variable, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Init: init})
}

// outside defines a name in a scope further out, or notes a use if it is there.
func outside(r *reader.Reader, whole, id syntax.Node, kind facts.Kind, scope facts.ScopeID, role facts.Role, init facts.ExprID) {
	if r.Defined(scope, id.Text()) != facts.NoDef {
		r.Use(id.Text(), role, id.Range(), facts.NoExpr)
		set(r, id, scope, facts.NoExpr, init, whole.Range().End)
		return
	}
	r.Inner(scope, func() {
		d := r.Begin(whole, id, syntax.Node{}, kind)
		d.Init = init
		r.Def(d)
	})
}

func constant(r *reader.Reader, n syntax.Node, role facts.Role) {
	outside(r, n, n, facts.Constant, r.Scope(), role, facts.NoExpr)
}

// member gives a value to a variable of the object or the class.
func member(r *reader.Reader, n syntax.Node, role facts.Role) {
	bindMember(r, n, n, role, facts.NoExpr)
}

func bindMember(r *reader.Reader, whole, id syntax.Node, role facts.Role, init facts.ExprID) {
	outside(r, whole, id, facts.Field, r.Enclosing(facts.TypeScope), role, init)
}

func global(r *reader.Reader, n syntax.Node, role facts.Role) {
	outside(r, n, n, facts.Variable, 0, role, facts.NoExpr)
}

func targets(r *reader.Reader, n syntax.Node, role facts.Role) {
	for c := range n.NamedChildren() {
		r.Write(c, role)
	}
}

func element(r *reader.Reader, n syntax.Node, role facts.Role) {
	object := n.Part("object")
	if t := object.Type(); t == "instance_variable" || t == "class_variable" || t == "global_variable" {
		r.Write(object, facts.ReadWrite)
	} else {
		r.Visit(object)
	}
	for c := range n.NamedChildren() {
		if c != object {
			r.Visit(c)
		}
	}
}

// attribute gives a value to what a method of that name reads.
func attribute(r *reader.Reader, n syntax.Node, role facts.Role) {
	receiver, id := n.Part("receiver"), n.Part("method")
	if !receiver.OK() {
		r.Visit(n)
		return
	}
	r.Visit(receiver)
	r.Use(id.Text(), role, id.Range(), r.Expression(receiver))
}

func assignment(r *reader.Reader, n syntax.Node) {
	left, right := n.Part("left"), n.Part("right")
	if left.Type() == "constant" && structure(r, n, left, right) {
		return
	}
	r.Visit(right)
	init := r.Expression(right)
	switch left.Type() {
	case "identifier":
		bind(r, n, left, facts.Write, init)
	case "constant":
		outside(r, n, left, facts.Constant, r.Scope(), facts.Write, init)
	case "instance_variable", "class_variable":
		bindMember(r, n, left, facts.Write, init)
	case "global_variable":
		outside(r, n, left, facts.Variable, 0, facts.Write, init)
	case "call":
		r.Write(left, facts.Write)
		if id := left.Part("method"); left.Part("receiver").OK() {
			set(r, id, 0, r.Expression(left.Part("receiver")), init, n.Range().End)
		}
	case "element_reference":
		r.Write(left, facts.Write)
		put(r, left.Part("object"), r.Expression(reader.Nth(1)(left)), init)
	case "left_assignment_list":
		number := 0
		for c := range left.NamedChildren() {
			if c.Type() == "identifier" {
				bind(r, n, c, facts.Write, r.Expr(facts.Expr{Kind: facts.PartOf, Base: init, Part: uint8(min(number, 255)), At: c.Range()}))
			} else {
				r.Write(c, facts.Write)
			}
			number++
		}
	default:
		r.Write(left, facts.Write)
	}
}

func operatorAssignment(r *reader.Reader, n syntax.Node) {
	left, right := n.Part("left"), n.Part("right")
	r.Visit(right)
	if n.Part("operator").Text() != "||=" {
		r.Write(left, facts.ReadWrite)
		return
	}
	switch init := r.Expression(right); left.Type() {
	case "identifier":
		bind(r, n, left, facts.ReadWrite, init)
	case "instance_variable", "class_variable":
		bindMember(r, n, left, facts.ReadWrite, init)
	default:
		r.Write(left, facts.ReadWrite)
	}
}

// call reads one, and what some of them define: those by which classes are
// written.
func call(r *reader.Reader, n syntax.Node) {
	receiver, m, arguments := n.Part("receiver"), n.Part("method"), n.Part("arguments")
	r.Visit(receiver)
	switch m.Type() {
	case "identifier", "constant":
		if made := r.Expression(n); made != facts.NoExpr && r.Facts().Exprs[made].Kind == facts.CallOf {
			r.Builder.CallWith(m.Text(), m.Range(), r.Expression(receiver), made)
		} else {
			r.Builder.CallWith(m.Text(), m.Range(), r.Expression(receiver), r.Expr(facts.Expr{Kind: facts.CallOf, Base: made, Args: values(r, arguments), At: n.Range()}))
		}
		r.Facts().Uses[len(r.Facts().Uses)-1].Arguments = reader.Count(arguments) + 1 // without the block
		puts(r, m.Text(), receiver, arguments)
		if !receiver.OK() {
			announced(r, n, m.Text(), arguments)
		}
	}
	r.Visit(arguments)
	if b := n.Part("block"); b.OK() {
		blockGiven(r, b, n)
	}
}

// values are what arguments are.
func values(r *reader.Reader, arguments syntax.Node) (all []facts.ExprID) {
	for a := range arguments.NamedChildren() {
		switch a.Type() {
		case "comment", "block_argument":
		case "pair":
			all = append(all, r.Expr(facts.Expr{Kind: facts.Labelled, Name: a.Part("key").Text(), Base: r.Expression(a.Part("value")), At: a.Range()}))
		default:
			all = append(all, r.Expression(a))
		}
	}
	return all
}

// announced defines what a call in the body of a class or a file does.
func announced(r *reader.Reader, n syntax.Node, method string, arguments syntax.Node) {
	switch method {
	case "require", "require_relative", "load":
		if s := first(first(arguments)); s.Type() == "string_content" {
			imp := facts.Imported{Path: s.Text(), Name: "*", At: s.Range()}
			if method == "require_relative" {
				imp.Level = 1
			}
			r.Import(imp)
		}
	case "include", "prepend":
		owner := r.Owner(facts.TypeScope)
		if owner == facts.NoDef || !r.InType() {
			return
		}
		for c := range arguments.NamedChildren() {
			if e := r.Expression(c); e != facts.NoExpr && c.Type() != "self" {
				r.At(owner).Supers = append(r.At(owner).Supers, e)
			}
		}
	case "attr_reader", "attr_writer", "attr_accessor":
		symbols(r, n, arguments, facts.Property, -1)
	case "define_method", "alias_method":
		symbols(r, n, arguments, facts.Method, 1)
	}
}

// symbols defines what the symbols among the arguments name, at most so many
// of them; a negative number is all.
func symbols(r *reader.Reader, whole, arguments syntax.Node, kind facts.Kind, most int) {
	for c := range arguments.NamedChildren() {
		if c.Type() != "simple_symbol" || most == 0 {
			continue
		}
		most--
		d := r.Begin(whole, c, syntax.Node{}, kind)
		d.Name, d.At.Start = strings.TrimPrefix(d.Name, ":"), d.At.Start+1
		if kind == facts.Property { // what the variable of the object is
			d.Init = r.Expr(facts.Expr{Kind: facts.Name, Name: "@" + d.Name, At: d.At})
		}
		r.Def(d)
	}
}

// structure reads a constant that is a class made by Struct.new.
func structure(r *reader.Reader, n, id, value syntax.Node) bool {
	made := value.Part("receiver").Text()
	if value.Type() != "call" || made != "Struct" && made != "Data" {
		return false
	}
	owner := r.Def(r.Begin(n, id, syntax.Node{}, facts.Class))
	r.Visit(value.Part("receiver"))
	r.Enter(owner, facts.TypeScope, n, func() {
		symbols(r, value, value.Part("arguments"), facts.Property, -1)
		r.All(value.Part("block"))
	})
	withoutVariables(r, owner)
	return true
}

// callExpr knows that new makes a value of what it is called on.
func callExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	receiver, m := n.Part("receiver"), n.Part("method")
	if m.Text() == "new" && receiver.OK() {
		return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expression(receiver), At: n.Range()})
	}
	if m.Type() != "identifier" {
		return facts.NoExpr
	}
	e := facts.Expr{Kind: facts.Name, Name: m.Text(), At: m.Range()}
	if receiver.OK() {
		e.Kind, e.Base = facts.Member, r.Expression(receiver)
	}
	made := facts.Expr{Kind: facts.CallOf, Base: r.Expr(e), Args: values(r, n.Part("arguments")), At: n.Range()}
	if b := n.Part("block"); b.OK() { // what it makes of each
		var all []facts.ExprID
		last(r, b.Part("body"), &all, 0)
		made.Args = append(made.Args, r.Expr(facts.Expr{Kind: facts.Func, Args: []facts.ExprID{r.OneOf(all, b.Range())}, At: b.Range()}))
	}
	return r.Expr(made)
}
