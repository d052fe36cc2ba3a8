package rename

import (
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
)

// files moves the file whose name has to be that of what is renamed, and tells of one that is by habit.
func (w *work) files() {
	l := w.language()
	if l == nil || l.Names.Files == lang.NoFiles || w.bound.Alias {
		return
	}
	for _, d := range w.bound.Definitions {
		f := w.file(d.Path)
		dir, base := path.Split(d.Path)
		ending := strings.TrimPrefix(base, w.bound.Name)
		if f == nil || !strings.HasPrefix(ending, ".") || !w.outermost(d.Path, int(d.At.Start)) {
			continue
		}
		to := dir + w.asked.New + ending
		switch {
		case l.Names.Files == lang.MayFollow:
			w.warn(d.Path, d.At, false, "its file is called %s as well, and keeps that name", base)
		case w.code.Has(to):
			w.warn(d.Path, d.At, true, "its file would have to be %s, which is there already", to)
		default:
			w.proposal.Move(d.Path, to, func() *text.Document { return f.Text })
		}
	}
}

// outermost says whether what is defined at an offset of a file is a type that stands in nothing else.
func (w *work) outermost(p string, offset int) bool {
	f := w.file(p)
	if f.Facts == nil {
		return false
	}
	id := f.Facts.DefAt(offset)
	return id != facts.NoDef && f.Facts.Defs[id].Kind.IsType() && f.Facts.Defs[id].Scope == 0 && f.Facts.Defs[id].Container == ""
}
