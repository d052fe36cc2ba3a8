package tests

import (
	"context"
	"fmt"

	"rooktrail/internal/core/tests"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// cover marks the lines that no test ran, as a report says, or marks them no more.
func (m *Model) cover() surface.Intent {
	if m.book.Uncover() {
		return surface.Say("lines that no test ran are not marked any more; {covered} reads a report of them again")
	}
	return m.asks.Ask("report of covered lines:", m.book.CoverFile(), func(file string) surface.Intent {
		if file == "" {
			return surface.Say("no report was named; go test -coverprofile=cover.out ./... writes one, for example")
		}
		type read struct {
			tests.Covering
			err error
		}
		return surface.Begin(surface.Do(m.asker, func(ctx context.Context) read {
			c, err := m.book.Cover(ctx, file)
			return read{c, err}
		}, func(r read) surface.Intent {
			if r.err != nil {
				return surface.SayError(r.err)
			}
			words := fmt.Sprintf("%d %% of %s were run in %s, by %s", r.Ran*100/max(r.Lines, 1), sheet.Count(r.Lines, "line", "lines"), sheet.Count(r.Files, "file", "files"), r.Form)
			if r.Older {
				words = "files were changed since the report was written; " + words
			}
			if r.Broken != "" {
				words += "; the rest of the report could not be read: " + r.Broken
			}
			return surface.Say("%s; {bare-next} goes to the next that was not", words).And(surface.Intent{Arrange: true})
		}))
	})
}

// nextBare goes to the next line that no test ran, or to the one before.
func (m *Model) nextBare(forward bool) surface.Intent {
	if !m.book.Covers() {
		return m.cover()
	}
	here := m.host.Here()
	if here.File != nil {
		if line, ok := next(m.book.Bare(here.File), here.View.Place.Line, forward); ok {
			return surface.Go(surface.Visit{Path: here.File.Path, Line: line, Col: 1, How: "a line that no test ran", Lead: true})
		}
	}
	from := here.View.Place.Path
	type found struct {
		path string
		line int
		ok   bool
	}
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) found {
		p, line, ok := m.book.NextBare(ctx, from, forward)
		return found{p, line, ok}
	}, func(f found) surface.Intent {
		if !f.ok {
			return surface.Say("tests ran all other lines that the report knows of")
		}
		return surface.Go(surface.Visit{Path: f.path, Line: f.line, Col: 1, How: "a line that no test ran", Lead: true})
	}))
}

// next is the first line of the next run of lines from one on, or of the one before.
func next(all []int, from int, forward bool) (int, bool) {
	begins := func(i int) bool { return i == 0 || all[i-1] != all[i]-1 }
	if forward {
		for i, line := range all {
			if line > from && begins(i) {
				return line, true
			}
		}
		return 0, false
	}
	for i := len(all) - 1; i >= 0; i-- {
		if all[i] < from && begins(i) {
			return all[i], true
		}
	}
	return 0, false
}
