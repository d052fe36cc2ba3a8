package python

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
)

// importModules reads import a.b, c as d.
func (w *walker) importModules(n syntax.Node) {
	for c := range n.NamedChildren() {
		path, alias := c, c.Child(fAlias)
		if c.Type() == "aliased_import" {
			path = c.Child(fName)
		}
		imp := facts.Imported{Path: path.Text(), At: path.Range()}
		id := alias
		if alias.OK() {
			imp.Alias = alias.Text()
		} else {
			id = path.First("identifier") // import a.b makes a known
			w.moduleUses(path)
		}
		number := w.Import(imp)
		if scope := w.Scope(); alias.OK() || w.Defined(scope, id.Text()) == facts.NoDef {
			w.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: number})
		}
	}
}

// moduleUses notes the parts of a dotted path behind the first as uses.
func (w *walker) moduleUses(path syntax.Node) {
	base := facts.NoExpr
	for c := range path.NamedChildren() {
		if base != facts.NoExpr {
			w.Use(c.Text(), facts.ImportUse, c.Range(), base)
			base = w.Expr(facts.Expr{Kind: facts.Member, Name: c.Text(), Base: base, At: c.Range()})
			continue
		}
		base = w.Expr(facts.Expr{Kind: facts.Name, Name: c.Text(), At: c.Range()})
	}
}

// importNames reads from .a import b as c, d, *.
func (w *walker) importNames(n syntax.Node) {
	module := n.Child(fModule)
	imp := facts.Imported{Path: module.Text(), At: module.Range()}
	if prefix := module.First("import_prefix"); prefix.OK() {
		imp.Level = strings.Count(prefix.Text(), ".")
		imp.Path = strings.TrimLeft(imp.Path, ".")
	}
	for c := range n.Children() {
		switch {
		case c.Type() == "wildcard_import":
			imp.Name, imp.Alias = "*", ""
			w.Import(imp)
		case c.Field() == fName:
			original, id := c, c
			if c.Type() == "aliased_import" {
				original, id = c.Child(fName), c.Child(fAlias)
			}
			imp.Name, imp.Alias = original.Text(), id.Text()
			number := w.Import(imp)
			w.Def(facts.Def{Name: id.Text(), Kind: facts.Import, At: id.Range(), Full: n.Range(), Head: n.Range(), Import: number})
			if original.Index() != id.Index() {
				// Resolved by the name it has here, which leads to the same thing.
				w.Use(id.Text(), facts.ImportUse, original.Range(), facts.NoExpr)
			}
		}
	}
}
