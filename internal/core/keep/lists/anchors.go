package lists

import (
	"context"
	"errors"
	"io/fs"
	"slices"
	"sync"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
)

// anchoring makes anchors for places of the project, file by file.
type anchoring struct {
	w    *Keeper
	last *codebase.File
	make *place.Maker // of the places of that
}

// anchor remembers a place by what stands there now; of a file that cannot be read it
// is no more than the place itself.
func (a *anchoring) anchor(ctx context.Context, p place.Place) place.Anchor {
	if a.last == nil || a.last.Path != p.Path {
		f, err := a.w.code.Load(ctx, p.Path)
		if err != nil {
			return place.Anchor{Path: p.Path, Line: max(p.Line, 1), Col: max(p.Col, 1)}
		}
		a.last, a.make = f, place.NewMaker(f.Text)
	}
	return a.make.Anchor(p, codebase.SymbolAround(a.last, p.Line, p.Col))
}

// finder finds the anchors of a file again.
func finder(f *codebase.File) *place.Finder {
	return place.NewFinder(f.Text, func(line, col int) string { return codebase.SymbolAround(f, line, col) })
}

// AnchorIn remembers a place in a file that is loaded.
func AnchorIn(f *codebase.File, p place.Place) place.Anchor {
	return place.NewAnchor(p, f.Text, codebase.SymbolAround(f, p.Line, p.Col))
}

// RecallIn finds a remembered place in a file that is loaded.
func RecallIn(f *codebase.File, m *place.Memory) (place.Place, place.Fate) {
	return finder(f).Recall(m)
}

// RecallAll finds remembered places of a file that is loaded, brings them up to date and
// says what became of each.
func RecallAll(ctx context.Context, f *codebase.File, all []*place.Memory) []place.Fate {
	found := finder(f)
	fates := make([]place.Fate, len(all))
	for i, m := range all {
		if ctx.Err() != nil {
			return fates
		}
		fates[i] = update(found, f, m)
	}
	return fates
}

// update finds a place again and takes note of how it is now.
func update(found *place.Finder, f *codebase.File, m *place.Memory) place.Fate {
	at, fate := found.Recall(m)
	switch {
	case fate == place.Gone:
	case fate == place.Same && m.Kept == nil: // it is all as it is remembered
		m.MoveTo(f.Path)
	default:
		at.Path = f.Path
		m.Found(AnchorIn(f, at))
	}
	return fate
}

// Anchor remembers a place by what stands there.
func (k *Keeper) Anchor(ctx context.Context, p place.Place) place.Anchor {
	a := anchoring{w: k}
	return a.anchor(ctx, p)
}

// Find finds where a remembered place is now, and what became of it; its memory is
// brought up to date. The error says why its file cannot be read; its fate is Gone then.
func (k *Keeper) Find(ctx context.Context, m *place.Memory) (place.Fate, error) {
	f, err := k.loadAnchored(ctx, m)
	if err != nil {
		return place.Gone, err
	}
	return update(finder(f), f, m), nil
}

// loadAnchored reads the file of a remembered place, wherever that lies by now.
func (k *Keeper) loadAnchored(ctx context.Context, m *place.Memory) (*codebase.File, error) {
	f, err := k.code.Load(ctx, m.Path)
	if !errors.Is(err, fs.ErrNotExist) {
		return f, err
	}
	if now := k.Whereabouts(ctx, m.Path, m.Former); now != "" {
		if f, loadErr := k.code.Load(ctx, now); loadErr == nil {
			return f, nil
		}
	}
	return nil, err
}

// LoadMoved reads, as LoadHead does, a file that is gone from its path, from where it is
// now; the path becomes that one.
func (k *Keeper) LoadMoved(ctx context.Context, path *string, former []string) (*codebase.File, error) {
	now := k.Whereabouts(ctx, *path, former)
	if now == "" {
		return nil, fs.ErrNotExist
	}
	*path = now
	return k.code.LoadHead(now)
}

// ChangedSince are the places where a file differs from what it was before, one for each
// run of lines.
func ChangedSince(before, now *codebase.File) (places []place.Place) {
	if before == now || before.Text.Binary() || now.Text.Binary() {
		return nil
	}
	for _, h := range vcs.Between(string(before.Text.Bytes()), string(now.Text.Bytes())) {
		places = append(places, place.Place{Path: now.Path, Line: min(h.Line, now.Text.Lines()), Col: 1})
	}
	return places
}

// Whereabouts is where a file lies now that is no longer at its path: at one that it had
// before, or where git says that it went; "" if nobody knows.
func (k *Keeper) Whereabouts(ctx context.Context, path string, former []string) string {
	for _, p := range slices.Backward(former) {
		if k.code.Stamp(p) != (text.Stamp{}) {
			return p
		}
	}
	if k.code.IsOutside(path) {
		return ""
	}
	return k.moves.of(path, k.code.Generation(), func() map[string]string { return vcs.Renamed(ctx, k.code.Root(), path) })
}

// findMoved finds out where files went that are not at their paths any more, all at once: asking
// git takes its time.
func (k *Keeper) findMoved(ctx context.Context, paths []string) {
	var gone []string
	for _, p := range paths {
		if !k.code.IsOutside(p) && k.code.Stamp(p) == (text.Stamp{}) {
			gone = append(gone, p)
		}
	}
	if len(gone) > 1 {
		k.moves.know(gone, k.code.Generation(), func(unknown []string) map[string]string { return vcs.Renamed(ctx, k.code.Root(), unknown...) })
	}
}

// moves keeps where files went, as asking git takes its time.
type moves struct {
	mu    sync.Mutex
	at    int // the generation of the code for which it is known
	known map[string]string
}

func (m *moves) of(path string, generation int, ask func() map[string]string) string {
	m.know([]string{path}, generation, func([]string) map[string]string { return ask() })
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.known[path]
}

// know asks about those paths of which it is not known yet.
func (m *moves) know(paths []string, generation int, ask func(unknown []string) map[string]string) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.known == nil || m.at != generation {
		m.known, m.at = map[string]string{}, generation
	}
	var unknown []string
	for _, p := range paths {
		if _, ok := m.known[p]; !ok {
			unknown = append(unknown, p)
		}
	}
	if len(unknown) == 0 {
		return
	}
	to := ask(unknown)
	for _, p := range unknown {
		m.known[p] = to[p]
	}
}
