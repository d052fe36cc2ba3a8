package cli

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// schemaOfQueries is what questions and answers have to be.
func schemaOfQueries(t *testing.T) *jsonschema.Schema {
	t.Helper()
	_, text, _ := run(t, "", "query", "--schema")
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("query.json", doc))
	schema, err := c.Compile("query.json")
	require.NoError(t, err)
	return schema
}

// answered are the answers to questions by their ids, and how each ended.
func answered(t *testing.T, schema *jsonschema.Schema, out string) (results map[string][]string, ends map[string]map[string]any) {
	t.Helper()
	results, ends = map[string][]string{}, map[string]map[string]any{}
	for line := range strings.Lines(out) {
		doc, err := jsonschema.UnmarshalJSON(strings.NewReader(line))
		require.NoError(t, err, line)
		assert.NoError(t, schema.Validate(doc), line)
		var one struct {
			ID     any
			Result json.RawMessage
		}
		require.NoError(t, json.Unmarshal([]byte(line), &one))
		id := fmt.Sprint(one.ID)
		require.Nil(t, ends[id], "nothing comes behind the end of %s", id)
		if one.Result != nil {
			results[id] = append(results[id], string(one.Result)+"\n")
			continue
		}
		var end map[string]any
		require.NoError(t, json.Unmarshal([]byte(line), &end))
		ends[id] = end
	}
	return results, ends
}

// Every question gives what its command prints, and all of it is as the schema says.
func TestQueriesAreAnsweredAsByTheCommands(t *testing.T) {
	root := sample(t)
	schema := schemaOfQueries(t)
	questions := map[string][]string{
		`{"id":"d","ask":"definition","at":"a.go:5:9"}`:                                   {"definition", "--json", "a.go:5:9"},
		`{"id":"r","ask":"references","at":"a.go:3:6","access":["call"],"mentions":true}`: {"references", "--json", "--access", "call", "--mentions", "a.go:3:6"},
		`{"id":"c","ask":"calls","at":"sub/b.py:1:5","incoming":true}`:                    {"calls", "--json", "--incoming", "sub/b.py:1:5"},
		`{"id":"t","ask":"type-definition","at":"a.go:5:5"}`:                              {"type-definition", "--json", "a.go:5:5"},
		`{"id":"v","ask":"values","at":"a.go:5:5"}`:                                       {"values", "--json", "a.go:5:5"},
		`{"id":"D","ask":"describe","at":"a.go:5:9"}`:                                     {"describe", "--json", "a.go:5:9"},
		`{"id":"i","ask":"implementations","at":"a.go:3:6","unsure":true}`:                {"implementations", "--json", "--unsure", "a.go:3:6"},
		`{"id":"s","ask":"symbols","query":"ring","limit":1}`:                             {"symbols", "--json", "--limit", "1", "ring"},
		`{"id":"f","ask":"files","query":"b.py"}`:                                         {"files", "--json", "b.py"},
		`{"id":"o","ask":"outline","file":"a.go"}`:                                        {"outline", "--json", "a.go"},
		`{"id":"x","ask":"text","pattern":"ring","case":true,"glob":["*.py"]}`:            {"text", "--json", "--case", "--glob", "*.py", "ring"},
		`{"id":"u","ask":"unused"}`:                                                       {"unused", "--json"},
		`{"id":"p","ask":"problems","in":"sub","unchecked":true}`:                         {"problems", "--as", "json", "--unchecked", filepath.Join(root, "sub")},
		`{"id":"I","ask":"imports","at":"a.go","by":true}`:                                {"imports", "--json", "--by", "a.go"},
		`{"id":"T","ask":"tests","at":"a.go"}`:                                            {"tests", "--json", "a.go"},
		`{"id":"up","ask":"supertypes","at":"a.go:3:6","all":true}`:                       {"supertypes", "--json", "--all", "a.go:3:6"},
		`{"id":"dn","ask":"subtypes","at":"a.go:3:6"}`:                                    {"subtypes", "--json", "a.go:3:6"},
	}
	var in strings.Builder
	for q := range questions {
		doc, err := jsonschema.UnmarshalJSON(strings.NewReader(q))
		require.NoError(t, err)
		require.NoError(t, schema.Validate(doc), q)
		in.WriteString(q + "\n\n")
	}
	status, out, errs := run(t, in.String(), "query", "--root", root)
	require.Equal(t, 0, status, errs)
	results, ends := answered(t, schema, out)
	some := 0
	for q, args := range questions {
		var asked struct{ ID string }
		require.NoError(t, json.Unmarshal([]byte(q), &asked))
		_, want, _ := run(t, "", append([]string{args[0], "--root", root}, args[1:]...)...)
		assert.Equal(t, want, strings.Join(results[asked.ID], ""), q)
		assert.Equal(t, map[string]any{"id": asked.ID, "done": true, "count": float64(len(results[asked.ID]))}, without(ends[asked.ID], "says"), q)
		some += len(results[asked.ID])
	}
	assert.Greater(t, some, 10)
}

func without(m map[string]any, key string) map[string]any {
	delete(m, key)
	return m
}

// What is no question is said to be none, and the others are answered.
func TestWhatIsNoQuestion(t *testing.T) {
	root := sample(t)
	schema := schemaOfQueries(t)
	wrong := map[string]string{
		`garbage`:                            "no JSON object",
		`{"ask":`:                            "no JSON object",
		`[1]`:                                "no JSON object",
		`{}`:                                 `"ask" is lacking`,
		`{"ask":7}`:                          `"ask" is lacking`,
		`{"ask":"rename","at":"a.go:3:6"}`:   "there is no question",
		`{"ask":"definition"}`:               `"at" is lacking`,
		`{"ask":"definition","at":3}`:        `"at" is a text`,
		`{"ask":"definition","at":"a.go"}`:   "a.go",
		`{"ask":"definition","at":"x:1:1"}`:  "there is no such file",
		`{"ask":"definition","at":"-x:1:1"}`: "there is no such file",
		`{"ask":"text","pattern":"x","loud":true}`:          "there is no option --loud",
		`{"ask":"text","pattern":"x","root":"/"}`:           "not to be chosen here",
		`{"ask":"text","pattern":"x","limit":{"most":3}}`:   `"limit" is a text, a number`,
		`{"ask":"text","pattern":"x","limit":"many"}`:       "many",
		`{"id":[1],"ask":"text","pattern":"x"}`:             "an id is a number or a text",
		`{"cancel":1,"ask":"text"}`:                         "stands alone",
		`{"ask":"outline","file":"../../../../etc/passwd"}`: "",
	}
	var in strings.Builder
	var order []string
	for q := range wrong {
		order = append(order, q)
		in.WriteString(q + "\n")
	}
	in.WriteString(`{"cancel":"nobody"}` + "\n" + `{"id":"last","ask":"files","query":"a.go"}`) // without an end of line
	status, out, errs := run(t, in.String(), "query", "--root", root)
	require.Equal(t, 0, status, errs)
	results, ends := answered(t, schema, out)
	for i, q := range order {
		id := fmt.Sprint(i + 1)
		assert.Empty(t, results[id], q)
		require.Contains(t, ends, id, q)
		assert.Contains(t, fmt.Sprint(ends[id]["error"]), wrong[q], q)
	}
	assert.Len(t, results["last"], 1)

	status, out, errs = run(t, strings.Repeat("x", longestQuery+10), "query", "--root", root)
	assert.Equal(t, 2, status)
	assert.Contains(t, out+errs, "longer than")
	status, _, errs = run(t, "", "query", "--root", filepath.Join(root, "nowhere"))
	assert.Equal(t, 2, status, errs)
}

// What is asked is answered while more comes, and a question ends when it is cancelled.
func TestQueriesStreamAndAreCancelled(t *testing.T) {
	root := sample(t)
	many := &bytes.Buffer{}
	for range 200_000 {
		many.WriteString("the hut rings\n")
	}
	require.NoError(t, os.WriteFile(filepath.Join(root, "many.txt"), many.Bytes(), 0o600))
	in, ask := io.Pipe()
	answers, out := io.Pipe()
	ended := make(chan int)
	go func() {
		ended <- Run([]string{"query", "--root", root}, in, out, io.Discard)
		out.Close()
	}()
	lines := json.NewDecoder(answers)
	next := func() (one map[string]any) {
		require.NoError(t, lines.Decode(&one))
		return one
	}
	fmt.Fprintln(ask, `{"id":1,"ask":"text","pattern":"rings"}`)
	assert.Contains(t, next(), "result", "before there is more to read")
	fmt.Fprintln(ask, `{"id":1,"ask":"files","query":"a.go"}`) // nobody reads the answers meanwhile
	fmt.Fprintln(ask, `{"cancel":1}`)
	seen, errs := 0, []string{}
	for len(errs) < 2 {
		if one := next(); one["result"] == nil {
			errs = append(errs, fmt.Sprint(one["error"]))
		} else {
			seen++
		}
	}
	assert.ElementsMatch(t, []string{"a question of this id is not answered yet", "cancelled"}, errs)
	assert.Less(t, seen, 200_000)
	fmt.Fprintln(ask, `{"id":1,"ask":"files","query":"a.go"}`)
	assert.Contains(t, next(), "result", "the id is free again")
	assert.Contains(t, next(), "done")
	require.NoError(t, ask.Close())
	assert.Equal(t, 0, <-ended)
}

// What is exported to a file is there as a whole, and is what is printed.
func TestExport(t *testing.T) {
	root := sample(t)
	status, out, errs := run(t, "", "export", "--tags", root)
	require.Equal(t, 0, status, errs)
	assert.Equal(t, "Ring\ta.go\t/^func Ring() int { return 1 }$/\nn\ta.go\t/^var n = Ring()$/\nring\tsub/b.py\t/^def ring():$/\n", out)
	for _, form := range []string{"--tags", "--json", "--lsif"} {
		_, printed, _ := run(t, "", "export", form, "--unchecked", root)
		file := filepath.Join(t.TempDir(), "out")
		status, out, errs := run(t, "", "export", form, "--unchecked", "--output", file, root)
		require.Equal(t, 0, status, errs)
		assert.Empty(t, out)
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, printed, string(data), form)
		assert.NotEmpty(t, printed)
	}
	status, _, errs = run(t, "", "export", root)
	assert.Equal(t, 2, status, errs)
}

// Whatever a line says, it becomes arguments of a command that is asked, or is refused.
func FuzzQuery(f *testing.F) {
	f.Add(`{"id":1,"ask":"references","at":"a.go:3:4","access":["write"],"limit":3,"case":true}`)
	f.Add(`{"cancel":"x"}`)
	f.Add(`{"ask":"text","pattern":"--root=/","root":"/"}`)
	f.Fuzz(func(t *testing.T, line string) {
		_, args, cancels, err := parseQuery(line)
		if err != nil || cancels {
			return
		}
		require.Contains(t, asked, args[0])
		for _, a := range args[1:] {
			if a == "--" {
				break
			}
			require.True(t, strings.HasPrefix(a, "--") && !strings.HasPrefix(a, "--root"), a)
		}
	})
}
