package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/calling"
	"rooktrail/internal/core/know/project"
)

func newGo() *cobra.Command {
	return &cobra.Command{
		Use:   "go FILE[:LINE[:COL]]",
		Short: "Show a place in the full-screen program that has its project open",
		Long: `Has the full-screen program that is open on the project of a file go there, as if one had
gone there in it: what was written is kept, and the trail leads back. Of several such
programs it is the one with the smallest project around the file, and of those the one
that was opened last. While somebody types in it, it goes there when they stop.

Only your own programs can be reached, by a socket in your runtime folder. The exit
status is 0 if it was shown, 1 if no program has the project open, 2 after an error.`,
		Example: "  rooktrail go dispatch/roster.go:42\n  rooktrail symbols --json assign | head -1 | jq -r '.path + \":\" + (.line|tostring)' | xargs rooktrail go",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			root, at, err := openTarget(args[0])
			if err != nil {
				return err
			}
			if at.Path == "" {
				return fmt.Errorf("%s is a folder; name a file in it", args[0])
			}
			file := filepath.FromSlash(at.Path)
			if !filepath.IsAbs(file) {
				file = filepath.Join(root, file)
			}
			reply, err := call(cmd, file, func(root string) calling.Request {
				return calling.Request{Go: &calling.Place{Path: project.Relative(root, file), Line: at.Line, Col: at.Col}}
			})
			if reply.Later {
				fmt.Fprintln(cmd.ErrOrStderr(), "rooktrail: somebody types in the program; it goes there afterwards")
			}
			return err
		},
	}
}

// call asks the program that has the project around a file or folder open, an absolute path.
func call(cmd *cobra.Command, around string, r func(root string) calling.Request) (calling.Reply, error) {
	reply, err := calling.Call(cmd.Context(), calling.Folder(), func(root string) (int, bool) {
		return len(root), around == root || strings.HasPrefix(around, strings.TrimSuffix(root, "/")+"/")
	}, r)
	if errors.Is(err, calling.ErrNobody) {
		fmt.Fprintf(cmd.ErrOrStderr(), "rooktrail: no full-screen program is open on a project around %s\n", around)
		return reply, errNothing
	}
	return reply, err
}

// hereResult is where one is in the full-screen program, as it is printed in JSON.
type hereResult struct {
	in
	Root     string      `json:"root"`
	Line     int         `json:"line"`
	Col      int         `json:"col"`
	Symbol   string      `json:"symbol,omitempty"`
	Selected *selectedIn `json:"selected,omitempty"`
	Stop     int         `json:"stop,omitempty"`
	Unsaved  bool        `json:"unsaved,omitempty"`
}

// selectedIn is what is selected, up to an end that does not belong to it.
type selectedIn struct {
	Line    int `json:"line"`
	Col     int `json:"col"`
	EndLine int `json:"end_line"`
	EndCol  int `json:"end_col"`
}

func newHere() *cobra.Command {
	var root string
	var asJSON bool
	cmd := &cobra.Command{
		Use:   "here",
		Short: "Print where one is in the full-screen program that is open on a project",
		Long: `Prints the file that the full-screen program shows, and where its caret is, as
path:line:col, the path from the root of its project. With --json it is an object with the
root, the symbol around it, what is selected, the number of the stop on the trail, and
whether the text is saved.

The exit status is 0, or 1 if no program has the project open or it shows no file, 2 after
an error.`,
		Example: "  rooktrail here\n  rooktrail references $(rooktrail here)",
		Args:    cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			around := root
			if around == "" {
				around = "."
			}
			around, err := filepath.Abs(around)
			if err == nil {
				around, err = filepath.EvalSymlinks(around)
			}
			if err != nil {
				return fmt.Errorf("opening %s: %w", root, project.WithoutPath(err))
			}
			reply, err := call(cmd, around, func(string) calling.Request { return calling.Request{Here: true} })
			if err != nil {
				return err
			}
			return printHere(cmd, &reply, asJSON)
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder in the project (default: the present folder)")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return cmd
}

func printHere(cmd *cobra.Command, reply *calling.Reply, asJSON bool) error {
	h := reply.Here
	if h == nil || h.Path == "" {
		return errNothing
	}
	if !asJSON {
		_, err := fmt.Fprintf(cmd.OutOrStdout(), "%s:%d:%d\n", h.Path, h.Line, h.Col)
		return err
	}
	r := hereResult{in: inFile(h.Path), Root: reply.Root, Line: h.Line, Col: h.Col, Symbol: h.Symbol, Stop: h.Stop, Unsaved: h.Unsaved}
	if s := h.Selected; s != nil {
		r.Selected = &selectedIn{s[0].Line, s[0].Col, s[1].Line, s[1].Col}
	}
	return printJSON(cmd.OutOrStdout(), r)
}
