// Package rust reads the facts of Rust files.
package rust

import (
	"strings"

	"github.com/smacker/go-tree-sitter/rust"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Rust"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(rust.GetLanguage()), Rules: rules, Signs: signs, Ease: ease})

var part = reader.Part

var rules = reader.Rules{
	"identifier":       reader.Name(),
	"field_identifier": reader.Name(),
	"type_identifier":  typeName,
	"self":             reader.Self(),
	"super":            reader.Self(),
	"crate":            reader.Self(),
	"primitive_type":   reader.BuiltIn(),
	"lifetime":         reader.Nothing(),
	"label":            reader.Nothing(),
	"line_comment":     reader.Nothing(),
	"block_comment":    reader.Nothing(),

	"field_expression":            reader.Member(part("value"), part("field")),
	"scoped_identifier":           reader.Member(part("path"), part("name")),
	"scoped_type_identifier":      reader.Member(part("path"), part("name")),
	"call_expression":             reader.Invocation(part("function"), part("arguments")),
	"generic_function":            reader.Generic(part("function"), part("type_arguments")),
	"generic_type":                reader.Generic(part("type"), part("type_arguments")),
	"generic_type_with_turbofish": reader.Generic(part("type"), part("type_arguments")),
	"assignment_expression":       reader.Assignment(part("left"), part("right")),
	"compound_assignment_expr":    reader.Assignment(part("left"), part("right")),
	"reference_expression":        reader.Same(part("value")),
	"parenthesized_expression":    reader.Same(reader.Nth(0)),
	"unary_expression":            {Write: reader.Same(reader.Nth(0)).Write, Expr: reader.Same(reader.Nth(0)).Expr},
	"try_expression":              {Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID { return awaited(r, n) }},
	"await_expression":            {Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID { return awaited(r, n) }},
	"index_expression":            reader.Element(reader.Nth(0)),
	"type_cast_expression":        reader.Cast(part("type"), part("value")),
	"struct_expression":           {Visit: structure, Expr: reader.Creation(part("name")).Expr},
	"closure_expression":          reader.Do(closure),
	"macro_invocation":            reader.Do(macroUse),
	"string_literal":              reader.Literal("str"),
	"raw_string_literal":          reader.Literal("str"),
	"integer_literal":             reader.Literal("i32"),
	"float_literal":               reader.Literal("f64"),
	"boolean_literal":             reader.Literal("bool"),
	"char_literal":                reader.Literal("char"),

	"reference_type": reader.Type(part("type")),
	"pointer_type":   reader.Type(part("type")),
	"dynamic_type":   reader.Type(part("trait")),
	"abstract_type":  reader.Type(part("trait")),
	"bracketed_type": reader.Type(reader.Nth(0)),
	"qualified_type": reader.Type(part("type")),
	"array_type":     reader.ListOf(part("element")),
	"tuple_type":     {Expr: tuple},
	"function_type":  {Expr: functionType},

	"use_declaration":          reader.Do(func(r *reader.Reader, n syntax.Node) { use(r, n, n.Part("argument"), syntax.Node{}, "") }),
	"extern_crate_declaration": reader.Do(externCrate),
	"mod_item":                 reader.Do(module),
	"struct_item":              declares(facts.Struct),
	"union_item":               declares(facts.Union),
	"enum_item":                declares(facts.Enum),
	"trait_item":               declares(facts.Trait),
	"type_item":                reader.Do(alias),
	"associated_type":          reader.Do(alias),
	"const_item":               value(facts.Constant),
	"static_item":              value(facts.Variable),
	"field_declaration":        value(facts.Field),
	"enum_variant":             reader.Do(variant),
	"impl_item":                reader.Do(implementation),
	"function_item":            reader.Do(function),
	"function_signature_item":  reader.Do(function),
	"macro_definition":         reader.Do(macro),
	"attribute_item":           reader.Do(attribute),
	"inner_attribute_item":     reader.Nothing(),

	"block":                       reader.Block(),
	"if_expression":               reader.Do(condition),
	"while_expression":            reader.Block(),
	"match_arm":                   reader.Do(matchArm),
	"for_expression":              reader.Do(forEach),
	"let_declaration":             reader.Do(let),
	"let_condition":               reader.Do(let),
	"shorthand_field_initializer": reader.Do((*reader.Reader).All),
}

// typeName is the name of a type, unless that is left open.
var typeName = func() reader.Rule {
	rule := reader.TypeName()
	named := rule
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		if n.Text() != "_" {
			named.Visit(r, n)
		}
	}
	rule.Type = rule.Visit
	return rule
}()

// awaited is a value that something holds or promises.
func awaited(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Awaited, Base: r.Expression(reader.Nth(0)(n)), At: n.Range()})
}

func tuple(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for c := range n.NamedChildren() {
		e.Args = append(e.Args, r.Expression(c))
	}
	return r.Expr(e)
}

func functionType(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.FuncOf, Base: r.Expression(n.Part("return_type")), At: n.Range()})
}

// structure makes a value and sets its fields.
func structure(r *reader.Reader, n syntax.Node) {
	t := n.Part("name")
	if t.Type() == "type_identifier" {
		r.Called(t, -1)
	} else {
		r.UseType(t)
	}
	made := facts.NoExpr
	for c := range n.Part("body").NamedChildren() {
		id := c.Part("field")
		if c.Type() != "field_initializer" || !id.OK() {
			r.Visit(c)
			continue
		}
		if made == facts.NoExpr {
			made = r.Expression(n)
		}
		r.Use(id.Text(), facts.Write, id.Range(), made)
		r.Visit(c.Part("value"))
	}
}

func closure(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		parameters(r, n.Part("parameters"))
		r.UseType(n.Part("return_type"))
		r.Visit(n.Part("body"))
	})
}

// macroUse reads the words handed to a macro as if they were an expression,
// which they mostly are.
func macroUse(r *reader.Reader, n syntax.Node) {
	m := n.Part("macro")
	if m.Type() == "identifier" {
		r.Called(m, -1)
	} else {
		r.Visit(m)
	}
	tokens(r, n.First("token_tree"))
}

// items are the words that announce a definition, as they do in what many
// macros are given.
var items = map[string]facts.Kind{"fn": facts.Function, "struct": facts.Struct, "enum": facts.Enum, "trait": facts.Trait, "union": facts.Union}

// keyword are words that are no names.
var keyword = map[string]bool{"_": true, "as": true, "async": true, "await": true, "break": true, "const": true, "continue": true, "dyn": true,
	"else": true, "extern": true, "for": true, "if": true, "impl": true, "in": true, "let": true, "loop": true, "match": true, "mod": true, "move": true,
	"mut": true, "pub": true, "ref": true, "return": true, "static": true, "type": true, "unsafe": true, "use": true, "where": true, "while": true}

func tokens(r *reader.Reader, n syntax.Node) {
	base, behind := facts.NoExpr, false // what the last word names, and whether a dot follows it
	var announced facts.Kind            // what the word in front says is defined
	for c := range n.Children() {
		kind := announced
		announced = items[c.Text()]
		if kind != facts.NoKind && c.Type() == "identifier" {
			r.Def(r.Begin(c, c, syntax.Node{}, kind))
			continue
		}
		switch c.Type() {
		case "identifier":
			if keyword[c.Text()] {
				continue
			}
			from := facts.NoExpr
			if behind {
				from = base
			}
			if !behind || from != facts.NoExpr {
				role := facts.Read
				if next := c.After(); next.Type() == "token_tree" && strings.HasPrefix(next.Text(), "(") {
					role = facts.Call
				}
				r.Use(c.Text(), role, c.Range(), from)
			}
			e := facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()}
			if from != facts.NoExpr {
				e.Kind, e.Base = facts.Member, from
			}
			base, behind = r.Expr(e), false
		case "self":
			base, behind = r.NameOf(c), false
		case ".", "::":
			behind = true
		case "token_tree":
			tokens(r, c)
			base, behind = facts.NoExpr, false
		default:
			base, behind = facts.NoExpr, false
		}
	}
}
