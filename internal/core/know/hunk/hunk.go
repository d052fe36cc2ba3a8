// Package hunk tells in what the files of a project differ from a commit: hunk by hunk, with the text that was there.
package hunk

import (
	"bytes"
	"slices"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Lines are lines of a text: the first of them, counted from 1, and how many. Of none, First is the line before which
// they would stand.
type Lines struct{ First, Count int }

// End is the line behind them.
func (l Lines) End() int { return l.First + l.Count }

// Hunk is a run of lines that differs: how it was, and how it is now.
type Hunk struct{ Was, Now Lines }

// Kind is what became of the lines.
type Kind uint8

// The kinds.
const (
	Changed Kind = iota
	Added
	Removed
)

// String names the kind.
func (k Kind) String() string { return [...]string{"changed", "added", "removed"}[k] }

// Kind is what became of the lines of a hunk.
func (h Hunk) Kind() Kind {
	switch {
	case h.Was.Count == 0:
		return Added
	case h.Now.Count == 0:
		return Removed
	}
	return Changed
}

// Line is the line of the text as it is now at which a hunk is shown, counted from 1: its first, or where lines were
// only taken out the one before, if there is one.
func (h Hunk) Line(now *text.Document) int {
	if h.Now.Count > 0 {
		return h.Now.First
	}
	return min(max(h.Now.First-1, 1), max(now.Lines(), 1))
}

// Diff is a text as it was and as it is.
type Diff struct {
	Was, Now *text.Document
	Hunks    []Hunk
}

// Compare compares two texts line by line.
func Compare(was, now *text.Document) *Diff {
	return &Diff{was, now, between(was.Bytes(), now.Bytes(), 1, 1)}
}

// between are the hunks of two texts that begin at lines.
func between(was, now []byte, wasLine, nowLine int) (all []Hunk) {
	skip := common(was, now)
	lines := bytes.Count(was[:skip], []byte("\n"))
	wasAt, nowAt := wasLine+lines, nowLine+lines
	for _, h := range vcs.Between(string(was[skip:]), string(now[skip:])) {
		n := nowLine + lines + h.Line - 1
		wasAt += n - nowAt
		all = append(all, Hunk{Lines{wasAt, h.Removed}, Lines{n, h.Added}})
		wasAt, nowAt = wasAt+h.Removed, n+h.Added
	}
	return all
}

// common is how many bytes of whole lines two texts begin with that are the same.
func common(a, b []byte) int {
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	if n == len(a) && n == len(b) {
		return n
	}
	return bytes.LastIndexByte(a[:n], '\n') + 1
}

// mostAgainBytes is up to how many bytes of lines are compared again with each key: there are lines that are very long.
const mostAgainBytes = 256 << 10

// Follow is the diff after edits of the text as it is now. Only the lines around them are compared again, so that it
// takes no longer in a long text; what results may be divided into hunks otherwise than Compare would.
func (d *Diff) Follow(edits []text.Edit, now *text.Document) *Diff {
	hunks := d.Hunks
	for i := len(edits) - 1; i >= 0; i-- { // from the end, so that the lines before are as they were
		hunks = d.touch(hunks, edits[i])
	}
	out := &Diff{Was: d.Was, Now: now}
	for _, h := range hunks {
		wasFrom, wasTo := lineStart(d.Was, h.Was.First), lineStart(d.Was, h.Was.End())
		from, to := lineStart(now, h.Now.First), lineStart(now, h.Now.End())
		if len(hunks) > 1 && h.Was.Count+h.Now.Count > mostAgain || wasTo-wasFrom+to-from > mostAgainBytes {
			out.Hunks = append(out.Hunks, h)
			continue
		}
		was, is := d.Was.Slice(wasFrom, wasTo), now.Slice(from, to)
		out.Hunks = append(out.Hunks, between(was, is, h.Was.First, h.Now.First)...)
	}
	return out
}

// mostAgain is up to how many lines a hunk is compared again as a whole.
const mostAgain = 20_000

// touch are the hunks after an edit, of which one now holds all lines that it touches.
func (d *Diff) touch(hunks []Hunk, e text.Edit) []Hunk {
	first, _ := d.Now.Position(e.Start)
	last, _ := d.Now.Position(e.End)
	more := bytes.Count(e.New, []byte("\n")) - (last - first)
	from, _ := slices.BinarySearchFunc(hunks, first, func(h Hunk, line int) int { return h.Now.End() - line })
	to := from
	one := Hunk{Now: Lines{first, last - first + 1}}
	shift := 0 // by how many lines the text is further down than it was, before the first of them
	if from > 0 {
		shift = hunks[from-1].Now.End() - hunks[from-1].Was.End()
	}
	one.Was = Lines{first - shift, last - first + 1}
	for ; to < len(hunks) && hunks[to].Now.First <= one.Now.End(); to++ {
		h := hunks[to]
		start, end := min(one.Now.First, h.Now.First), max(one.Now.End(), h.Now.End())
		wasEnd := h.Was.End() + end - h.Now.End()
		one = Hunk{Lines{start - shift, wasEnd - (start - shift)}, Lines{start, end - start}}
	}
	one.Was.Count = min(one.Was.Count, max(d.Was.Lines()+1-one.Was.First, 0))
	one.Now.Count += more
	out := append(slices.Clone(hunks[:from]), one)
	for _, h := range hunks[to:] {
		h.Now.First += more
		out = append(out, h)
	}
	return out
}

// lineStart is where a line begins; behind the last line, the end of the text.
func lineStart(d *text.Document, line int) int {
	if line > d.Lines() {
		return d.Len()
	}
	return d.Offset(line, 1)
}

// At is the number of the hunk at a line of the text as it is now; ok is false if there is none.
func (d *Diff) At(line int) (number int, ok bool) {
	n, _ := slices.BinarySearchFunc(d.Hunks, line, func(h Hunk, line int) int { return h.Now.First - line })
	for i := max(n-1, 0); i < len(d.Hunks) && i <= n+1; i++ {
		h := d.Hunks[i]
		if h.Now.First <= line && line < h.Now.End() || h.Now.Count == 0 && h.Line(d.Now) == line {
			return i, true
		}
	}
	return 0, false
}

// Old is the text of a hunk as it was, with its line ends.
func (d *Diff) Old(h Hunk) []byte {
	return d.Was.Slice(lineStart(d.Was, h.Was.First), lineStart(d.Was, h.Was.End()))
}

// Back is the edit that puts a hunk back.
func (d *Diff) Back(h Hunk) text.Edit {
	return text.Edit{Start: lineStart(d.Now, h.Now.First), End: lineStart(d.Now, h.Now.End()), New: d.Old(h)}
}

// BackLine is the edit that puts one line of a hunk back: a line that was added goes, one that was changed reads as
// the one in its place; of lines that were only taken out, all come back.
func (d *Diff) BackLine(h Hunk, line int) text.Edit {
	if h.Kind() == Removed {
		return d.Back(h)
	}
	e := text.Edit{Start: lineStart(d.Now, line), End: lineStart(d.Now, line+1)}
	if was := h.Was.First + line - h.Now.First; was < h.Was.End() {
		e.New = d.Was.Slice(lineStart(d.Was, was), lineStart(d.Was, was+1))
	}
	return e
}

// WasLine is the line of the text as it was that stands at a line of the text as it is, both counted from 1.
func (d *Diff) WasLine(line int) int {
	shift := 0
	for _, h := range d.Hunks {
		if h.Now.First > line {
			break
		}
		shift = h.Was.End() - h.Now.End()
	}
	return min(max(line+shift, 1), max(d.Was.Lines(), 1))
}

// Within are the parts of the lines of a hunk as they were, in bytes of that text, that read otherwise now: line by line,
// as far as both have one.
func (d *Diff) Within(h Hunk) (parts []place.Range) {
	for i := range h.Was.Count {
		line := h.Was.First + i
		was, start := d.Was.Line(line), d.Was.Offset(line, 1)
		front, back := 0, 0
		if i < h.Now.Count {
			now := d.Now.Line(h.Now.First + i)
			for front < len(was) && front < len(now) && was[front] == now[front] {
				front++
			}
			for back < len(was)-front && back < len(now)-front && was[len(was)-1-back] == now[len(now)-1-back] {
				back++
			}
		}
		for front > 0 && front < len(was) && was[front]&0xC0 == 0x80 {
			front-- // in the middle of a character
		}
		if front < len(was)-back {
			parts = append(parts, place.Range{Start: uint32(start + front), End: uint32(start + len(was) - back)})
		}
	}
	return parts
}
