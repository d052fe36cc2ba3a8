package typecheck

import (
	"context"
	"fmt"
	"go/ast"
	"go/token"
	"go/types"
	"path"
	"path/filepath"
	"slices"
	"strconv"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/place"
)

// Values tells of values in a file of the package in a folder, of the module in a folder above it; both are relative
// to root. read gives the text of a file by its absolute path.
func Values(ctx context.Context, root, module, folder string, read func(string) ([]byte, error), asked check.Asked) (check.Values, error) {
	below, err := filepath.Rel(filepath.FromSlash(module), filepath.FromSlash(folder))
	if err != nil {
		return check.Values{}, fmt.Errorf("asking for types in %s: %w", folder, err)
	}
	l, err := list(ctx, root, []string{module}, "./"+filepath.ToSlash(below))
	if err != nil {
		return check.Values{}, err
	}
	book := check.NewBook(nil, func(string) check.Digest { return check.Digest{} }, func() []string { return nil })
	book.Read = read
	c := newChecker(l, book)
	for _, p := range l.checked {
		if p.folder != folder {
			continue
		}
		if v, ok := c.values(p, asked); ok {
			return v, ctx.Err()
		}
	}
	return check.Values{}, fmt.Errorf("asking for types: no build on this machine takes in %s", filepath.Base(asked.Path))
}

// values checks the part of a package that has the file in question.
func (c *checker) values(p *listed, asked check.Asked) (v check.Values, ok bool) {
	defer func() {
		if recover() != nil {
			ok = false // a package that the checker fails in tells nothing
		}
	}()
	c.visible(p.path)
	var combined *types.Package
	for _, part := range p.parts() {
		files := c.parse(part.files)
		own := p.path
		if part.name != p.name {
			own += "_test"
		}
		info := &types.Info{Types: map[ast.Expr]types.TypeAndValue{}, Uses: map[*ast.Ident]types.Object{}, Defs: map[*ast.Ident]types.Object{}, Selections: map[*ast.SelectorExpr]*types.Selection{}}
		pkg := c.types(p, files, own, combined, false, info, ignored)
		if f := files[asked.Path]; f != nil {
			return (&valuer{checker: c, info: info, pkg: pkg, file: f, asked: asked}).all(), true
		}
		if len(p.tests) > 0 && combined == nil {
			combined = pkg
		}
	}
	return check.Values{}, false
}

// valuer tells of values in one file.
type valuer struct {
	*checker
	info  *types.Info
	pkg   *types.Package
	file  *ast.File
	asked check.Asked
}

func (v *valuer) offset(p token.Pos) uint32 { return uint32(v.fset.PositionFor(p, false).Offset) }

func (v *valuer) at(n ast.Node) place.Range {
	return place.Range{Start: v.offset(n.Pos()), End: v.offset(n.End())}
}

func (v *valuer) all() check.Values {
	out := check.Values{Exprs: make([]check.Value, len(v.asked.Exprs)), Locals: map[uint32]check.Value{}}
	for id, o := range v.info.Defs {
		if o == nil || id.Pos() < v.file.FileStart || id.Pos() > v.file.FileEnd {
			continue
		}
		switch o.(type) {
		case *types.Var, *types.Const:
			out.Locals[v.offset(id.Pos())] = v.value(o.Type(), 1)
		}
	}
	ast.Inspect(v.file, func(n ast.Node) bool {
		if e, ok := n.(ast.Expr); ok {
			if i := slices.Index(v.asked.Exprs, v.at(e)); i >= 0 && out.Exprs[i].Count == 0 {
				out.Exprs[i] = v.expr(e)
			}
		}
		if n != nil && v.at(n).Start >= v.asked.Within.Start && v.at(n).End <= v.asked.Within.End {
			v.changes(n, out.Locals)
		}
		return true
	})
	return out
}

// expr tells of an expression.
func (v *valuer) expr(e ast.Expr) check.Value {
	t, ok := v.info.Types[e]
	if id, is := e.(*ast.Ident); is && !ok {
		if o := v.info.ObjectOf(id); o != nil {
			if _, is := o.(*types.Var); is {
				return v.value(o.Type(), 1)
			}
		}
	}
	if !ok || t.IsType() || t.IsVoid() || t.IsBuiltin() || t.IsNil() {
		return check.Value{}
	}
	if tuple, is := t.Type.(*types.Tuple); is {
		return check.Value{Count: tuple.Len()}
	}
	out := v.value(t.Type, 1)
	out.Constant = t.Value != nil && v.untyped(e)
	return out
}

// untyped says whether a constant has a type only because of where it stands.
func (v *valuer) untyped(e ast.Expr) bool {
	switch e := e.(type) {
	case *ast.BasicLit:
		return true
	case *ast.Ident:
		o := v.info.Uses[e]
		if o == nil {
			return false
		}
		b, is := o.Type().(*types.Basic)
		return is && b.Info()&types.IsUntyped != 0
	case *ast.ParenExpr:
		return v.untyped(e.X)
	case *ast.UnaryExpr:
		return v.untyped(e.X)
	case *ast.BinaryExpr:
		return v.untyped(e.X) && (e.Op == token.SHL || e.Op == token.SHR || v.untyped(e.Y))
	case *ast.SelectorExpr:
		return v.untyped(e.Sel)
	}
	return false
}

// value is how a type is written in the file.
func (v *valuer) value(t types.Type, count int) check.Value {
	out := check.Value{Count: count}
	t = types.Default(t)
	if b, is := t.(*types.Basic); is && b.Kind() == types.UntypedNil {
		return check.Value{}
	}
	good := true
	var in []string
	for _, s := range v.file.Imports {
		p, err := strconv.Unquote(s.Path.Value)
		if err != nil {
			continue
		}
		in = append(in, p)
	}
	written := types.TypeString(t, func(p *types.Package) string {
		if p == v.pkg || p.Path() == v.pkg.Path() {
			return ""
		}
		if i := slices.Index(in, p.Path()); i >= 0 {
			if name := v.file.Imports[i].Name; name != nil {
				if name.Name == "." {
					return ""
				}
				if name.Name != "_" {
					return name.Name
				}
			} else {
				return p.Name()
			}
		}
		if out.Imports == nil {
			out.Imports = map[string]string{}
		}
		out.Imports[p.Name()] = p.Path()
		return p.Name()
	})
	if !v.writable(t, &out, map[types.Type]bool{}) {
		good = false
	}
	if good {
		out.Type = written
	}
	return out
}

// writable says whether all of a type can be named in the file.
func (v *valuer) writable(t types.Type, out *check.Value, seen map[types.Type]bool) bool {
	if seen[t] {
		return true
	}
	seen[t] = true
	each := func(all ...types.Type) bool {
		ok := true
		for _, t := range all {
			ok = v.writable(t, out, seen) && ok
		}
		return ok
	}
	switch t := t.(type) {
	case *types.Basic:
		return t.Kind() != types.Invalid
	case *types.Named:
		return v.named(t.Obj(), out) && v.args(t.TypeArgs(), out, seen)
	case *types.Alias:
		return v.named(t.Obj(), out) && v.args(t.TypeArgs(), out, seen)
	case *types.TypeParam:
		return true
	case *types.Pointer:
		return each(t.Elem())
	case *types.Slice:
		return each(t.Elem())
	case *types.Array:
		return each(t.Elem())
	case *types.Chan:
		return each(t.Elem())
	case *types.Map:
		return each(t.Key(), t.Elem())
	case *types.Signature:
		return each(t.Params(), t.Results())
	case *types.Tuple:
		for i := range t.Len() {
			if !each(t.At(i).Type()) {
				return false
			}
		}
		return true
	case *types.Struct:
		for i := range t.NumFields() {
			if f := t.Field(i); !f.Exported() && f.Pkg() != v.pkg || !each(f.Type()) {
				return false
			}
		}
		return true
	case *types.Interface:
		for i := range t.NumExplicitMethods() {
			if m := t.ExplicitMethod(i); !m.Exported() && m.Pkg() != v.pkg || !each(m.Type()) {
				return false
			}
		}
		return true
	}
	return false
}

func (v *valuer) args(list *types.TypeList, out *check.Value, seen map[types.Type]bool) bool {
	for i := range list.Len() {
		if !v.writable(list.At(i), out, seen) {
			return false
		}
	}
	return true
}

// named says whether the name of a type can be written in the file.
func (v *valuer) named(o *types.TypeName, out *check.Value) bool {
	switch {
	case o.Pkg() == nil:
		return true
	case o.Parent() != o.Pkg().Scope() && o.Parent() != nil:
		out.Local = true
		return false
	case o.Pkg().Path() == v.pkg.Path():
		return true
	}
	return o.Exported() && !hidden(o.Pkg().Path(), v.pkg.Path())
}

// hidden says whether a package is internal to another part of the world than one that would import it.
func hidden(inner, from string) bool {
	for dir := inner; dir != "." && dir != "/"; dir = path.Dir(dir) {
		if path.Base(dir) == "internal" {
			top := path.Dir(dir)
			return top != "." && from != top && !(len(from) > len(top) && from[:len(top)+1] == top+"/")
		}
	}
	return false
}

// changes notes the variables that a node changes without writing them.
func (v *valuer) changes(n ast.Node, locals map[uint32]check.Value) {
	note := func(e ast.Expr, itself bool) {
		id := v.root(e, itself)
		if id == nil {
			return
		}
		if o := v.info.Uses[id]; o != nil && o.Pos() >= v.file.FileStart && o.Pos() <= v.file.FileEnd {
			at := v.offset(o.Pos())
			if l, ok := locals[at]; ok {
				l.InPlace = true
				locals[at] = l
			}
		}
	}
	switch n := n.(type) {
	case *ast.UnaryExpr:
		if n.Op == token.AND {
			note(n.X, true)
		}
	case *ast.AssignStmt:
		for _, e := range n.Lhs {
			note(e, false)
		}
	case *ast.IncDecStmt:
		note(n.X, false)
	case *ast.RangeStmt:
		for _, e := range []ast.Expr{n.Key, n.Value} {
			if e != nil {
				note(e, false)
			}
		}
	case *ast.SliceExpr:
		if t := v.info.TypeOf(n.X); t != nil {
			if _, is := t.Underlying().(*types.Array); is {
				note(n.X, true)
			}
		}
	case *ast.SelectorExpr:
		if s := v.info.Selections[n]; s != nil && s.Kind() != types.FieldVal {
			if f, is := s.Obj().(*types.Func); is && f.Signature().Recv() != nil {
				_, pointer := f.Signature().Recv().Type().(*types.Pointer)
				_, already := s.Recv().Underlying().(*types.Pointer)
				if _, typed := s.Recv().(*types.Pointer); pointer && !already && !typed && !throughPointer(s) {
					note(n.X, true)
				}
			}
		}
	}
}

// throughPointer says whether a selection goes through a field that is a pointer on its way.
func throughPointer(s *types.Selection) bool {
	t := s.Recv()
	index := s.Index()
	for _, i := range index[:len(index)-1] {
		st, is := t.Underlying().(*types.Struct)
		if !is {
			return true
		}
		t = st.Field(i).Type()
		if _, is := t.Underlying().(*types.Pointer); is {
			return true
		}
	}
	return false
}

// root is the variable of which an expression is a part; nil if that lies elsewhere, behind a pointer. With itself the
// variable alone counts, too.
func (v *valuer) root(e ast.Expr, itself bool) *ast.Ident {
	switch e := e.(type) {
	case *ast.Ident:
		if itself {
			return e
		}
	case *ast.ParenExpr:
		return v.root(e.X, itself)
	case *ast.SelectorExpr:
		if s := v.info.Selections[e]; s == nil || s.Indirect() {
			return nil
		}
		return v.root(e.X, true)
	case *ast.IndexExpr:
		if t := v.info.TypeOf(e.X); t != nil {
			if _, is := t.Underlying().(*types.Array); is {
				return v.root(e.X, true)
			}
		}
	}
	return nil
}
