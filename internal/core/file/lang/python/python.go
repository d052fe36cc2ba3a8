// Package python reads the facts of Python files and stubs.
package python

import (
	"context"
	"slices"
	"strings"

	"github.com/smacker/go-tree-sitter/python"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

const name = "Python"

var grammar = syntax.NewGrammar(python.GetLanguage())

var (
	fName       = grammar.Field("name")
	fBody       = grammar.Field("body")
	fParameters = grammar.Field("parameters")
	fReturn     = grammar.Field("return_type")
	fSupers     = grammar.Field("superclasses")
	fLeft       = grammar.Field("left")
	fRight      = grammar.Field("right")
	fType       = grammar.Field("type")
	fValue      = grammar.Field("value")
	fObject     = grammar.Field("object")
	fAttribute  = grammar.Field("attribute")
	fFunction   = grammar.Field("function")
	fArguments  = grammar.Field("arguments")
	fAlias      = grammar.Field("alias")
	fModule     = grammar.Field("module_name")
	fDefinition = grammar.Field("definition")
)

// Facts reads one file.
func Facts(ctx context.Context, text []byte) (*facts.File, error) {
	tree, err := syntax.Parse(ctx, grammar, text)
	if err != nil {
		return nil, err
	}
	w := &walker{Builder: facts.NewBuilder(name, len(text)), text: text, outer: map[scopedName]bool{}}
	w.all(tree.Root())
	lang.Sections(w.Builder, text, "#")
	return w.File(), nil
}

type walker struct {
	*facts.Builder
	text  []byte
	outer map[scopedName]bool // names a function declares global or nonlocal
	doc   place.Range         // a comment above the decorators of the next definition
	head  uint32              // where those decorators begin, if decorated
	marks []string            // the names of those decorators
	// returns are what the functions around give back, the innermost last.
	returns [][]facts.ExprID
}

type scopedName struct {
	scope facts.ScopeID
	name  string
}

func (w *walker) all(n syntax.Node) {
	for c := range n.NamedChildren() {
		w.node(c)
	}
}

// node reads a statement or an expression whose names are read.
func (w *walker) node(n syntax.Node) {
	switch n.Type() {
	case "identifier":
		w.Use(n.Text(), facts.Read, n.Range(), facts.NoExpr)
	case "attribute":
		w.attribute(n, facts.Read)
	case "call":
		w.call(n)
	case "decorated_definition":
		w.decorated(n)
	case "function_definition":
		w.function(n)
	case "class_definition":
		w.class(n)
	case "assignment":
		w.assignment(n)
	case "augmented_assignment":
		w.node(n.Child(fRight))
		w.target(n.Child(fLeft), binding{role: facts.ReadWrite})
	case "named_expression":
		w.node(n.Child(fValue))
		w.target(n.Child(fName), binding{value: n.Child(fValue)})
	case "for_statement":
		w.node(n.Child(fRight))
		w.target(n.Child(fLeft), binding{value: n.Child(fRight), each: true})
		for c := range n.NamedChildren() {
			if f := c.Field(); f != fLeft && f != fRight {
				w.node(c)
			}
		}
	case "list_comprehension", "set_comprehension", "dictionary_comprehension", "generator_expression":
		w.comprehension(n)
	case "as_pattern":
		w.asPattern(n)
	case "lambda":
		w.In(facts.FunctionScope, n.Range(), facts.NoDef, func() {
			w.parameters(n.Child(fParameters), facts.NoDef)
			w.node(n.Child(fBody))
		})
	case "import_statement":
		w.importModules(n)
	case "import_from_statement":
		w.importNames(n)
	case "return_statement":
		w.all(n)
		if at := len(w.returns) - 1; at >= 0 {
			if e := w.firstOf(n); e != facts.NoExpr && len(w.returns[at]) < mostReturns {
				w.returns[at] = append(w.returns[at], e)
			}
		}
	case "future_import_statement":
	case "global_statement", "nonlocal_statement":
		for c := range n.NamedChildren() {
			w.outer[scopedName{w.Scope(), c.Text()}] = true
			w.Use(c.Text(), facts.Read, c.Range(), facts.NoExpr)
		}
	case "keyword_argument":
		w.node(n.Child(fValue))
	case "type":
		w.useType(n)
	default:
		w.all(n)
	}
}

func (w *walker) attribute(n syntax.Node, role facts.Role) {
	object, name := n.Child(fObject), n.Child(fAttribute)
	w.node(object)
	w.Use(name.Text(), role, name.Range(), w.expr(object))
}

func (w *walker) call(n syntax.Node) {
	switch f := n.Child(fFunction); f.Type() {
	case "identifier":
		w.Use(f.Text(), facts.Call, f.Range(), facts.NoExpr)
	case "attribute":
		w.attribute(f, facts.Call)
	default:
		w.node(f)
	}
	if a := n.Child(fArguments); a.Type() == "generator_expression" { // sum(x for x in list)
		w.node(a)
	} else {
		w.all(a)
	}
}

func (w *walker) decorated(n syntax.Node) {
	w.doc = lang.CommentAbove(w.text, n.Range().Start, "#")
	w.head, w.marks = n.Range().Start, nil
	for c := range n.NamedChildren() {
		if c.Type() == "decorator" {
			w.all(c)
			w.marks = append(w.marks, strings.TrimSpace(strings.TrimPrefix(c.Text(), "@")))
		}
	}
	w.node(n.Child(fDefinition))
}

// start takes what is known of the decorators, so that it goes to one
// definition only, and begins that definition.
func (w *walker) start(n syntax.Node) (facts.Def, []string) {
	id, marks := n.Child(fName), w.marks
	d := facts.Def{Name: id.Text(), At: id.Range(), Full: n.Range(), Head: n.Range(), Doc: w.doc}
	if marks != nil {
		d.Full.Start = w.head
	} else {
		d.Doc = lang.CommentAbove(w.text, n.Range().Start, "#")
	}
	body := n.Child(fBody)
	if body.OK() {
		d.Head.End = trimEnd(w.text, d.Head.Start, body.Range().Start)
		if s := docString(body); s.Len() > 0 {
			d.Doc = s
		}
	}
	w.marks, w.doc = nil, place.Range{}
	return d, marks
}

// trimEnd moves an end back over the colon and blanks before a body.
func trimEnd(text []byte, start, end uint32) uint32 {
	for end > start && strings.IndexByte(" \t\r\n:", text[end-1]) >= 0 {
		end--
	}
	return end
}

// docString is the text at the beginning of a body, if there is one.
func docString(body syntax.Node) place.Range {
	for c := range body.NamedChildren() {
		if c.Type() == "comment" {
			continue
		}
		if s := c.First("string"); c.Type() == "expression_statement" && s.OK() {
			return s.Range()
		}
		break
	}
	return place.Range{}
}

func (w *walker) function(n syntax.Node) {
	d, marks := w.start(n)
	d.Kind = facts.Function
	inClass := w.Owner(facts.TypeScope) != facts.NoDef && w.Scope() == w.Enclosing(facts.TypeScope)
	if inClass {
		d.Kind = facts.Method
		if d.Name == "__init__" {
			d.Kind = facts.Constructor
		}
	}
	for _, m := range marks {
		switch {
		case m == "property" || strings.HasSuffix(m, ".setter") || strings.HasSuffix(m, "cached_property"):
			d.Kind = facts.Property
		case m == "staticmethod" || m == "classmethod":
			d.Static = true
		}
	}
	if r := n.Child(fReturn); r.OK() {
		w.useType(r)
		d.Type = w.typ(r)
	}
	owner := w.Owner(facts.TypeScope)
	id := w.Def(d)
	w.In(facts.FunctionScope, place.Range{Start: n.Child(fName).Range().End, End: n.Range().End}, id, func() {
		if !inClass || slices.Contains(marks, "staticmethod") {
			owner = facts.NoDef
		}
		w.parameters(n.Child(fParameters), owner)
		w.returns = append(w.returns, nil)
		w.all(n.Child(fBody))
		gives := w.returns[len(w.returns)-1]
		w.returns = w.returns[:len(w.returns)-1]
		switch f := w.At(id); {
		case f.Type != facts.NoExpr || len(gives) == 0 || slices.Contains(marks, "contextmanager"):
		case len(gives) == 1:
			f.Init = gives[0]
		default:
			one := w.Expr(facts.Expr{Kind: facts.OneOf, Args: gives, At: n.Range()})
			w.At(id).Init = one
		}
	})
}

// mostReturns is how many of the values a function gives back are kept.
const mostReturns = 4

func (w *walker) class(n syntax.Node) {
	d, _ := w.start(n)
	d.Kind = facts.Class
	for c := range n.Child(fSupers).NamedChildren() {
		if c.Type() == "keyword_argument" {
			w.node(c.Child(fValue))
			continue
		}
		w.useType(c)
		d.Supers = append(d.Supers, w.typ(c))
	}
	id := w.Def(d)
	// The inside begins behind the name, so that a comment before the first
	// member is in it, too.
	inside := place.Range{Start: w.At(id).At.End, End: n.Range().End}
	w.In(facts.TypeScope, inside, id, func() { w.all(n.Child(fBody)) })
}

// parameters reads those of a function; if it is a method, the first stands
// for a value of the class owner.
func (w *walker) parameters(n syntax.Node, owner facts.DefID) {
	first := true
	for p := range n.NamedChildren() {
		id := p
		switch p.Type() {
		case "identifier":
		case "default_parameter", "typed_default_parameter":
			id = p.Child(fName)
			w.node(p.Child(fValue))
		case "typed_parameter":
			id = p.First("identifier", "list_splat_pattern", "dictionary_splat_pattern")
		}
		if t := p.Child(fType); t.OK() {
			w.useType(t)
		}
		if inner := id.First("identifier"); inner.OK() {
			id = inner
		}
		if id.Type() != "identifier" {
			first = false
			continue
		}
		d := facts.Def{Name: id.Text(), Kind: facts.Parameter, At: id.Range(), Full: p.Range(), Head: p.Range()}
		if t := p.Child(fType); t.OK() {
			d.Type = w.typ(t)
		} else if v := p.Child(fValue); v.OK() {
			d.Init = w.expr(v)
		}
		if first && owner != facts.NoDef {
			o := w.At(owner)
			d.Type = w.Expr(facts.Expr{Kind: facts.Name, Name: o.Name, At: o.At})
		}
		first = false
		w.Def(d)
	}
}

// comprehension reads what has a scope of its own, but for the first of the things it goes
// through, which is looked up outside.
func (w *walker) comprehension(n syntax.Node) {
	first := n.First("for_in_clause")
	w.node(first.Child(fRight))
	w.In(facts.BlockScope, n.Range(), facts.NoDef, func() {
		for c := range n.NamedChildren() {
			if c.Type() == "for_in_clause" {
				if c.Index() != first.Index() {
					w.node(c.Child(fRight))
				}
				w.target(c.Child(fLeft), binding{value: c.Child(fRight), each: true})
			}
		}
		for c := range n.NamedChildren() {
			if c.Type() != "for_in_clause" {
				w.node(c)
			}
		}
	})
}

func (w *walker) asPattern(n syntax.Node) {
	var value syntax.Node
	for c := range n.NamedChildren() {
		if c.Type() == "as_pattern_target" {
			for t := range c.NamedChildren() {
				w.target(t, binding{value: value})
			}
			continue
		}
		w.node(c)
		value = c
	}
}
