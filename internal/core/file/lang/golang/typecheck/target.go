package typecheck

import (
	"go/ast"
	"go/build"
	"go/token"
	"go/types"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/file/check"
)

// recorder fills a record.
type recorder struct {
	*checker
	record  *check.Record
	targets map[check.Target]int32
	files   map[string]int // by full name, their number in the record
}

// use notes what an identifier means.
func (r *recorder) use(id *ast.Ident, o types.Object) {
	if _, ok := o.(*types.PkgName); ok {
		return // it means the import, which says what it stands for
	}
	at := r.fset.PositionFor(id.Pos(), false)
	n, ok := r.files[at.Filename]
	if !ok {
		return
	}
	t, ok := r.target(o, at.Filename)
	if !ok {
		return
	}
	f := &r.record.Files[n]
	f.Uses = append(f.Uses, check.Use{Offset: uint32(at.Offset), Target: r.number(t)})
}

func (r *recorder) number(t check.Target) int32 {
	n, ok := r.targets[t]
	if !ok {
		n = int32(len(r.record.Targets))
		r.targets[t] = n
		r.record.Targets = append(r.record.Targets, t)
	}
	return n
}

// target names an object so that it can be found again. from is the file that
// uses it.
func (r *recorder) target(o types.Object, from string) (check.Target, bool) {
	o = origin(o)
	if o.Pkg() == nil {
		return builtin(o)
	}
	at := r.fset.PositionFor(o.Pos(), false)
	if !o.Pos().IsValid() || at.Filename == "" {
		return check.Target{}, false
	}
	t := check.Target{File: filepath.Base(at.Filename), Name: o.Name(), Offset: uint32(at.Offset)}
	t.Folder = r.folder(filepath.Dir(at.Filename))
	switch o := o.(type) {
	case *types.Func:
		recv := o.Signature().Recv()
		if recv == nil {
			break
		}
		if t.Container = nameOf(recv.Type()); t.Container == "" {
			t.Nested = true
		}
	case *types.Var:
		if o.IsField() {
			r.mu.Lock()
			t.Container = r.fields[o.Pos()]
			r.mu.Unlock()
			t.Nested = t.Container == ""
		} else if !global(o) {
			t.Local = true
		}
	default:
		t.Local = !global(o)
	}
	if t.Local && at.Filename != from {
		return check.Target{}, false
	}
	if !t.Local && !t.Nested {
		t.Offset = 0
	}
	return t, true
}

// global says whether an object is known in all of its package.
func global(o types.Object) bool { return o.Parent() == o.Pkg().Scope() }

// origin is the object as it was written, for one that is an instance of
// something generic.
func origin(o types.Object) types.Object {
	switch o := o.(type) {
	case *types.Var:
		return o.Origin()
	case *types.Func:
		return o.Origin()
	}
	return o
}

// builtin is what the language itself defines, for which the library has a file
// that documents it.
func builtin(o types.Object) (check.Target, bool) {
	t := check.Target{Folder: filepath.ToSlash(filepath.Join(build.Default.GOROOT, "src", "builtin")), File: "builtin.go", Name: o.Name()}
	if f, ok := o.(*types.Func); ok && f.Signature().Recv() != nil {
		t.Container = nameOf(f.Signature().Recv().Type())
	}
	return t, true
}

func nameOf(t types.Type) string {
	if p, ok := t.(*types.Pointer); ok {
		t = p.Elem()
	}
	switch t := t.(type) {
	case *types.Named:
		return t.Obj().Name()
	case *types.Alias:
		return t.Obj().Name()
	}
	return ""
}

// folder writes a folder as records do.
func (l *listing) folder(dir string) string {
	if rel, err := filepath.Rel(l.root, dir); err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return filepath.ToSlash(rel)
	}
	return filepath.ToSlash(dir)
}

// noteFields remembers to which named types the fields in some files belong,
// which the type checker does not say.
func (c *checker) noteFields(files map[string]*ast.File) {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, f := range files {
		for _, d := range f.Decls {
			g, ok := d.(*ast.GenDecl)
			if !ok || g.Tok != token.TYPE {
				continue
			}
			for _, spec := range g.Specs {
				if s, ok := spec.(*ast.TypeSpec); ok {
					c.noteFieldsOf(s)
				}
			}
		}
	}
}

func (c *checker) noteFieldsOf(s *ast.TypeSpec) {
	t, ok := ast.Unparen(s.Type).(*ast.StructType)
	if !ok || t.Fields == nil {
		return
	}
	for _, f := range t.Fields.List {
		for _, n := range f.Names {
			c.fields[n.Pos()] = s.Name.Name
		}
		if len(f.Names) == 0 {
			c.fields[embeddedName(f.Type)] = s.Name.Name
		}
	}
}

// embeddedName is where the name of an embedded field stands.
func embeddedName(t ast.Expr) token.Pos {
	switch t := t.(type) {
	case *ast.StarExpr:
		return embeddedName(t.X)
	case *ast.ParenExpr:
		return embeddedName(t.X)
	case *ast.SelectorExpr:
		return t.Sel.Pos()
	case *ast.IndexExpr:
		return embeddedName(t.X)
	case *ast.IndexListExpr:
		return embeddedName(t.X)
	}
	return t.Pos()
}

// typesOf notes the named types of a package with their methods.
func (r *recorder) typesOf(pkg *types.Package) {
	if pkg == nil {
		return
	}
	for _, name := range pkg.Scope().Names() {
		o, ok := pkg.Scope().Lookup(name).(*types.TypeName)
		if !ok || o.IsAlias() {
			continue
		}
		named, ok := o.Type().(*types.Named)
		if !ok {
			continue
		}
		if _, mine := r.files[r.fset.PositionFor(o.Pos(), false).Filename]; !mine {
			continue
		}
		if t, ok := r.target(o, ""); ok {
			r.record.Types = append(r.record.Types, r.typ(named, t))
		}
	}
}

func (r *recorder) typ(named *types.Named, at check.Target) check.Type {
	t := check.Type{Target: r.number(at), Interface: types.IsInterface(named), Generic: named.TypeParams().Len() > 0}
	var set *types.MethodSet
	if t.Interface {
		set = types.NewMethodSet(named)
	} else {
		set = types.NewMethodSet(types.NewPointer(named))
	}
	for i := range set.Len() {
		f, ok := set.At(i).Obj().(*types.Func)
		if !ok {
			continue
		}
		if target, ok := r.target(f, ""); ok {
			t.Methods = append(t.Methods, check.Method{ID: f.Id(), Signature: canonical(set.At(i).Type()), Target: r.number(target)})
		}
	}
	return t
}

// view is the digest of what other packages see of one, and of what they see
// through it.
func (c *checker) view(p *listed, pkg *types.Package) check.Digest {
	d := check.NewDigester()
	if pkg == nil {
		return d.Digest()
	}
	qualified := func(p *types.Package) string { return p.Path() }
	for _, name := range pkg.Scope().Names() {
		o := pkg.Scope().Lookup(name)
		d.Add(types.ObjectString(o, qualified))
		if k, ok := o.(*types.Const); ok {
			d.Add(k.Val().ExactString())
		}
		t, ok := o.(*types.TypeName)
		if !ok || t.IsAlias() {
			continue
		}
		d.Add(types.TypeString(o.Type().Underlying(), qualified))
		if named, ok := o.Type().(*types.Named); ok {
			for m := range named.Methods() {
				d.Add(types.ObjectString(m, qualified))
			}
		}
	}
	for _, s := range c.seen(p, p.imports) {
		d.Add(s.Folder, string(s.View[:]))
	}
	return d.Digest()
}

func sortedSeen(folders map[string]check.Digest) (seen []check.Seen) {
	for f, v := range folders {
		seen = append(seen, check.Seen{Folder: f, View: v})
	}
	slices.SortFunc(seen, func(a, b check.Seen) int { return strings.Compare(a.Folder, b.Folder) })
	return seen
}

func sortFiles(fset *token.FileSet, files []*ast.File) {
	slices.SortFunc(files, func(a, b *ast.File) int {
		return strings.Compare(fset.Position(a.FileStart).Filename, fset.Position(b.FileStart).Filename)
	})
}
