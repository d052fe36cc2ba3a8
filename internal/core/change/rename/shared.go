package rename

import (
	"context"
	"fmt"
	"strings"
	"unicode"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// A name that files of several languages share, such as a class of a page and its sheet, gets another one wherever it is written
// out. All of it is by name, so that each place can be looked at and left out.

// renamed are those that are names and nothing else: an address or a column of a database is also what others outside rely on.
var renamed = map[facts.Realm]bool{facts.StyleClass: true, facts.Element: true, facts.Data: true, facts.Slot: true}

// shared is the shared name at a place, with all places where it stands, if that is what would be renamed there.
func (r *Renamer) shared(ctx context.Context, path string, offset int) (name facts.Shared, places []resolve.Reference, ok bool) {
	if err := r.code.Await(ctx, func(p *codebase.Progress) bool { return p.Done || p.Err != nil }); err != nil {
		return name, nil, false
	}
	name, places = r.guide.SharedPlaces(ctx, path, offset)
	for i, p := range places {
		if p.Path == path && int(p.At.Start) <= offset && offset <= int(p.At.End) { // the one that was asked about comes first
			places[0], places[i] = places[i], places[0]
			return name, places, renamed[name.Realm]
		}
	}
	return name, nil, false
}

// sharedNamed proposes another name for a shared one.
func (r *Renamer) sharedNamed(ctx context.Context, a Asked, name facts.Shared, places []resolve.Reference) (*proposal.Proposal, error) {
	if a.New == name.Name {
		return nil, fmt.Errorf("%s is its name already", a.New)
	}
	if strings.ContainsFunc(a.New, func(c rune) bool { return c != '-' && c != '_' && !unicode.IsLetter(c) && !unicode.IsDigit(c) }) || a.New == "" {
		return nil, fmt.Errorf("%s cannot be the name of a %s: letters, digits, - and _ can", a.New, name.Realm)
	}
	w := work{Renamer: r, ctx: ctx, asked: a, proposal: &proposal.Proposal{Title: fmt.Sprintf("rename %s to %s", name.Name, a.New)}}
	for _, p := range places {
		what := "use"
		if p.Access == facts.Write {
			what = "definition"
		}
		if by, ok := w.inItsForm(name.Name, p.Name); ok {
			w.add(p.Path, p.At, by, what, resolve.ByName, proposal.Sure)
		}
	}
	w.proposal.Order()
	return w.proposal, ctx.Err()
}

// inItsForm is the new name as it is written in the place of an old one: with capitals where that has them between its words,
// without what stands before it there; ok is false where it cannot be told.
func (w *work) inItsForm(name, written string) (by string, ok bool) {
	switch {
	case written == name:
		return w.asked.New, true
	case dashless(name) == written:
		return dashless(w.asked.New), true
	case dashless(strings.TrimPrefix(name, "data-")) == written:
		return dashless(strings.TrimPrefix(w.asked.New, "data-")), true
	case strings.HasSuffix(name, written): // behind that of the rule around
		front := name[:len(name)-len(written)]
		return strings.TrimPrefix(w.asked.New, front), strings.HasPrefix(w.asked.New, front)
	}
	return "", false
}

// dashless writes a name with capitals where lines stand between its words.
func dashless(name string) string {
	words := strings.Split(name, "-")
	for i, word := range words {
		if i > 0 && word != "" {
			words[i] = strings.ToUpper(word[:1]) + word[1:]
		}
	}
	return strings.Join(words, "")
}
