// Package overlook is the sheet that shows a drawing, through which one walks by keyboard: the trail, a family, calls,
// imports, values, what changes together; and charts of where time went and what there is how much of.
package overlook

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Maker makes drawings and charts; see package overlook of the core.
type Maker interface {
	Scene(ctx context.Context, a overlook.Asked, way *trail.Trail) (*draw.Scene, error)
	Chart(ctx context.Context, c overlook.Counted, ways []*trail.Trail) (*draw.Chart, error)
	Write(d draw.Drawing, file string, theme *draw.Theme) (string, error)
	FileName(title string, as draw.Format) string
}

// Trails is the trail one is on.
type Trails interface {
	Trail() *trail.Trail
	Visit(s *trail.Stop) surface.Visit
}

// Surface is the drawing over the code.
type Surface struct {
	surface.Size
	host    surface.Host
	maker   Maker
	trails  Trails
	against func() (rev, words string)
	asker   *surface.Asker
	writer  *surface.Asker // of what goes on when the drawing is left
	choices *choice.Surface
	asks    *askline.Surface

	asked   overlook.Asked
	picture *draw.Picture
	way     *trail.Trail // that is drawn, as it was then
	size    draw.Size
	sized   bool // the user has chosen the size
	at      int  // the chosen box
	view    draw.Point
	typed   string
	tab     along
	start   *start // where a way is to begin
}

// start is the function that a way between two is to begin at.
type start struct {
	spot overlook.Spot
	name string
}

// New makes a sheet without a drawing, and one without a chart. against is the commit with which files are compared, "" for
// the last one, and what to call it.
func New(host surface.Host, maker Maker, trails Trails, against func() (rev, words string)) (*Surface, *Counts) {
	s := &Surface{host: host, maker: maker, trails: trails, against: against, choices: &choice.Surface{}, asks: &askline.Surface{}, size: draw.Medium}
	s.asker, s.writer = host.Asker(s), host.Asker(nil)
	return s, newCounts(host, maker, trails, s.handOn)
}

// Commands are what draws something.
func (s *Surface) Commands() surface.Commands {
	at := func(a overlook.Asked) func() surface.Intent {
		return func() surface.Intent { return s.here(a) }
	}
	return surface.Commands{
		keymap.DrawFamily:   at(overlook.Asked{View: overlook.Family}),
		keymap.DrawCalled:   at(overlook.Asked{View: overlook.Calls}),
		keymap.DrawCallers:  at(overlook.Asked{View: overlook.Calls, Direction: overlook.Inward}),
		keymap.DrawValues:   at(overlook.Asked{View: overlook.Values}),
		keymap.DrawWays:     s.between,
		keymap.DrawTrail:    func() surface.Intent { return s.begin(overlook.Asked{View: overlook.Trail}) },
		keymap.DrawImports:  func() surface.Intent { return s.begin(overlook.Asked{View: overlook.Imports}) },
		keymap.DrawFile:     s.file,
		keymap.DrawTogether: s.together,
	}
}

// here draws something of the name under the caret.
func (s *Surface) here(a overlook.Asked) surface.Intent {
	h := s.host.Here()
	if h.File == nil || h.File.Facts == nil {
		return h.Lack("no names are known in this file")
	}
	a.Path, a.Offset = h.File.Path, h.Offset
	return s.begin(a)
}

// file draws what the file imports, and who imports it.
func (s *Surface) file() surface.Intent {
	h := s.host.Here()
	if h.File == nil || path.IsAbs(h.File.Path) {
		return h.Lack("it is not a file of this project")
	}
	return s.begin(overlook.Asked{View: overlook.Imports, Path: h.File.Path, Direction: overlook.BothWays})
}

func (s *Surface) together() surface.Intent {
	a := overlook.Asked{View: overlook.Together}
	if h := s.host.Here(); h.File != nil && !path.IsAbs(h.File.Path) {
		a.Path = h.File.Path
	}
	return s.begin(a)
}

// between draws the ways from the function where it was asked first to the one where it is asked again.
func (s *Surface) between() surface.Intent {
	h := s.host.Here()
	if h.File == nil || h.File.Facts == nil {
		return h.Lack("no names are known in this file")
	}
	here := overlook.Spot{Path: h.File.Path, Offset: h.Offset}
	if s.start == nil {
		name := h.Word()
		if n := len(h.Crumbs); name == "" && n > 0 {
			name = h.Crumbs[n-1].Name
		}
		s.start = &start{here, name}
		return surface.Say("from %s: go to the function that it is to reach, and press {%s} again", name, keymap.DrawWays)
	}
	from := s.start
	s.start = nil
	return s.begin(overlook.Asked{View: overlook.Calls, Path: from.spot.Path, Offset: from.spot.Offset, To: &here})
}

// drawn is a picture, or why there is none.
type drawn struct {
	asked   overlook.Asked
	picture *draw.Picture
	way     *trail.Trail // that is drawn, if one is
	err     error
}

// work makes a picture.
func (s *Surface) work(a overlook.Asked) func(ctx context.Context) drawn {
	size := sizing{s.size, s.sized, s.Width - 2, s.most() - 3}
	var way *trail.Trail
	if a.View == overlook.Trail { // which changes as one walks
		way = s.trails.Trail().Copy()
	}
	return func(ctx context.Context) drawn {
		scene, err := s.maker.Scene(ctx, a, way)
		d := laid(a, scene, size, err)
		d.way = way
		return d
	}
}

// sizing is the size of a drawing, and the room there is for it.
type sizing struct {
	size          draw.Size
	chosen        bool
	width, height int
}

// laid lays a scene out. If nobody has chosen a size, and it has no room in this one, it is made smaller.
func laid(a overlook.Asked, scene *draw.Scene, of sizing, err error) drawn {
	if err != nil {
		return drawn{asked: a, err: err}
	}
	p := draw.Lay(scene, of.size)
	if !of.chosen && of.size > draw.Small && (p.Width > of.width || p.Height > of.height) {
		p = draw.Lay(scene, draw.Small)
	}
	return drawn{asked: a, picture: p}
}

// begin draws something, and shows it when it is there.
func (s *Surface) begin(a overlook.Asked) surface.Intent {
	wait := surface.Intent{Wait: "drawing it; Esc gives up"}
	return wait.And(surface.Begin(surface.Ask(s.host.Way(), s.work(a), func(d drawn) surface.Intent {
		if d.err != nil {
			return surface.SayError(d.err)
		}
		s.picture, s.typed, s.tab, s.at = nil, "", along{}, 0
		s.take(d)
		return surface.Intent{Open: s}.And(s.selected())
	})))
}

// again draws it in another way, with the same box chosen, if it is there then.
func (s *Surface) again(a overlook.Asked) surface.Intent {
	return surface.Begin(surface.Ask(s.asker, s.work(a), func(d drawn) surface.Intent {
		if d.err != nil {
			return surface.SayError(d.err)
		}
		s.take(d)
		return s.selected()
	}))
}

// take shows a picture, with the same box chosen: or what it was opened into, or the folder that was closed.
func (s *Surface) take(d drawn) {
	id, at := "", ""
	if b := s.box(); b != nil {
		id, at = b.ID, b.Place.Path
	}
	s.asked, s.picture, s.way = d.asked, d.picture, d.way
	for _, is := range []func(b *draw.Box) bool{
		func(b *draw.Box) bool { return b.ID == id },
		func(b *draw.Box) bool { return at != "" && strings.HasPrefix(b.Place.Path, at+"/") },
		func(b *draw.Box) bool { return at != "" && strings.HasPrefix(at, b.Place.Path+"/") },
		func(b *draw.Box) bool { return b.Look == draw.Present },
	} {
		if s.at = slices.IndexFunc(s.picture.Boxes, func(b draw.Box) bool { return is(&b) }); s.at >= 0 {
			break
		}
	}
	if s.at >= 0 && id != "" {
		s.follow()
		return
	}
	if s.at < 0 { // what stands above all others
		for i, f := range s.picture.Frames {
			if top := s.picture.Frames[max(s.at, 0)]; s.at < 0 || f.Y < top.Y || f.Y == top.Y && f.X < top.X {
				s.at = i
			}
		}
	}
	s.center()
}

// box is the chosen box; nil if there is none.
func (s *Surface) box() *draw.Box {
	if s.picture == nil || s.at < 0 || s.at >= len(s.picture.Boxes) {
		return nil
	}
	return &s.picture.Boxes[s.at]
}

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Taller }

// Busy implements surface.Surface.
func (s *Surface) Busy() bool { return s.asker.Waiting() }

// Closed implements surface.Surface.
func (s *Surface) Closed() { s.asker.Cancel() }

// selected shows the place of the chosen box beneath.
func (s *Surface) selected() surface.Intent {
	if v, ok := s.visit(); ok {
		return surface.Look(v)
	}
	return surface.LookBack()
}

// visit is where the chosen box leads; ok is false if that is not into a file.
func (s *Surface) visit() (v surface.Visit, ok bool) {
	b := s.box()
	if b == nil || b.Place.Path == "" || b.Place.Line == 0 {
		return v, false
	}
	if s.way != nil {
		if n, err := strconv.Atoi(strings.TrimPrefix(b.ID, "stop ")); err == nil && s.way.Stop(n) != nil {
			if stop := s.trails.Trail().Same(s.way.Stop(n)); stop != nil {
				return s.trails.Visit(stop), true
			}
		}
	}
	return surface.Visit{Path: b.Place.Path, Line: b.Place.Line, Col: b.Place.Col, How: s.how(), Symbol: b.Symbol, Lead: false}, true
}

// how says how one comes to a place of the drawing.
func (s *Surface) how() string {
	return strings.ToLower(s.picture.Title[:1]) + s.picture.Title[1:]
}

// info tells about the chosen box.
func (s *Surface) info() (name, rest string) {
	b := s.box()
	if b == nil {
		return "", ""
	}
	from, to := 0, 0
	var labels []string
	for _, l := range s.picture.Lines {
		if l.From == s.at {
			from++
		}
		if l.To == s.at {
			to++
		}
		if (l.From == s.at || l.To == s.at) && l.Label != "" && len(labels) < 3 {
			labels = append(labels, l.Label+" "+s.otherEnd(l))
		}
	}
	parts := []string{b.Kind}
	if at := b.At(); at != "" {
		parts = append(parts, at)
	}
	parts = append(parts, s.counted(from, to))
	if b.Hidden != 0 {
		parts = append(parts, "more behind it ("+on.Behind.Help().Key+")")
	}
	parts = append(parts, labels...)
	if len(b.Details) > 0 && s.picture.Size != draw.Large {
		parts = append(parts, b.Details...)
	}
	return b.Name, strings.Join(parts, "  ")
}

// counted says in the words of the drawing how many lines lead from the chosen box, and to it.
func (s *Surface) counted(from, to int) string {
	switch s.asked.View {
	case overlook.Calls:
		return fmt.Sprintf("calls %d here, called by %d", from, to)
	case overlook.Imports:
		return fmt.Sprintf("imports %d, imported by %d", from, to)
	case overlook.Family:
		return fmt.Sprintf("derived from %d here, %d derived from it", to, from)
	case overlook.Values:
		return fmt.Sprintf("from %d, to %d", to, from)
	case overlook.Trail:
		if from > 1 {
			return fmt.Sprintf("a fork of %d", from)
		}
		return ""
	}
	return sheet.Count(from+to, "other", "others")
}

func (s *Surface) otherEnd(l draw.Line) string {
	if l.From == s.at {
		return "to " + s.picture.Boxes[l.To].Name
	}
	return "from " + s.picture.Boxes[l.From].Name
}

// others are the drawings that can be made from the chosen box.
func (s *Surface) others() surface.Intent {
	b := s.box()
	if b == nil || b.Place.Path == "" {
		return surface.Intent{}
	}
	row := func(key, name, where string, a overlook.Asked) choice.Row {
		return choice.Row{Row: sheet.Row{Key: key, Name: name, Where: where, Reads: true}, Take: func() surface.Intent { return s.begin(a) }}
	}
	p := b.Place.Path
	var rows []choice.Row
	if offset, err := strconv.Atoi(b.ID[strings.LastIndex(b.ID, ":")+1:]); err == nil && strings.Contains(b.ID, ":") {
		at := func(a overlook.Asked) overlook.Asked {
			a.Path, a.Offset, a.Tests, a.Libraries = p, offset, s.asked.Tests, s.asked.Libraries
			return a
		}
		rows = append(rows,
			row("x", "what it calls", b.Name, at(overlook.Asked{View: overlook.Calls})),
			row("c", "what calls it", b.Name, at(overlook.Asked{View: overlook.Calls, Direction: overlook.Inward})),
			row("o", "both", b.Name, at(overlook.Asked{View: overlook.Calls, Direction: overlook.BothWays})),
			row("u", "its family", b.Name, at(overlook.Asked{View: overlook.Family})),
			row("v", "where its value comes from, and where it goes", b.Name, at(overlook.Asked{View: overlook.Values})))
	}
	rows = append(rows,
		row("n", "what it imports", p, overlook.Asked{View: overlook.Imports, Path: p}),
		row("i", "what imports it", p, overlook.Asked{View: overlook.Imports, Path: p, Direction: overlook.Inward}),
		row("b", "both", p, overlook.Asked{View: overlook.Imports, Path: p, Direction: overlook.BothWays}),
		row("e", "what is changed together with it", p, overlook.Asked{View: overlook.Together, Path: p}))
	todo := s.choices.Open("draw, from "+b.Name, "draw it", rows)
	s.choices.Left = s.back
	return todo
}

// back shows the drawing again.
func (s *Surface) back() surface.Intent { return surface.Intent{Open: s}.And(s.selected()) }

// hand writes the drawing to a file.
func (s *Surface) hand() surface.Intent {
	return s.handOn(s.picture, s.picture.Title, []draw.Format{draw.SVG, draw.PDF, draw.Markdown, draw.Text, draw.DOT, draw.JSON}, s.back)
}

var formatWords = map[draw.Format]string{
	draw.SVG: "for browsers and reports; each box leads to its place", draw.PDF: "one page, as large as the drawing",
	draw.Markdown: "text, with a list of all boxes and their places", draw.Text: "as it is on the screen", draw.DOT: "for programs that lay out graphs",
	draw.JSON: "for other programs",
}

// handOn asks as what a drawing is to be written, and where, and writes it. Then back shows it again.
func (s *Surface) handOn(d draw.Drawing, title string, formats []draw.Format, back func() surface.Intent) surface.Intent {
	var rows []choice.Row
	for _, f := range formats {
		add := func(name string, theme *draw.Theme) {
			rows = append(rows, choice.Row{Row: sheet.Row{Name: name, Where: formatWords[f], Reads: true}, Take: func() surface.Intent {
				todo := s.asks.Ask("write it to the file:", s.maker.FileName(title, f), func(file string) surface.Intent { return back().And(s.write(d, file, theme)) })
				s.asks.Left = back
				return todo
			}})
		}
		name := strings.ToUpper(string(f))
		if f == draw.Markdown || f == draw.Text {
			name = string(f)
		}
		add(name, &draw.Light)
		if f == draw.SVG || f == draw.PDF {
			add(name+", dark", &draw.Dark)
		}
	}
	todo := s.choices.Open("write the drawing", "write it as that", rows)
	s.choices.Left = back
	return todo
}

// written is where a drawing was written, or why not.
type written struct {
	file string
	err  error
}

func (s *Surface) write(d draw.Drawing, file string, theme *draw.Theme) surface.Intent {
	if strings.TrimSpace(file) == "" {
		return surface.Intent{}
	}
	return surface.Begin(surface.Do(s.writer, func(context.Context) written {
		at, err := s.maker.Write(d, strings.TrimSpace(file), theme)
		return written{at, err}
	}, func(w written) surface.Intent {
		if w.err != nil {
			return surface.SayError(w.err)
		}
		words := "written to " + w.file
		if p, ok := d.(*draw.Picture); ok && strings.HasSuffix(w.file, draw.PDF.Ending()) {
			if n := p.Lacking(); n > 0 {
				words += fmt.Sprintf(" (%s the font does not have stand as ▯)", sheet.Count(n, "letter that", "letters that"))
			}
		}
		return surface.Intent{Copy: &surface.Copy{Text: w.file, What: words + "; its path"}}
	}))
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok || s.picture == nil {
		return surface.Intent{}
	}
	name := k.String()
	if todo, ok := s.move(name); ok {
		return todo
	}
	if todo, ok := s.change(name); ok {
		return todo
	}
	switch {
	case keymap.Is(name, keymap.Ends.Close):
		if s.typed != "" {
			s.typed = ""
			return surface.Intent{}
		}
		return surface.Close()
	case keymap.Is(name, keymap.Ends.Take):
		if v, ok := s.visit(); ok {
			return surface.Go(v)
		}
		return s.behind()
	case keymap.Is(name, on.Other):
		return s.others()
	case keymap.Is(name, on.Copy):
		if b := s.box(); b != nil && b.At() != "" {
			return surface.Intent{Copy: &surface.Copy{Text: b.At(), What: "the place"}}
		}
	case keymap.Is(name, on.Hand):
		return s.hand()
	case keymap.Is(name, on.Back):
		if r := []rune(s.typed); len(r) > 0 {
			return s.jump(string(r[:len(r)-1]))
		}
	case k.Text != "" && !strings.HasPrefix(name, "alt+"):
		return s.jump(s.typed + k.Text)
	}
	return surface.Intent{}
}
