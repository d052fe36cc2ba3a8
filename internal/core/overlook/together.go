package overlook

import (
	"cmp"
	"fmt"
	"path"
	"slices"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/place"
)

// Bounds of reading the history: commits, and files of one commit, since in one that changes very many they have nothing
// to do with each other.
const (
	mostCommits  = 20000
	mostInCommit = 40
)

// pair are two files that were changed in the same commit, so many times.
type pair struct {
	a, b  string
	times int
}

// together draws which files are often changed in the same commit.
func (s *sketch) together() error {
	from := cmp.Or(s.asked.Path, ".")
	changes, commits := map[string]int{}, 0
	pairs := map[[2]string]int{}
	stopped, err := vcs.Log(s.ctx, s.code.Root(), mostCommits, false, func(e *vcs.Entry) {
		commits++
		var files []string
		for _, f := range e.Files {
			if s.code.Listing().IsFile(f) {
				changes[f]++
				files = append(files, f)
			}
		}
		if len(files) > mostInCommit {
			return
		}
		slices.Sort(files)
		for i, a := range files {
			for _, b := range files[i+1:] {
				if below(a, from) || below(b, from) {
					pairs[[2]string{a, b}]++
				}
			}
		}
	})
	if err != nil {
		return err
	}
	all := s.often(pairs, changes)
	if len(all) == 0 {
		return fmt.Errorf("in %d commits no two files of %s were changed together more than once", commits, from)
	}
	s.scene.Title = "Changed together: " + from
	if from == "." {
		s.scene.Title = "Changed together in " + s.code.Name()
	}
	for _, p := range all {
		a, okA := s.fileBox(p.a, changes[p.a])
		b, okB := s.fileBox(p.b, changes[p.b])
		if okA && okB {
			s.line(a, b, draw.Usual, fmt.Sprintf("%d×", p.times))
		}
	}
	if from != "." {
		if at, ok := s.index[from]; ok {
			s.scene.Boxes[at].Look = draw.Present
		}
	}
	bound := ""
	if stopped {
		bound = fmt.Sprintf("the last %d", commits)
	} else {
		bound = fmt.Sprintf("all %d", commits)
	}
	s.scene.Notes = append(s.scene.Notes, fmt.Sprintf("Of %s commits, without those that change more than %d files. The lines have no direction.", bound, mostInCommit))
	s.means(draw.Present, false, "what was asked about")
	return nil
}

// often are the pairs that were changed together often, for how often each was changed, the most often first.
func (s *sketch) often(pairs map[[2]string]int, changes map[string]int) (all []pair) {
	const least, few = 2, 60
	for k, n := range pairs {
		if n < least || 3*n < min(changes[k[0]], changes[k[1]]) {
			continue
		}
		if s.wanted(k[0], s.code.Languages().IsTest(k[0])) && s.wanted(k[1], s.code.Languages().IsTest(k[1])) {
			all = append(all, pair{k[0], k[1], n})
		}
	}
	slices.SortFunc(all, func(x, y pair) int {
		return cmp.Or(cmp.Compare(y.times, x.times), cmp.Compare(x.a, y.a), cmp.Compare(x.b, y.b))
	})
	most := few * max(1, s.asked.Depth)
	if s.asked.Most != usual {
		most = s.asked.Most
	}
	if len(all) > most {
		s.scene.Notes = append(s.scene.Notes, fmt.Sprintf("The %d pairs that were changed together most often, of %d.", most, len(all)))
		all = all[:most]
	}
	return all
}

func (s *sketch) fileBox(p string, changes int) (int, bool) {
	at, _, ok := s.box(draw.Box{ID: p, Kind: fmt.Sprintf("%d changes", changes), Name: path.Base(p), Where: path.Dir(p), Group: s.groupOf(p), Layer: -1, Place: place.Place{Path: p, Line: 1}, Symbol: p})
	return at, ok
}
