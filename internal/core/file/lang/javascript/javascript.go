// Package javascript reads the facts of JavaScript and TypeScript files, with
// or without JSX. The grammars name most things alike, so the same rules serve all.
package javascript

import (
	"maps"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// extractor reads the facts of files in a language, by one of its grammars.
func extractor(name string, g *syntax.Grammar) lang.Extractor {
	l := reader.Language{Name: name, Grammar: g, Rules: rules, Signs: signs, Ease: ease, Once: true, State: func() any {
		return &state{typed: name == typescriptName, assigned: map[facts.DefID][]assigned{}, members: map[memberOf]bool{}, said: map[uint32]bool{}, giveBack: map[int][]syntax.Node{}}
	}}
	if name == typescriptName {
		l.Ease = easeTyped
	}
	return reader.New(l).Facts
}

// state is what is noted while a file is read.
type state struct {
	exported syntax.Node // the export statement around the next definition, if any
	// around are the functions around, the innermost last.
	around []giving
	// giveBack are the values that functions give back which do not say of which type, by the nodes of these.
	giveBack map[int][]syntax.Node
	// assigned are the members that classes are given by assignments to this.
	assigned map[facts.DefID][]assigned
	// members are those that have been defined outside the type they belong to.
	members map[memberOf]bool
	// conditional is the scope in which infer defines a name.
	conditional facts.ScopeID
	typed       bool // members have to be declared
	// given is the value that is being assigned.
	given facts.ExprID
	// said are the types in comments whose names have been noted, by where they begin.
	said map[uint32]bool
	// until is where the statements end that are being read.
	until uint32
}

// giving is what is noted of a function while it is read.
type giving struct {
	node   int
	result facts.ExprID // the type that it says it gives back
	values []facts.ExprID
}

// memberOf is a member of a type, or of a function or a variable used like one.
type memberOf struct {
	scope           facts.ScopeID
	container, name string
}

// assigned is a member of this that a value is assigned to.
type assigned struct {
	id, whole syntax.Node
	scope     facts.ScopeID
	role      facts.Role // of the use, if another one defines it
	init      facts.ExprID
}

func stateOf(r *reader.Reader) *state { return r.State.(*state) }

var part = reader.Part

var rules = func() reader.Rules {
	all := reader.Rules{}
	maps.Copy(all, statements)
	maps.Copy(all, values)
	for node, rule := range types {
		rule.Anew = true
		all[node] = rule
	}
	return all
}()

// statements, and what they declare.
var statements = reader.Rules{
	"import_statement":               reader.Do(importStatement),
	"export_statement":               reader.Do(exportStatement),
	"function_declaration":           reader.Do(function),
	"generator_function_declaration": reader.Do(function),
	"function_signature":             reader.Do(function),
	"class_declaration":              reader.Do(class),
	"abstract_class_declaration":     reader.Do(class),
	"interface_declaration":          reader.Do(interfaceType),
	"type_alias_declaration":         reader.Do(typeAlias),
	"enum_declaration":               reader.Do(enum),
	"internal_module":                reader.Do(namespace),
	"module":                         reader.Do(namespace),
	"lexical_declaration":            reader.Do(variables),
	"variable_declaration":           reader.Do(variables),
	"statement_block":                reader.Do(scoped),
	"switch_body":                    reader.Do(scoped),
	"for_statement":                  reader.Do(func(r *reader.Reader, n syntax.Node) { parted(r, n); scoped(r, n) }),
	"try_statement":                  reader.Do(func(r *reader.Reader, n syntax.Node) { parted(r, n); r.All(n) }),
	"switch_case":                    reader.Do(block),
	"switch_default":                 reader.Do(block),
	"if_statement":                   reader.Do(branches),
	"while_statement":                reader.Do(tested),
	"switch_statement":               reader.Do(tested),
	"for_in_statement":               reader.Do(forIn),
	"catch_clause":                   reader.Do(caught),
	"labeled_statement":              reader.Do(func(r *reader.Reader, n syntax.Node) { r.Visit(n.Part("body")) }),
	"return_statement":               reader.Do(returned),
	"expression_statement": reader.Do(func(r *reader.Reader, n syntax.Node) {
		if !exports(r, n) {
			r.All(n)
		}
	}),
	"break_statement":    reader.Nothing(),
	"continue_statement": reader.Nothing(),
	"comment":            reader.Do(comment),
}

// values, which may be given others, and where some may stand for a type.
var values = reader.Rules{
	"identifier":                            name,
	"shorthand_property_identifier":         {Visit: name.Visit, Expr: name.Expr},
	"shorthand_property_identifier_pattern": {Visit: func(*reader.Reader, syntax.Node) {}, Write: name.Write},
	"this":                                  {Expr: name.Expr},
	"super":                                 {Expr: name.Expr},
	"nested_identifier":                     {Expr: member},
	"member_expression": {
		Visit: func(r *reader.Reader, n syntax.Node) { memberUse(r, n, facts.Read) },
		Write: memberWrite,
		Call:  func(r *reader.Reader, n syntax.Node, _ int) { memberUse(r, n, facts.Call) },
		Type:  func(r *reader.Reader, n syntax.Node) { memberUse(r, n, facts.TypeUse) },
		Expr:  member,
	},
	"call_expression":                 {Visit: call("function"), Type: (*reader.Reader).Visit, Expr: called("function")},
	"new_expression":                  {Visit: call("constructor"), Expr: called("constructor")},
	"assignment_expression":           assignment(facts.Write),
	"augmented_assignment_expression": {Visit: assignment(facts.ReadWrite).Visit},
	"update_expression":               {Visit: reader.Update(reader.Nth(0)).Visit},
	"arrow_function":                  {Visit: functionValue, Expr: functionType},
	"function":                        {Visit: functionValue, Expr: functionType},
	"function_expression":             {Visit: functionValue, Expr: functionType},
	"generator_function":              {Visit: functionValue, Expr: functionType},
	"class":                           {Visit: class, Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID { return named(r, n, n.Part("name").Text()) }},
	"object":                          {Visit: objectLiteral, Expr: shape},
	"array":                           {Expr: list},
	"subscript_expression":            reader.Element(part("object")),
	"await_expression": {Expr: func(r *reader.Reader, n syntax.Node) facts.ExprID {
		return r.Expr(facts.Expr{Kind: facts.Awaited, Base: reader.First(r, n), At: n.Range()})
	}},
	"parenthesized_expression": {Expr: castSaid},
	"non_null_expression":      {Expr: reader.First},
	"satisfies_expression":     {Visit: cast, Expr: reader.First},
	"as_expression":            {Visit: cast, Expr: asType},
	"ternary_expression":       {Visit: tested, Expr: eitherValue},
	"binary_expression":        {Visit: tested, Expr: binary},
	"string":                   {Expr: reader.Literal("string").Expr},
	"template_string":          {Expr: reader.Literal("string").Expr},
	"number":                   {Expr: reader.Literal("number").Expr},
	"true":                     {Expr: reader.Literal("boolean").Expr},
	"false":                    {Expr: reader.Literal("boolean").Expr},

	"object_pattern":       {Write: writeAll},
	"array_pattern":        {Write: writeAll},
	"rest_pattern":         {Write: writeAll},
	"assignment_pattern":   {Write: writeAll},
	"pair_pattern":         {Write: func(r *reader.Reader, n syntax.Node, role facts.Role) { r.Write(n.Part("value"), role) }},
	"property_identifier":  reader.Nothing(),
	"statement_identifier": {Visit: func(*reader.Reader, syntax.Node) {}},

	"jsx_opening_element":      reader.Do(element),
	"jsx_self_closing_element": reader.Do(element),
	"jsx_closing_element":      reader.Do(element),
}

// types, which are kept like values.
var types = reader.Rules{
	"type_identifier":        {Type: func(r *reader.Reader, n syntax.Node) { r.Use(n.Text(), facts.TypeUse, n.Range(), facts.NoExpr) }, Expr: name.Expr},
	"nested_type_identifier": {Type: nestedType, Expr: nested},
	"type_arguments":         {Visit: (*reader.Reader).UseType},
	"type_annotation":        {Visit: (*reader.Reader).UseType, Expr: reader.First},
	"parenthesized_type":     {Expr: reader.First},
	"readonly_type":          {Expr: reader.First},
	"constraint":             {Expr: reader.First},
	"opting_type_annotation": {Expr: reader.First},
	"optional_type":          {Expr: reader.First},
	"rest_type":              {Expr: reader.First},
	"type_query":             {Expr: reader.First},
	"predefined_type":        written,
	"literal_type":           written,
	"this_type":              {Type: func(*reader.Reader, syntax.Node) {}},
	"generic_type":           {Type: genericType, Expr: genericOf},
	"array_type":             {Expr: reader.ListOf(reader.Nth(0)).Expr},
	"index_type_query":       {Expr: keyOf},
	"lookup_type":            {Type: lookupType, Expr: lookedUp},
	"tuple_type":             {Expr: tuple},
	"union_type":             {Expr: oneOfTypes},
	"intersection_type":      {Expr: oneOfTypes},
	"object_type":            {Type: objectType, Expr: shape},
	"function_type":          {Type: functionValue, Expr: functionOf},
	"call_signature":         {Type: functionValue},
	"construct_signature":    {Type: functionValue},
	"constructor_type":       {Type: functionValue},
	"conditional_type":       {Type: conditionalType, Expr: conditionalOf},
	"infer_type": {Type: func(r *reader.Reader, n syntax.Node) {
		r.Inner(stateOf(r).conditional, func() { typeName(r, n.First("type_identifier"), n) })
	}},
	"mapped_type_clause": {Type: mappedType},
}

// name is a word that stands for a value, also in front of a type.
var name = func() reader.Rule {
	rule := orModule(reader.Name())
	rule.Type = rule.Visit
	rule.Call = func(r *reader.Reader, n syntax.Node, _ int) { r.Use(n.Text(), facts.Call, n.Range(), facts.NoExpr) }
	return rule
}()

// scoped reads a block, which has a scope of its own.
func scoped(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() { block(r, n) })
}

// tested reads what has a condition.
func tested(r *reader.Reader, n syntax.Node) {
	tests(r, n)
	parted(r, n)
	r.All(n)
}

func caught(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		pattern(r, n.Part("parameter"), facts.Def{Kind: facts.Variable})
		r.Visit(n.Part("body"))
	})
}

// functionValue reads a function without a name of its own.
func functionValue(r *reader.Reader, n syntax.Node) { functionBody(r, n, facts.NoDef) }
