package javascript

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// structure is how code is built, by a grammar.
func structure(g *syntax.Grammar, typed bool) *lang.Structure {
	s := &lang.Structure{Grammar: g, Parts: parts, Once: lang.WordsOf("initializer right"), Self: lang.WordsOf("this super"), Numbers: lang.Words{}, Own: lang.WordsOf("arguments"), Place: isPlace, Writer: writer{typed}}
	if typed {
		s.Around, s.Typed, s.Plainly = untyped, true, plainly
	}
	return s
}

// plainly is the type of a number, a text, a truth.
func plainly(n syntax.Node) string {
	switch n.Type() {
	case "number":
		return "number"
	case "string", "template_string":
		return "string"
	case "true", "false":
		return "boolean"
	}
	return ""
}

// untyped says whether a value is a function whose parameters have no types of their own, or an object or list with one in
// it.
func untyped(n syntax.Node) bool {
	switch n.Type() {
	case "arrow_function", "function", "function_expression":
		if n.Part("parameter").OK() {
			return true
		}
		for p := range n.Part("parameters").NamedChildren() {
			if p.Type() != "comment" && !p.Part("type").OK() && !p.Part("value").OK() {
				return true
			}
		}
		return false
	case "object", "array", "pair", "parenthesized_expression":
		for c := range n.NamedChildren() {
			if untyped(c) {
				return true
			}
		}
	}
	return false
}

var parts = lang.PartsOf(map[lang.Part]string{
	lang.Value: `identifier member_expression subscript_expression call_expression new_expression binary_expression unary_expression update_expression
		augmented_assignment_expression assignment_expression parenthesized_expression array object arrow_function function function_expression generator_function
		class template_string ternary_expression await_expression yield_expression as_expression satisfies_expression non_null_expression
		number string regex true false null undefined this jsx_element jsx_self_closing_element jsx_fragment`,
	lang.Loose: `binary_expression unary_expression update_expression assignment_expression augmented_assignment_expression ternary_expression
		arrow_function await_expression yield_expression as_expression satisfies_expression object function function_expression class new_expression`,
	lang.Plain: `identifier this binary_expression unary_expression parenthesized_expression ternary_expression arrow_function function function_expression
		number string string_fragment escape_sequence regex regex_pattern regex_flags true false null undefined`,
	lang.Short:   "binary_expression ternary_expression switch_case",
	lang.Reach:   "member_expression subscript_expression non_null_expression call_expression",
	lang.Invokes: "call_expression new_expression",
	lang.Statement: `lexical_declaration variable_declaration expression_statement if_statement for_statement for_in_statement while_statement do_statement
		switch_statement try_statement return_statement throw_statement break_statement continue_statement labeled_statement statement_block
		function_declaration generator_function_declaration class_declaration empty_statement with_statement debugger_statement`,
	lang.Block: "statement_block program switch_case switch_default",
	lang.Function: `function_declaration generator_function_declaration function function_expression generator_function arrow_function method_definition
		class_static_block`,
	lang.Loop:      "for_statement for_in_statement while_statement do_statement",
	lang.Choice:    "switch_statement",
	lang.Branch:    "if_statement try_statement",
	lang.Holder:    "program class_body",
	lang.Returns:   "return_statement",
	lang.Throws:    "throw_statement",
	lang.Breaks:    "break_statement",
	lang.Continues: "continue_statement",
	lang.Jumps:     "labeled_statement yield_expression with_statement",
	lang.Awaits:    "await_expression",
	lang.Literal:   "template_string string jsx_text",
	lang.Optional:  "optional_parameter",
	lang.Name:      "identifier type_identifier",
	lang.Member:    "member_expression",
	lang.Brackets:  "parenthesized_expression",
	lang.Open:      "arrow_function",
	lang.Alone:     "expression_statement",
	lang.Ends:      "expression_statement return_statement lexical_declaration variable_declaration throw_statement",
	lang.Tries:     "try_statement",
	lang.Clause:    "catch_clause",
	lang.Else:      "else_clause",
	lang.Finally:   "finally_clause",
	lang.Splice:    "spread_element",
	lang.Parameter: "required_parameter optional_parameter identifier assignment_pattern rest_pattern object_pattern array_pattern",
	lang.Many:      "rest_pattern",
})

// isPlace says whether a node is written, or is no value.
func isPlace(around, node syntax.Node) bool {
	switch around.Type() {
	case "assignment_expression", "augmented_assignment_expression", "for_in_statement":
		return node.FieldName() == "left"
	case "update_expression":
		return true
	case "unary_expression":
		return around.Has("delete") || around.Has("typeof")
	case "member_expression":
		return node.FieldName() == "property"
	case "variable_declarator":
		return node.FieldName() == "name"
	case "call_expression", "new_expression": // what it is called on goes with it
		return node.FieldName() == "function" && node.Type() == "member_expression" || node.FieldName() == "constructor"
	}
	return false
}

// writer writes JavaScript, or TypeScript if it is typed.
type writer struct{ typed bool }

// Variable implements lang.Writer.
func (writer) Variable(v lang.Variable, value, end string) string {
	switch {
	case value == "" && v.Type != "":
		return "let " + v.Name + ": " + v.Type + end
	case value == "":
		return "let " + v.Name + end
	case v.Changes:
		return "let " + v.Name + " = " + value + end
	}
	return "const " + v.Name + " = " + value + end
}

// Routine implements lang.Writer.
func (w writer) Routine(r *lang.Routine) string {
	var b strings.Builder
	if r.Method && r.Static {
		b.WriteString("static ")
	}
	if r.Awaits {
		b.WriteString("async ")
	}
	if !r.Method {
		b.WriteString("function ")
	}
	var params []string
	for _, p := range r.Params {
		if w.typed && p.Type != "" {
			p.Name += ": " + p.Type
		}
		params = append(params, p.Name)
	}
	gives := ""
	if w.typed && r.Gives != "" {
		gives = ": " + r.Gives
	}
	b.WriteString(r.Name + r.Generic + "(" + strings.Join(params, ", ") + ")" + gives + " {\n" + lang.Lines(r.Body, r.Indent) + "\n}")
	return b.String()
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
	call := w.Call(r)
	if r.Returns {
		return "return " + call + r.End
	}
	if len(r.Results) == 0 {
		return call + r.End
	}
	fresh, changes := 0, false
	for _, v := range r.Results {
		if v.New {
			fresh, changes = fresh+1, changes || v.Changes
		}
	}
	names := lang.NamesOf(r.Results)
	if len(r.Results) > 1 {
		names = "[" + names + "]"
	}
	if fresh == len(r.Results) {
		word := "const "
		if changes {
			word = "let "
		}
		return word + names + " = " + call + r.End
	}
	var lines []string
	for _, v := range r.Results {
		if v.New {
			lines = append(lines, w.Variable(v, "", ";"))
		}
	}
	take := names + " = " + call + r.End
	if len(lines) == 0 && len(r.Results) > 1 && r.End == "" {
		take = ";" + take
	}
	return strings.Join(append(lines, take), "\n")
}

// Return implements lang.Writer.
func (w writer) Return(values []lang.Variable, end string) string {
	if len(values) > 1 && w.typed {
		return "return [" + lang.NamesOf(values) + "] as const" + end
	}
	if len(values) > 1 {
		return "return [" + lang.NamesOf(values) + "]" + end
	}
	return "return " + lang.NamesOf(values) + end
}

// Argument implements lang.Writer.
func (writer) Argument(string, string) string { return "" }

// Wrap implements lang.Writer.
func (writer) Wrap(statements, value, indent string) string {
	if value != "" {
		end := ""
		if strings.HasSuffix(statements, ";") {
			end = ";"
		}
		statements += "\nreturn " + value + end
	}
	return "{\n" + lang.Lines(statements, indent) + "\n}"
}

// Blank implements lang.Writer.
func (writer) Blank(bool) int { return 1 }
