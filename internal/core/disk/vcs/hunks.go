package vcs

import (
	"bytes"
	"context"
	"strings"

	"github.com/go-git/go-git/v5/utils/diff"
	"github.com/sergi/go-diff/diffmatchpatch"
)

// Hunk is a run of lines that differs from the last commit.
type Hunk struct {
	// Line is the first of the lines as they are now, counted from 1; where lines were
	// only removed, the one behind them. Added and Removed count lines.
	Line, Added, Removed int
}

// Hunks compares the text of a file with the last commit. The path is relative to
// dir; of a file that the commit does not have, all lines are added.
//
// The committed text is asked for by itself, since git diff may run the filters that a
// repository configures.
func Hunks(ctx context.Context, dir, path string, text []byte) ([]Hunk, error) {
	was, err := output(ctx, dir, "cat-file", "blob", "HEAD:./"+path)
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return []Hunk{{Line: 1, Added: lineCount(string(text))}}, nil
	}
	if !bytes.Contains(was, []byte("\r\n")) { // checked out with other line ends
		text = bytes.ReplaceAll(text, []byte("\r\n"), []byte("\n"))
	}
	return hunks(string(was), string(text)), nil
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
