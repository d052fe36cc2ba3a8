// Package walk is a guided walk through code: stops in an order, each with how and why one
// comes there, made of a trail or a list of bookmarks to be shown to somebody else.
package walk

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/trail"
)

// Version is that of the form in which walks are written.
const Version = 1

// format tells files of walks from others.
const format = "rooktrail walk"

// Walk is stops in the order in which they are to be gone.
type Walk struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Name    string    `json:"name"`
	Project string    `json:"project,omitempty"`
	Made    time.Time `json:"made"`
	Stops   []Stop    `json:"stops"`
}

// Stop is a place of a walk.
type Stop struct {
	place.Anchor
	// Kind is "folder", "file" or "" for a line.
	Kind string `json:"kind,omitempty"`
	// What is the qualified name of what is there, Title what somebody called it.
	What  string `json:"what,omitempty"`
	Title string `json:"title,omitempty"`
	// How says how one came there, Note why.
	How  string `json:"how,omitempty"`
	Note string `json:"note,omitempty"`
	// From is the number of the stop one came from, counted from 0, if that is not the
	// one before.
	From    *int      `json:"from,omitempty"`
	At      time.Time `json:"at,omitzero"`
	Starred bool      `json:"starred,omitempty"`
	Edited  bool      `json:"edited,omitempty"`
	// Code is some lines around the place; CodeLine is the number of the first.
	Code     []string `json:"code,omitempty"`
	CodeLine int      `json:"code_line,omitempty"`
}

// Name is what to call the stop.
func (s *Stop) Name() string {
	switch {
	case s.Title != "":
		return s.Title
	case s.What != "":
		return s.What
	}
	return s.Path
}

// OfTrail makes a walk of stops of a trail.
func OfTrail(name, project string, stops []*trail.Stop) *Walk {
	w := &Walk{Format: format, Version: Version, Name: name, Project: project, Made: time.Now().Truncate(time.Second)}
	number := map[*trail.Stop]int{}
	for i, s := range stops {
		number[s] = i
		a := s.Memory.Anchor
		a.Path, a.Line, a.Col = s.View.Place.Path, s.View.Place.Line, s.View.Place.Col
		stop := Stop{Anchor: a, What: cmp.Or(s.Symbol, s.Inside), Title: s.Name, How: s.How, Note: s.Note, At: s.At.Truncate(time.Second), Starred: s.Starred, Edited: !s.Edited.IsZero()}
		for p := s.Parent(); p != nil; p = p.Parent() { // the nearest that is shown
			if from, ok := number[p]; ok {
				if from != i-1 {
					stop.From = &from
				}
				break
			}
		}
		w.Stops = append(w.Stops, stop)
	}
	return w
}

// OfBookmarks makes a walk of a list of bookmarks.
func OfBookmarks(l *bookmark.List, project string) *Walk {
	w := &Walk{Format: format, Version: Version, Name: l.Name, Project: project, Made: time.Now().Truncate(time.Second)}
	for _, i := range l.Shown() {
		m := &l.Marks[i]
		s := Stop{Anchor: m.Anchor, What: m.What, Note: m.Note, At: m.Made.Truncate(time.Second)}
		if m.Kind == bookmark.File || m.Kind == bookmark.Folder {
			s.Kind = string(m.Kind)
		}
		w.Stops = append(w.Stops, s)
	}
	return w
}

// Around fills in the code around each stop: so many lines before and after. lines gives
// the text of a file, nil if it cannot be read.
func (w *Walk) Around(before, after int, lines func(path string) place.Lines) {
	for i := range w.Stops {
		s := &w.Stops[i]
		text := lines(s.Path)
		if text == nil || s.Kind != "" {
			continue
		}
		s.CodeLine = max(s.Line-before, 1)
		for n := s.CodeLine; n <= min(s.Line+after, text.Lines()); n++ {
			const longest = 400
			l := text.Line(n)
			s.Code = append(s.Code, string(l[:min(len(l), longest)]))
		}
	}
}

// Trail makes a trail of the walk, in which its forks are forks again.
func (w *Walk) Trail() *trail.Trail {
	t := &trail.Trail{Name: w.Name}
	stops := make([]*trail.Stop, len(w.Stops))
	for i := range w.Stops {
		s := &w.Stops[i]
		if s.From != nil && *s.From >= 0 && *s.From < i {
			t.Visit(stops[*s.From])
		}
		stops[i] = t.Go(trail.View{Place: s.Place()}, s.How, s.What)
		stops[i].Memory = place.Remember(s.Anchor)
		t.SetName(stops[i], s.Title)
		t.SetNote(stops[i], s.Note)
		t.SetStarred(stops[i], s.Starred)
		if s.Edited {
			t.SetEdited(stops[i], s.At)
		}
	}
	if len(stops) > 0 {
		t.Visit(stops[0])
	}
	return t
}

// WriteJSON writes the walk so that it can be opened again; docs/walk.schema.json says how
// it looks.
func (w *Walk) WriteJSON(out io.Writer) error {
	data, err := text.JSON(w, "  ")
	if err == nil {
		_, err = out.Write(data)
	}
	if err != nil {
		return fmt.Errorf("writing the walk: %w", err)
	}
	return nil
}

// Bounds on what is read of a walk, which anybody may have written.
const (
	largest   = 64 << 20 // bytes
	mostStops = 100_000
)

// ErrNoWalk says that a file holds no walk.
var ErrNoWalk = errors.New("it is not a guided walk; rooktrail trail --as json and rooktrail bookmarks --as json write such")

// Read reads a walk that was written as JSON. Stops whose paths leave the project are left
// out and named.
func Read(in io.Reader) (w *Walk, refused []string, err error) {
	data, err := io.ReadAll(io.LimitReader(in, largest+1))
	if err != nil {
		return nil, nil, fmt.Errorf("reading the walk: %w", err)
	}
	if len(data) > largest {
		return nil, nil, fmt.Errorf("reading the walk: it is larger than %d MB", largest>>20)
	}
	w = &Walk{}
	if err := json.Unmarshal(data, w); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			return nil, nil, fmt.Errorf("reading the walk: it is not well formed in line %d: %w", lineAt(data, syntax.Offset), err)
		}
		return nil, nil, fmt.Errorf("reading the walk: it is not well formed: %w", err)
	}
	switch {
	case w.Format != format:
		return nil, nil, fmt.Errorf("reading the walk: %w", ErrNoWalk)
	case w.Version > Version:
		return nil, nil, errors.New("reading the walk: it was written by a later version of this program")
	case len(w.Stops) > mostStops:
		return nil, nil, fmt.Errorf("reading the walk: it has more than %d stops", mostStops)
	}
	return w, w.inside(), nil
}

// inside leaves out what is not in the project, and names it.
func (w *Walk) inside() (refused []string) {
	var stops []Stop
	number := map[int]int{}
	for i, s := range w.Stops {
		if !place.IsInside(s.Path) {
			refused = append(refused, s.Path)
			continue
		}
		if s.From != nil {
			from, ok := number[*s.From]
			s.From = nil
			if ok {
				s.From = &from
			}
		}
		s.Line, s.Col = max(s.Line, 1), max(s.Col, 1)
		number[i] = len(stops)
		stops = append(stops, s)
	}
	w.Stops = stops
	return refused
}

func lineAt(data []byte, offset int64) (line int) {
	line = 1
	for _, b := range data[:min(int(offset), len(data))] {
		if b == '\n' {
			line++
		}
	}
	return line
}
