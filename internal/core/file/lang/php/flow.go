package php

import (
	"regexp"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Types need not be declared: what a variable or a property is given is noted, what is put into arrays, which parts of the code
// are done only now and then, what functions give, and what comments say.

// flow is how values come to be of a type.
var flow = func() lang.Values {
	v := lang.Declared
	v.Passed = lang.Yes
	v.Holds = lang.WordsOf("array")
	v.Gives = map[string]lang.Result{
		"array_values": {What: lang.ListOfThem}, "array_filter": {What: lang.ListOfThem}, "array_reverse": {What: lang.ListOfThem}, "array_slice": {What: lang.ListOfThem},
		"array_unique": {What: lang.ListOfThem}, "array_merge": {What: lang.ListOfThem}, "iterator_to_array": {What: lang.ListOfThem},
		"array_pop": {What: lang.AnElement}, "array_shift": {What: lang.AnElement}, "current": {What: lang.AnElement}, "reset": {What: lang.AnElement},
		"end": {What: lang.AnElement}, "next": {What: lang.AnElement}, "array_map": {What: lang.ListOfResults},
		"strlen": {What: lang.AType, Name: "int"}, "count": {What: lang.AType, Name: "int"}, "implode": {What: lang.AType, Name: "string"}, "sprintf": {What: lang.AType, Name: "string"},
	}
	return v
}()

// inComments is how types are written there.
var inComments = reader.Said{Between: `\`, Arguments: []string{"<>"},
	Nothing: lang.WordsOf("mixed null void object callable iterable resource never closure Closure this"), Basic: lang.WordsOf("string int integer float bool boolean array")}

const saidType = `([\w\\|?\[\]<>, ]*[\w\]>])`

var (
	paramSaid  = regexp.MustCompile(`@param\s+` + saidType + `\s+&?(?:\.\.\.)?(\$\w+)`)
	returnSaid = regexp.MustCompile(`@return\s+([\w\\|?\[\]<>]+)`)
	varSaid    = regexp.MustCompile(`@var\s+([\w\\|?\[\]<>]+)`)
	ownSaid    = lang.WordsOf("self static $this")
)

// said is the type that a comment says by a pattern, of the parameter of a name where the pattern has one.
func said(r *reader.Reader, doc place.Range, pattern *regexp.Regexp, name string) facts.ExprID {
	text := doc.In(r.Text)
	for _, m := range pattern.FindAllSubmatchIndex(text, -1) {
		if len(m) > 4 && string(text[m[4]:m[5]]) != name {
			continue
		}
		at := place.Range{Start: doc.Start + uint32(m[2]), End: doc.Start + uint32(m[3])}
		if ownSaid[string(at.In(r.Text))] {
			return r.OwnerType()
		}
		return inComments.Type(r, at, false)
	}
	return facts.NoExpr
}

// set notes that what stands on the left of an assignment gets a value.
func set(r *reader.Reader, left syntax.Node, value facts.ExprID, end uint32) {
	if value == facts.NoExpr {
		return
	}
	switch left.Type() {
	case "variable_name":
		r.Set(facts.Setting{Name: left.Text(), Of: r.Enclosing(facts.FunctionScope), At: left.Range().Start, From: end, Value: value})
	case "member_access_expression", "nullsafe_member_access_expression":
		id := left.Part("name")
		r.Set(facts.Setting{Name: id.Text(), Base: r.Expression(left.Part("object")), At: id.Range().Start, From: end, Value: value})
	case "scoped_property_access_expression":
		text, at := bare(left.Part("name"))
		r.Set(facts.Setting{Name: text, Base: r.Expression(left.Part("scope")), At: at.Start, From: end, Value: value})
	case "subscript_expression":
		put(r, first(left), r.Expression(reader.Nth(1)(left)), value)
	case "list_literal", "array_creation_expression":
		number := 0
		for c := range left.NamedChildren() {
			if c.Type() == "array_element_initializer" {
				c = reader.Nth(-1)(c)
			}
			set(r, c, r.Expr(facts.Expr{Kind: facts.PartOf, Base: value, Part: uint8(min(number, 255)), At: c.Range()}), end)
			number++
		}
	}
}

// put notes that a value is put into what a node stands for, which may be held in something itself.
func put(r *reader.Reader, into syntax.Node, key, value facts.ExprID) {
	if value == facts.NoExpr {
		return
	}
	p := facts.Put{Key: key, Value: value, At: into.Range().Start}
	switch into.Type() {
	case "variable_name":
		p.Name, p.Into = into.Text(), r.Expression(into)
	case "member_access_expression", "nullsafe_member_access_expression":
		id := into.Part("name")
		p.Name, p.Into, p.At = id.Text(), r.Expression(into), id.Range().Start
	case "scoped_property_access_expression":
		text, at := bare(into.Part("name"))
		p.Name, p.Into, p.At = text, r.Expression(into), at.Start
	case "subscript_expression":
		held := r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expr(facts.Expr{Kind: facts.TypeOf, Base: value, At: into.Range()}), At: into.Range()})
		put(r, first(into), facts.NoExpr, held)
		return
	default:
		return
	}
	r.Put(p)
}

// mostHeld is how many entries of an array that is written out are kept.
const mostHeld = 4

// array keeps one by what its first entries are.
func array(r *reader.Reader, n syntax.Node) facts.ExprID {
	var all []facts.ExprID
	for c := range n.NamedChildren() {
		if c.Type() != "array_element_initializer" || len(all) >= mostHeld {
			continue
		}
		if e := r.Expression(reader.Nth(-1)(c)); e != facts.NoExpr {
			all = append(all, e)
		}
	}
	return r.Collection("array", n.Range(), r.OneOf(all, n.Range()))
}

// oneSide keeps what one of two values is, for the operators that give one of them.
func oneSide(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Has("??") || n.Has("?:") {
		return r.OneOf([]facts.ExprID{r.Expression(n.Part("left")), r.Expression(n.Part("right"))}, n.Range())
	}
	return facts.NoExpr
}

// conditional keeps one of the values of a condition.
func conditional(r *reader.Reader, n syntax.Node) facts.ExprID {
	then := n.Part("body")
	if !then.OK() {
		then = n.Part("condition")
	}
	return r.OneOf([]facts.ExprID{r.Expression(then), r.Expression(n.Part("alternative"))}, n.Range())
}

// returned adds what a function gives.
func returned(r *reader.Reader, n syntax.Node, all *[]facts.ExprID) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "function_definition", "class_declaration", "anonymous_function_creation_expression", "arrow_function":
		case "return_statement":
			if v := first(c); v.OK() && len(*all) < mostHeld {
				*all = append(*all, r.Expression(v))
			}
		default:
			returned(r, c, all)
		}
	}
}

// parted reads a statement of which parts are done only now and then.
func parted(r *reader.Reader, n syntax.Node) {
	branches(r, n)
	r.All(n)
}

func branches(r *reader.Reader, n syntax.Node) {
	branch := func(at syntax.Node, b facts.Branch) {
		if at.OK() {
			b.At, b.Whole, b.Leaves = at.Range(), n.Range(), leaves(at)
			r.Branch(b)
		}
	}
	switch n.Type() {
	case "if_statement":
		arms := []syntax.Node{n.Part("body")}
		last := false
		for c := range n.NamedChildren() {
			switch c.Type() {
			case "else_if_clause":
				arms = append(arms, c.Part("body"))
			case "else_clause":
				arms, last = append(arms, c.Part("body")), true
			}
		}
		for _, a := range arms {
			b := facts.Branch{}
			if last {
				b.Arms = len(arms)
			}
			branch(a, b)
		}
	case "while_statement", "for_statement", "foreach_statement", "do_statement":
		branch(n.Part("body"), facts.Branch{Loop: true, Beside: true})
	case "try_statement":
		branch(n.Part("body"), facts.Branch{Beside: true})
		for c := range n.NamedChildren() {
			if c.Type() == "catch_clause" {
				branch(c, facts.Branch{Beside: true})
			}
		}
	case "switch_statement":
		for c := range n.Part("body").NamedChildren() {
			branch(c, facts.Branch{Beside: true})
		}
	}
}

// leaves says whether a statement always ends what it stands in.
func leaves(n syntax.Node) bool {
	switch n.Type() {
	case "return_statement", "continue_statement", "break_statement":
		return true
	case "expression_statement":
		return first(n).Type() == "throw_expression"
	case "compound_statement", "catch_clause", "case_statement", "default_statement":
		end := syntax.Node{}
		for c := range n.NamedChildren() {
			if c.Type() != "comment" {
				end = c
			}
		}
		return end.OK() && leaves(end)
	}
	return false
}
