package lsif

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"slices"

	"rooktrail/internal/core/file/text"
)

// use is a place of a name, and where what it means is defined: in a file, by its number among the targets of a text.
type use struct {
	at, length uint32
	target     int32
	targetAt   uint32
}

// said is what a dump says of a file.
type said struct {
	text    []byte // of which it was said
	unsure  bool   // it was not a compiler that said it
	targets []string
	uses    []use // by at
}

// Own is what this program is called in the dumps that it writes: what they say is not what a compiler says.
const Own = "rooktrail"

// Taken says what was taken in of a dump.
type Taken struct {
	// Files are the files of the project of which it says something, Names the places of names in them.
	Files, Names int
	// Outside are the files of the dump that are not among those of the project, Other those of which the text is another one.
	Outside, Other int
}

// convert turns a dump into what it says of the files of a project; text gives how these read now, nil for what is none of them.
func (d *dump) convert(ctx context.Context, text func(path string) []byte) (all map[string]*said, taken Taken, err error) {
	all, taken.Outside = map[string]*said{}, d.outside
	offsets := make([]int32, len(d.spans)) // -1 for what is nowhere
	for i := range offsets {
		offsets[i] = -1
	}
	lengths := make([]uint32, len(d.spans))
	for i := range d.documents {
		if ctx.Err() != nil {
			return nil, taken, ctx.Err()
		}
		doc := &d.documents[i]
		if doc.path == "" {
			continue
		}
		present := text(doc.path)
		if present == nil {
			taken.Outside++
			continue
		}
		of := doc.contents
		if of == nil {
			of = present
		}
		if !d.placed(doc, of, offsets, lengths) {
			taken.Other++
			continue
		}
		all[doc.path] = &said{text: bytes.Clone(of), unsure: d.tool == Own}
	}
	for at := range d.spans {
		d.mean(uint32(at), all, offsets, lengths)
	}
	for p, s := range all {
		slices.SortFunc(s.uses, func(a, b use) int { return int(a.at) - int(b.at) })
		s.uses = slices.CompactFunc(s.uses, func(a, b use) bool { return a.at == b.at })
		if len(s.uses) == 0 {
			delete(all, p)
			continue
		}
		taken.Files++
		taken.Names += len(s.uses)
	}
	return all, taken, nil
}

// misplaced is how many of the ranges of a text, in per cent, may lie where no name does before it counts as another one.
const misplaced = 2

// placed finds the ranges of a document in its text; it is false if that is not the text of which the dump was made.
func (d *dump) placed(doc *document, of []byte, offsets []int32, lengths []uint32) bool {
	starts, wrong := lines(of), 0
	for _, s := range doc.spans {
		start, ok := d.offset(of, starts, d.spans[s].start)
		end, ok2 := d.offset(of, starts, d.spans[s].end)
		if !ok || !ok2 || end < start || !bounded(of, start, end) {
			wrong++
			continue
		}
		offsets[s], lengths[s] = int32(start), uint32(end-start)
	}
	if 100*wrong <= misplaced*len(doc.spans) {
		return true
	}
	for _, s := range doc.spans {
		offsets[s] = -1
	}
	return false
}

// bounded says whether a piece of a text does not begin or end within a word.
func bounded(of []byte, start, end int) bool {
	within := func(at int) bool {
		return at > 0 && at < len(of) && text.ByteInWord(of[at-1]) && text.ByteInWord(of[at])
	}
	return !within(start) && !within(end)
}

// mean notes what a range means, if that has the same name: only then it says more than where to look.
func (d *dump) mean(at uint32, all map[string]*said, offsets []int32, lengths []uint32) {
	if offsets[at] < 0 || lengths[at] == 0 {
		return
	}
	def, ok := d.definition(at)
	if !ok || offsets[def] < 0 || d.spans[at].document < 0 || d.spans[def].document < 0 {
		return
	}
	if def == at {
		return // it is the definition, or both that and a use of something, of which it is not said
	}
	s, to := all[d.documents[d.spans[at].document].path], d.documents[d.spans[def].document].path
	t := all[to]
	if s == nil || t == nil || lengths[at] != lengths[def] {
		return
	}
	name := s.text[offsets[at] : uint32(offsets[at])+lengths[at]]
	if !bytes.Equal(name, t.text[offsets[def]:uint32(offsets[def])+lengths[def]]) {
		return
	}
	n := slices.Index(s.targets, to)
	if n < 0 {
		n = len(s.targets)
		s.targets = append(s.targets, to)
	}
	s.uses = append(s.uses, use{uint32(offsets[at]), lengths[at], int32(n), uint32(offsets[def])})
}

// Take reads a dump and keeps what it says, all of it or nothing; what was said before of the same files is replaced. text gives the
// texts of the files of the project as they are on disk, nil for what is none of them.
func (x *Index) Take(ctx context.Context, from io.Reader, text func(path string) []byte) (taken Taken, err error) {
	d, err := read(ctx, from)
	if err != nil {
		return taken, fmt.Errorf("reading the dump: %w", err)
	}
	all, taken, err := d.convert(ctx, text)
	if err != nil {
		return taken, err
	}
	return taken, x.keep(all)
}
