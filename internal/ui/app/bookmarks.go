package app

import (
	"context"
	"path"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/ui/bookmarks"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// bookmarking is what the program knows of the bookmarks.
type bookmarking struct {
	book  bookmark.Book
	sheet *bookmarks.Model
	// touched are the lists that were changed.
	touched map[*bookmark.List]bool
	// at is the key of the bookmark one was at last.
	at string
	// lettering says that a letter for the line is waited for; asked is one that is taken,
	// which pressed once more takes it.
	lettering bool
	asked     string
}

// bookmarksMsg brings the bookmarks that were kept.
type bookmarksMsg struct {
	lists []*bookmark.List
	err   error
}

func (m *Model) loadBookmarks() tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		lists, err := ws.Bookmarks()
		for _, l := range lists {
			ws.LocateBookmarks(context.Background(), l)
		}
		return bookmarksMsg{lists, err}
	}
}

// bookmarksLoaded takes over the lists that were kept. One may have been begun here meanwhile, and
// have been read, too.
func (m *Model) bookmarksLoaded(msg bookmarksMsg) tea.Cmd {
	var cmds []tea.Cmd
	for _, l := range m.marks.book.TakeIn(msg.lists) {
		cmds = append(cmds, m.keepMarks(l))
	}
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.showMarks()
	return tea.Batch(cmds...)
}

// othersMarksMsg brings the lists of bookmarks as they are on disk now.
type othersMarksMsg []*bookmark.List

// othersMarks looks for what other programs on this project have done to the bookmarks.
func (m *Model) othersMarks() tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		lists, _ := ws.Bookmarks() // what is wrong with them was said when they were read first
		return othersMarksMsg(lists)
	}
}

func (m *Model) othersMarksFound(msg othersMarksMsg) tea.Cmd {
	var cmds []tea.Cmd
	for _, l := range m.marks.book.TakeIn(msg) {
		cmds = append(cmds, m.keepMarks(l))
	}
	m.located = nil // those of others are to be found in the files that are shown
	m.showMarks()
	m.showBookmarks()
	return tea.Batch(append(cmds, m.locateShown())...)
}

// keepMarks keeps a list as it is now, and takes over what another program did to it.
func (m *Model) keepMarks(l *bookmark.List) tea.Cmd {
	m.showMarks()
	if l == nil || l.Shared != "" {
		return nil
	}
	if m.marks.touched == nil {
		m.marks.touched = map[*bookmark.List]bool{}
	}
	m.marks.touched[l] = true
	ws, kept := m.ws, l.Clone()
	return func() tea.Msg {
		if err := ws.KeepBookmarks(kept); err != nil {
			return noteMsg(err.Error())
		}
		return marksKeptMsg{l, kept}
	}
}

// marksKeptMsg brings a list as it is on disk now.
type marksKeptMsg struct{ list, kept *bookmark.List }

func (m *Model) marksKept(msg marksKeptMsg) {
	msg.list.Merge(msg.kept)
	m.marks.book.TakeIn(nil) // one letter each; the list is kept again with the next change
	m.showMarks()
	m.showBookmarks()
}

// onBookmarks carries out an action on bookmarks; ok is false for any other.
func (m *Model) onBookmarks(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.Bookmark:
		return m.toggleBookmark(bookmark.Line), true
	case keymap.BookmarkSymbol:
		return m.toggleBookmark(bookmark.Symbol), true
	case keymap.BookmarkFile:
		return m.toggleBookmark(bookmark.File), true
	case keymap.BookmarkFolder:
		return m.toggleBookmark(bookmark.Folder), true
	case keymap.BookmarkLetter:
		m.waitForLetter()
		return m.othersMarks(), true
	case keymap.Bookmarks, keymap.BookmarkLists:
		return m.openBookmarks(a == keymap.BookmarkLists), true
	case keymap.BookmarkNext, keymap.BookmarkPrevious:
		return m.nextBookmark(a == keymap.BookmarkNext), true
	case keymap.BookmarkNote:
		return m.noteBookmark(), true
	case keymap.BookmarkUndo:
		return m.undoBookmark(), true
	}
	return nil, false
}

// markHere makes a bookmark on what is at the caret; ok is false if there is nothing.
func (m *Model) markHere(kind bookmark.Kind) (k bookmark.Mark, ok bool) {
	p := m.code.State().Place
	f := m.code.File()
	switch {
	case kind == bookmark.Folder && p.Path != "":
		return m.ws.Bookmark(nil, place.Place{Path: path.Dir(p.Path)}, kind), true
	case kind == bookmark.File && p.Path != "":
		return m.ws.Bookmark(nil, p, kind), true
	case f == nil || f.Text.Binary() || !f.Text.Whole():
		m.say("there is no line here to put a bookmark on")
		return k, false
	}
	k = m.ws.Bookmark(f, p, kind)
	if kind == bookmark.Symbol && k.What == "" {
		m.say("the caret is in no symbol; m puts a bookmark on the line")
		return k, false
	}
	return k, true
}

// toggleBookmark puts a bookmark on the line, the symbol, the file or the folder one is
// in, or takes it away.
func (m *Model) toggleBookmark(kind bookmark.Kind) tea.Cmd {
	k, ok := m.markHere(kind)
	if !ok {
		return nil
	}
	for _, s := range m.marks.book.All() {
		o := s.Mark()
		same := o.Kind == kind && o.Path == k.Path && (kind == bookmark.File || kind == bookmark.Folder || o.Line == k.Line)
		if kind == bookmark.Line && o.IsOn(k.Place()) {
			same = true
		}
		if same && s.List.Shared == "" {
			return m.removeBookmark(s)
		}
	}
	l, _ := m.marks.book.Begin()
	added := l.Add(k)
	m.marks.at = added.Key
	m.say("a bookmark on %s is in the list %q now; ; shows them", aboutMark(added), l.Name)
	return m.keepMarks(l)
}

// aboutMark says in a few words what a bookmark is on.
func aboutMark(k *bookmark.Mark) string {
	switch k.Kind {
	case bookmark.Folder:
		return "the folder " + k.Path
	case bookmark.File:
		return shortName(k.Path)
	case bookmark.Symbol:
		return k.What
	}
	at := shortName(k.Path) + " " + strconv.Itoa(k.Line)
	if k.What != "" {
		return at + ", " + k.What
	}
	return at
}

func (m *Model) removeBookmark(s bookmark.Spot) tea.Cmd {
	m.marks.book.Remove(s)
	key := "B u"
	if m.overlay == bookmarksOverlay {
		key = "Alt+U"
	}
	note := ""
	if s.Mark().Note != "" {
		note = " and its note"
	}
	m.say("the bookmark on %s%s is taken away; %s brings it back", aboutMark(s.Mark()), note, key)
	return m.keepMarks(s.List)
}

func (m *Model) undoBookmark() tea.Cmd {
	s, ok := m.marks.book.Undo()
	if !ok {
		m.say("no bookmark was taken away that could be brought back")
		return nil
	}
	m.say("the bookmark on %s is back in the list %q", aboutMark(s.Mark()), s.List.Name)
	return m.keepMarks(s.List)
}

// waitForLetter waits for the letter of the line.
func (m *Model) waitForLetter() {
	if f := m.code.File(); f == nil || f.Text.Binary() || !f.Text.Whole() {
		m.say("there is no line here to give a letter")
		return
	}
	m.marks.lettering, m.marks.asked = true, ""
}

// isLetter says whether a key can be that of a bookmark.
func isLetter(key string) bool {
	return len(key) == 1 && (key[0] >= 'a' && key[0] <= 'z' || key[0] >= '0' && key[0] <= '9')
}

// isDigit says whether a key goes to a bookmark at once.
func isDigit(key string) bool { return len(key) == 1 && key[0] >= '0' && key[0] <= '9' }

// letterKey takes the letter for the line. One that is taken is only moved here when it is
// pressed once more.
func (m *Model) letterKey(letter string) tea.Cmd {
	asked := m.marks.asked
	m.marks.lettering, m.marks.asked = false, ""
	if letter == "esc" {
		return nil
	}
	if !isLetter(letter) {
		m.say("%s cannot be that of a bookmark; the letters a to z and the digits can", keymap.Label(letter))
		return nil
	}
	k, ok := m.markHere(bookmark.Line)
	if !ok {
		return nil
	}
	other, taken := m.marks.book.Lettered(letter)
	if taken && other.Mark().IsOn(k.Place()) {
		m.say("%s is this line already", letter)
		return nil
	}
	if taken && asked != letter {
		m.marks.lettering, m.marks.asked = true, letter
		return nil
	}
	var cmds []tea.Cmd
	if taken {
		other.List.SetLetter(other.Item, "")
		cmds = append(cmds, m.keepMarks(other.List))
	}
	for _, s := range m.marks.book.At(k.Place()) {
		if s.List.Shared == "" {
			s.List.SetLetter(s.Item, letter)
			m.marks.at = s.Mark().Key
			m.say("%s is %s now: ; %s goes there", letter, aboutMark(s.Mark()), letter)
			return tea.Batch(append(cmds, m.keepMarks(s.List))...)
		}
	}
	l, _ := m.marks.book.Begin()
	k.Letter = letter
	added := l.Add(k)
	m.marks.at = added.Key
	how := "; " + letter
	if isDigit(letter) {
		how = letter
	}
	m.say("%s is %s now: %s goes there", letter, aboutMark(added), how)
	return tea.Batch(append(cmds, m.keepMarks(l))...)
}

// letterWords are the question for a letter.
func (m *Model) letterWords() string {
	if l := m.marks.asked; l != "" {
		if s, ok := m.marks.book.Lettered(l); ok {
			return l + " is " + aboutMark(s.Mark()) + "; once more moves it to this line, Esc leaves it there"
		}
	}
	words := "a letter or a digit for this line"
	var taken []string
	for _, s := range m.marks.book.All() {
		if k := s.Mark(); k.Letter != "" {
			taken = append(taken, k.Letter+" "+shortName(k.Path)+" "+strconv.Itoa(k.Line))
		}
	}
	if len(taken) > 0 {
		words += "   taken: " + strings.Join(taken, ", ")
	}
	return words
}

// goToLetter goes to the bookmark of a letter or digit.
func (m *Model) goToLetter(letter string) tea.Cmd {
	s, ok := m.marks.book.Lettered(letter)
	if !ok {
		m.say("no bookmark is %s; M %s makes this line the one", letter, letter)
		return nil
	}
	return m.goToBookmark(s, "bookmark "+letter, nil)
}

// goToBookmark goes to a bookmark, wherever that is by now; from is what was on the screen
// before it was looked at.
func (m *Model) goToBookmark(s bookmark.Spot, how string, from *standing) tea.Cmd {
	m.marks.at = s.Mark().Key
	if s.Mark().Kind == bookmark.Folder {
		return m.goToFolder(s.Mark())
	}
	m.opens++
	m.going = true
	number, ws, k := m.opens, m.ws, *s.Mark()
	return func() tea.Msg {
		found := &bookmark.List{Marks: []bookmark.Mark{k}}
		ws.LocateBookmarks(context.Background(), found)
		return bookmarkFoundMsg{number, s.List, found, k.Place(), how, from}
	}
}

// bookmarkFoundMsg says where a bookmark is now to which one goes.
type bookmarkFoundMsg struct {
	number int
	list   *bookmark.List
	found  *bookmark.List // with that one alone
	was    place.Place    // where it was when it was last found
	how    string
	from   *standing
}

func (m *Model) bookmarkFound(msg bookmarkFoundMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	k := &msg.found.Marks[0]
	var keep tea.Cmd
	if msg.list.Located(msg.found) {
		keep = m.keepMarks(msg.list)
	}
	if k.Fate == place.Gone {
		words := "the bookmark on " + aboutMark(k) + " is gone"
		if k.Text != "" {
			words += ": " + k.Text
		}
		m.say("%s. It stays in the list, for it may come back, as with another branch", words)
		return m.arrived(keep)
	}
	o := toMark(k)
	o.how, o.from = msg.how, msg.from
	switch {
	case k.Fate == place.Changed:
		o.after = "this line has changed since: " + msg.found.Marks[0].Text
	case k.Note != "":
		o.after = k.Note
	case k.Fate == place.Moved && msg.was.Path != k.Path:
		o.after = "it was in " + msg.was.Path + ", which is " + k.Path + " now"
	case k.Fate == place.Moved && msg.was.Line != k.Line:
		o.after = "its line has moved here from line " + strconv.Itoa(msg.was.Line)
	}
	return tea.Batch(keep, m.open(o))
}

// toMark is the opening that goes to a bookmark.
func toMark(k *bookmark.Mark) opening {
	if k.Kind == bookmark.File {
		return opening{path: k.Path}
	}
	return opening{path: k.Path, line: k.Line, col: k.Col, symbol: k.What}
}

// goToFolder shows a folder among the folders.
func (m *Model) goToFolder(k *bookmark.Mark) tea.Cmd {
	if !m.ws.IsFolder(k.Path) {
		m.say("the folder %s is gone", k.Path)
		return m.arrived(nil)
	}
	return m.openTreeAt(k.Path)
}

// nextBookmark goes to the next bookmark of the present list, or the one before.
func (m *Model) nextBookmark(forward bool) tea.Cmd {
	l := m.marks.book.Present()
	if l == nil {
		m.say("there is no bookmark yet; m puts one on this line")
		return nil
	}
	i, round, ok := l.Next(m.marks.at, m.code.State().Place, forward)
	if !ok {
		m.say("no bookmark is left in the list %q; m puts one on this line", l.Name)
		return nil
	}
	how := "bookmark: " + l.Name
	cmd := m.goToBookmark(bookmark.Spot{List: l, Item: i}, how, nil)
	if round {
		m.say("from the other end of the list %q again", l.Name)
	}
	return cmd
}

// noteBookmark writes a note on the bookmark of this line.
func (m *Model) noteBookmark() tea.Cmd {
	for _, s := range m.marks.book.At(m.code.State().Place) {
		if s.List.Shared == "" {
			cmd := m.openBookmarks(false)
			m.marks.sheet.Note(s)
			return tea.Batch(cmd, m.previewMark())
		}
	}
	m.say("there is no bookmark on this line to write a note on; m puts one here")
	return nil
}

// markCount says how many bookmarks there are, for the top line.
func (m *Model) markCount() string {
	n := m.marks.book.Count()
	if n == 0 {
		return ""
	}
	return sheet.Count(n, "bookmark", "bookmarks")
}

// markedMoved has the bookmarks and sweeps follow a file or folder that was renamed.
func (m *Model) markedMoved(from, to string) tea.Cmd {
	var cmds []tea.Cmd
	for _, l := range m.marks.book.Lists {
		if l.Moved(from, to) {
			cmds = append(cmds, m.keepMarks(l))
		}
	}
	for _, s := range m.sweeps {
		if s.Moved(from, to) {
			cmds = append(cmds, m.keepSweep(s))
		}
	}
	return tea.Batch(cmds...)
}
