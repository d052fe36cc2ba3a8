package lists

import (
	"context"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
)

// KnowTrails keeps the trails of the project in a folder.
func (k *Keeper) KnowTrails(folder string) { k.trails = trail.NewStore(folder) }

// Trails are where the trails of the project are kept; nil if they are not.
func (k *Keeper) Trails() *trail.Store { return k.trails }

// OpenTrail takes the trail to go on with. With an error, too, what is returned is good
// to go on with.
func (k *Keeper) OpenTrail() (*trail.Kept, error) {
	if k.trails == nil {
		return &trail.Kept{}, nil
	}
	return k.trails.Open()
}

// KeepTrail adds what is new to the trail on disk.
func (k *Keeper) KeepTrail(news trail.Delta, recent []trail.Visit) error {
	if k.trails == nil {
		return nil
	}
	return k.trails.Save(news, recent)
}

// CloseTrail lets the next program go on with the trail.
func (k *Keeper) CloseTrail() {
	if k.trails != nil {
		k.trails.Close()
	}
}

// WalkOf makes a guided walk of stops of a trail, with the code around each.
func (k *Keeper) WalkOf(ctx context.Context, name string, stops []*trail.Stop) *walk.Walk {
	out := walk.OfTrail(name, k.code.Name(), stops)
	k.fillWalk(ctx, out)
	return out
}

// How many lines of code a walk shows before and after a place.
const (
	walkBefore = 3
	walkAfter  = 8
)

func (k *Keeper) fillWalk(ctx context.Context, out *walk.Walk) {
	out.Around(walkBefore, walkAfter, func(path string) place.Lines {
		f, err := k.code.Load(ctx, path)
		if err != nil || f.Text.Binary() {
			return nil
		}
		return f.Text
	})
}
