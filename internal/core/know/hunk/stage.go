package hunk

import (
	"bytes"
	"context"
	"errors"
	"fmt"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
)

// ErrNothingToStage says that a line is neither changed nor staged.
var ErrNothingToStage = errors.New("this line is as it was in the last commit")

// Stage takes the hunk at a line of a file into the stage, counted from 1, or out of it again if it is staged as it is.
// It gives the hunk, and whether it is staged now.
func (r *Reader) Stage(ctx context.Context, f *codebase.File, line int) (h Hunk, in bool, err error) {
	disk, err := r.code.TextOnDisk(f.Path)
	if err != nil {
		return h, false, err
	}
	if !bytes.Equal(disk.Bytes(), f.Text.Bytes()) {
		return h, false, errors.New("it is not saved as it is here; save it first")
	}
	head, err := r.Commit(ctx, "")
	if err != nil && !errors.Is(err, vcs.ErrNoCommit) {
		return h, false, err
	}
	was := text.NewDocument(nil)
	if err == nil {
		if was, err = r.Was(ctx, head, f.Path, f.Text); err != nil {
			return h, false, err
		}
	}
	staged, err := r.Was(ctx, vcs.Commit{ID: vcs.Staged}, f.Path, f.Text)
	if err != nil {
		return h, false, err
	}
	if staged.Binary() || f.Text.Binary() || was.Binary() {
		return h, false, fmt.Errorf("%s holds no lines of text", f.Path)
	}
	left := Compare(staged, f.Text)
	if n, ok := left.At(line); ok {
		h = left.Hunks[n]
		return h, true, r.stage(ctx, f, staged, was, left.into(h))
	}
	done := Compare(was, staged)
	if n, ok := done.At(left.WasLine(line)); ok {
		h = done.Hunks[n]
		return h, false, r.stage(ctx, f, staged, was, done.Back(h))
	}
	return h, false, ErrNothingToStage
}

// into is the edit by which the text as it was has a hunk, too.
func (d *Diff) into(h Hunk) text.Edit {
	start, end := lineStart(d.Was, h.Was.First), lineStart(d.Was, h.Was.End())
	return text.Edit{Start: start, End: end, New: d.Now.Slice(lineStart(d.Now, h.Now.First), lineStart(d.Now, h.Now.End()))}
}

// stage has an edit of what is staged be staged; was is what the last commit has.
func (r *Reader) stage(ctx context.Context, f *codebase.File, staged, was *text.Document, e text.Edit) error {
	now := staged.Apply([]text.Edit{e})
	if now.Len() == 0 && was.Len() == 0 {
		return vcs.Unstage(ctx, r.code.Root(), f.Path)
	}
	raw, err := now.Encode()
	if err != nil {
		return err
	}
	if blob, err := vcs.Blob(ctx, r.code.Root(), vcs.Commit{ID: vcs.Staged}, f.Path); err == nil && !bytes.Contains(blob, []byte("\r\n")) {
		raw = bytes.ReplaceAll(raw, []byte("\r\n"), []byte("\n")) // as git keeps it
	}
	return vcs.Stage(ctx, r.code.Root(), f.Path, raw)
}
