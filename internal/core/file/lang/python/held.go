package python

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// mostHeld is how many of the entries of a collection that is written out are kept.
const mostHeld = 4

// holding keeps a collection that is written out as one of what its first entries are.
func holding(name string) func(r *reader.Reader, n syntax.Node) facts.ExprID {
	return func(r *reader.Reader, n syntax.Node) facts.ExprID {
		var keys, entries []syntax.Node
		for c := range n.NamedChildren() {
			switch c.Type() {
			case "comment":
			case "pair":
				keys, entries = append(keys, c.Part("key")), append(entries, c.Part("value"))
			case "list_splat", "dictionary_splat":
			default:
				entries = append(entries, c)
			}
		}
		if len(keys) > 0 {
			return r.Collection(name, n.Range(), oneOf(r, keys, n.Range()), oneOf(r, entries, n.Range()))
		}
		return r.Collection(name, n.Range(), oneOf(r, entries, n.Range()))
	}
}

// oneOf keeps the value of one of several nodes.
func oneOf(r *reader.Reader, nodes []syntax.Node, at place.Range) facts.ExprID {
	var all []facts.ExprID
	for _, e := range values(r, nodes[:min(len(nodes), mostHeld)]) {
		if e != facts.NoExpr {
			all = append(all, e)
		}
	}
	return r.OneOf(all, at)
}

func values(r *reader.Reader, nodes []syntax.Node) (all []facts.ExprID) {
	for _, n := range nodes {
		all = append(all, r.Expression(n))
	}
	return all
}

// tuple keeps values that are given together.
func tuple(r *reader.Reader, n syntax.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.TupleOf, At: n.Range()}
	for c := range n.NamedChildren() {
		v := r.Expression(c)
		if v != facts.NoExpr {
			v = r.Expr(facts.Expr{Kind: facts.TypeOf, Base: v, At: c.Range()})
		}
		e.Args = append(e.Args, v)
	}
	return r.Expr(e)
}

// subscript keeps an element of a value, or, where it is a part of it, the value itself.
func subscript(r *reader.Reader, n syntax.Node) facts.ExprID {
	value := r.Expression(n.Part("value"))
	if n.First("slice").OK() {
		return value
	}
	return r.Expr(facts.Expr{Kind: facts.Index, Base: value, At: n.Range()})
}

// either keeps what and or or gives.
func either(r *reader.Reader, n syntax.Node) facts.ExprID {
	if n.Has("and") {
		return r.Expression(n.Part("right"))
	}
	return oneOf(r, []syntax.Node{n.Part("left"), n.Part("right")}, n.Range())
}

// conditional keeps one of the two values of a condition.
func conditional(r *reader.Reader, n syntax.Node) facts.ExprID {
	return oneOf(r, []syntax.Node{reader.Nth(0)(n), reader.Nth(-1)(n)}, n.Range())
}

// yielded reads what a function hands out.
func yielded(r *reader.Reader, n syntax.Node) {
	r.All(n)
	s := stateOf(r)
	at := len(s.yields) - 1
	if at < 0 {
		return
	}
	e := reader.First(r, n)
	if n.Has("from") && e != facts.NoExpr {
		e = r.Expr(facts.Expr{Kind: facts.Each, Base: e, At: n.Range()})
	}
	if len(s.yields[at]) < mostReturns {
		s.yields[at] = append(s.yields[at], e)
	}
}

// takesLast are the methods that put the last of their arguments into what they belong to, takesAll those that put all that
// the argument holds into it, givesHeld those that give what is held, in which something may be held in turn.
var (
	takesLast = lang.WordsOf("append add insert appendleft setdefault put put_nowait push")
	takesAll  = lang.WordsOf("extend extendleft update")
	givesHeld = lang.WordsOf("setdefault get")
)

// puts notes what a call puts into a collection.
func puts(r *reader.Reader, n syntax.Node) {
	f := n.Part("function")
	if f.Type() != "attribute" {
		return
	}
	method, object := f.Part("attribute").Text(), f.Part("object")
	var arguments []syntax.Node
	for a := range n.Part("arguments").NamedChildren() {
		if t := a.Type(); t == "keyword_argument" || t == "list_splat" || t == "dictionary_splat" {
			return
		}
		arguments = append(arguments, a)
	}
	switch {
	case method == "heappush" && len(arguments) == 2:
		put(r, arguments[0], facts.NoExpr, r.Expression(arguments[1]))
	case takesLast[method] && len(arguments) == 1:
		put(r, object, facts.NoExpr, r.Expression(arguments[0]))
	case takesLast[method] && len(arguments) == 2:
		put(r, object, r.Expression(arguments[0]), r.Expression(arguments[1]))
	case takesAll[method] && len(arguments) == 1:
		putAll(r, object, arguments[0])
	}
}

// putAll notes that all that a value holds is put into a collection.
func putAll(r *reader.Reader, into, from syntax.Node) {
	if e := r.Expression(from); e != facts.NoExpr {
		put(r, into, r.Expr(facts.Expr{Kind: facts.EachKey, Base: e, At: from.Range()}), r.Expr(facts.Expr{Kind: facts.Index, Base: e, At: from.Range()}))
	}
}

// put notes that a value is put into what a node stands for, which may be held in something itself.
func put(r *reader.Reader, into syntax.Node, key, value facts.ExprID) {
	if value == facts.NoExpr {
		return
	}
	switch into.Type() {
	case "identifier", "attribute":
		id := into
		if into.Type() == "attribute" {
			id = into.Part("attribute")
		}
		r.Put(facts.Put{Name: id.Text(), Into: r.Expression(into), Key: key, Value: value, At: id.Range().Start})
	case "subscript":
		put(r, into.Part("value"), facts.NoExpr, r.Collection("list", into.Range(), value))
	case "call":
		if f := into.Part("function"); f.Type() == "attribute" && givesHeld[f.Part("attribute").Text()] {
			put(r, f.Part("object"), facts.NoExpr, r.Collection("list", into.Range(), value))
		}
	}
}

// labelled keeps an argument with the name of its parameter.
func labelled(r *reader.Reader, n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Labelled, Name: n.Part("name").Text(), Base: r.Expression(n.Part("value")), At: n.Range()})
}
