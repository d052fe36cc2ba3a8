package answer

import (
	"bytes"
	"context"
	"os"
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/markup"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Spot is an answer with the line it stands on.
type Spot struct {
	resolve.Answer
	Line, Col int // counted from 1, Col in bytes
	Text      string
}

// Place is where the spot is.
func (s Spot) Place() place.Place { return place.Place{Path: s.Path, Line: s.Line, Col: s.Col} }

// Spots finds the lines on which answers stand. Those whose file cannot be
// read any more are left out.
func (g *Guide) Spots(ctx context.Context, answers []resolve.Answer) []Spot {
	var spots []Spot
	for _, a := range answers {
		if ctx.Err() != nil {
			break
		}
		if a.Kind == facts.Package && a.At.Len() == 0 {
			spots = append(spots, g.moduleSpot(ctx, a))
			continue
		}
		f, err := g.code.Load(ctx, a.Path)
		if err != nil {
			continue
		}
		line, col := f.Text.Position(int(a.At.Start))
		spots = append(spots, Spot{Answer: a, Line: line, Col: col, Text: search.LineText(f.Text, line)})
	}
	return spots
}

// moduleSpot is the beginning of a module: its file, or for a folder the file that
// describes it.
func (g *Guide) moduleSpot(ctx context.Context, a resolve.Answer) Spot {
	s := Spot{Answer: a, Line: 1, Col: 1}
	s.Path = g.mainFile(a.Path)
	if f, err := g.code.Load(ctx, s.Path); err == nil {
		for n := 1; n <= f.Text.Lines(); n++ {
			if bytes.HasPrefix(f.Text.Line(n), []byte("package ")) {
				s.Line = n
				break
			}
		}
		s.Text = search.LineText(f.Text, s.Line)
	}
	return s
}

// mainFile is the file in which a folder says what it is for, or else the first.
func (g *Guide) mainFile(p string) string {
	if path.IsAbs(p) {
		return g.mainFileOutside(p)
	}
	listing := g.code.Listing()
	if listing.IsFile(p) {
		return p
	}
	if front := g.code.Languages().Front(p, func(base string) bool { return listing.IsFile(p + "/" + base) }); front != "" {
		return p + "/" + front
	}
	first := ""
	for f := range listing.Files() {
		rest, ok := strings.CutPrefix(f.Path, p+"/")
		if ok && !strings.Contains(rest, "/") && g.code.Languages().Of(f.Path) != nil && !g.code.Languages().HoldsTests(f.Path) && (first == "" || f.Path < first) {
			first = f.Path
		}
	}
	return first
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

// Definition finds what the name at a byte offset of a file means.
func (g *Guide) Definition(ctx context.Context, p string, offset int) (resolve.Result, []Spot) {
	r := g.resolver.Definition(p, offset)
	if r.Name == "" {
		if f, err := g.code.Load(ctx, p); err == nil && g.isProse(ctx, f, offset) {
			return g.pointer(ctx, f, offset)
		}
	}
	return r, g.Spots(ctx, r.Answers)
}

// Description is what is to be told about a name.
type Description struct {
	resolve.Result
	// Best is where it is defined; Spots counts the candidates.
	Best  Spot
	Spots int
	// Signature is the beginning of the definition, its lines as they are
	// written; Doc the comment on it, without the signs of a comment.
	Signature, Doc string
	// Modifiers are the words in front of the name that say how it may be seen
	// and used.
	Modifiers []string
	// Summary is the prose with which Doc begins, More says that it goes on.
	Summary string
	More    bool
}

// mostSignature bounds a signature, in bytes: some definitions are tables.
const mostSignature = 2000

// Describe tells about the name at a byte offset of a file.
func (g *Guide) Describe(ctx context.Context, p string, offset int) Description {
	d := Description{Result: g.resolver.Definition(p, offset)}
	d.Spots = len(d.Answers)
	if d.Spots == 0 {
		return d
	}
	spots := g.Spots(ctx, d.Answers[:1])
	if len(spots) == 0 {
		return d
	}
	d.Best = spots[0]
	f, err := g.code.Load(ctx, d.Best.Path)
	if err != nil || f.Facts == nil {
		return d
	}
	for i := range f.Facts.Defs {
		if def := &f.Facts.Defs[i]; def.At == d.Best.At && def.Name == d.Best.Name {
			head := def.Head
			head.End = min(head.End, head.Start+mostSignature)
			d.Modifiers = def.Modifiers(f.Text.Bytes())
			d.Signature = dedent(string(head.In(f.Text.Bytes())))
			d.Doc = Prose(string(def.Doc.In(f.Text.Bytes())))
			d.Summary, d.More = markup.Summary(d.Doc, f.Facts.Language)
			break
		}
	}
	return d
}

// dedent takes from all lines but the first the indentation they share.
func dedent(s string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	least := -1
	for _, l := range lines[1:] {
		if body := strings.TrimLeft(l, " \t"); body != "" && (least < 0 || len(l)-len(body) < least) {
			least = len(l) - len(body)
		}
	}
	for i, l := range lines[1:] {
		lines[i+1] = strings.TrimRight(l[min(max(least, 0), len(l)):], " \t\r")
	}
	lines[0] = strings.TrimRight(lines[0], "\r")
	return strings.Join(lines, "\n")
}

// Prose takes the signs of a comment, or the quotes of a documentation string,
// off a text.
func Prose(comment string) string {
	s := strings.TrimSpace(comment)
	for _, quotes := range []string{`"""`, `'''`} {
		if i := strings.Index(s, quotes); i >= 0 && i <= 2 && strings.HasSuffix(s, quotes) && len(s) >= i+6 {
			return dedent(s[i+3 : len(s)-3])
		}
	}
	if strings.HasPrefix(s, "/*") {
		s = strings.TrimSuffix(strings.TrimLeft(s, "/*"), "*/")
	}
	lines := strings.Split(s, "\n")
	for i, l := range lines {
		l = strings.TrimSpace(l)
		for _, mark := range []string{"///", "//", "#", "*"} {
			if rest, ok := strings.CutPrefix(l, mark); ok {
				l = strings.TrimPrefix(rest, " ")
				break
			}
		}
		lines[i] = l
	}
	return strings.TrimSpace(strings.Join(lines, "\n"))
}
