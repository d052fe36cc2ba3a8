package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
)

// sweepFlags are those of the command sweep.
type sweepFlags struct {
	root, name, as string
	list, keep     bool
}

func newSweep(colors *string) *cobra.Command {
	var f sweepFlags
	cmd := &cobra.Command{
		Use:   "sweep [LIST]",
		Short: "Keep a list of places as a sweep, and walk through it",
		Long: `Reads a list of places from a file or a pipe, keeps it as a sweep of the project and
opens the full-screen program on its first place; n, p and N walk through it. What
compilers, linters, test runs and the other commands print will do: any line with a
path and a line number. Paths are meant from the present folder, else from the root;
a name by itself is the file of that name, if there is only one.

A report in SARIF 2.1.0, JUnit XML, TAP or of go test -json is known by how it begins.
What it says is shown as problems in the code, too, until it is ticked or the sweep is
removed; of tests, those that failed.

Without a terminal to show it on, or with --keep, it is only kept. --list prints the
sweeps of the project, --as prints one of them: that of --name, or the latest.`,
		Example: `  go vet ./... 2>&1 | rooktrail sweep
  rooktrail references dispatch/roster.go:42:18 | rooktrail sweep --name assigning
  rooktrail sweep --keep lint.txt
  go test -json ./... | rooktrail sweep --name "to mend"
  rooktrail sweep report.sarif
  rooktrail sweep --as markdown > checklist.md`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			root, err := findRoot(f.root)
			if err != nil {
				return err
			}
			ws := workspace.New(root)
			if f.list || f.as != "" {
				know(ws, dataFolder())
			}
			switch {
			case f.list:
				return printSweeps(cmd.OutOrStdout(), ws)
			case f.as != "":
				return exportSweep(cmd.Context(), cmd.OutOrStdout(), ws, &f)
			}
			return readSweep(cmd, ws, &f, args, *colors)
		},
	}
	cmd.Flags().StringVar(&f.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().StringVar(&f.name, "name", "", "name of the sweep (default: that of the list, or \"a list\")")
	cmd.Flags().StringVar(&f.as, "as", "", "print a sweep: text, markdown or json")
	cmd.Flags().BoolVar(&f.list, "list", false, "print the sweeps of the project")
	cmd.Flags().BoolVar(&f.keep, "keep", false, "only keep it")
	return cmd
}

// printSweeps prints the sweeps, the one used last first.
func printSweeps(out io.Writer, ws *workspace.Workspace) error {
	all, err := ws.Lists.Sweeps()
	for _, s := range all {
		c := s.Count()
		if _, err := fmt.Fprintf(out, "%d of %d to do\t%s\n", c.Left, c.All, s.Name); err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	if err == nil && len(all) == 0 {
		return errNothing
	}
	return err
}

// exportSweep prints the sweep that is named, or the one used last, with its places
// where they are now.
func exportSweep(ctx context.Context, out io.Writer, ws *workspace.Workspace, f *sweepFlags) error {
	all, err := ws.Lists.Sweeps()
	for _, s := range all {
		if f.name != "" && s.Name != f.name {
			continue
		}
		ws.Lists.Locate(ctx, s)
		switch f.as {
		case "text":
			return s.WriteText(out)
		case "markdown":
			return s.WriteMarkdown(out)
		case "json":
			return s.WriteJSON(out)
		}
		return fmt.Errorf("a sweep cannot be printed as %q; text, markdown and json are known", f.as)
	}
	if f.name != "" && err == nil {
		return fmt.Errorf("there is no sweep called %q; rooktrail sweep --list prints their names", f.name)
	}
	if err == nil {
		return errNothing
	}
	return err
}

// readSweep reads a list, keeps it and opens the program on it.
func readSweep(cmd *cobra.Command, ws *workspace.Workspace, f *sweepFlags, args []string, colors string) error {
	in, name, err := listToRead(cmd, args)
	if err != nil {
		return err
	}
	defer in.Close()
	if f.name != "" {
		name = f.name
	}
	if err := ws.Code.Read(cmd.Context()); err != nil {
		return err
	}
	s, report, err := ws.Lists.ReadList(cmd.Context(), name, folderInProject(ws.Code.Root()), in)
	if err != nil {
		return err
	}
	if len(s.Items) == 0 && report.Passed > 0 && report.Broken == "" {
		fmt.Fprintf(cmd.ErrOrStderr(), "no test of the report failed; tests %d\n", report.Passed)
		return errNothing
	}
	if len(s.Items) == 0 {
		return noPlaces(report)
	}
	know(ws, dataFolder()) // from here on something of it is kept
	s.Go(0)
	if err := ws.Lists.KeepSweep(s); err != nil {
		return err
	}
	fmt.Fprintln(cmd.ErrOrStderr(), keptWords(s, report))
	if f.keep || !isTerminal(cmd.OutOrStdout()) {
		return nil
	}
	if !isTerminal(cmd.InOrStdin()) { // the list came through it
		done, err := fromTerminal(cmd)
		if err != nil {
			return fmt.Errorf("the sweep is kept, but there is no terminal to show it on: %w", err)
		}
		defer done()
	}
	return showScreen(cmd, screen{root: ws.Code.Root(), start: s.Items[0].Place(), colors: colors, indexes: indexFolder(), data: dataFolder()})
}

// listToRead is what the list is read from, and what it is called.
func listToRead(cmd *cobra.Command, args []string) (in io.ReadCloser, name string, err error) {
	if len(args) > 0 && args[0] != "-" {
		file, err := os.Open(args[0])
		if err != nil {
			return nil, "", fmt.Errorf("reading the list %s: %w", args[0], project.WithoutPath(err))
		}
		return file, filepath.Base(args[0]), nil
	}
	if isTerminal(cmd.InOrStdin()) {
		return nil, "", errors.New("there is no list to read: name a file, or pipe one in, as in: go vet ./... 2>&1 | rooktrail sweep")
	}
	return io.NopCloser(cmd.InOrStdin()), "a list", nil
}

// folderInProject is the present folder as the project writes it; "." if it lies
// elsewhere.
func folderInProject(root string) string {
	dir, err := os.Getwd()
	if err == nil {
		dir, err = filepath.EvalSymlinks(dir)
	}
	if err != nil {
		return "."
	}
	if rel := project.Relative(root, dir); !filepath.IsAbs(rel) {
		return rel
	}
	return "."
}

// noPlaces says why nothing of a list could be kept.
func noPlaces(r lists.ListReport) error {
	if r.Outside > 0 {
		return fmt.Errorf("none of the files that the list names is in this project, such as %s; --root says where the project is", r.FirstOutside)
	}
	if r.Broken != "" {
		return fmt.Errorf("the list was taken for %s, of which nothing could be read: %s", r.Form, r.Broken)
	}
	return errors.New("the list names no place: lines like path:line:col: text do, and reports in SARIF, JUnit XML, TAP and of go test -json")
}

// keptWords says what became of a list.
func keptWords(s *sweep.Sweep, r lists.ListReport) string {
	words := []string{fmt.Sprintf("kept as the sweep %q: places %d", s.Name, len(s.Items))}
	if r.Passed > 0 {
		words = append(words, fmt.Sprintf("tests that did not fail %d", r.Passed))
	}
	if r.Broken != "" {
		words = append(words, fmt.Sprintf("the rest of the report could not be read: %s", r.Broken))
	}
	if r.Outside > 0 {
		words = append(words, fmt.Sprintf("in files that are not in the project %d, such as %s", r.Outside, r.FirstOutside))
	}
	if r.More > 0 {
		words = append(words, fmt.Sprintf("left out, as a sweep holds no more than %d: places %d", sweep.Most, r.More))
	}
	if r.Others > 0 {
		words = append(words, fmt.Sprintf("lines without a place %d", r.Others))
	}
	return strings.Join(words, "; ")
}
