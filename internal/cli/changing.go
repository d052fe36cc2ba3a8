package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/workspace"
)

// changing is a command that changes files, if it is told to.
type changing struct {
	root  string
	write bool
}

// flags adds those that all commands of the kind have.
func (c *changing) flags(cmd *cobra.Command) {
	cmd.Flags().StringVar(&c.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().BoolVar(&c.write, "write", false, "make the change, instead of printing it as a unified diff")
}

// changingWords is what all of them say about what they do.
const changingWords = `

Without --write nothing is changed: a unified diff is printed, which git apply takes.
With --write the change is made in all files or in none, and what was changed is said
on standard error; in the full-screen program it can be taken back.

The exit status is 0 if something changes, 1 if nothing does, 2 after an error, or if
something stands in the way.`

func newRename() *cobra.Command {
	var c changing
	var mentions bool
	var family string
	cmd := &cobra.Command{
		Use:   "rename FILE:LINE:COL NEW",
		Short: "Give what the name at FILE:LINE:COL means another name wherever it is used",
		Long: `Gives a symbol another name, at its definition and wherever it is used. What has the
name and is not known to mean it is left as it is, and so is what is mentioned in
comments, strings, configuration and pages, unless --mentions is given.

A method that is overridden or overrides others is renamed with --family together with
all of them, with --family=no alone; without either, that it has such is an error.
A conflict, such as a name that is taken where it would be seen, is an error, too.` + changingWords,
		Example: `  rooktrail rename dispatch/roster.go:42:18 Give
  rooktrail rename dispatch/roster.go:42:18 Give --family --write
  rooktrail rename dispatch/roster.go:42:18 Give | git apply`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			asked := rename.Asked{New: args[1], Mentions: mentions}
			switch family {
			case "":
			case "all", "yes", "true":
				asked.Family = rename.AllFamily
			case "no", "false":
				asked.Family = rename.ThisAlone
			default:
				return fmt.Errorf("--family=%s: write --family for all methods that override each other, or --family=no for this one alone", family)
			}
			return c.run(cmd, func(ctx context.Context, ws *workspace.Workspace) (*proposal.Proposal, error) {
				var err error
				if asked.Path, asked.Offset, err = positionOf(ctx, ws, args[0]); err != nil {
					return nil, err
				}
				if err := ws.Code.CheckAround(ctx, asked.Path); err != nil {
					return nil, err
				}
				p, err := ws.Changes.Propose(ctx, asked)
				if err != nil {
					return nil, fmt.Errorf("renaming what is at %s: %w", args[0], err)
				}
				return p, nil
			})
		},
	}
	c.flags(cmd)
	cmd.Flags().BoolVar(&mentions, "mentions", false, "change it in comments, strings, configuration and pages, too")
	cmd.Flags().StringVar(&family, "family", "", "rename all methods that override each other; =no: this one alone")
	cmd.Flags().Lookup("family").NoOptDefVal = "all"
	return cmd
}

// positionOf reads a position in the project, and gives the byte offset.
func positionOf(ctx context.Context, ws *workspace.Workspace, position string) (path string, offset int, err error) {
	at, err := place.Parse(position)
	if err != nil {
		return "", 0, err
	}
	at.Path = inProject(ws.Code.Root(), at.Path)
	file, err := ws.Code.Load(ctx, at.Path)
	switch {
	case errors.Is(err, os.ErrNotExist):
		return "", 0, fmt.Errorf("position %q: there is no such file in %s", position, ws.Code.Root())
	case err != nil:
		return "", 0, err
	case at.Line > file.Text.Lines():
		return "", 0, fmt.Errorf("position %q: the file has only %d lines", position, file.Text.Lines())
	}
	return at.Path, file.Text.Offset(at.Line, at.Col), nil
}

// run prints what is proposed, or makes it.
func (c *changing) run(cmd *cobra.Command, propose func(ctx context.Context, ws *workspace.Workspace) (*proposal.Proposal, error)) error {
	ctx := cmd.Context()
	root, err := findRoot(c.root)
	if err != nil {
		return err
	}
	ws, err := openProject(ctx, root)
	if err != nil {
		return err
	}
	know(ws, dataFolder())
	p, err := propose(ctx, ws)
	if err != nil {
		return err
	}
	for _, w := range p.Warnings {
		if !w.Stops {
			fmt.Fprintln(cmd.ErrOrStderr(), warned(w))
		}
	}
	if w, stopped := p.Stopped(); stopped {
		return errors.New(warned(w))
	}
	counts := p.Count()
	if counts.Files == 0 {
		return errNothing
	}
	if !c.write {
		return p.WriteDiff(cmd.OutOrStdout())
	}
	if _, err := ws.Changes.Make(ctx, p); err != nil {
		return err
	}
	return sayMade(cmd.ErrOrStderr(), p.Title, counts)
}

// warned writes a warning as a line.
func warned(w proposal.Warning) string {
	if w.Path == "" {
		return w.Text
	}
	return fmt.Sprintf("%s:%d:%d: %s", w.Path, w.Line, w.Col, w.Text)
}

func sayMade(to io.Writer, title string, c proposal.Counts) error {
	_, err := fmt.Fprintf(to, "%s: %d places in %d files\n", title, c.Places, c.Files)
	return err
}

func newReplace() *cobra.Command {
	var c changing
	var asked replace.Asked
	var role string
	cmd := &cobra.Command{
		Use:   "replace PATTERN NEW",
		Short: "Write another text wherever one is found in the files",
		Long: `Writes another text in the place of each that matches, in all files of the project. A
pattern in small letters matches any case, one with a capital only the same. With
--regex, $1 in the new text stands for what the first group has matched, $0 for all of
it, ${name} for a group with a name, $$ for a dollar. With --keep-case it is written
in large and small letters like what it replaces: roster, Roster and ROSTER become
team, Team and TEAM.` + changingWords,
		Example: `  rooktrail replace --word roster team --keep-case
  rooktrail replace --regex 'log\.Printf\((.*)\)' 'logger.Info($1)' --glob '*.go' --write
  rooktrail replace --role comment 'call out' call-out | git apply`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			asked.Query.Pattern, asked.By = args[0], args[1]
			return c.run(cmd, func(ctx context.Context, ws *workspace.Workspace) (*proposal.Proposal, error) {
				wanted, err := checkQuery(ws, &asked.Query, role)
				if err != nil {
					return nil, err
				}
				if role != "" {
					asked.Roles = []find.Role{wanted}
				}
				return ws.Changes.Replace(ctx, asked)
			})
		},
	}
	c.flags(cmd)
	queryFlags(cmd, &asked.Query, &role)
	cmd.Flags().BoolVar(&asked.KeepCase, "keep-case", false, "write it in large and small letters like what it replaces")
	return cmd
}
