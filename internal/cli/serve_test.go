package cli

import (
	"encoding/json"
	"fmt"
	"go/build"
	"io"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/demo"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/work"
	"rooktrail/internal/serve/servetest"
)

// served begins rooktrail serve, with a client at its other end.
func served(t *testing.T) (c *servetest.Client, ended func() int) {
	toServer, fromClient := io.Pipe()
	toClient, fromServer := io.Pipe()
	status := 0
	var serving work.Group
	serving.Go(func() {
		status = Run([]string{"serve", "--stdio"}, toServer, fromServer, io.Discard)
		fromServer.Close()
	})
	return servetest.New(t, fromClient, toClient), func() int {
		fromClient.Close()
		serving.Wait()
		return status
	}
}

// body is a project that somebody else wrote, in a folder of its own.
type body struct {
	name string
	make func(t *testing.T, root string)
}

// bodies are the demo, a library of Go and one of C that come with what the program is built from.
var bodies = []body{
	{"demo", func(t *testing.T, root string) { require.NoError(t, demo.Unpack(t.Context(), root)) }},
	{"cobra", func(t *testing.T, root string) {
		copyOf(t, root, moduleFolder(t, "github.com/spf13/cobra"), "*.go", "go.*")
	}},
	{"tree-sitter", func(t *testing.T, root string) {
		copyOf(t, root, moduleFolder(t, "github.com/smacker/go-tree-sitter"), "*.c", "*.h")
	}},
}

func moduleFolder(t *testing.T, module string) string {
	out, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", module).Output()
	require.NoError(t, err, build.Default.GOROOT)
	return strings.TrimSpace(string(out))
}

// copyOf copies the files of a folder whose names match.
func copyOf(t *testing.T, root, from string, patterns ...string) {
	for _, pattern := range patterns {
		files, err := filepath.Glob(filepath.Join(from, pattern))
		require.NoError(t, err)
		for _, f := range files {
			data, err := os.ReadFile(f)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(filepath.Join(root, filepath.Base(f)), data, 0o644))
		}
	}
}

// conforming is a server on a body, with what it was asked.
type conforming struct {
	*testing.T
	*servetest.Client
	root  string
	asked map[string]bool
	texts map[string]string
}

func (c *conforming) get(method string, params, result any) {
	c.Helper()
	c.asked[method] = true
	c.Get(method, params, result)
}

func (c *conforming) uri(file string) string { return place.URI(filepath.Join(c.root, file)) }

func (c *conforming) text(file string) string {
	if _, known := c.texts[file]; !known {
		data, err := os.ReadFile(filepath.Join(c.root, file))
		require.NoError(c, err)
		c.texts[file] = string(data)
	}
	return c.texts[file]
}

// spot is a place in a file; columns count bytes, as the server was told.
type spot struct {
	file      string
	line, col int
}

func (s spot) String() string { return fmt.Sprintf("%s:%d:%d", s.file, s.line, s.col) }

func (s spot) at(c *conforming, more ...any) map[string]any {
	return servetest.At(c.uri(s.file), servetest.Position{Line: s.line - 1, Character: s.col - 1}, more...)
}

// of is a location as the commands print it.
func (c *conforming) of(l servetest.Location) string {
	path := place.OfURI(l.URI)
	require.NotEmpty(c, path, l.URI)
	if rel, ok := strings.CutPrefix(path, c.root+"/"); ok {
		path = rel
	}
	return spot{path, l.Range.Start.Line + 1, l.Range.Start.Character + 1}.String()
}

func (c *conforming) all(locations []servetest.Location) (places []string) {
	for _, l := range locations {
		places = append(places, c.of(l))
	}
	slices.Sort(places)
	return places
}

var word = regexp.MustCompile(`[A-Za-z_]\w+`)

// spots are places of names in the files of a body, taken here and there.
func (c *conforming) spots(n int) (all []spot) {
	var files []string
	require.NoError(c, filepath.WalkDir(c.root, func(p string, d os.DirEntry, err error) error {
		if slices.Contains([]string{".go", ".c", ".h", ".ts", ".py", ".java", ".js"}, filepath.Ext(p)) {
			rel, _ := filepath.Rel(c.root, p)
			files = append(files, rel)
		}
		return err
	}))
	r := rand.New(rand.NewPCG(3, 9))
	for len(all) < n {
		file := files[r.IntN(len(files))]
		lines := strings.Split(c.text(file), "\n")
		line := r.IntN(len(lines))
		if found := word.FindAllStringIndex(lines[line], -1); len(found) > 0 {
			all = append(all, spot{file, line + 1, found[r.IntN(len(found))][0] + 1})
		}
	}
	return all
}

// shell asks the commands, all at once; the answers are places, by the questions.
func (c *conforming) shell(questions []map[string]any) (answers map[string][]map[string]any) {
	var in strings.Builder
	for i := range questions {
		questions[i]["id"] = i
		line, err := json.Marshal(questions[i])
		require.NoError(c, err)
		in.Write(append(line, '\n'))
	}
	status, out, errs := run(c.T, in.String(), "query", "--root", c.root)
	require.Equal(c, 0, status, errs)
	answers = map[string][]map[string]any{}
	for line := range strings.Lines(out) {
		var one struct {
			ID     int
			Result map[string]any
			Error  string
		}
		require.NoError(c, json.Unmarshal([]byte(line), &one))
		require.Empty(c, one.Error, "%v", questions[one.ID])
		if one.Result != nil {
			key := keyOf(questions[one.ID])
			answers[key] = append(answers[key], one.Result)
		}
	}
	return answers
}

func keyOf(question map[string]any) string {
	return fmt.Sprint(question["ask"], question["at"], question["file"], question["query"], question["incoming"], question["in"])
}

func placesOf(results []map[string]any) (all []string) {
	for _, r := range results {
		all = append(all, fmt.Sprintf("%s:%v:%v", r["path"], r["line"], r["col"]))
	}
	slices.Sort(all)
	return all
}

// The answers to all requests are those of the commands, on what nobody here wrote, too.
func TestTheLanguageServerAnswersAsTheCommands(t *testing.T) {
	asked := map[string]bool{}
	for _, b := range bodies {
		t.Run(b.name, func(t *testing.T) {
			root, err := filepath.EvalSymlinks(t.TempDir())
			require.NoError(t, err)
			b.make(t, root)
			status, _, errs := run(t, "", "index", root)
			require.Equal(t, 0, status, errs)
			client, ended := served(t)
			c := &conforming{t, client, root, asked, map[string]string{}}
			c.Initialize(map[string]any{
				"general":      map[string]any{"positionEncodings": []string{"utf-8", "utf-16"}},
				"textDocument": map[string]any{"documentSymbol": map[string]any{"hierarchicalDocumentSymbolSupport": true}},
				"workspace":    map[string]any{"workspaceEdit": map[string]any{"documentChanges": true}},
			}, place.URI(root))
			spots := c.spots(40)
			for _, s := range spots[:20] {
				c.Open(c.uri(s.file), c.text(s.file))
			}
			c.leads(spots)
			c.hierarchies(spots)
			c.symbols(spots)
			c.shapes(spots[:15])
			c.problems()
			c.renaming(spots[:12])
			client.Shutdown()
			assert.Equal(t, 0, ended())
		})
	}
	// What changes files, or is about what is written, has tests of its own on the demo.
	c := demoServed(t, asked)
	c.writing()
	c.files()
	c.lenses()
	table, err := os.ReadFile("../../docs/serve.md")
	require.NoError(t, err)
	for _, m := range regexp.MustCompile("`((?:textDocument|workspace|callHierarchy|typeHierarchy|codeLens|codeAction)/[A-Za-z/]+)`").FindAllStringSubmatch(string(table), -1) {
		if !strings.Contains(m[1], "/did") && !strings.Contains(m[1], "publish") && !strings.Contains(m[1], "refresh") {
			assert.True(t, asked[m[1]], "%s was asked for", m[1])
		}
	}
	assert.Greater(t, len(asked), 30)
}

// leads compares where names lead.
func (c *conforming) leads(spots []spot) {
	ways := map[string]string{
		"textDocument/definition": "definition", "textDocument/typeDefinition": "type-definition",
		"textDocument/implementation": "implementations", "textDocument/references": "references",
	}
	var questions []map[string]any
	got, hovers := map[string][]string{}, map[string]string{}
	for _, s := range spots {
		for method, ask := range ways {
			var found []servetest.Location
			c.get(method, s.at(c, "context", map[string]any{"includeDeclaration": false}), &found)
			q := map[string]any{"ask": ask, "at": s.String()}
			questions = append(questions, q)
			got[keyOf(q)] = c.all(found)
		}
		var hover struct{ Contents struct{ Value string } }
		c.get("textDocument/hover", s.at(c), &hover)
		q := map[string]any{"ask": "describe", "at": s.String()}
		questions = append(questions, q)
		hovers[keyOf(q)] = hover.Contents.Value
		var declared []servetest.Location
		c.get("textDocument/declaration", s.at(c), &declared)
		if len(got[keyOf(map[string]any{"ask": "definition", "at": s.String()})]) > 0 {
			assert.NotEmpty(c, declared, "%s is declared somewhere", s)
		}
	}
	want, some := c.shell(questions), 0
	for key, places := range got {
		assert.Equal(c, placesOf(want[key]), places, key)
		some += len(places)
	}
	assert.Greater(c, some, 50)
	for key, words := range hovers {
		if len(want[key]) == 0 {
			assert.Empty(c, words, key)
			continue
		}
		assert.Contains(c, words, want[key][0]["signature"], key)
		assert.Contains(c, words, want[key][0]["documentation"], key)
	}
}

// item is an entry of a hierarchy, which goes back to the server as it came.
type item map[string]any

func (c *conforming) place(i item) string {
	var l struct {
		URI            string
		SelectionRange servetest.Range
	}
	data, err := json.Marshal(i)
	require.NoError(c, err)
	require.NoError(c, json.Unmarshal(data, &l))
	return c.of(servetest.Location{URI: l.URI, Range: l.SelectionRange})
}

// hierarchies compares what calls what, and which types are derived from which.
func (c *conforming) hierarchies(spots []spot) {
	var questions []map[string]any
	got := map[string][]string{}
	note := func(ask, at string, incoming bool, found []item) {
		q := map[string]any{"ask": ask, "at": at}
		if ask == "calls" {
			q[map[bool]string{true: "incoming", false: "outgoing"}[incoming]] = true
		}
		if _, known := got[keyOf(q)]; known {
			return
		}
		questions = append(questions, q)
		got[keyOf(q)] = []string{}
		for _, i := range found {
			got[keyOf(q)] = append(got[keyOf(q)], c.place(i))
		}
		slices.Sort(got[keyOf(q)])
	}
	for _, s := range spots {
		var items []item
		c.get("textDocument/prepareCallHierarchy", s.at(c), &items)
		for _, i := range items {
			var in []struct{ From item }
			c.get("callHierarchy/incomingCalls", map[string]any{"item": i}, &in)
			var out []struct{ To item }
			c.get("callHierarchy/outgoingCalls", map[string]any{"item": i}, &out)
			var from, to []item
			for _, x := range in {
				from = append(from, x.From)
			}
			for _, x := range out {
				to = append(to, x.To)
			}
			note("calls", c.place(i), true, from)
			note("calls", c.place(i), false, to)
		}
		c.get("textDocument/prepareTypeHierarchy", s.at(c), &items)
		for _, i := range items {
			var found []item
			c.get("typeHierarchy/supertypes", map[string]any{"item": i}, &found)
			note("supertypes", c.place(i), false, found)
			found = nil
			c.get("typeHierarchy/subtypes", map[string]any{"item": i}, &found)
			note("subtypes", c.place(i), false, found)
		}
	}
	want := c.shell(questions)
	for key, places := range got {
		if strings.HasPrefix(key, "/") {
			continue // outside of the project
		}
		expected := placesOf(want[key])
		if expected == nil {
			expected = []string{}
		}
		assert.Equal(c, expected, places, key)
	}
	assert.NotEmpty(c, got)
}

// symbol is an entry of the inside of a file.
type symbol struct {
	Name           string
	Range          servetest.Range
	SelectionRange servetest.Range
	Children       []symbol
	Location       servetest.Location
}

func (s symbol) within(c *conforming) (all []symbol) {
	assert.False(c, before(s.SelectionRange.Start, s.Range.Start) || before(s.Range.End, s.SelectionRange.End), "%s is within what belongs to it", s.Name)
	all = append(all, s)
	for _, child := range s.Children {
		all = append(all, child.within(c)...)
	}
	return all
}

func before(a, b servetest.Position) bool {
	return a.Line < b.Line || a.Line == b.Line && a.Character < b.Character
}

// symbols compares the symbols of files and of the project.
func (c *conforming) symbols(spots []spot) {
	var questions []map[string]any
	got := map[string][]string{}
	for _, s := range spots {
		q := map[string]any{"ask": "outline", "file": s.file}
		if got[keyOf(q)] != nil {
			continue
		}
		var tree []symbol
		c.get("textDocument/documentSymbol", s.at(c), &tree)
		questions = append(questions, q)
		got[keyOf(q)] = []string{}
		for _, top := range tree {
			for _, one := range top.within(c) {
				got[keyOf(q)] = append(got[keyOf(q)], spot{s.file, one.SelectionRange.Start.Line + 1, one.SelectionRange.Start.Character + 1}.String())
			}
		}
		slices.Sort(got[keyOf(q)])
	}
	for _, query := range []string{"ro.as", "get", "parse", "new", "x", "no such name at all"} {
		var found []symbol
		c.get("workspace/symbol", map[string]any{"query": query}, &found)
		q := map[string]any{"ask": "symbols", "query": query, "limit": 200}
		questions = append(questions, q)
		for _, one := range found {
			got[keyOf(q)] = append(got[keyOf(q)], c.of(one.Location))
		}
		slices.Sort(got[keyOf(q)])
	}
	want := c.shell(questions)
	for key, places := range got {
		if len(want[key])+len(places) > 0 {
			assert.Equal(c, placesOf(want[key]), places, key)
		}
	}
}

// shapes looks at what is told of the shape of files: all of it lies in them, pieces within larger ones, in order.
func (c *conforming) shapes(spots []spot) {
	for _, s := range spots {
		lines := strings.Split(c.text(s.file), "\n")
		document := map[string]any{"textDocument": map[string]any{"uri": c.uri(s.file)}}
		var folds []struct{ StartLine, EndLine int }
		c.get("textDocument/foldingRange", document, &folds)
		for _, f := range folds {
			assert.True(c, 0 <= f.StartLine && f.StartLine < f.EndLine && f.EndLine < len(lines), "%s %v", s, f)
		}
		type grown struct {
			Range  servetest.Range
			Parent *grown
		}
		var selections []*grown
		at := servetest.Position{Line: s.line - 1, Character: s.col - 1}
		c.get("textDocument/selectionRange", map[string]any{"textDocument": document["textDocument"], "positions": []any{at, at}}, &selections)
		require.Len(c, selections, 2)
		for g := selections[0]; g.Parent != nil; g = g.Parent {
			assert.False(c, before(g.Range.Start, g.Parent.Range.Start) || before(g.Parent.Range.End, g.Range.End) || g.Range == g.Parent.Range, "%s %v", s, g)
		}
		c.tokens(s, document, lines)
		var links []struct {
			Range  servetest.Range
			Target string
		}
		c.get("textDocument/documentLink", document, &links)
		for _, l := range links {
			assert.FileExists(c, place.OfURI(l.Target))
		}
		var marks []struct{ Range servetest.Range }
		c.get("textDocument/documentHighlight", s.at(c), &marks)
		name := word.FindString(lines[s.line-1][s.col-1:])
		for _, m := range marks {
			assert.Equal(c, name, lines[m.Range.Start.Line][m.Range.Start.Character:m.Range.End.Character], "%s", s)
		}
		if filepath.Ext(s.file) != ".go" {
			continue // there is a formatter for Go in any case
		}
		var edits []any
		c.get("textDocument/formatting", map[string]any{"textDocument": document["textDocument"], "options": map[string]any{}}, &edits)
		c.get("textDocument/rangeFormatting", map[string]any{"textDocument": document["textDocument"], "options": map[string]any{}, "range": servetest.Range{End: servetest.Position{Line: 3}}}, &edits)
	}
}

// tokens looks at the tokens of a file: in order, each within its line, those of a part the same as of the whole.
func (c *conforming) tokens(s spot, document map[string]any, lines []string) {
	var all, part struct{ Data []int }
	c.get("textDocument/semanticTokens/full", document, &all)
	require.Zero(c, len(all.Data)%5)
	whole := servetest.Range{End: servetest.Position{Line: len(lines)}}
	c.get("textDocument/semanticTokens/range", map[string]any{"textDocument": document["textDocument"], "range": whole}, &part)
	assert.Equal(c, all.Data, part.Data, s.file)
	line, col := 0, 0
	for i := 0; i < len(all.Data); i += 5 {
		if line += all.Data[i]; all.Data[i] > 0 {
			col = 0
		}
		col += all.Data[i+1]
		assert.True(c, line < len(lines) && col+all.Data[i+2] <= len(lines[line]) && (i == 0 || all.Data[i]+all.Data[i+1] > 0), "%s: token %d at %d:%d", s.file, i/5, line, col)
	}
}

// problems compares what is wrong.
func (c *conforming) problems() {
	var report struct {
		Items []struct {
			URI   string
			Items []struct {
				Range   servetest.Range
				Message string
			}
		}
	}
	c.get("workspace/diagnostic", map[string]any{"previousResultIds": []any{}}, &report)
	var got, want []string
	var first struct{ Items []any }
	c.get("textDocument/diagnostic", map[string]any{"textDocument": map[string]any{"uri": c.uri(c.spots(1)[0].file)}}, &first)
	for _, file := range report.Items {
		for _, d := range file.Items {
			got = append(got, c.of(servetest.Location{URI: file.URI, Range: d.Range})+" "+d.Message)
		}
		var one struct{ Items []any }
		c.get("textDocument/diagnostic", map[string]any{"textDocument": map[string]any{"uri": file.URI}}, &one)
		assert.Len(c, one.Items, len(file.Items), file.URI)
	}
	for _, r := range c.shell([]map[string]any{{"ask": "problems", "unchecked": true}})[keyOf(map[string]any{"ask": "problems"})] {
		if r["kind"] != "unused" { // what nothing uses is not told of all files at once
			want = append(want, fmt.Sprintf("%s:%v:%v %s", r["path"], r["line"], r["col"], r["text"]))
		}
	}
	slices.Sort(got)
	slices.Sort(want)
	assert.Equal(c, want, got)
}

// fileEdits are the edits of a file.
type fileEdits struct {
	TextDocument struct{ URI string }
	Edits        []textEdit
}

type textEdit struct {
	Range   servetest.Range
	NewText string
}

// applied is a text with edits, which are in order.
func applied(text string, edits []textEdit) string {
	lines := strings.SplitAfter(text, "\n")
	offset := func(p servetest.Position) (n int) {
		for _, l := range lines[:min(p.Line, len(lines))] {
			n += len(l)
		}
		return n + p.Character
	}
	for _, e := range slices.Backward(edits) {
		text = text[:offset(e.Range.Start)] + e.NewText + text[offset(e.Range.End):]
	}
	return text
}

// renaming compares what becomes of the files with what the command would print.
func (c *conforming) renaming(spots []spot) {
	done := 0
	for _, s := range spots {
		var subject *struct {
			Range       servetest.Range
			Placeholder string
		}
		c.asked["textDocument/prepareRename"], c.asked["textDocument/rename"] = true, true
		prepared := c.Wait(c.Ask("textDocument/prepareRename", s.at(c)))
		status, diff, errs := run(c.T, "", "rename", "--root", c.root, "--family", s.String(), "Zirbenholz")
		m := c.Wait(c.Ask("textDocument/rename", s.at(c, "newName", "Zirbenholz")))
		if status == statusError {
			assert.True(c, m.Error != nil || string(m.Result) == "null", "%s: %s %s", s, errs, m.Result)
			continue
		}
		require.Nil(c, m.Error, "%s: %+v", s, m.Error)
		require.Nil(c, prepared.Error, "%s: %+v", s, prepared.Error)
		require.NoError(c, json.Unmarshal(prepared.Result, &subject))
		if assert.NotNil(c, subject, "%s", s) {
			assert.Equal(c, subject.Placeholder, word.FindString(strings.Split(c.text(s.file), "\n")[subject.Range.Start.Line][subject.Range.Start.Character:]))
		}
		var edit struct{ DocumentChanges []fileEdits }
		require.NoError(c, json.Unmarshal(m.Result, &edit))
		added := 0
		for _, f := range edit.DocumentChanges {
			file := strings.TrimPrefix(place.OfURI(f.TextDocument.URI), c.root+"/")
			for line := range strings.Lines(applied(c.text(file), f.Edits)) {
				if strings.Contains(line, "Zirbenholz") {
					assert.Contains(c, diff, "\n+"+strings.TrimSuffix(line, "\n"), "%s", s)
					added++
				}
			}
		}
		assert.Equal(c, strings.Count(diff, "\n+")-strings.Count(diff, "\n+++"), added, "%s: %s", s, diff)
		done++
	}
	assert.Positive(c, done)
}
