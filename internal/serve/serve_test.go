package serve

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"unicode/utf16"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/serve/servetest"
)

// served begins a server, and a client of it; ended waits for its end.
func served(t *testing.T) (s *Server, c *servetest.Client, ended func() error) {
	toServer, fromClient := io.Pipe()
	toClient, fromServer := io.Pipe()
	ctx, stop := context.WithCancel(t.Context())
	s = begin(ctx, stop, toServer, fromServer, Options{
		Version: "1",
		Open:    func(folder string) (*workspace.Workspace, error) { return workspace.New(folder), nil },
		Prepare: func(context.Context, *workspace.Workspace) {},
		RootOf:  func(folder string) (string, error) { return folder, nil },
		Reports: t.TempDir(),
	})
	c = servetest.New(t, fromClient, toClient)
	var waiting work.Group
	var err error
	waiting.Go(func() {
		err = s.wait()
		fromServer.Close()
	})
	return s, c, func() error {
		fromClient.Close()
		waiting.Wait()
		c.Closed()
		return err
	}
}

// project is a folder with files.
func project(t *testing.T, files map[string]string) string {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(root, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o644))
	}
	return root
}

// model is a text as the client keeps it, by characters.
type model []rune

// at is the position of a character, worked out from the beginning.
func (m model) at(offset int, u units) (p servetest.Position) {
	for i, r := range m[:offset] {
		switch {
		case r == '\n', r == '\r' && !(i+1 < len(m) && m[i+1] == '\n'):
			p.Line++
			p.Character = 0
		case r == '\r':
		case u == utf8Units:
			p.Character += utf8.RuneLen(r)
		case u == utf16Units:
			p.Character += utf16.RuneLen(r)
		default:
			p.Character++
		}
	}
	return p
}

// edit is a random change of a text.
func (m model) edit(r *rand.Rand, u units) (model, map[string]any) {
	pieces := []string{"", "hut", "\n", "\r\n", "\r", "ö", "𝛼", "\t", "// rope\n", "func Rescue() {}\n", "e\u0301", "山", "\u2028"}
	var b strings.Builder
	for range r.IntN(4) {
		b.WriteString(pieces[r.IntN(len(pieces))])
	}
	if r.IntN(500) == 0 {
		return model(b.String()), map[string]any{"text": b.String()}
	}
	start := r.IntN(len(m) + 1)
	end := min(len(m), start+r.IntN(12)*r.IntN(2))
	for _, at := range []*int{&start, &end} { // no position is between CR and LF
		if *at > 0 && *at < len(m) && m[*at-1] == '\r' && m[*at] == '\n' {
			*at++
		}
	}
	end = max(start, end)
	c := map[string]any{"range": servetest.Range{Start: m.at(start, u), End: m.at(end, u)}, "text": b.String()}
	return append(append(m[:start:start], []rune(b.String())...), m[end:]...), c
}

// After ten thousand changes the text is that of the client to the byte, whatever positions count.
func TestTextsStayInStep(t *testing.T) {
	for _, u := range []units{utf8Units, utf16Units, utf32Units} {
		t.Run(string(u), func(t *testing.T) {
			t.Parallel()
			root := project(t, map[string]string{"rescue.go": "package rescue\n"})
			uri := place.URI(root + "/rescue.go")
			s, c, ended := served(t)
			result := c.Initialize(map[string]any{"general": map[string]any{"positionEncodings": []units{u}}}, place.URI(root))
			assert.Equal(t, string(u), result["capabilities"].(map[string]any)["positionEncoding"])
			m := model("package rescue\n")
			c.Open(uri, string(m))
			r := rand.New(rand.NewPCG(uint64(len(u)), 7))
			const edits = 10_000
			for version, done := 2, 0; done < edits; version++ {
				var changes []map[string]any
				for range 1 + r.IntN(5) {
					var change map[string]any
					m, change = m.edit(r, u)
					if len(m) > 3000 {
						m, change = model("package rescue\r\n"), map[string]any{"text": "package rescue\r\n"}
					}
					changes = append(changes, change)
					done++
				}
				c.Notify("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uri, "version": version}, "contentChanges": changes})
				if r.IntN(200) == 0 { // what is asked on the way does no harm
					c.Ask("textDocument/documentSymbol", map[string]any{"textDocument": map[string]any{"uri": uri}})
				}
			}
			var symbols any
			c.Get("textDocument/documentSymbol", map[string]any{"textDocument": map[string]any{"uri": uri}}, &symbols)
			doc := s.docs.get(uri)
			require.Empty(t, doc.lost)
			require.Equal(t, string(m), string(doc.doc.Bytes()))
			assert.Equal(t, loneReturns(doc.doc.Bytes()), doc.lone)
			file, err := doc.folder.ws.Code.Load(t.Context(), "rescue.go")
			require.NoError(t, err)
			assert.Equal(t, string(m), string(file.Text.Bytes()), "the code knows it so")
			c.Shutdown()
			assert.NoError(t, ended())
		})
	}
}

// A text whose changes cannot be followed is not asked about until all of it comes again.
func TestTextsOutOfStep(t *testing.T) {
	root := project(t, map[string]string{"rescue.go": "package rescue\n"})
	uri := place.URI(root + "/rescue.go")
	_, c, ended := served(t)
	c.Initialize(nil, place.URI(root))
	change := func(version int, changes ...any) {
		c.Notify("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uri, "version": version}, "contentChanges": changes})
	}
	symbols := func() *servetest.Message {
		return c.Wait(c.Ask("textDocument/documentSymbol", map[string]any{"textDocument": map[string]any{"uri": uri}}))
	}
	whole := func(text string) map[string]any { return map[string]any{"text": text} }
	at := func(l1, c1, l2, c2 int, text string) map[string]any {
		return map[string]any{"range": servetest.Range{Start: servetest.Position{Line: l1, Character: c1}, End: servetest.Position{Line: l2, Character: c2}}, "text": text}
	}
	c.Open(uri, "package rescue\n\nfunc Reach() {}\n")
	assert.Contains(t, string(symbols().Result), "Reach")
	change(5, at(2, 5, 2, 10, "Carry"))
	assert.Contains(t, string(symbols().Result), "Carry")
	change(4, at(2, 5, 2, 10, "Lower"))
	if m := symbols(); assert.NotNil(t, m.Error) {
		assert.Contains(t, m.Error.Message, "version 4 came behind version 5")
	}
	change(6, whole("package rescue\n\nfunc Lift() {}\n"))
	assert.Contains(t, string(symbols().Result), "Lift")
	change(7, at(3, 0, 2, 0, "x"))
	assert.NotNil(t, symbols().Error, "a change that ends before it begins")
	change(8, whole("package rescue\n"))
	assert.Nil(t, symbols().Error)
	change(9, at(99, 99, 999, 9, "\nfunc Beyond() {}\n"))
	assert.Contains(t, string(symbols().Result), "Beyond", "a place beyond the end is the end")
	c.Notify("textDocument/didClose", map[string]any{"textDocument": map[string]any{"uri": uri}})
	change(10, at(0, 0, 0, 0, "x"))
	assert.Contains(t, string(symbols().Result), "[]", "as it is on disk again")
	c.Shutdown()
	assert.NoError(t, ended())
}

// A client that stops in the middle, asks before it has begun, or after it has ended, gets what the protocol says.
func TestOrder(t *testing.T) {
	_, c, ended := served(t)
	m := c.Wait(c.Ask("textDocument/hover", map[string]any{}))
	require.NotNil(t, m.Error)
	assert.Equal(t, -32002, m.Error.Code)
	c.Notify("textDocument/didOpen", map[string]any{"textDocument": map[string]any{"uri": "file:///x.go", "version": 1, "text": ""}})
	c.Initialize(nil)
	m = c.Wait(c.Ask("initialize", map[string]any{"capabilities": map[string]any{}}))
	require.NotNil(t, m.Error)
	assert.Equal(t, -32600, m.Error.Code)
	m = c.Wait(c.Ask("textDocument/climb", map[string]any{}))
	require.NotNil(t, m.Error)
	assert.Equal(t, -32601, m.Error.Code)
	m = c.Wait(c.Ask("textDocument/hover", []int{1}))
	require.NotNil(t, m.Error)
	assert.Equal(t, -32602, m.Error.Code)
	m = c.Wait(c.Ask("textDocument/hover", map[string]any{"textDocument": map[string]any{"uri": "untitled:hut"}, "position": map[string]any{"line": 0, "character": 0}}))
	assert.Nil(t, m.Error)
	assert.Equal(t, "null", string(m.Result), "what is no file has no answers")
	m = c.Wait(c.Ask("textDocument/hover", map[string]any{"textDocument": map[string]any{"uri": place.URI(t.TempDir() + "/none.go")}, "position": map[string]any{"line": 5, "character": 99}}))
	require.NotNil(t, m.Error, "a file that is not there")
	assert.Equal(t, -32602, m.Error.Code)
	m = c.Wait(c.Ask("textDocument/hover", map[string]any{"textDocument": map[string]any{"uri": "file://%%%"}, "position": map[string]any{"line": -5, "character": 0}}))
	require.NotNil(t, m.Error, "no position")
	assert.Equal(t, -32602, m.Error.Code)
	var nothing any
	c.Get("shutdown", nil, &nothing)
	m = c.Wait(c.Ask("textDocument/hover", map[string]any{}))
	require.NotNil(t, m.Error)
	assert.Equal(t, -32600, m.Error.Code)
	c.Notify("exit", nil)
	assert.NoError(t, ended())

	_, c, ended = served(t)
	c.Initialize(nil)
	c.Notify("exit", nil)
	assert.ErrorIs(t, ended(), ErrAbrupt, "it was not told to shut down")

	_, c, ended = served(t)
	c.Initialize(nil)
	c.Raw("Content-Length: 500\r\n\r\n{\"jsonrpc\":")
	assert.ErrorIs(t, ended(), ErrAbrupt, "it stopped in the middle")
}

// Two hundred requests at once, half of them cancelled, are all answered, each once.
func TestManyRequestsWithCancellations(t *testing.T) {
	files := map[string]string{}
	for i := range 60 {
		files[fmt.Sprintf("team%d.go", i)] = fmt.Sprintf("package rescue\n\nfunc Team%d() { Reach() }\n", i)
	}
	files["reach.go"] = "package rescue\n\n// Reach gets there.\nfunc Reach() {}\n"
	root := project(t, files)
	_, c, ended := served(t)
	c.Initialize(nil, place.URI(root))
	uri := place.URI(root + "/reach.go")
	c.Open(uri, files["reach.go"])
	at := servetest.Position{Line: 3, Character: 6}
	var ids []int
	for i := range 200 {
		method := []string{"textDocument/references", "textDocument/hover", "textDocument/prepareCallHierarchy", "textDocument/codeLens"}[i%4]
		ids = append(ids, c.Ask(method, servetest.At(uri, at, "context", map[string]any{"includeDeclaration": false})))
		if i%2 == 1 {
			c.Notify("$/cancelRequest", map[string]any{"id": ids[i-1]})
		}
	}
	answered := 0
	for i, id := range ids {
		m := c.Wait(id)
		switch {
		case m.Error == nil:
			answered++
			if i%4 == 0 {
				assert.Equal(t, 60, bytes.Count(m.Result, []byte(`"uri"`)))
			}
		case i%2 == 0:
			assert.Equal(t, -32800, m.Error.Code, m.Error.Message)
		default:
			t.Errorf("request %d was not cancelled: %v", i, m.Error)
		}
	}
	assert.GreaterOrEqual(t, answered, 100)
	c.Shutdown()
	assert.NoError(t, ended())
}

// A file of a million lines comes in one message.
func TestMillionLines(t *testing.T) {
	text := "package rescue\n" + strings.Repeat("// a line about snow\n", 1_000_000) + "func Last() {}\n"
	root := project(t, map[string]string{"snow.go": text})
	uri := place.URI(root + "/snow.go")
	s, c, ended := served(t)
	c.Initialize(nil, place.URI(root))
	c.Open(uri, text)
	for version := 2; version < 100; version++ {
		c.Notify("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uri, "version": version}, "contentChanges": []any{
			map[string]any{"range": servetest.Range{Start: servetest.Position{Line: 500_000}, End: servetest.Position{Line: 500_000}}, "text": "\n"},
		}})
	}
	var symbols, hover any
	c.Get("textDocument/documentSymbol", map[string]any{"textDocument": map[string]any{"uri": uri}}, &symbols)
	c.Get("textDocument/hover", servetest.At(uri, servetest.Position{Line: 1_000_099, Character: 6}), &hover)
	doc := s.docs.get(uri).doc
	assert.Equal(t, len(text)+98, doc.Len())
	assert.Equal(t, "func Last() {}", string(doc.Line(1_000_001+99)))
	c.Shutdown()
	assert.NoError(t, ended())
}

// What is wrong in a text is told when it is opened, when it changes, and when it is closed, with the version that it is about.
func TestDiagnosticsAreSent(t *testing.T) {
	root := project(t, map[string]string{"rescue.go": "package rescue\n"})
	uri := place.URI(root + "/rescue.go")
	_, c, ended := served(t)
	c.Initialize(nil, place.URI(root))
	told := func(version float64, some bool) func(json.RawMessage) bool {
		return func(params json.RawMessage) bool {
			var p struct {
				URI         string
				Version     *float64
				Diagnostics []struct{ Message, Source string }
			}
			return json.Unmarshal(params, &p) == nil && p.URI == uri && (p.Version == nil && version == 0 || p.Version != nil && *p.Version == version) && len(p.Diagnostics) > 0 == some
		}
	}
	const method = "textDocument/publishDiagnostics"
	c.Open(uri, "package rescue\n\nfunc Reach( {\n")
	c.Note(method, told(1, true))
	c.Notify("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uri, "version": 2}, "contentChanges": []any{map[string]any{"text": "package rescue\n\nfunc Reach() {}\n"}}})
	c.Note(method, told(2, false))
	c.Notify("textDocument/didClose", map[string]any{"textDocument": map[string]any{"uri": uri}})
	c.Note(method, told(0, false))
	c.Shutdown()
	assert.NoError(t, ended())
}
