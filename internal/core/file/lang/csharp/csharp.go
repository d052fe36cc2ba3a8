// Package csharp reads the facts of C# files.
package csharp

import (
	"github.com/smacker/go-tree-sitter/csharp"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "C#"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(csharp.GetLanguage()), Rules: rules, Signs: signs})

var part = reader.Part

var rules = reader.Rules{
	"identifier":         reader.Name(),
	"this":               reader.Self(),
	"base":               reader.Self(),
	"predefined_type":    reader.BuiltIn(),
	"implicit_type":      reader.Nothing(),
	"implicit_parameter": reader.Do(func(r *reader.Reader, n syntax.Node) { r.Local(n, n, facts.Parameter, facts.NoExpr, facts.NoExpr) }),
	"comment":            reader.Nothing(),
	"modifier":           reader.Nothing(),

	"member_access_expression":       memberAccess,
	"conditional_access_expression":  {Visit: conditional, Expr: reader.Same(reader.Nth(-1)).Expr},
	"qualified_name":                 typeMember,
	"alias_qualified_name":           typeMember,
	"invocation_expression":          {Visit: invoke, Expr: invoked},
	"object_creation_expression":     {Visit: creation, Expr: reader.Creation(part("type")).Expr},
	"assignment_expression":          reader.Assignment(part("left"), part("right")),
	"prefix_unary_expression":        reader.Update(reader.Nth(0), "++", "--"),
	"postfix_unary_expression":       reader.Update(reader.Nth(0), "++", "--"),
	"element_access_expression":      reader.Element(part("expression")),
	"parenthesized_expression":       reader.Same(reader.Nth(0)),
	"conditional_expression":         reader.Same(part("consequence")),
	"cast_expression":                reader.Cast(part("type"), part("value")),
	"as_expression":                  reader.Cast(part("right"), part("left")),
	"is_expression":                  reader.Cast(part("right"), part("left")),
	"typeof_expression":              reader.Type(part("type")),
	"await_expression":               {Expr: awaited},
	"generic_name":                   generic,
	"array_type":                     reader.ListOf(part("type")),
	"nullable_type":                  reader.Type(reader.Nth(0)),
	"type_argument_list":             reader.Type(reader.Nth(0)),
	"string_literal":                 reader.Literal("string"),
	"verbatim_string_literal":        reader.Literal("string"),
	"interpolated_string_expression": {Expr: reader.Literal("string").Expr},
	"integer_literal":                reader.Literal("int"),
	"real_literal":                   reader.Literal("double"),
	"boolean_literal":                reader.Literal("bool"),
	"argument":                       {Visit: argument, Expr: reader.Same(reader.Nth(-1)).Expr},
	"declaration_expression":         reader.Do(declared),
	"lambda_expression":              {Visit: lambda, Expr: given},
	"anonymous_method_expression":    reader.Do(lambda),
	"attribute": reader.Do(func(r *reader.Reader, n syntax.Node) {
		r.UseType(n.Part("name"))
		r.All(n.First("attribute_argument_list"))
	}),
	"attribute_argument": reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(reader.Nth(-1)(n)) }),
	"name_colon":         reader.Nothing(),
	"name_equals":        reader.Nothing(),
	"query_expression":   reader.Block(),
	"from_clause":        reader.Do(from),
	"let_clause":         reader.Do(from),
	"join_clause":        reader.Do(from),

	"using_directive":                   reader.Do(using),
	"namespace_declaration":             reader.Do(namespace),
	"file_scoped_namespace_declaration": reader.Do(func(r *reader.Reader, n syntax.Node) { r.SetPackage(n.Part("name").Text()) }),
	"class_declaration":                 declares(facts.Class),
	"record_declaration":                declares(facts.Class),
	"record_struct_declaration":         declares(facts.Struct),
	"struct_declaration":                declares(facts.Struct),
	"interface_declaration":             declares(facts.Interface),
	"enum_declaration":                  declares(facts.Enum),
	"enum_member_declaration":           reader.Do(enumMember),
	"delegate_declaration":              reader.Do(delegate),
	"method_declaration":                callable(facts.Method),
	"local_function_statement":          callable(facts.Function),
	"constructor_declaration":           callable(facts.Constructor),
	"destructor_declaration":            callable(facts.Method),
	"operator_declaration":              reader.Do(nameless),
	"conversion_operator_declaration":   reader.Do(nameless),
	"indexer_declaration":               reader.Do(nameless),
	"property_declaration":              reader.Do(property),
	"event_declaration":                 reader.Do(property),
	"field_declaration":                 reader.Do(func(r *reader.Reader, n syntax.Node) { variables(r, n, facts.Field) }),
	"event_field_declaration":           reader.Do(func(r *reader.Reader, n syntax.Node) { variables(r, n, facts.Event) }),
	"local_declaration_statement":       reader.Do(func(r *reader.Reader, n syntax.Node) { variables(r, n, facts.Variable) }),
	"variable_declaration":              reader.Do(func(r *reader.Reader, n syntax.Node) { variable(r, n, n, facts.Variable, false) }),
	"parameter":                         reader.Do(parameter),
	"parameter_list":                    reader.Do(parameters),
	"bracketed_parameter_list":          reader.Do(parameters),

	"block":                 reader.Block(),
	"for_statement":         reader.Block(),
	"foreach_statement":     reader.Do(forEach),
	"using_statement":       reader.Block(),
	"fixed_statement":       reader.Block(),
	"switch_section":        reader.Block(),
	"switch_expression_arm": reader.Block(),
	"catch_clause":          reader.Block(),
	"catch_declaration":     reader.Do(declared),
	"declaration_pattern":   reader.Do(declared),
	"recursive_pattern":     reader.Do(declared),
	"var_pattern":           reader.Do(declared),
	"subpattern":            reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(reader.Nth(-1)(n)) }),
	"type_pattern":          reader.Type(reader.Nth(0)),
	"labeled_statement":     reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(reader.Nth(-1)(n)) }),
	"goto_statement":        reader.Nothing(),
}
