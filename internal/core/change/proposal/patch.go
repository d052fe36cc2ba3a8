package proposal

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"strings"

	"github.com/bluekeyes/go-gitdiff/gitdiff"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// hunkWord is what a place is that was read from a diff.
const hunkWord = "hunk"

// ReadDiff reads a proposal from a unified diff, as git, diff and this program write it. read gives the text of a
// file as it is now; its error wraps fs.ErrNotExist for one that is not there. A hunk whose lines have moved is
// looked for where they are now; what does not fit any more is a warning.
func ReadDiff(from io.Reader, title string, read func(path string) (*text.Document, error)) (*Proposal, error) {
	data, err := io.ReadAll(from)
	if err != nil {
		return nil, fmt.Errorf("reading the diff: %w", err)
	}
	files, _, err := gitdiff.Parse(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("reading the diff: %w", err)
	}
	if len(files) == 0 {
		return nil, errors.New("reading the diff: it has no changes in it; it must be a unified diff")
	}
	p := &Proposal{Title: title}
	plain := !bytes.HasPrefix(data, []byte("diff --git ")) && !bytes.Contains(data, []byte("\ndiff --git "))
	for _, f := range files {
		if plain {
			withoutLetters(f)
		}
		if err := p.patch(f, read); err != nil {
			name := f.OldName
			if f.IsNew || name == "" {
				name = f.NewName
			}
			p.Warn(Warning{Path: name, Text: err.Error()})
		}
	}
	p.Order()
	return p, nil
}

func (p *Proposal) patch(d *gitdiff.File, read func(path string) (*text.Document, error)) error {
	path, to := d.OldName, d.NewName
	if d.IsNew {
		path = ""
	}
	if d.IsDelete {
		to = ""
	}
	for _, name := range []string{path, to} {
		if name != "" && !door.Inside(name) {
			return errors.New("it is not a file of this project")
		}
	}
	switch {
	case d.IsCopy:
		return errors.New("it is to be made a copy of another file, which is not done here")
	case d.IsBinary:
		return errors.New("it is binary, and nothing of that is changed here")
	case path != "" && p.File(path) != nil, path == "" && p.made(to):
		return errors.New("the diff has it twice")
	}
	f := &File{Path: path, To: to, Before: text.NewDocument(nil)}
	if path != "" {
		doc, err := read(path)
		if errors.Is(err, fs.ErrNotExist) {
			return errors.New("there is no such file")
		}
		if err != nil {
			return err
		}
		f.Before = doc
	}
	p.Files = append(p.Files, f)
	return f.fit(p, d.TextFragments)
}

// withoutLetters takes the letters in front of the paths away that others than git leave there.
func withoutLetters(d *gitdiff.File) {
	for _, name := range []*string{&d.OldName, &d.NewName} {
		if rest, ok := strings.CutPrefix(*name, "a/"); ok {
			*name = rest
		} else {
			*name = strings.TrimPrefix(*name, "b/")
		}
	}
}

func (p *Proposal) made(path string) bool {
	for _, f := range p.Files {
		if f.Path == "" && f.To == path {
			return true
		}
	}
	return false
}

// fit puts the hunks of a diff where they belong.
func (f *File) fit(p *Proposal, hunks []*gitdiff.TextFragment) error {
	raw, err := f.Before.Encode()
	if err != nil {
		return err
	}
	var fits []*gitdiff.TextFragment
	lines, shift, from := split(raw), 0, 0
	var starts []int
	for _, h := range hunks {
		at, ok := find(lines, h, int(h.OldPosition)-1+shift, from)
		if !ok {
			p.Warn(Warning{Path: f.Name(), Line: max(int(h.OldPosition), 1), Col: 1, Text: "the lines around this hunk read otherwise by now; it is left out"})
			continue
		}
		shift, from = at-(int(h.OldPosition)-1), at+int(h.OldLines)
		fits, starts = append(fits, h), append(starts, at)
	}
	if len(fits) == 0 && len(hunks) > 0 && f.Path == f.To {
		return nil
	}
	if !plainly(f.Before, raw) {
		f.rewrite(raw, lines, fits, starts)
		return nil
	}
	offsets := make([]int, len(lines)+1)
	for i, l := range lines {
		offsets[i+1] = offsets[i] + len(l)
	}
	for i, h := range fits {
		f.Places = append(f.Places, changes(h, starts[i], offsets)...)
	}
	return nil
}

// old are the lines that a hunk expects.
func old(h *gitdiff.TextFragment) (all []string) {
	for _, l := range h.Lines {
		if l.Op != gitdiff.OpAdd {
			all = append(all, l.Line)
		}
	}
	return all
}

// find is the line, from 0, at which the lines that a hunk expects stand, the nearest to where they are said to be
// and not before from.
func find(lines [][]byte, h *gitdiff.TextFragment, at, from int) (line int, ok bool) {
	want := old(h)
	if len(want) == 0 { // lines are only added, behind one
		return min(max(at+1, from), len(lines)), true
	}
	fits := func(at int) bool {
		if at < from || at+len(want) > len(lines) {
			return false
		}
		for i, w := range want {
			if string(lines[at+i]) != w {
				return false
			}
		}
		return true
	}
	for away := 0; away <= len(lines); away++ {
		if fits(at - away) {
			return at - away, true
		}
		if fits(at + away) {
			return at + away, true
		}
	}
	return 0, false
}

// changes are the places of a hunk whose lines begin at a line, counted from 0.
func changes(h *gitdiff.TextFragment, line int, offsets []int) (all []Place) {
	open := false
	for _, l := range h.Lines {
		if l.Op == gitdiff.OpContext {
			open = false
			line++
			continue
		}
		if !open {
			at := uint32(offsets[min(line, len(offsets)-1)])
			all, open = append(all, Place{At: place.Range{Start: at, End: at}, What: hunkWord}), true
		}
		p := &all[len(all)-1]
		if l.Op == gitdiff.OpAdd {
			p.New += l.Line
			continue
		}
		line++
		p.At.End = uint32(offsets[line])
	}
	return all
}

// rewrite makes one place of all hunks of a file whose bytes are not those of its text.
func (f *File) rewrite(raw []byte, lines [][]byte, hunks []*gitdiff.TextFragment, starts []int) {
	var out bytes.Buffer
	at := 0
	for i, h := range hunks {
		out.Write(bytes.Join(lines[at:starts[i]], nil))
		at = starts[i] + len(old(h))
		for _, l := range h.Lines {
			if l.Op != gitdiff.OpDelete {
				out.WriteString(l.Line)
			}
		}
	}
	out.Write(bytes.Join(lines[at:], nil))
	if bytes.Equal(out.Bytes(), raw) {
		return
	}
	for _, e := range text.Between(f.Before, text.NewDocument(out.Bytes())) {
		f.Places = append(f.Places, Place{At: place.Range{Start: uint32(e.Start), End: uint32(e.End)}, New: strings.Clone(string(e.New)), What: hunkWord})
	}
}
