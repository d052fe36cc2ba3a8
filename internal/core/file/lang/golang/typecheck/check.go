// Package typecheck gives exact answers for Go, from its type checker. It checks
// a workspace package by package and holds on to no more than what packages show
// each other.
package typecheck

import (
	"context"
	"fmt"
	"go/ast"
	"go/build"
	"go/parser"
	"go/token"
	"go/types"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/check"

	"golang.org/x/sync/errgroup"
)

// Check checks the packages of the modules in the given folders below root and
// adds a record of each to the book as soon as it is there. What the book knows
// of already, as it is now, is not checked again.
func Check(ctx context.Context, root string, modules []string, book *check.Book, pace check.Pace) error {
	l, err := list(ctx, root, modules, "./...")
	if err != nil {
		return err
	}
	return newChecker(l, book).all(ctx, pace)
}

// CheckFolder is Check for the package in one folder, of the module in a folder
// above it; both are relative to root.
func CheckFolder(ctx context.Context, root, module, folder string, book *check.Book) error {
	below, err := filepath.Rel(filepath.FromSlash(module), filepath.FromSlash(folder))
	if err != nil {
		return fmt.Errorf("checking %s: %w", folder, err)
	}
	l, err := list(ctx, root, []string{module}, "./"+filepath.ToSlash(below))
	if err != nil {
		return err
	}
	l.checked = slices.DeleteFunc(l.checked, func(p *listed) bool { return p.folder != folder })
	c := newChecker(l, book)
	for _, p := range l.checked {
		if err := c.noteViews(p, map[*listed]bool{p: true}); err != nil {
			return err
		}
	}
	return c.all(ctx, check.Fast)
}

// viewOnly is the name of a record that says no more than how others see a package.
// No package is called so.
const viewOnly = "."

// noteViews adds to the book how the packages are seen that one imports, on which
// depends whether what is found out about it holds.
func (c *checker) noteViews(p *listed, noted map[*listed]bool) error {
	for _, imports := range []map[string]string{p.imports, p.needed} {
		for _, i := range imports {
			d := c.byPath[i]
			if d == nil || !d.inside || noted[d] {
				continue
			}
			noted[d] = true
			if err := c.noteViews(d, noted); err != nil {
				return err
			}
			if _, known := c.book.View(d.folder); known {
				continue
			}
			r := check.Record{Head: check.Head{Folder: d.folder, Name: viewOnly, Own: c.book.Own(d.folder), View: c.visible(d.path).view, Basis: c.seen(d, d.imports)}}
			if err := c.book.Add(&r); err != nil {
				return err
			}
		}
	}
	return nil
}

func newChecker(l *listing, book *check.Book) *checker {
	c := &checker{listing: l, fset: token.NewFileSet(), states: map[string]*state{}, book: book, fields: map[token.Pos]string{}, broken: map[string]bool{}}
	for path := range l.byPath {
		c.states[path] = &state{done: make(chan struct{})}
	}
	return c
}

// all checks all packages that are to be checked.
func (c *checker) all(ctx context.Context, pace check.Pace) error {
	group, groupCtx := errgroup.WithContext(ctx)
	group.SetLimit(pace.Workers())
	for _, p := range c.inOrder() {
		if groupCtx.Err() != nil {
			break
		}
		group.Go(func() error { return c.unit(groupCtx, p) })
	}
	if err := group.Wait(); err != nil {
		return err
	}
	return ctx.Err()
}

// checker is at work on one workspace.
type checker struct {
	*listing
	fset   *token.FileSet
	states map[string]*state // by import path
	book   *check.Book

	mu     sync.Mutex
	fields map[token.Pos]string // the types that fields belong to
	broken map[string]bool      // folders with files that cannot be read as a whole, by their absolute paths
}

// state is what is known of a package that others import.
type state struct {
	start sync.Once
	done  chan struct{}
	pkg   *types.Package
	view  check.Digest
	files map[string]*ast.File // until the package itself has been checked
}

// inOrder are the packages to be checked, those first that others import.
func (c *checker) inOrder() (order []*listed) {
	seen, wanted := map[string]bool{}, map[*listed]bool{}
	for _, p := range c.checked {
		wanted[p] = true
	}
	var visit func(p *listed)
	visit = func(p *listed) {
		if seen[p.path] {
			return
		}
		seen[p.path] = true
		for _, i := range p.imports {
			if d := c.byPath[i]; d != nil && d.inside {
				visit(d)
			}
		}
		if wanted[p] {
			order = append(order, p)
		}
	}
	for _, p := range c.checked {
		visit(p)
	}
	return order
}

// unit checks a package with its tests.
func (c *checker) unit(ctx context.Context, p *listed) (err error) {
	defer func() {
		if r := recover(); r != nil {
			err = nil // whatever fails in one package costs the answers for that one
		}
		if s := c.states[p.path]; s != nil {
			s.files = nil
		}
	}()
	if ctx.Err() != nil {
		return ctx.Err()
	}
	parts := p.parts()
	blank := check.Head{Folder: p.folder, Own: c.book.Own(p.folder), Imports: c.seen(p, p.imports, p.needed)}
	if c.recorded(&blank, parts) {
		return nil
	}
	s := c.visible(p.path)
	blank.View, blank.Basis = s.view, c.seen(p, p.imports)
	var combined *types.Package
	for _, part := range parts {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		r := check.Record{Head: blank}
		r.Name = part.name
		pkg := c.record(&r, p, part.files, s, combined)
		if len(p.tests) > 0 && combined == nil {
			combined = pkg
		}
		if err := c.book.Add(&r); err != nil {
			return err
		}
	}
	return nil
}

// part are the files of a folder that make up one package.
type part struct {
	name  string
	files []string
}

// parts are the package with the tests in it, and the tests that are a package
// of their own.
func (p *listed) parts() (parts []part) {
	for _, part := range []part{{p.name, append(p.files[:len(p.files):len(p.files)], p.tests...)}, {p.name + "_test", p.outer}} {
		if len(part.files) > 0 {
			parts = append(parts, part)
		}
	}
	return parts
}

// recorded says whether the book knows all parts already, as they are now.
func (c *checker) recorded(blank *check.Head, parts []part) bool {
	for _, part := range parts {
		if !c.book.Knows(blank, part.name) {
			return false
		}
	}
	return true
}

// seen are the packages of the workspace among imports, as they are now.
func (c *checker) seen(p *listed, imports ...map[string]string) []check.Seen {
	folders := map[string]check.Digest{}
	for _, m := range imports {
		for _, i := range m {
			if d := c.byPath[i]; d != nil && d.inside && d != p {
				folders[d.folder] = c.viewed(d)
			}
		}
	}
	return sortedSeen(folders)
}

// viewed is how others see a package; the book may know that.
func (c *checker) viewed(p *listed) check.Digest {
	if v, ok := c.book.View(p.folder); ok {
		return v
	}
	return c.visible(p.path).view
}

// visible makes what other packages see of one: its declarations, without the
// bodies of functions and without tests.
func (c *checker) visible(path string) *state {
	s := c.states[path]
	if s == nil {
		return nil
	}
	s.start.Do(func() {
		defer close(s.done)
		defer func() {
			if r := recover(); r != nil {
				s.pkg = nil
			}
		}()
		p := c.byPath[path]
		files := c.parse(p.files)
		c.noteFields(files)
		s.pkg = c.types(p, files, p.path, nil, true, nil, ignored)
		if p.inside {
			s.view = c.view(p, s.pkg)
			s.files = files
		}
	})
	<-s.done
	return s
}

// parse reads files; what cannot be read is left out.
func (c *checker) parse(names []string) map[string]*ast.File {
	files := map[string]*ast.File{}
	for _, name := range names {
		text, err := c.book.Text(name)
		if err != nil {
			continue
		}
		f, err := parser.ParseFile(c.fset, name, text, parser.SkipObjectResolution)
		if f != nil {
			files[name] = f
		}
		if err != nil {
			c.mu.Lock()
			c.broken[filepath.Dir(name)] = true
			c.mu.Unlock()
		}
	}
	return files
}

// types checks files as a package. combined stands in for the package itself
// where its outer tests import it. wrong is told what is wrong with the code.
func (c *checker) types(p *listed, files map[string]*ast.File, path string, combined *types.Package, declarations bool, info *types.Info, wrong func(error)) *types.Package {
	conf := types.Config{
		IgnoreFuncBodies: declarations, FakeImportC: true, Error: wrong, GoVersion: p.goVersion,
		Sizes: types.SizesFor("gc", build.Default.GOARCH),
		Importer: importer(func(written string) (*types.Package, error) {
			if written == "unsafe" {
				return types.Unsafe, nil
			}
			resolved := p.resolved(written)
			if combined != nil && resolved == p.path {
				return combined, nil
			}
			if s := c.visible(resolved); s != nil && s.pkg != nil {
				return s.pkg, nil
			}
			return nil, fmt.Errorf("package %s is not on this machine", written)
		}),
	}
	pkg, _ := conf.Check(path, c.fset, inOrderOf(c.fset, files), info) // wrong has been told
	return pkg
}

// rests says whether a package, or one of the workspace that it imports, is not all there, as the text of a file is broken: what
// is found wrong then may follow from that.
func (c *checker) rests(p *listed) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	if len(c.broken) == 0 {
		return false
	}
	for _, imports := range []map[string]string{p.imports, p.needed} {
		for _, i := range imports {
			if d := c.byPath[i]; d != nil && d.inside && c.broken[filepath.Join(c.root, d.folder)] {
				return true
			}
		}
	}
	return c.broken[filepath.Join(c.root, p.folder)]
}

// comesBack says whether what the outer tests of a package import imports the package, too: that is then another one to the type
// checker than the package with its tests.
func (c *checker) comesBack(p *listed) bool {
	seen := map[string]bool{p.path: true}
	var leads func(imports map[string]string) bool
	leads = func(imports map[string]string) bool {
		for _, i := range imports {
			d := c.byPath[i]
			if d == nil || !d.inside || seen[i] {
				continue
			}
			seen[i] = true
			for _, back := range d.imports {
				if back == p.path {
					return true
				}
			}
			if leads(d.imports) {
				return true
			}
		}
		return false
	}
	return leads(p.needed)
}

// inOrderOf are files by their names.
func inOrderOf(fset *token.FileSet, files map[string]*ast.File) (list []*ast.File) {
	for _, f := range files {
		list = append(list, f)
	}
	sortFiles(fset, list)
	return list
}

// ignored is what is wrong with code that one only reads, which is for the compiler to say.
func ignored(error) {}

type importer func(path string) (*types.Package, error)

func (i importer) Import(path string) (*types.Package, error) { return i(path) }

// record checks the files with the bodies of their functions and notes what
// their names mean.
func (c *checker) record(r *check.Record, p *listed, names []string, s *state, combined *types.Package) *types.Package {
	files, missing := map[string]*ast.File{}, []string(nil)
	for _, n := range names {
		if f := s.files[n]; f != nil {
			files[n] = f
		} else {
			missing = append(missing, n)
		}
	}
	parsed := c.parse(missing)
	c.noteFields(parsed)
	for n, f := range parsed {
		files[n] = f
	}
	info := fullInfo()
	path := p.path
	if strings.HasSuffix(r.Name, "_test") && r.Name != p.name {
		path += "_test"
	}
	wrong := &faults{checker: c, files: map[string]*check.File{}}
	rec := &recorder{checker: c, record: r, targets: map[check.Target]int32{}, files: map[string]int{}}
	for _, n := range names {
		if files[n] != nil {
			rec.files[n] = len(r.Files)
			r.Files = append(r.Files, check.File{Base: filepath.Base(n)})
		}
	}
	for n, i := range rec.files {
		wrong.files[n] = &r.Files[i]
	}
	wrong.reads(files)
	pkg := c.types(p, files, path, combined, false, info, wrong.compiler)
	if wrong.missing || c.rests(p) || combined != nil && c.comesBack(p) {
		wrong.drop()
	} else if !wrong.any {
		a := analysing{fset: c.fset, files: inOrderOf(c.fset, files), pkg: pkg, info: info, version: p.goVersion, read: c.book.Text, report: wrong.analysed}
		a.vet()
	}
	for id, o := range info.Uses {
		rec.use(id, o)
	}
	for i := range r.Files {
		r.Files[i].Sort()
	}
	rec.typesOf(pkg)
	return pkg
}
