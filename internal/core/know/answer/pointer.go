package answer

import (
	"bytes"
	"cmp"
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// What is no name in code may still point somewhere: a path in a string, a link
// on a page, path:line in a log, the name of a function in configuration.

// longestPointer bounds what is taken for a path, in bytes.
const longestPointer = 400

// pointer finds what a piece of text that is no name in code points to: a file,
// or else what has the name that stands there.
func (g *Guide) pointer(ctx context.Context, f *codebase.File, offset int) (resolve.Result, []Answer) {
	at := pointerAt(f.Text.Bytes(), offset)
	token := string(at.In(f.Text.Bytes()))
	if p, line, col, ok := g.pathOf(f.Path, token); ok {
		res := resolve.Result{Name: token, At: at}
		if target, err := g.code.Load(ctx, p); err == nil {
			line = min(line, target.Text.Lines())
			a := resolve.Answer{Path: p, Name: path.Base(p), Kind: facts.Module, Certainty: resolve.Inferred}
			start := uint32(target.Text.Offset(line, col))
			a.At = place.Range{Start: start, End: start}
			res.Answers = []resolve.Answer{a}
			return res, []Answer{g.definition(a, line, col, search.LineText(target.Text, line))}
		}
	}
	res := g.named(f, offset)
	return res, g.defined(ctx, res.Answers)
}

// isProse says whether an offset stands in text rather than in code: in a comment
// or a string, or in a file without code.
func (g *Guide) isProse(ctx context.Context, f *codebase.File, offset int) bool {
	if f.Facts == nil || g.isData(f.Path) {
		return true
	}
	_, in := g.code.Ground(ctx, f).Runs.At(offset)
	return in
}

// pointerAt is the piece of text around an offset that may be a path: no blanks,
// quotes or brackets are in it.
func pointerAt(text []byte, offset int) place.Range {
	offset = min(offset, len(text))
	start, end := offset, offset
	for start > 0 && offset-start < longestPointer && inPointer(text[start-1]) {
		start--
	}
	for end < len(text) && end-offset < longestPointer && inPointer(text[end]) {
		end++
	}
	for end > start && strings.IndexByte(".,:;", text[end-1]) >= 0 { // the end of a sentence
		end--
	}
	return place.Range{Start: uint32(start), End: uint32(end)}
}

func inPointer(b byte) bool {
	return b >= 0x80 || b == '.' || b == '/' || b == '-' || b == '_' || b == ':' || b == '@' || b == '+' || b == '~' || b == '#' || b == '%' ||
		'0' <= b && b <= '9' || 'a' <= b && b <= 'z' || 'A' <= b && b <= 'Z'
}

// pathOf reads a piece of text as the path of a file of the project, perhaps
// with a line and a column behind it, as written from the file it stands in,
// from the root, or from some folder in between.
func (g *Guide) pathOf(from, token string) (p string, line, col int, ok bool) {
	token, _, _ = strings.Cut(token, "#")
	if token == "" || strings.Contains(token, "://") {
		return "", 0, 0, false
	}
	at := place.Split(strings.TrimPrefix(token, "file:"))
	line, col = max(at.Line, 1), max(at.Col, 1)
	name := strings.TrimSuffix(at.Path, "/")
	if name == "" || name == "." || name == ".." {
		return "", 0, 0, false
	}
	for dir := path.Dir(from); ; dir = path.Dir(dir) {
		if p = path.Join(dir, name); g.code.Listing().IsFile(p) {
			return p, line, col, true
		}
		if dir == "." || dir == "/" {
			break
		}
	}
	if rel := g.code.Relative(name); path.IsAbs(name) && g.code.Listing().IsFile(rel) {
		return rel, line, col, true
	}
	if !strings.ContainsAny(name, "/.") {
		return "", 0, 0, false
	}
	best := ""
	for _, candidate := range g.code.FilesNamed(path.Base(name)) {
		if strings.HasSuffix("/"+candidate, "/"+strings.TrimLeft(path.Clean(name), "./")) && (best == "" || far(from, candidate) < far(from, best)) {
			best = candidate
		}
	}
	return best, line, col, best != ""
}

// named finds what has the name that stands at an offset of a text that is not
// code, the likeliest first; with its container in front it has to be in that.
func (g *Guide) named(f *codebase.File, offset int) (res resolve.Result) {
	at := wordAt(f.Text.Bytes(), offset)
	if at.Len() == 0 {
		return res
	}
	res.Name, res.At = string(at.In(f.Text.Bytes())), at
	container := containerBefore(f.Text.Bytes(), int(at.Start))
	var others []resolve.Answer
	for _, s := range g.code.Index().Named(res.Name) {
		if s.Kind == facts.Section || s.Kind == facts.Key || s.Path == f.Path && uint32(s.Offset) == at.Start {
			continue
		}
		a := resolve.Answer{Path: s.Path, At: place.Range{Start: uint32(s.Offset), End: uint32(s.Offset + len(s.Name))},
			Name: s.Name, Container: s.Container, Kind: s.Kind, Certainty: resolve.ByName}
		if container != "" && s.Container == container {
			res.Answers = append(res.Answers, a)
		} else {
			others = append(others, a)
		}
	}
	slices.SortStableFunc(others, func(a, b resolve.Answer) int { return cmp.Compare(far(f.Path, a.Path), far(f.Path, b.Path)) })
	if len(res.Answers) == 0 {
		res.Answers = others
	}
	return res
}

// wordAt is the word around an offset; empty if there is none.
func wordAt(data []byte, offset int) place.Range {
	start, end := text.WordAround(data, offset)
	return place.Range{Start: uint32(start), End: uint32(end)}
}

// containerBefore is the word in front of a dot, a double colon or a hash before
// an offset; "" if there is none.
func containerBefore(data []byte, start int) string {
	end := start
	for end > 0 && (data[end-1] == '.' || data[end-1] == ':' || data[end-1] == '#') {
		end--
	}
	if end == start {
		return ""
	}
	return string(data[text.WordBefore(data, end):end])
}

// Mentions are the places other than in code where a name stands: in comments and
// strings, configuration, templates and pages. They are known by name only.
func (g *Guide) Mentions(ctx context.Context, name string) (all []Answer, err error) {
	err = g.words(ctx, name, func(h *search.TextHit, data bool) {
		if h.Role != find.Code && h.Role != find.Definition || data {
			all = append(all, g.mention(ctx, h, data))
		}
	})
	return all, err
}

// Unread are the places in code where a name stands as a word and of which the facts of the file know neither a
// definition nor a use: in the body of a macro, in what could not be read. Directive says which of them are in lines
// that the compiler reads before all others.
func (g *Guide) Unread(ctx context.Context, name string) (all []Answer, directive []bool, err error) {
	err = g.words(ctx, name, func(h *search.TextHit, data bool) {
		f, failed := g.code.Load(ctx, h.Path)
		if h.Role != find.Code && h.Role != find.Definition || data || failed != nil || f.Facts == nil {
			return
		}
		at := int(h.At.Start)
		if use, is := f.Facts.UseAt(at); is && use.At.Start <= h.At.Start && h.At.End <= use.At.End {
			return
		}
		if id := f.Facts.DefAt(at); id != facts.NoDef && f.Facts.Defs[id].At.Start <= h.At.Start && h.At.End <= f.Facts.Defs[id].At.End {
			return
		}
		all = append(all, g.mention(ctx, h, data))
		directive = append(directive, g.isDirective(f, at))
	})
	return all, directive, err
}

// words finds where a name stands as a word; data says that a file is one without code.
func (g *Guide) words(ctx context.Context, name string, take func(h *search.TextHit, data bool)) error {
	m, err := find.Compile(find.Query{Pattern: name, Word: true, Case: true})
	if err != nil {
		return err
	}
	g.search.FindText(ctx, m, func(found []search.TextHit) bool {
		data := g.isData(found[0].Path)
		for i := range found {
			take(&found[i], data)
		}
		return true
	})
	return ctx.Err()
}

// isDirective says whether the line of an offset is for what reads the text before the compiler does, also by lines
// before it that go on.
func (g *Guide) isDirective(f *codebase.File, offset int) bool {
	signs := g.code.Languages().Signs(f.Path)
	if signs == nil || signs.Directives == "" {
		return false
	}
	line, _ := f.Text.Position(offset)
	for line > 1 && bytes.HasSuffix(bytes.TrimRight(f.Text.Line(line-1), " \t\r"), []byte("\\")) {
		line--
	}
	return bytes.HasPrefix(bytes.TrimLeft(f.Text.Line(line), " \t"), []byte(signs.Directives))
}

// mention is the place of a hit of a name; data says that it is in a file without code.
func (g *Guide) mention(ctx context.Context, h *search.TextHit, data bool) Answer {
	a := g.Found(ctx, h)
	a.Role, a.Certainty = "mention", resolve.ByName
	if h.Role != find.Code && !data {
		a.Why = "in a " + h.Role.String()
	}
	return a
}

// isData says whether a file is in a language without code whose names are
// resolved.
func (g *Guide) isData(p string) bool { return !g.code.Languages().IsCode(p) }

// Written are the places where a text stands anywhere in the files of the project, in the same case, by their files.
func (g *Guide) Written(ctx context.Context, text string) (map[string][]search.TextHit, error) {
	m, err := find.Compile(find.Query{Pattern: text, Case: true})
	if err != nil {
		return nil, err
	}
	all := map[string][]search.TextHit{}
	g.search.FindText(ctx, m, func(found []search.TextHit) bool {
		all[found[0].Path] = append(all[found[0].Path], found...)
		return true
	})
	return all, ctx.Err()
}
