package vcs

import (
	"bytes"
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"rooktrail/internal/core/disk/door"
)

// Revision is a commit that has changed some lines of a file.
type Revision struct {
	Commit
	Author  string
	When    time.Time
	Summary string
	// Path is where the file was then, relative to the folder that was asked about. First and Last are the lines as the
	// commit has left them, counted from 1.
	Path        string
	First, Last int
}

// mostRevisions is how many commits are told of.
const mostRevisions = 200

// History are the commits that have changed some lines of a file, counted from 1 in what a commit has of it, the latest
// first.
func History(ctx context.Context, dir string, c Commit, path string, first, last int) ([]Revision, error) {
	if !door.Inside(path) || first < 1 || last < first {
		return nil, fmt.Errorf("asking git for the history of lines %d to %d of %s: there are no such lines", first, last, path)
	}
	prefix, err := output(ctx, dir, "rev-parse", "--show-prefix")
	if err != nil {
		return nil, ErrNoRepository
	}
	in := strings.TrimSpace(string(prefix))
	out, err := output(ctx, dir, "log", "-n", strconv.Itoa(mostRevisions), "--no-ext-diff", "--no-textconv", "--no-color", "--no-show-signature",
		"--format=%x01%H%x00%an%x00%at%x00%s%x00", fmt.Sprintf("-L%d,%d:./%s", first, last, path), c.ID)
	if err != nil {
		return nil, err
	}
	var all []Revision
	for part := range bytes.SplitSeq(out, []byte{1}) {
		if r, ok := parseRevision(string(part), in); ok {
			all = append(all, r)
		}
	}
	return all, nil
}

// parseRevision reads what git log -L prints of one commit: its line, and the hunks of the lines in question.
func parseRevision(part, prefix string) (r Revision, ok bool) {
	fields := strings.SplitN(part, "\x00", 5)
	if len(fields) < 5 {
		return r, false
	}
	seconds, err := strconv.ParseInt(fields[2], 10, 64)
	if err != nil {
		return r, false
	}
	r = Revision{Commit: Commit{fields[0], fields[0][:min(len(fields[0]), 10)]}, Author: fields[1], When: time.Unix(seconds, 0), Summary: fields[3]}
	for line := range strings.SplitSeq(fields[4], "\n") {
		if name, is := strings.CutPrefix(line, "+++ b/"); is {
			r.Path = strings.TrimPrefix(strings.TrimSuffix(name, "\t"), prefix)
		}
		var start, count int
		if hunk, is := strings.CutPrefix(line, "@@ -"); is && r.First == 0 {
			_, now, _ := strings.Cut(hunk, "+")
			now, _, _ = strings.Cut(now, " ")
			from, many, several := strings.Cut(now, ",")
			start, _ = strconv.Atoi(from)
			if count = 1; several {
				count, _ = strconv.Atoi(many)
			}
			r.First, r.Last = max(start, 1), max(start+count-1, start, 1)
		}
	}
	return r, r.Path != "" && door.Inside(r.Path)
}
