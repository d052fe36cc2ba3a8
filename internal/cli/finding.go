package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
)

// finder is a command that prints places: its flags, its project, its output.
type finder struct {
	root   string
	asJSON bool
	zero   bool
	limit  int

	ws    *workspace.Workspace
	out   *bufio.Writer
	count int
}

// command makes the command; search is called with the project open.
func (f *finder) command(use, short, long, example string, args cobra.PositionalArgs, search func(ctx context.Context, args []string) error) *cobra.Command {
	cmd := &cobra.Command{
		Use: use, Short: short, Long: long, Example: example, Args: args,
		RunE: func(cmd *cobra.Command, args []string) error {
			root, err := rootFor(cmd.Context(), f.root)
			if err != nil {
				return err
			}
			if f.ws, err = recallProject(cmd.Context(), root, false); err != nil {
				return err
			}
			f.out = bufio.NewWriter(cmd.OutOrStdout())
			if err := errors.Join(search(cmd.Context(), args), f.out.Flush()); err != nil {
				return err
			}
			if f.count > 0 {
				return nil
			}
			if f.ws.Code.Listing().Len() <= project.FewFiles && f.ws.Code.Progress().Files == 0 {
				if _, err := openProject(cmd.Context(), root); err != nil { // which says what was left out
					return err
				}
			}
			return errNothing
		},
	}
	cmd.Flags().StringVar(&f.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().BoolVar(&f.asJSON, "json", false, "print one JSON object a line")
	zeroFlag(cmd, &f.zero)
	return cmd
}

// zeroFlag is the one by which answers end with a zero byte, which no path holds.
func zeroFlag(cmd *cobra.Command, zero *bool) {
	cmd.Flags().BoolVarP(zero, "null", "0", false, "end each answer with a zero byte instead of a line end, as paths may hold one")
	cmd.MarkFlagsMutuallyExclusive("null", "json")
}

// endOf is what stands behind each answer.
func endOf(zero bool) string {
	if zero {
		return "\x00"
	}
	return "\n"
}

func (f *finder) limited(cmd *cobra.Command, limit int) *cobra.Command {
	cmd.Flags().IntVar(&f.limit, "limit", limit, "print at most this many; 0 for all")
	return cmd
}

// most is the limit as a number of answers.
func (f *finder) most() int {
	if f.limit <= 0 {
		return 1 << 30
	}
	return f.limit
}

// print writes one answer, as an object or as a line of text.
func (f *finder) print(object any, line string) error {
	f.count++
	var err error
	if f.asJSON {
		err = printJSON(f.out, object)
	} else {
		_, err = f.out.WriteString(line + endOf(f.zero))
	}
	if err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}

// fileResult is a file as it is printed in JSON.
type fileResult struct{ in }

func newFiles() *cobra.Command {
	f := &finder{}
	return f.limited(f.command("files QUERY", "Find files by what you remember of their paths",
		"Prints the files whose paths match, the best first. See rooktrail symbols --help for what a query\ncan say.",
		"  rooktrail files dis/ro\n  rooktrail files 'roster is:test'", cobra.MinimumNArgs(1),
		func(ctx context.Context, args []string) error {
			query := strings.Join(args, " ")
			if err := f.ws.Search.CheckFilter(query); err != nil {
				return err
			}
			for _, h := range f.ws.Search.Files(ctx, query, f.most()) {
				if err := f.print(fileResult{inFile(h.Path)}, h.Path); err != nil {
					return err
				}
			}
			return nil
		}), 100)
}

// symbolResult is a symbol as it is printed in JSON.
type symbolResult struct {
	in
	Line      int    `json:"line"`
	Col       int    `json:"col"`
	Name      string `json:"name"`
	Kind      string `json:"kind"`
	Container string `json:"container"`
	// Modifiers are only told in an outline.
	Modifiers []string `json:"modifiers,omitempty"`
	Text      string   `json:"text"`
}

func newSymbols() *cobra.Command {
	f := &finder{}
	var kind, in string
	cmd := f.limited(f.command("symbols QUERY", "Find symbols by what you remember of their names",
		`Prints the symbols whose names match, the best first, as path:line:col: text.

Letters need not be side by side, words may come in any order, a container in
front is reached by its initials (ro.as finds Roster.Assign), and a slip of the
fingers is forgiven. in:FOLDER, kind:KIND, ext:EXTENSION, is:test and is:code
narrow the answers.`,
		"  rooktrail symbols ro.as\n  rooktrail symbols --kind method assign", cobra.MinimumNArgs(1),
		func(ctx context.Context, args []string) error {
			query := strings.Join(args, " ")
			for name, value := range map[string]string{"kind": kind, "in": in} {
				if value != "" {
					query += " " + name + ":" + value
				}
			}
			if err := f.ws.Search.CheckFilter(query); err != nil {
				return err
			}
			for _, h := range f.ws.Search.Symbols(ctx, query, f.most()) {
				if err := f.symbol(h.Path, h.Offset, symbolResult{Name: h.Name, Kind: h.Kind.String(), Container: h.Container, Line: h.Line}); err != nil {
					return err
				}
			}
			return nil
		}), 100)
	cmd.Flags().StringVar(&kind, "kind", "", "only symbols of this kind, such as method or type")
	cmd.Flags().StringVar(&in, "in", "", "only symbols in this folder")
	return cmd
}

// symbol prints a symbol with its line.
func (f *finder) symbol(path string, offset int, r symbolResult) error {
	file, err := codebase.LoadText(f.ws.Code, path)
	if err != nil {
		return nil // it has gone since it was read
	}
	r.in = inFile(path)
	r.Line, r.Col = file.Text.Position(offset)
	r.Text = search.LineText(file.Text, r.Line)
	return f.print(r, fmt.Sprintf("%s:%d:%d: %s", r.Path, r.Line, r.Col, r.Text))
}

func newOutline() *cobra.Command {
	f := &finder{}
	return f.command("outline FILE", "List the symbols of a file",
		"Prints the symbols of a file in their order, as path:line:col: text, those inside others\nindented; with --json each with its kind and container.",
		"  rooktrail outline dispatch/roster.go", cobra.ExactArgs(1),
		func(ctx context.Context, args []string) error {
			path := inProject(f.ws.Code.Root(), args[0])
			file, err := f.ws.Code.Load(ctx, path)
			if err != nil {
				return err
			}
			if file.Facts == nil {
				return nil
			}
			for _, id := range file.Facts.Symbols() {
				d := &file.Facts.Defs[id]
				line, col := file.Text.Position(int(d.At.Start))
				r := symbolResult{inFile(path), line, col, d.Name, d.Kind.String(), d.Container, d.Modifiers(file.Text.Bytes()), search.LineText(file.Text, line)}
				text := fmt.Sprintf("%s:%d:%d: %s%s %s", path, line, col, strings.Repeat("  ", depth(file.Facts, id)), d.Kind, d.Name)
				if err := f.print(r, text); err != nil {
					return err
				}
			}
			return nil
		})
}

// depth counts the definitions around one.
func depth(f *facts.File, id facts.DefID) int {
	n := 0
	for p := f.Defs[id].Parent; p != facts.NoDef; p = f.Defs[p].Parent {
		n++
	}
	return n
}

// textResult is a place where a text was found, as it is printed in JSON.
type textResult struct {
	in
	Line int    `json:"line"`
	Col  int    `json:"col"`
	Role string `json:"role"`
	Text string `json:"text"`
}

func newText() *cobra.Command {
	f := &finder{}
	var q find.Query
	var role string
	cmd := f.limited(f.command("text PATTERN", "Search the text of all files",
		`Prints the lines that hold a text, as path:line:col: text, in the order of the
paths. A pattern in small letters matches any case, one with a capital only the
same. Each hit is known as a definition, other code, a comment, a string, or
other, which --role chooses from and --json prints.`,
		"  rooktrail text 'no team'\n  rooktrail text --regex 'Assign\\w*\\(' --glob '*.go' --role code", cobra.ExactArgs(1),
		func(ctx context.Context, args []string) error {
			q.Pattern = args[0]
			wanted, err := checkQuery(f.ws, &q, role)
			if err != nil {
				return err
			}
			m, err := find.Compile(q)
			if err != nil {
				return err
			}
			f.ws.Search.FindText(ctx, m, func(hits []search.TextHit) bool {
				for _, h := range hits {
					if role != "" && h.Role != wanted {
						continue
					}
					r := textResult{inFile(h.Path), h.Line, h.Col, h.Role.String(), h.Text}
					if err = f.print(r, fmt.Sprintf("%s:%d:%d: %s", h.Path, h.Line, h.Col, strings.TrimSpace(h.Text))); err != nil || f.count >= f.most() {
						return false
					}
				}
				return true
			})
			return err
		}), 0)
	queryFlags(cmd, &q, &role)
	return cmd
}

// checkQuery completes a query for text in a project, and says what is wrong with it.
func checkQuery(ws *workspace.Workspace, q *find.Query, role string) (find.Role, error) {
	if _, err := find.Compile(*q); err != nil {
		return 0, err
	}
	if q.Folder != "" {
		q.Folder = inProject(ws.Code.Root(), q.Folder)
	}
	if err := ws.Search.CheckFolder(q.Folder); err != nil {
		return 0, err
	}
	if err := ws.Search.CheckGlobs(q.Include); err != nil {
		return 0, err
	}
	wanted, ok := find.ParseRole(role)
	if role != "" && !ok {
		return 0, fmt.Errorf("there is no role %q; choose definition, code, comment, string or other", role)
	}
	return wanted, nil
}

// queryFlags are those that say what text is looked for, and where.
func queryFlags(cmd *cobra.Command, q *find.Query, role *string) {
	cmd.Flags().BoolVar(&q.Regexp, "regex", false, "the pattern is a regular expression (RE2 syntax)")
	cmd.Flags().BoolVar(&q.Word, "word", false, "whole words only")
	cmd.Flags().BoolVar(&q.Case, "case", false, "letters match only in the same case")
	cmd.Flags().StringArrayVar(&q.Include, "glob", nil, "only files that match, such as '*.go' or 'docs/**'; may be given again")
	cmd.Flags().StringArrayVar(&q.Exclude, "exclude", nil, "no files that match; may be given again")
	cmd.Flags().StringVar(&q.Folder, "in", "", "only files in this folder")
	cmd.Flags().StringVar(role, "role", "", "only hits in this role: definition, code, comment, string or other")
}
