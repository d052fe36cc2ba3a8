package codebase

import (
	"context"
	"errors"
	"fmt"
	"io"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
)

// errNotKept is why nothing can be packed or taken in.
var errNotKept = errors.New("the index of this project is not kept on disk")

// Pack writes what is known of the files to a file: of those that are as they are in the last commit, where there is one. All must
// have been read.
func Pack(ctx context.Context, b *Base, to string) (index.PackHead, error) {
	m := b.store()
	if m == nil || m.segments == nil {
		return index.PackHead{}, fmt.Errorf("packing the index: %w", errNotKept)
	}
	b.saveIndex(ctx, 0)
	commit, changed := b.head(ctx)
	return b.symbols.Pack(ctx, m.segments, commit, func(path string) bool { return !changed[path] }, to)
}

// head is the last commit, and what differs from it; "" where there is none.
func (b *Base) head(ctx context.Context) (commit string, changed map[string]bool) {
	c, err := vcs.Resolve(ctx, b.root, "")
	if err != nil {
		return "", nil
	}
	list, err := vcs.Changed(ctx, b.root)
	if err != nil {
		return "", nil
	}
	changed = map[string]bool{}
	for _, is := range list {
		changed[is.Path] = true
	}
	return c.ID, changed
}

// TakePack takes in what was packed elsewhere, before Read: where the last commit is the one that it is of, the files that do not differ from it
// need not be read; of others it is known what they say once they were.
func TakePack(ctx context.Context, b *Base, in io.Reader) (index.PackHead, error) {
	m := b.store()
	if m == nil || m.segments == nil {
		return index.PackHead{}, fmt.Errorf("taking in the pack: %w", errNotKept)
	}
	commit, changed := b.head(ctx)
	return m.segments.TakePack(ctx, in, func(h index.PackHead) index.Stamp {
		return func(path string) (project.File, bool) {
			if h.Commit == "" || h.Commit != commit || changed[path] {
				return project.File{}, false
			}
			return project.Stat(b.root, path)
		}
	})
}

// IndexFolder is a folder beside the index, for what is fetched; "" if no index is kept.
func IndexFolder(b *Base) string {
	if b.store() == nil {
		return ""
	}
	return b.indexes
}
