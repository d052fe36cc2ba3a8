package rename

import (
	"bytes"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// argumentWord is what a place is at which the name of a parameter stands in a call.
const argumentWord = "argument"

// arguments adds the places at which a parameter is given its value by name: in the calls of its function.
func (w *work) arguments() {
	l := w.language()
	if l == nil || l.Names.Argument == "" || l.Names.Argument == " " {
		return
	}
	first := w.bound.Definitions[0]
	f := w.file(first.Path)
	if f == nil || f.Facts == nil {
		return
	}
	id := f.Facts.DefAt(int(first.At.Start))
	if id == facts.NoDef {
		return
	}
	d := &f.Facts.Defs[id]
	owner := w.owner(f.Facts, d)
	if owner == facts.NoDef || d.Kind != facts.Parameter && d.Kind != facts.Field && d.Kind != facts.Property {
		return
	}
	takes := []facts.DefID{owner}
	if made := &f.Facts.Defs[owner]; slices.Contains(l.Members.Constructors, made.Name) && made.Parent != facts.NoDef {
		takes = append(takes, made.Parent)
	}
	for _, id := range takes {
		b := w.guide.Bound(w.ctx, first.Path, int(f.Facts.Defs[id].At.Start), false)
		for _, u := range b.References {
			if u.Access == facts.Call && u.Certainty != resolve.ByName {
				w.argumentsOf(u)
			}
		}
	}
}

// owner is the function, or the type, that is called with a parameter; NoDef for none.
func (w *work) owner(f *facts.File, d *facts.Def) facts.DefID {
	if d.Kind == facts.Parameter {
		if owner := f.Scopes[d.Scope].Owner; owner != facts.NoDef {
			return owner
		}
		return d.Parent
	}
	if d.Parent != facts.NoDef && f.Defs[d.Parent].Kind.IsType() {
		for i := range f.Defs { // one that is made by a function of its own takes what that says
			if o := &f.Defs[i]; o.Parent == d.Parent && slices.Contains(w.language().Members.Constructors, o.Name) {
				return facts.NoDef
			}
		}
		return d.Parent
	}
	return facts.NoDef
}

// argumentsOf adds the places in a call at which the name stands in front of an argument.
func (w *work) argumentsOf(u resolve.Reference) {
	f := w.file(u.Path)
	l := w.code.Languages().Of(u.Path)
	if f == nil || l == nil {
		return
	}
	for _, at := range named(l.Signs, f.Text, int(u.At.End), w.bound.Name, l.Names.Argument) {
		w.add(u.Path, at, w.asked.New, argumentWord, u.Certainty, 0)
	}
}

// longestCall bounds how much of a text is looked through for the arguments of a call, in bytes.
const longestCall = 1 << 16

// named are the places in the round brackets behind an offset at which a name stands before an argument, with a sign
// behind it.
func named(signs *lexical.Signs, doc *text.Document, from int, name, sign string) (all []place.Range) {
	body := doc.Slice(from, from+longestCall)
	runs := signs.Runs(body)
	depth, begins := 0, false
	for i := 0; i < len(body); {
		if run, ok := runs.At(i); ok {
			i = max(int(run.At.End), i+1)
			begins = begins && run.Role == lexical.Comment
			continue
		}
		c := body[i]
		switch {
		case c == ' ' || c == '\t' || c == '\n' || c == '\r':
			i++
			continue
		case c == '(' || c == '[' || c == '{':
			depth++
			begins = depth == 1
		case c == ')' || c == ']' || c == '}':
			if depth--; depth <= 0 && c == ')' {
				return all
			}
			begins = false
		case c == ',' && depth == 1:
			begins = true
		case depth == 0 && c != '<' && c != '>' && c != '.' && c != ':' && !text.ByteInWord(c):
			return all // it is not called
		case begins && bytes.HasPrefix(body[i:], []byte(name)) && signed(body[i+len(name):], sign):
			all = append(all, place.Range{Start: uint32(from + i), End: uint32(from + i + len(name))})
			begins = false
		default:
			begins = false
		}
		i++
	}
	return all
}

// signed says whether a sign follows, and not a longer one.
func signed(rest []byte, sign string) bool {
	rest = bytes.TrimLeft(rest, " \t")
	return bytes.HasPrefix(rest, []byte(sign)) && !bytes.HasPrefix(rest, []byte(sign+sign)) && !(sign == "=" && bytes.HasPrefix(rest, []byte("=>")))
}
