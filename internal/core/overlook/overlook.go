// Package overlook makes drawings of a project and of the way through it: what there is to be drawn, as scenes and
// charts. How they are laid out and written is package draw's.
package overlook

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/imports"
)

// View is what a drawing is of.
type View string

// Views.
const (
	Trail    View = "trail"
	Family   View = "family"
	Calls    View = "calls"
	Imports  View = "imports"
	Values   View = "values"
	Together View = "together"
)

// Views are all of them.
var Views = []View{Trail, Family, Calls, Imports, Values, Together}

// Direction is which way a drawing goes from what was asked about.
type Direction uint8

// Directions.
const (
	Outward Direction = iota // to what it calls, or needs
	Inward                   // to what calls or needs it
	BothWays
)

// Grouping is by what boxes stand together.
type Grouping uint8

// Groupings: not at all, by file, by folder, by day.
const (
	Ungrouped Grouping = iota
	ByFile
	ByFolder
	ByDay
)

// Asked is what is to be drawn, and how much of it.
type Asked struct {
	View View
	// Path is the file that it is about, or the folder, and Offset the byte in it; Offset is -1 for the file as a whole.
	Path   string
	Offset int
	// To is where calls are to lead, if only those are asked about that lead there; nil for all.
	To *Spot
	// Direction, Depth and Grouping say how much of it is drawn, and how. Depth 0 is that of the view.
	Direction Direction
	Depth     int
	Grouping  Grouping
	// Open are boxes whose inside is drawn though it lies deeper, Closed those behind which nothing is, by their IDs.
	Open, Closed map[string]bool
	// Tests and Libraries take these in. Without are folders that are left out.
	Tests, Libraries bool
	Without          []string
	// Since is a commit that imports are compared with; "" for none.
	Since string
	// Most is how many boxes there are at the most; 0 is the usual number.
	Most int
}

// Spot is a byte in a file.
type Spot struct {
	Path   string
	Offset int
}

// Maker makes scenes. It may be used by several goroutines.
type Maker struct {
	code  *codebase.Base
	guide *answer.Guide
	links *imports.Map
}

// New makes a maker of scenes of a project.
func New(code *codebase.Base, guide *answer.Guide) *Maker {
	return &Maker{code: code, guide: guide, links: imports.New(code)}
}

// usual is how many boxes a scene has at the most, if nothing else is said.
const usual = 1000

// Scene makes what is asked for. way is the trail, for a drawing of that; nil for none.
func (m *Maker) Scene(ctx context.Context, a Asked, way *trail.Trail) (*draw.Scene, error) {
	if a.Most == 0 {
		a.Most = usual
	}
	s := &sketch{Maker: m, ctx: ctx, asked: a, scene: &draw.Scene{}, index: map[string]int{}, lines: map[[2]int]int{}}
	var err error
	switch a.View {
	case Trail:
		err = s.trail(way)
	case Family:
		err = s.family()
	case Calls:
		err = s.calls()
	case Imports:
		err = s.imports()
	case Values:
		err = s.values()
	case Together:
		err = s.together()
	default:
		err = fmt.Errorf("there is no drawing of %q; there are trail, family, calls, imports, values and together", a.View)
	}
	if err == nil {
		err = ctx.Err()
	}
	if err == nil && len(s.scene.Boxes) == 0 {
		err = errors.New("there is nothing to draw")
	}
	if err != nil {
		return nil, err
	}
	s.leftOut()
	return s.scene, nil
}

// sketch is a scene that is being made.
type sketch struct {
	*Maker
	ctx   context.Context
	asked Asked
	scene *draw.Scene
	index map[string]int // of boxes, by their IDs
	lines map[[2]int]int // of lines, by their ends
	// tests, libraries and without are how many boxes were left out for what they are, over how many since there are enough.
	tests, libraries, without, over int
	groups                          map[string]int
}

// place is where a box leads to.
func placeOf(a *answer.Answer) place.Place {
	return place.Place{Path: a.Path, Line: a.Line, Col: a.Col}
}

// idOf tells a definition from all others.
func idOf(p string, offset uint32) string { return fmt.Sprintf("%s:%d", p, offset) }

// wanted says whether something at a path may be drawn, and counts it if it is left out.
func (s *sketch) wanted(p string, test bool) bool {
	switch {
	case path.IsAbs(p) && !s.asked.Libraries:
		s.libraries++
	case test && !s.asked.Tests:
		s.tests++
	case slices.ContainsFunc(s.asked.Without, func(w string) bool { return below(p, w) }):
		s.without++
	default:
		return true
	}
	return false
}

// below says whether a path is that of a folder or of something in it.
func below(p, folder string) bool {
	return folder == "." && !path.IsAbs(p) || p == folder || strings.HasPrefix(p, strings.TrimSuffix(folder, "/")+"/")
}

// full says whether there are as many boxes as there may be.
func (s *sketch) full() bool { return len(s.scene.Boxes) >= s.asked.Most }

// box puts a box in, if it is not there yet, and says where; ok is false if there is no room.
func (s *sketch) box(b draw.Box) (at int, fresh, ok bool) {
	if at, there := s.index[b.ID]; there {
		return at, false, true
	}
	if s.full() {
		s.over++
		return -1, false, false
	}
	at = len(s.scene.Boxes)
	s.index[b.ID] = at
	s.scene.Boxes = append(s.scene.Boxes, b)
	return at, true, true
}

// line puts a line in, if there is none like it.
func (s *sketch) line(from, to int, look draw.Look, label string) {
	k := [2]int{from, to}
	if i, ok := s.lines[k]; ok {
		if look == draw.Usual {
			s.scene.Lines[i].Look = look // said outright somewhere
		}
		return
	}
	s.lines[k] = len(s.scene.Lines)
	s.scene.Lines = append(s.scene.Lines, draw.Line{From: from, To: to, Look: look, Label: label})
}

// group is the number of a group by its title.
func (s *sketch) group(title string) int {
	if s.asked.Grouping == Ungrouped {
		return -1
	}
	if s.groups == nil {
		s.groups = map[string]int{}
	}
	at, ok := s.groups[title]
	if !ok {
		at = len(s.scene.Groups)
		s.groups[title] = at
		s.scene.Groups = append(s.scene.Groups, title)
	}
	return at
}

// groupOf is the group of something in a file.
func (s *sketch) groupOf(p string) int {
	switch s.asked.Grouping {
	case ByFile:
		return s.group(p)
	case ByFolder:
		return s.group(path.Dir(p))
	}
	return -1
}

// means adds to the legend what a look means, if something has it.
func (s *sketch) means(look draw.Look, line bool, words string) {
	has := slices.ContainsFunc(s.scene.Boxes, func(b draw.Box) bool { return b.Look == look })
	if line {
		has = slices.ContainsFunc(s.scene.Lines, func(l draw.Line) bool { return l.Look == look })
	}
	if has {
		s.scene.Legend = append(s.scene.Legend, draw.Meaning{Look: look, Line: line, Words: words})
	}
}

// leftOut notes what is not in the scene, and why.
func (s *sketch) leftOut() {
	note := func(n int, what string, more ...any) {
		if n > 0 {
			s.scene.Notes = append(s.scene.Notes, fmt.Sprintf(what, append([]any{n}, more...)...))
		}
	}
	note(s.over, "At least %d boxes more than %d were left out: ask from a place further on, or close some.", s.asked.Most)
	note(s.tests, "Left out: %d of tests.")
	note(s.libraries, "Left out: %d of libraries.")
	note(s.without, "Left out: %d in folders that are not wanted.")
}

// Reach is how deep a drawing goes: as deep as is asked for, or as is usual for its view; 0 if the view has no depth.
func (a Asked) Reach() int {
	if a.Depth > 0 {
		return a.Depth
	}
	if a.View == Calls && a.To != nil {
		return deepestWay
	}
	return map[View]int{Family: 3, Calls: 2, Values: 2, Imports: 2}[a.View]
}

// grows says whether what is behind a box is drawn, which is so many steps from what was asked about.
func (s *sketch) grows(id string, step, depth int) bool {
	return !s.asked.Closed[id] && (step < depth || s.asked.Open[id])
}
