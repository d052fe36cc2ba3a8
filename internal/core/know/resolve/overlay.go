package resolve

import (
	"context"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/index"
)

// Overlay is a code base in which some files read otherwise than they do: what it would be after a change. No
// compiler is asked about it.
type Overlay struct {
	Code
	files   map[string]overlaid
	symbols index.Index
}

type overlaid struct {
	facts *facts.File
	text  []byte
}

// NewOverlay lays texts over files, by their paths.
func NewOverlay(ctx context.Context, code Code, texts map[string][]byte) *Overlay {
	o := &Overlay{Code: code, files: map[string]overlaid{}}
	for path, text := range texts {
		o.files[path] = overlaid{}
		if code.Languages().Of(path) == nil {
			continue
		}
		f, err := code.FactsAs(ctx, path, text)
		if err != nil {
			continue // nothing is known of it then
		}
		o.files[path] = overlaid{f, text}
		_ = o.symbols.Put(path, index.Summarise(text, f)) // it was made just now, so it is sound
	}
	return o
}

// Facts implements Code.
func (o *Overlay) Facts(ctx context.Context, path string) (*facts.File, []byte) {
	if f, ok := o.files[path]; ok {
		return f.facts, f.text
	}
	return o.Code.Facts(ctx, path)
}

// Text implements lang.Project.
func (o *Overlay) Text(path string) []byte {
	if f, ok := o.files[path]; ok {
		return f.text
	}
	return o.Code.Text(path)
}

// Named implements Code.
func (o *Overlay) Named(name string) []index.Symbol {
	all := o.symbols.Named(name)
	for _, s := range o.Code.Named(name) {
		if _, ok := o.files[s.Path]; !ok {
			all = append(all, s)
		}
	}
	return all
}

// Mentioning implements Code.
func (o *Overlay) Mentioning(name string) []string {
	all := o.symbols.Mentioning(name)
	for _, p := range o.Code.Mentioning(name) {
		if _, ok := o.files[p]; !ok {
			all = append(all, p)
		}
	}
	return all
}

// ImportsOf implements Code: what a file imports may lead elsewhere by now.
func (o *Overlay) ImportsOf(string) (all []facts.Imported, ok bool) { return nil, false }

// Checked implements Code.
func (o *Overlay) Checked(*lang.Language) *check.Book { return nil }

// Told implements Code.
func (o *Overlay) Told(context.Context, string, int) (t check.Target, same, ok bool) {
	return t, false, false
}

// Meanings are what the names at offsets of a file mean, each as the best answer that is more than a guess; one without
// a path stands for none.
func (r *Resolver) Meanings(ctx context.Context, path string, offsets []int) []Answer {
	q, all := r.ask(ctx), make([]Answer, len(offsets))
	for i, at := range offsets {
		if ctx.Err() != nil {
			break
		}
		if res := q.definition(path, at); len(res.Answers) > 0 && res.Answers[0].Certainty != ByName {
			all[i] = res.Answers[0]
		}
	}
	return all
}

// Beside are what has a name among the members of the type that a member at an offset belongs to, its supertypes'
// included, itself not; and what else is defined in the same scope.
func (r *Resolver) Beside(ctx context.Context, path string, offset int, name string) (all []Answer) {
	q := r.ask(ctx)
	src := q.source(path)
	if src == nil {
		return nil
	}
	id := src.DefAt(offset)
	if id == facts.NoDef {
		return nil
	}
	d := &src.Defs[id]
	var found []ref
	for _, o := range src.scoped[scopedName{d.Scope, name}] {
		if src.Defs[o].Container == d.Container {
			found = append(found, src.ref(o))
		}
	}
	if d.Container != "" {
		if owner := q.owner(src.ref(id)); owner.ok() {
			found = append(found, q.members(owner, name, map[*facts.Def]bool{}, 0).refs...)
		}
	} else if d.Scope == 0 {
		found = append(found, q.beyondFile(src, name, 0, 0).refs...)
	}
	for _, f := range unique(found) {
		all = append(all, answer(f, Inferred))
	}
	return all
}
