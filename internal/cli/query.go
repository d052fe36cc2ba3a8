package cli

import (
	"bufio"
	"bytes"
	"context"
	_ "embed" // the schema
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"
	"sync"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
)

// querySchema says what is asked and answered; see rooktrail query --schema.
//
//go:embed query.schema.json
var querySchema []byte

// asked are the commands that may be asked for by rooktrail query, and what their argument is called; optional ones end with "?".
var asked = map[string]struct {
	argument string
	command  func() *cobra.Command
}{
	"definition":      {"at", func() *cobra.Command { return definition().command() }},
	"type-definition": {"at", func() *cobra.Command { return typeDefinition().command() }},
	"implementations": {"at", func() *cobra.Command { return implementations().command() }},
	"references":      {"at", func() *cobra.Command { return references().command() }},
	"supertypes":      {"at", func() *cobra.Command { return supertypes().command() }},
	"subtypes":        {"at", func() *cobra.Command { return subtypes().command() }},
	"calls":           {"at", func() *cobra.Command { return calls().command() }},
	"values":          {"at", func() *cobra.Command { return values().command() }},
	"tests":           {"at", func() *cobra.Command { return tests().command() }},
	"imports":         {"at", func() *cobra.Command { return imports().command() }},
	"describe":        {"at", func() *cobra.Command { return describe().command() }},
	"files":           {"query", newFiles}, "symbols": {"query", newSymbols}, "text": {"pattern", newText}, "outline": {"file", newOutline},
	"unused": {"in?", newUnused}, "problems": {"in?", newProblems}, "changes": {"since?", newChanges},
}

func newQuery() *cobra.Command {
	var root string
	var schema bool
	cmd := &cobra.Command{
		Use:   "query",
		Short: "Answer questions that come as JSON, one a line, on standard input",
		Long: `Reads questions from standard input, each a JSON object on a line of its own, and answers
them while the project stays open, several at a time:

  {"id": 1, "ask": "references", "at": "dispatch/roster.go:42:18", "access": ["write"]}

"ask" is the name of a command: ` + wrapped(slices.Sorted(maps.Keys(asked)), 88, 32) + `.
What that takes is "at" (FILE:LINE:COL), "query", "pattern", "file", "in" (a folder) or
"since", and its options are named as there, without the dashes. "id" is any number or text;
the number of the line, if there is none.

Each answer is printed as {"id": 1, "result": {…}}, with what the command prints with --json,
as soon as it is found; behind the last one comes {"id": 1, "done": true, "count": 2}. A
question that cannot be answered ends with {"id": 1, "error": "…"}. {"cancel": 1} ends the
question of that id. Files that change meanwhile are read anew.

--schema prints the JSON Schema of all that. The exit status is 0, or 2 if questions could
not be read or answers not be printed.`,
		Example: `  echo '{"ask": "symbols", "query": "ro.as", "limit": 3}' | rooktrail query
  rooktrail query --root ~/src/tarnwell < questions.jsonl > answers.jsonl`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if schema {
				_, err := cmd.OutOrStdout().Write(querySchema)
				return err
			}
			return answerQueries(cmd, root)
		},
	}
	cmd.Flags().StringVar(&root, "root", "", "folder of the project (default: the one that holds the present folder)")
	cmd.Flags().BoolVar(&schema, "schema", false, "print the JSON Schema of questions and answers")
	return cmd
}

// wrapped are words with commas between them, in lines of at most so many columns; the first begins further to the right.
func wrapped(words []string, width, first int) string {
	var b strings.Builder
	at := first
	for i, w := range words {
		if i < len(words)-1 {
			w += ","
		}
		if at+1+len(w) > width {
			b.WriteString("\n" + w)
			at = len(w)
			continue
		}
		if i > 0 {
			b.WriteString(" ")
			at++
		}
		b.WriteString(w)
		at += len(w)
	}
	return b.String()
}

// sharedKey is where a context has the project that several questions share.
type sharedKey struct{}

// shared is the project that is open already; nil if none is.
func shared(ctx context.Context) *workspace.Workspace {
	ws, _ := ctx.Value(sharedKey{}).(*workspace.Workspace)
	return ws
}

// answerQueries answers questions until there are no more.
func answerQueries(cmd *cobra.Command, asked string) error {
	root, err := findRoot(asked)
	if err != nil {
		return err
	}
	ctx, stop := context.WithCancel(cmd.Context())
	defer stop()
	ws, err := openProject(ctx, root)
	if err != nil {
		return err
	}
	know(ws, dataFolder()) // the reports that were read in
	var watching work.Group
	watching.Go(func() { ws.Code.Watch(ctx) })
	q := &querier{ctx: context.WithValue(ctx, sharedKey{}, ws), out: bufio.NewWriter(cmd.OutOrStdout()), room: make(chan struct{}, work.Processors()), live: map[string]context.CancelFunc{}}
	err = q.read(cmd.InOrStdin())
	q.answering.Wait()
	stop()
	watching.Wait()
	return errors.Join(err, q.failed, ws.Code.Close())
}

// querier answers questions as they come.
type querier struct {
	ctx       context.Context
	answering work.Group
	room      chan struct{} // for questions that are answered at the same time

	printing sync.Mutex
	out      *bufio.Writer
	failed   error // printing

	// Those that are not answered yet have a lock of their own: questions are taken, and ended, while nobody reads the answers.
	mu   sync.Mutex
	live map[string]context.CancelFunc
}

// queryLine is a line that is printed: an answer, the end of a question, or why it was not answered.
type queryLine struct {
	ID     json.RawMessage `json:"id"`
	Result json.RawMessage `json:"result,omitempty"`
	Done   bool            `json:"done,omitempty"`
	Count  *int            `json:"count,omitempty"`
	Says   string          `json:"says,omitempty"`
	Error  string          `json:"error,omitempty"`
}

// longestQuery bounds one question, in bytes.
const longestQuery = 1 << 20

// read takes questions until there are no more, or nobody reads the answers.
func (q *querier) read(in io.Reader) error {
	lines := bufio.NewReaderSize(in, 1<<16)
	for n := 1; ; n++ {
		line, err := readLine(lines, longestQuery)
		switch {
		case err == io.EOF || q.over():
			return nil
		case errors.Is(err, errLong):
			q.fail(json.RawMessage(fmt.Sprint(n)), "the line is longer than any question")
			return fmt.Errorf("reading questions from standard input, line %d: %w", n, err)
		case err != nil:
			return fmt.Errorf("reading questions from standard input, line %d: %w", n, err)
		case strings.TrimSpace(line) != "":
			q.take(n, line)
		}
	}
}

// over says whether answers are of no use any more.
func (q *querier) over() bool {
	if !q.printing.TryLock() {
		return false
	}
	defer q.printing.Unlock()
	return q.failed != nil || q.ctx.Err() != nil
}

// take takes the question of a line, which is answered beside.
func (q *querier) take(n int, line string) {
	id, args, cancels, err := parseQuery(line)
	if id == nil {
		id = json.RawMessage(fmt.Sprint(n))
	}
	key := string(id)
	switch {
	case err != nil:
		q.fail(id, oneLine(err.Error()))
		return
	case cancels:
		q.mu.Lock()
		if stop := q.live[key]; stop != nil {
			stop()
		}
		q.mu.Unlock()
		return
	}
	ctx, stop := context.WithCancel(q.ctx)
	q.mu.Lock()
	again := q.live[key] != nil
	if !again {
		q.live[key] = stop
	}
	q.mu.Unlock()
	if again {
		stop()
		q.fail(id, "a question of this id is not answered yet")
		return
	}
	q.answering.Go(func() {
		defer stop()
		select {
		case q.room <- struct{}{}:
			defer func() { <-q.room }()
		case <-ctx.Done():
		}
		last := q.answer(ctx, id, args)
		q.mu.Lock()
		delete(q.live, key)
		q.mu.Unlock()
		_ = q.print(last) // which is noted
	})
}

// fail says, beside, that a question cannot be answered.
func (q *querier) fail(id json.RawMessage, why string) {
	q.answering.Go(func() { _ = q.print(queryLine{ID: id, Error: why}) }) // which is noted
}

// answer carries out a question; it gives back what is printed behind the last answer.
func (q *querier) answer(ctx context.Context, id json.RawMessage, args []string) queryLine {
	out, errs := &answerLines{ctx: ctx, of: q, id: id}, &bytes.Buffer{}
	cmd := asked[args[0]].command()
	cmd.SilenceErrors, cmd.SilenceUsage = true, true
	cmd.SetArgs(args[1:])
	cmd.SetOut(out)
	cmd.SetErr(errs)
	err := ctx.Err()
	if err == nil {
		err = cmd.ExecuteContext(ctx)
	}
	switch {
	case ctx.Err() != nil:
		return queryLine{ID: id, Error: "cancelled"}
	case err != nil && !onlyNothing(err):
		return queryLine{ID: id, Error: oneLine(plainWords(err).Error())}
	}
	return queryLine{ID: id, Done: true, Count: &out.count, Says: strings.TrimSpace(errs.String())}
}

// answerLines prints each line as an answer to a question.
type answerLines struct {
	ctx   context.Context // of the question
	of    *querier
	id    json.RawMessage
	rest  []byte
	count int
}

// Write implements io.Writer.
func (a *answerLines) Write(p []byte) (int, error) {
	a.rest = append(a.rest, p...)
	for {
		line, rest, ended := bytes.Cut(a.rest, []byte("\n"))
		if !ended {
			return len(p), nil
		}
		if a.ctx.Err() != nil {
			return 0, a.ctx.Err()
		}
		a.count++
		if err := a.of.print(queryLine{ID: a.id, Result: bytes.Clone(line)}); err != nil {
			return 0, err
		}
		a.rest = rest
	}
}

// print prints a line.
func (q *querier) print(l queryLine) error {
	data, err := text.JSON(l, "")
	q.printing.Lock()
	defer q.printing.Unlock()
	if q.failed != nil {
		return q.failed
	}
	if err == nil {
		_, err = q.out.Write(data)
	}
	if err == nil {
		err = q.out.Flush()
	}
	if err != nil {
		q.failed = fmt.Errorf("printing: %w", err)
	}
	return q.failed
}

// parseQuery takes a question apart into the arguments of its command; cancels says that it ends another one.
func parseQuery(line string) (id json.RawMessage, args []string, cancels bool, err error) {
	var all map[string]json.RawMessage
	if err := json.Unmarshal([]byte(line), &all); err != nil {
		return nil, nil, false, fmt.Errorf("it is no JSON object: %w", err)
	}
	if id, err = idIn(all["id"]); err != nil {
		return nil, nil, false, err
	}
	if other, ok := all["cancel"]; ok {
		if other, err = idIn(other); err != nil || other == nil || len(all) > 1 {
			return nil, nil, true, errors.New("\"cancel\" is the id of a question, and stands alone")
		}
		return other, nil, true, nil
	}
	var name string
	if err := json.Unmarshal(all["ask"], &name); err != nil {
		return id, nil, false, errors.New("\"ask\" is lacking: the name of a command")
	}
	command, ok := asked[name]
	if !ok {
		return id, nil, false, fmt.Errorf("there is no question %q; rooktrail query --help lists them", name)
	}
	args = []string{name, "--json"}
	if name == "problems" {
		args[1] = "--as=json"
	}
	argument, optional := strings.CutSuffix(command.argument, "?")
	given := ""
	for _, key := range slices.Sorted(maps.Keys(all)) {
		switch key {
		case "id", "ask":
		case argument:
			if err := json.Unmarshal(all[key], &given); err != nil || given == "" {
				return id, nil, false, fmt.Errorf("%q is a text", key)
			}
		case "root", "json", "as", "batch", "help":
			return id, nil, false, fmt.Errorf("%q is not to be chosen here", key)
		default:
			options, err := optionsOf(key, all[key])
			if err != nil {
				return id, nil, false, err
			}
			args = append(args, options...)
		}
	}
	switch {
	case given != "":
		args = append(args, "--", given)
	case !optional:
		return id, nil, false, fmt.Errorf("%q is lacking", argument)
	}
	return id, args, false, nil
}

// idIn is an id as it was written; nil if there is none.
func idIn(raw json.RawMessage) (json.RawMessage, error) {
	if len(raw) == 0 {
		return nil, nil
	}
	var v any
	if err := json.Unmarshal(raw, &v); err != nil {
		return nil, fmt.Errorf("reading the id: %w", err)
	}
	switch v.(type) {
	case string, float64:
		return raw, nil
	}
	return nil, errors.New("an id is a number or a text")
}

// optionsOf are the options of a command for what an object says.
func optionsOf(key string, raw json.RawMessage) (options []string, err error) {
	var v any
	if err := json.Unmarshal(raw, &v); err != nil {
		return nil, fmt.Errorf("reading %q: %w", key, err)
	}
	all, several := v.([]any)
	if !several {
		all = []any{v}
	}
	for _, one := range all {
		switch one := one.(type) {
		case string, bool:
			options = append(options, fmt.Sprintf("--%s=%v", key, one))
		case float64:
			options = append(options, fmt.Sprintf("--%s=%.0f", key, one))
		default:
			return nil, fmt.Errorf("%q is a text, a number, true or false, or several of them", key)
		}
	}
	return options, nil
}
