package cli

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/hunk"
)

// hunkResult is a hunk as it is printed in JSON.
type hunkResult struct {
	in
	Line int `json:"line"`
	Col  int `json:"col"`
	// Kind is added, removed or changed; Was is the path the commit has, "" for a file that it does not have; Gone says
	// that the file is not there any more.
	Kind    string   `json:"kind"`
	Was     string   `json:"was"`
	WasLine int      `json:"was_line"`
	Gone    bool     `json:"gone,omitempty"`
	Added   []string `json:"added"`
	Removed []string `json:"removed"`
}

func newChanges() *cobra.Command {
	f := &finder{}
	staged := false
	cmd := f.command("changes [REV]", "Print what differs from the last commit, or another one",
		`Prints the hunks in which the files differ from a commit, as path:line:col: text, with
the first line of each as it is now, or of lines that were taken out as they were. REV
is a commit, tag or branch as git writes it; main... is the commit at which this branch
has left main. With --json each hunk has its lines before and after.`,
		"  rooktrail changes\n  rooktrail changes main...\n  rooktrail changes --staged --json", cobra.MaximumNArgs(1),
		func(ctx context.Context, args []string) error {
			rev := ""
			if len(args) > 0 {
				rev = args[0]
			}
			if staged {
				if rev != "" {
					return fmt.Errorf("--staged compares with what is staged; leave out %s", rev)
				}
				rev = vcs.Staged
			}
			return printChanges(ctx, f, rev)
		})
	cmd.Flags().BoolVar(&staged, "staged", false, "compare with what is staged, instead of a commit")
	return cmd
}

func printChanges(ctx context.Context, f *finder, rev string) error {
	reader := f.ws.Changes.Hunks
	commit, err := reader.Commit(ctx, rev)
	if err != nil {
		return err
	}
	all, err := reader.Differences(ctx, commit)
	if err != nil {
		return err
	}
	for _, d := range all {
		if err := printDifference(ctx, f, commit, d); err != nil {
			return err
		}
	}
	return nil
}

func printDifference(ctx context.Context, f *finder, commit vcs.Commit, d vcs.Difference) error {
	one := hunkResult{in: inFile(d.Path), Line: 1, Col: 1, Was: d.Was, WasLine: 1, Gone: d.Gone}
	if d.Gone {
		one.Kind = hunk.Removed.String()
		return f.print(one, d.Path+":1:1: the file is gone")
	}
	file, err := f.ws.Code.Load(ctx, d.Path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil // it went meanwhile
	}
	if err != nil {
		return err
	}
	diff, err := f.ws.Changes.Hunks.File(ctx, commit, d.Was, file)
	if err != nil {
		return err
	}
	if len(diff.Hunks) == 0 {
		return printWhole(f, one, diff)
	}
	for _, h := range diff.Hunks {
		one.Kind, one.WasLine, one.Line = h.Kind().String(), h.Was.First, h.Line(diff.Now)
		one.Removed, one.Added = linesOf(diff.Was, h.Was), linesOf(diff.Now, h.Now)
		words := "removed: "
		shown := one.Removed
		if h.Now.Count > 0 {
			words, shown = "", one.Added
		}
		first := shown[0]
		one.Col = 1
		if h.Now.Count > 0 {
			one.Col = len(first) - len(strings.TrimLeft(first, " \t")) + 1
		}
		if err := f.print(one, fmt.Sprintf("%s:%d:%d: %s%s", d.Path, one.Line, one.Col, words, strings.TrimSpace(first))); err != nil {
			return err
		}
	}
	return nil
}

// printWhole prints a file that differs in no line: it is binary, empty, or has only another path.
func printWhole(f *finder, one hunkResult, diff *hunk.Diff) error {
	words := ""
	switch {
	case diff.Now.Binary() || diff.Was.Binary():
		one.Kind, words = hunk.Changed.String(), "binary"
	case one.Was == "":
		one.Kind, words = hunk.Added.String(), "an empty file"
	case one.Was != one.Path:
		one.Kind, words = hunk.Changed.String(), "was "+one.Was
	default:
		return nil // it was only touched, or has other line ends
	}
	return f.print(one, fmt.Sprintf("%s:1:1: %s", one.Path, words))
}

// linesOf are lines of a text, without their line ends.
func linesOf(d *text.Document, l hunk.Lines) []string {
	lines := []string{}
	for n := l.First; n < l.End(); n++ {
		lines = append(lines, string(d.Line(n)))
	}
	return lines
}
