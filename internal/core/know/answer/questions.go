package answer

import (
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/markup"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
)

// definitions are where what a name means is defined; where there is no name in code,
// what the text there points to.
func (g *Guide) definitions(ctx context.Context, p string, offset int) (resolve.Result, []Answer) {
	r := g.resolver.Definition(ctx, p, offset)
	if r.Name == "" {
		if f, err := g.code.Load(ctx, p); err == nil && g.isProse(ctx, f, offset) {
			return g.pointer(ctx, f, offset)
		}
	}
	all := g.defined(ctx, r.Answers)
	if len(r.Twins) > 0 && len(all) == 1 {
		others := g.defined(ctx, r.Twins)
		if g.resolver.IsWrittenOut(ctx, r.Answers[0]) {
			return r, append(all, others...)
		}
		return r, append(others, all...)
	}
	return r, all
}

// WrittenOut are, of the functions that a file only declares, the places where they are written out, by the offsets at which they
// are declared.
func (g *Guide) WrittenOut(ctx context.Context, path string) map[uint32]Answer {
	found := map[uint32]Answer{}
	for at, a := range g.resolver.WrittenOut(ctx, path) {
		if all := g.defined(ctx, []resolve.Answer{a}); len(all) > 0 {
			found[at] = all[0]
		}
	}
	return found
}

// Elsewhere puts answers first that do not lie where the name does that was asked about, so that one is led to and fro between
// where something is declared and where it is written out.
func Elsewhere(all []Answer, path string, at place.Range) []Answer {
	all = slices.Clone(all)
	slices.SortStableFunc(all, func(a, b Answer) int {
		here := func(x Answer) int {
			if x.Path == path && x.At == at {
				return 1
			}
			return 0
		}
		return here(a) - here(b)
	})
	return all
}

// Description is what is to be told about a name.
type Description struct {
	resolve.Result
	// Best is where it is defined; Candidates is how many definitions there may be.
	Best       Answer
	Candidates int
	// Twin is where it is written out, if it is OnlyDeclared, else where it is declared as well; the zero Answer for neither.
	Twin         Answer
	OnlyDeclared bool
	// Unread says that not all of the project had been read yet: a name that nothing
	// defines so far may be defined there.
	Unread bool
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
	d := Description{Unread: !g.code.Progress().Done}
	d.Result = g.resolver.Definition(ctx, p, offset)
	d.Candidates = len(d.Answers)
	best := g.defined(ctx, d.Answers[:min(d.Candidates, 1)])
	if len(best) == 0 {
		return d
	}
	d.Best = best[0]
	if twins := g.defined(ctx, d.Twins[:min(len(d.Twins), 1)]); len(twins) > 0 {
		d.Twin, d.OnlyDeclared = twins[0], !g.resolver.IsWrittenOut(ctx, d.Answers[0])
	}
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
			return d
		}
	}
	if d.Best.Realm != facts.NoRealm {
		d.Signature = d.Best.Text
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

// SharedPlaces finds all places of a name that files of several languages share; see resolve.Resolver.SharedPlaces.
func (g *Guide) SharedPlaces(ctx context.Context, p string, offset int) (facts.Shared, []resolve.Reference) {
	return g.resolver.SharedPlaces(ctx, p, offset)
}

// Bound finds all that is written otherwise when what the name at a byte offset means gets another name; see
// resolve.Resolver.Bound.
func (g *Guide) Bound(ctx context.Context, p string, offset int, family bool) resolve.Bound {
	return g.resolver.Bound(ctx, p, offset, family)
}
