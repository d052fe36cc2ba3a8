package cli

import (
	"bufio"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"os"
	"path"
	"runtime/debug"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// result is one answer as it is printed in JSON.
type result struct {
	in
	Line      int    `json:"line"`
	Col       int    `json:"col"`
	Name      string `json:"name"`
	Kind      string `json:"kind"`
	Container string `json:"container"`
	Certainty string `json:"certainty"`
	Text      string `json:"text"`
}

// reply is the line that answers one position of a batch.
type reply struct {
	Query   string `json:"query"`
	Results []any  `json:"results"`
	Error   string `json:"error,omitempty"`
}

// certaintyWords is what all questions say about their answers.
const certaintyWords = `

Answers are printed as path:line:col: text. Paths are written from the root of the
project; lines and columns count from 1, and a column counts bytes. With --json
each answer is an object on a line of its own, which also says how certain it is.

For Go, and for what libclang reads where that is on the machine, the answers are the compiler's
own where it has read the package or the file as it is now, which it does while the project
is open, and when rooktrail index is run. With --exact it is asked first, about the package
or the file of the position; that can take seconds.

With --batch positions are read from standard input, one a line; what follows
FILE:LINE:COL: on a line is ignored. For each, one JSON object is printed.

The exit status is 0 if something was found, 1 if not, 2 after an error.`

// command makes the command that asks the question.
func (q *question) command() *cobra.Command {
	var root string
	var asJSON, zero, batch, exact bool
	cmd := &cobra.Command{
		Use:     q.name + " [POS]",
		Short:   q.short,
		Long:    q.long + certaintyWords,
		Example: q.example,
		Args: func(cmd *cobra.Command, args []string) error {
			switch {
			case batch && len(args) > 0:
				return errors.New("--batch reads positions from standard input; leave out " + args[0])
			case !batch && len(args) != 1:
				return errors.New("name one position as FILE:LINE:COL, or use --batch")
			}
			return nil
		},
		RunE: func(cmd *cobra.Command, args []string) error {
			a := asker{question: q, exact: exact, out: bufio.NewWriter(cmd.OutOrStdout())}
			err := a.open(cmd.Context(), root, batch)
			switch {
			case err != nil:
			case batch:
				err = a.batch(cmd.Context(), cmd.InOrStdin())
			default:
				err = a.single(cmd.Context(), args[0], asJSON, endOf(zero))
			}
			if q.left != nil && *q.left > 0 && !batch {
				fmt.Fprintf(cmd.ErrOrStderr(), "and %s possible: they have the name, but what they mean was not resolved; --%s prints them, too\n", text.Number(*q.left), unsureFlag)
			}
			return errors.Join(err, a.out.Flush())
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print one JSON object a line")
	zeroFlag(cmd, &zero)
	cmd.Flags().BoolVar(&batch, "batch", false, "read positions from standard input and print one JSON object for each")
	cmd.Flags().BoolVar(&exact, "exact", false, "ask the compiler of the language about the package first, if there is one to ask")
	if q.flags != nil {
		q.flags(cmd)
	}
	return cmd
}

// asker asks a question about positions.
type asker struct {
	*question
	ws  *workspace.Workspace
	out *bufio.Writer
	// exact says that a compiler is to be asked first; checked are the folders about which a compiler was asked.
	exact   bool
	checked map[string]bool
}

// oneByOne is up to how many packages a compiler is asked about one by one; for
// more, it is asked about the whole project.
const oneByOne = 3

// check asks the compiler of a file's language about the package of the file, so
// that the answers are its own.
func (a *asker) check(ctx context.Context, file string) error {
	if workspace.AskedAlone(file) {
		return a.ws.Code.CheckAround(ctx, file)
	}
	folder := path.Dir(file)
	if a.checked[folder] || len(a.checked) > oneByOne {
		return nil
	}
	if a.checked == nil {
		a.checked = map[string]bool{}
	}
	if a.checked[folder] = true; len(a.checked) > oneByOne {
		return a.ws.Code.Check(ctx, check.Fast)
	}
	return a.ws.Code.CheckAround(ctx, file)
}

func (a *asker) open(ctx context.Context, asked string, batch bool) error {
	root, err := rootFor(ctx, asked)
	if err != nil {
		return err
	}
	if batch {
		a.ws, err = openProject(ctx, root)
		return err
	}
	if a.near && shared(ctx) == nil {
		debug.SetGCPercent(soonDone)
		debug.SetMemoryLimit(soonDoneIn)
	}
	a.ws, err = recallProject(ctx, root, a.near)
	return err
}

// soonDone is how much memory may be taken, in per cent of what is in use, before what
// is not needed any more is looked for: who looks into a few files to answer one
// question is done before that is worth it.
const soonDone = 400

// soonDoneIn is how many bytes of memory are taken so.
const soonDoneIn = 100 << 20

// answer finds the answers for a position.
func (a *asker) answer(ctx context.Context, position string) ([]printed, error) {
	at, err := place.Parse(position)
	if err != nil {
		if a.file == nil || place.Split(position).Line > 0 {
			return nil, err
		}
		at = place.Place{Path: position}
	}
	at.Path = inProject(a.ws.Code.Root(), at.Path)
	file, err := a.ws.Code.Load(ctx, at.Path)
	if err != nil {
		if errors.Is(err, os.ErrNotExist) {
			return nil, fmt.Errorf("position %q: there is no such file in %s", position, a.ws.Code.Root())
		}
		return nil, err
	}
	if at.Line == 0 {
		return a.file(ctx, a.ws, at.Path), nil
	}
	if lines := file.Text.Lines(); at.Line > lines {
		return nil, fmt.Errorf("position %q: the file has only %d lines", position, lines)
	}
	if a.exact {
		if err := a.check(ctx, at.Path); err != nil {
			return nil, err
		}
	}
	return a.ask(ctx, a.ws, at.Path, file.Text.Offset(at.Line, at.Col)), nil
}

func (a *asker) single(ctx context.Context, position string, asJSON bool, end string) error {
	answers, err := a.answer(ctx, position)
	if err == nil && (codebase.Hasty(a.ws.Code) && unsure(answers) || codebase.Damaged(a.ws.Code)) {
		answers, err = a.again(ctx, position, answers)
	}
	if err != nil {
		return err
	}
	for _, p := range answers {
		if asJSON {
			err = printJSON(a.out, p.object)
		} else {
			_, err = a.out.WriteString(p.line + end)
		}
		if err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	if len(answers) == 0 {
		return errNothing
	}
	return nil
}

// unsure says whether something that was not looked at could give other answers.
func unsure(answers []printed) bool {
	return len(answers) == 0 || slices.ContainsFunc(answers, func(p printed) bool {
		r, ok := p.object.(result)
		return ok && r.Certainty == resolve.ByName.String()
	})
}

// again answers once more when all files were looked at, if that may give other answers.
func (a *asker) again(ctx context.Context, position string, before []printed) ([]printed, error) {
	if !codebase.Damaged(a.ws.Code) {
		at := a.ws.Code.Generation()
		if codebase.CheckAll(ctx, a.ws.Code) && !codebase.Damaged(a.ws.Code) {
			if a.ws.Code.Generation() == at {
				return before, nil // nothing has changed
			}
			return a.answer(ctx, position)
		}
	}
	var err error
	if a.ws, err = openAnew(ctx, a.ws); err != nil {
		return nil, err
	}
	return a.answer(ctx, position)
}

// printJSON writes a value on a line of its own.
func printJSON(out io.Writer, v any) error {
	data, err := text.JSON(v, "")
	if err == nil {
		_, err = out.Write(data)
	}
	return err
}

// in is the file of an answer.
type in struct {
	Path string `json:"path"`
	// PathBase64 is the same in base64 if it is no UTF-8, which JSON cannot hold otherwise.
	PathBase64 string `json:"path_base64,omitempty"`
}

func inFile(p string) in {
	if utf8.ValidString(p) {
		return in{Path: p}
	}
	return in{p, base64.StdEncoding.EncodeToString([]byte(p))}
}

func resultOf(a *answer.Answer) result {
	return result{inFile(a.Path), a.Line, a.Col, a.Name, a.What(), a.Container, a.Certainty.String(), a.Text}
}

// longestPosition bounds one line of a batch, in bytes.
const longestPosition = 1 << 20

// batch answers each line of the input with one line of output. It is found
// when any of them has an answer; if not one of them is a position, that is an error.
func (a *asker) batch(ctx context.Context, in io.Reader) error {
	lines := bufio.NewReaderSize(in, 1<<16)
	found, asked, wrong := false, 0, error(nil)
	for n := 1; ctx.Err() == nil; n++ {
		text, err := readLine(lines, longestPosition)
		if err == io.EOF {
			break
		}
		if err != nil {
			return fmt.Errorf("reading positions from standard input, line %d: %w", n, err)
		}
		line := strings.TrimSpace(text)
		if line == "" {
			continue
		}
		r := reply{Query: line, Results: []any{}}
		answers, err := a.answer(ctx, positionIn(line))
		if err != nil {
			r.Error = oneLine(err.Error())
			wrong = fmt.Errorf("line %d: %w", n, err)
		} else {
			asked++
		}
		for _, p := range answers {
			r.Results = append(r.Results, p.object)
			found = true
		}
		if err := errors.Join(printJSON(a.out, r), a.out.Flush()); err != nil { // whoever asks may wait for it
			return fmt.Errorf("printing: %w", err)
		}
	}
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case asked == 0 && wrong != nil:
		return fmt.Errorf("none of the lines is a position: %w", wrong)
	case !found:
		return errNothing
	}
	return nil
}

// errLong says that a line is longer than is read.
var errLong = errors.New("it is longer than any position")

// readLine reads a line of at most so many bytes, without its end; io.EOF behind the last.
func readLine(r *bufio.Reader, most int) (string, error) {
	var line []byte
	for {
		part, err := r.ReadSlice('\n')
		if line = append(line, part...); len(line) > most {
			return "", errLong
		}
		switch {
		case err == bufio.ErrBufferFull:
		case err == io.EOF && len(line) > 0, err == nil:
			return string(line), nil
		default:
			return "", err
		}
	}
}

// positionIn takes the position from the front of a line such as other
// programs print: path:line:col: text.
func positionIn(line string) string {
	if _, err := place.Parse(line); err == nil {
		return line
	}
	for i := 0; i < len(line); i++ {
		if line[i] == ':' {
			if _, err := place.Parse(line[:i]); err == nil {
				return line[:i]
			}
		}
	}
	return line
}
