package desk

import (
	"context"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
)

// Check looks whether files that are written have changed on disk; nil if none is.
func (d *Desk) Check() Work {
	type known struct {
		path string
		on   ground
	}
	was := map[*Text]known{}
	for _, t := range d.texts {
		if t.State() == Unsaved {
			was[t] = known{t.Path, *t.ground()}
		}
	}
	if len(was) == 0 {
		return nil
	}
	return func(context.Context) func() Result {
		var changed []*Text
		for t, k := range was {
			if d.disk.Stamp(k.path) == k.on.stamp {
				continue
			}
			if doc, err := d.disk.TextOnDisk(k.path); err == nil && text.Same(doc, k.on.base) {
				continue // touched, and the same
			}
			changed = append(changed, t)
		}
		return func() (r Result) {
			for _, t := range changed {
				if t.State() == Unsaved && t.ground().stamp == was[t].on.stamp {
					t.ground().differ = true
					r = r.and(said(Report{Text: t, What: ChangedOnDisk}))
				}
			}
			return r
		}
	}
}

// Comparison is two versions of a text to choose from, region by region: what is on disk, and what
// is written or was not saved.
type Comparison struct {
	// Text is that of a file that has changed on disk, or nil; Left is a text that was not saved when
	// a program ended, or nil.
	Text *Text
	Left *recovery.Text
	// Base is what both come from, and Theirs what is on disk.
	Base, Theirs *text.Document
	Regions      []write.Region

	stamp text.Stamp
	mine  *text.Document // what is written, for which it was made
}

// Path is that of the file.
func (c *Comparison) Path() string {
	if c.Text != nil {
		return c.Text.Path
	}
	return c.Left.Path
}

// compare brings what is written and what is on disk, to choose from.
func (d *Desk) compare(t *Text) Result {
	mine, base, file := t.Editor.Document(), t.ground().base, t.Path
	return Result{Hold: true, Work: []Work{func(context.Context) func() Result {
		stamp := d.disk.Stamp(file)
		theirs, err := d.disk.TextOnDisk(file)
		if err != nil {
			return func() Result {
				t.ground().differ, t.mayGo = true, &stamp
				return said(Report{Text: t, What: Unreadable, Err: err})
			}
		}
		regions := write.Regions(base, mine, theirs)
		return func() Result {
			switch {
			case t.Editor.Document() != mine: // more was written meanwhile
				return d.compare(t)
			case len(regions) == 0: // both have done the same
				t.rest(stamp, theirs)
				t.Editor.Saved(t.Editor.State())
				return said(Report{Text: t, What: TheSame})
			}
			return Result{Compare: &Comparison{Text: t, Base: base, Theirs: theirs, Regions: regions, stamp: stamp, mine: mine}}
		}
	}}}
}

// Choose puts what was chosen of each region in place of what is written. If more was written since,
// the versions are brought anew instead.
func (d *Desk) Choose(c *Comparison, regions []write.Region) Result {
	chosen := write.Assemble(c.Base, regions)
	if c.Left != nil {
		left := *c.Left
		left.Body = chosen.Bytes()
		return d.recover(left, c.Theirs, c.stamp)
	}
	if c.Text.Editor.Document() != c.mine {
		return d.compare(c.Text)
	}
	t, doc := c.Text, c.Theirs.With(chosen.Bytes())
	before := t.Editor.Document()
	t.Editor.Replace(doc)
	t.rest(c.stamp, c.Theirs)
	t.Editor.Lost()
	report := Report{Text: t, What: Merged}
	for i := range regions {
		if regions[i].Take == write.Both {
			report.Both++
		}
	}
	if text.Same(doc, c.Theirs) {
		t.Editor.Saved(t.Editor.State())
		report.What = TookTheirs
	}
	r := said(report)
	r.Rewritten = append(r.Rewritten, Rewritten{t, before})
	return r
}

// Left finds texts that were not saved when a program ended; nil if nothing is kept.
func (d *Desk) Left(take func(left []recovery.Text, err error) Result) Work {
	if d.beside() == nil {
		return nil
	}
	return func(context.Context) func() Result {
		left, err := d.beside().Left()
		return func() Result { return take(left, err) }
	}
}

// CompareLeft brings a text that was not saved and its file as that is on disk, to choose from.
func (d *Desk) CompareLeft(left recovery.Text) Work {
	return func(context.Context) func() Result {
		stamp := d.disk.Stamp(left.Path)
		disk, err := d.disk.TextOnDisk(left.Path)
		if err != nil {
			disk = text.NewDocument(nil)
		}
		base := disk // what both come from is not known of texts that an older program kept
		if left.Base != nil {
			base = disk.With(left.Base)
		}
		c := &Comparison{Left: &left, Base: base, Theirs: disk, Regions: write.Regions(base, disk.With(left.Body), disk), stamp: stamp}
		return func() Result { return Result{Compare: c} }
	}
}

// DropLeft forgets texts that were not saved, for good.
func (d *Desk) DropLeft(all []recovery.Text) Work {
	return func(context.Context) func() Result {
		for _, t := range all {
			if err := d.beside().Drop(t); err != nil {
				return func() Result { return failed(err) }
			}
		}
		return func() Result { return said(Report{What: Forgotten}) }
	}
}

// recover goes on writing a text that was not saved, in a file that reads disk now.
func (d *Desk) recover(left recovery.Text, disk *text.Document, stamp text.Stamp) Result {
	if old := d.texts[left.Path]; old != nil && old.Editor.Changed() {
		return said(Report{Text: old, What: WrittenAlready, Left: &left})
	}
	t := d.Begin(left.Path, disk, 0, stamp)
	t.ground().differ = stamp != left.Stamp && left.Base == nil // else it was brought together with what is on disk
	t.Editor.Replace(disk.With(left.Body))
	t.kept = t.Editor.Document()
	own := t.ToKeep() // under this program's name, before that of the other goes
	return Result{Recovered: t, Said: []Report{{Text: t, What: IsRecovered, Left: &left}}, Work: []Work{func(context.Context) func() Result {
		err := d.beside().Keep(own())
		if err == nil {
			err = d.beside().Drop(left)
		}
		return func() Result { return failed(err) }
	}}}
}

// Leave keeps all texts that are not saved, since one wants to leave. It is to be asked for twice:
// what came of it says Left only then, or if there is nothing to lose; else it reports how it stands.
func (d *Desk) Leave(again bool) Result {
	all := d.Unsaved()
	if len(all) == 0 {
		return Result{Left: true}
	}
	sure := d.sure || again
	d.sure = true
	var keep []func() Kept
	for _, t := range all {
		keep = append(keep, t.ToKeep())
	}
	return Result{Work: []Work{func(context.Context) func() Result {
		err := d.keepAll(keep)
		return func() Result {
			switch all := d.Unsaved(); {
			case len(all) == 0 || err == nil && sure:
				return Result{Left: true}
			case err != nil:
				d.sure = false
				return said(Report{What: WouldLose, Err: err})
			}
			return said(Report{What: AskedToLeave})
		}
	}}}
}

func (d *Desk) keepAll(all []func() Kept) error {
	if d.beside() == nil {
		return ErrNoPlace
	}
	for _, keep := range all {
		if err := d.beside().Keep(keep()); err != nil {
			return err
		}
	}
	return nil
}

// Rescue keeps what is not saved, whatever work was still under way.
func (d *Desk) Rescue() error {
	if d.beside() == nil {
		return nil
	}
	var keep []func() Kept
	for _, t := range d.Unsaved() {
		keep = append(keep, t.ToKeep())
	}
	return d.keepAll(keep)
}
