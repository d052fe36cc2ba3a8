package golang

import (
	"strings"

	grammar "github.com/smacker/go-tree-sitter/golang"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// structure is how code of Go is built.
var structure = &lang.Structure{
	Grammar: syntax.NewGrammar(grammar.GetLanguage()),
	Parts: lang.PartsOf(map[lang.Part]string{
		lang.Value: `identifier selector_expression call_expression index_expression slice_expression binary_expression unary_expression
			parenthesized_expression composite_literal func_literal type_conversion_expression type_assertion_expression
			type_instantiation_expression int_literal float_literal imaginary_literal rune_literal interpreted_string_literal
			raw_string_literal true false nil iota`,
		lang.Loose:   "binary_expression unary_expression",
		lang.Plain:   `identifier binary_expression unary_expression parenthesized_expression func_literal int_literal float_literal imaginary_literal rune_literal interpreted_string_literal raw_string_literal true false nil iota escape_sequence`,
		lang.Short:   "binary_expression expression_case communication_case type_case",
		lang.Reach:   "selector_expression index_expression slice_expression type_assertion_expression",
		lang.Invokes: "call_expression",
		lang.Statement: `short_var_declaration var_declaration const_declaration type_declaration assignment_statement inc_statement dec_statement
			expression_statement return_statement go_statement defer_statement if_statement for_statement expression_switch_statement
			type_switch_statement select_statement labeled_statement fallthrough_statement break_statement continue_statement
			goto_statement block empty_statement send_statement`,
		lang.Block:     "block expression_case default_case type_case communication_case",
		lang.Function:  "func_literal function_declaration method_declaration",
		lang.Loop:      "for_statement",
		lang.Choice:    "expression_switch_statement type_switch_statement select_statement",
		lang.Branch:    "if_statement",
		lang.Holder:    "source_file",
		lang.Returns:   "return_statement",
		lang.Breaks:    "break_statement",
		lang.Continues: "continue_statement",
		lang.Jumps:     "goto_statement fallthrough_statement defer_statement labeled_statement",
		lang.Literal:   "raw_string_literal interpreted_string_literal",
		lang.Name:      "identifier type_identifier",
		lang.Member:    "selector_expression",
		lang.Brackets:  "parenthesized_expression",
		lang.Several:   "expression_list",
		lang.Composite: "composite_literal literal_value",
		lang.Alone:     "expression_statement",
		lang.Ends:      "expression_statement return_statement short_var_declaration assignment_statement",
		lang.Splice:    "variadic_argument",
		lang.Parameter: "parameter_declaration variadic_parameter_declaration",
		lang.Many:      "variadic_parameter_declaration",
	}),
	Once:    lang.WordsOf("initializer right"),
	Self:    lang.Words{},
	Numbers: lang.Words{},
	Own:     lang.WordsOf("recover"),
	Place:   isPlace,
	Writer:  writer{},
}

// isPlace says whether a node is written, or its address taken.
func isPlace(around, node syntax.Node) bool {
	switch around.Type() {
	case "assignment_statement", "short_var_declaration", "range_clause", "receive_statement":
		return node.FieldName() == "left"
	case "inc_statement", "dec_statement", "defer_statement", "go_statement":
		return true
	case "unary_expression":
		return around.Has("&")
	case "keyed_element": // the name of a field, or a key
		return node.Range().Start == around.Range().Start
	case "var_spec", "const_spec":
		return node.FieldName() == "name"
	case "selector_expression":
		return node.FieldName() == "field"
	}
	return false
}

// writer writes Go.
type writer struct{}

// Variable implements lang.Writer.
func (writer) Variable(v lang.Variable, value, _ string) string {
	switch {
	case value == "":
		return "var " + v.Name + " " + v.Type
	case v.Constant:
		return "const " + v.Name + " = " + value
	}
	return v.Name + " := " + value
}

// Routine implements lang.Writer.
func (w writer) Routine(r *lang.Routine) string {
	var b strings.Builder
	b.WriteString("func ")
	if r.Method {
		b.WriteString(r.Receiver + " ")
	}
	b.WriteString(r.Name)
	if !r.Method {
		b.WriteString(r.Generic)
	}
	var params, results []string
	for _, p := range r.Params {
		star := ""
		if p.Address {
			star = "*"
		}
		params = append(params, p.Name+" "+star+p.Type)
	}
	for _, p := range r.Results {
		results = append(results, p.Type)
	}
	b.WriteString("(" + strings.Join(params, ", ") + ")")
	switch {
	case r.Gives != "":
		b.WriteString(" " + r.Gives)
	case len(results) == 1:
		b.WriteString(" " + results[0])
	case len(results) > 1:
		b.WriteString(" (" + strings.Join(results, ", ") + ")")
	}
	b.WriteString(" {\n" + lang.Lines(r.Body, r.Indent) + "\n}")
	return b.String()
}

// Call implements lang.Writer.
func (writer) Call(r *lang.Routine) string {
	var args []string
	for _, p := range r.Params {
		if p.Address {
			args = append(args, "&"+p.Name)
		} else {
			args = append(args, p.Name)
		}
	}
	on, types := "", ""
	if r.Method {
		on = r.On + "."
	} else if len(r.Types) > 0 {
		types = "[" + strings.Join(r.Types, ", ") + "]"
	}
	return on + r.Name + types + "(" + strings.Join(args, ", ") + ")"
}

// Take implements lang.Writer.
func (w writer) Take(r *lang.Routine) string {
	call := w.Call(r)
	switch {
	case r.Returns && r.Gives != "":
		return "return " + call
	case len(r.Results) == 0:
		return call
	}
	fresh := 0
	for _, v := range r.Results {
		if v.New {
			fresh++
		}
	}
	names := lang.NamesOf(r.Results)
	switch fresh {
	case 0:
		return names + " = " + call
	case len(r.Results):
		return names + " := " + call
	}
	var lines []string
	for _, v := range r.Results {
		if v.New {
			lines = append(lines, w.Variable(v, "", ""))
		}
	}
	return strings.Join(append(lines, names+" = "+call), "\n")
}

// Return implements lang.Writer.
func (writer) Return(values []lang.Variable, _ string) string {
	return "return " + lang.NamesOf(values)
}

// Argument implements lang.Writer.
func (writer) Argument(string, string) string { return "" }

// Wrap implements lang.Writer.
func (writer) Wrap(statements, _, indent string) string {
	return "{\n" + lang.Lines(statements, indent) + "\n}"
}

// Blank implements lang.Writer.
func (writer) Blank(bool) int { return 1 }
