package typecheck

import (
	"errors"
	"go/ast"
	"go/build"
	"go/token"
	"go/types"
	"reflect"
	"slices"
	"strings"

	"golang.org/x/tools/go/analysis"
	"golang.org/x/tools/go/analysis/suite/vet"

	"rooktrail/internal/core/file/check"
)

// unfit are analyses of the suite that look at more than what is read here: comments, or files that are not Go; and one that finds
// what is a matter of taste by the hundred.
var unfit = []string{"asmdecl", "buildtag", "directive", "framepointer", "composites"}

// analysing runs the analyses of go vet on one package. What an analysis finds out about a package is known in that package alone.
type analysing struct {
	fset    *token.FileSet
	files   []*ast.File
	pkg     *types.Package
	info    *types.Info
	version string
	read    func(name string) ([]byte, error)
	report  func(at token.Pos, end token.Pos, by, text string, fixes []analysis.SuggestedFix)

	results map[*analysis.Analyzer]any
	failed  map[*analysis.Analyzer]bool
	objects map[objectFact]analysis.Fact
	pkgs    map[packageFact]analysis.Fact
}

type objectFact struct {
	of  types.Object
	typ reflect.Type
}

type packageFact struct {
	of  *types.Package
	typ reflect.Type
}

// vet runs all of them. An analysis that fails tells nothing.
func (a *analysing) vet() {
	a.results, a.failed = map[*analysis.Analyzer]any{}, map[*analysis.Analyzer]bool{}
	a.objects, a.pkgs = map[objectFact]analysis.Fact{}, map[packageFact]analysis.Fact{}
	for _, one := range vet.Suite {
		if !slices.Contains(unfit, one.Name) {
			a.run(one, true)
		}
	}
}

// run runs an analysis after those that it needs. Of those that are only needed nothing is told.
func (a *analysing) run(one *analysis.Analyzer, told bool) (ok bool) {
	if _, done := a.results[one]; done || a.failed[one] {
		return done
	}
	results := map[*analysis.Analyzer]any{}
	for _, need := range one.Requires {
		if !a.run(need, false) {
			a.failed[one] = true
			return false
		}
		results[need] = a.results[need]
	}
	defer func() {
		if recover() != nil {
			a.failed[one], ok = true, false
		}
	}()
	result, err := one.Run(a.pass(one, results, told))
	if err != nil {
		a.failed[one] = true
		return false
	}
	a.results[one] = result
	return true
}

func (a *analysing) pass(one *analysis.Analyzer, results map[*analysis.Analyzer]any, told bool) *analysis.Pass {
	return &analysis.Pass{
		Analyzer: one, Fset: a.fset, Files: a.files, Pkg: a.pkg, TypesInfo: a.info, TypesSizes: types.SizesFor("gc", build.Default.GOARCH),
		Module: &analysis.Module{GoVersion: a.version}, ResultOf: results, ReadFile: a.read,
		Report: func(d analysis.Diagnostic) {
			if told {
				a.report(d.Pos, d.End, one.Name, d.Message, d.SuggestedFixes)
			}
		},
		ImportObjectFact: func(of types.Object, fact analysis.Fact) bool {
			return known(a.objects[objectFact{of, reflect.TypeOf(fact)}], fact)
		},
		ImportPackageFact: func(of *types.Package, fact analysis.Fact) bool {
			return known(a.pkgs[packageFact{of, reflect.TypeOf(fact)}], fact)
		},
		ExportObjectFact:  func(of types.Object, fact analysis.Fact) { a.objects[objectFact{of, reflect.TypeOf(fact)}] = fact },
		ExportPackageFact: func(fact analysis.Fact) { a.pkgs[packageFact{a.pkg, reflect.TypeOf(fact)}] = fact },
		AllObjectFacts:    func() []analysis.ObjectFact { return nil },
		AllPackageFacts:   func() []analysis.PackageFact { return nil },
	}
}

// known copies a fact that is known to where it is asked for.
func known(fact, asked analysis.Fact) bool {
	if fact == nil {
		return false
	}
	reflect.ValueOf(asked).Elem().Set(reflect.ValueOf(fact).Elem())
	return true
}

// fullInfo is what the analyses want to know of a package.
func fullInfo() *types.Info {
	return &types.Info{Uses: map[*ast.Ident]types.Object{}, Defs: map[*ast.Ident]types.Object{}, Types: map[ast.Expr]types.TypeAndValue{},
		Implicits: map[ast.Node]types.Object{}, Instances: map[*ast.Ident]types.Instance{}, Scopes: map[ast.Node]*types.Scope{},
		Selections: map[*ast.SelectorExpr]*types.Selection{}, FileVersions: map[*ast.File]string{}}
}

// faults notes what is wrong with the files of a record.
type faults struct {
	*checker
	files map[string]*check.File // by their paths
	any   bool                   // the compiler found something
	open  map[string]bool        // files that are not all known, since they use C
	// missing says that a package is not there, so that all else may follow from that.
	missing bool
}

// reads notes which files use C, of which nothing is known here.
func (f *faults) reads(files map[string]*ast.File) {
	f.open = map[string]bool{}
	for name, file := range files {
		for _, i := range file.Imports {
			f.open[name] = f.open[name] || i.Path.Value == `"C"`
		}
	}
}

// add notes one.
func (f *faults) add(at, end token.Pos, by, text string) {
	f.put(at, end, check.Fault{By: by, Text: text})
}

// analysed notes what an analysis finds, with what it suggests in the same file.
func (f *faults) analysed(at, end token.Pos, by, text string, suggested []analysis.SuggestedFix) {
	fault := check.Fault{By: by, Text: text}
	tf := f.fset.File(at)
	for _, s := range suggested {
		fix := check.Fix{Title: s.Message}
		for _, e := range s.TextEdits {
			if !e.End.IsValid() {
				e.End = e.Pos
			}
			if tf == nil || f.fset.File(e.Pos) != tf || f.fset.File(e.End) != tf || e.End < e.Pos {
				break
			}
			fix.Edits = append(fix.Edits, check.FixEdit{Start: uint32(tf.Offset(e.Pos)), End: uint32(tf.Offset(e.End)), New: string(e.NewText)})
		}
		if len(fix.Edits) == len(s.TextEdits) && len(fix.Edits) > 0 {
			fault.Fixes = append(fault.Fixes, fix)
		}
	}
	f.put(at, end, fault)
}

// put notes one at a place; what lies in no file of the record is left out.
func (f *faults) put(at, end token.Pos, fault check.Fault) {
	tf := f.fset.File(at)
	if tf == nil || f.files[tf.Name()] == nil || f.open[tf.Name()] || strings.Contains(fault.Text, "invalid type") {
		return
	}
	file := f.files[tf.Name()]
	fault.Start = uint32(tf.Offset(at))
	fault.End = fault.Start
	if end.IsValid() && f.fset.File(end) == tf && end >= at {
		fault.End = uint32(tf.Offset(end))
	}
	file.Faults = append(file.Faults, fault)
}

// compiler notes what the type checker finds wrong.
func (f *faults) compiler(err error) {
	var e types.Error
	if !errors.As(err, &e) {
		return
	}
	f.any = true
	if name, rest, missing := strings.Cut(e.Msg, "could not import "); missing && name == "" {
		f.missing = true
		path, _, _ := strings.Cut(rest, " ")
		f.put(e.Pos, token.NoPos, check.Fault{Text: "package " + path + " is not on this machine", Import: true})
		return
	}
	if !strings.HasPrefix(e.Msg, "\t") { // which goes on with the one before
		f.add(e.Pos, token.NoPos, "", e.Msg)
	}
}

// drop forgets what was noted, but for imports that lead nowhere.
func (f *faults) drop() {
	for _, file := range f.files {
		file.Faults = slices.DeleteFunc(file.Faults, func(x check.Fault) bool { return !x.Import })
	}
}
