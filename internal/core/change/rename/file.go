package rename

import (
	"path"
	"strings"
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// files moves the file whose name has to be that of what is renamed, and tells of one that is by habit.
func (w *work) files() {
	l := w.language()
	if l == nil || l.Names.Files == lang.NoFiles || w.bound.Alias {
		return
	}
	for _, d := range w.bound.Definitions {
		f := w.file(d.Path)
		to, ok := w.follows(l, d)
		if f == nil || !ok {
			continue
		}
		switch {
		case w.code.Has(to):
			w.warn(d.Path, d.At, l.Names.Files == lang.MustFollow || w.asked.File, "its file would have to be %s, which is there already", to)
		case l.Names.Files == lang.MustFollow:
			w.proposal.Move(d.Path, to, func() *text.Document { return f.Text })
		case w.asked.File:
			moved, err := w.Move(w.ctx, d.Path, to)
			if err != nil {
				w.warn(d.Path, d.At, true, "its file cannot be %s: %v", to, err)
				continue
			}
			w.proposal.Merge(moved)
		default:
			w.warn(d.Path, d.At, false, "its file is called %s as well, and keeps that name", path.Base(d.Path))
		}
	}
}

// follows is what the file of a type would be called with its new name, if it is called after it now.
func (w *work) follows(l *lang.Language, d resolve.Answer) (to string, ok bool) {
	dir, base := path.Split(d.Path)
	stem, ending, _ := strings.Cut(base, ".")
	if !w.outermost(d.Path, int(d.At.Start)) {
		return "", false
	}
	for _, form := range []func(string) string{func(s string) string { return s }, strings.ToLower, joined("_"), joined("-"), firstSmall} {
		if form(w.bound.Name) == stem {
			return dir + form(w.asked.New) + "." + ending, true
		}
		if l.Names.Files == lang.MustFollow {
			break
		}
	}
	return "", false
}

// joined writes a name in small letters with a sign between its words.
func joined(sign string) func(name string) string {
	return func(name string) string {
		var b strings.Builder
		for i, r := range name {
			if unicode.IsUpper(r) && i > 0 {
				b.WriteString(sign)
			}
			b.WriteRune(unicode.ToLower(r))
		}
		return b.String()
	}
}

func firstSmall(name string) string {
	r, size := utf8.DecodeRuneInString(name)
	return string(unicode.ToLower(r)) + name[size:]
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
