package golang

import (
	"go/ast"
	"go/token"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// expr keeps of an expression what helps to find out its type. It notes no
// uses.
func (w *walker) expr(e ast.Expr) facts.ExprID {
	if !isChain(e) {
		return w.exprOf(e)
	}
	id, known := w.chains[e]
	if !known {
		id = w.exprOf(e)
		w.chains[e] = id
	}
	return id
}

// isChain says whether an expression is a link of a chain such as a.b().c: each of its uses asks
// for all that is in front of it, which is kept only once.
func isChain(e ast.Expr) bool {
	switch base := baseOf(e).(type) {
	case *ast.SelectorExpr, *ast.CallExpr, *ast.IndexExpr:
		return baseOf(base) != nil
	}
	return false
}

// baseOf is what stands in front of a member, of the arguments of a call, of an index.
func baseOf(e ast.Expr) ast.Expr {
	switch e := e.(type) {
	case *ast.SelectorExpr:
		return e.X
	case *ast.CallExpr:
		return e.Fun
	case *ast.IndexExpr:
		return e.X
	}
	return nil
}

func (w *walker) exprOf(e ast.Expr) facts.ExprID {
	switch e := e.(type) {
	case *ast.Ident:
		return w.Expr(facts.Expr{Kind: facts.Name, Name: e.Name, At: w.at(e)})
	case *ast.SelectorExpr:
		return w.Expr(facts.Expr{Kind: facts.Member, Name: e.Sel.Name, Base: w.expr(e.X), At: w.at(e.Sel)})
	case *ast.CallExpr:
		return w.call(e)
	case *ast.CompositeLit:
		return w.value(e.Type, e)
	case *ast.TypeAssertExpr:
		return w.value(e.Type, e)
	case *ast.ParenExpr:
		return w.expr(e.X)
	case *ast.StarExpr:
		return w.expr(e.X)
	case *ast.SliceExpr:
		return w.expr(e.X)
	case *ast.UnaryExpr:
		if e.Op == token.ARROW {
			return w.Expr(facts.Expr{Kind: facts.Each, Base: w.expr(e.X), At: w.at(e)})
		}
		return w.expr(e.X)
	case *ast.BinaryExpr:
		switch e.Op {
		case token.EQL, token.NEQ, token.LSS, token.LEQ, token.GTR, token.GEQ, token.LAND, token.LOR:
			return w.Expr(facts.Expr{Kind: facts.Literal, Name: "bool", At: w.at(e)})
		}
		return w.expr(e.X)
	case *ast.IndexExpr:
		return w.Expr(facts.Expr{Kind: facts.Index, Base: w.expr(e.X), At: w.at(e)})
	case *ast.IndexListExpr:
		return w.expr(e.X)
	case *ast.BasicLit:
		name := map[token.Token]string{token.INT: "int", token.FLOAT: "float64", token.STRING: "string", token.CHAR: "rune", token.IMAG: "complex128"}[e.Kind]
		return w.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: w.at(e)})
	case *ast.FuncLit:
		return w.Expr(facts.Expr{Kind: facts.Func, Base: w.results(e.Type.Results), At: w.at(e)})
	case *ast.ArrayType, *ast.MapType, *ast.ChanType, *ast.FuncType:
		return w.typ(e)
	}
	return facts.NoExpr
}

// value is a value of the type t; of an unknown type if t is nil.
func (w *walker) value(t ast.Expr, e ast.Node) facts.ExprID {
	if t == nil {
		return facts.NoExpr
	}
	return w.Expr(facts.Expr{Kind: facts.Value, Base: w.typ(t), At: w.at(e)})
}

func (w *walker) call(e *ast.CallExpr) facts.ExprID {
	if n, ok := e.Fun.(*ast.Ident); ok && len(e.Args) > 0 {
		switch n.Name {
		case "new", "make":
			return w.value(e.Args[0], e)
		case "append", "min", "max":
			return w.expr(e.Args[0])
		case "len", "cap", "copy":
			return w.Expr(facts.Expr{Kind: facts.Literal, Name: "int", At: w.at(e)})
		}
	}
	switch fun := ast.Unparen(e.Fun).(type) {
	case *ast.ArrayType, *ast.MapType, *ast.ChanType, *ast.StarExpr:
		return w.value(fun, e)
	}
	var args []facts.ExprID
	for _, a := range e.Args {
		args = append(args, w.expr(a))
	}
	return w.Expr(facts.Expr{Kind: facts.CallOf, Base: w.expr(e.Fun), Args: args, At: w.at(e)})
}

// typ keeps a type. Pointers are looked through, since their members are
// those of what they point to.
func (w *walker) typ(e ast.Expr) facts.ExprID {
	switch e := e.(type) {
	case *ast.Ident:
		return w.Expr(facts.Expr{Kind: facts.Name, Name: e.Name, At: w.at(e)})
	case *ast.SelectorExpr:
		return w.Expr(facts.Expr{Kind: facts.Member, Name: e.Sel.Name, Base: w.expr(e.X), At: w.at(e.Sel)})
	case *ast.StarExpr:
		return w.typ(e.X)
	case *ast.ParenExpr:
		return w.typ(e.X)
	case *ast.UnaryExpr: // ~T in a constraint
		return w.typ(e.X)
	case *ast.ArrayType:
		return w.Expr(facts.Expr{Kind: facts.ListOf, Base: w.typ(e.Elt), At: w.at(e)})
	case *ast.ChanType:
		return w.Expr(facts.Expr{Kind: facts.ListOf, Base: w.typ(e.Value), At: w.at(e)})
	case *ast.Ellipsis:
		return w.Expr(facts.Expr{Kind: facts.ListOf, Base: w.typ(e.Elt), At: w.at(e)})
	case *ast.MapType:
		return w.Expr(facts.Expr{Kind: facts.MapOf, Base: w.typ(e.Value), Args: []facts.ExprID{w.typ(e.Key)}, At: w.at(e)})
	case *ast.StructType, *ast.InterfaceType:
		return w.Expr(facts.Expr{Kind: facts.Shape, At: w.at(e)})
	case *ast.FuncType:
		return w.Expr(facts.Expr{Kind: facts.FuncOf, Base: w.results(e.Results), Args: w.each(e.Params), At: w.at(e)})
	case *ast.IndexExpr:
		return w.generic(e.X, []ast.Expr{e.Index}, e)
	case *ast.IndexListExpr:
		return w.generic(e.X, e.Indices, e)
	}
	return facts.NoExpr
}

func (w *walker) generic(base ast.Expr, args []ast.Expr, at ast.Node) facts.ExprID {
	e := facts.Expr{Kind: facts.GenericOf, Base: w.typ(base), At: w.at(at)}
	for _, a := range args {
		e.Args = append(e.Args, w.typ(a))
	}
	return w.Expr(e)
}

func (w *walker) uses(list []ast.Expr) {
	for _, e := range list {
		w.use(e, facts.Read)
	}
}

// use notes all names used in an expression, the expression itself in the
// given role.
func (w *walker) use(e ast.Expr, role facts.Role) {
	switch e := e.(type) {
	case *ast.Ident:
		if e.Name != "_" {
			w.Use(e.Name, role, w.at(e), facts.NoExpr)
		}
	case *ast.SelectorExpr:
		w.use(e.X, facts.Read)
		w.Use(e.Sel.Name, role, w.at(e.Sel), w.expr(e.X))
	case *ast.CallExpr:
		w.use(ast.Unparen(e.Fun), facts.Call)
		if !w.subtest(e) {
			w.uses(e.Args)
		}
	case *ast.CompositeLit:
		w.literal(e, e.Type)
	case *ast.TypeAssertExpr:
		w.use(e.X, facts.Read)
		w.use(e.Type, facts.TypeUse)
	case *ast.ParenExpr:
		w.use(e.X, role)
	case *ast.StarExpr:
		if role == facts.Write || role == facts.ReadWrite {
			role = facts.Read // what is written is what it points to
		}
		w.use(e.X, role)
	case *ast.SliceExpr:
		w.use(e.X, facts.Read)
		w.uses([]ast.Expr{e.Low, e.High, e.Max})
	case *ast.UnaryExpr:
		if e.Op == token.AND { // whoever has the address may do both
			w.use(e.X, facts.ReadWrite)
			return
		}
		w.use(e.X, facts.Read)
	case *ast.BinaryExpr:
		if role != facts.TypeUse {
			role = facts.Read
		}
		w.use(e.X, role)
		w.use(e.Y, role)
	case *ast.IndexExpr:
		w.use(e.X, indexed(role, e.Index))
		if role != facts.TypeUse {
			role = facts.Read
		}
		w.use(e.Index, role)
	case *ast.IndexListExpr:
		w.use(e.X, role)
		for _, i := range e.Indices {
			w.use(i, facts.TypeUse)
		}
	case *ast.KeyValueExpr:
		w.use(e.Key, facts.Read)
		w.use(e.Value, facts.Read)
	case *ast.FuncLit:
		w.In(facts.FunctionScope, w.at(e), facts.NoDef, func() {
			w.signature(e.Type, bodyStart(e.Body, e.Type))
			if e.Body != nil {
				w.stmts(e.Body.List)
			}
		})
	default:
		w.useType(e)
	}
}

// subtest reads the arguments of t.Run("name", func(t *testing.T) { … }), which is a test; it says whether it is one.
func (w *walker) subtest(e *ast.CallExpr) bool {
	f, ok := e.Fun.(*ast.SelectorExpr)
	if !ok || f.Sel.Name != "Run" || len(e.Args) != 2 {
		return false
	}
	name, isName := e.Args[0].(*ast.BasicLit)
	body, isFunc := e.Args[1].(*ast.FuncLit)
	if !isName || !isFunc || name.Kind != token.STRING || len(name.Value) < 3 {
		return false
	}
	at := w.at(name)
	at.Start, at.End = at.Start+1, at.End-1
	id := w.Def(facts.Def{Name: name.Value[1 : len(name.Value)-1], Kind: facts.Test, At: at, Full: w.at(e), Head: place.Range{Start: w.at(e).Start, End: w.at(name).End}})
	w.In(facts.FunctionScope, w.at(body), id, func() {
		w.signature(body.Type, bodyStart(body.Body, body.Type))
		if body.Body != nil {
			w.stmts(body.Body.List)
		}
	})
	return true
}

// indexed is the role of x in x[i]: who writes an element reads the list and changes it; who calls an element reads it, while
// a function is called by a type.
func indexed(role facts.Role, index ast.Expr) facts.Role {
	switch {
	case role == facts.Write:
		return facts.ReadWrite
	case role == facts.Call && !looksLikeType(index):
		return facts.Read
	}
	return role
}

// looksLikeType says whether an expression is a type by how it is written.
func looksLikeType(e ast.Expr) bool {
	switch e := e.(type) {
	case *ast.Ident:
		return ast.IsExported(e.Name) || builtin[e.Name]
	case *ast.SelectorExpr:
		return ast.IsExported(e.Sel.Name)
	case *ast.StarExpr:
		return looksLikeType(e.X)
	case *ast.ArrayType, *ast.MapType, *ast.ChanType, *ast.FuncType, *ast.StructType, *ast.InterfaceType:
		return true
	}
	return false
}

// useType notes the names used in the forms that only types have.
func (w *walker) useType(e ast.Expr) {
	switch e := e.(type) {
	case *ast.ArrayType:
		w.use(e.Len, facts.Read)
		w.use(e.Elt, facts.TypeUse)
	case *ast.Ellipsis:
		w.use(e.Elt, facts.TypeUse)
	case *ast.MapType:
		w.use(e.Key, facts.TypeUse)
		w.use(e.Value, facts.TypeUse)
	case *ast.ChanType:
		w.use(e.Value, facts.TypeUse)
	case *ast.StructType, *ast.InterfaceType:
		w.nameless[e] = w.Scope()
	case *ast.FuncType:
		w.In(facts.FunctionScope, w.at(e), facts.NoDef, func() { w.signature(e, e.End()) })
	}
}

// literal notes the uses in a composite literal of the type t, which for an
// inner one may be written only on the outer one.
func (w *walker) literal(e *ast.CompositeLit, t ast.Expr) {
	if e.Type != nil {
		w.use(e.Type, facts.TypeUse)
	}
	var inner ast.Expr
	keyed := true // keys may be the names of fields
	switch t := t.(type) {
	case *ast.ArrayType:
		inner, keyed = t.Elt, false
	case *ast.MapType:
		inner, keyed = t.Value, false
	case *ast.StarExpr:
		w.literal(&ast.CompositeLit{Elts: e.Elts, Lbrace: e.Lbrace, Rbrace: e.Rbrace}, t.X)
		return
	}
	for _, elt := range e.Elts {
		value := elt
		if kv, ok := elt.(*ast.KeyValueExpr); ok {
			value = kv.Value
			if name, ok := kv.Key.(*ast.Ident); ok && keyed && t != nil {
				w.Use(name.Name, facts.Write, w.at(name), w.value(t, e))
			} else {
				w.use(kv.Key, facts.Read)
			}
		}
		if lit, ok := value.(*ast.CompositeLit); ok && lit.Type == nil {
			w.literal(lit, inner)
			continue
		}
		w.use(value, facts.Read)
	}
}
