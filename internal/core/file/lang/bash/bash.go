// Package bash reads the facts of shell scripts.
package bash

import (
	"regexp"
	"strings"

	"github.com/smacker/go-tree-sitter/bash"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

const name = "Bash"

var language = reader.New(reader.Language{Name: name, Grammar: syntax.NewGrammar(bash.GetLanguage()), Rules: rules, Signs: signs})

var first = reader.Nth(0)

var rules = reader.Rules{
	"comment":       reader.Nothing(),
	"variable_name": {Visit: read, Write: write},

	"variable_assignment":    reader.Do(func(r *reader.Reader, n syntax.Node) { assign(r, n, 0, facts.Variable) }),
	"declaration_command":    reader.Do(declare),
	"unset_command":          reader.Do(unset),
	"function_definition":    reader.Do(function),
	"command":                reader.Do(command),
	"for_statement":          reader.Do(forEach),
	"c_style_for_statement":  reader.Do(count),
	"arithmetic_expansion":   reader.Do(arithmetic),
	"postfix_expression":     reader.Update(first, "++", "--"),
	"heredoc_redirect_start": reader.Nothing(),
}

var word = regexp.MustCompile(`^[A-Za-z_][A-Za-z_0-9]*$`)

func read(r *reader.Reader, n syntax.Node) {
	if word.MatchString(n.Text()) { // not $1 and the like
		r.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	}
}

// write gives a value to a variable, which is one of the whole script unless
// it was made known as one of the function.
func write(r *reader.Reader, n syntax.Node, role facts.Role) { set(r, n, n, role, 0, facts.Variable) }

func set(r *reader.Reader, whole, id syntax.Node, role facts.Role, scope facts.ScopeID, kind facts.Kind) {
	name := id.Text()
	if !word.MatchString(name) {
		return
	}
	known := r.Defined(scope, name)
	if scope == 0 {
		known = r.Visible(name)
	}
	if known != facts.NoDef {
		r.Use(name, role, id.Range(), facts.NoExpr)
		return
	}
	r.Inner(scope, func() { r.Def(r.Begin(whole, id, syntax.Node{}, kind)) })
}

func assign(r *reader.Reader, n syntax.Node, scope facts.ScopeID, kind facts.Kind) {
	r.Visit(n.Part("value"))
	role := facts.Write
	if n.Has("+=") {
		role = facts.ReadWrite
	}
	id := n.Part("name")
	if id.Type() == "subscript" {
		r.Visit(id.Part("index"))
		id = id.Part("name")
		role = facts.ReadWrite
	}
	set(r, n, id, role, scope, kind)
}

// declare is local, declare, readonly or export.
func declare(r *reader.Reader, n syntax.Node) {
	scope, kind := facts.ScopeID(0), facts.Variable
	switch {
	case n.Has("local"):
		scope = r.Enclosing(facts.FunctionScope)
	case n.Has("declare") || n.Has("typeset"):
		if !strings.Contains(n.First("word").Text(), "g") {
			scope = r.Enclosing(facts.FunctionScope)
		}
	}
	if n.Has("readonly") || strings.HasPrefix(n.First("word").Text(), "-r") {
		kind = facts.Constant
	}
	for c := range n.NamedChildren() {
		switch c.Type() {
		case "variable_assignment":
			assign(r, c, scope, kind)
		case "variable_name":
			set(r, n, c, facts.Read, scope, kind)
		default:
			r.Visit(c)
		}
	}
}

func unset(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.Type() == "variable_name" {
			r.Use(c.Text(), facts.Write, c.Range(), facts.NoExpr)
		}
	}
}

func function(r *reader.Reader, n syntax.Node) {
	id, body := n.Part("name"), n.Part("body")
	f := facts.NoDef
	r.Inner(0, func() { f = r.Def(r.Begin(n, id, body, facts.Function)) })
	r.Enter(f, facts.FunctionScope, n, func() {
		r.Visit(body)
		r.Visit(n.First("file_redirect"))
	})
}

// command calls what it names, and some commands define what they are given.
func command(r *reader.Reader, n syntax.Node) {
	id := first(n.Part("name"))
	var arguments []syntax.Node
	for c := range n.NamedChildren() {
		switch {
		case c.FieldName() == "argument":
			arguments = append(arguments, c)
			r.Visit(c)
		case c != n.Part("name"):
			r.Visit(c)
		}
	}
	if id.Type() != "word" {
		r.Visit(n.Part("name"))
		return
	}
	if id.Text() != "." {
		r.Builder.Call(id.Text(), id.Range(), facts.NoExpr, len(arguments))
	}
	if len(arguments) == 0 {
		return
	}
	switch id.Text() {
	case "source", ".":
		p := arguments[0]
		r.Import(facts.Imported{Path: strings.Trim(p.Text(), `"'`), Name: "*", At: p.Range()})
	case "alias":
		if text, _, ok := strings.Cut(arguments[0].Text(), "="); ok && word.MatchString(text) {
			at := arguments[0].Range()
			at.End = at.Start + uint32(len(text))
			r.Inner(0, func() { r.Def(facts.Def{Name: text, Kind: facts.Function, At: at, Full: n.Range(), Head: n.Range()}) })
		}
	case "read", "mapfile", "readarray", "getopts":
		for _, a := range arguments {
			if a.Type() == "word" && !strings.HasPrefix(a.Text(), "-") {
				set(r, a, a, facts.Write, 0, facts.Variable)
			}
		}
	case "printf":
		if len(arguments) > 1 && arguments[0].Text() == "-v" {
			set(r, arguments[1], arguments[1], facts.Write, 0, facts.Variable)
		}
	}
}

func forEach(r *reader.Reader, n syntax.Node) {
	id := n.Part("variable")
	for c := range n.NamedChildren() {
		if c.FieldName() == "value" {
			r.Visit(c)
		}
	}
	set(r, id, id, facts.Write, 0, facts.Variable)
	r.Visit(n.Part("body"))
}

// count is a loop that counts; its head is arithmetic.
func count(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		if c.FieldName() == "body" {
			r.Visit(c)
		} else {
			arithmetic(r, c)
		}
	}
}

// arithmetic reads an expression in which bare words are variables.
func arithmetic(r *reader.Reader, n syntax.Node) {
	switch n.Type() {
	case "word":
		read(r, n)
	case "postfix_expression", "prefix_expression", "unary_expression":
		if in := first(n); in.Type() == "word" && (n.Has("++") || n.Has("--")) {
			r.Use(in.Text(), facts.ReadWrite, in.Range(), facts.NoExpr)
			return
		}
		fallthrough
	case "binary_expression", "ternary_expression", "parenthesized_expression", "arithmetic_expansion":
		for c := range n.NamedChildren() {
			arithmetic(r, c)
		}
	default:
		r.Visit(n)
	}
}
