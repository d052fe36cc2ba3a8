// Package scala reads the facts of Scala files.
package scala

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/smacker/go-tree-sitter/scala"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Scala"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(scala.GetLanguage()), Rules: rules, Signs: signs, Ease: ease})

var part, first, last = reader.Part, reader.Nth(0), reader.Nth(-1)

var rules = reader.Rules{
	"identifier":             identifier(),
	"operator_identifier":    reader.Name(),
	"type_identifier":        reader.TypeName(),
	"stable_identifier":      reader.Member(first, last),
	"stable_type_identifier": reader.Member(first, last),
	"projected_type":         reader.Member(part("type"), part("selector")),
	"wildcard":               {Visit: func(*reader.Reader, syntax.Node) {}, Expr: placeholder},
	"comment":                reader.Nothing(),
	"block_comment":          reader.Nothing(),

	"field_expression":               member(),
	"call_expression":                {Visit: call, Call: curried, Expr: reader.Invocation(part("function"), part("arguments")).Expr},
	"generic_function":               genericFunction(),
	"instance_expression":            {Visit: instance, Expr: reader.Creation(first).Expr},
	"assignment_expression":          reader.Assignment(part("left"), part("right")),
	"infix_expression":               {Visit: infix, Expr: infixExpr},
	"prefix_expression":              {Expr: reader.Same(last).Expr},
	"parenthesized_expression":       reader.Same(first),
	"ascription_expression":          reader.Cast(last, first),
	"if_expression":                  {Expr: oneOf("consequence", "alternative")},
	"match_expression":               {Visit: match},
	"lambda_expression":              reader.Do(lambda),
	"for_expression":                 reader.Do(forEach),
	"try_expression":                 {Expr: reader.Same(part("body")).Expr},
	"block":                          reader.Block(),
	"indented_block":                 reader.Block(),
	"case_block":                     reader.Do(cases),
	"indented_cases":                 reader.Do(cases),
	"case_clause":                    reader.Do(func(r *reader.Reader, n syntax.Node) { caseClause(r, n, facts.NoExpr) }),
	"interpolated_string_expression": {Visit: interpolated, Expr: reader.Literal("String").Expr},
	"string":                         reader.Literal("String"),
	"integer_literal":                reader.Literal("Int"),
	"floating_point_literal":         reader.Literal("Double"),
	"boolean_literal":                reader.Literal("Boolean"),
	"character_literal":              reader.Literal("Char"),
	"unit":                           reader.Literal("Unit"),

	"generic_type":            reader.Generic(part("type"), part("type_arguments")),
	"function_type":           {Visit: (*reader.Reader).UseType, Expr: functionType},
	"tuple_type":              {Visit: (*reader.Reader).UseType, Expr: tupleType},
	"compound_type":           reader.Type(first),
	"annotated_type":          reader.Type(first),
	"lazy_parameter_type":     reader.Type(last),
	"repeated_parameter_type": reader.ListOf(first),
	"annotation":              reader.Do(annotation),

	"package_clause":       reader.Do(packageClause),
	"package_object":       reader.Do(packageObject),
	"import_declaration":   reader.Do(imports),
	"export_declaration":   reader.Do(imports),
	"class_definition":     reader.Do(declares(facts.Class)),
	"trait_definition":     reader.Do(declares(facts.Trait)),
	"object_definition":    reader.Do(declares(facts.Class)),
	"enum_definition":      reader.Do(declares(facts.Enum)),
	"simple_enum_case":     reader.Do(enumCase),
	"full_enum_case":       reader.Do(enumCase),
	"type_definition":      reader.Do(typeDefinition),
	"function_definition":  reader.Do(function),
	"function_declaration": reader.Do(function),
	"val_definition":       reader.Do(value),
	"var_definition":       reader.Do(value),
	"val_declaration":      reader.Do(valueDeclaration),
	"var_declaration":      reader.Do(valueDeclaration),
	"given_definition":     reader.Do(given),
	"extension_definition": reader.Do(extension),
	"self_type":            reader.Do(selfType),
}

// identifier is a name; this and super are no nodes of their own.
func identifier() reader.Rule {
	rule := reader.Name()
	plain := rule
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		if !isSelf(n) {
			plain.Visit(r, n)
		}
	}
	rule.Call = func(r *reader.Reader, n syntax.Node, arguments int) {
		if !isSelf(n) {
			plain.Call(r, n, arguments)
		}
	}
	return rule
}

func isSelf(n syntax.Node) bool { return n.Text() == "this" || n.Text() == "super" }

// member is one of a value; behind the name of a type, this is that of the type.
func member() reader.Rule {
	rule := reader.Member(part("value"), part("field"))
	plain := rule
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		if isSelf(n.Part("field")) {
			r.UseType(n.Part("value"))
			return
		}
		plain.Visit(r, n)
	}
	return rule
}

// placeholder is the parameter of a function that is written with _ alone.
func placeholder(r *reader.Reader, n syntax.Node) facts.ExprID { return r.Given(n.Range(), 0) }

// call reads a call with one list of arguments, or with a block in its place.
func call(r *reader.Reader, n syntax.Node) {
	f, list := n.Part("function"), n.Part("arguments")
	r.Called(f, count(list))
	passed := list.NamedChildren()
	if list.Type() != "arguments" {
		passed = slices.Values([]syntax.Node{list})
	}
	r.Passing(r.Expression(f), passed, func(a syntax.Node) {
		if a.Type() == "assignment_expression" { // the name of a parameter, which is one of what is called
			r.Visit(a.Part("right"))
			return
		}
		r.Visit(a)
	})
}

// count is how many arguments a list has; a block is one.
func count(list syntax.Node) int {
	if list.Type() != "arguments" {
		return 1
	}
	return reader.Count(list)
}

// curried reads a call that is called once more.
func curried(r *reader.Reader, n syntax.Node, _ int) { call(r, n) }

// genericFunction is a function with type arguments.
func genericFunction() reader.Rule {
	rule := reader.Generic(part("function"), part("type_arguments"))
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		r.Visit(n.Part("function"))
		r.UseType(n.Part("type_arguments"))
	}
	return rule
}

// instance makes a value of a type, or one without a name that has members of its
// own.
func instance(r *reader.Reader, n syntax.Node) {
	t, list := first(n), n.Part("arguments")
	if t.Type() == "type_identifier" || t.Type() == "generic_type" {
		r.Called(t, reader.Count(list))
	} else {
		r.UseType(t)
	}
	for c := range n.NamedChildren() {
		switch {
		case c == t:
		case c.Type() == "template_body":
			r.In(facts.TypeScope, c.Range(), facts.NoDef, func() { r.All(c) })
		default:
			r.Visit(c)
		}
	}
}

// common are the operators that every number and every truth value has, of which
// no definition is looked for.
var common = strings.Fields("+ - * / % < > <= >= == != && || & | ^ << >> >>> -> :: += -= *= /=")

// infix calls the function whose name stands between two values.
func infix(r *reader.Reader, n syntax.Node) {
	left, op, right := n.Part("left"), n.Part("operator"), n.Part("right")
	text := op.Text()
	if slices.Contains(common, text) {
		if len(text) == 2 && text[1] == '=' && strings.IndexByte("+-*/", text[0]) >= 0 {
			r.Write(left, facts.ReadWrite)
		} else {
			r.Visit(left)
		}
		r.Visit(right)
		return
	}
	of, with := left, right
	if strings.HasSuffix(text, ":") {
		of, with = right, left
	}
	r.Visit(of)
	r.Builder.Call(text, op.Range(), r.Expression(of), 1)
	r.Passing(r.Expr(facts.Expr{Kind: facts.Member, Name: text, Base: r.Expression(of), At: op.Range()}), slices.Values([]syntax.Node{with}), r.Visit)
}

// infixExpr is what such a call gives.
func infixExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	left, op, right := n.Part("left"), n.Part("operator"), n.Part("right")
	text := op.Text()
	switch text {
	case "==", "!=", "<", ">", "<=", ">=", "&&", "||":
		return r.Expr(facts.Expr{Kind: facts.Literal, Name: "Boolean", At: n.Range()})
	}
	if slices.Contains(common, text) {
		return r.Expression(left)
	}
	if strings.HasSuffix(text, ":") {
		left, right = right, left
	}
	callee := r.Expr(facts.Expr{Kind: facts.Member, Name: text, Base: r.Expression(left), At: op.Range()})
	return r.Expr(facts.Expr{Kind: facts.CallOf, Base: callee, Args: []facts.ExprID{r.Expression(right)}, At: n.Range()})
}

// oneOf is the value of one of some parts.
func oneOf(parts ...string) func(r *reader.Reader, n syntax.Node) facts.ExprID {
	return func(r *reader.Reader, n syntax.Node) facts.ExprID {
		e := facts.Expr{Kind: facts.OneOf, At: n.Range()}
		for _, p := range parts {
			if v := r.Expression(n.Part(p)); v != facts.NoExpr {
				e.Args = append(e.Args, v)
			}
		}
		return r.Expr(e)
	}
}

// interpolated reads what stands between the braces of a string.
func interpolated(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c != n.Part("interpolator") {
			r.All(c)
		}
	}
}

func functionType(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.FuncOf, Base: r.Expression(n.Part("return_type")), At: n.Range()}
	for p := range n.Part("parameter_types").NamedChildren() {
		e.Args = append(e.Args, r.Expression(p))
	}
	return r.Expr(e)
}

func tupleType(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for p := range n.NamedChildren() {
		e.Args = append(e.Args, r.Expression(p))
	}
	return r.Expr(e)
}

func annotation(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c == n.Part("name") {
			r.UseType(c)
		} else {
			r.Visit(c)
		}
	}
}

// capital says whether a name in a pattern is that of something which is there
// already, as all are that begin with a capital.
func capital(name string) bool {
	c, _ := utf8.DecodeRuneInString(name)
	return unicode.IsUpper(c) || c == '`'
}
