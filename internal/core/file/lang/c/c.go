// Package c reads the facts of C and C++ files.
package c

import (
	"bytes"
	"context"
	"regexp"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// plusWords are words with which a line may begin that only C++ has, plusLine, plusEnum and plusPath what has to follow.
var (
	plusWords = [][]byte{[]byte("class"), []byte("namespace"), []byte("template"), []byte("using"), []byte("public:"), []byte("private:"), []byte("protected:"), []byte("virtual")}
	plusLine  = regexp.MustCompile(`^(class\s+\w|namespace\s+\w|namespace\s*\{|template\s*<|using\s+\w|public:|private:|protected:|virtual\s)`)
	plusEnum  = regexp.MustCompile(`^enum\s+class\b`)
	plusPath  = regexp.MustCompile(`^[\w \t&*<>,:]*\w::~?\w+ *\(`)
)

// onlyPlus says whether something in a header is of C++ alone.
func onlyPlus(text []byte) bool {
	paths := bytes.Contains(text, []byte("::"))
	for line := range bytes.Lines(text) {
		line = bytes.TrimLeft(line, " \t\r\f\v")
		if slices.ContainsFunc(plusWords, func(w []byte) bool { return bytes.HasPrefix(line, w) }) && plusLine.Match(line) {
			return true
		}
		if bytes.HasPrefix(line, []byte("enum")) && plusEnum.Match(line) {
			return true
		}
		if paths && bytes.Contains(line, []byte("::")) && plusPath.Match(line) {
			return true
		}
	}
	return false
}

func header(ctx context.Context, text []byte) (*facts.File, error) {
	if onlyPlus(text) {
		return plus.Facts(ctx, text)
	}
	if f := tableOf(plainName, text); f != nil {
		return f, nil
	}
	return plain.Facts(ctx, text)
}

var part = reader.Part

var rules = reader.Rules{
	"identifier":           reader.Name(),
	"field_identifier":     reader.Name(),
	"namespace_identifier": reader.Name(),
	"type_identifier":      reader.TypeName(),
	"this":                 reader.Self(),
	"primitive_type":       reader.BuiltIn(),
	"sized_type_specifier": reader.BuiltIn(),
	"statement_identifier": reader.Nothing(),
	"comment":              reader.Nothing(),

	"field_expression":         member(),
	"qualified_identifier":     qualified(),
	"call_expression":          call(),
	"new_expression":           reader.Creation(part("type")),
	"assignment_expression":    reader.Assignment(part("left"), part("right")),
	"update_expression":        reader.Update(part("argument")),
	"subscript_expression":     reader.Element(part("argument")),
	"parenthesized_expression": reader.Same(reader.Nth(0)),
	"pointer_expression":       reader.Same(part("argument")),
	"conditional_expression":   reader.Same(part("consequence")),
	"cast_expression":          reader.Cast(part("type"), part("value")),
	"compound_literal_expression": {
		Visit: func(r *reader.Reader, n syntax.Node) {
			r.UseType(n.Part("type"))
			initializer(r, n.Part("value"), r.Expression(n))
		},
		Expr: reader.Cast(part("type"), part("value")).Expr,
	},
	"template_function":  reader.Generic(part("name"), part("arguments")),
	"template_method":    reader.Generic(part("name"), part("arguments")),
	"template_type":      reader.Generic(part("name"), part("arguments")),
	"type_descriptor":    reader.Type(part("type")),
	"dependent_type":     reader.Type(reader.Nth(0)),
	"dependent_name":     qualified(),
	"decltype":           {Type: (*reader.Reader).All, Expr: typeOfValue},
	"string_literal":     reader.Literal(textType),
	"raw_string_literal": reader.Literal(textType),
	"number_literal":     {Visit: reader.Nothing().Visit, Expr: numberType},
	"true":               reader.Literal("bool"),
	"false":              reader.Literal("bool"),
	"char_literal":       reader.Literal("char"),
	"initializer_list":   reader.Do(func(r *reader.Reader, n syntax.Node) { initializer(r, n, facts.NoExpr) }),

	"preproc_include":      reader.Do(include),
	"preproc_def":          reader.Do(macro),
	"preproc_function_def": reader.Do(macro),
	"preproc_defined":      reader.Do((*reader.Reader).All),
	"preproc_if":           reader.Do(conditional),
	"preproc_ifdef":        reader.Do(conditional),
	"preproc_elif":         reader.Do(conditional),
	"preproc_elifdef":      reader.Do(conditional),

	"function_definition":            reader.Do(func(r *reader.Reader, n syntax.Node) { function(r, n, n, syntax.Node{}) }),
	"declaration":                    reader.Do(func(r *reader.Reader, n syntax.Node) { declaration(r, n, n, syntax.Node{}) }),
	"field_declaration":              reader.Do(func(r *reader.Reader, n syntax.Node) { declaration(r, n, n, syntax.Node{}) }),
	"parameter_declaration":          reader.Do(parameter),
	"optional_parameter_declaration": reader.Do(parameter),
	"variadic_parameter_declaration": reader.Do(parameter),
	"type_definition":                reader.Do(typedef),
	"struct_specifier":               specifier(facts.Struct),
	"class_specifier":                specifier(facts.Class),
	"union_specifier":                specifier(facts.Union),
	"enum_specifier":                 {Visit: enum, Type: enum, Expr: specified},
	"compound_statement":             reader.Block(),
	"for_statement":                  reader.Block(),
	"for_range_loop":                 reader.Do(forRange),
	"if_statement":                   reader.Block(),
	"while_statement":                reader.Block(),
	"switch_statement":               reader.Block(),
	"catch_clause":                   reader.Block(),
	"labeled_statement":              reader.Do(label),
	"goto_statement":                 reader.Do(goTo),

	"namespace_definition":       reader.Do(namespace),
	"namespace_alias_definition": reader.Do(namespaceAlias),
	"using_declaration":          reader.Do(using),
	"alias_declaration":          reader.Do(func(r *reader.Reader, n syntax.Node) { alias(r, n, n, syntax.Node{}) }),
	"template_declaration":       reader.Do(template),
	"lambda_expression":          reader.Do(lambda),
	"field_initializer":          reader.Do(fieldInitializer),
	"friend_declaration":         reader.Do(friend),
	"concept_definition":         reader.Do(concept),
}

// include notes a header as something that brings in all its names.
func include(r *reader.Reader, n syntax.Node) {
	p := n.Part("path")
	if t := p.Text(); len(t) > 2 && (t[0] == '"' || t[0] == '<') {
		at := p.Range()
		at.Start, at.End = at.Start+1, at.End-1
		r.Import(facts.Imported{Path: t[1 : len(t)-1], Name: "*", At: at})
	}
}

func macro(r *reader.Reader, n syntax.Node) {
	d := r.Begin(n, n.Part("name"), syntax.Node{}, facts.Macro)
	if d.Name == "" {
		return
	}
	var id facts.DefID
	r.Inner(0, func() { id = r.Def(d) }) // it is known wherever it stands, and belongs to nothing
	list := n.Part("parameters")
	if !list.OK() {
		return
	}
	r.At(id).Parameters = 1 + reader.Count(list)
	r.Enter(id, facts.FunctionScope, n, func() {
		params := map[string]bool{}
		for p := range list.NamedChildren() {
			if p.Type() == "identifier" {
				r.Local(p, p, facts.Parameter, facts.NoExpr, facts.NoExpr)
				params[p.Text()] = true
			}
		}
		replaced(r, n.Part("value").Range(), params)
	})
}

// piece is what the preprocessor takes as one in the body of a macro: a comment, a text, or a word.
var piece = regexp.MustCompile(`(?s)/\*.*?\*/|//[^\n]*|"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*'|[0-9][\w.]*|[A-Za-z_]\w*`)

// replaced notes where the preprocessor puts arguments into the body of a macro: wherever the word stands, whatever else it
// could mean there.
func replaced(r *reader.Reader, body place.Range, params map[string]bool) {
	for _, at := range piece.FindAllIndex(body.In(r.Text), -1) {
		w := place.Range{Start: body.Start + uint32(at[0]), End: body.Start + uint32(at[1])}
		if name := string(w.In(r.Text)); params[name] {
			r.Use(name, facts.Read, w, facts.NoExpr)
		}
	}
}

func label(r *reader.Reader, n syntax.Node) {
	if id := n.Part("label"); id.OK() {
		// Functions are where labels are known, so one further on counts too.
		r.Inner(r.Enclosing(facts.FunctionScope), func() {
			r.Def(facts.Def{Name: id.Text() + ":", Kind: facts.Label, At: id.Range(), Full: n.Range(), Head: id.Range()})
		})
	}
	for c := range n.NamedChildren() {
		if !labelledDeclaration(r, c) {
			r.Visit(c)
		}
	}
}

// labelledDeclaration reads Hut *hut = found; behind a label, which the grammar takes for a product that is given a value, and
// says whether it did.
func labelledDeclaration(r *reader.Reader, n syntax.Node) bool {
	set := n.First("assignment_expression")
	left := set.Part("left")
	id, t := left.Part("right"), left.Part("left")
	if n.Type() != "expression_statement" || left.Type() != "binary_expression" || !left.Has("*") || id.Type() != "identifier" ||
		t.Type() != "identifier" && t.Type() != "qualified_identifier" {
		return false
	}
	r.UseType(t)
	value := set.Part("right")
	r.Visit(value)
	of := r.Expression(t)
	r.Local(n, id, facts.Variable, of, facts.NoExpr)
	return true
}

func goTo(r *reader.Reader, n syntax.Node) {
	if id := n.Part("label"); id.OK() {
		r.Use(id.Text()+":", facts.Read, id.Range(), facts.NoExpr)
	}
}

// initializer reads a list of values between braces, in which members may be
// named.
func initializer(r *reader.Reader, n syntax.Node, value facts.ExprID) {
	element := func(at syntax.Node) facts.ExprID {
		if value == facts.NoExpr {
			return value
		}
		return r.Expr(facts.Expr{Kind: facts.Index, Base: value, At: at.Range()})
	}
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "initializer_list":
			initializer(r, c, element(c))
		case "initializer_pair":
			pair(r, c, value, element)
		default:
			r.Visit(c)
		}
	}
}

// pair reads a value for a member that is named, or for a place in a list.
func pair(r *reader.Reader, n syntax.Node, value facts.ExprID, element func(syntax.Node) facts.ExprID) {
	inner := facts.NoExpr
	for d := range n.NamedChildren() {
		id := d
		switch d.Type() {
		case "field_designator":
			id = d.First("field_identifier")
			fallthrough
		case "field_identifier":
			if !id.OK() {
				continue
			}
			r.Use(id.Text(), facts.Write, id.Range(), value)
			if value != facts.NoExpr {
				inner = r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: value, At: id.Range()})
			}
		case "subscript_designator":
			r.Visit(d)
			inner = element(d)
		case "initializer_list":
			initializer(r, d, inner)
		default:
			r.Visit(d)
		}
	}
}
