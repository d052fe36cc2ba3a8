package java

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// structure is how code of Java is built.
var structure = &lang.Structure{
	Grammar: grammar,
	Parts: lang.PartsOf(map[lang.Part]string{
		lang.Value: `identifier field_access method_invocation array_access binary_expression unary_expression update_expression assignment_expression
			parenthesized_expression object_creation_expression array_creation_expression lambda_expression method_reference cast_expression
			instanceof_expression ternary_expression switch_expression this decimal_integer_literal hex_integer_literal octal_integer_literal
			binary_integer_literal decimal_floating_point_literal hex_floating_point_literal character_literal string_literal text_block
			true false null_literal class_literal`,
		lang.Loose: "binary_expression unary_expression update_expression assignment_expression cast_expression instanceof_expression ternary_expression lambda_expression switch_expression",
		lang.Plain: `identifier this binary_expression unary_expression parenthesized_expression instanceof_expression ternary_expression lambda_expression
			method_reference decimal_integer_literal hex_integer_literal octal_integer_literal binary_integer_literal decimal_floating_point_literal
			hex_floating_point_literal character_literal string_literal string_fragment multiline_string_fragment escape_sequence text_block true false null_literal class_literal
			type_identifier integral_type floating_point_type boolean_type`,
		lang.Short:   "binary_expression ternary_expression switch_block_statement_group switch_rule switch_label",
		lang.Reach:   "field_access array_access method_invocation",
		lang.Invokes: "method_invocation object_creation_expression",
		lang.Statement: `local_variable_declaration expression_statement if_statement for_statement enhanced_for_statement while_statement do_statement
			return_statement throw_statement break_statement continue_statement labeled_statement try_statement try_with_resources_statement
			synchronized_statement assert_statement yield_statement block class_declaration explicit_constructor_invocation switch_expression`,
		lang.Block:     "block constructor_body switch_block_statement_group",
		lang.Function:  "method_declaration constructor_declaration compact_constructor_declaration lambda_expression static_initializer",
		lang.Loop:      "for_statement enhanced_for_statement while_statement do_statement",
		lang.Choice:    "switch_expression",
		lang.Branch:    "if_statement try_statement",
		lang.Holder:    "class_body enum_body_declarations interface_body annotation_type_body",
		lang.Returns:   "return_statement",
		lang.Throws:    "throw_statement",
		lang.Breaks:    "break_statement",
		lang.Continues: "continue_statement",
		lang.Jumps:     "yield_statement labeled_statement explicit_constructor_invocation class_declaration",
		lang.Literal:   "text_block string_literal",
		lang.Name:      "identifier type_identifier",
		lang.Member:    "field_access",
		lang.Brackets:  "parenthesized_expression",
		lang.Untyped:   "lambda_expression method_reference",
		lang.Gives: `catch_formal_parameter resource lambda_expression inferred_parameters type_pattern instanceof_expression formal_parameter
			spread_parameter`,
		lang.Alone:     "expression_statement",
		lang.Ends:      "expression_statement return_statement throw_statement local_variable_declaration",
		lang.Tries:     "try_statement try_with_resources_statement",
		lang.Clause:    "catch_clause",
		lang.Finally:   "finally_clause",
		lang.Nothing:   "null_literal",
		lang.Delegates: "explicit_constructor_invocation",
		lang.Parameter: "formal_parameter spread_parameter",
		lang.Many:      "spread_parameter",
	}),
	Once:    lang.WordsOf("init value"),
	Self:    lang.WordsOf("this super"),
	Numbers: lang.WordsOf("byte short char int long float double"),
	Own:     lang.WordsOf(""),
	Place:   isPlace,
	Type:    typeOf,
	Writer:  writer{},
}

// typeOf is the type of an expression, by the rules of the language for what is declared; "" where it is not known.
func typeOf(n syntax.Node, declared func(syntax.Node) string) string {
	of := func(n syntax.Node) string { return typeOf(n, declared) }
	switch n.Type() {
	case "identifier":
		return declared(n)
	case "field_access":
		return declared(n.Part("field"))
	case "method_invocation":
		return declared(n.Part("name"))
	case "decimal_integer_literal", "hex_integer_literal", "octal_integer_literal", "binary_integer_literal":
		if strings.HasSuffix(strings.ToLower(n.Text()), "l") {
			return "long"
		}
		return "int"
	case "decimal_floating_point_literal", "hex_floating_point_literal":
		if strings.HasSuffix(strings.ToLower(n.Text()), "f") {
			return "float"
		}
		return "double"
	case "character_literal":
		return "char"
	case "string_literal", "text_block":
		return "String"
	case "true", "false", "instanceof_expression":
		return "boolean"
	case "parenthesized_expression":
		for c := range n.NamedChildren() {
			return of(c)
		}
	case "cast_expression":
		return n.Part("type").Text()
	case "object_creation_expression":
		if t := n.Part("type").Text(); !strings.Contains(t, "<>") {
			return t
		}
	case "array_access":
		if element, ok := strings.CutSuffix(of(n.Part("array")), "[]"); ok {
			return element
		}
	case "array_creation_expression":
		dims := strings.Count(n.Text()[:strings.IndexAny(n.Text()+"{", "{")], "[")
		return n.Part("type").Text() + strings.Repeat("[]", dims)
	case "unary_expression":
		if n.Has("!") {
			return "boolean"
		}
		for c := range n.NamedChildren() {
			return promoted(of(c), "int")
		}
	case "ternary_expression":
		if a, b := of(n.Part("consequence")), of(n.Part("alternative")); a == b {
			return a
		}
	case "binary_expression":
		return operated(n, of(n.Part("left")), of(n.Part("right")))
	}
	return ""
}

// operated is the type of what an operator makes of two types.
func operated(n syntax.Node, a, b string) string {
	switch {
	case n.Has("&&") || n.Has("||") || n.Has("==") || n.Has("!=") || n.Has("<") || n.Has(">") || n.Has("<=") || n.Has(">="):
		return "boolean"
	case n.Has("+") && (a == "String" || b == "String"):
		return "String"
	case n.Has("<<") || n.Has(">>") || n.Has(">>>"):
		return promoted(a, "int")
	case (n.Has("&") || n.Has("|") || n.Has("^")) && a == "boolean" && b == "boolean":
		return "boolean"
	}
	return promoted(a, b)
}

// promoted is the type in which two numbers are reckoned; "" if they are not both numbers.
func promoted(a, b string) string {
	rank := map[string]int{"byte": 1, "short": 1, "char": 1, "int": 1, "long": 2, "float": 3, "double": 4}
	x, y := rank[a], rank[b]
	if x == 0 || y == 0 {
		return ""
	}
	return [...]string{"", "int", "long", "float", "double"}[max(x, y)]
}

// isPlace says whether a node is written.
func isPlace(around, node syntax.Node) bool {
	switch around.Type() {
	case "assignment_expression":
		return node.FieldName() == "left"
	case "update_expression":
		return true
	case "field_access":
		return node.FieldName() == "field"
	case "method_invocation", "variable_declarator", "enhanced_for_statement", "catch_formal_parameter", "resource":
		return node.FieldName() == "name"
	case "method_reference":
		return true
	}
	return false
}

// writer writes Java.
type writer struct{}

// Variable implements lang.Writer.
func (writer) Variable(v lang.Variable, value, end string) string {
	t := v.Type
	if t == "" {
		t = "var"
	}
	if value == "" {
		return t + " " + v.Name + ";"
	}
	return t + " " + v.Name + " = " + value + ";"
}

// Routine implements lang.Writer.
func (writer) Routine(r *lang.Routine) string {
	var b strings.Builder
	b.WriteString("private ")
	if r.Static {
		b.WriteString("static ")
	}
	if r.Generic != "" {
		b.WriteString(r.Generic + " ")
	}
	switch {
	case r.Gives != "":
		b.WriteString(r.Gives)
	case len(r.Results) == 1:
		b.WriteString(r.Results[0].Type)
	default:
		b.WriteString("void")
	}
	var params []string
	for _, p := range r.Params {
		params = append(params, p.Type+" "+p.Name)
	}
	b.WriteString(" " + r.Name + "(" + strings.Join(params, ", ") + ")")
	if r.Throws != "" {
		b.WriteString(" " + r.Throws)
	}
	b.WriteString(" {\n" + lang.Lines(r.Body, r.Indent) + "\n}")
	return b.String()
}

// Call implements lang.Writer.
func (writer) Call(r *lang.Routine) string { return r.Name + "(" + lang.NamesOf(r.Params) + ")" }

// Take implements lang.Writer.
func (w writer) Take(r *lang.Routine) string {
	call := w.Call(r)
	switch {
	case r.Returns && r.Gives != "" && r.Gives != "void":
		return "return " + call + ";"
	case len(r.Results) == 1 && r.Results[0].New:
		return w.Variable(r.Results[0], call, ";")
	case len(r.Results) == 1:
		return r.Results[0].Name + " = " + call + ";"
	}
	return call + ";"
}

// Return implements lang.Writer.
func (writer) Return(values []lang.Variable, _ string) string {
	return "return " + lang.NamesOf(values) + ";"
}

// Argument implements lang.Writer.
func (writer) Argument(string, string) string { return "" }

// Wrap implements lang.Writer.
func (writer) Wrap(statements, value, indent string) string {
	if value != "" {
		statements += "\nreturn " + value + ";"
	}
	return "{\n" + lang.Lines(statements, indent) + "\n}"
}

// Blank implements lang.Writer.
func (writer) Blank(bool) int { return 1 }
