package proposal

import (
	"bufio"
	"bytes"
	"cmp"
	"fmt"
	"io"
	"strings"

	"rooktrail/internal/core/file/text"
)

// around is how many lines a unified diff has around what differs.
const context = 3

// WriteDiff writes what is taken in as a unified diff, in the form that git and patch take, of the bytes of the
// files.
func (p *Proposal) WriteDiff(to io.Writer) error {
	out := bufio.NewWriter(to)
	for _, f := range p.Files {
		if !f.Changes() {
			continue
		}
		if err := f.writeDiff(out); err != nil {
			return fmt.Errorf("writing the diff of %s: %w", f.Name(), err)
		}
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("writing the diff: %w", err)
	}
	return nil
}

func (f *File) writeDiff(out *bufio.Writer) error {
	from, to := f.Path, f.To
	if f.Stays {
		from, to = f.Name(), f.Name()
	}
	fmt.Fprintf(out, "diff --git %s %s\n", quoted("a/"+cmp.Or(from, to)), quoted("b/"+cmp.Or(to, from)))
	a, b := quoted("a/"+from), quoted("b/"+to)
	switch {
	case from == "":
		out.WriteString("new file mode 100644\n")
		a = "/dev/null"
	case to == "":
		out.WriteString("deleted file mode 100644\n")
		b = "/dev/null"
	case from != to:
		fmt.Fprintf(out, "rename from %s\nrename to %s\n", quoted(from), quoted(to))
	}
	hunks, err := f.hunks(to == "")
	if err != nil {
		return err
	}
	if len(hunks) == 0 {
		return nil
	}
	fmt.Fprintf(out, "--- %s\n+++ %s\n", a, b)
	for _, h := range hunks {
		h.write(out)
	}
	return nil
}

// quoted writes a path as git does where it has letters that could be misread.
func quoted(p string) string {
	plain := true
	var b strings.Builder
	b.WriteByte('"')
	for i := 0; i < len(p); i++ {
		switch c := p[i]; {
		case c == '"' || c == '\\':
			plain = false
			b.WriteByte('\\')
			b.WriteByte(c)
		case c < 0x20 || c >= 0x7f:
			plain = false
			fmt.Fprintf(&b, "\\%03o", c)
		default:
			b.WriteByte(c)
		}
	}
	if plain {
		return p
	}
	return b.String() + `"`
}

// hunk is a part of a unified diff: lines that go and lines that come, with those around.
type hunk struct {
	from, to   int // the first line before and after, counted from 1
	was, is    int // how many lines there are
	lines      [][]byte
	signs      []byte
	lastBefore bool
}

func (h *hunk) add(sign byte, line []byte) {
	h.signs, h.lines = append(h.signs, sign), append(h.lines, line)
	if sign != '+' {
		h.was++
	}
	if sign != '-' {
		h.is++
	}
}

func (h *hunk) write(out *bufio.Writer) {
	start := func(line, count int) string {
		if count == 0 {
			line--
		}
		if count == 1 {
			return fmt.Sprint(line)
		}
		return fmt.Sprintf("%d,%d", line, count)
	}
	fmt.Fprintf(out, "@@ -%s +%s @@\n", start(h.from, h.was), start(h.to, h.is))
	for i, l := range h.lines {
		out.WriteByte(h.signs[i])
		out.Write(l)
		if len(l) == 0 || l[len(l)-1] != '\n' {
			out.WriteString("\n\\ No newline at end of file\n")
		}
	}
}

// run is a run of whole lines of a text that reads otherwise after a change, with their numbers from 0.
type run struct {
	first, end int // of the lines before
	after      []byte
}

// hunks are those of the file. Where its bytes are those of its text, they are made of the edits alone.
func (f *File) hunks(gone bool) ([]*hunk, error) {
	before, err := f.Before.Encode()
	if err != nil {
		return nil, err
	}
	after := []byte(nil)
	if !gone {
		if after, err = f.After().Encode(); err != nil {
			return nil, err
		}
	}
	if f.Path == "" {
		before = nil
	}
	lines := split(before)
	if gone || f.Path == "" || !plainly(f.Before, before) {
		return assemble(lines, runOf(lines, split(after))), nil
	}
	return assemble(lines, f.runs(before)), nil
}

// plainly says whether the bytes of a file are those of its text.
func plainly(d *text.Document, raw []byte) bool { return bytes.Equal(d.Bytes(), raw) }

// split cuts bytes into lines with their line ends.
func split(data []byte) [][]byte {
	lines := bytes.SplitAfter(data, []byte("\n"))
	if n := len(lines); len(lines[n-1]) == 0 {
		lines = lines[:n-1]
	}
	return lines
}

// runOf is the one run in which lines differ from others.
func runOf(a, b [][]byte) []run {
	start := 0
	for start < len(a) && start < len(b) && bytes.Equal(a[start], b[start]) {
		start++
	}
	back := 0
	for back < len(a)-start && back < len(b)-start && bytes.Equal(a[len(a)-1-back], b[len(b)-1-back]) {
		back++
	}
	if start == len(a) && start == len(b) {
		return nil
	}
	return []run{{start, len(a) - back, bytes.Join(b[start:len(b)-back], nil)}}
}

// runs are those of the edits: of edits that touch the same lines, one.
func (f *File) runs(before []byte) (all []run) {
	edits := f.Edits()
	starts := []int{0}
	for i, c := range before {
		if c == '\n' && i+1 < len(before) {
			starts = append(starts, i+1)
		}
	}
	line := 0
	at := func(offset int) int {
		for line+1 < len(starts) && starts[line+1] <= offset {
			line++
		}
		return line
	}
	lineEnd := func(line int) int {
		if line+1 < len(starts) {
			return starts[line+1]
		}
		return len(before)
	}
	for i := 0; i < len(edits); {
		first := at(edits[i].Start)
		last := first
		var b []byte
		b = append(b, before[starts[first]:edits[i].Start]...)
		for {
			e := edits[i]
			b = append(b, e.New...)
			last = max(last, at(e.End))
			if e.End > e.Start && e.End == starts[last] && last > first && (len(b) == 0 || b[len(b)-1] == '\n') {
				last-- // it ends with a line end, and leaves the next line as it is
			}
			i++
			if i < len(edits) && edits[i].Start < lineEnd(last) {
				b = append(b, before[e.End:edits[i].Start]...)
				continue
			}
			b = append(b, before[min(e.End, lineEnd(last)):lineEnd(last)]...)
			break
		}
		r := run{first, min(last+1, len(starts)), b}
		if len(before) == 0 {
			r = run{0, 0, b}
		}
		all = append(all, trimmed(before, starts, r, lineEnd)...)
	}
	return all
}

// trimmed leaves the lines at both ends out of a run that read as before.
func trimmed(before []byte, starts []int, r run, lineEnd func(int) int) []run {
	var was [][]byte
	for l := r.first; l < r.end; l++ {
		was = append(was, before[starts[l]:lineEnd(l)])
	}
	var part []run
	for _, t := range runOf(was, split(r.after)) {
		part = append(part, run{r.first + t.first, r.first + t.end, t.after})
	}
	return part
}

// assemble puts runs into hunks, those that are near to each other into one.
func assemble(lines [][]byte, runs []run) (all []*hunk) {
	shift := 0
	for i := 0; i < len(runs); {
		start := max(runs[i].first-context, 0)
		h := &hunk{from: start + 1, to: start + 1 + shift}
		at := start
		for {
			r := runs[i]
			for ; at < r.first; at++ {
				h.add(' ', lines[at])
			}
			for ; at < r.end; at++ {
				h.add('-', lines[at])
			}
			for _, l := range split(r.after) {
				h.add('+', l)
			}
			if i++; i == len(runs) || runs[i].first > at+2*context {
				break
			}
		}
		for end := min(at+context, len(lines)); at < end; at++ {
			h.add(' ', lines[at])
		}
		shift += h.is - h.was
		all = append(all, h)
	}
	return all
}
