package main

import (
	"context"
	"fmt"
	"go/ast"
	"go/token"
	"go/types"
	"math/rand"
	"path/filepath"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/tools/go/packages"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// comparison is one with the Go type checker.
type comparison struct {
	settings
	ws     *workspace.Workspace
	wanted func() bool
	names  tally
	uses   map[place.Place][]use // by definition
	kinds  map[place.Place]types.Object
	seen   map[place.Place]bool
	types  map[place.Place]*types.Named
	loaded map[string]bool // the files that were compared
}

// use is where a definition is used.
type use struct {
	place.Place
	call, write bool
	in          string // the function around
}

func compareGo(s settings, dir string, patterns []string) error {
	ws, err := open(s, dir)
	if err != nil {
		return err
	}
	if len(patterns) == 0 {
		patterns = []string{"./..."}
	}
	c := &comparison{settings: s, ws: ws, wanted: sampler(s.share), uses: map[place.Place][]use{}, kinds: map[place.Place]types.Object{}, seen: map[place.Place]bool{}, types: map[place.Place]*types.Named{}, loaded: map[string]bool{}}
	c.names.left = s.verbose
	loaded, err := packages.Load(&packages.Config{Dir: ws.Code.Root(), Mode: packages.LoadAllSyntax, Tests: true}, patterns...)
	if err != nil {
		return fmt.Errorf("loading the packages of %s: %w", dir, err)
	}
	for _, p := range loaded {
		if !strings.HasSuffix(p.PkgPath, ".test") {
			c.pkg(p)
		}
	}
	c.names.print("definition")
	c.references()
	c.implementations()
	return nil
}

func (c *comparison) pkg(p *packages.Package) {
	for _, file := range p.Syntax {
		rel := c.ws.Code.Relative(p.Fset.File(file.FileStart).Name())
		if filepath.IsAbs(rel) {
			continue
		}
		c.loaded[rel] = true
		roles := rolesIn(file)
		for id, o := range p.TypesInfo.Uses {
			if p.Fset.File(id.Pos()) == p.Fset.File(file.FileStart) && id.Name != "_" {
				c.name(p, rel, id, o, roles)
			}
		}
	}
	if p.ID != p.PkgPath {
		return // the types of a package under test are not those that others see
	}
	for _, name := range p.Types.Scope().Names() {
		if t, ok := p.Types.Scope().Lookup(name).(*types.TypeName); ok && !t.IsAlias() {
			if n, ok := t.Type().(*types.Named); ok && n.TypeParams().Len() == 0 && c.placeOf(p.Fset, t).Path != "" {
				c.types[c.placeOf(p.Fset, t)] = n
			}
		}
	}
}

// roles are the identifiers of a file that are called and written, and the
// function around each.
type roles struct {
	called, written map[*ast.Ident]bool
	functions       []*ast.FuncDecl
}

func rolesIn(file *ast.File) *roles {
	r := &roles{called: map[*ast.Ident]bool{}, written: map[*ast.Ident]bool{}}
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.CallExpr:
			if id := last(n.Fun); id != nil {
				r.called[id] = true
			}
		case *ast.AssignStmt:
			for _, l := range n.Lhs {
				if id := last(listed(l)); id != nil {
					r.written[id] = true
				}
			}
		case *ast.IncDecStmt:
			if id := last(listed(n.X)); id != nil {
				r.written[id] = true
			}
		case *ast.UnaryExpr: // whoever has the address may write
			if id := last(listed(n.X)); n.Op == token.AND && id != nil {
				r.written[id] = true
			}
		case *ast.KeyValueExpr:
			if id, ok := n.Key.(*ast.Ident); ok {
				r.written[id] = true
			}
		case *ast.RangeStmt:
			for _, e := range []ast.Expr{n.Key, n.Value} {
				if id := last(e); id != nil {
					r.written[id] = true
				}
			}
		case *ast.FuncDecl:
			r.functions = append(r.functions, n)
		}
		return true
	})
	return r
}

// listed is the list or the map of which an expression is an element.
func listed(e ast.Expr) ast.Expr {
	for {
		i, ok := ast.Unparen(e).(*ast.IndexExpr)
		if !ok {
			return e
		}
		e = i.X
	}
}

// last is the name that an expression comes down to.
func last(e ast.Expr) *ast.Ident {
	switch e := e.(type) {
	case *ast.Ident:
		return e
	case *ast.SelectorExpr:
		return e.Sel
	case *ast.ParenExpr:
		return last(e.X)
	case *ast.IndexExpr:
		if _, ok := e.X.(*ast.Ident); ok {
			return nil
		}
	}
	return nil
}

func (r *roles) in(at token.Pos) string {
	for _, f := range r.functions {
		if f.Pos() <= at && at < f.End() {
			return f.Name.Name
		}
	}
	return ""
}

// name compares the answers for one use of a name, and remembers the use.
func (c *comparison) name(p *packages.Package, rel string, id *ast.Ident, o types.Object, r *roles) {
	if _, ok := o.(*types.PkgName); ok {
		return // what an import leads to is a matter of taste
	}
	at := p.Fset.Position(id.Pos())
	here := place.Place{Path: rel, Line: at.Line, Col: at.Column}
	if c.seen[here] {
		return
	}
	c.seen[here] = true
	o = origin(o)
	want := c.placeOf(p.Fset, o)
	if want.Path != "" {
		c.uses[want] = append(c.uses[want], use{here, r.called[id], r.written[id], r.in(id.Pos())})
		c.kinds[want] = o
	}
	if !c.wanted() {
		return
	}
	_, spots := c.ws.Answers.All(context.Background(), answer.ToDefinition.On(rel, at.Offset))
	if i := c.names.compare([]place.Place{want}, spots); i != "" && c.names.left > 0 {
		c.names.left--
		fmt.Printf("%s %s is at %s; got %s\n", here, id.Name, want, i)
	}
}

// compare counts the answers for one name; it tells what was wrong.
func (t *tally) compare(want []place.Place, spots []answer.Answer) (wrong string) {
	t.asked++
	got := "nothing"
	if len(spots) > 0 {
		got = spots[0].Place().String() + " " + spots[0].Certainty.String()
	}
	if want[0].Path == "" {
		t.outside++
		if len(spots) > 0 && spots[0].Certainty != resolve.ByName && !filepath.IsAbs(spots[0].Path) {
			t.outsideWrong++
			return got
		}
		return ""
	}
	right, exact := false, len(spots) > 0 && spots[0].Certainty == resolve.Exact
	if exact {
		t.exact++
	}
	for i, s := range spots {
		if slices.ContainsFunc(want, func(w place.Place) bool { return s.Path == w.Path && s.Line == w.Line }) {
			if t.within++; i == 0 {
				t.first++
				return ""
			}
			right = true
			break
		}
	}
	if exact {
		t.wrongExact++
	}
	if len(spots) == 0 {
		t.missing++
	} else if spots[0].Certainty != resolve.ByName {
		if t.wrongSure++; !right {
			t.noneRight++
		}
	}
	return got
}

// placeOf is where an object is defined in the project; no path for one outside.
func (c *comparison) placeOf(fset *token.FileSet, o types.Object) place.Place {
	at := fset.Position(o.Pos())
	if strings.HasPrefix(at.Filename, "$GOROOT") {
		at.Filename = filepath.Join(runtime.GOROOT(), strings.TrimPrefix(at.Filename, "$GOROOT"))
	}
	rel := c.ws.Code.Relative(at.Filename)
	if at.Filename == "" || filepath.IsAbs(rel) {
		return place.Place{}
	}
	return place.Place{Path: rel, Line: at.Line, Col: at.Column}
}

func origin(o types.Object) types.Object {
	switch o := o.(type) {
	case *types.Var:
		return o.Origin()
	case *types.Func:
		return o.Origin()
	}
	return o
}

// chosen picks some of the definitions at random, the same ones each time.
func (c *comparison) chosen(wanted func(types.Object) bool) (some []place.Place) {
	for p, o := range c.kinds {
		if wanted(o) {
			some = append(some, p)
		}
	}
	slices.SortFunc(some, func(a, b place.Place) int { return strings.Compare(a.String(), b.String()) })
	rand.New(rand.NewSource(2)).Shuffle(len(some), func(i, j int) { some[i], some[j] = some[j], some[i] })
	return some[:min(len(some), c.asked)]
}

// share counts what was found of what there is.
type share struct{ wanted, found, right, exact, exactWrong int }

func (s *share) add(wanted map[string]bool, got map[string]resolve.Certainty) (missing, extra []string) {
	for w := range wanted {
		s.wanted++
		if _, ok := got[w]; !ok {
			missing = append(missing, w)
		}
	}
	for g, certainty := range got {
		s.found++
		if wanted[g] {
			s.right++
		} else {
			extra = append(extra, g)
		}
		if certainty == resolve.Exact {
			if s.exact++; !wanted[g] {
				s.exactWrong++
			}
		}
	}
	slices.Sort(missing)
	slices.Sort(extra)
	return missing, extra
}

func (s *share) print(title string, n int) {
	fmt.Printf("%-28s n=%d, %d places: recall %.2f %%, precision %.2f %%; exact %.1f %%, wrong though exact %d\n", title, n, s.wanted,
		percent(s.right, s.wanted), percent(s.right, s.found), percent(s.exact, s.found), s.exactWrong)
}

func (c *comparison) say(title string, at place.Place, missing, extra []string) {
	if len(missing)+len(extra) == 0 || c.verbose <= 0 {
		return
	}
	c.verbose--
	fmt.Printf("%s of %s at %s: missing %v, too many %v\n", title, c.kinds[at].Name(), at, missing[:min(3, len(missing))], extra[:min(3, len(extra))])
}

func (c *comparison) references() {
	chosen := c.chosen(func(o types.Object) bool {
		v, ok := o.(*types.Var)
		return !ok || !v.Embedded() // its name is that of the type, too
	})
	var all, writes, calls share
	for _, at := range chosen {
		f, err := c.ws.Code.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		offset := f.Text.Offset(at.Line, at.Col)
		_, refs := c.ws.Answers.All(context.Background(), answer.ToReferences.On(at.Path, offset))
		want, got := map[string]bool{}, map[string]resolve.Certainty{}
		wantWrites, gotWrites := map[string]bool{}, map[string]resolve.Certainty{}
		for _, u := range c.uses[at] {
			want[u.String()] = true
			if _, ok := c.kinds[at].(*types.Var); ok && u.write {
				wantWrites[u.String()] = true
			}
		}
		for i := range refs {
			r := &refs[i]
			if !c.loaded[r.Path] {
				continue
			}
			got[r.Place().String()] = r.Certainty
			if _, ok := c.kinds[at].(*types.Var); ok && (r.Access == facts.Write || r.Access == facts.ReadWrite) {
				gotWrites[r.Place().String()] = r.Certainty
			}
		}
		missing, extra := all.add(want, got)
		c.say("references", at, missing, extra)
		missing, extra = writes.add(wantWrites, gotWrites)
		c.say("writes", at, missing, extra)
		if _, ok := c.kinds[at].(*types.Func); ok {
			c.callers(at, offset, &calls)
		}
	}
	all.print("references", len(chosen))
	writes.print("references that write", len(chosen))
	calls.print("functions that call", len(chosen))
}

// callers compares the functions that call one outright.
func (c *comparison) callers(at place.Place, offset int, counted *share) {
	want, got := map[string]bool{}, map[string]resolve.Certainty{}
	for _, u := range c.uses[at] {
		if u.call && u.in != "" {
			want[u.Path+" "+u.in] = true
		}
	}
	_, callers := c.ws.Answers.All(context.Background(), answer.ToCallers.On(at.Path, offset))
	for _, f := range callers {
		if f.Through == "" && f.Name != "" && c.loaded[f.Path] {
			got[f.Path+" "+f.Name] = f.Certainty
		}
	}
	missing, extra := counted.add(want, got)
	c.say("callers", at, missing, extra)
}

// implementations compares the types that implement interfaces, tests apart.
func (c *comparison) implementations() {
	interfaces := c.chosen(func(o types.Object) bool {
		t, ok := o.(*types.TypeName)
		return ok && types.IsInterface(t.Type())
	})
	var counted share
	n := 0
	for _, at := range interfaces {
		named := c.types[at]
		if named == nil || named.Underlying().(*types.Interface).NumMethods() == 0 {
			continue
		}
		f, err := c.ws.Code.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		n++
		want, got := map[string]bool{}, map[string]resolve.Certainty{}
		for p, t := range c.types {
			if !types.IsInterface(t) && types.Implements(types.NewPointer(t), named.Underlying().(*types.Interface)) {
				want[p.String()] = true
			}
		}
		_, found := c.ws.Answers.All(context.Background(), answer.ToImplementations.On(at.Path, f.Text.Offset(at.Line, at.Col)))
		for _, s := range found {
			if !catalog.Set().IsTest(s.Path) && c.loaded[s.Path] && (c.types[s.Place()] != nil || s.Certainty == resolve.Exact) {
				got[s.Place().String()] = s.Certainty
			}
		}
		missing, extra := counted.add(want, got)
		c.say("implementations", at, missing, extra)
	}
	counted.print("implementations", n)
}
