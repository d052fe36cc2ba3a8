package lists

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/search"
)

// KnowSweeps keeps the sweeps of the project in a folder.
func (k *Keeper) KnowSweeps(folder string) { k.sweeps = sweep.NewStore(folder) }

// Sweeps are those that were kept, the one used last first. With an error, too, what
// could be read is there.
func (k *Keeper) Sweeps() ([]*sweep.Sweep, error) {
	if k.sweeps == nil {
		return nil, nil
	}
	all, err := k.sweeps.Load()
	k.reports.loaded(all)
	return all, err
}

// KeepSweep keeps a sweep as it is now. It brings the given one up to date with what
// another program has done to it.
func (k *Keeper) KeepSweep(s *sweep.Sweep) error {
	if k.sweeps == nil {
		return nil
	}
	err := k.sweeps.Save(s)
	k.reports.changed(s)
	return err
}

// RemoveSweep forgets a sweep.
func (k *Keeper) RemoveSweep(id string) error {
	if k.sweeps == nil {
		return nil
	}
	k.reports.removed(id)
	return k.sweeps.Remove(id)
}

// NewSweep makes a sweep of places; it is not kept yet.
func (k *Keeper) NewSweep(ctx context.Context, name string, source sweep.Source, all []answer.Answer) *sweep.Sweep {
	return sweep.New(name, source, k.sweepItems(ctx, all))
}

func (k *Keeper) sweepItems(ctx context.Context, all []answer.Answer) []sweep.Item {
	if len(all) > sweep.Most {
		k.code.Note(fmt.Sprintf("a sweep holds %d places at the most; %d more were left out", sweep.Most, len(all)-sweep.Most))
		all = all[:sweep.Most]
	}
	a := anchoring{w: k}
	items := make([]sweep.Item, 0, len(all))
	for i := range all {
		d := &all[i]
		items = append(items, sweep.Item{Memory: place.Remember(a.anchor(ctx, d.Place())), Length: d.At.Len(), Role: d.Role, In: d.Around(), Note: d.Why})
	}
	return items
}

// Locate finds all places of a sweep again and notes what became of them.
func (k *Keeper) Locate(ctx context.Context, s *sweep.Sweep) {
	byFile := map[string][]int{}
	for i := range s.Items {
		byFile[s.Items[i].Path] = append(byFile[s.Items[i].Path], i)
	}
	paths := slices.Sorted(maps.Keys(byFile))
	k.findMoved(ctx, paths)
	for _, p := range paths {
		if ctx.Err() != nil {
			return
		}
		if k.code.Unsaved(p) != nil {
			continue // its places move with what is written
		}
		f, err := k.loadAnchored(ctx, &s.Items[byFile[p][0]].Memory)
		var found *place.Finder
		if err == nil {
			found = finder(f)
		}
		for _, i := range byFile[p] {
			it := &s.Items[i]
			switch {
			case err != nil:
				it.Fate = place.Gone
			case it.Text == "" && it.Before == nil && it.After == nil: // an empty file, or one not there before
				it.Fate = place.Same
			default:
				it.Fate = update(found, f, &it.Memory)
			}
		}
	}
}

// ErrNotAgain says that the question of a sweep cannot be asked again.
var ErrNotAgain = errors.New("it was read from a list, which cannot be asked for again; import the list anew")

// RefreshSweep asks the question of a sweep again. It says how many places are new and how
// many are no answer any more. The sweep is located, too.
func (k *Keeper) RefreshSweep(ctx context.Context, s *sweep.Sweep) (fresh, settled int, err error) {
	k.Locate(ctx, s)
	all, err := k.AskAgain(ctx, &s.Source)
	if err == nil {
		err = ctx.Err()
	}
	if err != nil {
		return 0, 0, fmt.Errorf("refreshing the sweep %q: %w", s.Name, err)
	}
	fresh, settled = s.Refreshed(k.sweepItems(ctx, all))
	return fresh, settled, nil
}

// AskAgain finds the places that answer a question, as things are now.
func (k *Keeper) AskAgain(ctx context.Context, from *sweep.Source) ([]answer.Answer, error) {
	switch from.Kind {
	case sweep.OfText:
		if from.Query != nil {
			return k.TextPlaces(ctx, *from.Query)
		}
	case sweep.OfUnused:
		return k.UnusedPlaces(ctx, from.Folder), nil
	case sweep.OfWrong:
		return k.WrongPlaces(ctx, from.Folder), nil
	case sweep.OfChanged:
		return k.ChangedPlaces(ctx, from.Rev), nil
	case sweep.OfWay:
		way, ok := answer.ParseWay(from.Way)
		if !ok || from.From == nil {
			break
		}
		at := place.Remember(*from.From)
		fate, err := k.Find(ctx, &at)
		if err != nil {
			return nil, fmt.Errorf("the name it was asked for is not there any more: %w", err)
		}
		if fate == place.Gone {
			return nil, fmt.Errorf("the name it was asked for is not in %s any more", at.Path)
		}
		f, err := k.code.Load(ctx, at.Path)
		if err != nil {
			return nil, err
		}
		_, all := k.answers.Along(ctx, way, at.Path, f.Text.Offset(at.Line, at.Col))
		all = slices.DeleteFunc(all, func(a answer.Answer) bool { return a.Possible })
		return all, nil
	}
	return nil, ErrNotAgain
}

// mostSwept is how many places a list has at the most that is made for a sweep.
const mostSwept = 20000

// TextPlaces are the places where a text is found, file by file.
func (k *Keeper) TextPlaces(ctx context.Context, q find.Query) ([]answer.Answer, error) {
	var all []answer.Answer
	_, err := k.search.SearchText(ctx, q, mostSwept, func(hits []search.TextHit) bool {
		for i := range hits {
			all = append(all, k.answers.Found(ctx, &hits[i]))
		}
		return true
	})
	if err != nil {
		return nil, fmt.Errorf("looking for %q: %w", q.Pattern, err)
	}
	return all, ctx.Err()
}

// UnusedPlaces are the definitions in a folder that nothing refers to, in the order of
// the files.
func (k *Keeper) UnusedPlaces(ctx context.Context, folder string) []answer.Answer {
	var all []answer.Answer
	k.answers.Unused(ctx, folder, func(unused answer.Answer) bool {
		all = append(all, unused)
		return len(all) < mostSwept
	})
	slices.SortFunc(all, byPlace)
	return all
}

// WrongPlaces are what is wrong in a folder, in the order of the files.
func (k *Keeper) WrongPlaces(ctx context.Context, folder string) []answer.Answer {
	if k.Wrong == nil {
		return nil
	}
	return k.Wrong(ctx, folder)
}

// ChangedPlaces are the hunks in which files differ from a commit, "" for the last one (see vcs.Resolve), in the order of
// the files; none where there is no repository, or no such commit.
func (k *Keeper) ChangedPlaces(ctx context.Context, rev string) (all []answer.Answer) {
	reader := hunk.New(k.code)
	commit, err := reader.Commit(ctx, rev)
	if err != nil {
		return nil
	}
	files, err := reader.Differences(ctx, commit)
	if err != nil {
		return nil
	}
	for _, d := range files {
		f, err := k.code.Load(ctx, d.Path)
		if d.Gone || err != nil || f.Text.Binary() {
			continue // removed, or with no lines
		}
		diff, err := reader.File(ctx, commit, d.Was, f)
		if err != nil {
			return all // it was cancelled
		}
		for _, h := range diff.Hunks {
			all = append(all, changedPlace(f, h))
		}
	}
	return all
}

func changedPlace(f *codebase.File, h hunk.Hunk) answer.Answer {
	line := h.Line(f.Text)
	for line < h.Now.End()-1 && len(bytes.TrimSpace(f.Text.Line(line))) == 0 {
		line++
	}
	text := f.Text.Line(line)
	col := len(text) - len(bytes.TrimLeft(text, " \t")) + 1
	start := uint32(f.Text.Offset(line, col))
	changed := answer.Standing(f, place.Range{Start: start, End: start})
	changed.Role, changed.Why = "changed", amount(h)
	switch {
	case h.Was.Count == 0:
		changed.Role = "added"
	case h.Now.Count == 0:
		changed.Role = "removed"
	}
	return changed
}

// amount says how many lines a change has.
func amount(h hunk.Hunk) string {
	plus, minus := fmt.Sprintf("+%d", h.Now.Count), fmt.Sprintf("−%d", h.Was.Count)
	switch {
	case h.Was.Count == 0:
		return plus
	case h.Now.Count == 0:
		return minus
	}
	return plus + " " + minus
}

func byPlace(a, b answer.Answer) int {
	if a.Path != b.Path {
		return strings.Compare(a.Path, b.Path)
	}
	return a.Line - b.Line
}
