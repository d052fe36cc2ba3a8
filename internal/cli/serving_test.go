package cli

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/demo"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/serve/servetest"
)

// demoServed is a server on the demo; whatever it is asked is noted.
func demoServed(t *testing.T, asked map[string]bool) *conforming {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, demo.Unpack(t.Context(), root))
	client, ended := served(t)
	c := &conforming{t, client, root, asked, map[string]string{}}
	c.Initialize(map[string]any{
		"general":      map[string]any{"positionEncodings": []string{"utf-8"}},
		"textDocument": map[string]any{"codeAction": map[string]any{"resolveSupport": map[string]any{"properties": []string{"edit"}}}},
	}, place.URI(root))
	t.Cleanup(func() {
		client.Shutdown()
		assert.Equal(t, 0, ended())
	})
	return c
}

// written opens a file as it would be if some text stood behind another one in it, and gives the place behind that.
func (c *conforming) written(file, behind, text string) servetest.Position {
	before, after, found := strings.Cut(c.text(file), behind)
	require.True(c, found, "%s has %q", file, behind)
	whole := before + behind + text
	c.Open(c.uri(file), whole+after)
	c.texts[file] = whole + after
	return servetest.Position{Line: strings.Count(whole, "\n"), Character: len(whole) - strings.LastIndexByte(whole, '\n') - 1}
}

// writing asks what is asked while one writes: it is about the text as it is written.
func (c *conforming) writing() {
	const file = "dispatch/desk.go"
	at := c.written(file, "return d.Assign(c)\n}\n", "\nfunc (d *Desk) Again(c Callout) (Callout, error) { return d.Assign(c, Stat")
	var help struct {
		Signatures      []struct{ Label string }
		ActiveParameter int
	}
	c.get("textDocument/signatureHelp", servetest.At(c.uri(file), at), &help)
	if assert.NotEmpty(c, help.Signatures) {
		assert.Contains(c, help.Signatures[0].Label, "Assign(c Callout)")
		assert.Equal(c, 1, help.ActiveParameter)
	}
	var list struct {
		Items []struct {
			Label    string
			TextEdit textEdit
		}
	}
	var symbols any
	c.get("workspace/symbol", map[string]any{"query": "Status"}, &symbols) // which waits until all is read
	c.get("textDocument/completion", servetest.At(c.uri(file), at), &list)
	assert.NotEmpty(c, list.Items, "behind %q", strings.Split(c.text(file), "\n")[at.Line][:at.Character])
	for _, i := range list.Items {
		assert.True(c, strings.HasPrefix(strings.ToLower(i.Label), "stat"), i.Label)
		assert.Equal(c, servetest.Range{Start: servetest.Position{Line: at.Line, Character: at.Character - 4}, End: at}, i.TextEdit.Range)
	}
	c.actions()
}

// actions asks what can be done about a name that nothing defines, an expression, and imports in disorder.
func (c *conforming) actions() {
	const file = "store/file.go"
	at := c.written(file, "package store\n", "\nfunc spare() int { return len(strings.Repeat(\"x\", 1+2)) }\n")
	line := at.Line - 1
	words := strings.Split(c.text(file), "\n")[line]
	selected := strings.Index(words, "1+2")
	ask := func(from, to int, only ...string) (all []map[string]any) {
		params := map[string]any{
			"textDocument": map[string]any{"uri": c.uri(file)}, "context": map[string]any{"diagnostics": []any{}, "only": only},
			"range": servetest.Range{Start: servetest.Position{Line: line, Character: from}, End: servetest.Position{Line: line, Character: to}},
		}
		c.get("textDocument/codeAction", params, &all)
		return all
	}
	edits := func(action map[string]any) (text string) {
		var got struct {
			Edit struct{ Changes map[string][]textEdit }
		}
		if action["edit"] == nil {
			c.get("codeAction/resolve", action, &action)
		}
		data, err := json.Marshal(action)
		require.NoError(c, err)
		require.NoError(c, json.Unmarshal(data, &got))
		require.Len(c, got.Edit.Changes, 1, "%s", data)
		return applied(c.text(file), got.Edit.Changes[c.uri(file)])
	}
	found := ask(selected, selected+3, "refactor")
	if assert.NotEmpty(c, found) {
		assert.Equal(c, "refactor.extract", found[0]["kind"])
		assert.Contains(c, edits(found[0]), "= 1 + 2", "%v", found[0])
	}
	found = ask(0, 0, "source.organizeImports")
	if assert.Len(c, found, 1) {
		assert.Contains(c, edits(found[0]), "\"strings\"\n")
	}
	assert.Empty(c, ask(0, 0, "refactor.move"))
}

// files asks what becomes of a project whose files move, come and go, and of several folders.
func (c *conforming) files() {
	var edit struct{ Changes map[string][]textEdit }
	moves := map[string]any{"files": []any{map[string]string{"oldUri": c.uri("board/src/format.ts"), "newUri": c.uri("board/src/wire/format.ts")}}}
	c.get("workspace/willRenameFiles", moves, &edit)
	if assert.NotEmpty(c, edit.Changes) {
		for uri, edits := range edit.Changes {
			for _, e := range edits {
				assert.Contains(c, e.NewText, ".", uri)
			}
		}
	}
	find := func(name string) (found []symbol) {
		c.get("workspace/symbol", map[string]any{"query": name}, &found)
		return found
	}
	require.Empty(c, find("Schneeschuh"))
	file := filepath.Join(c.root, "dispatch", "snow.go")
	require.NoError(c, os.WriteFile(file, []byte("package dispatch\n\n// Schneeschuh is for deep snow.\nfunc Schneeschuh() {}\n"), 0o644))
	c.Notify("workspace/didChangeWatchedFiles", map[string]any{"changes": []any{map[string]any{"uri": place.URI(file), "type": 1}}})
	assert.Eventually(c, func() bool { return len(find("Schneeschuh")) == 1 }, patience, tick)
	require.NoError(c, os.Remove(file))
	c.Notify("workspace/didDeleteFiles", map[string]any{"files": []any{map[string]any{"uri": place.URI(file)}}})
	assert.Eventually(c, func() bool { return len(find("Schneeschuh")) == 0 }, patience, tick)

	other := sample(c.T)
	c.Notify("workspace/didChangeWorkspaceFolders", map[string]any{"event": map[string]any{"added": []any{map[string]string{"uri": place.URI(other), "name": "x"}}, "removed": []any{}}})
	var found []servetest.Location
	at := servetest.At(place.URI(other+"/a.go"), servetest.Position{Line: 4, Character: 8})
	c.get("textDocument/definition", at, &found)
	assert.Equal(c, []string{other + "/a.go:3:6"}, c.all(found))
	inOther := func(s symbol) bool { return strings.HasPrefix(s.Location.URI, place.URI(other)) }
	assert.True(c, slices.ContainsFunc(find("Ring"), inOther))
	c.Notify("workspace/didChangeWorkspaceFolders", map[string]any{"event": map[string]any{"added": []any{}, "removed": []any{map[string]string{"uri": place.URI(other), "name": "x"}}}})
	assert.False(c, slices.ContainsFunc(find("Ring"), inOther))
}

// lenses compares what lenses count with what is found, also when that is sent part by part.
func (c *conforming) lenses() {
	const file = "dispatch/roster.go"
	type lens struct {
		Range   servetest.Range
		Command *struct {
			Title, Command string
			Arguments      []any
		}
		Data any
	}
	var all []lens
	c.get("textDocument/codeLens", map[string]any{"textDocument": map[string]any{"uri": c.uri(file)}}, &all)
	require.NotEmpty(c, all)
	for _, l := range all {
		c.get("codeLens/resolve", l, &l)
		require.NotNil(c, l.Command)
		var found []servetest.Location
		c.get("workspace/executeCommand", map[string]any{"command": l.Command.Command, "arguments": l.Command.Arguments}, &found)
		assert.True(c, strings.HasPrefix(l.Command.Title, fmt.Sprintf("%d ", len(found))), "%s: %d places", l.Command.Title, len(found))
	}
	at := servetest.At(c.uri(file), all[0].Range.Start, "context", map[string]any{"includeDeclaration": true})
	var whole, rest []servetest.Location
	c.get("textDocument/references", at, &whole)
	at["partialResultToken"] = "by and by"
	c.get("textDocument/references", at, &rest)
	assert.Empty(c, rest, "all were sent before")
	var parts []servetest.Location
	for _, m := range c.Notes("$/progress") {
		var p struct {
			Token string
			Value []servetest.Location
		}
		if json.Unmarshal(m.Params, &p) == nil && p.Token == "by and by" {
			parts = append(parts, p.Value...)
		}
	}
	assert.Equal(c, c.all(whole), c.all(parts))
}

// How long something is waited for, and how often it is looked whether it has come.
const (
	patience = time.Minute
	tick     = 20 * time.Millisecond
)
