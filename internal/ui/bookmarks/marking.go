package bookmarks

import (
	"context"
	"path"
	"strconv"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// Commands are what opens the sheet, and what is done without it.
func (s *Surface) Commands() surface.Commands {
	all := surface.Commands{
		keymap.BookmarkLetter:   s.askLetter,
		keymap.Bookmarks:        func() surface.Intent { return s.show(false) },
		keymap.BookmarkLists:    func() surface.Intent { return s.show(true) },
		keymap.BookmarkNext:     func() surface.Intent { return s.next(true) },
		keymap.BookmarkPrevious: func() surface.Intent { return s.next(false) },
		keymap.BookmarkNote:     s.noteHere,
		keymap.BookmarkUndo:     s.undo,
	}
	for a, kind := range map[keymap.Action]bookmark.Kind{keymap.Bookmark: bookmark.Line, keymap.BookmarkSymbol: bookmark.Symbol, keymap.BookmarkFile: bookmark.File, keymap.BookmarkFolder: bookmark.Folder} {
		all[a] = func() surface.Intent { return s.toggle(kind) }
	}
	return all
}

// markHere makes a bookmark on what is at the caret; why says why there can be none.
func (s *Surface) markHere(kind bookmark.Kind) (k bookmark.Mark, why string) {
	here := s.host.Here()
	p, f := here.View.Place, here.File
	switch {
	case kind == bookmark.Folder && p.Path != "":
		return s.project.Bookmark(nil, place.Place{Path: path.Dir(p.Path)}, kind), ""
	case kind == bookmark.File && p.Path != "":
		return s.project.Bookmark(nil, p, kind), ""
	case f == nil || f.Text.Binary() || !f.Text.Whole():
		return k, "there is no line here to put a bookmark on"
	}
	k = s.project.Bookmark(f, p, kind)
	if kind == bookmark.Symbol && k.What == "" {
		return k, "the caret is in no symbol; m puts a bookmark on the line"
	}
	return k, ""
}

// toggle puts a bookmark on the line, the symbol, the file or the folder one is
// in, or takes it away.
func (s *Surface) toggle(kind bookmark.Kind) surface.Intent {
	k, why := s.markHere(kind)
	if why != "" {
		return surface.Say("%s", why)
	}
	for _, spot := range s.book.All() {
		o := spot.Mark()
		same := o.Kind == kind && o.Path == k.Path && (kind == bookmark.File || kind == bookmark.Folder || o.Line == k.Line)
		if kind == bookmark.Line && o.IsOn(k.Place()) {
			same = true
		}
		if same && spot.List.Shared == "" {
			return s.remove(spot)
		}
	}
	l, _ := s.book.Begin()
	added := l.Add(k)
	s.at = added.Key
	return surface.Say("a bookmark on %s is in the list %q now; {bookmarks} shows them", about(added), l.Name).And(s.keep(l))
}

// about says in a few words what a bookmark is on.
func about(k *bookmark.Mark) string {
	switch k.Kind {
	case bookmark.Folder:
		return "the folder " + k.Path
	case bookmark.File:
		return path.Base(k.Path)
	case bookmark.Symbol:
		return k.What
	}
	at := path.Base(k.Path) + " " + strconv.Itoa(k.Line)
	if k.What != "" {
		return at + ", " + k.What
	}
	return at
}

func (s *Surface) remove(spot bookmark.Spot) surface.Intent {
	s.book.Remove(spot)
	key := "B u"
	if s.open {
		key = "Alt+U"
	}
	note := ""
	if spot.Mark().Note != "" {
		note = " and its note"
	}
	return surface.Say("the bookmark on %s%s is taken away; %s brings it back", about(spot.Mark()), note, key).And(s.keep(spot.List))
}

func (s *Surface) undo() surface.Intent {
	spot, ok := s.book.Undo()
	if !ok {
		return surface.Say("no bookmark was taken away that could be brought back")
	}
	return surface.Say("the bookmark on %s is back in the list %q", about(spot.Mark()), spot.List.Name).And(s.keep(spot.List))
}

// ByLetter goes to the bookmark of a letter or digit.
func (s *Surface) ByLetter(letter string) surface.Intent {
	spot, ok := s.book.Lettered(letter)
	if !ok {
		return surface.Say("no bookmark is %s; {bookmark-letter} %s makes this line the one", letter, letter)
	}
	return s.goTo(spot, "bookmark "+letter)
}

// ByKey goes to the bookmark of a key.
func (s *Surface) ByKey(key, how string) surface.Intent {
	for _, l := range s.book.Lists {
		if i := l.Find(key); i >= 0 {
			return s.goTo(bookmark.Spot{List: l, Item: i}, how)
		}
	}
	return surface.Say("that bookmark was taken away meanwhile")
}

// goTo goes to a bookmark, wherever that is by now.
func (s *Surface) goTo(spot bookmark.Spot, how string) surface.Intent {
	k := *spot.Mark()
	s.at = k.Key
	project := s.project
	if k.Kind == bookmark.Folder {
		return surface.Begin(surface.Ask(s.host.Way(), func(context.Context) bool { return project.IsFolder(k.Path) }, func(is bool) surface.Intent {
			if !is {
				return surface.Say("the folder %s is gone", k.Path)
			}
			return surface.Intent{Folder: k.Path}
		}))
	}
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) *bookmark.List {
		found := &bookmark.List{Marks: []bookmark.Mark{k}}
		project.LocateBookmarks(ctx, found)
		return found
	}, func(found *bookmark.List) surface.Intent { return s.arrive(spot.List, found, k.Place(), how) }))
}

// arrive goes to the bookmark that was found, which is alone in its list; was is where it was before.
func (s *Surface) arrive(l, found *bookmark.List, was place.Place, how string) (todo surface.Intent) {
	k := &found.Marks[0]
	if l.Located(found) {
		todo = s.keep(l)
	}
	if k.Fate == place.Gone {
		words := "the bookmark on " + about(k) + " is gone"
		if k.Text != "" {
			words += ": " + k.Text
		}
		return todo.And(surface.Say("%s. It stays in the list, for it may come back, as with another branch", words))
	}
	v := visit(k)
	v.How = how
	switch {
	case k.Fate == place.Changed:
		v.After = "this line has changed since: " + k.Text
	case k.Note != "":
		v.After = k.Note
	case k.Fate == place.Moved && was.Path != k.Path:
		v.After = "it was in " + was.Path + ", which is " + k.Path + " now"
	case k.Fate == place.Moved && was.Line != k.Line:
		v.After = "its line has moved here from line " + strconv.Itoa(was.Line)
	}
	return todo.And(surface.Go(v))
}

// next goes to the next bookmark of the present list, or the one before.
func (s *Surface) next(forward bool) surface.Intent {
	l := s.book.Present()
	if l == nil {
		return surface.Say("there is no bookmark yet; {bookmark} puts one on this line")
	}
	i, round, ok := l.Next(s.at, s.host.Here().View.Place, forward)
	if !ok {
		return surface.Say("no bookmark is left in the list %q; {bookmark} puts one on this line", l.Name)
	}
	todo := s.goTo(bookmark.Spot{List: l, Item: i}, "bookmark: "+l.Name)
	if round {
		todo = todo.And(surface.Say("from the other end of the list %q again", l.Name))
	}
	return todo
}

// noteHere writes a note on the bookmark of this line.
func (s *Surface) noteHere() surface.Intent {
	for _, spot := range s.book.At(s.host.Here().View.Place) {
		if spot.List.Shared == "" {
			todo := s.show(false)
			s.sheet.Note(spot)
			return todo.And(s.selected())
		}
	}
	return surface.Say("there is no bookmark on this line to write a note on; {bookmark} puts one here")
}
