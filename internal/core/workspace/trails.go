package workspace

import (
	"context"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/walk"
)

// KnowTrails keeps the trails of the project in a folder.
func (w *Workspace) KnowTrails(folder string) { w.trails = trail.NewStore(folder) }

// Trails are where the trails of the project are kept; nil if they are not.
func (w *Workspace) Trails() *trail.Store { return w.trails }

// OpenTrail takes the trail to go on with. With an error, too, what is returned is good
// to go on with.
func (w *Workspace) OpenTrail() (*trail.Kept, error) {
	if w.trails == nil {
		return &trail.Kept{}, nil
	}
	return w.trails.Open()
}

// KeepTrail adds what is new to the trail on disk.
func (w *Workspace) KeepTrail(news trail.Delta, recent []trail.Visit) error {
	if w.trails == nil {
		return nil
	}
	return w.trails.Save(news, recent)
}

// CloseTrail lets the next program go on with the trail.
func (w *Workspace) CloseTrail() {
	if w.trails != nil {
		w.trails.Close()
	}
}

// WalkOf makes a guided walk of stops of a trail, with the code around each.
func (w *Workspace) WalkOf(ctx context.Context, name string, stops []*trail.Stop) *walk.Walk {
	out := walk.OfTrail(name, w.Name(), stops)
	w.fillWalk(ctx, out)
	return out
}

// How many lines of code a walk shows before and after a place.
const (
	walkBefore = 3
	walkAfter  = 8
)

func (w *Workspace) fillWalk(ctx context.Context, out *walk.Walk) {
	out.Around(walkBefore, walkAfter, func(path string) place.Lines {
		f, err := w.Load(ctx, path)
		if err != nil || f.Text.Binary() {
			return nil
		}
		return f.Text
	})
}
