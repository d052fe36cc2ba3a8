// Package proposal is a change over any number of files that is worked out before anything is touched: for each
// place what stands there and what is to stand there, what it is, in which function, and how certain that is. Any
// of it can be left out and taken in again, or be written by hand, before the change is made as one.
package proposal

import (
	"bytes"
	"cmp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// Group is how much a place belongs to what was asked for.
type Group uint8

// The groups. Places of the first are taken in from the beginning, those of the others are left out until they are
// taken in.
const (
	Sure     Group = iota // it is what was asked for
	ByName                // it has the name, and what it means is not known
	Mentions              // it is in a comment, a string, a configuration, a page
)

// String says of a group what is in it.
func (g Group) String() string {
	return [...]string{"", "known by name only", "mentioned in comments, strings, configuration, pages"}[g]
}

// Place is one place of a file that is to read otherwise.
type Place struct {
	// At is what is replaced, in bytes of the text as it is, and New what by.
	At  place.Range
	New string
	// What says in a word or two what is there, such as "definition"; In is the qualified name of the function or
	// type it stands in, "" for none.
	What, In  string
	Certainty resolve.Certainty
	Group     Group
	// Out says that it is left out.
	Out bool
	// ByHand says that the user wrote what comes in its place.
	ByHand bool
}

// File is what is to become of one file.
type File struct {
	// Path is where it is, "" for one that is to be made; To where it will be, "" for one that is to be taken away.
	Path, To string
	// Before is its text as it was when the change was proposed; empty for one that is to be made.
	Before *text.Document
	// Places are in order and do not overlap.
	Places []Place
	// Stays says that it is left where it is, although it was to be moved, made or taken away.
	Stays bool
}

// Name is the path by which the file is listed.
func (f *File) Name() string { return cmp.Or(f.Path, f.To) }

// Goes says whether the file itself is made, moved or taken away.
func (f *File) Goes() bool { return f.Path != f.To && !f.Stays }

// After is the text with all places that are taken in.
func (f *File) After() *text.Document { return f.Before.Apply(f.Edits()) }

// Edits are those of the places that are taken in, and lead to something else.
func (f *File) Edits() (all []text.Edit) {
	for i := range f.Places {
		p := &f.Places[i]
		if !p.Out && f.changes(p) {
			all = append(all, text.Edit{Start: int(p.At.Start), End: int(p.At.End), New: []byte(p.New)})
		}
	}
	return all
}

func (f *File) changes(p *Place) bool {
	return string(f.Before.Slice(int(p.At.Start), int(p.At.End))) != p.New
}

// Changes says whether anything of the file changes, as it is taken in by now.
func (f *File) Changes() bool {
	if f.Path == "" || f.To == "" {
		return !f.Stays
	}
	return f.Goes() || len(f.Edits()) > 0
}

// Place finds the number of the place at an offset of the text as it is.
func (f *File) Place(offset int) (number int, ok bool) {
	return slices.BinarySearchFunc(f.Places, uint32(offset), func(p Place, at uint32) int { return cmp.Compare(p.At.Start, at) })
}

// Line is the line in which a place begins, counted from 1.
func (f *File) Line(number int) int {
	line, _ := f.Before.Position(int(f.Places[number].At.Start))
	return line
}

// Lines are the lines in which a place stands, as they are and as they will be with all places of them that are
// taken in, without their last line end.
func (f *File) Lines(number int) (before, after string) {
	start, end := f.around(number)
	return strings.TrimRight(string(f.Before.Slice(start, end)), "\r\n"), strings.TrimRight(f.with(start, end, -1), "\r\n")
}

// around is from where to where the lines of a place go, with their line ends.
func (f *File) around(number int) (start, end int) {
	p := &f.Places[number]
	first, _ := f.Before.Position(int(p.At.Start))
	last, _ := f.Before.Position(int(p.At.End))
	if p.At.End > p.At.Start && f.Before.Offset(last, 1) == int(p.At.End) {
		last-- // it ends with a line end
	}
	return f.Before.Offset(first, 1), f.end(last)
}

// end is the offset behind the line end of a line.
func (f *File) end(line int) int {
	if line >= f.Before.Lines() {
		return f.Before.Len()
	}
	return f.Before.Offset(line+1, 1)
}

// with is a part of the text with the places in it that are taken in; and one more, if there is such a number.
func (f *File) with(start, end, also int) string {
	var b strings.Builder
	at := start
	for i := range f.Places {
		p := &f.Places[i]
		if int(p.At.Start) < start || int(p.At.Start) >= end && !(p.At.Start == p.At.End && int(p.At.Start) == end && end == f.Before.Len()) || p.Out && i != also {
			continue
		}
		b.Write(f.Before.Slice(at, int(p.At.Start)))
		b.WriteString(p.New)
		at = int(p.At.End)
	}
	if at < end {
		b.Write(f.Before.Slice(at, end))
	}
	return b.String()
}

// Written is how the lines of a place will read with it, whether it is taken in or not: what one edits by hand.
func (f *File) Written(number int) string {
	start, end := f.around(number)
	return strings.TrimRight(f.with(start, end, number), "\r\n")
}

// Write has the lines of a place read as somebody has written them, instead of all that was proposed for these
// lines.
func (f *File) Write(number int, lines string) {
	start, end := f.around(number)
	before := f.Before.Slice(start, end)
	ending := before[len(bytes.TrimRight(before, "\r\n")):]
	body := before[:len(before)-len(ending)]
	was := f.Places[number]
	at, till, by := differing(body, []byte(lines))
	if at == till && by == "" { // as it is: there is nothing to do here
		at, till, by = int(was.At.Start)-start, int(was.At.End)-start, string(f.Before.Slice(int(was.At.Start), int(was.At.End)))
	}
	was.At, was.New, was.ByHand, was.Out = place.Range{Start: uint32(start + at), End: uint32(start + till)}, by, true, false
	f.Places = slices.DeleteFunc(f.Places, func(p Place) bool { return int(p.At.Start) >= start && int(p.At.End) <= end })
	i, _ := slices.BinarySearchFunc(f.Places, was.At.Start, func(p Place, at uint32) int { return cmp.Compare(p.At.Start, at) })
	f.Places = slices.Insert(f.Places, i, was)
}

// differing is the part of a text that another differs in, and what stands there in that.
func differing(a, b []byte) (start, end int, by string) {
	for start < len(a) && start < len(b) && a[start] == b[start] {
		start++
	}
	for start > 0 && start < len(a) && a[start]&0xC0 == 0x80 {
		start-- // in the middle of a character
	}
	back := 0
	for back < len(a)-start && back < len(b)-start && a[len(a)-1-back] == b[len(b)-1-back] {
		back++
	}
	for back > 0 && a[len(a)-back]&0xC0 == 0x80 {
		back--
	}
	return start, len(a) - back, string(b[start : len(b)-back])
}

// Warning is what might go wrong, or why something cannot be had.
type Warning struct {
	// Path is "" for what has no place; Line and Col count from 1, Col in bytes.
	Path      string
	Line, Col int
	Text      string
	// Stops says that the change must not be made: what comes of it would be wrong.
	Stops bool
}

// Proposal is a change over files.
type Proposal struct {
	// Title says what it does, in a few words.
	Title string
	// Files are in the order of their names.
	Files    []*File
	Warnings []Warning
}

// Clone is a proposal of its own with the same in it.
func (p *Proposal) Clone() *Proposal {
	q := &Proposal{Title: p.Title, Warnings: slices.Clone(p.Warnings)}
	for _, f := range p.Files {
		g := *f
		g.Places = slices.Clone(f.Places)
		q.Files = append(q.Files, &g)
	}
	return q
}

// Merge adds what another proposal about the same texts has.
func (p *Proposal) Merge(q *Proposal) {
	for _, f := range q.Files {
		before := func() *text.Document { return f.Before }
		if f.Path != f.To {
			p.Move(f.Path, f.To, before)
		}
		for _, at := range f.Places {
			p.Add(f.Path, before, at)
		}
	}
	for _, w := range q.Warnings {
		p.Warn(w)
	}
	p.Order()
}

// Add adds a place of a file. before is asked for its text if the file is not among those yet.
func (p *Proposal) Add(path string, before func() *text.Document, at Place) {
	f := p.File(path)
	if f == nil {
		f = &File{Path: path, To: path, Before: before()}
		p.Files = append(p.Files, f)
	}
	f.Places = append(f.Places, at)
}

// Move says that a file is to have another path.
func (p *Proposal) Move(path, to string, before func() *text.Document) {
	f := p.File(path)
	if f == nil {
		f = &File{Path: path, Before: before()}
		p.Files = append(p.Files, f)
	}
	f.To = to
}

// File is what becomes of the file of a path; nil for nothing.
func (p *Proposal) File(path string) *File {
	for i := len(p.Files) - 1; i >= 0; i-- { // the last one is asked about most
		if p.Files[i].Path == path {
			return p.Files[i]
		}
	}
	return nil
}

// Warn notes what might go wrong.
func (p *Proposal) Warn(w Warning) {
	if !slices.Contains(p.Warnings, w) {
		p.Warnings = append(p.Warnings, w)
	}
}

// Order puts everything in its order: files by name, places by where they stand. Of places that overlap, the surer
// one is kept.
func (p *Proposal) Order() {
	p.Files = slices.DeleteFunc(p.Files, func(f *File) bool { return len(f.Places) == 0 && f.Path == f.To })
	slices.SortStableFunc(p.Files, func(a, b *File) int { return strings.Compare(a.Name(), b.Name()) })
	for _, f := range p.Files {
		slices.SortStableFunc(f.Places, func(a, b Place) int {
			return cmp.Or(cmp.Compare(a.Group, b.Group), cmp.Compare(a.At.Start, b.At.Start))
		})
		var kept []Place
		for _, at := range f.Places {
			i, _ := slices.BinarySearchFunc(kept, at.At.Start, func(k Place, start uint32) int { return cmp.Compare(k.At.Start, start) })
			over := i > 0 && kept[i-1].At.End > at.At.Start || i < len(kept) && (kept[i].At.Start < at.At.End || kept[i].At == at.At)
			if !over {
				kept = slices.Insert(kept, i, at)
			}
		}
		f.Places = kept
	}
	slices.SortStableFunc(p.Warnings, func(a, b Warning) int {
		if a.Stops != b.Stops {
			return map[bool]int{true: -1, false: 1}[a.Stops]
		}
		return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
	})
}

// Counts are how much a proposal would change.
type Counts struct {
	// Places and Files are those that change; Out are the places that are left out.
	Places, Files, Out int
	// Moves are the files that are made, moved or taken away.
	Moves int
}

// Count counts what is taken in and what is left out.
func (p *Proposal) Count() (c Counts) {
	for _, f := range p.Files {
		for i := range f.Places {
			if f.Places[i].Out {
				c.Out++
			} else {
				c.Places++
			}
		}
		if f.Goes() {
			c.Moves++
		}
		if f.Changes() {
			c.Files++
		}
	}
	return c
}

// Stopped is the first reason why the change must not be made; ok is false if there is none.
func (p *Proposal) Stopped() (w Warning, ok bool) {
	for _, w := range p.Warnings {
		if w.Stops {
			return w, true
		}
	}
	return Warning{}, false
}
