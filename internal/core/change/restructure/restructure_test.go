package restructure_test

import (
	"context"
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

var update = flag.Bool("update", false, "write down what comes of the samples; read what has changed")

// A sample is a piece of code in which something is marked by « and », what is to be done with it, and what comes of it:
// the code as it reads then, or why it is not done. They stand in testdata, one file a language:
//
//	=== a title
//	variable name|variable-all name|function name|inline|takes PARAMS ; NAME = VALUE
//	--- FILE
//	the code before
//	--- after
//	the code behind it, or one line that begins with "refused: "
type sample struct {
	title, what, file, before, after string
}

func samples(t *testing.T, name string) (all []sample) {
	raw, err := os.ReadFile(name)
	require.NoError(t, err)
	for part := range strings.SplitSeq(string(raw), "=== ") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		head, rest, ok := strings.Cut(part, "\n--- ")
		require.True(t, ok, part)
		title, what, _ := strings.Cut(head, "\n")
		file, rest, _ := strings.Cut(rest, "\n")
		before, after, ok := strings.Cut(rest, "--- after\n")
		require.True(t, ok, title)
		all = append(all, sample{title, what, file, before, after})
	}
	return all
}

// do does what a sample says.
func do(t *testing.T, s sample) string {
	front, rest, ok := strings.Cut(s.before, "«")
	require.True(t, ok, s.title)
	marked, back, ok := strings.Cut(rest, "»")
	require.True(t, ok, s.title)
	files := map[string]string{s.file: front + marked + back}
	if strings.HasSuffix(s.file, ".go") {
		files["go.mod"] = "module tarnwell.example/huts\n\ngo 1.24\n"
	}
	ws := workspacetest.Open(t, files)
	of := restructure.Part{Path: s.file, At: place.Range{Start: uint32(len(front)), End: uint32(len(front) + len(marked))}}
	p, err := propose(ws, of, s.what)
	if err != nil {
		return "refused: " + err.Error() + "\n"
	}
	var out strings.Builder
	for _, w := range p.Warnings {
		if w.Stops {
			return "refused: " + w.Text + "\n"
		}
		out.WriteString("note: " + w.Text + "\n")
	}
	out.Write(p.File(s.file).After().Bytes())
	return out.String()
}

func propose(ws *workspace.Workspace, of restructure.Part, what string) (*proposal.Proposal, error) {
	ctx := context.Background()
	verb, rest, _ := strings.Cut(strings.TrimSpace(what), " ")
	switch verb {
	case "variable", "variable-all":
		return ws.Changes.Variable(ctx, of, rest, verb == "variable-all")
	case "function":
		return ws.Changes.Function(ctx, of, rest)
	case "takes":
		params, given, _ := strings.Cut(rest, ";")
		sig, err := ws.Changes.Signature(ctx, of)
		if err != nil {
			return nil, err
		}
		c := restructure.Change{Of: sig, Params: strings.TrimSpace(params), Given: map[string]string{}}
		if name, value, ok := strings.Cut(given, "="); ok {
			c.Given[strings.TrimSpace(name)] = strings.TrimSpace(value)
		}
		return ws.Changes.Parameters(ctx, c)
	}
	of.At.End = of.At.Start
	return ws.Changes.Inline(ctx, of)
}

func TestSamples(t *testing.T) {
	files, err := filepath.Glob("testdata/*.txt")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		var written strings.Builder
		for _, s := range samples(t, name) {
			t.Run(filepath.Base(name)+"/"+s.title, func(t *testing.T) {
				got := do(t, s)
				if *update {
					written.WriteString("=== " + s.title + "\n" + strings.TrimSpace(s.what) + "\n--- " + s.file + "\n" + s.before + "--- after\n" + got)
					return
				}
				assert.Equal(t, s.after, got)
			})
		}
		if *update {
			require.NoError(t, os.WriteFile(name, []byte(written.String()), 0o644))
		}
	}
}
