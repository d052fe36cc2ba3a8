// Package cli is the commands of the shell: it reads the arguments, opens the
// project and prints, or starts the full-screen program.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os/signal"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	runs "rooktrail/internal/run"
)

// Version is the version of the program, set when it is built.
var Version = "0.1.0"

// The exit statuses.
const (
	statusFound   = 0
	statusNothing = 1
	statusError   = 2
)

// errNothing says that a command worked and found nothing.
var errNothing = errors.New("nothing found")

// Run carries out a command line and returns the exit status.
func Run(args []string, stdin io.Reader, stdout, stderr io.Writer) int {
	return RunBeside(nil, args, stdin, stdout, stderr)
}

// memoryGoal is from how many bytes of memory on what is not needed any more is looked for at once.
const memoryGoal = 430 << 20

type moreKey struct{}

// beside is what a command has to do with beside its answers.
type beside struct {
	says   io.Writer // where it says what is no answer
	opened []*workspace.Workspace
}

type besideKey struct{}

// open notes that a command has opened a project.
func open(ctx context.Context, ws *workspace.Workspace) (says io.Writer) {
	b, ok := ctx.Value(besideKey{}).(*beside)
	if !ok {
		return io.Discard
	}
	b.opened = append(b.opened, ws)
	return b.says
}

// damaged removes what was found to be damaged on disk while it was asked; it is an error, since answers may have lacked something.
func (b *beside) damaged() error {
	for _, ws := range b.opened {
		if codebase.Damaged(ws.Code) {
			return errors.Join(errors.New("the index on disk was damaged, so that answers may be lacking; ask again, and it is made anew"), ws.Code.ForgetIndex())
		}
	}
	return nil
}

// errStopped says that the program was told to end before it had done what it was to do.
var errStopped = errors.New("stopped before it was done")

// RunBeside is Run with more that is done beside the full-screen program, if that is what is run.
func RunBeside(more func(ctx context.Context), args []string, stdin io.Reader, stdout, stderr io.Writer) int {
	if asked, err := workspace.Asked(args, stdin, stdout); asked {
		if err != nil {
			fmt.Fprintln(stderr, "rooktrail: "+oneLine(err.Error()))
			return statusError
		}
		return 0
	}
	if len(args) == 1 && args[0] == runs.Keep {
		if err := runs.Serve(stdin, stdout); err != nil {
			fmt.Fprintln(stderr, "rooktrail: "+oneLine(err.Error()))
			return statusError
		}
		return 0
	}
	debug.SetMemoryLimit(memoryGoal)
	ctx, stop := untilEnded()
	defer stop()
	ctx = context.WithValue(ctx, moreKey{}, more)
	signal.Ignore(syscall.SIGPIPE) // writing to a pipe that nobody reads says so by itself
	color := colorAuto
	out, errs, flush := outputs(stdout, stderr, &color)
	beside := &beside{says: errs}
	ctx = context.WithValue(ctx, besideKey{}, beside)
	cmd := newRoot(&color)
	cmd.SetArgs(args)
	cmd.SetIn(stdin)
	cmd.SetOut(out)
	cmd.SetErr(errs)
	err := cmd.ExecuteContext(ctx)
	if ctx.Err() != nil && errors.Is(err, context.Canceled) {
		err = errStopped
	}
	err = errors.Join(err, beside.damaged())
	status := statusOf(err)
	if status == statusError {
		fmt.Fprintln(errs, "rooktrail: "+oneLine(plainWords(err).Error())) // where there is a place for it
	}
	if err := flush(); err != nil && status != statusError {
		status = statusOf(err)
	}
	return status
}

// statusOf is the exit status for what came of a command. That nothing was found counts only if
// nothing went wrong.
func statusOf(err error) int {
	switch {
	case err == nil:
		return statusFound
	case errors.Is(err, syscall.EPIPE):
		return statusFound // whoever read the answers has had enough
	case onlyNothing(err):
		return statusNothing
	}
	return statusError
}

// onlyNothing says whether an error, or all of several, say that nothing was found.
func onlyNothing(err error) bool {
	if all, ok := err.(interface{ Unwrap() []error }); ok {
		for _, e := range all.Unwrap() {
			if !onlyNothing(e) {
				return false
			}
		}
		return true
	}
	return errors.Is(err, errNothing)
}

func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

const examples = `  rooktrail                              open the project that holds this folder
  rooktrail ~/src/tarnwell               open that project
  rooktrail dispatch/roster.go:42        open a file at a line
  rooktrail demo                         look around in the demo project
  rooktrail symbols ro.as                print the symbols that match, such as Roster.Assign
  rooktrail text 'no team'               print the lines that hold a text
  rooktrail definition store.go:19:7     print where the name there is defined
  git grep -n --column Assign | rooktrail definition --batch`

func newRoot(color *string) *cobra.Command {
	var colors string
	cmd := &cobra.Command{
		Use:   "rooktrail [DIR | FILE[:LINE[:COL]]]",
		Short: "Find your way through a code base, and back",
		Long: `Rook Trail is a full-screen program for finding one's way through a code base
by keyboard, and back again. With a folder it opens the project there, with a
file that file; lines and columns count from 1. ? shows the keys, Ctrl+Q leaves.`,
		Example:       examples,
		Version:       Version,
		Args:          cobra.MaximumNArgs(1),
		SilenceErrors: true,
		SilenceUsage:  true,
		RunE: func(cmd *cobra.Command, args []string) error {
			target := ""
			if len(args) > 0 {
				target = args[0]
			}
			return runScreen(cmd, target, colors)
		},
	}
	cmd.PersistentFlags().StringVar(&colors, "palette", "", "colours of the screen: peat, chalk, clear, sixteen or plain (default: what suits the terminal)")
	cmd.PersistentFlags().StringVar(color, "color", colorAuto, "whether paths stand out in what is printed: auto (on a terminal), always or never")
	cmd.PersistentPreRunE = func(*cobra.Command, []string) error {
		if !slices.Contains([]string{colorAuto, colorAlways, colorNever}, *color) {
			return fmt.Errorf("--color is auto, always or never, not %q", *color)
		}
		return nil
	}
	cobra.AddTemplateFunc("about", about)
	cmd.SetVersionTemplate("rooktrail {{.Version}}\n{{about}}")
	cmd.CompletionOptions.HiddenDefaultCmd = true
	cmd.AddCommand(newDemo(&colors), newLearn(&colors), newIndex(), newFiles(), newSymbols(), newOutline(), newText(), newUnused(), newProblems(), newSweep(&colors), newTrail(), newBookmarks(), newWalk(&colors), newKeys(), newRename(), newReplace(), newChanges(), newDraw(), newQuery(), newServe(), newGo(), newHere(), newExport())
	cmd.AddCommand(questions()...)
	completion(cmd)
	return cmd
}

// Commands are all commands, as they are described to people.
func Commands() *cobra.Command {
	color := colorAuto
	return newRoot(&color)
}
