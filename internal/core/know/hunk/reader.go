package hunk

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
)

// Reader finds in what the files of a project differ from commits. It may be used by several goroutines.
type Reader struct {
	code *codebase.Base

	mu    sync.Mutex
	blobs map[blob]*text.Document // files as commits have them; nil for none
}

// blob is a file of a commit.
type blob struct{ commit, path string }

// New compares some code with commits.
func New(code *codebase.Base) *Reader { return &Reader{code: code, blobs: map[blob]*text.Document{}} }

// Commit finds what a revision means; see vcs.Resolve.
func (r *Reader) Commit(ctx context.Context, rev string) (vcs.Commit, error) {
	return vcs.Resolve(ctx, r.code.Root(), rev)
}

// mostBlobs is how many files of commits are kept.
const mostBlobs = 64

// Was is a file as a commit has it, in the form in which it is on disk now; an empty one if the commit does not have
// it.
func (r *Reader) Was(ctx context.Context, c vcs.Commit, path string, now *text.Document) (*text.Document, error) {
	key := blob{c.ID, path}
	r.mu.Lock()
	doc, known := r.blobs[key]
	r.mu.Unlock()
	if known && c.ID != vcs.Staged { // what is staged may be another by now
		return sameEnds(doc, now), nil
	}
	raw, err := vcs.Blob(ctx, r.code.Root(), c, path)
	if err != nil && !errors.Is(err, vcs.ErrNotThere) {
		return nil, err
	}
	doc = text.NewDocument(raw)
	r.mu.Lock()
	if len(r.blobs) >= mostBlobs {
		clear(r.blobs)
	}
	r.blobs[key] = doc
	r.mu.Unlock()
	return sameEnds(doc, now), nil
}

// sameEnds is a text of a commit with the line ends that the file has here, where it was checked out with others.
func sameEnds(was, now *text.Document) *text.Document {
	if now == nil || now.LineEnds() != text.CRLF || was.LineEnds() == text.CRLF || was.Binary() {
		return was
	}
	return was.With(bytes.ReplaceAll(was.Bytes(), []byte("\n"), []byte("\r\n")))
}

// File compares a file with what a commit has at a path, that of the file unless it was renamed.
func (r *Reader) File(ctx context.Context, c vcs.Commit, was string, f *codebase.File) (*Diff, error) {
	doc := text.NewDocument(nil)
	if was != "" {
		var err error
		if doc, err = r.Was(ctx, c, was, f.Text); err != nil {
			return nil, err
		}
	}
	if doc.Binary() || f.Text.Binary() {
		return &Diff{Was: doc, Now: f.Text}, nil
	}
	return Compare(doc, f.Text), nil
}

// Differences are the files that differ from a commit, in the order of their paths, those that are written and not
// saved among them.
func (r *Reader) Differences(ctx context.Context, c vcs.Commit) ([]vcs.Difference, error) {
	all, err := vcs.Differences(ctx, r.code.Root(), c)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(all, func(d vcs.Difference) bool { return !r.code.Has(d.Path) && !d.Gone })
	slices.SortFunc(all, func(a, b vcs.Difference) int { return strings.Compare(a.Path, b.Path) })
	return all, nil
}

// History are the commits that have changed some lines of a file, counted from 1 in what a commit has of it, the latest
// first.
func (r *Reader) History(ctx context.Context, c vcs.Commit, path string, first, last int) ([]vcs.Revision, error) {
	return vcs.History(ctx, r.code.Root(), c, path, first, last)
}
