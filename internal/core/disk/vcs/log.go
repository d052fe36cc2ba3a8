package vcs

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
)

// Entry is a commit, and the files that it has changed.
type Entry struct {
	Author string
	When   time.Time
	// Files are relative to the folder that was asked about. Added and Removed are how many lines of each, if that was asked for;
	// -1 if it is binary.
	Files          []string
	Added, Removed []int
}

// Log goes through the commits that have changed something in dir, the latest first, without merges, and at most so many;
// stopped says that there are more. Files go by the names that they had. To count lines takes much longer.
func Log(ctx context.Context, dir string, most int, count bool, each func(*Entry)) (stopped bool, err error) {
	list := "--name-only"
	if count {
		list = "--numstat"
	}
	cmd := Git(ctx, dir, "log", "-n", strconv.Itoa(most+1), "--no-merges", "--no-renames", "--no-ext-diff", "--no-textconv", "--no-color", "--no-show-signature",
		"--relative", list, "-z", "--format=%x01%an%x00%at%x00", "HEAD", "--", ".")
	pipe, err := cmd.StdoutPipe()
	if err != nil {
		return false, fmt.Errorf("asking git for the commits: %w", err)
	}
	if err := Start(cmd); err != nil {
		return false, ErrNoRepository
	}
	n, readErr := readLog(pipe, most, each)
	if n > most {
		_ = cmd.Process.Kill() // it was not to go on
		_ = cmd.Wait()
		return true, ctx.Err()
	}
	if err := cmd.Wait(); err != nil {
		if ctx.Err() != nil {
			return false, ctx.Err()
		}
		return false, fmt.Errorf("asking git for the commits: %w", ErrNoRepository)
	}
	return false, readErr
}

// readLog reads what git prints: for each commit a 1, then fields that end with a 0.
func readLog(from io.Reader, most int, each func(*Entry)) (n int, err error) {
	r := bufio.NewReaderSize(from, 1<<16)
	var at *Entry
	done := func() {
		if at != nil && n <= most {
			each(at)
		}
	}
	for {
		field, err := r.ReadString(0)
		if err == io.EOF {
			done()
			return n, nil
		}
		if err != nil {
			return n, fmt.Errorf("reading the commits: %w", err)
		}
		field = strings.TrimSuffix(strings.TrimLeft(field, "\n"), "\x00")
		if author, is := strings.CutPrefix(field, "\x01"); is {
			done()
			if n++; n > most {
				return n, nil
			}
			at = &Entry{Author: author}
			when, err := r.ReadString(0)
			if err != nil {
				return n, fmt.Errorf("reading the commits: %w", err)
			}
			seconds, err := strconv.ParseInt(strings.TrimSuffix(when, "\x00"), 10, 64)
			if err != nil {
				return n, fmt.Errorf("reading the time of a commit: %w", err)
			}
			at.When = time.Unix(seconds, 0)
			continue
		}
		switch parts := strings.SplitN(field, "\t", 3); {
		case at == nil || field == "":
		case len(parts) == 3:
			at.Files = append(at.Files, parts[2])
			at.Added, at.Removed = append(at.Added, lines(parts[0])), append(at.Removed, lines(parts[1]))
		default:
			at.Files = append(at.Files, field)
		}
	}
}

// lines is a number of lines as git prints it; -1 for a binary file.
func lines(s string) int {
	n, err := strconv.Atoi(s)
	if err != nil {
		return -1
	}
	return n
}
