package scout

import (
	"context"
	"path"
	"strconv"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/sheet"
)

// Before is where one was before, and what one has marked.
type Before struct {
	// Files are those one was in, the previous one first; EditedFiles those of them in
	// which something was changed.
	Files, EditedFiles []string
	// Stops are those of the trail, the latest first.
	Stops []Remembered
	// Marks are the bookmarks.
	Marks []Remembered
	// Unsaved are the files with text that is not saved.
	Unsaved map[string]bool
}

// Remembered is a stop or a bookmark.
type Remembered struct {
	// What it is, with its letter; Title is what to call it.
	What, Title string
	Place       place.Place
	// Text is what stands there, Note what one wrote on it, How how one comes there.
	Text, Note, How string
	Edited          bool
	// Stop is the number of the stop, counted from 1, or 0; Mark the key of the bookmark,
	// or "".
	Stop int
	Mark string
}

// row draws it: what it is, its name, where it is and what stands there.
func (r *Remembered) row(at []int) sheet.Row {
	row := sheet.Row{What: r.What, Reads: true, Name: r.Title, At: at, Where: path.Base(r.Place.Path) + " " + strconv.Itoa(r.Place.Line)}
	for _, words := range []string{r.Note, r.Text} {
		if words != "" {
			row.Where += "  " + words
		}
	}
	if r.Edited {
		row.Name += " ✎"
	}
	row.Value = Choice{Place: r.Place, Symbol: r.Title, How: r.How, Stop: r.Stop, Mark: r.Mark}
	return row
}

// remembered finds stops or bookmarks by their names, notes and lines.
func (s finding) remembered(ctx context.Context, title string, all []Remembered, typed string) lane {
	var c fuzzy.Corpus
	name := func(r *Remembered) string { return r.Title + " " + r.Place.Path + " " + r.Note }
	for i := range all {
		c.Add(name(&all[i]), 0)
	}
	q := fuzzy.Parse(typed)
	l := lane{title: title}
	for _, h := range c.Search(ctx, q, fuzzy.Whole, mostHits) {
		r := &all[h.Index]
		m, _ := q.Match(name(r), 0)
		if !m.Close {
			continue
		}
		if len(l.rows) == 0 {
			l.best = m
		}
		var at []int
		for _, i := range m.At {
			if i < len(r.Title) {
				at = append(at, i)
			}
		}
		l.rows = append(l.rows, r.row(at))
	}
	return l
}
