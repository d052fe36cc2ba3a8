package write

import (
	"regexp"
	"strings"

	"rooktrail/internal/core/file/text"
)

// Template is a text with places to fill in.
type Template struct {
	text   string
	fields [][]span // those of one name together, by bytes of the text: first and last+1
}

var field = regexp.MustCompile(`\{\{(\w*)\}\}|\{(\w*)(?::([^{}\n]*))?\}`)

// ParseTemplate reads a template: {} is a place to fill in, {name} one that is filled in together with all of
// that name, {name:word} one in which there is something already; {{}} and {{name}} are braces. Other braces are
// what they are.
func ParseTemplate(s string) Template {
	var t Template
	var b strings.Builder
	byName := map[string]int{}
	last := 0
	for _, m := range field.FindAllStringSubmatchIndex(s, -1) {
		b.WriteString(s[last:m[0]])
		last = m[1]
		if m[2] >= 0 {
			b.WriteString("{" + s[m[2]:m[3]] + "}")
			continue
		}
		name, from := s[m[4]:m[5]], b.Len()
		if m[6] >= 0 {
			b.WriteString(s[m[6]:m[7]])
		}
		at := span{from, b.Len()}
		if i, known := byName[name]; known && name != "" {
			t.fields[i] = append(t.fields[i], at)
			continue
		}
		byName[name] = len(t.fields)
		t.fields = append(t.fields, []span{at})
	}
	b.WriteString(s[last:])
	t.text = b.String()
	return t
}

// Plain is the template of a text that is meant as it is: braces that would be places to fill in stand for themselves.
func Plain(s string) string {
	return field.ReplaceAllStringFunc(s, func(m string) string { return "{" + m + "}" })
}

// Fields are the places of a template in a text, to be filled in one after the other.
type Fields struct {
	left [][]span
}

// Insert puts a template in place of what is selected, each line indented as the one it stands in, and goes to
// its first place to fill in.
func (e *Editor) Insert(t Template) *Fields {
	e.carets, e.main = []Caret{e.Main()}, 0
	e.history.Break()
	start, end := e.Main().Selected()
	line, _ := e.doc.Position(start)
	l := e.doc.Line(line)
	indent := string(l[:len(l)-len(strings.TrimLeft(string(l), " \t"))])
	lineEnd := string(e.doc.LineEnd())
	var b strings.Builder
	moved := make([]int, len(t.text)+1) // where each byte comes to stand
	for i := range len(t.text) {
		moved[i] = start + b.Len()
		if t.text[i] == '\n' {
			b.WriteString(lineEnd + indent)
			continue
		}
		if t.text[i] == '\t' && e.style.Indent != "\t" {
			b.WriteString(e.style.Indent)
			continue
		}
		b.WriteByte(t.text[i])
	}
	moved[len(t.text)] = start + b.Len()
	at := start + b.Len()
	e.apply([]text.Edit{{Start: start, End: end, New: []byte(b.String())}}, text.Other, []Caret{{At: at, From: at}}, 0)
	e.history.Break()
	f := &Fields{}
	for _, group := range t.fields {
		var all []span
		for _, s := range group {
			all = append(all, span{moved[s.first], moved[s.last]})
		}
		f.left = append(f.left, all)
	}
	if len(f.left) > 0 {
		f.left = append(f.left, []span{{at, at}}) // at last behind it
	}
	e.NextField(f)
	return f
}

// NextField selects the next place to fill in, all of its name; it is false if there is none left.
func (e *Editor) NextField(f *Fields) bool {
	if f == nil || len(f.left) == 0 {
		return false
	}
	var carets []Caret
	for _, s := range f.left[0] {
		carets = append(carets, Caret{From: e.clamp(s.first), At: e.clamp(s.last)})
	}
	f.left = f.left[1:]
	if len(carets) == 0 {
		return e.NextField(f)
	}
	e.settle(carets, 0)
	e.history.Break()
	return true
}

// Any says whether there are any.
func (f *Fields) Any() bool { return f != nil && len(f.left) > 0 }

// Moved follows edits of the text. Places that were written over are left out.
func (f *Fields) Moved(edits []text.Edit) {
	if f == nil {
		return
	}
	for i := range f.left {
		kept := f.left[i][:0]
		for _, s := range f.left[i] {
			if s, ok := s.after(edits); ok {
				kept = append(kept, s)
			}
		}
		f.left[i] = kept
	}
}

// after is where a run of bytes is after edits; ok is false if one of them goes over its edge.
func (s span) after(edits []text.Edit) (span, bool) {
	by, grown := 0, 0
	for _, x := range edits {
		switch {
		case x.End <= s.first:
			by += x.Shift()
		case x.Start >= s.last:
		case x.Start >= s.first && x.End <= s.last:
			grown += x.Shift()
		default:
			return s, false
		}
	}
	return span{s.first + by, s.last + by + grown}, true
}
