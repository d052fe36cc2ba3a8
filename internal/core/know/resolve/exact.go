package resolve

import (
	"path"
	"slices"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
)

// checked is what a compiler says that a use means; empty if it does not say.
func (q *question) checked(src *source, use facts.Use) found {
	book := q.code.Checked(src.lang)
	if book == nil {
		return q.told(src, use)
	}
	t, ok := book.Use(src.path, int(use.At.Start))
	if !ok || t.Name != use.Name {
		return q.told(src, use)
	}
	if r := q.declared(t); r.ok() {
		if t.Declared && !path.IsAbs(t.Folder) {
			return q.writtenOut(book, t, r)
		}
		return found{refs: []ref{r}, exact: true}
	}
	if path.IsAbs(t.Folder) {
		return found{outside: path.Base(t.Folder), exact: true}
	}
	return found{}
}

// told is what an index that was taken in says that a use means; empty if it does not say. It is exact if the texts are those of which
// it says so.
func (q *question) told(src *source, use facts.Use) found {
	t, same, ok := q.code.Told(q.ctx, src.path, int(use.At.Start))
	if !ok || t.Name != string(use.At.In(src.text)) {
		return found{}
	}
	t.Name = use.Name // which may be more than is written, as of a label
	if r := q.declared(t); r.ok() {
		return found{refs: []ref{r}, exact: same, told: !same}
	}
	return found{}
}

// writtenOut leads from what is but declared in what a compiler saw to where it is written out, in another file that it saw;
// empty if that cannot be told.
func (q *question) writtenOut(book *check.Book, t check.Target, declared ref) found {
	var files []string
	for _, sym := range q.code.Named(t.Name) {
		if q.family(sym.Path) == declared.src.lang.Family && !slices.Contains(files, sym.Path) && sym.Path != declared.src.path {
			files = append(files, sym.Path)
		}
	}
	targets, ok := book.Defined(t.Symbol, files)
	if !ok || len(targets) > 1 || t.Symbol == 0 {
		return found{}
	}
	for _, at := range targets {
		at.Name = t.Name
		if r := q.declared(at); r.ok() {
			return found{refs: []ref{r}, exact: true}
		}
		return found{}
	}
	return found{refs: []ref{declared}, exact: true}
}

// allDeclared finds the definitions that a compiler named.
func (q *question) allDeclared(targets []check.Target) (found []ref) {
	for _, t := range targets {
		if r := q.declared(t); r.ok() {
			found = append(found, r)
		}
	}
	slices.SortFunc(found, byPlace)
	return found
}

// declared finds the definition that a compiler named.
func (q *question) declared(t check.Target) ref {
	src := q.source(path.Join(t.Folder, t.File))
	if t.Local || t.Nested {
		if src == nil {
			return ref{}
		}
		if id := src.DefAt(int(t.Offset)); id != facts.NoDef && src.Defs[id].Name == t.Name && src.Defs[id].At.Start == t.Offset {
			return src.ref(id)
		}
		return ref{}
	}
	if src != nil {
		if r := src.global(t.Container, t.Name); r.ok() {
			return r
		}
	}
	for _, sym := range q.code.Named(t.Name) { // it has moved to another file
		if path.Dir(sym.Path) != t.Folder || sym.Container != t.Container {
			continue
		}
		if src := q.source(sym.Path); src != nil {
			if r := src.global(t.Container, t.Name); r.ok() {
				return r
			}
		}
	}
	return ref{}
}

// global finds a definition of a file that all of its package can name.
func (s *source) global(container, name string) ref {
	if container == "" {
		for _, id := range s.scoped[scopedName{0, name}] {
			if d := &s.Defs[id]; d.Container == "" && d.Kind != facts.Import {
				return s.ref(id)
			}
		}
		return ref{}
	}
	for _, id := range s.scoped[scopedName{0, name}] {
		if s.Defs[id].Container == container {
			return s.ref(id)
		}
	}
	for _, id := range s.scoped[scopedName{0, container}] {
		if body := s.Defs[id].Body; body != 0 {
			for _, m := range s.scoped[scopedName{body, name}] {
				return s.ref(m)
			}
		}
	}
	return ref{}
}
