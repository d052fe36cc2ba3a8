package resolve

import (
	"context"
	"path"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// super is a type that another one is derived from, as an expression in a file.
type super struct {
	src *source
	id  facts.ExprID
}

// supers are all that a type is said to be derived from, at its definition first.
func (q *question) supers(t ref) (all []super) {
	for _, s := range t.def().Supers {
		all = append(all, super{t.src, s})
	}
	if !t.src.lang.Types.DerivedApart.Is() || !t.def().Kind.IsType() || t.def().Kind == facts.TypeParameter {
		return all
	}
	if elsewhere, ok := q.derived[t.at()]; ok {
		return append(all, elsewhere...)
	}
	q.derived[t.at()] = nil
	var elsewhere []super
	for _, src := range q.filesNaming(t) {
		for _, d := range src.Derived {
			if d.Name == t.def().Name && q.isThat(src, d.Of, t) {
				elsewhere = append(elsewhere, super{src, d.Super})
			}
		}
	}
	q.derived[t.at()] = elsewhere
	return append(all, elsewhere...)
}

// filesNaming are the files of the same language, in the project, or in the folder
// of a type outside of it, in which the name of the type stands.
func (q *question) filesNaming(t ref) (files []*source) {
	if path.IsAbs(t.src.path) {
		return []*source{t.src}
	}
	for _, p := range q.code.Mentioning(t.def().Name) {
		if q.family(p) != q.family(t.src.path) {
			continue
		}
		if src := q.source(p); src != nil {
			files = append(files, src)
		}
	}
	return files
}

// isThat says whether an expression names the type t.
func (q *question) isThat(src *source, of facts.ExprID, t ref) bool {
	named := q.typeNamed(src, of, 0)
	return named.named.ok() && named.named.at() == t.at()
}

// Unknown is a type that something is said to be derived from of which no definition
// was found, such as one of a library whose source is not there.
type Unknown struct {
	Name string
	// Path and At are where it is said.
	Path string
	At   place.Range
}

// UnknownSupers are the direct supertypes of the type at an offset that are defined
// nowhere within reach.
func (r *Resolver) UnknownSupers(ctx context.Context, path string, offset int) (unknown []Unknown) {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	if len(res.Answers) == 0 {
		return nil
	}
	t := q.refAt(res.Answers[0])
	if !t.ok() || !t.def().Kind.IsType() {
		return nil
	}
	for _, s := range q.supers(t) {
		e := s.src.Exprs[s.id]
		if e.Name == "" && e.Base != facts.NoExpr { // with type arguments
			e = s.src.Exprs[e.Base]
		}
		if e.Name == "" || q.typeNamed(s.src, s.id, 0).named.ok() {
			continue
		}
		unknown = append(unknown, Unknown{e.Name, s.src.path, e.At})
	}
	return unknown
}
