package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/workspace"
)

// problemFlags are those of the command problems.
type problemFlags struct {
	root, as      string
	only, without []string
	unchecked     bool
}

// problemResult is a problem as it is printed in JSON.
type problemResult struct {
	in
	Line      int    `json:"line"`
	Col       int    `json:"col"`
	EndLine   int    `json:"end_line"`
	EndCol    int    `json:"end_col"`
	Kind      string `json:"kind"`
	By        string `json:"by"`
	Certainty string `json:"certainty"`
	Text      string `json:"text"`
}

func newProblems() *cobra.Command {
	var f problemFlags
	cmd := &cobra.Command{
		Use:   "problems [DIR]",
		Short: "Print what is wrong in the code",
		Long: `Prints what is wrong in the files of a folder or of all of the project, as
path:line:col: text (who says so), file by file. The kinds, which --only and --without
take, are:

` + kindLines() + `
Compilers that the program knows how to ask, and the analyses of go vet, are asked
first, which can take a while; --unchecked leaves that out. Files that a program has
written, and those below vendor, node_modules, third_party and testdata, are left out.

--as json prints one object a line, --as sarif one report of the Static Analysis
Results Interchange Format 2.1.0.

The exit status is 0 if something is wrong, 1 if nothing was found, 2 after an error.`,
		Example: `  rooktrail problems
  rooktrail problems dispatch --without spare,unused
  rooktrail problems --as sarif > report.sarif
  rooktrail problems | rooktrail sweep --name "to mend"`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			out := bufio.NewWriter(cmd.OutOrStdout())
			err := f.run(cmd.Context(), out, args)
			return errors.Join(err, out.Flush())
		},
	}
	cmd.Flags().StringVar(&f.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().StringVar(&f.as, "as", "text", "how to print them: text, json or sarif")
	cmd.Flags().StringSliceVar(&f.only, "only", nil, "only these kinds")
	cmd.Flags().StringSliceVar(&f.without, "without", nil, "all but these kinds")
	cmd.Flags().BoolVar(&f.unchecked, "unchecked", false, "do not ask compilers")
	return cmd
}

// kindLines are the kinds, one a line, with what they mean.
func kindLines() string {
	var b strings.Builder
	for _, k := range problem.Kinds {
		fmt.Fprintf(&b, "  %-9s %s\n", k, k.Words())
	}
	return b.String()
}

func (f *problemFlags) run(ctx context.Context, out io.Writer, args []string) error {
	if !slices.Contains([]string{"text", "json", "sarif"}, f.as) {
		return fmt.Errorf("problems cannot be printed as %q; text, json and sarif are known", f.as)
	}
	for _, k := range slices.Concat(f.only, f.without) {
		if !slices.Contains(problem.Kinds, problem.Kind(k)) {
			return fmt.Errorf("there is no kind of problem called %q; rooktrail problems --help lists them", k)
		}
	}
	root, err := rootFor(ctx, f.root)
	if err != nil {
		return err
	}
	ws, err := openProject(ctx, root)
	if err != nil {
		return err
	}
	defer letGo(ctx, ws)
	if ws != shared(ctx) {
		know(ws, dataFolder()) // the reports that were read in
	}
	folder := "."
	if len(args) > 0 {
		folder = inProject(root, args[0])
	}
	if err := ws.Search.CheckFolder(folder); err != nil {
		return err
	}
	all, err := f.find(ctx, ws, folder)
	if err != nil {
		return err
	}
	if err := f.print(out, all); err != nil {
		return err
	}
	if len(all) == 0 {
		return errNothing
	}
	return nil
}

// find finds the problems of a folder that are wanted, in the order of the files.
func (f *problemFlags) find(ctx context.Context, ws *workspace.Workspace, folder string) (all []problem.Problem, err error) {
	if !f.unchecked {
		if err := ws.Code.Check(ctx, check.Fast); err != nil {
			return nil, err
		}
	}
	_, err = ws.Problems.All(ctx, folder, f.wants(problem.Unused), func(found []problem.Problem) bool {
		all = append(all, slices.DeleteFunc(found, func(p problem.Problem) bool { return !f.wants(p.Kind) })...)
		return true
	})
	problem.Sort(all)
	return all, err
}

func (f *problemFlags) wants(k problem.Kind) bool {
	return (len(f.only) == 0 || slices.Contains(f.only, string(k))) && !slices.Contains(f.without, string(k))
}

func (f *problemFlags) print(out io.Writer, all []problem.Problem) error {
	if f.as == "sarif" {
		return problem.WriteSARIF(out, all)
	}
	for _, p := range all {
		var err error
		if f.as == "json" {
			err = printJSON(out, problemResult{inFile(p.Path), p.Line, p.Col, p.EndLine, p.EndCol, string(p.Kind), p.By, p.Certainty.String(), p.Text})
		} else {
			_, err = fmt.Fprintf(out, "%s:%d:%d: %s (%s)\n", p.Path, p.Line, p.Col, strings.ReplaceAll(p.Text, "\n", " "), p.By)
		}
		if err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	return nil
}
