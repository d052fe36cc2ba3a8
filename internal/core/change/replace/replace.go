// Package replace proposes to write another text wherever one is found: in all of a project, a file, a selection, or
// places that are given.
package replace

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Replacer proposes other texts in one project. It may be used by several goroutines.
type Replacer struct {
	code   *codebase.Base
	search *search.Searcher
}

// New proposes other texts in some code, in which a searcher looks for text.
func New(code *codebase.Base, searcher *search.Searcher) *Replacer { return &Replacer{code, searcher} }

// Asked is what is to be replaced, by what, and where.
type Asked struct {
	// Query says what is looked for. With Words, such as in:dispatch in its pattern narrow it as in the search.
	Query find.Query
	Words bool
	// Roles are what a place has to be in; all if there are none.
	Roles []find.Role
	// By is what comes, in which $1 stands for a group of a regular expression; see find.Matcher.Expand.
	By string
	// KeepCase writes it in large and small letters like what it replaces.
	KeepCase bool
	// In is the only file, "" for all of the project, and Part where in it, in bytes; an empty Part is all of it.
	In   string
	Part place.Range
	// Lines are the only lines, counted from 1, by file; nil for all.
	Lines map[string][]int
}

// Most is how many places are proposed at the most: more than that nobody looks through.
const Most = 500_000

// mostNamed is up to how many places it is told of each in which function it is.
const mostNamed = 20_000

// ErrMany says that there are more places than are proposed.
var ErrMany = fmt.Errorf("there are more than %d places; narrow it, as with in:FOLDER", Most)

// Replace works out what is replaced. A pattern that is not well formed is an error.
func (r *Replacer) Replace(ctx context.Context, a Asked) (*proposal.Proposal, error) {
	if err := r.code.Await(ctx, func(p *codebase.Progress) bool { return p.Listed || p.Err != nil }); err != nil {
		return nil, err
	}
	var filter func(string) bool
	if a.Words {
		var err error
		if filter, err = r.search.TextFilter(ctx, &a.Query); err != nil {
			return nil, err
		}
	}
	m, err := find.Compile(a.Query)
	if err != nil {
		return nil, err
	}
	w := work{Replacer: r, asked: a, matcher: m, proposal: &proposal.Proposal{Title: fmt.Sprintf("replace %s by %s", shown(a.Query.Pattern), shown(a.By))}}
	for _, p := range r.files(ctx, a, m) {
		if filter != nil && !filter(p) {
			continue
		}
		f, err := r.code.Load(ctx, p)
		if err != nil || f.Text.Binary() {
			continue // what cannot be read holds no text to replace
		}
		if err := w.file(f); err != nil {
			return nil, err
		}
	}
	if len(w.proposal.Files) == 0 && m.TakesEmpty() {
		return nil, ErrEmpty
	}
	w.named(ctx)
	return w.proposal, ctx.Err()
}

// shown is a pattern as it is called.
func shown(s string) string {
	const most = 40
	s = text.Visible(s)
	if len([]rune(s)) > most {
		s = string([]rune(s)[:most]) + "…"
	}
	return "“" + s + "”"
}

// files are those that may have matches, in order.
func (r *Replacer) files(ctx context.Context, a Asked, m *find.Matcher) (paths []string) {
	switch {
	case a.In != "":
		return []string{a.In}
	case a.Lines != nil:
		for p := range a.Lines {
			paths = append(paths, p)
		}
	default:
		r.search.FindText(ctx, m, func(hits []search.TextHit) bool {
			paths = append(paths, hits[0].Path)
			return true
		})
	}
	slices.Sort(paths)
	return paths
}

type work struct {
	*Replacer
	asked    Asked
	matcher  *find.Matcher
	proposal *proposal.Proposal
	files    []*codebase.File
	places   int
}

// file adds the places of one file.
func (w *work) file(f *codebase.File) error {
	var matches []find.Match
	data := f.Text.Bytes()
	w.matcher.All(data, func(m find.Match) bool {
		if w.wanted(f, m) {
			matches = append(matches, m)
		}
		return len(matches)+w.places <= Most
	})
	if w.places += len(matches); w.places > Most {
		return ErrMany
	}
	roles := w.roles(f, data, matches)
	out := &proposal.File{Path: f.Path, To: f.Path, Before: f.Text}
	last := -1
	for i, m := range matches {
		if len(w.asked.Roles) > 0 && !slices.Contains(w.asked.Roles, roles[i]) || m.Start < last {
			continue
		}
		last = m.End
		by := w.matcher.Expand(data, m, w.asked.By)
		if w.asked.KeepCase {
			by = find.LikeCase(by, string(data[m.Start:m.End]))
		}
		out.Places = append(out.Places, proposal.Place{At: place.Range{Start: uint32(m.Start), End: uint32(m.End)}, New: w.ends(f.Text, by), What: what(roles[i]), Certainty: resolve.Exact})
	}
	if len(out.Places) == 0 {
		return nil
	}
	if f.Generated() {
		w.proposal.Warn(proposal.Warning{Path: f.Path, Line: 1, Col: 1, Text: "a program writes this file, and will write the former text again"})
	}
	w.proposal.Files, w.files = append(w.proposal.Files, out), append(w.files, f)
	return nil
}

// what is the word for what a place is in.
func what(r find.Role) string {
	if r == find.Other {
		return "text"
	}
	return r.String()
}

// ends writes line ends as the file has them.
func (w *work) ends(doc *text.Document, s string) string {
	if !strings.Contains(s, "\n") || string(doc.LineEnd()) == "\n" {
		return s
	}
	return strings.ReplaceAll(s, "\n", string(doc.LineEnd()))
}

// wanted says whether a match is where one wants it.
func (w *work) wanted(f *codebase.File, m find.Match) bool {
	a := &w.asked
	if a.Part.Len() > 0 && (m.Start < int(a.Part.Start) || m.End > int(a.Part.End)) {
		return false
	}
	if a.Lines == nil {
		return true
	}
	line, _ := f.Text.Position(m.Start)
	return slices.Contains(a.Lines[f.Path], line)
}

// roles are what matches of a file are in.
func (w *work) roles(f *codebase.File, data []byte, matches []find.Match) []find.Role {
	offsets := make([]int, len(matches))
	for i, m := range matches {
		offsets[i] = m.Start
	}
	roles := find.Roles(w.code.Languages().Signs(f.Path), data, offsets)
	if f.Facts == nil {
		return roles
	}
	for i, m := range matches {
		if roles[i] == find.Code && f.Facts.DefAt(m.Start) >= 0 && int(f.Facts.Defs[f.Facts.DefAt(m.Start)].At.Start) <= m.Start {
			roles[i] = find.Definition
		}
	}
	return roles
}

// named tells of the places in which function they are.
func (w *work) named(ctx context.Context) {
	if w.places > mostNamed {
		return
	}
	for i, out := range w.proposal.Files {
		if ctx.Err() != nil {
			return
		}
		f := w.files[i]
		for j := range out.Places {
			line, col := f.Text.Position(int(out.Places[j].At.Start))
			out.Places[j].In = codebase.SymbolAt(f, line, col)
		}
	}
}

// ErrEmpty says that a pattern matches nothing but the empty string.
var ErrEmpty = errors.New("the pattern matches only the empty string, and there is nothing to replace")
