// Package bookmarks is the sheet of bookmarks: all of them by their lists, where a letter
// goes there at once, and the lists themselves.
package bookmarks

import (
	"path"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Kind is what came of a key.
type Kind uint8

// The kinds.
const (
	Nothing  Kind = iota
	Selected      // another bookmark is chosen; show its place
	Said          // Words are to be told
	Taken         // go to Spot
	Closed        // put everything back as it was
	Removed       // take Spot away
	Undone        // bring back what was taken away last
	Changed       // Lists were changed
	Dropped       // the list is to be forgotten
	Shared        // the list is to be written into the project; Over if it may be written over
	Exported      // the list is to be written as a walk to the file Words
	Guided        // walk through the list
)

// Event is what came of a key, and what it is about.
type Event struct {
	Kind  Kind
	Spot  bookmark.Spot
	Lists []*bookmark.List
	Words string
	// Done says that nothing else was wanted than what came of the key.
	Done bool
	Over bool
}

// page is what the sheet shows.
type page uint8

const (
	marks page = iota
	listed
	target // the lists, to move a bookmark to one
)

// question is what is asked in the line one types in.
type question uint8

const (
	none question = iota
	note
	letter
	begin  // the name of a new list
	rename // of a list
	export // the file to write to
	drop
	share
)

// Model is the sheet.
type Model struct {
	// Clock writes times; nil is as usual.
	Clock *sheet.Clock

	picker    picker.Model
	height    int
	book      *bookmark.Book
	page      page
	filtering bool // letters narrow, rather than go to a bookmark
	spots     []bookmark.Spot
	names     *fuzzy.Corpus
	moving    bookmark.Spot
	asking    question
	once      bool // it was opened for that question only
	input     entry.Line
	colors    func(path string, line int) highlight.Spans
}

// New makes a sheet; colors gives the colours of a line of code, as far as they are
// known.
func New(colors func(path string, line int) highlight.Spans) *Model {
	return &Model{picker: picker.New(), input: entry.New(), colors: colors}
}

// Open shows the bookmarks, the one of the given key chosen, or the lists.
func (m *Model) Open(book *bookmark.Book, chooseList bool, at string, height int) {
	m.book, m.height, m.page, m.filtering, m.asking, m.once = book, height, marks, false, none, false
	if chooseList {
		m.page = listed
	}
	m.fill()
	chosen := 0
	for i, s := range m.spots {
		if m.page == marks && s.Mark().Key == at {
			chosen = i
		}
	}
	m.picker.Open(m.list(), chosen, height-1)
}

// Note asks for a note on a bookmark, and for nothing else.
func (m *Model) Note(s bookmark.Spot) {
	if i := slices.Index(m.spots, s); i >= 0 {
		m.picker.Set(m.list(), i)
		m.ask(note)
		m.once = true
	}
}

// Refresh shows the bookmarks as they are now; the chosen one stays so.
func (m *Model) Refresh() {
	at, _ := m.picker.Chosen()
	key := ""
	if m.page == marks && at < len(m.spots) {
		key = m.spots[at].Mark().Key
	}
	m.fill()
	for i, s := range m.spots {
		if key != "" && s.Mark().Key == key {
			at = i
		}
	}
	m.picker.Set(m.list(), at)
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) {
	m.height = height
	m.picker.Resize(height - 1)
}

// Chosen is the chosen bookmark; ok is false if none is.
func (m *Model) Chosen() (s bookmark.Spot, ok bool) {
	i, ok := m.picker.Chosen()
	if m.page == target {
		return m.moving, true
	}
	if !ok || m.page != marks || i >= len(m.spots) {
		return s, false
	}
	return m.spots[i], true
}

// chosenList is the chosen list; ok is false if none is.
func (m *Model) chosenList() (l *bookmark.List, ok bool) {
	i, ok := m.picker.Chosen()
	if !ok || m.page == marks {
		return nil, false
	}
	return m.listed()[i], true
}

// listed are the lists that are shown.
func (m *Model) listed() []*bookmark.List {
	if m.page != target {
		return m.book.Lists
	}
	var own []*bookmark.List
	for _, l := range m.book.Lists {
		if l.Shared == "" && l != m.moving.List {
			own = append(own, l)
		}
	}
	return own
}

// fill makes what is listed, and the names to search.
func (m *Model) fill() {
	m.names, m.spots = &fuzzy.Corpus{}, nil
	if m.page != marks {
		for _, l := range m.listed() {
			m.names.Add(l.Name, 0)
		}
		return
	}
	m.spots = m.book.All()
	if !m.filtering { // the names of thousands take their time
		m.names = nil
	}
	for _, s := range m.spots {
		if m.names == nil {
			break
		}
		k := s.Mark()
		m.names.Add(k.Path+" "+k.What+" "+k.Text+" "+k.Note, len(path.Dir(k.Path))+1)
	}
}

func (m *Model) list() picker.List {
	if m.page != marks {
		return m.listOfLists()
	}
	l := picker.List{Title: "bookmarks", Names: m.names, Total: len(m.spots), Row: m.row,
		Below: func(i int) string { return m.spots[i].Mark().Note },
		Empty: "no bookmark is in any list; m puts one on a line"}
	if len(m.book.Lists) > 1 {
		l.Group = func(i int) string { return groupName(m.spots[i].List) }
	} else if len(m.book.Lists) == 1 {
		l.Title = groupName(m.book.Lists[0])
	}
	for i := range m.spots {
		l.Shown = append(l.Shown, i)
	}
	if p := m.book.Present(); p != nil {
		l.Note = "new ones go to " + strconv.Quote(p.Name)
	}
	return l
}

func groupName(l *bookmark.List) string {
	name := l.Name
	if l.Shared != "" {
		return name + ", shared in " + l.Shared
	}
	if l.ByFile {
		name += ", in the order of the files"
	}
	return name
}

// row draws a bookmark: its letter or what it is on, its line, and where that is.
func (m *Model) row(i int, at []int) sheet.Row {
	k := m.spots[i].Mark()
	row := sheet.Row{What: string(k.Kind), Name: k.Text, Where: path.Base(k.Path) + " " + strconv.Itoa(k.Line),
		Colors: func() highlight.Spans { return m.colors(k.Path, k.Line) }}
	if k.What != "" {
		row.Where = k.What + ", " + row.Where
	}
	switch {
	case k.Kind == bookmark.File:
		row.Name, row.Where, row.Colors = path.Base(k.Path), path.Dir(k.Path)+"/", nil
	case k.Kind == bookmark.Folder:
		row.Name, row.Where, row.Colors = k.Path+"/", "", nil
	case k.Text == "":
		row.Name = "(an empty line)"
	}
	if k.Letter != "" {
		row.What = k.Letter + "  " + row.What
	} else {
		row.What = "   " + row.What
	}
	switch k.Fate {
	case place.Gone:
		row.Where += ", gone"
	case place.Changed:
		row.Where += ", its text has changed"
	case place.Moved:
		row.Where += ", moved"
	}
	return row
}

func (m *Model) listOfLists() picker.List {
	all := m.listed()
	l := picker.List{Title: "lists of bookmarks", Names: m.names, Total: len(all), Empty: "there is no other list; " + label(on.Begin) + " begins one"}
	if m.page == target {
		l.Title = "to which list?"
	}
	for i := range all {
		l.Shown = append(l.Shown, i)
	}
	present := m.book.Present()
	l.Row = func(i int, at []int) sheet.Row {
		o := all[i]
		row := sheet.Row{What: "list", Name: o.Name, At: at, Where: sheet.Count(len(o.Shown()), "bookmark", "bookmarks")}
		switch {
		case o.Shared != "":
			row.What, row.Where = "shared", row.Where+", in "+o.Shared
		case o == present:
			row.What = "present"
		}
		if o.Shared == "" {
			row.Where += ", begun " + m.Clock.Moment(o.Made)
		}
		return row
	}
	return l
}

// ask asks something in the line one types in.
func (m *Model) ask(what question) {
	value := ""
	s, marked := m.Chosen()
	l, listed := m.chosenList()
	switch what {
	case note:
		value = s.Mark().Note
	case rename:
		value = l.Name
	case export:
		if !listed {
			l = s.List
		}
		value = strings.TrimSuffix(path.Base(bookmark.SharedFile(l.Name)), ".toml") + ".md"
	}
	if (what == note || what == letter) && !marked {
		return
	}
	m.asking = what
	m.input.Put(value)
}
