// Package golang reads the facts of Go files with the parser of the standard
// library.
package golang

import (
	"cmp"
	"context"
	"go/ast"
	"go/build/constraint"
	"go/token"
	"path"
	"slices"
	"strconv"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

const name = "Go"

// Facts reads one file. What the parser makes of a file with errors in it is
// used as far as it goes, so it fails only if the text is nested too deeply.
func Facts(_ context.Context, text []byte) (*facts.File, error) {
	if err := tooDeep(text); err != nil {
		return nil, err
	}
	file := parse(text)
	w := &walker{Builder: facts.NewBuilder(name, len(text)), base: 1, length: len(text), nameless: map[ast.Expr]facts.ScopeID{}, chains: map[ast.Expr]facts.ExprID{}}
	if file == nil {
		return w.File(), nil
	}
	w.SetPackage(file.Name.Name)
	for _, group := range file.Comments {
		for _, c := range group.List {
			if c.Pos() < file.Package && constraint.IsGoBuild(c.Text) {
				w.SetBuild(c.Text)
			}
		}
	}
	for _, d := range file.Decls {
		w.decl(d)
	}
	w.readNameless()
	lang.Sections(w.Builder, text, "//")
	return w.File(), nil
}

// walker goes through the tree of one file.
type walker struct {
	*facts.Builder
	base   int
	length int
	// nameless are the struct and interface types that nothing with a name is
	// known to be of, with the scope they stand in.
	nameless map[ast.Expr]facts.ScopeID
	chains   map[ast.Expr]facts.ExprID // what was kept of links of chains
}

func (w *walker) offset(p token.Pos) uint32 {
	return uint32(min(max(int(p)-w.base, 0), w.length))
}

func (w *walker) span(from, to token.Pos) place.Range {
	r := place.Range{Start: w.offset(from), End: w.offset(to)}
	r.End = max(r.End, r.Start)
	return r
}

func (w *walker) at(n ast.Node) place.Range { return w.span(n.Pos(), n.End()) }

func (w *walker) comment(groups ...*ast.CommentGroup) place.Range {
	for _, g := range groups {
		if g != nil {
			return w.at(g)
		}
	}
	return place.Range{}
}

func (w *walker) decl(d ast.Decl) {
	switch d := d.(type) {
	case *ast.FuncDecl:
		w.function(d)
	case *ast.GenDecl:
		w.general(d, false)
	}
}

// general reads a declaration of imports, constants, variables or types.
func (w *walker) general(d *ast.GenDecl, local bool) {
	var repeated *ast.ValueSpec // what a constant without a value repeats
	for _, spec := range d.Specs {
		full, doc := w.at(spec), d.Doc
		if !d.Lparen.IsValid() {
			full = w.at(d)
		}
		switch spec := spec.(type) {
		case *ast.ImportSpec:
			w.imported(spec)
		case *ast.TypeSpec:
			w.typeSpec(spec, full, w.comment(spec.Doc, doc, spec.Comment))
		case *ast.ValueSpec:
			w.use(spec.Type, facts.TypeUse)
			w.uses(spec.Values)
			if d.Tok == token.CONST {
				if spec.Type != nil || spec.Values != nil {
					repeated = spec
				} else if repeated != nil {
					spec = &ast.ValueSpec{Doc: spec.Doc, Comment: spec.Comment, Names: spec.Names, Type: repeated.Type}
				}
			}
			if d.Lparen.IsValid() {
				doc = nil
			}
			w.values(spec, d.Tok, full, w.comment(spec.Doc, doc, spec.Comment), local)
		}
	}
}

func (w *walker) imported(spec *ast.ImportSpec) {
	p, err := strconv.Unquote(spec.Path.Value)
	if err != nil {
		return
	}
	name, at := importedName(p), w.at(spec.Path)
	imp := facts.Imported{Path: p, At: at}
	if spec.Name != nil {
		imp.Alias = spec.Name.Name
		name, at = imp.Alias, w.at(spec.Name)
	}
	switch name {
	case ".":
		imp.Name, imp.Alias = "*", ""
		w.Import(imp)
	case "_":
		w.Import(imp)
	default:
		n := w.Import(imp)
		w.Def(facts.Def{Name: name, Kind: facts.Import, At: at, Full: w.at(spec), Head: w.at(spec), Import: n})
	}
}

// importedName is the name a package is likely to have, given its path: the
// last part, without a version.
func importedName(p string) string {
	base := path.Base(p)
	if len(base) > 1 && base[0] == 'v' {
		if _, err := strconv.Atoi(base[1:]); err == nil {
			base = path.Base(path.Dir(p))
		}
	}
	for i := range base {
		if base[i] == '.' && i > 0 { // gopkg.in/yaml.v3
			return base[:i]
		}
	}
	if len(base) > 3 && base[:3] == "go-" {
		base = base[3:]
	}
	return base
}

func (w *walker) typeSpec(spec *ast.TypeSpec, full, doc place.Range) {
	d := facts.Def{Name: spec.Name.Name, Kind: facts.Type, At: w.at(spec.Name), Full: full, Head: full, Doc: doc, From: w.from(spec.Name.Pos())}
	switch t := spec.Type.(type) {
	case *ast.StructType:
		d.Kind = facts.Struct
		if t.Fields != nil {
			d.Head.End = w.offset(t.Fields.Opening)
		}
	case *ast.InterfaceType:
		d.Kind = facts.Interface
		if t.Methods != nil {
			d.Head.End = w.offset(t.Methods.Opening)
		}
	}
	id := w.Def(d)
	w.In(facts.TypeScope, w.span(spec.Name.End(), spec.Type.End()), id, func() {
		w.typeParams(spec.TypeParams)
		switch t := spec.Type.(type) {
		case *ast.StructType:
			w.members(t.Fields, id)
		case *ast.InterfaceType:
			w.members(t.Methods, id)
		default:
			w.use(t, facts.TypeUse)
			w.At(id).Type = w.typ(t)
		}
	})
}

// from is the offset from which a local name can be used; names of the file
// and of types can be used everywhere.
func (w *walker) from(p token.Pos) uint32 {
	if w.Enclosing(facts.FunctionScope, facts.BlockScope) == 0 {
		return 0
	}
	return w.offset(p)
}

// members reads the fields of a struct or the methods of an interface, which
// belong to the definition owner; a struct without a name has none.
func (w *walker) members(list *ast.FieldList, owner facts.DefID) {
	if list == nil {
		return
	}
	for _, f := range list.List {
		w.use(f.Type, facts.TypeUse)
		doc := w.comment(f.Doc, f.Comment)
		if len(f.Names) == 0 {
			w.embedded(f, owner, doc)
			continue
		}
		for _, n := range f.Names {
			d := facts.Def{Name: n.Name, Kind: facts.Field, At: w.at(n), Full: w.span(f.Pos(), f.Type.End()), Doc: doc, Type: w.typ(f.Type)}
			d.Head = d.Full
			if fn, ok := f.Type.(*ast.FuncType); ok && owner != facts.NoDef && w.At(owner).Kind == facts.Interface {
				d.Kind = facts.Method
				w.signatureOf(&d, fn)
			}
			w.anonymous(f.Type, w.Def(d))
		}
	}
}

// anonymous makes the members of a struct or interface type without a name
// those of the definition that has it as its type.
func (w *walker) anonymous(t ast.Expr, id facts.DefID) {
	delete(w.nameless, elem(t))
	if list := membersOf(elem(t)); list != nil {
		w.In(facts.TypeScope, w.at(t), id, func() { w.members(list, id) })
	}
}

// membersOf are the fields of a struct type or the methods of an interface type.
func membersOf(t ast.Expr) *ast.FieldList {
	switch t := t.(type) {
	case *ast.StructType:
		return t.Fields
	case *ast.InterfaceType:
		return t.Methods
	}
	return nil
}

// readNameless reads the types that nothing with a name is of, and those inside
// them.
func (w *walker) readNameless() {
	for len(w.nameless) > 0 {
		types := make([]ast.Expr, 0, len(w.nameless))
		for t := range w.nameless {
			types = append(types, t)
		}
		slices.SortFunc(types, func(a, b ast.Expr) int { return cmp.Compare(a.Pos(), b.Pos()) })
		for _, t := range types {
			scope := w.nameless[t]
			delete(w.nameless, t)
			w.Inner(scope, func() {
				w.In(facts.TypeScope, w.at(t), facts.NoDef, func() { w.members(membersOf(t), facts.NoDef) })
			})
		}
	}
}

// elem looks through pointers, lists and maps.
func elem(t ast.Expr) ast.Expr {
	for {
		switch x := t.(type) {
		case *ast.StarExpr:
			t = x.X
		case *ast.ArrayType:
			t = x.Elt
		case *ast.MapType:
			t = x.Value
		case *ast.ChanType:
			t = x.Value
		default:
			return t
		}
	}
}

// embedded reads a type that stands in a struct or interface by itself: its
// members become members, and in a struct it is a field too.
func (w *walker) embedded(f *ast.Field, owner facts.DefID, doc place.Range) {
	if owner == facts.NoDef {
		return
	}
	t := w.typ(f.Type)
	d := w.At(owner)
	d.Supers = append(d.Supers, t)
	if name := lastName(f.Type); d.Kind != facts.Interface && name != nil {
		w.Def(facts.Def{Name: name.Name, Kind: facts.Field, At: w.at(name), Full: w.at(f), Head: w.at(f), Doc: doc, Type: t})
	}
}

// lastName is the name of a type without its package, pointer and arguments.
func lastName(t ast.Expr) *ast.Ident {
	switch t := t.(type) {
	case *ast.Ident:
		return t
	case *ast.StarExpr:
		return lastName(t.X)
	case *ast.SelectorExpr:
		return t.Sel
	case *ast.IndexExpr:
		return lastName(t.X)
	case *ast.IndexListExpr:
		return lastName(t.X)
	case *ast.ParenExpr:
		return lastName(t.X)
	}
	return nil
}

// values reads constants or variables, but for what their types and values use.
func (w *walker) values(spec *ast.ValueSpec, tok token.Token, full, doc place.Range, local bool) {
	kind := facts.Variable
	if tok == token.CONST {
		kind = facts.Constant
	}
	for i, n := range spec.Names {
		d := facts.Def{Name: n.Name, Kind: kind, At: w.at(n), Full: full, Head: full, Doc: doc, Type: w.typ(spec.Type)}
		if local {
			d.From = full.End
		}
		d.Init, d.Part = w.initial(spec.Values, i, len(spec.Names))
		id := w.Def(d)
		if spec.Type != nil {
			w.anonymous(spec.Type, id)
		} else if len(spec.Values) == len(spec.Names) {
			if lit, ok := spec.Values[i].(*ast.CompositeLit); ok {
				w.anonymous(lit.Type, id)
			}
		}
	}
}

// initial finds which of the values the i-th of n names gets.
func (w *walker) initial(values []ast.Expr, i, n int) (facts.ExprID, int) {
	switch {
	case len(values) == n:
		return w.expr(values[i]), 0
	case len(values) == 1:
		return w.expr(values[0]), i + 1
	}
	return facts.NoExpr, 0
}

func (w *walker) function(d *ast.FuncDecl) {
	def := facts.Def{
		Name: d.Name.Name, Kind: facts.Function, At: w.at(d.Name), Full: w.span(d.Pos(), d.End()),
		Head: w.span(d.Pos(), d.Type.End()), Doc: w.comment(d.Doc),
	}
	if d.Doc != nil {
		def.Full.Start = w.offset(d.Type.Func)
		def.Head.Start = def.Full.Start
	}
	if d.Recv != nil {
		def.Kind = facts.Method
		if len(d.Recv.List) > 0 {
			if n := lastName(d.Recv.List[0].Type); n != nil {
				def.Container = n.Name
			}
		}
	}
	id := w.Def(def)
	w.In(facts.FunctionScope, w.span(d.Name.End(), d.End()), id, func() {
		if d.Recv != nil {
			w.receiver(d.Recv)
		}
		signed := *w.At(id) // in here, where type parameters are known
		w.signatureOf(&signed, d.Type)
		*w.At(id) = signed
		w.signature(d.Type, bodyStart(d.Body, d.Type))
		if d.Body != nil {
			w.stmts(d.Body.List)
		}
	})
}

// receiver reads the receiver of a method, whose type arguments are names it
// defines.
func (w *walker) receiver(recv *ast.FieldList) {
	for _, f := range recv.List {
		t := f.Type
		if s, ok := t.(*ast.StarExpr); ok {
			t = s.X
		}
		var args []ast.Expr
		switch x := t.(type) {
		case *ast.IndexExpr:
			t, args = x.X, []ast.Expr{x.Index}
		case *ast.IndexListExpr:
			t, args = x.X, x.Indices
		}
		w.use(t, facts.TypeUse)
		for _, a := range args {
			if n, ok := a.(*ast.Ident); ok {
				w.Def(facts.Def{Name: n.Name, Kind: facts.TypeParameter, At: w.at(n), Full: w.at(n), Head: w.at(n)})
			}
		}
		for _, n := range f.Names {
			w.Def(facts.Def{Name: n.Name, Kind: facts.Parameter, At: w.at(n), Full: w.at(f), Head: w.at(f), Type: w.typ(t)})
		}
	}
}

// bodyStart is where the names of parameters begin to count; in the signature
// itself they do not.
func bodyStart(body *ast.BlockStmt, t *ast.FuncType) token.Pos {
	if body != nil {
		return body.Lbrace
	}
	return t.End()
}

// signature reads type parameters, parameters and results in the scope of the
// function; names can be used from the given position on.
func (w *walker) signature(t *ast.FuncType, from token.Pos) {
	w.typeParams(t.TypeParams)
	for _, list := range []*ast.FieldList{t.Params, t.Results} {
		if list == nil {
			continue
		}
		for _, f := range list.List {
			w.use(f.Type, facts.TypeUse)
			for _, n := range f.Names {
				w.anonymous(f.Type, w.Def(facts.Def{Name: n.Name, Kind: facts.Parameter, At: w.at(n), Full: w.at(f), Head: w.at(f), Type: w.typ(f.Type), From: w.offset(from)}))
			}
		}
	}
}

func (w *walker) typeParams(list *ast.FieldList) {
	if list == nil {
		return
	}
	for _, f := range list.List {
		w.use(f.Type, facts.TypeUse)
		for _, n := range f.Names {
			w.Def(facts.Def{Name: n.Name, Kind: facts.TypeParameter, At: w.at(n), Full: w.at(f), Head: w.at(f), Type: w.typ(f.Type)})
		}
	}
}

// signatureOf notes the types of what a function takes and gives.
func (w *walker) signatureOf(d *facts.Def, t *ast.FuncType) {
	d.Type = w.results(t.Results)
	d.Params = w.each(t.Params)
	d.Parameters = 1 + len(d.Params)
	if n := len(t.Params.List); n > 0 {
		_, d.Variadic = t.Params.List[n-1].Type.(*ast.Ellipsis)
	}
}

// each is the type of each of the names in a list, or of each type in it.
func (w *walker) each(list *ast.FieldList) (types []facts.ExprID) {
	for _, f := range list.List {
		for range max(1, len(f.Names)) {
			types = append(types, w.typ(f.Type))
		}
	}
	return types
}

// results is the type of what a function gives.
func (w *walker) results(list *ast.FieldList) facts.ExprID {
	if list == nil {
		return facts.NoExpr
	}
	types := w.each(list)
	if len(types) == 1 {
		return types[0]
	}
	return w.Expr(facts.Expr{Kind: facts.TupleOf, Args: types, At: w.at(list)})
}
