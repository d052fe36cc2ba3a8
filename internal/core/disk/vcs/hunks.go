package vcs

import (
	"strings"

	"github.com/go-git/go-git/v5/utils/diff"
	"github.com/sergi/go-diff/diffmatchpatch"
)

// Hunk is a run of lines that differs.
type Hunk struct {
	// Line is the first of the lines as they are now, counted from 1; where lines were
	// only removed, the one behind them. Added and Removed count lines.
	Line, Added, Removed int
}

// Between compares two texts line by line.
func Between(was, now string) []Hunk { return hunks(was, now) }

func hunks(was, now string) (all []Hunk) {
	line := 1
	var open *Hunk
	for _, d := range diff.Do(was, now) {
		n := lineCount(d.Text)
		if d.Type == diffmatchpatch.DiffEqual {
			line += n
			open = nil
			continue
		}
		if open == nil {
			all = append(all, Hunk{Line: line})
			open = &all[len(all)-1]
		}
		if d.Type == diffmatchpatch.DiffInsert {
			open.Added += n
			line += n
		} else {
			open.Removed += n
		}
	}
	return all
}

func lineCount(s string) int {
	n := strings.Count(s, "\n")
	if s != "" && !strings.HasSuffix(s, "\n") {
		n++
	}
	return n
}
