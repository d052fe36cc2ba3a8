package cli

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
)

// result is one answer as it is printed in JSON.
type result struct {
	Path      string `json:"path"`
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
	Query   string   `json:"query"`
	Results []result `json:"results"`
	Error   string   `json:"error,omitempty"`
}

func newDefinition() *cobra.Command {
	var root string
	var asJSON, batch bool
	cmd := &cobra.Command{
		Use:   "definition [POS]",
		Short: "Print where the name at FILE:LINE:COL is defined",
		Long: `Prints where the name at a position is defined, the best answer first, as
path:line:col: text. Paths are written from the root of the project; lines and
columns count from 1, and a column counts bytes. With --json each answer is an
object on a line of its own, which also says how certain it is.

With --batch positions are read from standard input, one a line; what follows
FILE:LINE:COL: on a line is ignored. For each, one JSON object is printed.

The exit status is 0 if something was found, 1 if not, 2 after an error.`,
		Example: `  rooktrail definition dispatch/roster.go:42:18
  rooktrail definition --json --root ~/src/tarnwell dispatch/roster.go:42:18
  rooktrail definition --batch < positions.txt`,
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
			d := definer{out: bufio.NewWriter(cmd.OutOrStdout())}
			err := d.open(cmd.Context(), root)
			switch {
			case err != nil:
			case batch:
				err = d.batch(cmd.Context(), cmd.InOrStdin())
			default:
				err = d.single(cmd.Context(), args[0], asJSON)
			}
			return errors.Join(err, d.out.Flush())
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().BoolVar(&asJSON, "json", false, "print one JSON object a line")
	cmd.Flags().BoolVar(&batch, "batch", false, "read positions from standard input and print one JSON object for each")
	return cmd
}

// definer answers positions with their definitions.
type definer struct {
	ws  *workspace.Workspace
	out *bufio.Writer
}

func (d *definer) open(ctx context.Context, asked string) error {
	root, err := findRoot(asked)
	if err != nil {
		return err
	}
	d.ws, err = openProject(ctx, root)
	return err
}

// answer finds the definitions for a position.
func (d *definer) answer(ctx context.Context, position string) ([]workspace.Spot, error) {
	at, err := place.Parse(position)
	if err != nil {
		return nil, err
	}
	at.Path = inProject(d.ws.Root(), at.Path)
	file, err := d.ws.Load(ctx, at.Path)
	if err != nil {
		if errors.Is(err, os.ErrNotExist) {
			return nil, fmt.Errorf("position %q: there is no such file in %s", position, d.ws.Root())
		}
		return nil, err
	}
	if lines := file.Text.Lines(); at.Line > lines {
		return nil, fmt.Errorf("position %q: the file has only %d lines", position, lines)
	}
	if file.Facts == nil {
		return nil, nil
	}
	_, spots := d.ws.Definition(ctx, at.Path, file.Text.Offset(at.Line, at.Col))
	return spots, nil
}

func (d *definer) single(ctx context.Context, position string, asJSON bool) error {
	spots, err := d.answer(ctx, position)
	if err != nil {
		return err
	}
	for _, s := range spots {
		if asJSON {
			err = printJSON(d.out, resultOf(s))
		} else {
			_, err = fmt.Fprintf(d.out, "%s:%d:%d: %s\n", s.Path, s.Line, s.Col, s.Text)
		}
		if err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	if len(spots) == 0 {
		return errNothing
	}
	return nil
}

// printJSON writes a value on a line of its own.
func printJSON(out io.Writer, v any) error {
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	return enc.Encode(v)
}

func resultOf(s workspace.Spot) result {
	return result{s.Path, s.Line, s.Col, s.Name, s.Kind.String(), s.Container, s.Certainty.String(), s.Text}
}

// longestPosition bounds one line of a batch, in bytes.
const longestPosition = 1 << 20

// batch answers each line of the input with one line of output. It is found
// when any of them has an answer.
func (d *definer) batch(ctx context.Context, in io.Reader) error {
	scanner := bufio.NewScanner(in)
	scanner.Buffer(nil, longestPosition)
	found := false
	for scanner.Scan() && ctx.Err() == nil {
		line := strings.TrimSpace(scanner.Text())
		if line == "" {
			continue
		}
		r := reply{Query: line, Results: []result{}}
		spots, err := d.answer(ctx, positionIn(line))
		if err != nil {
			r.Error = oneLine(err.Error())
		}
		for _, s := range spots {
			r.Results = append(r.Results, resultOf(s))
			found = true
		}
		if err := printJSON(d.out, r); err != nil {
			return fmt.Errorf("printing: %w", err)
		}
	}
	if err := scanner.Err(); err != nil {
		return fmt.Errorf("reading positions from standard input: %w", err)
	}
	if !found {
		return errNothing
	}
	return ctx.Err()
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
