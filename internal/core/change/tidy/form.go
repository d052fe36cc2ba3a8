// Package tidy proposes to put files in order: into the form that is usual, all of it or some lines alone; and what they
// import, with what is missing added and what is not used taken out.
package tidy

import (
	"context"
	"errors"
	"fmt"
	"path"
	"sync"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/resolve"
)

// Tidier puts files of one project in order. It may be used by several goroutines.
type Tidier struct {
	code  *codebase.Base
	hunks *hunk.Reader

	mu  sync.Mutex
	set func() *settings.Settings // nil if the user has set nothing
}

// New puts files of some code in order.
func New(code *codebase.Base, hunks *hunk.Reader) *Tidier { return &Tidier{code: code, hunks: hunks} }

// KnowSettings says where to ask for the formatters that the user has set.
func (t *Tidier) KnowSettings(set func() *settings.Settings) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.set = set
}

// Lines are those that are to be put into form. The zero value is all of them.
type Lines struct {
	// First and Last count from 1; 0 for all lines.
	First, Last int
	// Differing are those that differ from the last commit.
	Differing bool
}

// ErrInForm says that there is nothing to be done.
var ErrInForm = errors.New("that is in order already")

// Form proposes to put lines of a file into the form that is usual: the formatter that the user has set for such files, or
// else what all use who write the language.
func (t *Tidier) Form(ctx context.Context, file string, which Lines) (*proposal.Proposal, error) {
	f, err := t.code.Load(ctx, file)
	if err != nil {
		return nil, err
	}
	out, err := t.formatted(ctx, file, f.Text.Bytes())
	if err != nil {
		return nil, err
	}
	wanted, err := t.wanted(ctx, f, which)
	if err != nil {
		return nil, err
	}
	p := &proposal.Proposal{Title: path.Base(file) + " in its usual form"}
	differing(p, f, out, wanted)
	if len(p.Files) == 0 {
		return nil, ErrInForm
	}
	return p, ctx.Err()
}

// differing adds what differs between a file and another text of it, of the lines that are wanted.
func differing(p *proposal.Proposal, f *codebase.File, out []byte, wanted func(first, last int) bool) {
	d := hunk.Compare(text.NewDocument(out), f.Text)
	for _, h := range d.Hunks {
		if !wanted(h.Now.First, max(h.Now.End()-1, h.Now.First)) {
			continue
		}
		e := d.Back(h)
		p.Add(f.Path, func() *text.Document { return f.Text }, proposal.Place{
			At: place.Range{Start: uint32(e.Start), End: uint32(e.End)}, New: string(e.New), What: "form", In: codebase.SymbolAt(f, h.Now.First, 1), Certainty: resolve.Inferred,
		})
	}
	p.Order()
}

// formatted is a text in its usual form.
func (t *Tidier) formatted(ctx context.Context, file string, data []byte) ([]byte, error) {
	t.mu.Lock()
	set := t.set
	t.mu.Unlock()
	if set != nil && set() != nil {
		if out, ok, err := set().Format(ctx, t.code.Root(), file, data); ok {
			return out, err
		}
	}
	l := t.code.Languages().Of(file)
	if l == nil || !formats(l) {
		return nil, fmt.Errorf("there is no formatter for %s; the settings name one by the ending of the file", path.Base(file))
	}
	out, err := l.Format(data)
	if err != nil {
		return nil, fmt.Errorf("%s is not well formed: %w", path.Base(file), err)
	}
	return out, nil
}

// formats says whether there is a form that is usual for all who write a language.
func formats(l *lang.Language) bool {
	_, err := l.Format([]byte("\x01("))
	return err != nil
}

// wanted says of lines whether they are among those that are meant.
func (t *Tidier) wanted(ctx context.Context, f *codebase.File, which Lines) (func(first, last int) bool, error) {
	switch {
	case which.Differing:
		c, err := t.hunks.Commit(ctx, "")
		if err != nil {
			return nil, err
		}
		d, err := t.hunks.File(ctx, c, f.Path, f)
		if err != nil {
			return nil, err
		}
		return func(first, last int) bool {
			for _, h := range d.Hunks {
				if h.Now.First <= last && first < max(h.Now.End(), h.Now.First+1) {
					return true
				}
			}
			return false
		}, nil
	case which.First > 0:
		return func(first, last int) bool { return first <= which.Last && last >= which.First }, nil
	}
	return func(int, int) bool { return true }, nil
}
