package bookmarks

import (
	"context"
	"errors"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/linecolors"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project is what the bookmarks are in; see package workspace.
type Project interface {
	linecolors.Colorer
	Bookmarks() ([]*bookmark.List, error)
	KeepBookmarks(l *bookmark.List) error
	RemoveBookmarks(l *bookmark.List) error
	ShareBookmarks(l *bookmark.List, over bool) (file string, err error)
	LocateBookmarks(ctx context.Context, l *bookmark.List)
	Bookmark(f *codebase.File, p place.Place, kind bookmark.Kind) bookmark.Mark
	IsFolder(path string) bool
	WalkOfBookmarks(ctx context.Context, l *bookmark.List) *walk.Walk
}

// Surface is the bookmarks: the sheet over the code, and what is done without it.
type Surface struct {
	surface.Size
	host    surface.Host
	project Project
	walks   surface.Walks
	sheet   *Model
	colors  *linecolors.Colors
	asker   *surface.Asker // where they are by now
	keeping *surface.Asker
	asking  *letterLine
	open    bool

	book    bookmark.Book
	touched map[*bookmark.List]bool // the lists that were changed
	at      string                  // the key of the bookmark one was at last
}

// NewSurface makes one.
func NewSurface(host surface.Host, project Project, walks surface.Walks) *Surface {
	s := &Surface{host: host, project: project, walks: walks, touched: map[*bookmark.List]bool{}}
	s.asker, s.keeping = host.Asker(s), host.Asker(s)
	s.colors = linecolors.New(host.Asker(s), project)
	s.sheet = New(s.colors.Of)
	s.sheet.Clock = host.Clock()
	s.asking = &letterLine{marks: s}
	return s
}

// readLists are those that were read.
type readLists struct {
	all []*bookmark.List
	err error
}

// Load reads the bookmarks that were kept.
func (s *Surface) Load() tea.Cmd {
	project := s.project
	return surface.Do(s.keeping, func(ctx context.Context) readLists {
		all, err := project.Bookmarks()
		for _, l := range all {
			project.LocateBookmarks(ctx, l)
		}
		return readLists{all, err}
	}, s.takeIn)
}

// takeIn takes over the lists that were kept. One may have been begun here meanwhile, and
// have been read, too.
func (s *Surface) takeIn(read readLists) surface.Intent {
	return s.keepAll(s.book.TakeIn(read.all)).And(surface.SayError(read.err))
}

// others looks for what other programs on this project have done to the bookmarks.
func (s *Surface) others() tea.Cmd {
	project := s.project
	return surface.Do(s.keeping, func(context.Context) []*bookmark.List {
		all, _ := project.Bookmarks() // what is wrong with them was said when they were read first
		return all
	}, func(all []*bookmark.List) surface.Intent {
		todo := s.keepAll(s.book.TakeIn(all))
		s.refresh()
		todo.Anew = true // those of others are to be found in the files that are shown
		return todo
	})
}

// keep keeps a list as it is now, and takes over what another program did to it.
func (s *Surface) keep(l *bookmark.List) surface.Intent {
	todo := surface.Intent{Marked: true}
	if l == nil || l.Shared != "" {
		return todo
	}
	s.touched[l] = true
	project, kept := s.project, l.Clone()
	todo.Cmd = surface.Keep(s.keeping, kept.ID, func() error { return project.KeepBookmarks(kept) }, func(err error) surface.Intent {
		if err != nil {
			return surface.SayError(err)
		}
		l.Merge(kept)
		s.book.TakeIn(nil) // one letter each; the list is kept again with the next change
		s.refresh()
		return surface.Intent{Marked: true}
	})
	return todo
}

func (s *Surface) keepAll(all []*bookmark.List) surface.Intent {
	todo := surface.Intent{Marked: true}
	for _, l := range all {
		todo = todo.And(s.keep(l))
	}
	return todo
}

// Touched gives what keeps the lists once more that were changed: a command that keeps one may still
// be under way when the program ends.
func (s *Surface) Touched() (keep func()) {
	var all []*bookmark.List
	for _, l := range s.book.Lists {
		if s.touched[l] {
			all = append(all, l.Clone())
		}
	}
	project := s.project
	return func() {
		for _, l := range all {
			_ = project.KeepBookmarks(l) // there is no screen any more to say it on
		}
	}
}

// Holding is how many bookmarks are in each file and folder.
func (s *Surface) Holding() map[string]int { return s.book.Holding() }

// All are all bookmarks.
func (s *Surface) All() []bookmark.Spot { return s.book.All() }

// Count says how many bookmarks there are; "" if there are none.
func (s *Surface) Count() string {
	n := s.book.Count()
	if n == 0 {
		return ""
	}
	return sheet.Count(n, "bookmark", "bookmarks")
}

// Margin calls mark with each line of a file that has a bookmark, and with its letter or "".
func (s *Surface) Margin(path string, mark func(line int, letter string)) {
	for _, l := range s.book.Lists {
		for i := range l.Marks {
			if k := &l.Marks[i]; !k.IsRemoved() && k.IsOn(place.Place{Path: path, Line: k.Line}) {
				mark(k.Line, k.Letter)
			}
		}
	}
}

// Moved has the bookmarks follow a file or folder that was renamed.
func (s *Surface) Moved(from, to string) (todo surface.Intent) {
	for _, l := range s.book.Lists {
		if l.Moved(from, to) {
			todo = todo.And(s.keep(l))
		}
	}
	return todo
}

// show shows the bookmarks, or the lists of them.
func (s *Surface) show(choose bool) surface.Intent {
	if len(s.book.Lists) == 0 {
		// By now another program may have made some.
		return surface.Say("there is no bookmark yet: {bookmark} puts one on this line, {bookmark-letter} and a letter one to go to at once").And(surface.Begin(s.others()))
	}
	s.open = true
	s.sheet.Open(&s.book, choose, s.at, s.Height)
	s.colors.Forget()
	return surface.Intent{Open: s, Cmd: tea.Batch(s.locate(), s.color(), s.others())}.And(s.selected())
}

// refresh brings the sheet up to date, if it is open.
func (s *Surface) refresh() {
	if s.open {
		s.sheet.Refresh()
	}
}

func (s *Surface) color() tea.Cmd {
	var all []place.Place
	for _, spot := range s.book.All() {
		all = append(all, spot.Mark().Place())
	}
	return s.colors.Find(all)
}

// locate finds out where the bookmarks of all lists are by now.
func (s *Surface) locate() tea.Cmd {
	var all, found []*bookmark.List
	for _, l := range s.book.Lists {
		all, found = append(all, l), append(found, l.Clone())
	}
	if len(all) == 0 {
		return nil
	}
	project := s.project
	return surface.Ask(s.asker, func(ctx context.Context) bool {
		for _, l := range found {
			project.LocateBookmarks(ctx, l)
		}
		return ctx.Err() == nil
	}, func(whole bool) surface.Intent {
		if !whole {
			return surface.Intent{}
		}
		todo := surface.Intent{Marked: true}
		for i, l := range all {
			if l.Located(found[i]) {
				todo = todo.And(s.keep(l))
			}
		}
		if s.open {
			s.refresh()
			todo = todo.And(s.selected()).And(surface.Begin(s.color()))
		}
		return todo
	})
}

// selected shows the chosen bookmark beneath.
func (s *Surface) selected() surface.Intent {
	spot, ok := s.sheet.Chosen()
	if !ok || spot.Mark().Kind == bookmark.Folder || spot.Mark().Fate == place.Gone {
		return surface.LookBack()
	}
	return surface.Look(visit(spot.Mark()))
}

// visit goes to a bookmark.
func visit(k *bookmark.Mark) surface.Visit {
	if k.Kind == bookmark.File {
		return surface.Visit{Path: k.Path}
	}
	return surface.Visit{Path: k.Path, Line: k.Line, Col: k.Col, Symbol: k.What}
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	e := s.sheet.Key(msg)
	switch e.Kind {
	case Closed:
		return surface.Close()
	case Selected:
		return s.selected()
	case Said:
		return surface.Say("%s", e.Words)
	case Taken:
		how := "bookmark: " + e.Spot.List.Name
		if l := e.Spot.Mark().Letter; l != "" {
			how = "bookmark " + l
		}
		return surface.Intent{Leave: true}.And(s.goTo(e.Spot, how))
	case Removed:
		todo := s.remove(e.Spot)
		s.refresh()
		return todo.And(s.selected())
	case Undone:
		todo := s.undo()
		s.refresh()
		return todo.And(s.selected())
	case Changed:
		if e.Done {
			return surface.Say("the note is written down").And(s.keep(e.Lists[0])).And(surface.Close())
		}
		s.refresh()
		return s.keepAll(e.Lists).And(s.selected())
	case Dropped:
		return s.drop(e.Lists[0])
	case Shared:
		return s.share(e.Lists[0], e.Over)
	case Exported:
		return s.walks.Export(e.Words, s.walk(e.Lists[0]))
	case Guided:
		return surface.Close().And(s.walks.Start(s.walk(e.Lists[0])))
	}
	return surface.Intent{}
}

// walk makes a guided walk of a list.
func (s *Surface) walk(l *bookmark.List) func(ctx context.Context) *walk.Walk {
	project, kept := s.project, l.Clone()
	return func(ctx context.Context) *walk.Walk { return project.WalkOfBookmarks(ctx, kept) }
}

// drop forgets a list.
func (s *Surface) drop(l *bookmark.List) surface.Intent {
	s.book.Drop(l)
	project := s.project
	todo := surface.Say("the list %q is forgotten", l.Name)
	todo.Marked = true
	todo.Cmd = surface.Keep(s.keeping, l.ID, func() error { return project.RemoveBookmarks(l) }, surface.SayError)
	if len(s.book.Lists) == 0 {
		return todo.And(surface.Close())
	}
	s.refresh()
	return todo.And(s.selected())
}

// share writes a list where everybody who works on the project has it.
func (s *Surface) share(l *bookmark.List, over bool) surface.Intent {
	type shared struct {
		file string
		err  error
		readLists
	}
	project, kept := s.project, l.Clone()
	return surface.Begin(surface.Do(s.keeping, func(context.Context) (out shared) {
		if out.file, out.err = project.ShareBookmarks(kept, over); out.err == nil {
			out.all, out.readLists.err = project.Bookmarks()
		}
		return out
	}, func(out shared) surface.Intent {
		switch {
		case errors.Is(out.err, lists.ErrNotWritten) && s.open:
			s.sheet.AskOver()
			return surface.Intent{}
		case out.err != nil:
			return surface.SayError(out.err)
		}
		return surface.Say("the list is written to %s, without its letters; committed, it is there for everybody", out.file).And(s.reread(out.readLists))
	}))
}

// reread takes the shared lists anew.
func (s *Surface) reread(read readLists) surface.Intent {
	b := &s.book
	for _, l := range append([]*bookmark.List{}, b.Lists...) {
		if l.Shared != "" {
			b.Drop(l)
		}
	}
	for _, l := range read.all {
		if l.Shared != "" {
			b.Lists = append(b.Lists, l)
		}
	}
	s.refresh()
	return surface.Intent{Marked: true, Cmd: s.locate()}.And(surface.SayError(read.err))
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.sheet.Resize(height)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.sheet.Rows(s.Width, p) }

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) { return s.sheet.Cursor(s.Width), 0, true }

// Closed implements surface.Surface.
func (s *Surface) Closed() {
	s.open = false
	s.colors.Cancel()
}

// located are the bookmarks of a file with where they are now.
type located struct {
	of         *Surface
	all, found []*bookmark.List
}

// In implements surface.Keeper.
func (s *Surface) In(path string) surface.Kept {
	in := &located{of: s}
	for _, l := range s.book.Lists {
		found := &bookmark.List{}
		for i := range l.Marks {
			if k := &l.Marks[i]; k.Path == path && !k.IsRemoved() && (k.Kind == bookmark.Line || k.Kind == bookmark.Symbol) {
				found.Marks = append(found.Marks, *k)
			}
		}
		if len(found.Marks) > 0 {
			in.all, in.found = append(in.all, l), append(in.found, found)
		}
	}
	if len(in.all) == 0 {
		return nil
	}
	return in
}

// Locate implements surface.Kept.
func (l *located) Locate(_ context.Context, was *text.Document, f *codebase.File) {
	for _, found := range l.found {
		all := make([]*bookmark.Mark, len(found.Marks))
		for i := range found.Marks {
			all[i] = &found.Marks[i]
		}
		if was != nil {
			lists.FollowIn(was, f, all)
		} else {
			lists.LocateIn(f, all)
		}
	}
}

// Located implements surface.Kept.
func (l *located) Located() (todo surface.Intent) {
	for i, list := range l.all {
		if list.Located(l.found[i]) {
			todo = todo.And(l.of.keep(list))
		}
	}
	return todo
}
