package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// Where no types are declared, what a name or a member is given is noted, what is put into lists and maps, and which parts of
// the code are done only now and then.

// set notes that what stands on the left of an assignment gets a value.
func set(r *reader.Reader, left syntax.Node, value facts.ExprID, end uint32) {
	if stateOf(r).typed || value == facts.NoExpr {
		return
	}
	switch left.Type() {
	case "identifier":
		r.Set(facts.Setting{Name: left.Text(), Of: scopeOf(r, left.Text()), At: left.Range().Start, From: end, Value: value})
	case "member_expression":
		id := left.Part("property")
		r.Set(facts.Setting{Name: id.Text(), Base: r.Expression(left.Part("object")), At: id.Range().Start, From: end, Value: value})
	case "subscript_expression":
		put(r, left.Part("object"), r.Expression(left.Part("index")), value)
	case "array_pattern":
		part := 0
		for c := range left.NamedChildren() {
			set(r, c, r.Expr(facts.Expr{Kind: facts.PartOf, Base: value, Part: uint8(min(part, 255)), At: c.Range()}), end)
			part++
		}
	}
}

// scopeOf is where a name is defined that is used here; the file, if that is not known yet.
func scopeOf(r *reader.Reader, name string) facts.ScopeID {
	for s := r.Scope(); ; s = r.Facts().Scopes[s].Parent {
		if s == 0 || r.Defined(s, name) != facts.NoDef {
			return s
		}
	}
}

// takes are the methods that put what they are given into what they belong to: the last of their arguments, under the first if
// there are two.
var takes = lang.WordsOf("push unshift add set enqueue")

// puts notes what a call puts into a list, a set or a map.
func puts(r *reader.Reader, n syntax.Node) {
	f := n.Part("function")
	if f.Type() != "member_expression" || !takes[f.Part("property").Text()] {
		return
	}
	var arguments []syntax.Node
	for a := range n.Part("arguments").NamedChildren() {
		if a.Type() != "comment" {
			arguments = append(arguments, a)
		}
	}
	into := f.Part("object")
	switch {
	case f.Part("property").Text() == "set" && len(arguments) == 2:
		put(r, into, r.Expression(arguments[0]), r.Expression(arguments[1]))
	case f.Part("property").Text() == "set":
	default:
		for _, a := range arguments {
			if a.Type() == "spread_element" {
				put(r, into, facts.NoExpr, r.Expr(facts.Expr{Kind: facts.Each, Base: reader.First(r, a), At: a.Range()}))
			} else {
				put(r, into, facts.NoExpr, r.Expression(a))
			}
		}
	}
}

// put notes that a value is put into what a node stands for, which may be held in something itself.
func put(r *reader.Reader, into syntax.Node, key, value facts.ExprID) {
	if value == facts.NoExpr {
		return
	}
	switch into.Type() {
	case "identifier", "member_expression":
		id := into
		if into.Type() == "member_expression" {
			id = into.Part("property")
		}
		r.Put(facts.Put{Name: id.Text(), Into: r.Expression(into), Key: key, Value: value, At: id.Range().Start})
	case "subscript_expression":
		held := r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expr(facts.Expr{Kind: facts.TypeOf, Base: value, At: into.Range()}), At: into.Range()})
		put(r, into.Part("object"), r.Expression(into.Part("index")), held)
	case "parenthesized_expression":
		put(r, reader.Nth(0)(into), key, value)
	}
}

// parted notes the branches of a statement.
func parted(r *reader.Reader, n syntax.Node) {
	if stateOf(r).typed {
		return
	}
	branch := func(at syntax.Node, b facts.Branch) {
		b.At, b.Whole = at.Range(), n.Range()
		b.Leaves = leaves(at)
		r.Branch(b)
	}
	switch n.Type() {
	case "if_statement":
		arms := 0
		if n.Part("alternative").OK() {
			arms = 2
		}
		branch(n.Part("consequence"), facts.Branch{Arms: arms})
		branch(n.Part("alternative"), facts.Branch{Arms: arms})
	case "while_statement", "for_statement", "for_in_statement":
		branch(n.Part("body"), facts.Branch{Loop: true, Beside: true})
	case "try_statement":
		branch(n.Part("body"), facts.Branch{Beside: true})
		branch(n.Part("handler"), facts.Branch{Beside: true})
	case "switch_statement":
		for c := range n.Part("body").NamedChildren() {
			branch(c, facts.Branch{Beside: true})
		}
	}
}

// undeclared is how values come to be of a type where none are declared.
var undeclared = func() lang.Values {
	v := flow
	v.Passed = lang.Yes
	v.Holds = lang.WordsOf("Record Map Set WeakMap WeakSet Array")
	v.Known = map[string]lang.Words{
		"string": lang.WordsOf(`at charAt charCodeAt codePointAt concat endsWith includes indexOf lastIndexOf length localeCompare match matchAll normalize padEnd padStart
			repeat replace replaceAll search slice split startsWith substr substring toLowerCase toUpperCase toLocaleLowerCase toLocaleUpperCase toString trim trimEnd trimStart
			valueOf constructor anchor link`),
		"number":  lang.WordsOf("toExponential toFixed toLocaleString toPrecision toString valueOf constructor"),
		"boolean": lang.WordsOf("toString valueOf constructor"),
	}
	v.Gives = map[string]lang.Result{
		"Set": {What: lang.ListOfThem, Name: "Set"}, "WeakSet": {What: lang.ListOfThem, Name: "WeakSet"},
		"Map": {What: lang.TheSame, Name: "Map"}, "WeakMap": {What: lang.TheSame, Name: "WeakMap"},
		"String": {What: lang.AType, Name: "string"}, "Number": {What: lang.AType, Name: "number"}, "Boolean": {What: lang.AType, Name: "boolean"},
		"parseInt": {What: lang.AType, Name: "number"}, "parseFloat": {What: lang.AType, Name: "number"},
		"assign": {What: lang.TheSame}, "freeze": {What: lang.TheSame}, "seal": {What: lang.TheSame},
		"values": {What: lang.ListOfThem}, "Array": {What: lang.AType, Name: "Array"},
	}
	v.Pairs = lang.WordsOf("Map")
	return v
}()
