package cli

import (
	"fmt"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"rooktrail/demo"
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
			dir, remove, err := demoFolder(keep)
			if err != nil {
				return err
			}
			defer remove()
			if err := demo.Unpack(cmd.Context(), dir); err != nil {
				return err
			}
			root, err := filepath.EvalSymlinks(dir)
			if err != nil {
				return fmt.Errorf("opening the demo: %w", err)
			}
			data, err := os.MkdirTemp("", "rooktrail-data-") // it is a new project each time
			if err != nil {
				return fmt.Errorf("making a temporary folder for the demo: %w", err)
			}
			defer os.RemoveAll(data)
			return showScreen(cmd, screen{root: root, colors: *colors, data: data})
		},
	}
	cmd.Flags().StringVar(&keep, "keep", "", "make the demo at `DIR` and leave it there")
	return cmd
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
