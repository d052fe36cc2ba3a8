package workspace

import (
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
)

// KnowTrails keeps the trails of the project in a folder.
func (w *Workspace) KnowTrails(folder string) { w.trails = trail.NewStore(folder) }

// OpenTrail takes the trail to go on with. With an error, too, what is returned is good
// to go on with.
func (w *Workspace) OpenTrail() (trail.Kept, error) {
	if w.trails == nil {
		return trail.Kept{Here: -1}, nil
	}
	return w.trails.Open()
}

// KeepTrail keeps the trail as it is now.
func (w *Workspace) KeepTrail(k trail.Kept) error {
	if w.trails == nil {
		return nil
	}
	return w.trails.Save(k)
}

// CloseTrail lets the next program go on with the trail.
func (w *Workspace) CloseTrail() {
	if w.trails != nil {
		w.trails.Close()
	}
}

// AnchorIn remembers a place in a file that is loaded.
func AnchorIn(f *File, p place.Place) place.Anchor {
	return place.NewAnchor(p, f.Text, symbolAround(f, p.Line, p.Col))
}

// FindIn finds an anchored place in a file that is loaded.
func FindIn(f *File, a place.Anchor) (place.Place, place.Fate) { return finder(f).Find(a) }
