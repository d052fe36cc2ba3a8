package app

import (
	"context"
	"errors"
	"path"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/bookmarks"
	"rooktrail/internal/ui/code"
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

func (m *Model) bookmarksLoaded(msg bookmarksMsg) {
	m.marks.book.Lists = append(m.marks.book.Lists, msg.lists...)
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.showMarks()
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
	m.showMarks()
	m.showBookmarks()
}

// locatedMarks are the bookmarks of a file with where they are now.
type locatedMarks struct {
	lists, found []*bookmark.List
}

func (l *locatedMarks) none() bool { return len(l.lists) == 0 }

// marksIn are copies of the bookmarks in a file, by their lists.
func (m *Model) marksIn(path string) (in locatedMarks) {
	for _, l := range m.marks.book.Lists {
		found := &bookmark.List{}
		for i := range l.Marks {
			if k := &l.Marks[i]; k.Path == path && !k.IsRemoved() && (k.Kind == bookmark.Line || k.Kind == bookmark.Symbol) {
				found.Marks = append(found.Marks, *k)
			}
		}
		if len(found.Marks) > 0 {
			in.lists, in.found = append(in.lists, l), append(in.found, found)
		}
	}
	return in
}

// locate finds them in their file.
func (l *locatedMarks) locate(f *workspace.File) {
	for _, found := range l.found {
		all := make([]*bookmark.Mark, len(found.Marks))
		for i := range found.Marks {
			all[i] = &found.Marks[i]
		}
		workspace.LocateIn(f, all)
	}
}

// marksLocated takes over where bookmarks are now, and keeps the lists that changed.
func (m *Model) marksLocated(in locatedMarks) tea.Cmd {
	var cmds []tea.Cmd
	for i, l := range in.lists {
		if l.Located(in.found[i]) {
			cmds = append(cmds, m.keepMarks(l))
		}
	}
	return tea.Batch(cmds...)
}

// showMarks puts what is marked into the margins of the code.
func (m *Model) showMarks() {
	all := []*side{}
	for _, s := range m.sides {
		all = append(all, s)
	}
	for _, l := range m.leaves.stack {
		all = append(all, l.side)
	}
	for _, s := range all {
		if p := s.code.Path(); p != "" {
			s.code.Mark(m.marginOf(p))
		}
	}
}

// marginOf is what is marked in a file, by its lines.
func (m *Model) marginOf(path string) map[int]code.Margin {
	marks := map[int]code.Margin{}
	for _, l := range m.marks.book.Lists {
		for i := range l.Marks {
			k := &l.Marks[i]
			if k.IsRemoved() || !k.IsOn(place.Place{Path: path, Line: k.Line}) {
				continue
			}
			at := marks[k.Line]
			at.Bookmark = true
			if k.Letter != "" {
				at.Letter = k.Letter
			}
			marks[k.Line] = at
		}
	}
	for _, s := range m.trail.In(path) {
		if !s.Edited.IsZero() && s.Fate != place.Gone {
			at := marks[s.View.Place.Line]
			at.Edited = true
			marks[s.View.Place.Line] = at
		}
	}
	return marks
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
		return nil, true
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
	m.say("the bookmark on %s is taken away; B u brings it back", aboutMark(s.Mark()))
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

// openBookmarks shows the bookmarks, or the lists of them.
func (m *Model) openBookmarks(lists bool) tea.Cmd {
	if len(m.marks.book.Lists) == 0 {
		m.say("there is no bookmark yet: m puts one on this line, M and a letter one to go to at once")
		return nil
	}
	m.remember()
	m.overlay = bookmarksOverlay
	m.marks.sheet.Open(&m.marks.book, lists, m.marks.at, m.sheetHeight())
	m.arrange()
	m.lines.spans = nil
	return tea.Batch(m.locateBookmarks(), m.previewMark(), m.colorMarks())
}

// showBookmarks brings the sheet up to date, if it is open.
func (m *Model) showBookmarks() {
	if m.overlay == bookmarksOverlay {
		m.marks.sheet.Refresh()
	}
}

func (m *Model) colorMarks() tea.Cmd {
	var all []place.Place
	for _, s := range m.marks.book.All() {
		all = append(all, s.Mark().Place())
	}
	return m.colorLines(all)
}

// marksFoundMsg brings where the bookmarks of all lists are by now.
type marksFoundMsg struct{ lists, found []*bookmark.List }

func (m *Model) locateBookmarks() tea.Cmd {
	var msg marksFoundMsg
	for _, l := range m.marks.book.Lists {
		msg.lists, msg.found = append(msg.lists, l), append(msg.found, l.Clone())
	}
	if len(msg.lists) == 0 {
		return nil
	}
	ws := m.ws
	return func() tea.Msg {
		for _, l := range msg.found {
			ws.LocateBookmarks(context.Background(), l)
		}
		return msg
	}
}

func (m *Model) marksFound(msg marksFoundMsg) tea.Cmd {
	var cmds []tea.Cmd
	for i, l := range msg.lists {
		if l.Located(msg.found[i]) {
			cmds = append(cmds, m.keepMarks(l))
		}
	}
	m.showMarks()
	if m.overlay == bookmarksOverlay {
		m.showBookmarks()
		cmds = append(cmds, m.previewMark(), m.colorMarks())
	}
	return tea.Batch(cmds...)
}

// previewMark shows the chosen bookmark beneath the sheet.
func (m *Model) previewMark() tea.Cmd {
	s, ok := m.marks.sheet.Chosen()
	if !ok || s.Mark().Kind == bookmark.Folder || s.Mark().Fate == place.Gone {
		return m.showBefore()
	}
	o := toMark(s.Mark())
	o.preview = true
	return m.open(o)
}

// bookmarksUpdate hands a key to the sheet of bookmarks and acts on what came of it.
func (m *Model) bookmarksUpdate(msg tea.Msg) tea.Cmd {
	e := m.marks.sheet.Key(msg)
	switch e.Kind {
	case bookmarks.Closed:
		return m.restore()
	case bookmarks.Selected:
		return m.previewMark()
	case bookmarks.Said:
		m.say("%s", e.Words)
	case bookmarks.Taken:
		from := m.before
		m.closeOverlay()
		how := "bookmark: " + e.Spot.List.Name
		if l := e.Spot.Mark().Letter; l != "" {
			how = "bookmark " + l
		}
		return m.goToBookmark(e.Spot, how, from)
	case bookmarks.Removed:
		cmd := m.removeBookmark(e.Spot)
		m.showBookmarks()
		return tea.Batch(cmd, m.previewMark())
	case bookmarks.Undone:
		cmd := m.undoBookmark()
		m.showBookmarks()
		return tea.Batch(cmd, m.previewMark())
	case bookmarks.Changed:
		if e.Done {
			m.say("the note is written down")
			return tea.Batch(m.keepMarks(e.Lists[0]), m.restore())
		}
		m.showBookmarks()
		var cmds []tea.Cmd
		for _, l := range e.Lists {
			cmds = append(cmds, m.keepMarks(l))
		}
		return tea.Batch(append(cmds, m.previewMark())...)
	case bookmarks.Dropped:
		return m.dropBookmarks(e.Lists[0])
	case bookmarks.Shared:
		return m.shareBookmarks(e.Lists[0], e.Over)
	case bookmarks.Exported:
		return m.exportWalk(e.Words, m.walkOfBookmarks(e.Lists[0]))
	case bookmarks.Guided:
		l := e.Lists[0]
		return tea.Batch(m.restore(), m.startWalk(m.walkOfBookmarks(l)))
	}
	return nil
}

// dropBookmarks forgets a list.
func (m *Model) dropBookmarks(l *bookmark.List) tea.Cmd {
	m.marks.book.Drop(l)
	m.say("the list %q is forgotten", l.Name)
	m.showMarks()
	ws := m.ws
	forget := func() tea.Msg {
		if err := ws.RemoveBookmarks(l); err != nil {
			return noteMsg(err.Error())
		}
		return nil
	}
	if len(m.marks.book.Lists) == 0 {
		return tea.Batch(forget, m.restore())
	}
	m.showBookmarks()
	return tea.Batch(forget, m.previewMark())
}

// sharedMsg says what became of sharing a list.
type sharedMsg struct {
	file string
	err  error
}

func (m *Model) shareBookmarks(l *bookmark.List, over bool) tea.Cmd {
	ws, kept := m.ws, l.Clone()
	return func() tea.Msg {
		file, err := ws.ShareBookmarks(kept, over)
		if err != nil {
			return sharedMsg{file, err}
		}
		return sharedMsg{file: file}
	}
}

func (m *Model) shared(msg sharedMsg) tea.Cmd {
	if errors.Is(msg.err, workspace.ErrNotWritten) && m.overlay == bookmarksOverlay {
		m.marks.sheet.AskOver()
		return nil
	}
	if msg.err != nil {
		m.say("%s", msg.err)
		return nil
	}
	m.say("the list is written to %s, without its letters; committed, it is there for everybody", msg.file)
	ws := m.ws
	return func() tea.Msg {
		lists, err := ws.Bookmarks()
		return rereadMarksMsg{lists, err}
	}
}

// rereadMarksMsg brings the lists anew; of those only the shared ones are taken.
type rereadMarksMsg struct {
	lists []*bookmark.List
	err   error
}

func (m *Model) rereadShared(msg rereadMarksMsg) tea.Cmd {
	b := &m.marks.book
	for _, l := range append([]*bookmark.List{}, b.Lists...) {
		if l.Shared != "" {
			b.Drop(l)
		}
	}
	for _, l := range msg.lists {
		if l.Shared != "" {
			b.Lists = append(b.Lists, l)
		}
	}
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.showMarks()
	m.showBookmarks()
	return m.locateBookmarks()
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
