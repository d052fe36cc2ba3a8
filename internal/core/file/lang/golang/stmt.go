package golang

import (
	"go/ast"
	"go/token"

	"rooktrail/internal/core/file/facts"
)

func (w *walker) stmts(list []ast.Stmt) {
	for _, s := range list {
		w.stmt(s)
	}
}

func (w *walker) block(at ast.Node, walk func()) {
	w.In(facts.BlockScope, w.at(at), facts.NoDef, walk)
}

func (w *walker) stmt(s ast.Stmt) {
	switch s := s.(type) {
	case *ast.BlockStmt:
		if s != nil {
			w.block(s, func() { w.stmts(s.List) })
		}
	case *ast.ExprStmt:
		w.use(s.X, facts.Read)
	case *ast.AssignStmt:
		w.assign(s)
	case *ast.IncDecStmt:
		w.use(s.X, facts.ReadWrite)
	case *ast.DeclStmt:
		if d, ok := s.Decl.(*ast.GenDecl); ok {
			w.general(d, true)
		}
	case *ast.ReturnStmt:
		w.uses(s.Results)
	case *ast.GoStmt:
		w.use(s.Call, facts.Read)
	case *ast.DeferStmt:
		w.use(s.Call, facts.Read)
	case *ast.SendStmt:
		w.use(s.Chan, facts.Read)
		w.use(s.Value, facts.Read)
	case *ast.LabeledStmt:
		w.Inner(w.Enclosing(facts.FunctionScope), func() {
			w.Def(facts.Def{Name: s.Label.Name + ":", Kind: facts.Label, At: w.at(s.Label), Full: w.at(s.Label), Head: w.at(s.Label)})
		})
		w.stmt(s.Stmt)
	case *ast.BranchStmt:
		if s.Label != nil {
			w.Use(s.Label.Name+":", facts.Read, w.at(s.Label), facts.NoExpr)
		}
	case *ast.IfStmt:
		w.block(s, func() {
			w.stmt(s.Init)
			w.use(s.Cond, facts.Read)
			w.stmt(s.Body)
			w.stmt(s.Else)
		})
	case *ast.ForStmt:
		w.block(s, func() {
			w.stmt(s.Init)
			w.use(s.Cond, facts.Read)
			w.stmt(s.Post)
			w.stmt(s.Body)
		})
	case *ast.RangeStmt:
		w.block(s, func() { w.rangeOver(s) })
	case *ast.SwitchStmt:
		w.block(s, func() {
			w.stmt(s.Init)
			w.use(s.Tag, facts.Read)
			w.clauses(s.Body, nil, nil)
		})
	case *ast.TypeSwitchStmt:
		w.block(s, func() { w.typeSwitch(s) })
	case *ast.SelectStmt:
		w.clauses(s.Body, nil, nil)
	}
}

// assign reads an assignment, which defines names or writes to them.
func (w *walker) assign(s *ast.AssignStmt) {
	w.uses(s.Rhs)
	for i, l := range s.Lhs {
		name, isName := l.(*ast.Ident)
		switch {
		case s.Tok != token.DEFINE || !isName:
			role := facts.Write
			if s.Tok != token.ASSIGN && s.Tok != token.DEFINE {
				role = facts.ReadWrite
			}
			w.use(l, role)
		case name.Name == "_":
		case w.Defined(w.Scope(), name.Name) != facts.NoDef:
			w.use(l, facts.Write)
		default:
			init, part := w.initial(s.Rhs, i, len(s.Lhs))
			id := w.Def(facts.Def{Name: name.Name, Kind: facts.Variable, At: w.at(name), Full: w.at(s), Head: w.at(s), Init: init, Part: part, From: w.offset(s.End())})
			if len(s.Rhs) == len(s.Lhs) {
				if lit, ok := s.Rhs[i].(*ast.CompositeLit); ok && lit.Type != nil {
					w.anonymous(lit.Type, id)
				}
			}
		}
	}
}

func (w *walker) rangeOver(s *ast.RangeStmt) {
	w.use(s.X, facts.Read)
	for i, e := range []ast.Expr{s.Key, s.Value} {
		name, isName := e.(*ast.Ident)
		if e == nil || isName && name.Name == "_" {
			continue
		}
		if s.Tok != token.DEFINE || !isName {
			w.use(e, facts.Write)
			continue
		}
		kind := facts.EachKey
		if i == 1 {
			kind = facts.Each
		}
		init := w.Expr(facts.Expr{Kind: kind, Base: w.expr(s.X), At: w.at(s.X)})
		w.Def(facts.Def{Name: name.Name, Kind: facts.Variable, At: w.at(name), Full: w.span(s.Pos(), s.X.End()), Head: w.span(s.Pos(), s.X.End()), Init: init, From: w.offset(s.X.End())})
	}
	w.stmt(s.Body)
}

// clauses reads the cases of a switch or select. In a type switch, name is
// what each case defines anew, as a value of the type of that case, or else of
// the subject.
func (w *walker) clauses(body *ast.BlockStmt, name *ast.Ident, subject ast.Expr) {
	if body == nil {
		return
	}
	for _, s := range body.List {
		switch c := s.(type) {
		case *ast.CaseClause:
			w.block(c, func() {
				role := facts.Read
				if subject != nil {
					role = facts.TypeUse
				}
				for _, e := range c.List {
					w.use(e, role)
				}
				if name != nil {
					d := facts.Def{Name: name.Name, Kind: facts.Variable, At: w.at(name), Full: w.at(name), Head: w.at(name)}
					if len(c.List) == 1 {
						d.Type = w.typ(c.List[0])
					} else {
						d.Init = w.expr(subject)
					}
					w.Def(d)
				}
				w.stmts(c.Body)
			})
		case *ast.CommClause:
			w.block(c, func() {
				w.stmt(c.Comm)
				w.stmts(c.Body)
			})
		}
	}
}

func (w *walker) typeSwitch(s *ast.TypeSwitchStmt) {
	w.stmt(s.Init)
	var subject ast.Expr
	var name *ast.Ident
	switch a := s.Assign.(type) {
	case *ast.ExprStmt:
		subject = a.X
	case *ast.AssignStmt:
		if len(a.Lhs) == 1 && len(a.Rhs) == 1 {
			name, _ = a.Lhs[0].(*ast.Ident)
			subject = a.Rhs[0]
		}
	}
	if t, ok := subject.(*ast.TypeAssertExpr); ok {
		subject = t.X
	}
	if subject == nil {
		return
	}
	w.use(subject, facts.Read)
	w.clauses(s.Body, name, subject)
}
