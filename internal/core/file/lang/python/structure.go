package python

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// structure is how code of Python is built.
var structure = &lang.Structure{
	Grammar: grammar,
	Parts: lang.PartsOf(map[lang.Part]string{
		lang.Value: `identifier attribute subscript call binary_operator unary_operator not_operator boolean_operator comparison_operator
			parenthesized_expression list tuple dictionary set list_comprehension set_comprehension dictionary_comprehension
			generator_expression lambda conditional_expression await yield string concatenated_string integer float true false none named_expression ellipsis`,
		lang.Loose: `binary_operator unary_operator not_operator boolean_operator comparison_operator lambda conditional_expression await yield
			named_expression concatenated_string`,
		lang.Plain: `identifier binary_operator unary_operator not_operator boolean_operator comparison_operator parenthesized_expression lambda
			conditional_expression string string_start string_content string_end escape_sequence concatenated_string integer float true false none ellipsis tuple lambda_parameters`,
		lang.Short:   "boolean_operator conditional_expression elif_clause case_clause comparison_operator",
		lang.Reach:   "attribute subscript call",
		lang.Invokes: "call",
		lang.Statement: `expression_statement return_statement if_statement for_statement while_statement with_statement try_statement raise_statement
			pass_statement break_statement continue_statement delete_statement global_statement nonlocal_statement assert_statement import_statement
			import_from_statement future_import_statement function_definition class_definition decorated_definition match_statement print_statement exec_statement type_alias_statement`,
		lang.Block:     "block module",
		lang.Function:  "function_definition lambda",
		lang.Loop:      "for_statement while_statement list_comprehension set_comprehension dictionary_comprehension generator_expression",
		lang.Choice:    "",
		lang.Branch:    "if_statement try_statement match_statement",
		lang.Holder:    "module class_definition",
		lang.Returns:   "return_statement",
		lang.Throws:    "raise_statement",
		lang.Breaks:    "break_statement",
		lang.Continues: "continue_statement",
		lang.Jumps:     "yield global_statement nonlocal_statement import_statement import_from_statement",
		lang.Awaits:    "await",
		lang.Literal:   "string",
		lang.Name:      "identifier",
		lang.Member:    "attribute",
		lang.Brackets:  "parenthesized_expression",
		lang.Several:   "expression_list pattern_list",
		lang.Later:     "conditional_expression",
		lang.Untyped:   "lambda",
		lang.Alone:     "expression_statement",
		lang.Ends:      "expression_statement return_statement",
		lang.Tries:     "try_statement",
		lang.Clause:    "elif_clause except_clause except_group_clause case_clause",
		lang.Else:      "else_clause",
		lang.Finally:   "finally_clause",
		lang.Splice:    "list_splat dictionary_splat",
		lang.ByName:    "keyword_argument",
		lang.Parameter: `identifier default_parameter typed_parameter typed_default_parameter list_splat_pattern dictionary_splat_pattern
			keyword_separator positional_separator`,
		lang.Many: "list_splat_pattern dictionary_splat_pattern keyword_separator positional_separator",
	}),
	Once:    lang.WordsOf("right"),
	Self:    lang.Words{},
	Numbers: lang.Words{},
	Own:     lang.WordsOf("super locals __class__"),
	Place:   isPlace,
	Writer:  writer{},
}

// isPlace says whether a node is written, or is no value.
func isPlace(around, node syntax.Node) bool {
	switch around.Type() {
	case "assignment", "augmented_assignment", "for_statement", "for_in_clause":
		return node.FieldName() == "left" || node.FieldName() == "type"
	case "named_expression", "keyword_argument", "function_definition", "class_definition":
		return node.FieldName() == "name"
	case "attribute":
		return node.FieldName() == "attribute"
	case "as_pattern_target", "delete_statement", "global_statement", "nonlocal_statement", "parameters", "lambda_parameters", "decorator", "type", "pattern_list":
		return true
	}
	return false
}

// writer writes Python.
type writer struct{}

// Variable implements lang.Writer.
func (writer) Variable(v lang.Variable, value, _ string) string {
	if value == "" {
		value = "None"
	}
	return v.Name + " = " + value
}

// Routine implements lang.Writer.
func (writer) Routine(r *lang.Routine) string {
	var params []string
	if r.Method && !r.Static {
		params = append(params, r.On)
	}
	for _, p := range r.Params {
		if p.Type != "" {
			p.Name += ": " + p.Type
		}
		params = append(params, p.Name)
	}
	head := "def "
	if r.Awaits {
		head = "async def "
	}
	gives := ""
	if r.Gives != "" {
		gives = " -> " + r.Gives
	}
	return r.Marks + head + r.Name + "(" + strings.Join(params, ", ") + ")" + gives + ":\n" + lang.Lines(r.Body, r.Indent)
}

// Call implements lang.Writer.
func (writer) Call(r *lang.Routine) string {
	call := r.Name + "(" + lang.NamesOf(r.Params) + ")"
	if r.Method {
		call = r.On + "." + call
	}
	if r.Awaits {
		call = "await " + call
	}
	return call
}

// Take implements lang.Writer.
func (w writer) Take(r *lang.Routine) string {
	switch call := w.Call(r); {
	case r.Returns:
		return "return " + call
	case len(r.Results) > 0:
		return lang.NamesOf(r.Results) + " = " + call
	default:
		return call
	}
}

// Return implements lang.Writer.
func (writer) Return(values []lang.Variable, _ string) string {
	return "return " + lang.NamesOf(values)
}

// Argument implements lang.Writer.
func (writer) Argument(name, value string) string { return name + "=" + value }

// Wrap implements lang.Writer: there is always room for several where there is for one.
func (writer) Wrap(statements, _, _ string) string { return statements }

// Blank implements lang.Writer.
func (writer) Blank(method bool) int {
	if method {
		return 1
	}
	return 2
}
