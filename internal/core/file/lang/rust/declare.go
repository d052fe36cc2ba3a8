package rust

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// begin starts a definition. Its comment may stand above attributes.
func begin(r *reader.Reader, n, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := r.Begin(n, id, body, kind)
	at := int(n.Range().Start)
	for {
		start, ok := lang.LineStart(r.Text, uint32(at))
		if !ok || start == 0 {
			break
		}
		above, ok := lang.LineStart(r.Text, uint32(start-1))
		if !ok || !bytes.HasPrefix(bytes.TrimSpace(r.Text[above:start]), []byte("#[")) {
			break
		}
		at = above
		d.Doc = lang.CommentAbove(r.Text, uint32(at), "//")
	}
	return d
}

// use notes each name that a declaration brings in. before is the path in
// front of n, and last the last name of that.
func use(r *reader.Reader, whole, n, last syntax.Node, before string) {
	join := func(p string) string {
		if before == "" || p == "" {
			return before + p
		}
		return before + "::" + p
	}
	bring := func(path, name string, id syntax.Node) {
		imp := facts.Imported{Path: path, Name: name, Alias: id.Text(), At: n.Range()}
		r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Import: r.Import(imp)})
	}
	switch n.Type() {
	case "use_list":
		for c := range n.NamedChildren() {
			use(r, whole, c, last, before)
		}
	case "scoped_use_list":
		p := n.Part("path")
		if last = p; p.Type() == "scoped_identifier" {
			last = p.Part("name")
		}
		r.Import(facts.Imported{Path: join(p.Text()), At: p.Range()})
		use(r, whole, n.Part("list"), last, join(p.Text()))
	case "use_wildcard":
		p := reader.Nth(0)(n)
		r.Import(facts.Imported{Path: join(p.Text()), Name: "*", At: p.Range()})
	case "use_as_clause":
		p := n.Part("path")
		path, name := split(p, join)
		bring(path, name, n.Part("alias"))
	case "self":
		path, name := "", before
		if i := strings.LastIndex(before, "::"); i >= 0 {
			path, name = before[:i], before[i+len("::"):]
		}
		imp := facts.Imported{Path: path, Name: name, Alias: name, At: n.Range()}
		r.Def(facts.Def{Name: name, Kind: facts.Import, At: last.Range(), Full: whole.Range(), Head: whole.Range(), Import: r.Import(imp)})
	case "identifier", "scoped_identifier", "crate", "super":
		path, name := split(n, join)
		id := n
		if n.Type() == "scoped_identifier" {
			id = n.Part("name")
		}
		bring(path, name, id)
	}
}

// split parts a path from the last name in it.
func split(n syntax.Node, join func(string) string) (path, name string) {
	if n.Type() == "scoped_identifier" {
		return join(n.Part("path").Text()), n.Part("name").Text()
	}
	return join(""), n.Text()
}

func externCrate(r *reader.Reader, n syntax.Node) {
	id := n.Part("name")
	imp := facts.Imported{Path: id.Text(), At: id.Range()}
	if a := n.Part("alias"); a.OK() {
		id = a
	}
	imp.Alias = id.Text()
	r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
}

var fileNamed = regexp.MustCompile(`#\[path\s*=\s*"([^"]+\.rs)"\]\s*$`)

// moduleFile says where the text of a module is: in the file named in front of
// it, or else in that of its name.
func moduleFile(r *reader.Reader, n syntax.Node) string {
	before := bytes.TrimSpace(r.Text[:n.Range().Start])
	if m := fileNamed.FindSubmatch(before[max(0, len(before)-300):]); m != nil {
		return string(m[1])
	}
	return "mod " + n.Part("name").Text()
}

// module is one with a body, or one that stands in a file of its own.
func module(r *reader.Reader, n syntax.Node) {
	id, body := n.Part("name"), n.Part("body")
	if !body.OK() {
		imp := facts.Imported{Path: moduleFile(r, n), Alias: id.Text(), At: id.Range()}
		r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: r.Import(imp)})
		return
	}
	m := r.Def(begin(r, n, id, body, facts.Module))
	r.Enter(m, facts.TypeScope, n, func() { r.All(body) })
}

func typeParameters(r *reader.Reader, n syntax.Node) {
	for p := range n.Part("type_parameters").NamedChildren() {
		switch p.Type() {
		case "type_identifier":
			r.Local(p, p, facts.TypeParameter, facts.NoExpr, facts.NoExpr)
		case "constrained_type_parameter":
			bounds := p.Part("bounds")
			r.UseType(bounds)
			if id := p.Part("left"); id.Type() == "type_identifier" {
				r.Local(p, id, facts.TypeParameter, r.Expression(bounds.First("type_identifier", "scoped_type_identifier", "generic_type")), facts.NoExpr)
			}
		case "optional_type_parameter":
			r.UseType(p.Part("default_type"))
			r.Local(p, p.Part("name"), facts.TypeParameter, facts.NoExpr, facts.NoExpr)
		case "const_parameter":
			r.Local(p, p.Part("name"), facts.Parameter, r.TypeOf(p.Part("type")), facts.NoExpr)
		}
	}
	where := n.First("where_clause")
	r.UseType(where)
	for p := range where.NamedChildren() {
		if id := p.Part("left"); p.Type() == "where_predicate" && id.Type() == "type_identifier" {
			bounded(r, id.Text(), p.Part("bounds"))
		}
	}
}

// bounded says what a type parameter stands for, whose bounds are not written with it.
func bounded(r *reader.Reader, name string, bounds syntax.Node) {
	id := r.Visible(name)
	if id == facts.NoDef || r.At(id).Kind != facts.TypeParameter || r.At(id).Type != facts.NoExpr {
		return
	}
	t := r.Expression(bounds.First("type_identifier", "scoped_type_identifier", "generic_type"))
	r.At(id).Type = t
}

func declares(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		body := n.Part("body")
		id := r.Def(begin(r, n, n.Part("name"), body, kind))
		r.Enter(id, facts.TypeScope, n, func() {
			typeParameters(r, n)
			bounds := n.Part("bounds")
			r.UseType(bounds)
			for b := range bounds.NamedChildren() {
				if e := r.Expression(b); e != facts.NoExpr {
					r.At(id).Supers = append(r.At(id).Supers, e)
				}
			}
			fields(r, body)
		})
	})
}

// fields reads a body, which may be a list of types only.
func fields(r *reader.Reader, body syntax.Node) {
	if body.Type() == "ordered_field_declaration_list" {
		r.UseType(body)
		return
	}
	r.All(body)
}

func alias(r *reader.Reader, n syntax.Node) {
	id := r.Def(begin(r, n, n.Part("name"), syntax.Node{}, facts.Type))
	r.Enter(id, facts.TypeScope, n, func() {
		typeParameters(r, n)
		r.UseType(n.Part("bounds"))
		t := r.TypeOf(n.Part("type"))
		r.At(id).Type = t
	})
}

func value(kind facts.Kind) reader.Rule {
	return reader.Do(func(r *reader.Reader, n syntax.Node) {
		d := begin(r, n, n.Part("name"), syntax.Node{}, kind)
		d.Type = r.TypeOf(n.Part("type"))
		d.Static = kind != facts.Field && r.InType()
		r.Visit(n.Part("value"))
		r.Def(d)
	})
}

func variant(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, n.Part("name"), n.Part("body"), facts.EnumMember)
	d.Type = r.OwnerType()
	id := r.Def(d)
	if body := n.Part("body"); body.Type() == "field_declaration_list" {
		r.Enter(id, facts.TypeScope, n, func() { r.All(body) })
	} else {
		fields(r, body)
	}
	r.Visit(n.Part("value"))
}

// implementation holds members of a type, perhaps as a trait demands.
func implementation(r *reader.Reader, n syntax.Node) {
	t := n.Part("type")
	of := baseName(t)
	r.MembersOf(of, n.Range(), func() {
		typeParameters(r, n)
		r.UseType(t)
		if trait := n.Part("trait"); trait.OK() {
			derive(r, of, t, trait)
		}
		r.All(n.Part("body"))
	})
}

func derive(r *reader.Reader, name string, of, trait syntax.Node) {
	if super := r.TypeOf(trait); super != facts.NoExpr {
		r.Builder.Derived(facts.Derivation{Name: name, Of: r.Expression(of), Super: super})
	}
}

// baseName is the last name of a type, without type arguments.
func baseName(n syntax.Node) string {
	for {
		switch n.Type() {
		case "generic_type", "reference_type":
			n = n.Part("type")
		case "scoped_type_identifier":
			n = n.Part("name")
		default:
			return n.Text()
		}
	}
}

func function(r *reader.Reader, n syntax.Node) {
	body, params := n.Part("body"), n.Part("parameters")
	kind := facts.Function
	if r.InType() {
		if o := r.Owner(facts.TypeScope); o == facts.NoDef || !r.At(o).Kind.IsSpace() {
			kind = facts.Method
		}
	}
	d := begin(r, n, n.Part("name"), body, kind)
	d.Static = kind == facts.Method
	d.Parameters = 1
	for p := range params.NamedChildren() {
		switch p.Type() {
		case "self_parameter":
			d.Static = false
		case "parameter":
			d.Parameters++
		}
	}
	id := r.Def(d)
	r.Enter(id, facts.FunctionScope, n, func() {
		typeParameters(r, n)
		parameters(r, params)
		t := r.TypeOf(n.Part("return_type"))
		r.At(id).Type = t
		r.All(body)
	})
}

func macro(r *reader.Reader, n syntax.Node) {
	d := begin(r, n, n.Part("name"), syntax.Node{}, facts.Macro)
	d.Head.End = d.At.End
	r.Def(d)
}

// attribute names traits that are derived, and says when something is not built; of others too little is known.
func attribute(r *reader.Reader, n syntax.Node) {
	a := n.First("attribute")
	switch a.First("identifier").Text() {
	case "derive":
		for c := range a.Part("arguments").NamedChildren() {
			if c.Type() == "identifier" {
				r.Use(c.Text(), facts.TypeUse, c.Range(), facts.NoExpr)
			}
		}
	case "cfg":
		if !builtWith(a.Part("arguments").Text()) {
			r.InactiveUntil(described(n).Range().End)
		}
	}
}

// described is what an attribute stands before.
func described(n syntax.Node) syntax.Node {
	for n = n.After(); n.Type() == "attribute_item" || n.Type() == "line_comment" || n.Type() == "block_comment"; {
		n = n.After()
	}
	return n
}
