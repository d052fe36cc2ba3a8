// Package rename proposes to give something another name wherever it is used: a symbol with all that must be called
// as it is, or a file or folder with all that refers to it.
package rename

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Renamer proposes other names in one project. It may be used by several goroutines.
type Renamer struct {
	code  *codebase.Base
	guide *answer.Guide
}

// New proposes other names for what is in some code.
func New(code *codebase.Base, guide *answer.Guide) *Renamer { return &Renamer{code, guide} }

// Asked is what is to be renamed, and how.
type Asked struct {
	// Path and Offset are where its name stands, or it is used.
	Path   string
	Offset int
	// New is the name it is to have.
	New string
	// Family says whether methods that it overrides, or that override it, are renamed with it.
	Family Family
	// File has the file of a type that is called after it by habit be called after it then, too.
	File bool
	// Mentions takes in the places in comments, strings, configuration and pages, too.
	Mentions bool
}

// Family is what is done with methods that override each other.
type Family uint8

// What is done.
const (
	AskFamily Family = iota // it is asked for: the proposal is stopped until one has said it
	AllFamily               // all are renamed
	ThisAlone               // this one is
)

// Subject is what would be renamed.
type Subject struct {
	// Name is what it is called, What says in a word what it is, Offset where in the file it was asked about the name stands.
	Name   string
	What   string
	Offset int
	// Family are the other methods that would have to be renamed with it, or that would not be overridden any more.
	Family []resolve.Answer
	// File is the file that is called after it by habit; "" for none.
	File string
}

// ErrNoName says that there is nothing to be renamed at a place.
var ErrNoName = errors.New("there is no name here that could be another")

// Subject tells what is at a place.
func (r *Renamer) Subject(ctx context.Context, path string, offset int) (Subject, error) {
	if name, places, ok := r.shared(ctx, path, offset); ok {
		return Subject{Name: name.Name, What: name.Realm.String(), Offset: int(places[0].At.Start)}, nil
	}
	b, err := r.bound(ctx, Asked{Path: path, Offset: offset})
	if err != nil {
		return Subject{}, err
	}
	s := Subject{Name: b.Name, What: b.Kind.String(), Offset: int(b.At.Start), Family: b.Family}
	if len(b.Definitions) > 0 {
		w := work{Renamer: r, ctx: ctx, asked: Asked{New: b.Name}, bound: b}
		if l := w.language(); l != nil && l.Names.Files == lang.MayFollow && !b.Alias {
			if _, ok := w.follows(l, b.Definitions[0]); ok {
				s.File = b.Definitions[0].Path
			}
		}
	}
	return s, nil
}

// bound finds all that has to have the name, and says what cannot be renamed.
func (r *Renamer) bound(ctx context.Context, a Asked) (resolve.Bound, error) {
	if err := r.code.Await(ctx, func(p *codebase.Progress) bool { return p.Done || p.Err != nil }); err != nil {
		return resolve.Bound{}, err
	}
	b := r.guide.Bound(ctx, a.Path, a.Offset, a.Family == AllFamily)
	switch {
	case ctx.Err() != nil:
		return b, ctx.Err()
	case b.Name == "":
		return b, ErrNoName
	case len(b.Definitions) == 0 && b.Outside != "":
		return b, fmt.Errorf("%s belongs to %s, which is outside this project", b.Name, b.Outside)
	case len(b.Definitions) == 0 && len(b.Answers) > 0 && b.Answers[0].Kind == facts.Package:
		return b, nil
	case b.Kind == facts.Rule && strings.ContainsAny(b.Name, ".#:[> "):
		return b, fmt.Errorf("a rule is called by what it styles; put the caret on a class or an id in %s to rename that", b.Name)
	case len(b.Definitions) == 0 || len(b.Answers) == 0 || b.Answers[0].Certainty == resolve.ByName:
		return b, fmt.Errorf("what %s means here is not known for certain, so it cannot be told what to rename", b.Name)
	}
	if l := r.code.Languages().Of(b.Definitions[0].Path); l != nil && slices.Contains(l.Members.Constructors, b.Name) {
		return b, fmt.Errorf("%s is what the language calls it; rename the type instead", b.Name)
	}
	for _, d := range b.Definitions {
		if path.IsAbs(d.Path) {
			return b, fmt.Errorf("%s is defined in %s, which is outside this project", b.Name, d.Path)
		}
	}
	return b, nil
}

// Propose works out what changes if something gets another name. What stands in its way is among the warnings of the
// proposal; the error is for what cannot be renamed at all.
func (r *Renamer) Propose(ctx context.Context, a Asked) (*proposal.Proposal, error) {
	p, rest, err := r.Begin(ctx, a)
	if err != nil {
		return nil, err
	}
	more, err := rest(ctx)
	if err != nil {
		return nil, err
	}
	p.Merge(more)
	return p, nil
}

// Rest is what takes longer of a proposal: mentions, and what stands in its way.
type Rest func(ctx context.Context) (*proposal.Proposal, error)

// Begin works out the places that are certain; rest gives the others, and the warnings, to be merged into it.
func (r *Renamer) Begin(ctx context.Context, a Asked) (p *proposal.Proposal, rest Rest, err error) {
	if name, places, ok := r.shared(ctx, a.Path, a.Offset); ok {
		p, err = r.sharedNamed(ctx, a, name, places)
		return p, nothing, err
	}
	b, err := r.bound(ctx, a)
	if err != nil {
		return nil, nil, err
	}
	w := work{Renamer: r, ctx: ctx, asked: a, bound: b, proposal: &proposal.Proposal{Title: fmt.Sprintf("rename %s to %s", b.Name, a.New)}}
	if a.New == b.Name {
		return nil, nil, fmt.Errorf("%s is its name already", a.New)
	}
	if len(b.Definitions) == 0 {
		p, err := r.moduleNamed(ctx, b, a.New)
		return p, nothing, err
	}
	w.allowed()
	w.places()
	w.arguments()
	w.files()
	w.proposal.Order()
	return w.proposal.Clone(), w.rest, ctx.Err()
}

// nothing is the rest of a proposal that has all in it.
func nothing(context.Context) (*proposal.Proposal, error) { return &proposal.Proposal{}, nil }

// moduleNamed proposes another name for the file or folder that a module or package is.
func (r *Renamer) moduleNamed(ctx context.Context, b resolve.Bound, name string) (*proposal.Proposal, error) {
	from := b.Answers[0].Path
	if path.IsAbs(from) {
		return nil, fmt.Errorf("%s is outside this project", b.Name)
	}
	ending := ""
	if r.code.Has(from) && r.code.Languages().Of(from) != nil {
		ending = path.Ext(from)
	}
	if strings.ContainsAny(name, "/\\") {
		return nil, fmt.Errorf("%s cannot be the name of a package or module", name)
	}
	if stem := strings.TrimSuffix(path.Base(from), ending); ending != "" && stem != b.Name && path.Base(path.Dir(from)) == b.Name {
		from, ending = path.Dir(from), "" // the file stands for its folder
	}
	return r.Move(ctx, from, path.Join(path.Dir(from), name+ending))
}

// rest finds what takes longer.
func (w *work) rest(ctx context.Context) (*proposal.Proposal, error) {
	w.ctx = ctx
	w.sure = w.proposal
	w.proposal = &proposal.Proposal{}
	if err := w.mentions(); err != nil {
		return nil, err
	}
	w.conflicts()
	return w.proposal, ctx.Err()
}

// work is what is known while a proposal is worked out.
type work struct {
	*Renamer
	ctx      context.Context
	asked    Asked
	bound    resolve.Bound
	proposal *proposal.Proposal // that which is worked out now
	sure     *proposal.Proposal // the places that are certain

	loaded map[string]*codebase.File
	short  map[string]map[int]bool
	// named are the places that are renamed, by file: those that count for conflicts.
	named map[string][]place.Range
}

// file is a file as it reads now; nil if it cannot be read.
func (w *work) file(p string) *codebase.File {
	f, ok := w.loaded[p]
	if !ok {
		if w.loaded == nil {
			w.loaded = map[string]*codebase.File{}
		}
		f, _ = w.code.Load(w.ctx, p) // what cannot be read is not among the places
		w.loaded[p] = f
	}
	return f
}

// add adds a place at which the name stands.
func (w *work) add(p string, at place.Range, by string, what string, c resolve.Certainty, g proposal.Group) {
	f := w.file(p)
	if f == nil || path.IsAbs(p) || int(at.End) > f.Text.Len() {
		return
	}
	out := g != proposal.Sure && !(g == proposal.Mentions && w.asked.Mentions)
	w.proposal.Add(p, func() *text.Document { return f.Text }, proposal.Place{
		At: at, New: by, What: what, In: w.in(f, int(at.Start)), Certainty: c, Group: g, Out: out,
	})
}

// in is the qualified name of what a place stands in.
func (w *work) in(f *codebase.File, offset int) string {
	line, col := f.Text.Position(offset)
	return codebase.SymbolAt(f, line, col)
}

// places adds the definitions and the uses.
func (w *work) places() {
	w.named = map[string][]place.Range{}
	for _, d := range w.bound.Definitions {
		w.put(d.Path, d.At, "definition", d.Certainty)
	}
	for _, u := range w.bound.References {
		if u.Certainty == resolve.ByName {
			w.add(u.Path, u.At, w.written(u.Path, u.At), u.Access.String(), u.Certainty, proposal.ByName)
			continue
		}
		w.put(u.Path, u.At, u.Access.String(), u.Certainty)
	}
}

func (w *work) put(p string, at place.Range, what string, c resolve.Certainty) {
	w.named[p] = append(w.named[p], at)
	w.add(p, at, w.written(p, at), what, c, proposal.Sure)
}

// written is what comes in the place of the name: the new one, or where the name stands for a member and the value of
// it at once, both.
func (w *work) written(p string, at place.Range) string {
	f := w.file(p)
	if f == nil {
		return w.asked.New
	}
	short, ok := w.short[p]
	if !ok {
		if w.short == nil {
			w.short = map[string]map[int]bool{}
		}
		short = w.code.Shorthands(w.ctx, p, f.Text)
		w.short[p] = short
	}
	switch {
	case !short[int(at.Start)]:
		return w.asked.New
	case isMember(w.bound.Kind):
		return w.asked.New + ": " + w.bound.Name
	}
	return w.bound.Name + ": " + w.asked.New
}

// isMember says whether something is a member of a value, as far as short forms tell.
func isMember(k facts.Kind) bool { return k == facts.Property || k == facts.Field || k == facts.Method }

// mentions adds what is named like it in comments, strings, configuration and pages.
func (w *work) mentions() error {
	if w.bound.Alias || w.local() && !w.asked.Mentions {
		return nil
	}
	all, err := w.guide.Mentions(w.ctx, w.bound.Name)
	if err != nil {
		return err
	}
	if err := w.unread(); err != nil {
		return err
	}
	for i := range all {
		m := &all[i]
		if w.local() && m.Path != w.bound.Definitions[0].Path {
			continue
		}
		what := strings.TrimPrefix(m.Why, "in a ")
		if what == "" {
			what = "mention"
		}
		w.add(m.Path, m.At, w.asked.New, what, resolve.ByName, proposal.Mentions)
	}
	return nil
}

// unread adds the places in code of the same family of languages of which nothing is known but the name. In the body of a
// macro it can mean nothing else if nothing else in the project is called so.
func (w *work) unread() error {
	if w.local() {
		return nil
	}
	all, directive, err := w.guide.Unread(w.ctx, w.bound.Name)
	if err != nil {
		return err
	}
	alone, home := w.alone(), w.language()
	for i := range all {
		l := w.code.Languages().Of(all[i].Path)
		if l == nil || home == nil || l.Family != home.Family {
			continue
		}
		if directive[i] {
			group := proposal.ByName
			if alone {
				group = proposal.Sure
			}
			w.add(all[i].Path, all[i].At, w.asked.New, "macro", resolve.ByName, group)
			continue
		}
		w.add(all[i].Path, all[i].At, w.asked.New, "code", resolve.ByName, proposal.ByName)
	}
	return nil
}

// alone says whether nothing else in the project has the name.
func (w *work) alone() bool {
	for _, s := range w.code.Named(w.bound.Name) {
		if !slices.ContainsFunc(w.bound.Definitions, func(d resolve.Answer) bool { return d.Path == s.Path && int(d.At.Start) == s.Offset }) {
			return false
		}
	}
	return true
}

// local says that what is renamed can only be seen within a function.
func (w *work) local() bool {
	d := w.bound.Definitions[0]
	f := w.file(d.Path)
	if f == nil || f.Facts == nil {
		return false
	}
	id := f.Facts.DefAt(int(d.At.Start))
	return id != facts.NoDef && f.Facts.Local(&f.Facts.Defs[id])
}
