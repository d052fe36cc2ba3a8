package cli

import (
	"context"
	"errors"
	"io"
	"path/filepath"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/serve"
)

func newServe() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Answer the requests of an editor, as a language server",
		Long: `Speaks the Language Server Protocol 3.17 on standard input and output, for all languages that
are read, in any number of folders: definitions, implementations, references, calls, types above and
below, symbols, hover, completion, folding, problems and what can be done about them, renaming. The
answers are those of the other commands, about the texts as they are in the editor. No file of a
project is written: the editor is told what to change.

An editor begins it by itself; see docs/serve.md for how. The exit status is 0 if it was told
to shut down, 1 if not.`,
		Example: `  rooktrail serve`,
		Args:    cobra.NoArgs,
		RunE:    func(cmd *cobra.Command, _ []string) error { return serveEditor(cmd) },
	}
	cmd.Flags().Bool("stdio", true, "use standard input and output, as it always does")
	_ = cmd.Flags().MarkHidden("stdio") // many editors give it to any server
	return cmd
}

// serveEditor serves until the editor has had enough.
func serveEditor(cmd *cobra.Command) error {
	if isTerminal(cmd.InOrStdin()) {
		return errors.New("an editor begins rooktrail serve, which speaks a protocol on standard input and output; see rooktrail serve --help")
	}
	out := cmd.OutOrStdout()
	if v, ok := out.(*visible); ok {
		out = v.to // messages go out as they are
	}
	in, ok := cmd.InOrStdin().(io.ReadCloser)
	if !ok {
		in = io.NopCloser(cmd.InOrStdin())
	}
	err := serve.Run(cmd.Context(), in, out, serve.Options{Version: Version, Open: openServed, Prepare: prepareServed, RootOf: rootOfServed, Reports: filepath.Join(dataFolder(), "failures")})
	if errors.Is(err, serve.ErrAbrupt) {
		return errNothing
	}
	return err
}

// openServed makes the workspace of a folder of the editor, with what the user has set.
func openServed(folder string) (*workspace.Workspace, error) {
	root, err := project.CheckFolder(folder)
	if err != nil {
		return nil, err
	}
	ws := newWorkspace(root)
	know(ws, dataFolder()) // the reports that were read in
	set, _ := settings.Load(settingsFile(), root)
	ws.Changes.KnowSettings(func() *settings.Settings { return &set })
	ws.Search.LeaveOut(set.Texts(settings.LeaveOut))
	ws.Problems.LeaveOut(set.Texts(settings.Problems))
	return ws, nil
}

func prepareServed(ctx context.Context, ws *workspace.Workspace) {
	ws.Code.KeepIndex(ctx, indexFolder())
}

func rootOfServed(folder string) (string, error) { return project.Root(folder, catalog.Set().Tops()) }
