package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	tea "charm.land/bubbletea/v2"
	"github.com/spf13/cobra"

	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
)

// trailFlags are those of the command trail.
type trailFlags struct {
	root, name, as string
	list           bool
	imported       string
}

func newTrail() *cobra.Command {
	var f trailFlags
	cmd := &cobra.Command{
		Use:   "trail",
		Short: "Print the trail, to show it to somebody else",
		Long: `Prints the stops of the trail that was walked last, or of that of --name, as
path:line:col: text; with --as markdown with how one came there, the notes and the code
around, with --as json in a form that rooktrail walk opens as a guided walk. --list prints
the trails of the project. --import takes a walk in as a trail.`,
		Example: `  rooktrail trail --as markdown > why-it-fails.md
  rooktrail trail --as json --name "the slow board" > slow-board.json`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			root, err := findRoot(f.root)
			if err != nil {
				return err
			}
			ws := workspace.New(root)
			if f.imported != "" {
				return importTrail(cmd, ws, &f)
			}
			know(ws, dataFolder())
			if f.list {
				return printTrails(cmd.OutOrStdout(), ws)
			}
			return printTrail(cmd.Context(), cmd.OutOrStdout(), ws, &f)
		},
	}
	cmd.Flags().StringVar(&f.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().StringVar(&f.name, "name", "", "name of the trail (default: the one walked last)")
	cmd.Flags().StringVar(&f.as, "as", "text", "how to print it: text, markdown or json")
	cmd.Flags().BoolVar(&f.list, "list", false, "print the trails of the project")
	cmd.Flags().StringVar(&f.imported, "import", "", "take in the walk in this `FILE` as a trail")
	return cmd
}

// printTrails prints the trails, the one walked last first.
func printTrails(out io.Writer, ws *workspace.Workspace) error {
	all, err := ws.Lists.Trails().List()
	for i := range all {
		words := fmt.Sprintf("%d stops", all[i].Stops)
		if all[i].Err != nil {
			words = oneLine(all[i].Err.Error())
		}
		if _, err := fmt.Fprintf(out, "%s\t%s\n", words, trail.TitleOf(all[i].Name, all[i].Made)); err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	if err == nil && len(all) == 0 {
		return errNothing
	}
	return err
}

// findTrail reads the trail of a name, or the one walked last.
func findTrail(ws *workspace.Workspace, name string) (*trail.Trail, error) {
	all, err := ws.Lists.Trails().List()
	if err != nil {
		return nil, err
	}
	for i := range all {
		if a := &all[i]; name == "" && a.Err == nil || name != "" && trail.TitleOf(a.Name, a.Made) == name {
			k, err := ws.Lists.Trails().Look(a.ID)
			if err != nil {
				return nil, err
			}
			return &k.Trail, nil
		}
	}
	if name != "" {
		return nil, fmt.Errorf("there is no trail called %q; rooktrail trail --list prints their names", name)
	}
	return nil, errNothing
}

func printTrail(ctx context.Context, out io.Writer, ws *workspace.Workspace, f *trailFlags) error {
	t, err := findTrail(ws, f.name)
	if err != nil {
		return err
	}
	return printWalk(ctx, out, ws, ws.Lists.WalkOf(ctx, t.Title(), t.All()), f.as)
}

// printWalk prints a walk, with its places where they are now.
func printWalk(ctx context.Context, out io.Writer, ws *workspace.Workspace, w *walk.Walk, as string) error {
	if len(w.Stops) == 0 {
		return errNothing
	}
	switch as {
	case "markdown":
		return w.WriteMarkdown(out)
	case "json":
		return w.WriteJSON(out)
	case "text":
		ws.Lists.LocateWalk(ctx, w)
		for i := range w.Stops {
			s := &w.Stops[i]
			line := fmt.Sprintf("%s:%d:%d: %s", s.Path, s.Line, s.Col, s.Text)
			if s.Kind != "" {
				line = s.Path
			}
			if s.Note != "" {
				line += "  (" + oneLine(s.Note) + ")"
			}
			if _, err := fmt.Fprintln(out, line); err != nil {
				return fmt.Errorf("printing: %w", err)
			}
		}
		return nil
	}
	return fmt.Errorf("it cannot be printed as %q; text, markdown and json are known", as)
}

// readWalk reads a walk from a file, or from standard input if that is named -.
func readWalk(cmd *cobra.Command, file string) (w *walk.Walk, refused []string, err error) {
	in := io.NopCloser(cmd.InOrStdin())
	if file != "-" {
		f, err := os.Open(file)
		if err != nil {
			return nil, nil, fmt.Errorf("reading the walk %s: %w", file, project.WithoutPath(err))
		}
		in = f
	}
	defer in.Close()
	return walk.Read(in)
}

func refusedWords(refused []string) string {
	return "stops that leave the project are refused: " + strings.Join(refused, ", ")
}

// importTrail takes in a walk as a trail of its own.
func importTrail(cmd *cobra.Command, ws *workspace.Workspace, f *trailFlags) error {
	w, refused, err := readWalk(cmd, f.imported)
	if err != nil {
		return err
	}
	if len(refused) > 0 {
		fmt.Fprintln(cmd.ErrOrStderr(), refusedWords(refused))
	}
	if len(w.Stops) == 0 {
		return errors.New("there is no stop in the walk")
	}
	know(ws, dataFolder()) // from here on something of it is kept
	ws.Lists.LocateWalk(cmd.Context(), w)
	t := w.Trail()
	if f.name != "" {
		t.Rechristen(f.name)
	}
	whole := t.Whole()
	if err := ws.Lists.Trails().Begin(whole, nil); err != nil {
		return err
	}
	ws.Lists.CloseTrail()
	fmt.Fprintf(cmd.ErrOrStderr(), "taken in as the trail %q: stops %d\n", t.Name, t.Count())
	return nil
}

// fromTerminal lets the full-screen program take its keys from the terminal although
// something was piped in.
func fromTerminal(cmd *cobra.Command) (done func(), err error) {
	tty, _, err := tea.OpenTTY()
	if err != nil {
		return nil, fmt.Errorf("opening the terminal: %w", err)
	}
	cmd.SetIn(tty)
	return func() { tty.Close() }, nil
}

func newWalk(colors *string) *cobra.Command {
	var root string
	cmd := &cobra.Command{
		Use:   "walk FILE",
		Short: "Walk through a trail or bookmarks that somebody wrote to a file",
		Long: `Opens the full-screen program on a guided walk: the stops of a trail or a list of
bookmarks that was written as JSON. n goes to the next stop, p back to the one before; what
was noted is shown beside the code. The stops are found in the project as it is here; paths
that leave it are refused. - reads the walk from a pipe.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			at, err := findRoot(root)
			if err != nil {
				return err
			}
			w, refused, err := readWalk(cmd, args[0])
			if err != nil {
				return err
			}
			if !isTerminal(cmd.InOrStdin()) {
				done, err := fromTerminal(cmd)
				if err != nil {
					return err
				}
				defer done()
			}
			return showScreen(cmd, screen{root: at, colors: *colors, indexes: indexFolder(), data: dataFolder(), walk: w, refused: refused})
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder of the project (default: the one that holds the present folder)")
	return cmd
}

func newBookmarks() *cobra.Command {
	var root, name, as string
	var list bool
	cmd := &cobra.Command{
		Use:   "bookmarks",
		Short: "Print the bookmarks of the project",
		Long: `Prints the bookmarks of all lists, or of the list of --name, as path:line:col: text where
they are now; with --as markdown with the code around, with --as json in a form that
rooktrail walk opens as a guided walk. --list prints the names of the lists.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			at, err := findRoot(root)
			if err != nil {
				return err
			}
			ws := workspace.New(at)
			know(ws, dataFolder())
			return printBookmarks(cmd, ws, name, as, list)
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().StringVar(&name, "name", "", "name of the list (default: all)")
	cmd.Flags().StringVar(&as, "as", "text", "how to print them: text, markdown or json")
	cmd.Flags().BoolVar(&list, "list", false, "print the lists")
	return cmd
}

func printBookmarks(cmd *cobra.Command, ws *workspace.Workspace, name, as string, list bool) error {
	lists, err := ws.Lists.Bookmarks()
	if err != nil {
		fmt.Fprintln(cmd.ErrOrStderr(), oneLine(err.Error()))
	}
	all := &walk.Walk{}
	for _, l := range lists {
		switch {
		case list:
			fmt.Fprintf(cmd.OutOrStdout(), "%d bookmarks\t%s\n", len(l.Shown()), l.Name)
		case name == "" || l.Name == name:
			ws.Lists.LocateBookmarks(cmd.Context(), l)
			w := ws.Lists.WalkOfBookmarks(cmd.Context(), l)
			if w.Stops = append(all.Stops, w.Stops...); all.Name != "" {
				w.Name = "bookmarks"
			}
			all = w
		}
	}
	switch {
	case list && len(lists) > 0:
		return nil
	case name != "" && all.Format == "":
		return fmt.Errorf("there is no list of bookmarks called %q; rooktrail bookmarks --list prints their names", name)
	}
	return printWalk(cmd.Context(), cmd.OutOrStdout(), ws, all, as)
}
