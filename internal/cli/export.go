package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/know/lsif"
	"rooktrail/internal/core/know/publish"
	"rooktrail/internal/core/know/resolve"
)

func newExport() *cobra.Command {
	var tags, lines, dump, unchecked bool
	var out string
	cmd := &cobra.Command{
		Use:   "export [DIR]",
		Short: "Write out what is known of a project, for other programs",
		Long: `Writes out the symbols of a project, and what its names mean, in an open format:

  --tags  the tags of POSIX, as ctags makes them: name, file and line of each symbol
  --json  one JSON object a line, for each symbol and for each use of a name of which it is known
          what it means: {"symbol": …} and {"reference": …, "to": …}
  --lsif  a dump in the Language Server Index Format 0.6, as one JSON object a line

What compilers say is asked first, unless --unchecked. With --output it goes to a file, whole or not
at all.`,
		Example: "  rooktrail export --tags --output tags\n  rooktrail export --lsif ~/src/tarnwell | gzip > tarnwell.lsif.gz",
		Args:    cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			write := publish.Tags
			switch {
			case lines:
				write = publish.Lines
			case dump:
				write = func(ctx context.Context, s *publish.Source, to io.Writer) error {
					return publish.LSIF(ctx, s, to, lsif.Own, Version)
				}
			}
			folder := ""
			if len(args) > 0 {
				folder = args[0]
			}
			return export(cmd, folder, out, !unchecked && !tags, write)
		},
	}
	cmd.Flags().BoolVar(&tags, "tags", false, "the tags of POSIX")
	cmd.Flags().BoolVar(&lines, "json", false, "one JSON object a line")
	cmd.Flags().BoolVar(&dump, "lsif", false, "a dump in the Language Server Index Format")
	cmd.Flags().BoolVar(&unchecked, "unchecked", false, "do not ask compilers")
	cmd.Flags().StringVarP(&out, "output", "o", "", "write it to this `FILE`")
	cmd.MarkFlagsOneRequired("tags", "json", "lsif")
	cmd.MarkFlagsMutuallyExclusive("tags", "json", "lsif")
	return cmd
}

func export(cmd *cobra.Command, folder, out string, ask bool, write func(ctx context.Context, s *publish.Source, to io.Writer) error) error {
	root, err := findRoot(folder)
	if err != nil {
		return err
	}
	ws, err := openProject(cmd.Context(), root)
	if err != nil {
		return err
	}
	defer letGo(cmd.Context(), ws)
	if ask {
		if err := ws.Code.Check(cmd.Context(), check.Fast); err != nil {
			return err
		}
	}
	source := &publish.Source{Code: ws.Code, Resolver: resolve.New(ws.Code)}
	if out == "" {
		to := bufio.NewWriterSize(cmd.OutOrStdout(), 1<<16)
		return errors.Join(write(cmd.Context(), source, to), to.Flush())
	}
	err = atomicfile.WriteFrom(out, 0o644, func(to io.Writer) error { return write(cmd.Context(), source, to) })
	if err != nil {
		return fmt.Errorf("writing %s: %w", out, err)
	}
	return nil
}
