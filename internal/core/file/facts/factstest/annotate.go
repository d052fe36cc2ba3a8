package factstest

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// noteMark begins a line of notes in an annotated sample.
const noteMark = "» "

// Bare takes the notes out of an annotated sample.
func Bare(sample []byte) []byte {
	var text []byte
	for line := range bytes.Lines(sample) {
		if !bytes.HasPrefix(line, []byte(noteMark)) {
			text = append(text, line...)
		}
	}
	return text
}

// Annotate writes, below each line of a text, what the facts say about it, in
// the order of the columns: definitions with what is known of them, uses with
// their roles and what is in front, imports, and scopes with the line they
// end on.
func Annotate(f *facts.File, text []byte) []byte {
	notes := notesOf(f, text)
	var out bytes.Buffer
	offset, next := 0, 0
	for line := range bytes.Lines(text) {
		out.Write(line)
		if !bytes.HasSuffix(line, []byte("\n")) {
			out.WriteByte('\n')
		}
		offset += len(line)
		var here []string
		for ; next < len(notes) && int(notes[next].at) < offset; next++ {
			here = append(here, notes[next].text)
		}
		if len(here) > 0 {
			fmt.Fprintf(&out, "%s%s\n", noteMark, strings.Join(here, "; "))
		}
	}
	return out.Bytes()
}

type note struct {
	at   uint32
	rank int
	text string
}

func notesOf(f *facts.File, text []byte) []note {
	var notes []note
	line := func(offset uint32) int { return 1 + bytes.Count(text[:offset], []byte("\n")) }
	for i, s := range f.Scopes {
		if i == 0 {
			continue
		}
		kind := [...]string{"file", "type", "function", "block"}[s.Kind]
		if s.Owner != facts.NoDef {
			kind += " of " + f.Defs[s.Owner].Name
		}
		notes = append(notes, note{s.At.Start, 0, fmt.Sprintf("{%s to %d}", kind, line(s.At.End))})
	}
	for i := range f.Imports {
		imp := f.Imports[i]
		s := fmt.Sprintf("import %q", strings.Repeat(".", imp.Level)+imp.Path)
		if imp.Name != "" {
			s += " name " + imp.Name
		}
		if imp.Alias != "" {
			s += " as " + imp.Alias
		}
		notes = append(notes, note{imp.At.Start, 1, s})
	}
	for i := range f.Defs {
		notes = append(notes, note{f.Defs[i].At.Start, 2, describe(f, &f.Defs[i], text)})
	}
	for _, u := range f.Uses {
		name := u.Name
		if u.Base != facts.NoExpr {
			name = Written(f, u.Base) + "." + name
		}
		s := u.Role.String() + " " + name
		if u.Arguments > 0 {
			s += fmt.Sprintf("/%d", u.Arguments-1)
		}
		notes = append(notes, note{u.At.Start, 3, s})
	}
	for _, d := range f.Derived {
		notes = append(notes, note{f.Exprs[d.Super].At.Start, 4, fmt.Sprintf("%s derived from %s", Written(f, d.Of), Written(f, d.Super))})
	}
	for _, g := range f.Settings {
		s := "set " + g.Name
		if g.Base != facts.NoExpr {
			s = "set " + Written(f, g.Base) + "." + g.Name
		}
		notes = append(notes, note{g.At, 4, s + " = " + Written(f, g.Value)})
	}
	for _, p := range f.Puts {
		notes = append(notes, note{p.At, 4, fmt.Sprintf("put %s into %s at %s", Written(f, p.Value), Written(f, p.Into), Written(f, p.Key))})
	}
	for _, n := range f.Narrowed {
		notes = append(notes, note{n.At.Start, 5, fmt.Sprintf("%s to %d", narrowing(f, n), line(n.At.End))})
	}
	slices.SortStableFunc(notes, func(a, b note) int {
		if a.at != b.at {
			return int(a.at) - int(b.at)
		}
		return a.rank - b.rank
	})
	return notes
}

// narrowing writes what a test says of a value.
func narrowing(f *facts.File, n facts.Narrowing) string {
	values := slices.Clone(n.Literals)
	for _, e := range n.Is {
		values = append(values, Written(f, e))
	}
	s := n.Of
	if n.Member != "" {
		s += "." + n.Member
	}
	s += " is"
	if n.Not {
		s += " not"
	}
	if n.Has {
		return s + " there"
	}
	return s + " " + strings.Join(values, " or ")
}

func describe(f *facts.File, d *facts.Def, text []byte) string {
	var s strings.Builder
	s.WriteString("def ")
	if d.Special {
		s.WriteString("special ")
	}
	if d.Abstract {
		s.WriteString("abstract ")
	}
	if d.Static {
		s.WriteString("static ")
	}
	s.WriteString(d.Kind.String() + " " + d.Qualified())
	if d.Parameters > 0 {
		fmt.Fprintf(&s, "/%d", d.Parameters-1)
		if d.Variadic {
			s.WriteString("+")
		}
	}
	for i, p := range d.Params {
		s.WriteString([...]string{"(", ","}[min(i, 1)] + Written(f, p))
		if i == len(d.Params)-1 {
			s.WriteString(")")
		}
	}
	if d.Type != facts.NoExpr {
		s.WriteString(": " + Written(f, d.Type))
	}
	if d.Init != facts.NoExpr {
		s.WriteString(" = " + Written(f, d.Init))
	}
	if d.Part > 0 {
		fmt.Fprintf(&s, " part %d", d.Part)
	}
	for i, super := range d.Supers {
		s.WriteString([...]string{" from ", ", "}[min(i, 1)] + Written(f, super))
	}
	if d.Doc != (place.Range{}) {
		first, _, _ := strings.Cut(string(d.Doc.In(text)), "\n")
		fmt.Fprintf(&s, " “%s”", first)
	}
	return s.String()
}

// Written writes an expression much as code does.
func Written(f *facts.File, id facts.ExprID) string {
	if id == facts.NoExpr {
		return "?"
	}
	e := f.Exprs[id]
	base := func() string { return Written(f, e.Base) }
	var args []string
	for _, a := range e.Args {
		args = append(args, Written(f, a))
	}
	list := strings.Join(args, ",")
	switch e.Kind {
	case facts.Name:
		return e.Name
	case facts.Member:
		return base() + "." + e.Name
	case facts.CallOf:
		return base() + "(" + list + ")"
	case facts.Value:
		if list != "" {
			list = "(" + list + ")"
		}
		return "new " + base() + list
	case facts.Index:
		return base() + "[]"
	case facts.Each:
		return "each of " + base()
	case facts.EachKey:
		return "each key of " + base()
	case facts.Awaited:
		return "await " + base()
	case facts.Literal:
		return "<" + e.Name + ">"
	case facts.Func:
		if e.Base == facts.NoExpr && list != "" {
			return "func→value " + list
		}
		return "func→" + base()
	case facts.Given:
		return fmt.Sprintf("given %d.%d by %s", e.Arg, e.Part, base())
	case facts.OneOf:
		return "one of (" + list + ")"
	case facts.Joined:
		return "joined(" + list + ")"
	case facts.Shape:
		return "shape"
	case facts.ListOf:
		return "list(" + base() + ")"
	case facts.MapOf:
		return "map(" + list + "→" + base() + ")"
	case facts.FuncOf:
		return "func(" + list + ")→" + base()
	case facts.TupleOf:
		return "(" + list + ")"
	case facts.GenericOf:
		return base() + "<" + list + ">"
	case facts.EitherOf:
		return "either(" + list + ")"
	case facts.Own:
		return "its own type"
	case facts.PartOf:
		return fmt.Sprintf("part %d of %s", e.Part, base())
	case facts.Labelled:
		return e.Name + "=" + base()
	case facts.PropsOf:
		return "props of " + cmp.Or(e.Name, base())
	case facts.WantedOf:
		return fmt.Sprintf("wanted %d", e.Part)
	case facts.KeyOf:
		return "key of " + base()
	case facts.Keyed:
		return "(key of " + base() + ")"
	case facts.Taken:
		return fmt.Sprintf("taken %d by %s", e.Arg, base())
	case facts.TypeOf:
		return "type of " + base()
	}
	return "?"
}
