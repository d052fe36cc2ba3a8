package mend

import (
	"path"
	"slices"
	"strings"
	"unicode"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/resolve"
)

// method is one that a type has to have.
type method struct {
	name, head string
	dir        string // of the file that declares it
}

// stubs adds the methods of an interface that a type of a file has not.
func (m *mending) stubs(file *codebase.File, id facts.DefID, iface resolve.Answer, about string) {
	if id == facts.NoDef {
		return
	}
	d := &file.Facts.Defs[id]
	has := m.methodsOf(file, id)
	var missing []method
	for _, x := range m.declared(iface) {
		if !has[x.name] && !m.isMember(x.name, d.Name, path.Dir(file.Path)) {
			missing = append(missing, x)
		}
	}
	if len(missing) == 0 {
		return
	}
	how, doc := m.lang.Mending, file.Text.Bytes()
	at, indent := int(d.Full.End), ""
	if how.Inside {
		at, indent = insideEnd(doc, d.Full), memberIndent(file.Text, d)
	} else {
		at = m.behindMethods(file, d)
	}
	var b strings.Builder
	for _, x := range missing {
		from := ""
		if x.dir != path.Dir(file.Path) {
			from = path.Base(x.dir)
		}
		b.WriteString(how.Stub(lang.Stub{Type: d.Name, Name: x.name, Head: x.head, Indent: indent, From: from, Text: doc}))
	}
	p := &proposal.Proposal{}
	p.Add(file.Path, func() *text.Document { return file.Text }, proposal.Place{
		At: place.Range{Start: uint32(at), End: uint32(at)}, New: b.String(), What: "method", In: d.Name, Certainty: resolve.Inferred,
	})
	title := "write the methods of " + iface.Name + " that " + d.Name + " lacks"
	if len(missing) == 1 {
		title = "write " + missing[0].name + ", which " + d.Name + " lacks of " + iface.Name
	}
	m.add(title, about, p)
}

// declared are the methods of an interface, with those of what it extends; those with a body are left out.
func (m *mending) declared(iface resolve.Answer) (all []method) {
	todo := append([]resolve.Answer{iface}, m.resolver.Supertypes(m.ctx, iface.Path, int(iface.At.Start), resolve.All).Answers...)
	seen := map[string]bool{}
	for _, t := range todo {
		file, err := m.code.Load(m.ctx, t.Path)
		if err != nil || file.Facts == nil || t.Kind != facts.Interface {
			continue
		}
		id := file.Facts.DefAt(int(t.At.Start))
		for i := range file.Facts.Defs {
			d := &file.Facts.Defs[i]
			if d.Parent != id || !d.Kind.IsCallable() || d.Static || seen[d.Name] || id == facts.NoDef {
				continue
			}
			written := string(d.Full.In(file.Text.Bytes()))
			if strings.Contains(written, "{") && !strings.Contains(string(d.Head.In(file.Text.Bytes())), "{") {
				continue // it has a body
			}
			seen[d.Name] = true
			head := written
			if d.Head.Len() > 0 {
				head = string(d.Head.In(file.Text.Bytes()))
			}
			all = append(all, method{d.Name, head, path.Dir(t.Path)})
		}
	}
	return all
}

// methodsOf are the names of the methods and fields that a type has, its own and those of what it is derived from.
func (m *mending) methodsOf(file *codebase.File, id facts.DefID) map[string]bool {
	has := map[string]bool{}
	take := func(f *codebase.File, of facts.DefID) {
		for i := range f.Facts.Defs {
			d := &f.Facts.Defs[i]
			if d.Parent == of || d.Container == f.Facts.Defs[of].Name {
				has[d.Name] = true
			}
		}
	}
	take(file, id)
	d := &file.Facts.Defs[id]
	for _, super := range m.resolver.Supertypes(m.ctx, file.Path, int(d.At.Start), resolve.All).Answers {
		if super.Kind == facts.Interface {
			continue
		}
		f, err := m.code.Load(m.ctx, super.Path)
		if err != nil || f.Facts == nil {
			continue
		}
		if of := f.Facts.DefAt(int(super.At.Start)); of != facts.NoDef {
			take(f, of)
		}
	}
	return has
}

// isMember says whether a type of a folder has a member of a name, in whatever file of that.
func (m *mending) isMember(name, typ, folder string) bool {
	return slices.ContainsFunc(m.code.Index().Named(name), func(s index.Symbol) bool { return s.Container == typ && path.Dir(s.Path) == folder })
}

// insideEnd is where the last line of the body of a type begins: in front of the bracket that closes it.
func insideEnd(doc []byte, full place.Range) int {
	end := int(full.End)
	for end > int(full.Start) && doc[end-1] != '}' {
		end--
	}
	end--
	for end > int(full.Start) && (doc[end-1] == ' ' || doc[end-1] == '\t') {
		end--
	}
	return end
}

// memberIndent is what the members of a type stand in by.
func memberIndent(doc *text.Document, d *facts.Def) string {
	first, _ := doc.Position(int(d.At.Start))
	last, _ := doc.Position(int(d.Full.End))
	of := func(line int) string {
		t := string(doc.Line(line))
		return t[:len(t)-len(strings.TrimLeft(t, " \t"))]
	}
	for line := first + 1; line < last; line++ {
		if in := of(line); strings.TrimSpace(string(doc.Line(line))) != "" && len(in) > len(of(first)) {
			return in
		}
	}
	return of(first) + "    "
}

// behindMethods is the end of the last method of a type in its file, or that of the type.
func (m *mending) behindMethods(file *codebase.File, d *facts.Def) int {
	doc := file.Text.Bytes()
	end := int(d.Full.End)
	for i := range file.Facts.Defs {
		if o := &file.Facts.Defs[i]; o.Container == d.Name && o.Kind.IsCallable() {
			end = max(end, int(o.Full.End))
		}
	}
	for end < len(doc) && doc[end] != '\n' {
		end++
	}
	return min(end+1, len(doc))
}

// misspelled adds other spellings of the word at the caret, if that is one of a comment or a string that no list has.
func (m *mending) misspelled() {
	doc := m.file.Text.Bytes()
	if _, said := m.code.Languages().Signs(m.file.Path).Runs(doc).At(m.offset); !said {
		return
	}
	start, end := text.WordAround(doc, m.offset)
	word := string(doc[start:end])
	if len(word) < 4 || strings.ContainsFunc(word, func(r rune) bool { return !unicode.IsLetter(r) }) {
		return
	}
	for _, other := range m.spellings(word) {
		m.add("spell it "+other, word+" is in no list of words", m.edits("spelling", lang.Replaced{At: place.Range{Start: uint32(start), End: uint32(end)}, New: other}))
	}
}

// spellings are the words of the lists that are written almost as one that is in none; none if it is in one.
func (m *Mender) spellings(word string) (all []string) {
	m.once.Do(m.readWords)
	lower := strings.ToLower(word)
	if len(m.words) == 0 || m.words[lower] || m.words[word] {
		return nil
	}
	type candidate struct {
		word string
		far  int
	}
	var near []candidate
	for w := range m.words {
		if len(w) > len(lower)+2 || len(w)+2 < len(lower) {
			continue
		}
		if d := Distance(lower, w); d <= 1+len(lower)/6 {
			near = append(near, candidate{w, d*2 + firstDiffers(lower, w)})
		}
	}
	slices.SortFunc(near, func(a, b candidate) int {
		if a.far != b.far {
			return a.far - b.far
		}
		return strings.Compare(a.word, b.word)
	})
	for _, c := range near[:min(len(near), 5)] {
		all = append(all, likeThe(word, c.word))
	}
	return all
}

func firstDiffers(a, b string) int {
	if a[0] != b[0] {
		return 1
	}
	return 0
}

// likeThe writes a word with large letters as another has them.
func likeThe(pattern, word string) string {
	switch {
	case strings.ToUpper(pattern) == pattern:
		return strings.ToUpper(word)
	case strings.ToUpper(pattern[:1]) == pattern[:1]:
		return strings.ToUpper(word[:1]) + word[1:]
	}
	return word
}
