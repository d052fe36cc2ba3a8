package ruby

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// No types are declared: what a name is given is noted, what is put into arrays and hashes, which parts of the code are done only
// now and then, and what methods give.

// flow is how values come to be of a type.
var flow = func() lang.Values {
	v := lang.Declared
	v.Passed = lang.Yes
	v.Holds = lang.WordsOf("Array Hash Set Queue")
	v.Known = map[string]lang.Words{
		"nil":     lang.WordsOf("nil? to_s to_a to_h to_i inspect is_a? respond_to? class"),
		"Integer": lang.WordsOf("abs chr digits div divmod downto even? floor gcd odd? pred round succ times to_f to_i to_s upto zero? positive? negative? inspect is_a? class hash clamp"),
		"Float":   lang.WordsOf("abs ceil floor round to_f to_i to_s nan? infinite? zero? truncate inspect is_a? class hash"),
		"Symbol":  lang.WordsOf("to_s to_sym to_proc inspect length size is_a? class hash name upcase downcase capitalize"),
	}
	v.Gives = map[string]lang.Result{
		"Array": {What: lang.ListOfThem, Name: "Array"}, "dup": {What: lang.TheSame}, "freeze": {What: lang.TheSame}, "clone": {What: lang.TheSame},
	}
	v.Pairs = lang.WordsOf("Hash")
	v.Bare = lang.Yes
	v.Makers = lang.WordsOf("new")
	return v
}()

// set notes that something that is defined already gets a value.
func set(r *reader.Reader, id syntax.Node, of facts.ScopeID, base, value facts.ExprID, end uint32) {
	if value != facts.NoExpr {
		r.Set(facts.Setting{Name: id.Text(), Of: of, Base: base, At: id.Range().Start, From: end, Value: value})
	}
}

// scopeOf is where a local variable is defined that is known here.
func scopeOf(r *reader.Reader, name string) facts.ScopeID {
	for s := r.Scope(); ; s = r.Facts().Scopes[s].Parent {
		if s == 0 || r.Defined(s, name) != facts.NoDef {
			return s
		}
	}
}

// takes are the methods that put what they are given into what they belong to.
var takes = lang.WordsOf("push append unshift prepend add enq store <<")

// puts notes what a call puts into an array, a set or a hash.
func puts(r *reader.Reader, method string, into, arguments syntax.Node) {
	if !takes[method] || !into.OK() {
		return
	}
	var all []syntax.Node
	for a := range arguments.NamedChildren() {
		all = append(all, a)
	}
	if method == "store" && len(all) == 2 {
		put(r, into, r.Expression(all[0]), r.Expression(all[1]))
		return
	}
	for _, a := range all {
		put(r, into, facts.NoExpr, r.Expression(a))
	}
}

// put notes that a value is put into what a node stands for, which may be held in something itself.
func put(r *reader.Reader, into syntax.Node, key, value facts.ExprID) {
	if value == facts.NoExpr {
		return
	}
	switch into.Type() {
	case "identifier", "instance_variable", "class_variable", "constant", "global_variable":
		r.Put(facts.Put{Name: into.Text(), Into: r.Expression(into), Key: key, Value: value, At: into.Range().Start})
	case "call":
		if id := into.Part("method"); id.Type() == "identifier" {
			into := r.Expr(facts.Expr{Kind: facts.Member, Name: id.Text(), Base: r.Expression(into.Part("receiver")), At: id.Range()})
			r.Put(facts.Put{Name: id.Text(), Into: into, Key: key, Value: value, At: id.Range().Start})
		}
	case "element_reference":
		held := r.Expr(facts.Expr{Kind: facts.ListOf, Base: r.Expr(facts.Expr{Kind: facts.TypeOf, Base: value, At: into.Range()}), At: into.Range()})
		put(r, into.Part("object"), facts.NoExpr, held)
	case "parenthesized_statements":
		put(r, first(into), key, value)
	}
}

// shovel reads a binary operator, which may put something into what stands before it.
func shovel(r *reader.Reader, n syntax.Node) {
	r.All(n)
	if n.Part("operator").Text() == "<<" {
		put(r, n.Part("left"), facts.NoExpr, r.Expression(n.Part("right")))
	}
}

// eitherSide keeps what one of two values is, for the operators that give one of them.
func eitherSide(r *reader.Reader, n syntax.Node) facts.ExprID {
	switch n.Part("operator").Text() {
	case "||", "or":
		return r.OneOf([]facts.ExprID{r.Expression(n.Part("left")), r.Expression(n.Part("right"))}, n.Range())
	case "&&", "and":
		return r.Expression(n.Part("right"))
	case "<<":
		return r.Expression(n.Part("left"))
	}
	return facts.NoExpr
}

// mostHeld is how many entries of an array or a hash that is written out are kept.
const mostHeld = 4

// array keeps one by what its first entries are.
func array(r *reader.Reader, n syntax.Node) facts.ExprID {
	var all []facts.ExprID
	for c := range n.NamedChildren() {
		if e := r.Expression(c); e != facts.NoExpr && len(all) < mostHeld {
			all = append(all, e)
		}
	}
	return r.Collection("Array", n.Range(), r.OneOf(all, n.Range()))
}

func hash(r *reader.Reader, n syntax.Node) facts.ExprID {
	var keys, values []facts.ExprID
	for c := range n.NamedChildren() {
		if c.Type() != "pair" || len(values) >= mostHeld {
			continue
		}
		if e := r.Expression(c.Part("key")); e != facts.NoExpr {
			keys = append(keys, e)
		}
		if e := r.Expression(c.Part("value")); e != facts.NoExpr {
			values = append(values, e)
		}
	}
	return r.Collection("Hash", n.Range(), r.OneOf(keys, n.Range()), r.OneOf(values, n.Range()))
}

// given keeps what a method gives: its last value, or one that it returns before.
func given(r *reader.Reader, body syntax.Node) facts.ExprID {
	var all []facts.ExprID
	returned(r, body, &all)
	last(r, body, &all, 0)
	if len(all) > mostHeld {
		all = all[:mostHeld]
	}
	return r.OneOf(all, body.Range())
}

func returned(r *reader.Reader, n syntax.Node, all *[]facts.ExprID) {
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "method", "singleton_method", "class", "module", "lambda":
		case "return":
			if v := first(first(c)); v.OK() {
				*all = append(*all, r.Expression(v))
			}
		default:
			returned(r, c, all)
		}
	}
}

// deepestLast bounds how deep the last value of a part is looked for.
const deepestLast = 20

// last adds the values of the last statement of a part, by each of the ways through it.
func last(r *reader.Reader, n syntax.Node, all *[]facts.ExprID, depth int) {
	if !n.OK() || depth > deepestLast {
		return
	}
	switch n.Type() {
	case "body_statement", "then", "begin", "do", "block_body", "parenthesized_statements":
		end := syntax.Node{}
		for c := range n.NamedChildren() {
			if k := c.Type(); k != "comment" && k != "rescue" && k != "ensure" {
				end = c
			}
		}
		last(r, end, all, depth+1)
	case "if", "unless", "elsif", "conditional", "if_modifier", "unless_modifier":
		last(r, n.Part("consequence"), all, depth+1)
		last(r, n.Part("alternative"), all, depth+1)
		if b := n.Part("body"); b.OK() {
			last(r, b, all, depth+1)
		}
	case "else":
		end := syntax.Node{}
		for c := range n.NamedChildren() {
			end = c
		}
		last(r, end, all, depth+1)
	case "case":
		for c := range n.NamedChildren() {
			if k := c.Type(); k == "when" || k == "else" {
				last(r, c.Part("body"), all, depth+1)
			}
		}
	case "return", "while", "until", "method", "class", "module":
	default:
		*all = append(*all, r.Expression(n))
	}
}

// conditional keeps one of the values of an if.
func conditional(r *reader.Reader, n syntax.Node) facts.ExprID {
	var all []facts.ExprID
	last(r, n, &all, 0)
	return r.OneOf(all, n.Range())
}

// parted reads a statement of which parts are done only now and then.
func parted(r *reader.Reader, n syntax.Node) {
	branch := func(at syntax.Node, b facts.Branch) {
		if at.OK() {
			b.At, b.Whole, b.Leaves = at.Range(), n.Range(), leaves(at)
			r.Branch(b)
		}
	}
	switch n.Type() {
	case "if", "unless", "conditional":
		arms := 0
		if a := n.Part("alternative"); a.OK() && a.Type() != "elsif" {
			arms = 2
		}
		branch(n.Part("consequence"), facts.Branch{Arms: arms})
		branch(n.Part("alternative"), facts.Branch{Arms: arms})
	case "if_modifier", "unless_modifier":
		branch(n.Part("body"), facts.Branch{})
	case "while", "until", "while_modifier", "until_modifier":
		branch(n.Part("body"), facts.Branch{Loop: true, Beside: true})
	case "case":
		for c := range n.NamedChildren() {
			if k := c.Type(); k == "when" || k == "else" {
				branch(c, facts.Branch{})
			}
		}
	case "begin":
		branch(n, facts.Branch{Beside: true})
	}
	r.All(n)
}

// leaves says whether a part always ends what it stands in.
func leaves(n syntax.Node) bool {
	switch n.Type() {
	case "return", "next", "break", "redo", "retry":
		return true
	case "call":
		return n.Part("method").Text() == "raise"
	case "then", "else", "when", "body_statement", "do":
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
