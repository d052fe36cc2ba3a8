// Package lua reads the facts of Lua files.
//
// The grammar leaves what belongs to one value side by side, as in a.b[c].d,
// among whatever else its parent holds; chains puts it together again.
package lua

import (
	"strconv"
	"strings"

	"github.com/smacker/go-tree-sitter/lua"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Lua"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(lua.GetLanguage()).WithoutBlanks(), Rules: rules, Signs: signs})

var rules = reader.Rules{
	"comment":            reader.Nothing(),
	"emmy_documentation": reader.Nothing(),
	"string":             reader.Literal("string"),
	"number":             reader.Literal("number"),

	"program":                 reader.Do(values),
	"function_body":           reader.Do(values),
	"return_statement":        reader.Do(values),
	"module_return_statement": reader.Do(values),
	"binary_operation":        reader.Do(values),
	"unary_operation":         reader.Do(values),
	"function_arguments":      reader.Do(values),
	"expression_list":         reader.Do(values),
	"function_call":           {Visit: call, Expr: callExpr},
	"tableconstructor":        reader.Do(func(r *reader.Reader, n syntax.Node) { table(r, n) }),

	"variable_declaration": reader.Do(declaration),
	"function_statement":   reader.Do(function),
	"function":             reader.Do(closure),
	"for_statement":        reader.Do(loop),
	"while_statement":      block(),
	"repeat_statement":     block(),
	"if_statement":         block(),
	"do_statement":         block(),
}

func block() reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		r.In(facts.BlockScope, n.Range(), facts.NoDef, func() { values(r, n) })
	})
}

// link is one piece of a chain: a name, or something in brackets.
type link struct {
	id    syntax.Node
	index []syntax.Node // what stands in the brackets
	whole syntax.Node   // what is no name: a call, for instance
}

// chains parts the children of a node into values, each a chain of names.
func chains(nodes []syntax.Node) (all [][]link) {
	var now []link
	dot, depth := false, 0
	end := func() {
		if len(now) > 0 {
			all = append(all, now)
		}
		now, dot = nil, false
	}
	for _, c := range nodes {
		switch t := c.Type(); {
		case depth > 0 && t == "]":
			depth--
		case depth > 0:
			l := &now[len(now)-1]
			l.index = append(l.index, c)
		case t == "[" && len(now) > 0:
			depth++
			now = append(now, link{})
		case t == "." || t == ":" || t == "self_call_colon":
			dot = true
		case t == "identifier":
			if !dot {
				end()
			}
			now, dot = append(now, link{id: c}), false
		case c.Named():
			end()
			now = []link{{whole: c}}
		default:
			end()
		}
	}
	end()
	return all
}

func children(n syntax.Node) (nodes []syntax.Node) {
	for c := range n.Children() {
		nodes = append(nodes, c)
	}
	return nodes
}

// values reads all that stands in a node.
func values(r *reader.Reader, n syntax.Node) {
	for _, chain := range chains(children(n)) {
		follow(r, chain, facts.Read, -1)
	}
}

// follow notes the uses in a chain, the last of them in the role, and keeps
// what the chain comes to.
func follow(r *reader.Reader, chain []link, role facts.Role, arguments int) facts.ExprID {
	base := facts.NoExpr
	for i, l := range chain {
		as, count := facts.Read, -1
		if i == len(chain)-1 {
			as, count = role, arguments
		}
		switch {
		case l.whole.OK():
			r.Visit(l.whole)
			base = r.Expression(l.whole)
		case l.id.OK():
			if i > 0 || l.id.Text() != "self" {
				r.MemberUse(l.id, as, base, count)
			}
			base = r.Behind(l.id, base)
		default:
			for _, c := range chains(l.index) {
				follow(r, c, facts.Read, -1)
			}
			base = r.Expr(facts.Expr{Kind: facts.Index, Base: base, At: chain[0].id.Range()})
		}
	}
	return base
}

// kept is what a chain comes to, without noting any uses.
func kept(r *reader.Reader, chain []link) facts.ExprID {
	base := facts.NoExpr
	for _, l := range chain {
		switch {
		case l.whole.OK():
			base = r.Expression(l.whole)
		case l.id.OK():
			base = r.Behind(l.id, base)
		default:
			base = r.Expr(facts.Expr{Kind: facts.Index, Base: base, At: chain[0].id.Range()})
		}
	}
	return base
}

// called parts a call into what is called and the arguments.
func called(n syntax.Node) (chain []link, arguments syntax.Node) {
	var front []syntax.Node
	for c := range n.Children() {
		if c.Type() == "function_call_paren" {
			continue
		}
		if c.FieldName() == "args" {
			arguments = c
			continue
		}
		front = append(front, c)
	}
	if all := chains(front); len(all) > 0 {
		chain = all[0]
		for _, more := range all[1:] { // behind a call the grammar leaves no dot
			chain = append(chain, more...)
		}
	}
	return chain, arguments
}

func call(r *reader.Reader, n syntax.Node) {
	chain, arguments := called(n)
	follow(r, chain, facts.Call, len(chains(children(arguments))))
	if module, at := required(n); module.OK() && firstRequired(r, module) {
		r.Import(facts.Imported{Path: at, At: module.Range()})
	}
	if arguments.Type() == "table_argument" {
		r.All(arguments)
	} else {
		r.Visit(arguments)
	}
}

func callExpr(r *reader.Reader, n syntax.Node) facts.ExprID {
	chain, _ := called(n)
	base := kept(r, chain)
	if base == facts.NoExpr {
		return base
	}
	return r.Expr(facts.Expr{Kind: facts.CallOf, Base: base, At: n.Range()})
}

// required is the module that a call of require names.
func required(n syntax.Node) (module syntax.Node, path string) {
	chain, arguments := called(n)
	if n.Type() != "function_call" || len(chain) != 1 || chain[0].id.Text() != "require" {
		return syntax.Node{}, ""
	}
	s := arguments
	if s.Type() == "function_arguments" {
		s = reader.Nth(0)(s)
	}
	if k := s.Type(); k != "string" && k != "string_argument" {
		return syntax.Node{}, ""
	}
	return s, strings.Trim(s.Text(), `"'`)
}

// firstRequired says whether a call of require was not looked at before, as
// one that gives a local name its meaning is.
func firstRequired(r *reader.Reader, module syntax.Node) bool {
	return r.First("require at " + strconv.Itoa(int(module.Range().Start)))
}

// table reads the fields of one. In the body of a named table they are its
// members.
func table(r *reader.Reader, n syntax.Node) {
	for list := range n.NamedChildren() {
		for f := range list.NamedChildren() {
			id := f.Part("name")
			if f.Type() != "field" || !id.OK() {
				values(r, f)
				continue
			}
			value := f.Part("value")
			if r.InType() {
				d := r.Begin(f, id, value, memberKind(value))
				if d.Kind == facts.Field {
					d.Head = f.Range()
				}
				d.Init = r.Expression(value)
				r.Def(d)
			}
			behind := false
			var rest []syntax.Node
			for c := range f.Children() {
				if behind {
					rest = append(rest, c)
				}
				behind = behind || c.Type() == "="
			}
			for _, c := range chains(rest) {
				follow(r, c, facts.Read, -1)
			}
		}
	}
}

func memberKind(value syntax.Node) facts.Kind {
	if value.Type() == "function" {
		return facts.Method
	}
	return facts.Field
}
