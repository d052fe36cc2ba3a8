package answer

import (
	"bytes"
	"context"
	"os"
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Answer is one place to which a question leads: where it is, what is there, what it
// has to do with the question, how certain that is, and why.
type Answer struct {
	// Path is the file, At the name there, Name what it reads, Certainty how the answer
	// is known. Kind and Container are those of what is defined there; a use has none.
	resolve.Answer
	Line, Col int // counted from 1, Col in bytes
	// Role says in a word what is there: how the name is used, what becomes of a value,
	// or the kind of what is defined there.
	Role string
	// Access is how a use uses the name; only uses have one.
	Access facts.Role
	// In is the function or type that a use stands in; its Name is "" for none.
	In resolve.Answer
	// To is the parameter for which a value is passed on, or the function whose result
	// it is; its Name is "" if it is none of these, or not known.
	To resolve.Answer
	// Sites are the places of the calls in a function that calls, or of one that is
	// called.
	Sites []place.Place
	// Through is the method of an interface or supertype that may stand for the one
	// called; "" for a call that is said outright.
	Through string
	// Why says what else is to be said of why it is an answer; mostly "".
	Why string
	// Symbol is what the place is called on the trail: what is defined there, or what
	// it stands in.
	Symbol string
	// Text is the line without the blanks around it, TextAt the name in it.
	Text   string
	TextAt place.Range
	// Test says that it belongs to a test.
	Test bool
	// Possible says that it has the name and could be an answer, but that was not resolved.
	Possible bool

	flow Flow // of a value
}

// Place is where the answer is.
func (a *Answer) Place() place.Place { return place.Place{Path: a.Path, Line: a.Line, Col: a.Col} }

// Around is the qualified name of what it stands in; "" for nothing.
func (a *Answer) Around() string {
	if a.In.Name != "" {
		return qualified(a.In)
	}
	return a.Container
}

// qualified is the name of a definition behind that of its container.
func qualified(a resolve.Answer) string {
	if a.Name == "" || a.Container == "" {
		return a.Name
	}
	return a.Container + "." + a.Name
}

// find marks a name in the text of the line, where that is cut at its front.
func (a *Answer) find(name string) {
	if i := strings.Index(a.Text, name); i >= 0 && name != "" {
		a.TextAt = place.Range{Start: uint32(i), End: uint32(i + len(name))}
	}
}

// defined are the places where something is defined. Those whose file cannot be read
// any more are left out.
func (g *Guide) defined(ctx context.Context, definitions []resolve.Answer) (all []Answer) {
	for _, d := range definitions {
		if ctx.Err() != nil {
			break
		}
		if d.Kind == facts.Package && d.At.Len() == 0 {
			all = append(all, g.module(ctx, d))
			continue
		}
		load := g.code.Load
		if d.Built { // there may be hundreds of one name
			load = func(_ context.Context, p string) (*codebase.File, error) { return codebase.LoadText(g.code, p) }
		}
		f, err := load(ctx, d.Path)
		if err != nil {
			continue
		}
		line, col := f.Text.Position(int(d.At.Start))
		a := g.definition(d, line, col, search.LineText(f.Text, line))
		if g.isLeftOut(f, d) {
			a.Why = leftOut
		}
		all = append(all, a)
	}
	return all
}

// leftOut is said of what stands in a branch of conditional code that a compiler does not take, as far as is known.
const leftOut = "not built"

func (g *Guide) isLeftOut(f *codebase.File, d resolve.Answer) bool {
	l := g.code.Languages().Of(d.Path)
	if f.Facts == nil || l == nil || l.Scopes.Sees != lang.SeesIncludes {
		return false
	}
	id := f.Facts.DefNamed(int(d.At.Start), d.Name)
	return id != facts.NoDef && f.Facts.Defs[id].Inactive
}

// definition is the place of a definition, at a line and column, with the text of that line.
func (g *Guide) definition(d resolve.Answer, line, col int, text string) Answer {
	a := Answer{Answer: d, Line: line, Col: col, Role: d.What(), Text: text, Symbol: qualified(d), Test: g.code.Languages().IsTest(d.Path)}
	a.find(d.Name)
	return a
}

// module is the beginning of a module: its file, or for a folder the file that
// describes it.
func (g *Guide) module(ctx context.Context, d resolve.Answer) Answer {
	d.Path = g.mainFile(d.Path)
	line, text := 1, ""
	if f, err := g.code.Load(ctx, d.Path); err == nil {
		for n := 1; n <= f.Text.Lines(); n++ {
			if bytes.HasPrefix(f.Text.Line(n), []byte("package ")) {
				line = n
				break
			}
		}
		text = search.LineText(f.Text, line)
	}
	return g.definition(d, line, 1, text)
}

// mainFile is the file in which a folder says what it is for, or else the first.
func (g *Guide) mainFile(p string) string {
	if path.IsAbs(p) {
		return g.mainFileOutside(p)
	}
	listing, languages := g.code.Listing(), g.code.Languages()
	if listing.IsFile(p) {
		return p
	}
	if front := languages.Front(p, func(base string) bool { return listing.IsFile(p + "/" + base) }); front != "" {
		return p + "/" + front
	}
	entries, _ := os.ReadDir(g.code.Absolute(p)) // in order; looking through all files of the project would take longer
	for _, e := range entries {
		if f := path.Join(p, e.Name()); listing.IsFile(f) && languages.Of(f) != nil && !languages.HoldsTests(f) {
			return f
		}
	}
	return ""
}

// mainFileOutside is mainFile for a folder or file outside the project.
func (g *Guide) mainFileOutside(p string) string {
	entries, err := os.ReadDir(p)
	if err != nil {
		return p
	}
	first, names := "", map[string]bool{}
	for _, e := range entries {
		name := e.Name()
		if names[name] = !e.IsDir(); first == "" && !e.IsDir() && g.code.Languages().Of(name) != nil && !g.code.Languages().IsTest(name) {
			first = path.Join(p, name)
		}
	}
	if front := g.code.Languages().Front(p, func(base string) bool { return names[base] }); front != "" {
		return path.Join(p, front)
	}
	return first
}

// used is the place of a use in its file.
func used(f *codebase.File, r resolve.Reference) Answer {
	a := at(f, r.At)
	a.Name, a.Certainty, a.Role, a.Access, a.In, a.Symbol = r.Name, r.Certainty, r.Access.String(), r.Access, r.In, qualified(r.In)
	a.Possible = r.Possible
	return a
}

// at is a place in a file, with its line and what it stands in.
func at(f *codebase.File, r place.Range) Answer {
	line, col := f.Text.Position(int(r.Start))
	text := f.Text.Line(line)
	indent := len(text) - len(bytes.TrimLeft(text, " \t"))
	a := Answer{Line: line, Col: col, Text: search.LineText(f.Text, line), Test: catalog.Set().IsTest(f.Path)}
	a.Path, a.At, a.Name = f.Path, r, string(r.In(f.Text.Bytes()))
	if start := col - 1 - indent; start >= 0 && start+r.Len() <= len(a.Text) {
		a.TextAt = place.Range{Start: uint32(start), End: uint32(start + r.Len())}
	}
	return a
}

// Standing is a place in a file with the name of what it stands in, as on its breadcrumbs.
func Standing(f *codebase.File, r place.Range) Answer {
	a := at(f, r)
	a.In.Name = codebase.SymbolAround(f, a.Line, a.Col)
	a.Symbol = a.In.Name
	return a
}

// Found is the place of a hit of a text that was looked for.
func (g *Guide) Found(ctx context.Context, h *search.TextHit) Answer {
	indent := len(h.Text) - len(strings.TrimLeft(h.Text, " \t"))
	a := Answer{Line: h.Line, Col: h.Col, Role: h.Role.String(), Text: strings.TrimSpace(h.Text), Test: g.code.Languages().IsTest(h.Path)}
	a.Path, a.At = h.Path, h.At
	if start, end := int(h.Mark.Start)-indent, int(h.Mark.End)-indent; start >= 0 && start < end && end <= len(a.Text) {
		a.TextAt = place.Range{Start: uint32(start), End: uint32(end)}
		a.Name = a.Text[start:end]
	}
	if f, err := g.code.Load(ctx, h.Path); err == nil {
		a.In.Name = codebase.SymbolAround(f, h.Line, h.Col)
		a.Symbol = a.In.Name
	}
	return a
}
