package javascript

import (
	"unicode"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// holdsObject says whether a value is an object that is written out, or may be one, or holds some, or the name of a member.
func holdsObject(n syntax.Node) bool {
	switch n.Type() {
	case "string":
		_, ok := keyIn(n)
		return ok
	case "object", "array", "arrow_function", "function", "function_expression":
		return true
	case "parenthesized_expression", "ternary_expression", "binary_expression", "spread_element":
		for c := range n.NamedChildren() {
			if holdsObject(c) {
				return true
			}
		}
	}
	return false
}

// expectArgument notes that an argument is to be of the type that what is called takes for it.
func expectArgument(r *reader.Reader, n syntax.Node, callee facts.ExprID, before []facts.ExprID) {
	if callee != facts.NoExpr && len(before) <= 255 {
		expect(r, n, r.Expr(facts.Expr{Kind: facts.Taken, Base: callee, Arg: uint8(len(before)), Args: before, At: n.Range()}))
	}
}

// expect notes of which type the objects in a value are to be, if that is of a type.
func expect(r *reader.Reader, n syntax.Node, want facts.ExprID) {
	if want == facts.NoExpr || !n.OK() {
		return
	}
	typeOf := func(e facts.Expr) facts.ExprID {
		e.At = n.Range()
		return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: r.Expr(e), At: n.Range()})
	}
	value := func() facts.ExprID { return r.Expr(facts.Expr{Kind: facts.Value, Base: want, At: n.Range()}) }
	switch n.Type() {
	case "string":
		if at, ok := keyIn(n); ok && stateOf(r).typed {
			r.Use(string(at.In(r.Text)), facts.Read, at, r.Expr(facts.Expr{Kind: facts.Keyed, Base: want, At: at}))
		}
	case "object":
		r.Expect(facts.Expectation{At: n.Range().Start, Type: want})
		for c := range n.NamedChildren() {
			if v := c.Part("value"); c.Type() == "pair" && holdsObject(v) {
				member := facts.Expr{Kind: facts.Index, Base: value()}
				if key := c.Part("key"); key.Type() == "property_identifier" {
					member = facts.Expr{Kind: facts.Member, Name: key.Text(), Base: value()}
				}
				expect(r, v, typeOf(member))
			}
		}
	case "array":
		for c := range n.NamedChildren() {
			if holdsObject(c) {
				expect(r, c, typeOf(facts.Expr{Kind: facts.Each, Base: value()}))
			}
		}
	case "arrow_function", "function", "function_expression":
		expectFunction(r, n, want)
		if back := stateOf(r).giveBack[n.Index()]; len(back) > 0 {
			result := givenBack(r, n, typeOf(facts.Expr{Kind: facts.CallOf, Base: value()}))
			for _, v := range back {
				expect(r, v, result)
			}
		}
	case "parenthesized_expression", "spread_element":
		for c := range n.NamedChildren() {
			expect(r, c, want)
			return
		}
	case "ternary_expression":
		expect(r, n.Part("consequence"), want)
		expect(r, n.Part("alternative"), want)
	case "binary_expression":
		expect(r, n.Part("right"), want)
		if n.Has("||") || n.Has("??") {
			expect(r, n.Part("left"), want)
		}
	}
}

// keyIn is what stands between the quotes of a text that may be the name of a member.
func keyIn(n syntax.Node) (at place.Range, ok bool) {
	at = n.Range()
	s := n.Text()
	if len(s) < 3 || len(s) > longestKey {
		return at, false
	}
	for i, c := range s[1 : len(s)-1] {
		if c != '_' && c != '$' && !unicode.IsLetter(c) && (i == 0 || !unicode.IsDigit(c)) {
			return at, false
		}
	}
	return place.Range{Start: at.Start + 1, End: at.End - 1}, true
}

// longestKey bounds what may be the name of a member, in bytes, with its quotes.
const longestKey = 60

// expectFunction notes of which type a function is to be.
func expectFunction(r *reader.Reader, n syntax.Node, want facts.ExprID) {
	at := n.Range().Start
	if id := n.Part("name"); id.OK() {
		at = id.Range().End
	}
	r.Expect(facts.Expectation{At: at, Type: want, Function: true})
}

// givenBack is the type that a return statement of a function has to give: of one that waits, what is promised.
func givenBack(r *reader.Reader, n syntax.Node, result facts.ExprID) facts.ExprID {
	if result == facts.NoExpr || !n.Has("async") {
		return result
	}
	promised := r.Expr(facts.Expr{Kind: facts.Value, Base: result, At: n.Range()})
	return r.Expr(facts.Expr{Kind: facts.TypeOf, Base: r.Expr(facts.Expr{Kind: facts.Awaited, Base: promised, At: n.Range()}), At: n.Range()})
}
