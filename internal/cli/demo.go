package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/demo"
	"rooktrail/internal/core/keep/lesson"
)

func newDemo(colors *string) *cobra.Command {
	var keep string
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Open the demo project, made afresh in a temporary folder",
		Long: `Unpacks tarnwell, the software of a made-up mountain rescue service, into a
temporary folder, with a git history of a few weeks and some changes that are
not committed, and opens it. The folder is removed at the end; with --keep it is
made at DIR, which must not exist or be empty, and stays.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return showDemo(cmd, keep, screen{colors: *colors})
		},
	}
	cmd.Flags().StringVar(&keep, "keep", "", "make the demo at `DIR` and leave it there")
	return cmd
}

// newLearn makes the command for the lessons, which are about the demo.
func newLearn(colors *string) *cobra.Command {
	cmd := &cobra.Command{
		Use:   "learn [LESSON]",
		Short: "Learn the keys, a few at a time, in lessons on the demo project",
		ValidArgsFunction: func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
			var names []string
			for _, l := range lesson.All() {
				names = append(names, l.Name)
			}
			return names, cobra.ShellCompDirectiveNoFileComp
		},
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			name := strings.Join(args, "")
			if _, ok := lesson.Named(name); !ok && name != "" {
				return fmt.Errorf("there is no lesson %q; rooktrail learn --help lists them", name)
			}
			return showDemo(cmd, "", screen{colors: *colors, learn: true, lesson: name})
		},
	}
	cmd.Long = "Begins the lesson named, or goes on where you stopped: each takes a few minutes, on a copy of the demo\nproject that is removed at the end. What a task asks for is done when the screen shows it, whatever keys\nyou press for it.\n\nThe lessons:\n"
	for _, l := range lesson.All() {
		cmd.Long += fmt.Sprintf("  %-8s %s\n", l.Name, l.Title)
	}
	return cmd
}

// showDemo makes the demo, at a folder if one is named, and opens it.
func showDemo(cmd *cobra.Command, keep string, s screen) error {
	dir, remove, err := demoFolder(keep)
	if err != nil {
		return err
	}
	defer remove()
	if err := demo.Unpack(cmd.Context(), dir); err != nil {
		return err
	}
	if s.root, err = filepath.EvalSymlinks(dir); err != nil {
		return fmt.Errorf("opening the demo: %w", err)
	}
	if s.data, err = os.MkdirTemp("", "rooktrail-data-"); err != nil { // it is a new project each time
		return fmt.Errorf("making a temporary folder for the demo: %w", err)
	}
	defer os.RemoveAll(s.data)
	s.demo = true
	return showScreen(cmd, s)
}

// demoFolder is where the demo goes: the folder asked for, or a temporary one
// that remove takes away again.
func demoFolder(keep string) (dir string, remove func(), err error) {
	if keep == "" {
		parent, err := os.MkdirTemp("", "rooktrail-demo-")
		if err != nil {
			return "", nil, fmt.Errorf("making a temporary folder for the demo: %w", err)
		}
		return filepath.Join(parent, demo.Name), func() {
			if err := os.RemoveAll(parent); err != nil {
				fmt.Fprintf(os.Stderr, "rooktrail: removing the demo: %v\n", err)
			}
		}, nil
	}
	if entries, err := os.ReadDir(keep); err == nil && len(entries) > 0 {
		return "", nil, fmt.Errorf("making the demo at %s: the folder is not empty; name another", keep)
	}
	abs, err := filepath.Abs(keep)
	if err != nil {
		return "", nil, fmt.Errorf("making the demo at %s: %w", keep, err)
	}
	return abs, func() {}, nil
}
