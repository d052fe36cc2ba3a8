package serve

import (
	"encoding/json"
	"fmt"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
)

// The commands that may be carried out: they answer with the places of what a lens counts.
const (
	commandReferences = "rooktrail.references"
	commandTests      = "rooktrail.tests"
)

// lensData says what a lens counts.
type lensData struct {
	URI     protocol.DocumentURI `json:"uri"`
	At      protocol.Position    `json:"at"`
	Command string               `json:"command"`
}

// lenses answers where it is told how often something is used, and by how many tests; how many is worked out for those that are shown.
func (c *call) lenses() (any, error) {
	p, err := read[protocol.CodeLensParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil || s.file.Facts == nil {
		return nil, err
	}
	all := []protocol.CodeLens{}
	for _, id := range s.file.Facts.Symbols() {
		d := &s.file.Facts.Defs[id]
		if !d.Kind.IsCallable() && !d.Kind.IsType() {
			continue
		}
		at := s.lines.span(d.At)
		for _, command := range []string{commandReferences, commandTests} {
			all = append(all, protocol.CodeLens{Range: at, Data: lensData{p.TextDocument.URI, at.Start, command}})
		}
	}
	return all, nil
}

// resolveLens counts.
func (c *call) resolveLens() (any, error) {
	p, err := read[protocol.CodeLens](c)
	if err != nil {
		return nil, err
	}
	data, err := lensOf(p.Data)
	if err != nil {
		return nil, err
	}
	s, err := c.at(data.URI, data.At)
	if err != nil {
		return nil, err
	}
	title := "0 references"
	if s != nil {
		if err := c.ready(s.folder, true); err != nil {
			return nil, err
		}
		title = counted(s.ws.Answers.CountWays(c.ctx, s.path, s.offset), data.Command)
	}
	p.Command = &protocol.Command{Title: title, Command: data.Command, Arguments: []any{data.URI, data.At}}
	return p, nil
}

// lensOf reads what a lens counts, as it came back from the client.
func lensOf(raw any) (data lensData, err error) {
	again, err := json.Marshal(raw)
	if err == nil {
		err = json.Unmarshal(again, &data)
	}
	if err != nil || data.URI == "" {
		return data, refused(jsonrpc2.InvalidParams, "the lens is none of this server")
	}
	return data, nil
}

func counted(n answer.Ways, command string) string {
	if command == commandTests {
		return number(n.Tests, "test", n.TestsThrough, "through others")
	}
	more := ""
	if n.More {
		more = "more than "
	}
	return more + number(n.References, "reference", n.Possible, "possible")
}

func number(n int, of string, more int, which string) string {
	if n != 1 {
		of += "s"
	}
	words := text.Number(n) + " " + of
	if more > 0 {
		words += fmt.Sprintf(", %s %s", text.Number(more), which)
	}
	return words
}

// command answers with the places of what a lens counts; a single one is shown, if the client can do that.
func (c *call) command() (any, error) {
	p, err := read[protocol.ExecuteCommandParams](c)
	if err != nil {
		return nil, err
	}
	if p.Command != commandReferences && p.Command != commandTests {
		return nil, refused(jsonrpc2.InvalidParams, "there is no command %q here", p.Command)
	}
	var uri protocol.DocumentURI
	var at protocol.Position
	if len(p.Arguments) == 2 {
		raw, _ := json.Marshal(p.Arguments) // it was read from JSON
		err = json.Unmarshal(raw, &[]any{&uri, &at})
	}
	if err != nil || uri == "" {
		return nil, refused(jsonrpc2.InvalidParams, "%s takes a URI and a position", p.Command)
	}
	s, err := c.at(uri, at)
	if s == nil || err != nil {
		return nil, err
	}
	way := answer.ToReferences
	if p.Command == commandTests {
		way = answer.ToTests
	}
	_, found, err := c.all(s, answer.Question{Way: way})
	all := c.locations(s.folder, sure(found))
	if len(all) == 1 && err == nil && c.client.Window.ShowDocument.Support {
		_, err = c.conn.Call(c.ctx, "window/showDocument", map[string]any{"uri": all[0].URI, "selection": all[0].Range, "takeFocus": true}, nil)
	}
	return all, err
}
