package tests

import (
	"context"
	"slices"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/tests"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// watch runs tests when files are saved.
type watch struct {
	on bool
	// listing is that of the project, which is another one whenever a file has changed on disk.
	listing *project.Listing
	// stamps are when files were changed last, and texts what those were that were on the screen.
	stamps map[string]int64
	texts  map[string]*text.Document
	busy   bool
}

// toggleWatch has tests be run when files are saved, or not any more.
func (m *Model) toggleWatch() surface.Intent {
	if m.watch.on {
		m.watch = watch{}
		return surface.Say("tests are not run any more when a file is saved")
	}
	m.watch = watch{on: true, listing: m.find.Listing(), stamps: m.find.Stamps(), texts: map[string]*text.Document{}}
	m.remember()
	return surface.Say("the tests that a change can reach are run when it is saved; {test-watch} ends that")
}

// remember keeps the texts on the screen, to tell what was changed in them.
func (m *Model) remember() {
	for _, s := range m.host.Sides() {
		if f := s.Code.File(); f != nil && m.watch.texts[f.Path] == nil {
			m.watch.texts[f.Path] = f.Text
		}
	}
}

// saved runs the tests that the files which were saved since can reach.
func (m *Model) saved() tea.Cmd {
	w := &m.watch
	if !w.on || w.busy {
		return nil
	}
	m.remember()
	now := m.find.Listing()
	if now == w.listing {
		return nil
	}
	w.listing, w.busy = now, true
	was, texts, find := w.stamps, w.texts, m.find
	type changed struct {
		stamps map[string]int64
		tests  []tests.Test
		files  []string
	}
	return surface.Do(m.asker, func(ctx context.Context) changed {
		c := changed{stamps: find.Stamps()}
		for p, at := range c.stamps {
			if was[p] != at {
				c.files = append(c.files, p)
			}
		}
		slices.Sort(c.files)
		const most = 20 // of files changed at once: more are a change of branch
		if len(c.files) <= most {
			for _, p := range c.files {
				c.tests = append(c.tests, m.reachedBy(ctx, p, texts[p])...)
			}
		}
		return c
	}, func(c changed) surface.Intent {
		w.busy = false
		if !w.on {
			return surface.Intent{}
		}
		w.stamps = c.stamps
		for _, p := range c.files {
			delete(w.texts, p)
		}
		m.remember()
		if len(c.tests) == 0 {
			return surface.Intent{}
		}
		title := "what " + sheet.Count(len(c.files), "saved file", "saved files") + " can reach"
		return m.ask(func(context.Context) wanted {
			return wanted{Wanted: tests.Wanted{Title: title, Tests: unique(c.tests)}}
		})
	})
}

// mostReached is of how many functions of a file the tests are looked for.
const mostReached = 12

// reachedBy are the tests that a change of a file can reach; was is its text before, nil if that is not known.
func (m *Model) reachedBy(ctx context.Context, p string, was *text.Document) (all []tests.Test) {
	file, err := m.project.Load(ctx, p)
	if err != nil || file.Facts == nil {
		return nil
	}
	offsets := map[int]bool{}
	if was != nil {
		shift := 0
		for _, e := range text.Between(was, file.Text) {
			start := e.Start + shift
			offsets[start], offsets[start+max(len(e.New)-1, 0)] = true, true
			shift += len(e.New) - (e.End - e.Start)
		}
	}
	tried := 0
	entries, _ := file.Outline()
	for i := range entries {
		e := &entries[i]
		if !e.Kind.IsCallable() {
			continue
		}
		touched := len(offsets) == 0
		for at := range offsets {
			touched = touched || int(e.Full.Start) <= at && at <= int(e.Full.End)
		}
		if !touched || tried >= mostReached {
			continue
		}
		tried++
		if t, ok := m.find.Around(file, int(e.At.Start)); ok {
			all = append(all, t)
			continue
		}
		reaching, _ := m.find.Reaching(ctx, p, int(e.At.Start))
		all = append(all, reaching...)
	}
	for at := range offsets {
		if t, ok := m.find.Around(file, at); ok {
			all = append(all, t)
		}
	}
	if tried == 0 && len(all) == 0 { // it is no function that was changed, or one that cannot be read
		for _, beside := range m.find.Beside(p) {
			if f, err := m.project.Load(ctx, beside); err == nil {
				all = append(all, m.find.In(f)...)
			}
		}
	}
	return all
}

// unique leaves out tests that are there twice.
func unique(all []tests.Test) (left []tests.Test) {
	for _, t := range all {
		if !slices.ContainsFunc(left, func(o tests.Test) bool { return o.Path == t.Path && slices.Equal(o.Names, t.Names) }) {
			left = append(left, t)
		}
	}
	return left
}
