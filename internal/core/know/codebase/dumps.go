package codebase

import (
	"context"
	"errors"
	"fmt"
	"io"
	"path/filepath"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/know/lsif"
	"rooktrail/internal/core/know/project"
)

// openDumps opens what dumps said of the project that were taken in, if any were. It lies beside the index, and is good for any version
// of it.
func (b *Base) openDumps(folder string) {
	if folder == "" {
		return
	}
	b.dumpsPath = filepath.Join(folder, fmt.Sprintf("%s.lsif%d.db", project.Slug(b.root), lsif.Version))
	x, err := lsif.Open(b.dumpsPath, false)
	if err != nil {
		b.Note(fmt.Sprintf("what was taken in of a dump is not known: %v", err))
	}
	b.dumps.Store(x)
}

// Told implements resolve.Code.
func (b *Base) Told(ctx context.Context, p string, offset int) (t check.Target, same, ok bool) {
	x := b.dumps.Load()
	if x == nil {
		return t, false, false
	}
	return x.Told(p, offset, func(p string) []byte {
		f, err := b.Load(ctx, p)
		if err != nil {
			return nil // it has gone
		}
		return f.Text.Bytes()
	})
}

// TakeDump takes in a dump in the Language Server Index Format, all of it or nothing. The index has to be kept, and the project to have
// been read.
func TakeDump(ctx context.Context, b *Base, from io.Reader) (taken lsif.Taken, err error) {
	if b.store() == nil {
		return taken, errors.New("taking in a dump: the index is not kept on disk, where it would have to be")
	}
	x := b.dumps.Load()
	if x == nil {
		if x, err = lsif.Open(b.dumpsPath, true); err != nil {
			return taken, err
		}
		b.dumps.Store(x)
	}
	taken, err = x.Take(ctx, from, func(p string) []byte {
		if !b.Listing().IsFile(p) || b.languages.Of(p) == nil {
			return nil
		}
		doc, err := b.loadText(p)
		if err != nil || doc.Binary() {
			return nil // what cannot be read has no names
		}
		return doc.Bytes()
	})
	b.filesChanged()
	return taken, err
}
