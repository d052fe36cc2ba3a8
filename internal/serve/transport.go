package serve

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"sync"

	"go.lsp.dev/jsonrpc2"
)

// longestMessage bounds a message in bytes: a file of some million lines fits.
const longestMessage = 1 << 29

// longestHeader bounds a line of a header in bytes; what is longer is none.
const longestHeader = 8 << 10

// transport reads and writes messages with a header in front of each. What is no message is answered with an error and passed over, so
// that a client that stumbles once is served on. It implements jsonrpc2.Stream.
type transport struct {
	in     *bufio.Reader
	closer io.Closer

	mu  sync.Mutex // of out
	out io.Writer
}

func newTransport(in io.ReadCloser, out io.Writer) *transport {
	return &transport{in: bufio.NewReaderSize(in, longestHeader), closer: in, out: out}
}

// Read implements jsonrpc2.Stream.
func (t *transport) Read(ctx context.Context) (jsonrpc2.Message, int64, error) {
	for ctx.Err() == nil {
		data, err := t.next()
		switch {
		case errors.Is(err, errTooLong):
			err = t.refuse(jsonrpc2.InvalidRequest, err.Error())
		case err != nil:
		case !json.Valid(data):
			err = t.refuse(jsonrpc2.ParseError, "that is no JSON")
		default:
			msg, wrong := decode(data)
			if wrong == nil {
				return msg, int64(len(data)), nil
			}
			err = t.refuse(jsonrpc2.InvalidRequest, wrong.Error())
		}
		if err != nil {
			return nil, 0, err
		}
	}
	return nil, 0, ctx.Err()
}

// decode reads a message, which is JSON.
func decode(data []byte) (jsonrpc2.Message, error) {
	if data = bytes.TrimSpace(data); len(data) == 0 || data[0] != '{' {
		return nil, errors.New("a message is one JSON object")
	}
	var form struct {
		Method *string         `json:"method"`
		ID     json.RawMessage `json:"id"`
	}
	if err := json.Unmarshal(data, &form); err != nil {
		return nil, errors.New("a method is a text")
	}
	if form.Method != nil && form.ID != nil {
		var id jsonrpc2.ID
		if err := json.Unmarshal(form.ID, &id); err != nil || string(form.ID) == "null" || string(form.ID) == `""` {
			return nil, errors.New("an id is a number of 32 bits or a text that is not empty")
		}
	}
	return jsonrpc2.DecodeMessage(data)
}

var errTooLong = errors.New("the message is longer than any that is read")

// next reads the bytes of the next message. Lines that belong to no header are passed over.
func (t *transport) next() ([]byte, error) {
	length := int64(-1)
	for {
		line, err := t.line()
		if err != nil {
			return nil, err
		}
		name, value, isField := strings.Cut(line, ":")
		switch {
		case isField && strings.EqualFold(strings.TrimSpace(name), jsonrpc2.HdrContentLength):
			if n, err := strconv.ParseInt(strings.TrimSpace(value), 10, 64); err == nil && n >= 0 {
				length = n
			}
		case line == "" && length > longestMessage:
			if _, err := io.CopyN(io.Discard, t.in, length); err != nil {
				return nil, err
			}
			return nil, errTooLong
		case line == "" && length >= 0:
			var data bytes.Buffer // which grows with what comes, not with what is promised
			if _, err := io.CopyN(&data, t.in, length); err != nil {
				return nil, fmt.Errorf("reading a message of %d bytes: %w", length, err)
			}
			return data.Bytes(), nil
		}
	}
}

// line reads a line of a header, without its end; of one that is too long for that, "-".
func (t *transport) line() (string, error) {
	long := false
	for {
		part, err := t.in.ReadSlice('\n')
		switch {
		case errors.Is(err, bufio.ErrBufferFull):
			long = true
		case err != nil:
			return "", err
		case long:
			return "-", nil
		default:
			return strings.TrimRight(string(part), "\r\n"), nil
		}
	}
}

// refuse answers what was no request with an error, which belongs to no id.
func (t *transport) refuse(code jsonrpc2.Code, why string) error {
	data, err := json.Marshal(map[string]any{"jsonrpc": "2.0", "id": nil, "error": map[string]any{"code": code, "message": why}})
	if err != nil {
		return fmt.Errorf("writing an error: %w", err)
	}
	return t.send(data)
}

// Write implements jsonrpc2.Stream.
func (t *transport) Write(ctx context.Context, msg jsonrpc2.Message) (int64, error) {
	if ctx.Err() != nil {
		return 0, ctx.Err()
	}
	data, err := json.Marshal(msg)
	if err != nil {
		return 0, fmt.Errorf("writing a message: %w", err)
	}
	return int64(len(data)), t.send(data)
}

func (t *transport) send(data []byte) error {
	all := append(fmt.Appendf(nil, "%s: %d\r\n\r\n", jsonrpc2.HdrContentLength, len(data)), data...)
	t.mu.Lock()
	defer t.mu.Unlock()
	if _, err := t.out.Write(all); err != nil {
		return fmt.Errorf("sending a message: %w", err)
	}
	return nil
}

// Close implements jsonrpc2.Stream.
func (t *transport) Close() error { return t.closer.Close() }
