package typecheck

import (
	"cmp"
	"context"
	"errors"
	"go/types"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"rooktrail/internal/core/file/check"
)

// Errors are what the type checker finds wrong with the packages in some folders, relative to root, and with
// importers with those too that see them, however many steps away. read gives the text of a file by its absolute
// path.
func Errors(ctx context.Context, root string, modules, folders []string, importers bool, read func(string) ([]byte, error)) ([]check.Error, error) {
	l, err := list(ctx, root, modules, "./...")
	if err != nil {
		return nil, err
	}
	book := check.NewBook(nil, func(string) check.Digest { return check.Digest{} }, func() []string { return nil })
	book.Read = read
	c := newChecker(l, book)
	var mu sync.Mutex
	var found []check.Error
	note := func(err error) {
		var e types.Error
		if !errors.As(err, &e) {
			return
		}
		at := c.fset.PositionFor(e.Pos, false)
		p := at.Filename
		if rel, err := filepath.Rel(root, p); err == nil {
			p = filepath.ToSlash(rel)
		}
		mu.Lock()
		defer mu.Unlock()
		found = append(found, check.Error{Path: p, Line: at.Line, Col: at.Column, Text: e.Msg})
	}
	wanted := l.seeing(folders, importers)
	group, groupCtx := errgroup.WithContext(ctx)
	group.SetLimit(check.Fast.Workers())
	for _, p := range c.inOrder() {
		if groupCtx.Err() != nil {
			break
		}
		if wanted[p] {
			group.Go(func() error { c.wrong(p, note); return groupCtx.Err() })
		}
	}
	if err := errors.Join(group.Wait(), ctx.Err()); err != nil {
		return nil, err
	}
	slices.SortFunc(found, func(a, b check.Error) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col), strings.Compare(a.Text, b.Text))
	})
	return found, nil
}

// seeing are the packages in folders, and those that import them.
func (l *listing) seeing(folders []string, importers bool) map[*listed]bool {
	wanted := map[*listed]bool{}
	for _, p := range l.checked {
		wanted[p] = slices.Contains(folders, p.folder)
	}
	for more := importers; more; {
		more = false
		for _, p := range l.checked {
			for _, imports := range []map[string]string{p.imports, p.needed} {
				for _, i := range imports {
					if d := l.byPath[i]; d != nil && wanted[d] && !wanted[p] {
						wanted[p], more = true, true
					}
				}
			}
		}
	}
	return wanted
}

// wrong checks all parts of a package.
func (c *checker) wrong(p *listed, note func(error)) {
	defer func() {
		_ = recover() // whatever fails in one package tells nothing of it
	}()
	c.visible(p.path)
	var combined *types.Package
	for _, part := range p.parts() {
		files := c.parse(part.files)
		path := p.path
		if part.name != p.name {
			path += "_test"
		}
		pkg := c.types(p, files, path, combined, false, nil, note)
		if len(p.tests) > 0 && combined == nil {
			combined = pkg
		}
	}
}
