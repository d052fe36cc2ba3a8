// Package kotlin reads the facts of Kotlin files.
package kotlin

import (
	"regexp"

	"github.com/smacker/go-tree-sitter/kotlin"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "Kotlin"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(kotlin.GetLanguage()), Rules: rules, Signs: signs, Ease: ease})

var first, last = reader.Nth(0), reader.Nth(-1)

var rules = reader.Rules{
	"simple_identifier":       reader.Name(),
	"interpolated_identifier": reader.Name(),
	"type_identifier":         reader.TypeName(),
	"this_expression":         reader.Self(),
	"super_expression":        reader.Self(),
	"line_comment":            reader.Nothing(),
	"multiline_comment":       reader.Nothing(),
	"label":                   reader.Nothing(),

	"navigation_expression":          reader.Member(first, member),
	"call_expression":                {Visit: call, Expr: called},
	"constructor_invocation":         {Visit: construct, Expr: reader.Creation(first).Expr},
	"directly_assignable_expression": {Write: assignable},
	"assignment":                     reader.Assignment(first, last),
	"prefix_expression":              reader.Update(last, "++", "--"),
	"postfix_expression":             reader.Update(first, "++", "--"),
	"parenthesized_expression":       reader.Same(first),
	"elvis_expression":               {Expr: reader.Same(first).Expr},
	"indexing_expression":            reader.Element(first),
	"as_expression":                  reader.Cast(last, first),
	"check_expression":               reader.Cast(last, first),
	"type_test":                      reader.Type(first),
	"callable_reference":             reader.Do(callableReference),
	"infix_expression":               {Visit: infix, Expr: pair},
	"if_expression":                  {Expr: either},
	"value_argument":                 {Visit: func(r *reader.Reader, n syntax.Node) { r.Visit(last(n)) }, Expr: reader.Same(last).Expr},
	"lambda_literal":                 reader.Do(lambda),
	"anonymous_function":             reader.Do(lambda),
	"object_literal":                 reader.Do(objectLiteral),
	"string_literal":                 {Expr: reader.Literal("String").Expr},
	"integer_literal":                reader.Literal("Int"),
	"real_literal":                   reader.Literal("Double"),
	"boolean_literal":                reader.Literal("Boolean"),
	"character_literal":              reader.Literal("Char"),

	"user_type":       reader.Dotted("type_identifier", "type_arguments"),
	"type_projection": reader.Type(reader.Nth(-1)),
	"nullable_type":   reader.Type(first),
	"function_type":   {Visit: (*reader.Reader).UseType, Expr: functionType},
	"annotation":      reader.Do(annotation),

	"package_header":        reader.Do(func(r *reader.Reader, n syntax.Node) { r.SetPackage(n.First("identifier").Text()) }),
	"import_header":         reader.Do(imported),
	"class_declaration":     reader.Do(class),
	"object_declaration":    reader.Do(class),
	"companion_object":      reader.Do(companion),
	"enum_entry":            reader.Do(enumEntry),
	"type_alias":            reader.Do(alias),
	"function_declaration":  reader.Do(function),
	"secondary_constructor": reader.Do(constructor),
	"anonymous_initializer": reader.Do(func(r *reader.Reader, n syntax.Node) {
		r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() { r.All(n) })
	}),
	"property_declaration":         reader.Do(property),
	"getter":                       reader.Do(accessor),
	"setter":                       reader.Do(accessor),
	"parameter":                    reader.Do(parameter),
	"parameter_with_optional_type": reader.Do(parameter),

	"control_structure_body": reader.Block(),
	"for_statement":          reader.Do(forEach),
	"when_expression":        reader.Block(),
	"when_subject":           reader.Do(whenSubject),
	"catch_block":            reader.Do(catch),
}

var functionalInterface = regexp.MustCompile(`\bfun(\s+interface\b)`)

// ease hides from the grammar, which is older, that an interface is a
// functional one.
func ease(text []byte) ([]byte, []place.Range) {
	return functionalInterface.ReplaceAll(text, []byte("   $1")), nil
}

// member is the name behind the dot.
func member(n syntax.Node) syntax.Node {
	return n.First("navigation_suffix").First("simple_identifier")
}

func call(r *reader.Reader, n syntax.Node) {
	f, suffix := first(n), n.First("call_suffix")
	arguments := reader.Count(suffix.First("value_arguments"))
	if suffix.First("annotated_lambda").OK() {
		arguments++
	}
	r.Called(f, arguments)
	r.UseType(suffix.First("type_arguments"))
	for c := range suffix.NamedChildren() {
		switch c.Type() {
		case "type_arguments":
		case "annotated_lambda":
			given(r, c, f, values(r, suffix))
		default:
			r.Visit(c)
		}
	}
}

// values are what the arguments of a call are.
func values(r *reader.Reader, suffix syntax.Node) (all []facts.ExprID) {
	for a := range suffix.First("value_arguments").NamedChildren() {
		all = append(all, r.Expression(a))
	}
	return all
}

// called keeps a call with its arguments; a function behind it is the last of them.
func called(r *reader.Reader, n syntax.Node) facts.ExprID {
	suffix := n.First("call_suffix")
	e := facts.Expr{Kind: facts.CallOf, Base: r.Expression(first(n)), Args: values(r, suffix), At: n.Range()}
	if e.Base == facts.NoExpr {
		return facts.NoExpr
	}
	if t := suffix.First("type_arguments"); t.OK() {
		of := facts.Expr{Kind: facts.GenericOf, Base: e.Base, At: t.Range()}
		for c := range t.NamedChildren() {
			of.Args = append(of.Args, r.Expression(c))
		}
		e.Base = r.Expr(of)
	}
	if l := suffix.First("annotated_lambda").First("lambda_literal"); l.OK() {
		e.Args = append(e.Args, r.Expr(facts.Expr{Kind: facts.Func, Args: []facts.ExprID{r.Expression(last(l.First("statements")))}, At: l.Range()}))
	}
	return r.Expr(e)
}

// implied is the name of the only parameter of a function that names none.
const implied = "it"

// given reads a function behind a call, which gives its parameters their values.
func given(r *reader.Reader, n, callee syntax.Node, before []facts.ExprID) {
	l := n.First("lambda_literal")
	if !l.OK() {
		r.Visit(n)
		return
	}
	of := r.Expression(callee)
	value := func(part int, at syntax.Node) facts.ExprID {
		if of == facts.NoExpr || len(before) > 255 || part > 255 {
			return facts.NoExpr
		}
		return r.Expr(facts.Expr{Kind: facts.Given, Base: of, Args: before, Arg: uint8(len(before)), Part: uint8(part), At: at.Range()})
	}
	r.In(facts.FunctionScope, l.Range(), facts.NoDef, func() {
		params := l.First("lambda_parameters")
		if !params.OK() {
			at := l.Range()
			at.End = at.Start
			r.Def(facts.Def{Name: implied, Kind: facts.Parameter, At: at, Full: at, Head: at, Init: value(0, l)})
		}
		number := 0
		for p := range params.NamedChildren() {
			if id := p.First("simple_identifier"); p.Type() == "variable_declaration" && id.OK() && !p.First("user_type").OK() {
				r.Local(p, id, facts.Parameter, facts.NoExpr, value(number, p))
			} else {
				variables(r, p, facts.Parameter, facts.NoExpr)
			}
			number++
		}
		for c := range l.NamedChildren() {
			if c != params {
				r.Visit(c)
			}
		}
	})
}

// pair keeps the two values of a pair, and of others nothing.
func pair(r *reader.Reader, n syntax.Node) facts.ExprID {
	if reader.Nth(1)(n).Text() != "to" {
		return facts.NoExpr
	}
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for _, side := range []syntax.Node{first(n), last(n)} {
		v := r.Expression(side)
		if v != facts.NoExpr {
			v = r.Expr(facts.Expr{Kind: facts.TypeOf, Base: v, At: side.Range()})
		}
		e.Args = append(e.Args, v)
	}
	return r.Expr(e)
}

// either keeps one of the values of an if.
func either(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.OneOf, At: n.Range()}
	for c := range n.NamedChildren() {
		if c.Type() != "control_structure_body" {
			continue
		}
		v := last(c)
		if v.Type() == "statements" {
			v = last(v)
		}
		e.Args = append(e.Args, r.Expression(v))
	}
	return r.Expr(e)
}

// construct calls the constructor of a type.
func construct(r *reader.Reader, n syntax.Node) {
	t, arguments := n.First("user_type"), n.First("value_arguments")
	if id := first(t); id.Type() == "type_identifier" && len(names(t)) == 1 {
		r.Called(id, reader.Count(arguments))
		r.UseType(t.First("type_arguments"))
	} else {
		r.UseType(t)
	}
	r.Visit(arguments)
}

// assignable is a name with the members and elements that follow it, side by
// side.
func assignable(r *reader.Reader, n syntax.Node, role facts.Role) {
	base, then := facts.NoExpr, syntax.Node{}
	write := func(role facts.Role) {
		switch then.Type() {
		case "navigation_suffix":
			id := then.First("simple_identifier")
			r.MemberUse(id, role, base, -1)
			base = r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: base, At: id.Range()})
		case "indexing_suffix":
			r.All(then)
			base = r.Expr(facts.Expr{Kind: facts.Index, Base: base, At: then.Range()})
		case "":
		default:
			r.Write(then, role)
			base = r.Expression(then)
		}
	}
	for c := range n.NamedChildren() {
		write(facts.Read)
		then = c
	}
	write(role)
}

// callableReference is a function named by :: behind a type or a value.
func callableReference(r *reader.Reader, n syntax.Node) {
	base := facts.NoExpr
	for c := range n.NamedChildren() {
		if c.Type() == "simple_identifier" {
			r.Use(c.Text(), facts.Call, c.Range(), base)
			continue
		}
		r.Visit(c)
		base = r.Expression(c)
	}
}

// infix calls the function whose name stands between two values.
func infix(r *reader.Reader, n syntax.Node) {
	i, base := 0, facts.NoExpr
	for c := range n.NamedChildren() {
		if i == 1 && c.Type() == "simple_identifier" {
			r.Builder.Call(c.Text(), c.Range(), base, 1)
		} else {
			r.Visit(c)
			base = r.Expression(c)
		}
		i++
	}
}

func lambda(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		for c := range n.NamedChildren() {
			if c.Type() == "lambda_parameters" {
				variables(r, c, facts.Parameter, facts.NoExpr)
				continue
			}
			r.Visit(c)
		}
	})
}

func objectLiteral(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "class_body" {
			r.In(facts.TypeScope, c.Range(), facts.NoDef, func() { r.All(c) })
			continue
		}
		r.Visit(c)
	}
}

func annotation(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "user_type" {
			r.UseType(c)
			continue
		}
		r.Visit(c)
	}
}

// names are the parts of a type's name between its dots.
func names(n syntax.Node) []syntax.Node { return reader.Named(n, "type_identifier") }

func functionType(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.FuncOf, Base: r.Expression(last(n)), At: n.Range()})
}
