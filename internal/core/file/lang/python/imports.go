package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// importModules reads import a.b, c as d.
func importModules(r *reader.Reader, n syntax.Node) {
	for c := range n.NamedChildren() {
		path, alias := c, c.Part("alias")
		if c.Type() == "aliased_import" {
			path = c.Part("name")
		}
		imp := facts.Imported{Path: path.Text(), At: path.Range()}
		id := alias
		if alias.OK() {
			imp.Alias = alias.Text()
		} else {
			id = path.First("identifier") // import a.b makes a known
			moduleUses(r, path)
		}
		number := r.Import(imp)
		if scope := r.Scope(); alias.OK() || r.Defined(scope, id.Text()) == facts.NoDef {
			r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: number})
		}
	}
}

// moduleUses notes the parts of a dotted path behind the first as uses.
func moduleUses(r *reader.Reader, path syntax.Node) {
	base := facts.NoExpr
	for c := range path.NamedChildren() {
		if base != facts.NoExpr {
			r.Use(c.Text(), facts.ImportUse, c.Range(), base)
			base = r.Expr(facts.Expr{Kind: facts.Member, Name: c.Text(), Base: base, At: c.Range()})
			continue
		}
		base = r.Expr(facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()})
	}
}

// importNames reads from .a import b as c, d, *.
func importNames(r *reader.Reader, n syntax.Node) {
	module := n.Part("module_name")
	imp := facts.Imported{Path: module.Text(), At: module.Range()}
	if prefix := module.First("import_prefix"); prefix.OK() {
		imp.Level = strings.Count(prefix.Text(), ".")
		imp.Path = strings.TrimLeft(imp.Path, ".")
	}
	for c := range n.Children() {
		switch {
		case c.Type() == "wildcard_import":
			imp.Name, imp.Alias = "*", ""
			r.Import(imp)
		case c.Field() == fName:
			original, id := c, c
			if c.Type() == "aliased_import" {
				original, id = c.Part("name"), c.Part("alias")
			}
			imp.Name, imp.Alias = original.Text(), id.Text()
			number := r.Import(imp)
			r.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: number})
			if original.Index() != id.Index() {
				// Resolved by the name it has here, which leads to the same thing.
				r.Use(id.Text(), facts.ImportUse, original.Range(), facts.NoExpr)
			}
		}
	}
}
