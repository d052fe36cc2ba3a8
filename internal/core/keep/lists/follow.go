package lists

import (
	"bytes"
	"context"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/know/codebase"
)

// follower says where the lines of a text are in a later one that was made of it by editing.
type follower struct {
	was, now *text.Document
	hunks    []vcs.Hunk
}

func follow(was, now *text.Document) *follower {
	return &follower{was, now, vcs.Between(string(was.Bytes()), string(now.Bytes()))}
}

// line is where a line is now, counted from 1; ok is false if it was taken out.
func (f *follower) line(was int) (now int, ok bool) {
	by := 0 // lines that came, less those that went
	for _, h := range f.hunks {
		first := h.Line - by // in the earlier text
		switch {
		case was < first:
			return was + by, true
		case was < first+h.Removed:
			return f.within(h, first, was)
		}
		by += h.Added - h.Removed
	}
	return was + by, true
}

// within is where a line is now that was edited together with those around it: the line among
// those that came which reads the same, or else the one that has its place.
func (f *follower) within(h vcs.Hunk, first, was int) (now int, ok bool) {
	if h.Added == 0 {
		return 0, false
	}
	reads, found := bytes.TrimSpace(f.was.Line(was)), 0
	for n := h.Line; n < h.Line+h.Added && len(reads) > 0; n++ {
		if bytes.Equal(bytes.TrimSpace(f.now.Line(n)), reads) {
			if found != 0 {
				found = 0
				break
			}
			found = n
		}
	}
	if found != 0 {
		return found, true
	}
	// Lines that were put before it push it down: its end stays with the end.
	if behind := first + h.Removed - 1 - was; h.Added > h.Removed && f.resembles(was, h.Line+h.Added-1-behind) {
		return h.Line + h.Added - 1 - behind, true
	}
	return h.Line + min(was-first, h.Added-1), true
}

// resembles says whether a line holds what another one did, or most of it.
func (f *follower) resembles(was, now int) bool {
	a, b := bytes.TrimSpace(f.was.Line(was)), bytes.TrimSpace(f.now.Line(now))
	return len(a) > 0 && len(b) > 0 && (bytes.Contains(b, a) || bytes.Contains(a, b))
}

// FollowAll moves remembered places of a file with the edits that have made its text of an
// earlier one, for which they are right, and says what became of each. What was taken out is
// looked for, and so is what had the fate Gone before.
func FollowAll(ctx context.Context, was *text.Document, f *codebase.File, all []*place.Memory, before []place.Fate) []place.Fate {
	fates := make([]place.Fate, len(all))
	if len(all) == 0 {
		return fates
	}
	to := follow(was, f.Text)
	found := finder(f)
	for i, m := range all {
		if ctx.Err() != nil {
			return fates
		}
		if before[i] == place.Gone {
			fates[i] = update(found, f, m)
		} else {
			fates[i] = followOne(to, found, f, m)
		}
	}
	return fates
}

func followOne(to *follower, found *place.Finder, f *codebase.File, m *place.Memory) place.Fate {
	line, ok := to.line(m.Line)
	if !ok {
		return update(found, f, m)
	}
	fate := place.Same
	if line != m.Line {
		fate = place.Moved
	}
	col := m.Col
	if now := f.Text.Line(line); line <= f.Text.Lines() {
		col = min(col, len(now)+1)
	}
	m.Found(AnchorIn(f, place.Place{Path: f.Path, Line: min(line, f.Text.Lines()), Col: max(col, 1)}))
	return fate
}

// FollowIn is LocateIn for bookmarks of a file whose text was made of an earlier one by editing.
// Those that were gone before are looked for.
func FollowIn(was *text.Document, f *codebase.File, marks []*bookmark.Mark) {
	if !f.Text.Whole() || f.Text.Binary() {
		return
	}
	var gone []*bookmark.Mark
	to, found := follow(was, f.Text), finder(f)
	for _, m := range marks {
		if m.Fate == place.Gone {
			gone = append(gone, m)
			continue
		}
		if m.Fate = followOne(to, found, f, &m.Memory); m.Kind == bookmark.Symbol && m.Fate != place.Gone {
			m.What = codebase.SymbolAt(f, m.Line, m.Col) // it may be called something else by now
		}
	}
	LocateIn(f, gone)
}

// WhereAll finds remembered places of a file again, which had these fates before: by the edits
// that have made its text of an earlier one, or by looking for them if that is nil.
func WhereAll(ctx context.Context, was *text.Document, f *codebase.File, all []*place.Memory, before []place.Fate) []place.Fate {
	if was != nil {
		return FollowAll(ctx, was, f, all, before)
	}
	return RecallAll(ctx, f, all)
}
