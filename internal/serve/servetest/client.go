// Package servetest is a client of a language server, for tests: it speaks the protocol by itself, with messages of its own, so that the
// types of the server are not tested by themselves.
package servetest

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/work"
)

// Message is what is sent and received.
type Message struct {
	JSONRPC string           `json:"jsonrpc"`
	ID      *json.RawMessage `json:"id,omitempty"`
	Method  string           `json:"method,omitempty"`
	Params  json.RawMessage  `json:"params,omitempty"`
	Result  json.RawMessage  `json:"result,omitempty"`
	Error   *Error           `json:"error,omitempty"`
}

// Error is why a request was not answered.
type Error struct {
	Code    int    `json:"code"`
	Message string `json:"message"`
}

// Position is a place in a text, counted from 0.
type Position struct {
	Line      int `json:"line"`
	Character int `json:"character"`
}

// Range is a piece of a text.
type Range struct {
	Start Position `json:"start"`
	End   Position `json:"end"`
}

// Location is a piece of a file.
type Location struct {
	URI   string `json:"uri"`
	Range Range  `json:"range"`
}

// Client is the client of one server.
type Client struct {
	t       testing.TB
	to      io.Writer
	reading work.Group

	mu      sync.Mutex
	came    *sync.Cond
	next    int
	answers map[string]*Message
	notes   []*Message
	closed  bool
}

// New talks to a server by a pipe to it and one from it.
func New(t testing.TB, to io.Writer, from io.Reader) *Client {
	c := &Client{t: t, to: to, answers: map[string]*Message{}}
	c.came = sync.NewCond(&c.mu)
	c.reading.Go(func() { c.read(bufio.NewReader(from)) })
	return c
}

func (c *Client) read(from *bufio.Reader) {
	for {
		m, err := message(from)
		c.mu.Lock()
		switch {
		case err != nil:
			c.closed = true
			c.came.Broadcast()
			c.mu.Unlock()
			return
		case m.Method != "":
			c.notes = append(c.notes, m)
		case m.ID == nil:
			c.answers["null"] = m
		default:
			c.answers[string(*m.ID)] = m
		}
		c.came.Broadcast()
		c.mu.Unlock()
		if m.Method != "" && m.ID != nil { // the server asks for something, which is granted
			c.reading.Go(func() { c.Send(map[string]any{"jsonrpc": "2.0", "id": m.ID, "result": nil}) })
		}
	}
}

func message(from *bufio.Reader) (*Message, error) {
	length := 0
	for {
		line, err := from.ReadString('\n')
		if err != nil {
			return nil, err
		}
		if line = strings.TrimSpace(line); line == "" {
			break
		}
		if n, ok := strings.CutPrefix(line, "Content-Length:"); ok {
			if length, err = strconv.Atoi(strings.TrimSpace(n)); err != nil {
				return nil, err
			}
		}
	}
	data := make([]byte, length)
	if _, err := io.ReadFull(from, data); err != nil {
		return nil, err
	}
	var m Message
	return &m, json.Unmarshal(data, &m)
}

// Raw sends bytes as they are.
func (c *Client) Raw(data string) {
	_, err := io.WriteString(c.to, data)
	if err != nil {
		c.t.Logf("sending: %v", err)
	}
}

// Send sends a value as a message.
func (c *Client) Send(v any) {
	data, err := json.Marshal(v)
	require.NoError(c.t, err)
	c.Raw(fmt.Sprintf("Content-Length: %d\r\n\r\n%s", len(data), data))
}

// Notify sends a notification.
func (c *Client) Notify(method string, params any) {
	c.Send(map[string]any{"jsonrpc": "2.0", "method": method, "params": params})
}

// Ask sends a request, and gives its id.
func (c *Client) Ask(method string, params any) int {
	c.mu.Lock()
	c.next++
	id := c.next
	c.mu.Unlock()
	c.Send(map[string]any{"jsonrpc": "2.0", "id": id, "method": method, "params": params})
	return id
}

// patience is how long an answer is waited for.
const patience = 2 * time.Minute

// Wait waits for the answer to a request.
func (c *Client) Wait(id int) *Message { return c.WaitFor(strconv.Itoa(id)) }

// WaitFor is Wait for an id as it is written in JSON.
func (c *Client) WaitFor(id string) (m *Message) {
	c.until("an answer to "+id, func() bool { m = c.answers[id]; return m != nil })
	return m
}

func (c *Client) until(what string, is func() bool) {
	timer := time.AfterFunc(patience, c.came.Broadcast)
	defer timer.Stop()
	end := time.Now().Add(patience)
	c.mu.Lock()
	defer c.mu.Unlock()
	for !is() {
		require.False(c.t, c.closed, "the server has closed while %s was waited for", what)
		require.True(c.t, time.Now().Before(end), "%s did not come", what)
		c.came.Wait()
	}
}

// Note waits for a notification or request of the server that is wanted.
func (c *Client) Note(method string, wanted func(params json.RawMessage) bool) (found *Message) {
	c.until(method, func() bool {
		for _, m := range c.notes {
			if m.Method == method && wanted(m.Params) {
				found = m
				return true
			}
		}
		return false
	})
	return found
}

// Closed waits until the server has closed.
func (c *Client) Closed() { c.reading.Wait() }

// Get sends a request and reads its result; there must be no error.
func (c *Client) Get(method string, params, result any) {
	c.t.Helper()
	m := c.Wait(c.Ask(method, params))
	require.Nil(c.t, m.Error, "%s: %+v", method, m.Error)
	require.NoError(c.t, json.Unmarshal(m.Result, result), "%s: %s", method, m.Result)
}

// Initialize begins, with what the client can do, on some folders.
func (c *Client) Initialize(capabilities map[string]any, folders ...string) (result map[string]any) {
	var all []map[string]string
	for _, f := range folders {
		all = append(all, map[string]string{"uri": f, "name": f[strings.LastIndexByte(f, '/')+1:]})
	}
	c.Get("initialize", map[string]any{"processId": nil, "rootUri": nil, "capabilities": capabilities, "workspaceFolders": all}, &result)
	c.Notify("initialized", map[string]any{})
	return result
}

// Open opens a text.
func (c *Client) Open(uri, text string) {
	c.Notify("textDocument/didOpen", map[string]any{"textDocument": map[string]any{"uri": uri, "languageId": "", "version": 1, "text": text}})
}

// Shutdown ends the server as the protocol says.
func (c *Client) Shutdown() {
	var nothing any
	c.Get("shutdown", nil, &nothing)
	c.Notify("exit", nil)
	c.Closed()
}

// At are the parameters of a request about a place.
func At(uri string, p Position, more ...any) map[string]any {
	params := map[string]any{"textDocument": map[string]any{"uri": uri}, "position": p}
	for i := 0; i+1 < len(more); i += 2 {
		params[more[i].(string)] = more[i+1]
	}
	return params
}

// Notes are the notifications and requests of a method that came so far.
func (c *Client) Notes(method string) (all []*Message) {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, m := range c.notes {
		if m.Method == method {
			all = append(all, m)
		}
	}
	return all
}
