package lua

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// declaration gives values to names, which it defines if they are local or not
// known yet.
func declaration(r *reader.Reader, n syntax.Node) {
	local := n.Part("local").OK()
	var names []syntax.Node
	var given []syntax.Node
	behind := false
	for c := range n.Children() {
		switch {
		case c.Type() == "variable_declarator":
			names = append(names, c)
		case c.Type() == "=":
			behind = true
		case behind:
			given = append(given, c)
		}
	}
	values := chains(given)
	table := syntax.Node{} // a table that gets a name keeps its fields as members
	if len(names) == 1 && len(values) == 1 && len(values[0]) == 1 && values[0][0].whole.Type() == "tableconstructor" {
		table = values[0][0].whole
	} else {
		for i, v := range values {
			if module, _ := required(v[0].whole); module.OK() && i < len(names) {
				firstRequired(r, module)
			}
			follow(r, v, facts.Read, -1)
		}
	}
	for i, d := range names {
		var value []link
		if i < len(values) {
			value = values[i]
		}
		target(r, n, d, value, local, table)
	}
}

func target(r *reader.Reader, whole, n syntax.Node, value []link, local bool, table syntax.Node) {
	all := chains(children(n))
	if len(all) == 0 {
		return
	}
	chain := all[0]
	fields := func(owner facts.DefID) {
		if !table.OK() {
			return
		}
		if owner == facts.NoDef {
			r.Visit(table)
			return
		}
		r.In(facts.TypeScope, table.Range(), owner, func() { r.Visit(table) })
	}
	if len(chain) == 1 && chain[0].id.OK() {
		fields(variable(r, whole, chain[0].id, value, local))
		return
	}
	fields(member(r, whole, chain, value))
}

func variable(r *reader.Reader, whole, id syntax.Node, value []link, local bool) facts.DefID {
	if !local && r.Visible(id.Text()) != facts.NoDef {
		r.Use(id.Text(), facts.Write, id.Range(), facts.NoExpr)
		return facts.NoDef
	}
	d := r.Begin(whole, id, syntax.Node{}, facts.Variable)
	if len(value) == 1 && value[0].whole.Type() == "function" {
		d.Kind = facts.Function
	}
	if len(value) == 1 && value[0].whole.OK() {
		if module, path := required(value[0].whole); module.OK() {
			d.Kind, d.Import = facts.Import, r.Import(facts.Imported{Path: path, Alias: id.Text(), At: module.Range()})
		}
	}
	if d.Import == 0 {
		d.Init = kept(r, value)
	}
	if !local {
		made := facts.NoDef
		r.Inner(0, func() { made = r.Def(d) })
		return made
	}
	if r.Scope() != 0 {
		d.From = whole.Range().End
	}
	return r.Def(d)
}

// member gives a value to a member of a table. The first time that defines it
// if the table is one of this file, or the one whose method this is.
func member(r *reader.Reader, whole syntax.Node, chain []link, value []link) facts.DefID {
	id, owner := chain[len(chain)-1].id, chain[0].id
	container := owner.Text()
	if container == "self" {
		if f := r.Owner(facts.FunctionScope); f != facts.NoDef {
			container = r.At(f).Container
		}
	}
	known := container != "" && container != "self" && (owner.Text() == "self" || r.Defined(0, container) != facts.NoDef)
	if len(chain) != 2 || !id.OK() || !known || !r.First(container+"."+id.Text()) {
		follow(r, chain, facts.Write, -1)
		return facts.NoDef
	}
	follow(r, chain[:1], facts.Read, -1)
	d := r.Begin(whole, id, syntax.Node{}, facts.Field)
	if len(value) == 1 && value[0].whole.Type() == "function" {
		d.Kind = facts.Method
	}
	d.Container, d.Init = container, kept(r, value)
	made := facts.NoDef
	r.Inner(0, func() { made = r.Def(d) })
	return made
}

func function(r *reader.Reader, n syntax.Node) {
	name, list, body := n.Part("name"), n.First("parameter_list"), n.First("function_body")
	local := n.First("local").OK()
	end := body
	if !end.OK() {
		end = n.First("function_end")
	}
	chain := chains(children(name))
	if name.Type() == "identifier" {
		chain = [][]link{{{id: name}}}
	}
	if len(chain) == 0 {
		closure(r, n)
		return
	}
	links := qualified(name, chain)
	id := links[len(links)-1]
	d := r.Begin(n, id, end, facts.Function)
	if len(links) > 1 {
		var owner []string
		for i, l := range links[:len(links)-1] {
			owner = append(owner, l.Text())
			if i == 0 {
				r.Use(l.Text(), facts.Read, l.Range(), facts.NoExpr)
			}
		}
		d.Kind, d.Container = facts.Method, strings.Join(owner, ".")
		d.Static = !name.First("table_colon").OK()
		r.First(d.Container + "." + d.Name)
	}
	d.Parameters = 1
	for p := range list.NamedChildren() {
		d.Parameters++
		d.Variadic = d.Variadic || p.Type() == "ellipsis"
	}
	scope := facts.ScopeID(0)
	if local {
		scope = r.Scope()
	}
	f := facts.NoDef
	r.Inner(scope, func() { f = r.Def(d) })
	r.Enter(f, facts.FunctionScope, n, func() {
		parameters(r, list)
		r.Visit(body)
	})
}

// qualified are the names in front of a function, between dots and a colon
// that are nodes of their own.
func qualified(name syntax.Node, chain [][]link) (ids []syntax.Node) {
	for _, c := range chain {
		for _, l := range c {
			if l.id.OK() {
				ids = append(ids, l.id)
			}
		}
	}
	return ids
}

func parameters(r *reader.Reader, list syntax.Node) {
	for p := range list.NamedChildren() {
		if p.Type() == "identifier" {
			r.Local(p, p, facts.Parameter, facts.NoExpr, facts.NoExpr)
		}
	}
}

func closure(r *reader.Reader, n syntax.Node) {
	r.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
		parameters(r, n.First("parameter_list"))
		r.Visit(n.First("function_body"))
	})
}

// loop is one over numbers or over what something yields.
func loop(r *reader.Reader, n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		var rest []syntax.Node
		for c := range n.Children() {
			switch c.Type() {
			case "for_numeric":
				id := c.Part("var")
				var others []syntax.Node
				for p := range c.Children() {
					if p != id {
						others = append(others, p)
					}
				}
				for _, v := range chains(others) {
					follow(r, v, facts.Read, -1)
				}
				r.Local(c, id, facts.Variable, facts.NoExpr, facts.NoExpr)
			case "for_generic":
				list := c.Part("identifier_list")
				for p := range c.NamedChildren() {
					if p != list {
						r.Visit(p)
					}
				}
				for id := range list.NamedChildren() {
					r.Local(c, id, facts.Variable, facts.NoExpr, facts.NoExpr)
				}
			default:
				rest = append(rest, c)
			}
		}
		for _, v := range chains(rest) {
			follow(r, v, facts.Read, -1)
		}
	})
}
