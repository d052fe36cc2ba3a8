// Package java reads the facts of Java files.
package java

import (
	"github.com/smacker/go-tree-sitter/java"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Java"

var grammar = syntax.NewGrammar(java.GetLanguage())

var language = reader.New(reader.Language{Name: name, Grammar: grammar, Rules: rules, Signs: signs, Once: true, State: func() any { return &state{results: map[int]facts.ExprID{}} }})

// state is what is noted while a file is read.
type state struct {
	chosen  facts.ExprID         // what the switch around chooses by
	results map[int]facts.ExprID // what lambdas give back, by node
}

func stateOf(r *reader.Reader) *state { return r.State.(*state) }

var part = reader.Part

var rules = reader.Rules{
	"identifier":                     word,
	"type_identifier":                {Visit: word.Type, Type: word.Type, Expr: word.Expr, Anew: true},
	"this":                           reader.Self(),
	"super":                          reader.Self(),
	"field_access":                   reader.Member(part("object"), part("field")),
	"scoped_identifier":              {Visit: (*reader.Reader).All, Type: dotted, Expr: scoped, Anew: true},
	"scoped_type_identifier":         {Visit: dotted, Type: dotted, Expr: scoped, Anew: true},
	"generic_type":                   {Visit: useType, Expr: reader.Generic(reader.Nth(0), reader.Kind("type_arguments")).Expr, Anew: true},
	"array_type":                     {Visit: useType, Expr: reader.ListOf(reader.Nth(0)).Expr, Anew: true},
	"type_arguments":                 {Visit: useType},
	"wildcard":                       {Expr: firstKnown, Anew: true},
	"catch_type":                     {Expr: firstKnown, Anew: true},
	"annotated_type":                 {Expr: firstKnown, Anew: true},
	"integral_type":                  reader.BuiltIn(),
	"floating_point_type":            reader.BuiltIn(),
	"boolean_type":                   reader.BuiltIn(),
	"void_type":                      reader.BuiltIn(),
	"method_invocation":              {Visit: invocation, Expr: called},
	"object_creation_expression":     {Visit: creation, Expr: created},
	"assignment_expression":          {Visit: reader.Assignment(part("left"), part("right")).Visit, Expr: reader.First},
	"update_expression":              reader.Update(reader.Nth(0)),
	"parenthesized_expression":       {Expr: reader.First},
	"cast_expression":                {Expr: reader.Cast(part("type"), part("value")).Expr},
	"array_access":                   reader.Element(reader.Nth(0)),
	"instanceof_expression":          {Visit: instanceOf, Expr: reader.Literal("boolean").Expr},
	"method_reference":               {Visit: methodReference, Expr: referred},
	"lambda_expression":              {Visit: func(r *reader.Reader, n syntax.Node) { lambda(r, n, facts.NoExpr, nil) }, Expr: function},
	"array_creation_expression":      {Expr: newArray},
	"class_literal":                  {Expr: reader.Literal("Class").Expr},
	"unary_expression":               {Expr: unary},
	"binary_expression":              {Expr: binary},
	"ternary_expression":             {Expr: either},
	"null_literal":                   reader.Literal("null"),
	"string_literal":                 {Expr: reader.Literal("String").Expr},
	"text_block":                     reader.Literal("String"),
	"true":                           reader.Literal("boolean"),
	"false":                          reader.Literal("boolean"),
	"character_literal":              reader.Literal("char"),
	"decimal_integer_literal":        number("int", "long", 'l'),
	"hex_integer_literal":            number("int", "long", 'l'),
	"octal_integer_literal":          number("int", "long", 'l'),
	"binary_integer_literal":         number("int", "long", 'l'),
	"decimal_floating_point_literal": number("double", "float", 'f'),
	"hex_floating_point_literal":     number("double", "float", 'f'),

	"package_declaration": reader.Do(func(r *reader.Reader, n syntax.Node) {
		if id := n.First("scoped_identifier", "identifier"); id.OK() {
			r.SetPackage(id.Text())
		}
		for c := range n.NamedChildren() {
			if c.Type() == "marker_annotation" || c.Type() == "annotation" {
				r.Visit(c)
			}
		}
	}),
	"import_declaration":                  reader.Do(imported),
	"class_declaration":                   declares(facts.Class),
	"record_declaration":                  declares(facts.Class),
	"interface_declaration":               declares(facts.Interface),
	"annotation_type_declaration":         declares(facts.Interface),
	"enum_declaration":                    declares(facts.Enum),
	"enum_constant":                       reader.Do(enumConstant),
	"method_declaration":                  callable(facts.Method),
	"annotation_type_element_declaration": callable(facts.Method),
	"constructor_declaration":             callable(facts.Constructor),
	"compact_constructor_declaration":     callable(facts.Constructor),
	"field_declaration":                   variables(facts.Field),
	"constant_declaration":                variables(facts.Field),
	"local_variable_declaration":          variables(facts.Variable),
	"marker_annotation":                   {Visit: annotation, Type: annotation},
	"annotation":                          {Visit: annotation, Type: annotation},
	"element_value_pair":                  reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("value")) }),

	"block":                        reader.Block(),
	"switch_block":                 reader.Block(),
	"switch_rule":                  reader.Block(),
	"for_statement":                reader.Block(),
	"while_statement":              reader.Block(),
	"if_statement":                 reader.Block(),
	"try_statement":                reader.Block(),
	"try_with_resources_statement": reader.Block(),
	"catch_clause":                 reader.Block(),
	"enhanced_for_statement":       reader.Do(forEach),
	"catch_formal_parameter":       reader.Do(caught),
	"resource":                     reader.Do(resource),
	"switch_expression":            reader.Do(choice),
	"switch_statement":             reader.Do(choice),
	"switch_label":                 reader.Do(label),
	"type_pattern":                 reader.Do(pattern),
	"record_pattern_component":     reader.Do(pattern),
	"return_statement":             reader.Do(returns),
	"labeled_statement":            reader.Do(labeled),
	"break_statement":              reader.Nothing(),
	"continue_statement":           reader.Nothing(),
	"line_comment":                 reader.Nothing(),
	"block_comment":                reader.Nothing(),
}

// word is a name; var is none of a type.
var word = func() reader.Rule {
	rule := reader.Name()
	use := rule.Type
	rule.Type = func(r *reader.Reader, n syntax.Node) {
		if n.Text() != "var" {
			use(r, n)
		}
	}
	return rule
}()

// useType reads a node that is a type wherever it stands.
func useType(r *reader.Reader, n syntax.Node) { r.UseType(n) }

// returns keeps the values that a function gives back, in its scope.
func returns(r *reader.Reader, n syntax.Node) {
	r.All(n)
	for v := range n.NamedChildren() {
		r.Expression(v)
	}
}

func labeled(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() != "identifier" {
			r.Visit(c)
		}
	}
}

// choice reads a switch, the labels of which may be members of the type of what
// it chooses by.
func choice(r *reader.Reader, n syntax.Node) {
	s, condition := stateOf(r), n.Part("condition")
	r.Visit(condition)
	was := s.chosen
	s.chosen = r.Expression(condition)
	for c := range n.NamedChildren() {
		if c != condition {
			r.Visit(c)
		}
	}
	s.chosen = was
}

func label(r *reader.Reader, n syntax.Node) {
	chosen := stateOf(r).chosen
	for c := range n.NamedChildren() {
		if c.Type() == "identifier" && chosen != facts.NoExpr {
			r.Use(c.Text(), facts.Read, c.Range(), chosen)
			continue
		}
		r.Visit(c)
	}
}

func forEach(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		value, typ := n.Part("value"), n.Part("type")
		r.Visit(value)
		r.UseType(typ)
		t, init := facts.NoExpr, facts.NoExpr
		if typ.Text() == "var" {
			init = r.Expr(facts.Expr{Kind: facts.Each, Base: r.Expression(value), At: value.Range()})
		} else {
			t = r.Expression(typ)
		}
		variable(r, n.Part("name"), n.Part("name"), t, init, facts.Variable)
		r.Visit(n.Part("body"))
	})
}

func caught(r *reader.Reader, n syntax.Node) {
	variable(r, n, n.Part("name"), r.TypeOf(n.First("catch_type")), facts.NoExpr, facts.Variable)
}

func resource(r *reader.Reader, n syntax.Node) {
	value, typ := n.Part("value"), n.Part("type")
	r.UseType(typ)
	id := n.Part("name")
	if !id.OK() {
		r.All(n)
		return
	}
	t := facts.NoExpr
	if typ.Text() != "var" {
		t = r.Expression(typ)
	}
	r.Visit(value)
	variable(r, n, id, t, r.Expression(value), facts.Variable)
}
