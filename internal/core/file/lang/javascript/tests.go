package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// testers are the functions that are given a test, or several, by a name.
var testers = lang.WordsOf("describe context suite it test specify")

// longestTestName bounds what is taken for the name of a test, in bytes.
const longestTestName = 200

// testCall reads a call that defines a test by a name: describe("…", () => { … }); it says whether it is one.
func testCall(r *reader.Reader, n syntax.Node, called string) bool {
	arguments := n.Part("arguments")
	name, at := reader.Nth(0)(arguments), place.Range{}
	if tester := testerOf(n.Part(called)); !testers[tester] || name.Type() != "string" && name.Type() != "template_string" {
		return false
	}
	if at = name.Range(); at.Len() < 3 || at.Len() > longestTestName || name.First("template_substitution").OK() {
		return false
	}
	at.Start, at.End = at.Start+1, at.End-1
	body := syntax.Node{}
	for a := range arguments.NamedChildren() {
		if isValue(a) {
			body = a
		}
	}
	if !body.OK() {
		return false
	}
	r.Called(n.Part(called), -1)
	id := r.Def(facts.Def{Name: string(at.In(r.Text)), Kind: facts.Test, At: at, Full: n.Range(), Head: place.Range{Start: n.Range().Start, End: name.Range().End}})
	for a := range arguments.NamedChildren() {
		switch {
		case a == body:
			functionBody(r, a, id)
		case a != name:
			r.Visit(a)
		}
	}
	return true
}

// testerOf is the name of the function that is given a test, also in it.only(…) and it.each(…)(…).
func testerOf(n syntax.Node) string {
	switch n.Type() {
	case "identifier":
		return n.Text()
	case "member_expression":
		return testerOf(n.Part("object"))
	case "call_expression":
		if f := n.Part("function"); f.Type() == "member_expression" {
			return testerOf(f)
		}
	}
	return ""
}
