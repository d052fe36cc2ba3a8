package cli

import (
	"errors"
	"fmt"
	"os"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/fetch"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
)

func newIndex() *cobra.Command {
	var rebuild, asJSON bool
	var pack, from, dump string
	cmd := &cobra.Command{
		Use:   "index [DIR]",
		Short: "Build or refresh the index of a project, and say what it holds",
		Long: `Reads the project and keeps what it defines in an index in your cache folder, so
that the next start parses only what has changed. This happens by itself
whenever a project is opened; the command is for doing it beforehand, and for
seeing what was left out. With --rebuild everything is parsed anew.

With --pack what is known of the files as they are in the last commit is written to one
compressed file as well, and with --from such a file is taken in first, from this machine or from an
address (http, https): a build machine can read a large project once for all who work on it. Files that
differ from that commit are read here. Both must have the same version of the program.

With --lsif a dump in the Language Server Index Format is taken in, which a tool of a compiler has made of
the files as they are now, or as it holds them: what it says is exact as long as a text is the same; where it
has changed since, places are followed through the change, and the answers are inferred. All of it is taken
in or nothing; what was said before of the same files is replaced, and --rebuild forgets it.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			root, err := project.Root(".", catalog.Set().Tops())
			if len(args) > 0 {
				root, err = project.CheckFolder(args[0])
			}
			if err != nil {
				return err
			}
			started := time.Now()
			ws := newWorkspace(root)
			ws.Code.KeepIndex(cmd.Context(), indexFolder())
			if rebuild {
				if err := ws.Code.ForgetIndex(); err != nil {
					return err
				}
				ws = newWorkspace(root)
				ws.Code.KeepIndex(cmd.Context(), indexFolder())
			}
			if from != "" {
				if err := takePack(cmd, ws, from); err != nil {
					return err
				}
				if err := ws.Code.Close(); err != nil {
					return err
				}
				ws = newWorkspace(root)
				ws.Code.KeepIndex(cmd.Context(), indexFolder())
			}
			stop := showProgress(cmd.ErrOrStderr(), ws)
			if err = ws.Code.Read(cmd.Context()); err == nil {
				codebase.KeepListing(cmd.Context(), ws.Code)
				err = ws.Code.Check(cmd.Context(), check.Fast)
			}
			stop()
			if err != nil && cmd.Context().Err() != nil {
				return errStoppedReading
			}
			if err == nil && dump != "" {
				err = takeDump(cmd, ws, dump)
			}
			if err != nil {
				return err
			}
			if pack != "" {
				h, err := codebase.Pack(cmd.Context(), ws.Code, pack)
				if err != nil {
					return err
				}
				fmt.Fprintf(cmd.ErrOrStderr(), "packed what is known of %s\n", text.Number(h.Files)+" files")
			}
			if asJSON {
				return reportJSON(cmd, ws, time.Since(started))
			}
			return report(cmd, ws, time.Since(started))
		},
	}
	cmd.Flags().BoolVar(&rebuild, "rebuild", false, "parse everything anew")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	cmd.Flags().StringVar(&pack, "pack", "", "write what is known of the files of the last commit to a file")
	cmd.Flags().StringVar(&dump, "lsif", "", "take in a dump of a tool of a compiler, from a file, or - for standard input")
	cmd.Flags().StringVar(&from, "from", "", "take in what was packed, from a file or an address")
	return cmd
}

// takeDump takes in a dump of a tool of a compiler.
func takeDump(cmd *cobra.Command, ws *workspace.Workspace, from string) error {
	in := cmd.InOrStdin()
	if from != "-" {
		file, err := os.Open(from)
		if err != nil {
			return fmt.Errorf("opening the dump: %w", err)
		}
		defer file.Close()
		in = file
	}
	taken, err := codebase.TakeDump(cmd.Context(), ws.Code, in)
	if err != nil {
		return fmt.Errorf("taking in %s: %w", from, err)
	}
	words := fmt.Sprintf("took in what is said of %s names in %s files", text.Number(taken.Names), text.Number(taken.Files))
	if taken.Other > 0 {
		words += fmt.Sprintf("; of %s files the text is another one", text.Number(taken.Other))
	}
	if taken.Outside > 0 {
		words += fmt.Sprintf("; %s files are none of the project", text.Number(taken.Outside))
	}
	fmt.Fprintln(cmd.ErrOrStderr(), words)
	return nil
}

// mostFetched is how many bytes a pack that is fetched may have.
const mostFetched = 16 << 30

// takePack takes in a pack from a file or an address.
func takePack(cmd *cobra.Command, ws *workspace.Workspace, from string) (err error) {
	name := from
	if fetch.Is(from) {
		if name, err = (fetch.Fetcher{}).Get(cmd.Context(), from, codebase.IndexFolder(ws.Code), mostFetched); err != nil {
			return err
		}
		defer func() { err = errors.Join(err, os.Remove(name)) }()
	}
	file, err := os.Open(name)
	if err != nil {
		return fmt.Errorf("taking in the pack: %w", err)
	}
	defer file.Close()
	h, err := codebase.TakePack(cmd.Context(), ws.Code, file)
	if err != nil {
		return err
	}
	fmt.Fprintf(cmd.ErrOrStderr(), "took in what is known of %s\n", text.Number(h.Files)+" files")
	return nil
}

// indexResult is what the index holds, as it is printed in JSON.
type indexResult struct {
	Root      string           `json:"root"`
	Files     int              `json:"files"`
	Symbols   int              `json:"symbols"`
	Parsed    int              `json:"parsed"`
	Known     int              `json:"known"`
	Seconds   float64          `json:"seconds"`
	Languages []languageResult `json:"languages"`
	Kept      string           `json:"kept"`
	Bytes     int64            `json:"bytes"`
	LeftOut   []leftOutResult  `json:"left_out"`
	Notes     []string         `json:"notes"`
}

type languageResult struct {
	Name        string `json:"name"`
	Files       int    `json:"files"`
	Lines       int    `json:"lines"`
	Definitions int    `json:"definitions"`
	Uses        int    `json:"uses"`
}

type leftOutResult struct {
	in
	Reason string `json:"reason"`
}

func reportJSON(cmd *cobra.Command, ws *workspace.Workspace, took time.Duration) error {
	pr := ws.Code.Progress()
	r := indexResult{
		Root: ws.Code.Root(), Files: pr.Files, Symbols: pr.Symbols, Parsed: pr.Parsed, Known: pr.Known(), Seconds: took.Seconds(),
		Languages: []languageResult{}, LeftOut: []leftOutResult{}, Notes: append([]string{}, pr.Notes...),
	}
	r.Kept, r.Bytes = ws.Code.IndexOnDisk()
	for _, l := range codebase.CountLanguages(ws.Code) {
		r.Languages = append(r.Languages, languageResult{l.Name, l.Files, l.Lines, l.Defs, l.Uses})
	}
	for _, l := range pr.LeftOut {
		r.LeftOut = append(r.LeftOut, leftOutResult{inFile(l.Path), l.Reason.Error()})
	}
	return printJSON(cmd.OutOrStdout(), r)
}

// mostNamed is how many of the files that were left out are named.
const mostNamed = 20

// report prints what the index holds.
func report(cmd *cobra.Command, ws *workspace.Workspace, took time.Duration) error {
	out, pr := cmd.OutOrStdout(), ws.Code.Progress()
	fmt.Fprintf(out, "%s\n%d files, %d in a language that is read, %d symbols\n", ws.Code.Root(), pr.Files, pr.Readable, pr.Symbols)
	fmt.Fprintf(out, "%d parsed, %d known from before, in %s\n", pr.Parsed, pr.Known(), took.Round(time.Millisecond))
	table := tabwriter.NewWriter(out, 0, 0, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(table, "files\tlines\tdefinitions\tuses\t  ")
	for _, l := range codebase.CountLanguages(ws.Code) {
		fmt.Fprintf(table, "%d\t%d\t%d\t%d\t  %s\n", l.Files, l.Lines, l.Defs, l.Uses, l.Name)
	}
	if err := table.Flush(); err != nil {
		return err
	}
	if path, size := ws.Code.IndexOnDisk(); path != "" {
		fmt.Fprintf(out, "kept at %s, %.1f MB\n", path, float64(size)/1e6)
	}
	for _, n := range pr.Notes {
		fmt.Fprintln(out, "note: "+n)
	}
	if r := pr.Report; r.Unreadable+r.LinkedFolders+r.Outside > 0 {
		fmt.Fprintf(out, "%d folders could not be read, %d links to folders were not entered, %d entries lead out of the project\n", r.Unreadable, r.LinkedFolders, r.Outside)
		for _, f := range r.UnreadableFolders {
			fmt.Fprintf(out, "could not be read: %s\n", f)
		}
	}
	for i, l := range pr.LeftOut {
		if i == mostNamed {
			_, err := fmt.Fprintf(out, "and %d more were left as text\n", len(pr.LeftOut)-mostNamed)
			return err
		}
		fmt.Fprintf(out, "left as text: %s: %v\n", l.Path, l.Reason)
	}
	return nil
}
