package reading

import (
	"cmp"
	"context"
	"sort"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Search is the search in the file on the screen, in the line above the strip. What it found stays
// marked when it is closed by Enter, and can be gone through until Esc.
type Search struct {
	surface.Size
	host  Host
	usual func() resume.Text // how text is searched
	asker *surface.Asker

	input  entry.Line
	how    find.Query
	file   *codebase.File
	from   int         // where the caret was
	within place.Range // what is looked through, if not all; see where
	where  string
	hits   []place.Range
	err    error
	looked bool   // hits are those of what is typed
	taking bool   // Enter was pressed before they were there
	ahead  []bool // steps on and back that were pressed before that
}

// mostHits is how many places are marked at the most.
const mostHits = 100_000

// NewSearch makes one; usual says how text is searched.
func NewSearch(host Host, usual func() resume.Text) *Search {
	s := &Search{host: host, usual: usual, input: entry.New()}
	s.asker = host.Asker(s)
	return s
}

// Commands are what opens the search.
func (s *Search) Commands() surface.Commands { return surface.Commands{keymap.InFile: s.open} }

// Form implements surface.Surface.
func (s *Search) Form() surface.Form { return surface.Seek }

// Busy implements surface.Surface: what is pressed after Enter is meant for where that leads.
func (s *Search) Busy() bool { return s.taking }

// Closed implements surface.Surface.
func (s *Search) Closed() {
	if s.taking { // given up before anything was found
		s.Clear()
	}
}

// Any says whether places are marked.
func (s *Search) Any() bool { return len(s.hits) > 0 }

func (s *Search) open() surface.Intent {
	c := s.host.Code()
	f := c.File()
	if f == nil || f.Text.Binary() {
		return surface.Say("there is no text here to look through")
	}
	s.Clear()
	s.input.Reset()
	s.file, s.from = f, c.Offset()
	s.within, s.where = c.Selection(), " in the selection"
	if s.within.Len() == 0 {
		s.within, s.where = c.Solo(), " in what is alone here"
	}
	if s.within.Len() == 0 {
		s.where = ""
	}
	t := s.usual()
	s.how.Word, s.how.Case, s.how.Regexp = t.Word, t.Case, t.Regexp
	return surface.Intent{Open: s}
}

// Clear takes the marks away.
func (s *Search) Clear() {
	s.hits, s.err, s.looked, s.taking = nil, nil, false, false
	s.asker.Cancel()
	s.host.Code().Found(nil)
}

// Update implements surface.Surface.
func (s *Search) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return s.edit(msg)
	}
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		s.Clear()
		return surface.Close()
	case keymap.Is(k.String(), keymap.Ends.Take):
		if s.taking = s.input.Value() != "" && !s.looked; !s.taking {
			return s.stay()
		}
		return surface.Intent{}
	case keymap.Is(k.String(), on.Down):
		return s.step(true)
	case keymap.Is(k.String(), on.Up):
		return s.step(false)
	case keymap.Is(k.String(), on.Word):
		return s.takeWord()
	case keymap.Is(k.String(), on.Words):
		s.how.Word = !s.how.Word
	case keymap.Is(k.String(), on.Case):
		s.how.Case = !s.how.Case
	case keymap.Is(k.String(), on.Regexp):
		s.how.Regexp = !s.how.Regexp
	default:
		return s.edit(k)
	}
	return s.look()
}

// step goes to the next place or the one before, as soon as it is known where they are.
func (s *Search) step(forward bool) surface.Intent {
	if s.input.Value() != "" && !s.looked {
		s.ahead = append(s.ahead, forward)
		return surface.Intent{}
	}
	return s.Next(forward)
}

// stay closes the search where it is and leaves the marks.
func (s *Search) stay() surface.Intent {
	s.taking = false
	todo := surface.Intent{Stay: true}
	if len(s.hits) == 0 {
		s.Clear()
		return todo.And(surface.Say("nothing was found"))
	}
	if s.host.Writing() {
		return todo.And(surface.Say("%s; {next} and {previous} go on, {caret-found} puts a caret at each", s.which()))
	}
	return todo.And(surface.Say("%s; {next} and {previous} go on, Esc takes the marks away", s.which()))
}

// takeWord looks for the word that was under the caret.
func (s *Search) takeWord() surface.Intent {
	c := s.host.Code()
	c.To(s.from)
	word := c.WordHere()
	if word == "" {
		return surface.Intent{}
	}
	s.input.Put(word)
	return s.look()
}

func (s *Search) edit(msg tea.Msg) surface.Intent {
	if !s.input.Edit(msg) {
		return surface.Intent{}
	}
	return s.look()
}

// look looks for what is typed.
func (s *Search) look() surface.Intent {
	s.Clear()
	s.ahead = nil
	q := s.how
	q.Pattern = s.input.Value()
	if q.Pattern == "" {
		s.host.Code().To(s.from)
		return surface.Intent{Caret: true}
	}
	type found struct {
		hits []place.Range
		err  error
	}
	doc, within := s.file.Text, s.within
	return surface.Begin(surface.Ask(s.asker, func(ctx context.Context) (out found) {
		out.hits, out.err = all(ctx, q, doc.Bytes(), within)
		return out
	}, func(f found) surface.Intent { return s.found(f.hits, f.err) }))
}

// all are the places of a text where something is, within a part of it if that is not empty.
func all(ctx context.Context, q find.Query, data []byte, within place.Range) (hits []place.Range, err error) {
	matcher, err := find.Compile(q)
	if err != nil {
		return nil, err
	}
	from := 0
	if within.Len() > 0 {
		from, data = int(within.Start), within.In(data)
	}
	matcher.All(data, func(h find.Match) bool {
		hits = append(hits, place.Range{Start: uint32(from + h.Start), End: uint32(from + h.End)})
		return len(hits) < mostHits && ctx.Err() == nil
	})
	return hits, nil
}

// found marks what was found and goes to the first of it from where the
// caret was.
func (s *Search) found(hits []place.Range, err error) surface.Intent {
	s.hits, s.err, s.looked = hits, err, true
	c := s.host.Code()
	c.Found(s.hits)
	if len(s.hits) == 0 {
		c.To(s.from)
	} else {
		s.to(s.hitFrom(s.from))
	}
	todo := surface.Intent{Caret: true}
	for _, forward := range s.ahead {
		if len(s.hits) > 0 {
			todo = todo.And(s.Next(forward))
		}
	}
	s.ahead = nil
	if s.taking {
		return todo.And(s.stay())
	}
	return todo
}

// hitFrom is the number of the first hit that does not end before an offset;
// behind the last, it is the first.
func (s *Search) hitFrom(offset int) int {
	i := sort.Search(len(s.hits), func(i int) bool { return int(s.hits[i].End) > offset })
	return i % len(s.hits)
}

func (s *Search) to(number int) {
	h := s.hits[number]
	s.host.Code().To(int(h.Start))
	s.host.Code().Point(h)
}

// Next goes to the next hit, or the one before, and round at the ends.
func (s *Search) Next(forward bool) surface.Intent {
	c := s.host.Code()
	if len(s.hits) == 0 || s.file != c.File() {
		return surface.Say("nothing is being looked for in this file; {in-file} does")
	}
	offset := c.Offset()
	next := sort.Search(len(s.hits), func(i int) bool { return int(s.hits[i].Start) > offset })
	round := ""
	switch {
	case forward && next == len(s.hits):
		next, round = 0, ", from the beginning again"
	case !forward:
		next = sort.Search(len(s.hits), func(i int) bool { return int(s.hits[i].Start) >= offset }) - 1
		if next < 0 {
			next, round = len(s.hits)-1, ", from the end again"
		}
	}
	s.to(next)
	todo := surface.Say("%s%s", s.which(), round)
	todo.Caret = true
	return todo
}

// which says which of how many the caret is on.
func (s *Search) which() string {
	of := " of "
	if len(s.hits) == mostHits {
		of = " of the first "
	}
	return sheet.Number(s.hitFrom(s.host.Code().Offset())+1) + of + sheet.Count(len(s.hits), "place", "places") + s.where
}

// Again is what finds the places once more, in the text as it is then; ok is false if nothing is
// looked for.
func (s *Search) Again() (find func(ctx context.Context, data []byte) ([]place.Range, error), ok bool) {
	q, within := s.how, s.within
	if q.Pattern = s.input.Value(); q.Pattern == "" || len(s.hits) == 0 {
		return nil, false
	}
	return func(ctx context.Context, data []byte) (hits []place.Range, err error) {
		everywhere, err := all(ctx, q, data, place.Range{})
		for _, h := range everywhere {
			if within.Len() == 0 || within.Start <= h.Start && h.End <= within.End {
				hits = append(hits, h)
			}
		}
		return hits, err
	}, true
}

const prompt = " look for  "

// Rows implements surface.Surface.
func (s *Search) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(s.Width).Put(prompt, palette.On(p.Here, p.Sheet).Strong())
	typed, _ := s.input.Shown(s.room())
	r.Put(typed, palette.On(p.Text, p.Sheet).Strong()).Put("   ", quiet)
	right := "   " + sheet.Toggle(keymap.Hint(on.Words), s.how.Word) + "  " + sheet.Toggle(keymap.Hint(on.Case), s.how.Case) + "  " + sheet.Toggle(keymap.Hint(on.Regexp), s.how.Regexp)
	switch {
	case s.err != nil:
		r.Put(ink.Cut(s.err.Error(), max(r.Left()-ink.Width(right)-2, 20)), palette.On(p.Problem, p.Sheet))
	case s.input.Value() == "":
		r.Put(on.Word.Help().Key+" takes the word under the caret", quiet)
	case !s.looked:
		r.Put("looking …", quiet)
	case len(s.hits) == 0:
		r.Put("it is not"+cmp.Or(s.where, " in this file"), palette.On(p.Problem, p.Sheet))
	default:
		r.Put(s.which(), quiet)
	}
	return []string{r.End(right+" ", quiet, quiet).String(quiet)}
}

// room is how many columns there are for what is looked for.
func (s *Search) room() int { return max(s.Width/2, 10) }

// Cursor implements surface.Surface.
func (s *Search) Cursor() (x, y int, ok bool) {
	_, caret := s.input.Shown(s.room())
	return ink.Width(prompt) + caret, 0, true
}
