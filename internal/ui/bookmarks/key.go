package bookmarks

import (
	"strings"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/picker"
)

// Key takes a key or what was pasted.
func (m *Model) Key(msg tea.Msg) Event {
	k, isKey := msg.(tea.KeyPressMsg)
	if m.asking != none {
		return m.answer(msg, k, isKey)
	}
	if isKey {
		if e, taken := m.command(k.String()); taken {
			return e
		}
	}
	switch m.picker.Update(msg) {
	case picker.Selected:
		return Event{Kind: Selected}
	case picker.Closed:
		return m.closed()
	case picker.Taken:
		return m.taken()
	}
	return Event{}
}

// closed leaves the filter, the page or the sheet.
func (m *Model) closed() Event {
	switch {
	case m.page == target:
		return m.show(marks)
	case m.filtering && m.page == marks:
		m.filtering = false
		m.picker.Clear()
		m.Refresh()
		return Event{Kind: Selected}
	}
	return Event{Kind: Closed}
}

// taken acts on what Enter chose.
func (m *Model) taken() Event {
	if m.page == marks {
		s, _ := m.Chosen()
		return Event{Kind: Taken, Spot: s}
	}
	l, _ := m.chosenList()
	if m.page == target {
		from := m.moving.List
		m.book.MoveTo(m.moving, l)
		m.show(marks)
		return Event{Kind: Changed, Lists: []*bookmark.List{l, from}}
	}
	if l.Shared != "" {
		m.show(marks)
		return Event{Kind: Selected}
	}
	m.book.Choose(l)
	m.show(marks)
	return Event{Kind: Changed, Lists: []*bookmark.List{l}}
}

// show turns to another page.
func (m *Model) show(p page) Event {
	m.page, m.filtering = p, false
	m.fill()
	m.picker.Open(m.list(), 0, m.height-1)
	return Event{Kind: Selected}
}

// isLetter says whether a key can be that of a bookmark.
func isLetter(k string) bool {
	return len(k) == 1 && (k[0] >= 'a' && k[0] <= 'z' || k[0] >= '0' && k[0] <= '9')
}

// command acts on the keys that do something with what is chosen; what it does not take
// is typed.
func (m *Model) command(k string) (e Event, taken bool) {
	if m.page == marks && !m.filtering {
		switch {
		case keymap.Is(k, on.Filter):
			m.filtering = true
			m.Refresh()
			return Event{}, true
		case isLetter(k):
			if s, ok := m.book.Lettered(k); ok {
				return Event{Kind: Taken, Spot: s}, true
			}
			return Event{Kind: Said, Words: "no bookmark is " + k + "; " + label(on.Letter) + " gives the chosen one a letter, / narrows the list by typing"}, true
		case keymap.Is(k, on.Close):
			return Event{Kind: Closed}, true
		case keymap.Is(k, on.Unletter), len([]rune(k)) == 1:
			return Event{}, true
		}
	}
	if keymap.Is(k, on.Lists) {
		if m.page == marks {
			return m.show(listed), true
		}
		return m.show(marks), true
	}
	if m.page == marks {
		return m.onMark(k)
	}
	return m.onList(k)
}

// onMark acts on a key for the chosen bookmark.
func (m *Model) onMark(k string) (e Event, taken bool) {
	if keymap.Is(k, on.Undo) {
		return Event{Kind: Undone}, true
	}
	s, ok := m.Chosen()
	if !ok || !strings.HasPrefix(k, "alt+") {
		return Event{}, strings.HasPrefix(k, "alt+")
	}
	if s.List.Shared != "" && keymap.IsAny(k, on.Remove, on.Note, on.Letter, on.Join, on.Up, on.Down, on.ByFile) {
		return Event{Kind: Said, Words: "a shared list is only read; " + label(on.Lists) + " and then " + label(on.Copy) + " copies it to one of your own"}, true
	}
	switch {
	case keymap.Is(k, on.Remove):
		return Event{Kind: Removed, Spot: s}, true
	case keymap.Is(k, on.Note):
		m.ask(note)
	case keymap.Is(k, on.Letter):
		m.ask(letter)
	case keymap.Is(k, on.Join):
		m.moving = s
		m.page = target
		if len(m.listed()) == 0 {
			m.page = marks
			return Event{Kind: Said, Words: "there is no other list; " + label(on.Lists) + " and then " + label(on.Begin) + " begins one"}, true
		}
		m.fill()
		m.picker.Open(m.list(), 0, m.height-1)
	case keymap.Is(k, on.Up), keymap.Is(k, on.Down):
		by := 1
		if keymap.Is(k, on.Up) {
			by = -1
		}
		if s.List.ByFile {
			return Event{Kind: Said, Words: "this list is in the order of the files; " + label(on.ByFile) + " gives it its own again"}, true
		}
		key := s.Mark().Key
		if s.List.Shift(s.Item, by) {
			m.fill()
			for i, o := range m.spots {
				if o.Mark().Key == key {
					m.picker.Set(m.list(), i)
				}
			}
			return Event{Kind: Changed, Lists: []*bookmark.List{s.List}}, true
		}
	case keymap.Is(k, on.ByFile):
		s.List.SetByFile(!s.List.ByFile)
		return Event{Kind: Changed, Lists: []*bookmark.List{s.List}}, true
	case keymap.Is(k, on.Export):
		m.ask(export)
	case keymap.Is(k, on.Guide):
		return Event{Kind: Guided, Lists: []*bookmark.List{s.List}}, true
	}
	return Event{}, true
}

// label is a key as it stands on the keyboard.
func label(b key.Binding) string { return b.Help().Key }

// onList acts on a key for the chosen list.
func (m *Model) onList(k string) (e Event, taken bool) {
	if !strings.HasPrefix(k, "alt+") {
		return Event{}, false
	}
	if keymap.Is(k, on.Begin) {
		m.ask(begin)
		return Event{}, true
	}
	l, ok := m.chosenList()
	if !ok || m.page == target {
		return Event{}, true
	}
	if l.Shared != "" && keymap.IsAny(k, on.Rename, on.Remove, on.Join, on.Share) {
		return Event{Kind: Said, Words: "a shared list is only read; its file is " + l.Shared}, true
	}
	switch {
	case keymap.Is(k, on.Rename):
		m.ask(rename)
	case keymap.Is(k, on.Remove):
		m.ask(drop)
	case keymap.Is(k, on.Export):
		m.ask(export)
	case keymap.Is(k, on.Share):
		return Event{Kind: Shared, Lists: []*bookmark.List{l}}, true
	case keymap.Is(k, on.Guide):
		return Event{Kind: Guided, Lists: []*bookmark.List{l}}, true
	case keymap.Is(k, on.Join):
		return m.join(l), true
	case keymap.Is(k, on.Copy):
		return m.copyOf(l), true
	}
	return Event{}, true
}

// join puts all of a list into the present one.
func (m *Model) join(l *bookmark.List) Event {
	to := m.book.Present()
	if to == nil || to == l {
		return Event{Kind: Said, Words: "this is the present list; Enter on another makes that the one to which this can be joined"}
	}
	m.book.Join(l, to)
	m.Refresh()
	return Event{Kind: Changed, Lists: []*bookmark.List{to, l}}
}

// copyOf makes a list of one's own of another.
func (m *Model) copyOf(l *bookmark.List) Event {
	own := bookmark.NewList(l.Name)
	for _, i := range l.Shown() {
		k := l.Marks[i]
		k.Key, k.Letter = "", ""
		own.Add(k)
	}
	m.book.Lists = append(m.book.Lists, own)
	m.Refresh()
	return Event{Kind: Changed, Lists: []*bookmark.List{own}}
}

// answer takes a key while something is asked.
func (m *Model) answer(msg tea.Msg, k tea.KeyPressMsg, isKey bool) Event {
	if isKey && keymap.Is(k.String(), keymap.Ends.Close) {
		m.asking = none
		if m.once {
			return Event{Kind: Closed}
		}
		return Event{}
	}
	s, marked := m.Chosen()
	l, _ := m.chosenList()
	switch what := m.asking; {
	case what == drop:
		if isKey && keymap.Is(k.String(), on.Remove) {
			m.asking = none
			return Event{Kind: Dropped, Lists: []*bookmark.List{l}}
		}
		return Event{}
	case what == share:
		if isKey && keymap.Is(k.String(), on.Share) {
			m.asking = none
			return Event{Kind: Shared, Lists: []*bookmark.List{l}, Over: true}
		}
		return Event{}
	case what == letter && isKey:
		return m.setLetter(s, k.String())
	case isKey && keymap.Is(k.String(), keymap.Ends.Take):
		m.asking = none
		return m.answered(what, s, marked, l, strings.TrimSpace(m.input.Value()))
	}
	m.input.Edit(msg)
	return Event{}
}

// setLetter gives the chosen bookmark a letter, or takes it off.
func (m *Model) setLetter(s bookmark.Spot, k string) Event {
	if keymap.Is(k, on.Unletter) {
		k = ""
	} else if !isLetter(k) {
		return Event{}
	}
	m.asking = none
	changed := []*bookmark.List{s.List}
	if other, ok := m.book.Lettered(k); ok && other != s {
		other.List.SetLetter(other.Item, "")
		changed = append(changed, other.List)
	}
	s.List.SetLetter(s.Item, k)
	return Event{Kind: Changed, Lists: changed}
}

// answered acts on what was typed.
func (m *Model) answered(what question, s bookmark.Spot, marked bool, l *bookmark.List, words string) Event {
	switch {
	case what == note:
		s.List.SetNote(s.Item, words)
		return Event{Kind: Changed, Lists: []*bookmark.List{s.List}, Done: m.once}
	case words == "":
		return Event{}
	case what == begin:
		fresh := bookmark.NewList(words)
		m.book.Lists = append(m.book.Lists, fresh)
		if m.page == target {
			from := m.moving.List
			m.book.MoveTo(m.moving, fresh)
			m.show(marks)
			return Event{Kind: Changed, Lists: []*bookmark.List{fresh, from}}
		}
		m.Refresh()
		return Event{Kind: Changed, Lists: []*bookmark.List{fresh}}
	case what == rename:
		l.Rename(words)
		m.Refresh()
		return Event{Kind: Changed, Lists: []*bookmark.List{l}}
	case what == export:
		if marked && m.page == marks {
			l = s.List
		}
		return Event{Kind: Exported, Words: words, Lists: []*bookmark.List{l}}
	}
	return Event{}
}

// AskOver asks whether the file of a shared list may be written over.
func (m *Model) AskOver() { m.asking = share }
