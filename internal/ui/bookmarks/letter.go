package bookmarks

import (
	"path"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
)

// letterLine asks for the letter of a line, in the line above the strip.
type letterLine struct {
	surface.Size
	marks *Surface
	asked string // a letter that is taken, which pressed once more takes it
}

// askLetter waits for the letter of the line.
func (s *Surface) askLetter() surface.Intent {
	if f := s.host.Here().File; f == nil || f.Text.Binary() || !f.Text.Whole() {
		return surface.Say("there is no line here to give a letter").And(surface.Begin(s.others()))
	}
	s.asking.asked = ""
	return surface.Intent{Open: s.asking, Cmd: s.others()}
}

// Form implements surface.Surface.
func (l *letterLine) Form() surface.Form { return surface.Line }

// Update implements surface.Surface: it takes the letter for the line. One that is taken is only
// moved here when it is pressed once more.
func (l *letterLine) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return surface.Intent{}
	}
	key := k.String()
	switch other, taken := l.marks.book.Lettered(key); {
	case keymap.Is(key, keymap.Ends.Close):
		return surface.Close()
	case isLetter(key) && taken && l.asked != key && l.marks.wouldMove(other):
		l.asked = key
		return surface.Intent{}
	}
	return surface.Close().And(l.marks.giveLetter(key))
}

// wouldMove says whether a letter would come to this line from another one.
func (s *Surface) wouldMove(from bookmark.Spot) bool {
	k, why := s.markHere(bookmark.Line)
	return why == "" && !from.Mark().IsOn(k.Place())
}

// giveLetter gives a letter to the line.
func (s *Surface) giveLetter(key string) (todo surface.Intent) {
	if !isLetter(key) {
		return surface.Say("%s cannot be the letter of a bookmark; the letters a to z and the digits can", keymap.Label(key))
	}
	k, why := s.markHere(bookmark.Line)
	if why != "" {
		return surface.Say("%s", why)
	}
	if other, taken := s.book.Lettered(key); taken {
		if other.Mark().IsOn(k.Place()) {
			return surface.Say("%s is this line already", key)
		}
		other.List.SetLetter(other.Item, "")
		todo = s.keep(other.List)
	}
	for _, spot := range s.book.At(k.Place()) {
		if spot.List.Shared == "" {
			spot.List.SetLetter(spot.Item, key)
			s.at = spot.Mark().Key
			return todo.And(surface.Say("%s is %s now: ; %s goes there", key, about(spot.Mark()), key)).And(s.keep(spot.List))
		}
	}
	l, _ := s.book.Begin()
	k.Letter = key
	added := l.Add(k)
	s.at = added.Key
	how := "; " + key
	if key[0] >= '0' && key[0] <= '9' {
		how = key
	}
	return todo.And(surface.Say("%s is %s now: %s goes there", key, about(added), how)).And(s.keep(l))
}

// words are the question.
func (l *letterLine) words() string {
	if l.asked != "" {
		if s, ok := l.marks.book.Lettered(l.asked); ok {
			return l.asked + " is " + about(s.Mark()) + "; once more moves it to this line, Esc leaves it there"
		}
	}
	words := "a letter or a digit for this line"
	var taken []string
	for _, s := range l.marks.book.All() {
		if k := s.Mark(); k.Letter != "" {
			taken = append(taken, k.Letter+" "+path.Base(k.Path)+" "+strconv.Itoa(k.Line))
		}
	}
	if len(taken) > 0 {
		words += "   taken: " + strings.Join(taken, ", ")
	}
	return words
}

// Rows implements surface.Surface.
func (l *letterLine) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Text, p.Sheet)
	r := ink.NewRow(l.Width).Put(" M … ", palette.On(p.Here, p.Sheet).Strong())
	return []string{r.Put(ink.Cut(l.words(), r.Left()-11), quiet).End("Esc none ", quiet, quiet).String(quiet)}
}
