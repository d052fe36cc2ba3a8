package lang

import (
	"bytes"
	"cmp"
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Importing changes what the files of a language import.
type Importing interface {
	// Change takes away what is imported at some places of a text, adds other imports, and puts all in order. Comments
	// stay with what they stand above.
	Change(ctx context.Context, text []byte, drop []place.Range, add []facts.Imported) ([]byte, error)
	// Wanted says whether a name that means nothing may be one that has to be imported; before says that it stands in front
	// of a member.
	Wanted(u facts.Use, before bool) bool
	// Stays says whether an import has to stay although no name of the code leads to it, given all of the text.
	Stays(i facts.Imported, name string, text []byte) bool
}

// NoImporting is for languages whose imports are left to whoever writes them.
var NoImporting Importing = noImporting{}

type noImporting struct{}

// Change implements Importing.
func (noImporting) Change(_ context.Context, text []byte, _ []place.Range, _ []facts.Imported) ([]byte, error) {
	return text, nil
}

// Wanted implements Importing.
func (noImporting) Wanted(facts.Use, bool) bool { return false }

// Stays implements Importing.
func (noImporting) Stays(facts.Imported, string, []byte) bool { return true }

// ImportLine is an import as it stands at the top of a file, by itself on its lines.
type ImportLine struct {
	// At is where it stands, with its last line end and the comments right above it.
	At place.Range
	// Module is what it imports from.
	Module string
	// Names are the places of the names that it brings in, if it lists any.
	Names []place.Range
	// Fixed says that it does something by being where it is, so that nothing is put before or behind it that was not.
	Fixed bool
	// Shared says that its line holds another statement, too, so that nothing is taken out of it.
	Shared bool
	text   string
}

// ImportLines are written one after the other, in groups with blank lines between. They are in order if those of a group
// are; what is added goes to the group it is most like.
type ImportLines struct {
	// Read finds them in a text, in order, and says where the first would go if there is none.
	Read func(ctx context.Context, text []byte) (all []ImportLine, first int, err error)
	// Write writes one, without its line end. Whole says that it is one of those that list no names.
	Write func(i facts.Imported) string
	// Name is how a name is written among others in a statement; "" if it needs a statement of its own.
	Name func(i facts.Imported) string
	// Module is how the module of an import is called in statements.
	Module func(i facts.Imported) string
	// Key is what those of a group are ordered by.
	Key func(s *ImportLine, written string) string
	// Kind tells modules apart that stand in groups of their own.
	Kind func(module string) int
}

// Change does what Importing.Change says.
func (w *ImportLines) Change(ctx context.Context, text []byte, drop []place.Range, add []facts.Imported) ([]byte, error) {
	all, first, err := w.Read(ctx, text)
	if err != nil {
		return nil, err
	}
	all = onePerLine(all)
	for i := range all {
		all[i].text = string(all[i].At.In(text))
	}
	groups := w.groups(text, all)
	for g := range groups {
		for i := range groups[g] {
			groups[g][i] = without(groups[g][i], drop)
		}
		groups[g] = slices.DeleteFunc(groups[g], func(s ImportLine) bool { return s.text == "" })
	}
	if len(all) == 0 {
		return w.begin(text, first, add), nil
	}
	for _, i := range add {
		w.put(groups, i)
	}
	return w.written(text, all, groups), nil
}

// onePerLine leaves the first of several statements that share a line, which stay as they are.
func onePerLine(all []ImportLine) (apart []ImportLine) {
	for _, s := range all {
		if n := len(apart); n > 0 && s.At.Start < apart[n-1].At.End {
			apart[n-1].Shared, apart[n-1].Fixed = true, true
			continue
		}
		apart = append(apart, s)
	}
	return apart
}

// groups are the statements between which there is nothing; one that is fixed stands alone.
func (w *ImportLines) groups(text []byte, all []ImportLine) (groups [][]ImportLine) {
	for i, s := range all {
		apart := i == 0 || s.Fixed || all[i-1].Fixed || len(bytes.TrimRight(text[all[i-1].At.End:s.At.Start], " \t")) > 0
		if apart {
			groups = append(groups, nil)
		}
		groups[len(groups)-1] = append(groups[len(groups)-1], s)
	}
	return groups
}

// without is a statement without the names at some places; its text is "" if nothing is left.
func without(s ImportLine, drop []place.Range) ImportLine {
	gone := func(at place.Range) bool {
		return !s.Shared && slices.ContainsFunc(drop, func(d place.Range) bool { return at.Start <= d.Start && d.End <= at.End })
	}
	if len(s.Names) == 0 {
		if gone(s.At) {
			s.text = ""
		}
		return s
	}
	var kept []place.Range
	for _, n := range s.Names {
		if !gone(n) {
			kept = append(kept, n)
		}
	}
	switch len(kept) {
	case len(s.Names):
		return s
	case 0:
		s.text = ""
		return s
	}
	for i := len(s.Names) - 1; i >= 0; i-- {
		at := s.Names[i]
		if !gone(at) {
			continue
		}
		if i+1 < len(s.Names) {
			at.End = s.Names[i+1].Start
		} else {
			at.Start = s.Names[i-1].End
		}
		from, to := at.Start-s.At.Start, at.End-s.At.Start
		s.text = s.text[:from] + s.text[to:]
		s.Names = append(s.Names[:i:i], moved(s.Names[i+1:], -int(to-from))...)
	}
	return s
}

func moved(all []place.Range, by int) (out []place.Range) {
	for _, r := range all {
		out = append(out, place.Range{Start: uint32(int(r.Start) + by), End: uint32(int(r.End) + by)})
	}
	return out
}

// put adds an import: to the statement that names others of its module, or else as one of its own.
func (w *ImportLines) put(groups [][]ImportLine, i facts.Imported) {
	module := w.Module(i)
	if name := w.Name(i); name != "" {
		for g := range groups {
			for n := range groups[g] {
				if s := &groups[g][n]; s.Module == module && len(s.Names) > 0 {
					s.add(name)
					return
				}
			}
		}
	}
	s := ImportLine{Module: module, text: w.Write(i) + "\n"}
	best, fits := -1, -1
	for g := range groups {
		for n := range groups[g] {
			if fit := w.fit(&groups[g][n], &s); fit > fits && !groups[g][n].Fixed {
				best, fits = g, fit
			}
		}
	}
	if best < 0 {
		best = len(groups) - 1
	}
	groups[best] = append(groups[best], s)
}

// fit says how well a statement goes with another one.
func (w *ImportLines) fit(a, b *ImportLine) int {
	n := 0
	if w.Kind(a.Module) == w.Kind(b.Module) {
		n = 100
	}
	for n%100 < min(len(a.Module), len(b.Module), 99) && a.Module[n%100] == b.Module[n%100] {
		n++
	}
	return n
}

// add adds a name to those that a statement lists, in its place if they are in order.
func (s *ImportLine) add(name string) {
	of := func(at place.Range) string { return s.text[at.Start-s.At.Start : at.End-s.At.Start] }
	at := len(s.Names)
	sorted := slices.IsSortedFunc(s.Names, func(a, b place.Range) int { return fold(of(a), of(b)) })
	for i, n := range s.Names {
		if of(n) == name {
			return
		}
		if sorted && at == len(s.Names) && fold(name, of(n)) < 0 {
			at = i
		}
	}
	between := ", "
	if len(s.Names) > 1 {
		between = s.text[s.Names[0].End-s.At.Start : s.Names[1].Start-s.At.Start]
	}
	var put string
	var where uint32
	if at < len(s.Names) {
		where, put = s.Names[at].Start-s.At.Start, name+between
	} else {
		where, put = s.Names[at-1].End-s.At.Start, between+name
	}
	s.text = s.text[:where] + put + s.text[where:]
	start := s.At.Start + where
	if at == len(s.Names) {
		start += uint32(len(between))
	}
	rest := moved(s.Names[at:], len(put))
	s.Names = append(append(s.Names[:at:at], place.Range{Start: start, End: start + uint32(len(name))}), rest...)
}

func fold(a, b string) int {
	return cmp.Or(strings.Compare(strings.ToLower(a), strings.ToLower(b)), strings.Compare(a, b))
}

// begin writes the first imports of a file.
func (w *ImportLines) begin(text []byte, first int, add []facts.Imported) []byte {
	if len(add) == 0 {
		return text
	}
	var groups [][]ImportLine
	for _, i := range add {
		s := ImportLine{Module: w.Module(i), text: w.Write(i) + "\n"}
		g := slices.IndexFunc(groups, func(g []ImportLine) bool { return w.Kind(g[0].Module) == w.Kind(s.Module) })
		if g < 0 {
			groups, g = append(groups, nil), len(groups)
		}
		groups[g] = append(groups[g], s)
	}
	slices.SortStableFunc(groups, func(a, b []ImportLine) int { return w.Kind(a[0].Module) - w.Kind(b[0].Module) })
	var b strings.Builder
	b.Write(text[:first])
	if first > 0 && text[first-1] != '\n' {
		b.WriteByte('\n')
	}
	if first > 0 && !bytes.HasSuffix(text[:first], []byte("\n\n")) {
		b.WriteByte('\n')
	}
	for _, g := range groups {
		w.sort(g)
		for _, s := range g {
			b.WriteString(s.text)
		}
		b.WriteByte('\n')
	}
	b.Write(bytes.TrimLeft(text[first:], "\n"))
	return []byte(b.String())
}

func (w *ImportLines) sort(g []ImportLine) {
	slices.SortStableFunc(g, func(a, b ImportLine) int {
		return strings.Compare(w.Key(&a, strings.TrimSpace(a.text)), w.Key(&b, strings.TrimSpace(b.text)))
	})
}

// written is the text with the statements as they are now.
func (w *ImportLines) written(text []byte, all []ImportLine, groups [][]ImportLine) []byte {
	was := w.groups(text, all)
	var b strings.Builder
	from := uint32(0)
	for i, g := range was {
		b.Write(text[from:g[0].At.Start])
		w.sort(groups[i])
		for _, s := range groups[i] {
			b.WriteString(s.text)
		}
		from = g[len(g)-1].At.End
		if len(groups[i]) == 0 { // and what stood between it and the next
			for from < uint32(len(text)) && text[from] == '\n' {
				from++
			}
		}
	}
	b.Write(text[from:])
	return []byte(b.String())
}

// Above is where a statement begins with the comments right above it, which stand on lines of their own.
func (s *ImportLine) Above(text []byte, comment func(line string) bool) {
	for s.At.Start > 0 {
		start := bytes.LastIndexByte(text[:s.At.Start-1], '\n') + 1
		if line := strings.TrimSpace(string(text[start : s.At.Start-1])); line == "" || !comment(line) {
			return
		}
		s.At.Start = uint32(start)
	}
}

// Lines has a statement take up all of its lines.
func (s *ImportLine) Lines(text []byte) {
	s.At.Start = uint32(bytes.LastIndexByte(text[:s.At.Start], '\n') + 1)
	if n := bytes.IndexByte(text[s.At.End:], '\n'); n >= 0 {
		s.At.End += uint32(n) + 1
	} else {
		s.At.End = uint32(len(text))
	}
}
