package python

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

func decorated(r *reader.Reader, n syntax.Node) {
	s := stateOf(r)
	s.doc = lang.CommentAbove(r.Text, n.Range().Start, "#")
	s.head, s.marks = n.Range().Start, nil
	for c := range n.NamedChildren() {
		if c.Type() == "decorator" {
			r.All(c)
			s.marks = append(s.marks, reader.Nth(0)(c).Text())
		}
	}
	r.Visit(n.Part("definition"))
}

// start takes what is known of the decorators, so that it goes to one
// definition only, and begins that definition.
func start(r *reader.Reader, n syntax.Node) (facts.Def, []string) {
	id, s := n.Part("name"), stateOf(r)
	marks := s.marks
	d := facts.Def{Name: id.Text(), At: id.Range(), Full: n.Range(), Head: n.Range(), Doc: s.doc}
	if marks != nil {
		d.Full.Start = s.head
	} else {
		d.Doc = lang.CommentAbove(r.Text, n.Range().Start, "#")
	}
	body := n.Part("body")
	if body.OK() {
		d.Head.End = trimEnd(r.Text, d.Head.Start, body.Range().Start)
		if doc := docString(body); doc.Len() > 0 {
			d.Doc = doc
		}
	}
	s.marks, s.doc = nil, place.Range{}
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

func define(r *reader.Reader, n syntax.Node) {
	r.SetInner()
	d, marks := start(r, n)
	d.Kind = facts.Function
	inClass := r.Owner(facts.TypeScope) != facts.NoDef && r.Scope() == r.Enclosing(facts.TypeScope)
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
	if t := n.Part("return_type"); t.OK() {
		r.UseType(t)
		d.Type = typ(r, t)
	}
	d.Abstract = inClass && (slices.ContainsFunc(marks, isAbstract) || onlyRaises(n.Part("body")))
	owner, s := r.Owner(facts.TypeScope), stateOf(r)
	said := documentedBy(r, d.Doc)
	if d.Type == facts.NoExpr {
		d.Type = said.gives()
	}
	id := r.Def(d)
	s.overloads(r, id, slices.ContainsFunc(marks, isOverload))
	r.In(facts.FunctionScope, place.Range{Start: n.Part("name").Range().End, End: n.Range().End}, id, func() {
		if !inClass || slices.Contains(marks, "staticmethod") {
			owner = facts.NoDef
		}
		parameters(r, n.Part("parameters"), owner, said)
		s.returns, s.yields = append(s.returns, nil), append(s.yields, nil)
		r.Visit(n.Part("body"))
		at := len(s.returns) - 1
		gives, yields := s.returns[at], s.yields[at]
		s.returns, s.yields = s.returns[:at], s.yields[:at]
		given := r.OneOf(gives, n.Range())
		switch {
		case slices.ContainsFunc(marks, isContext): // what comes of it after with
			given = r.OneOf(known(yields), n.Range())
		case len(yields) > 0:
			given = r.Collection("list", n.Range(), r.OneOf(known(yields), n.Range()))
		}
		if r.At(id).Type == facts.NoExpr {
			r.At(id).Init = given
		}
	})
}

// overloads notes of a function whether it is only a signature of the one that follows.
func (s *state) overloads(r *reader.Reader, id facts.DefID, signature bool) {
	key := scopedName{r.At(id).Scope, r.At(id).Name}
	if signature {
		s.signatures[key] = append(s.signatures[key], id)
		return
	}
	for _, before := range s.signatures[key] {
		r.At(before).Echo = true
	}
	delete(s.signatures, key)
}

// isOverload says whether a decorator says that a function is only a signature.
func isOverload(mark string) bool { return mark[strings.LastIndexByte(mark, '.')+1:] == "overload" }

// isAbstract says whether a decorator says that derived classes have to have a method.
func isAbstract(mark string) bool {
	return strings.HasPrefix(mark[strings.LastIndexByte(mark, '.')+1:], "abstract")
}

// onlyRaises says whether a function does nothing but say that it is not there.
func onlyRaises(body syntax.Node) bool {
	raises := false
	for c := range body.NamedChildren() {
		switch {
		case c.Type() == "comment" || c.Type() == "expression_statement" && c.First("string").OK():
		case c.Type() == "raise_statement" && strings.Contains(c.Text(), "NotImplementedError"):
			raises = true
		default:
			return false
		}
	}
	return raises
}

// isContext says whether a decorator makes a function one that is used behind with.
func isContext(mark string) bool { return strings.HasSuffix(mark, "contextmanager") }

// known are those expressions of which something is known.
func known(all []facts.ExprID) []facts.ExprID {
	return slices.DeleteFunc(slices.Clone(all), func(e facts.ExprID) bool { return e == facts.NoExpr })
}

func class(r *reader.Reader, n syntax.Node) {
	d, _ := start(r, n)
	d.Kind = facts.Class
	for c := range n.Part("superclasses").NamedChildren() {
		if c.Type() == "keyword_argument" {
			r.Visit(c.Part("value"))
			continue
		}
		r.UseType(c)
		d.Supers = append(d.Supers, typ(r, c))
	}
	id := r.Def(d)
	// The inside begins behind the name, so that a comment before the first
	// member is in it, too.
	inside := place.Range{Start: r.At(id).At.End, End: n.Range().End}
	r.In(facts.TypeScope, inside, id, func() {
		stateOf(r).declared[r.Scope()] = functionsIn(n.Part("body"))
		r.Visit(n.Part("body"))
	})
}

// functionsIn are the names of the functions of a class, which may be the properties that are set before they are read.
func functionsIn(body syntax.Node) map[string]bool {
	names := map[string]bool{}
	for c := range body.NamedChildren() {
		if c.Type() == "decorated_definition" {
			c = c.Part("definition")
		}
		if c.Type() == "function_definition" {
			names[c.Part("name").Text()] = true
		}
	}
	return names
}

// parameters reads those of a function; if it is a method, the first stands
// for a value of the class owner. Of those of which no type is declared, the text may say one.
func parameters(r *reader.Reader, n syntax.Node, owner facts.DefID, said documented) {
	first := true
	for p := range n.NamedChildren() {
		id := p
		switch p.Type() {
		case "identifier":
		case "default_parameter", "typed_default_parameter":
			id = p.Part("name")
			r.Visit(p.Part("value"))
		case "typed_parameter":
			id = p.First("identifier", "list_splat_pattern", "dictionary_splat_pattern")
		}
		if t := p.Part("type"); t.OK() {
			r.UseType(t)
		}
		many := facts.NoExprKind
		switch id.Type() {
		case "list_splat_pattern":
			many = facts.ListOf
		case "dictionary_splat_pattern":
			many = facts.MapOf
		}
		if inner := id.First("identifier"); inner.OK() {
			id = inner
		}
		if id.Type() != "identifier" {
			first = false
			continue
		}
		d := facts.Def{Name: id.Text(), Kind: facts.Parameter, At: id.Range(), Full: p.Range(), Head: p.Range()}
		if t := p.Part("type"); t.OK() {
			if d.Type = typ(r, t); many != facts.NoExprKind {
				d.Type = r.Expr(facts.Expr{Kind: many, Base: d.Type, Args: []facts.ExprID{facts.NoExpr}, At: t.Range()})
			}
		} else if v := p.Part("value"); v.OK() {
			d.Init = r.Expression(v)
		}
		if first && owner != facts.NoDef {
			d.Type = r.Expr(facts.Expr{Kind: facts.Own, At: id.Range()})
		}
		first = false
		if d.Type == facts.NoExpr {
			d.Type = said.parameter(d.Name)
		}
		r.Def(d)
	}
}
