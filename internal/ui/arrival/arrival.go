// Package arrival reads the file of a place one goes to, and finds the place in it.
package arrival

import (
	"bytes"
	"context"
	"errors"
	"io/fs"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/surface"
)

// Loading reads the file of a visit.
type Loading struct {
	Visit surface.Visit
	WS    *workspace.Workspace
	Whole bool // it is to be written in as soon as it is there
	Done  bool // what was done to its text before is wanted, too
}

// Loaded is the file of a visit, or why it cannot be read.
type Loaded struct {
	Visit     surface.Visit
	File      *codebase.File
	Err       error
	Done      *write.History // to its text before the program began
	MovedFrom string         // the path that the file had before
}

// Load reads the file: all of it, or of a large one as much as can be shown at once.
func (l Loading) Load(ctx context.Context) Loaded {
	out := Loaded{Visit: l.Visit}
	if l.Visit.TextOf != nil {
		out.suppose(ctx, l.WS)
		return out
	}
	out.File, out.Err = l.WS.Code.LoadHead(l.Visit.Path)
	if errors.Is(out.Err, fs.ErrNotExist) && (l.Visit.Memory != nil || l.Visit.Along != nil) {
		out.whereMoved(ctx, l.WS)
	}
	f := out.File
	switch {
	case out.Err != nil:
		return out
	case f.Text.Whole() && f.Facts == nil || !f.Text.Whole() && (l.Whole || out.beyond()):
		out.File, out.Err = l.WS.Code.Load(ctx, out.Visit.Path)
	}
	if out.Err == nil && out.File.Text.Whole() {
		out.File.Prepare()
		out.recall()
	}
	if out.Err == nil && l.Done {
		out.Done = l.WS.History(out.Visit.Path, out.File.Text)
	}
	return out
}

// suppose makes the file of a visit that is shown to read otherwise than it does.
func (l *Loaded) suppose(ctx context.Context, ws *workspace.Workspace) {
	doc, err := l.Visit.TextOf(ctx)
	if err != nil {
		l.Err = err
		return
	}
	l.File = ws.Code.As(ctx, l.Visit.Path, doc)
	l.File.Prepare()
}

// whereMoved reads the file from where it is now, if that is known.
func (l *Loaded) whereMoved(ctx context.Context, ws *workspace.Workspace) {
	was := l.Visit.Path
	var former []string
	if l.Visit.Memory != nil {
		former = l.Visit.Memory.Former
	}
	file, err := ws.Lists.LoadMoved(ctx, &l.Visit.Path, former)
	if err != nil {
		l.Visit.Path = was
		return
	}
	l.File, l.Err, l.MovedFrom = file, nil, was
	if l.Visit.View != nil {
		v := *l.Visit.View
		v.Place.Path = l.Visit.Path
		l.Visit.View = &v
	}
}

// beyond says whether the place to show lies behind the part that is there.
func (l *Loaded) beyond() bool {
	line := l.Visit.Line
	if l.Visit.View != nil {
		line = l.Visit.View.Place.Line
	}
	return line > l.File.Text.Lines() || int(l.Visit.Name.End) > l.File.Text.Len()
}

// recall finds the place of a stop in its file as that is now, and says what became of it.
func (l *Loaded) recall() {
	v, f := &l.Visit, l.File
	if v.Memory == nil || v.View == nil || f.Text.Binary() {
		return
	}
	at, fate := lists.RecallIn(f, v.Memory)
	if fate == place.Gone {
		v.After = "what one saw here is gone: " + v.Memory.Text
		return
	}
	view := *v.View
	if view.Top > 0 {
		view.Top = max(view.Top+at.Line-view.Place.Line, 1)
	}
	view.Place.Line, view.Place.Col = at.Line, at.Col
	v.View = &view
	if fate == place.Changed {
		v.After = "this line has changed since one was here: " + v.Memory.Text
	}
}

// Target is the view in which the file is to be shown.
func (l *Loaded) Target() trail.View {
	v := &l.Visit
	if v.View != nil {
		return *v.View
	}
	at := trail.View{Place: place.Place{Path: v.Path, Line: max(v.Line, 1), Col: max(v.Col, 1)}}
	if v.Name.Len() > 0 {
		at.Place.Line, at.Place.Col = l.File.Text.Position(int(v.Name.Start))
	}
	at.Place.Line = min(at.Place.Line, l.File.Text.Lines())
	if v.Line > 0 && v.Col == 0 && v.Name.Len() == 0 { // a line, not a place in it: where its text begins
		line := l.File.Text.Line(at.Place.Line)
		if text := bytes.TrimLeft(line, " \t"); len(text) > 0 {
			at.Place.Col = 1 + len(line) - len(text)
		}
	}
	return at
}

// PointOut makes a name of so many bytes at a line and column.
func (l *Loaded) PointOut() {
	if v := &l.Visit; v.Length > 0 {
		start := uint32(l.File.Text.Offset(v.Line, v.Col))
		v.Name = place.Range{Start: start, End: start + uint32(v.Length)}
	}
}
