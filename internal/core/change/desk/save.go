package desk

import (
	"bytes"
	"context"
	"errors"
	"fmt"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/text"
)

// Formatter puts the text of a file into its usual form; the same text if it has none, or is not
// well formed.
type Formatter func(ctx context.Context, path string, data []byte) ([]byte, error)

// Usual formats as the user has set for a kind of file, and else as is usual for all who write its
// language; root is the folder of the project. What is set is asked for beside the screen.
func Usual(set func() *settings.Settings, root string) Formatter {
	return func(ctx context.Context, file string, data []byte) ([]byte, error) {
		set := set()
		out, ok, err := set.Format(ctx, root, file, data)
		if ok && err == nil {
			return out, nil
		}
		l := catalog.Set().Of(file)
		if ok || !set.On(settings.FormatGo) || l == nil {
			return data, err
		}
		if out, err = l.Format(data); err != nil {
			return data, nil // it is not finished, and saved as it is
		}
		return out, nil
	}
}

// Save saves a text in its usual form. Where its file has changed on disk since, it brings the
// versions to choose from instead.
func (d *Desk) Save(t *Text) Result {
	switch {
	case !t.Editor.Changed() && !t.ground().differ:
		return said(Report{Text: t, What: NothingToSave})
	case t.ground().differ && t.mayGo == nil:
		return d.compare(t)
	}
	return d.save(t)
}

// SaveAll saves all texts that are not saved; what became of them is said at once when all are done.
func (d *Desk) SaveAll() (r Result) {
	all := d.Unsaved()
	if len(all) == 0 {
		return said(Report{What: NothingToSave})
	}
	b := &batch{left: len(all)}
	for _, t := range all {
		t.batch = b
		r = r.and(d.save(t))
	}
	return r
}

// batch is texts that are saved together.
type batch struct {
	left int // how many are not done yet
	done Together
}

// Together is what became of texts that were saved together.
type Together struct {
	Saved []string // the paths of those that are
	Not   []Report // the others
}

func (b *batch) note(r Report) Result {
	b.left--
	if r.What == SavedNow {
		b.done.Saved = append(b.done.Saved, r.Text.Path)
	} else {
		b.done.Not = append(b.done.Not, r)
	}
	if b.left > 0 {
		return Result{}
	}
	return said(Report{What: AllSaved, Together: &b.done})
}

// save begins to save a text: first in its usual form, if nothing more is written meanwhile.
func (d *Desk) save(t *Text) Result {
	if t.saving {
		t.again = true // what the file is like on disk is known only after that
		return Result{}
	}
	t.saving = true
	doc, file := t.Editor.Document(), t.Path
	return Result{Work: []Work{func(ctx context.Context) func() Result {
		tidy, err := d.tidied(ctx, file, doc)
		return func() Result { return d.write(t, doc, tidy, err) }
	}}}
}

func (d *Desk) tidied(ctx context.Context, file string, doc *text.Document) (*text.Document, error) {
	if d.format == nil {
		return doc, nil
	}
	data := doc.Bytes()
	out, err := d.format(ctx, file, data)
	if err != nil || bytes.Equal(out, data) {
		return doc, err
	}
	return doc.With(out), nil
}

// write writes a text to disk; unformatted is why it could not be put into its usual form.
func (d *Desk) write(t *Text, doc, tidy *text.Document, unformatted error) (r Result) {
	if tidy != doc && t.Editor.Document() == doc {
		t.Editor.Replace(tidy)
		r.Rewritten = append(r.Rewritten, Rewritten{t, doc})
	}
	if t.widen {
		before := t.Editor.Document()
		t.Editor.AsUTF8()
		r.Rewritten = append(r.Rewritten, Rewritten{t, before})
	}
	on, state, now, file := t.ground(), t.Editor.State(), t.Editor.Document(), t.Path
	how := Saving{Was: on.stamp, Base: on.base, InPlace: t.over != notAsked}
	if t.mayGo != nil {
		how.Was, how.Base = *t.mayGo, nil
	}
	keep := t.ToKeep()
	r.Work = append(r.Work, func(ctx context.Context) func() Result {
		if how.InPlace { // which an interruption cuts off
			if err := d.keepFirst(keep); err != nil {
				return func() Result { return d.notSaved(t, on, err) }
			}
		}
		stamp, err := d.disk.Save(ctx, file, now, how)
		if err != nil {
			return func() Result { return d.notSaved(t, on, err) }
		}
		return func() Result { return d.saved(t, on, now, state, stamp, unformatted) }
	})
	return r
}

// ErrNowhereKept says that a file is not written over, since no copy of the text could be kept.
var ErrNowhereKept = errors.New("no copy could be kept for the case that writing over it is interrupted")

func (d *Desk) keepFirst(keep func() Kept) error {
	if d.beside() == nil {
		return ErrNowhereKept
	}
	if err := d.beside().Keep(keep()); err != nil {
		return fmt.Errorf("%w: %w", ErrNowhereKept, err)
	}
	return nil
}

// saved notes that a text is on disk as doc, which it was in a state.
func (d *Desk) saved(t *Text, on *ground, doc *text.Document, state int, stamp text.Stamp, unformatted error) (r Result) {
	again, together := t.again, t.batch
	t.saving, t.again, t.batch = false, false, nil
	*on, t.mayGo = ground{stamp: stamp, base: doc}, nil
	t.Editor.Saved(state)
	if t.over != notAsked {
		t.over = agreed
	}
	report := Report{Text: t, What: SavedNow, Err: unformatted}
	if together != nil {
		r = together.note(report)
	} else {
		r = said(report)
	}
	switch {
	case !t.Editor.Changed():
		t.kept, t.unkept = t.Editor.Document(), nil
		r.Saved = append(r.Saved, Saved{t, doc})
		if d.beside() != nil {
			r.Work = append(r.Work, d.forget(t.Path))
		}
	case again:
		r = r.and(d.save(t))
	}
	return r
}

// notSaved notes why a text is not on disk, and what it takes to save it all the same.
func (d *Desk) notSaved(t *Text, on *ground, err error) Result {
	together := t.batch
	t.saving, t.again, t.batch = false, false, nil
	if errors.Is(err, text.ErrChanged) {
		on.differ, t.mayGo = true, nil
	}
	report := Report{Text: t, What: NotSaved, Err: err}
	if together != nil {
		return together.note(report)
	}
	switch {
	case errors.Is(err, text.ErrNotLatin1):
		t.widen = true
	case errors.Is(err, text.ErrFolderLocked) && t.over == notAsked:
		t.over, report.AskedOver = askedFor, true
	case errors.Is(err, ErrNowhereKept):
		t.over = notAsked
	}
	return said(report)
}

// SaveAs writes a text to another file, which must not be there, and leaves it as it is here.
func (d *Desk) SaveAs(t *Text, to string) Work {
	doc := t.Editor.Document()
	return func(ctx context.Context) func() Result {
		_, err := d.disk.Save(ctx, to, doc, Saving{})
		return func() Result {
			r := Report{Text: t, What: SavedAs, To: to, Err: err}
			return said(r)
		}
	}
}
