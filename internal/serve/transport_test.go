package serve

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.lsp.dev/jsonrpc2"
)

func framed(message string) string {
	return fmt.Sprintf("Content-Length: %d\r\n\r\n%s", len(message), message)
}

// What is no message is answered and passed over; what follows is read.
func TestMessagesBehindWhatIsNone(t *testing.T) {
	const good = `{"jsonrpc":"2.0","id":7,"method":"shutdown"}`
	tests := []struct{ name, before, says string }{
		{"nothing", "", ""},
		{"an empty line", "\r\n", ""},
		{"words", "the hut is closed\n", ""},
		{"a long line", strings.Repeat("snow ", 10_000) + "\n", ""},
		{"other fields", "Content-Type: application/vscode-jsonrpc; charset=utf-8\r\n", ""},
		{"a length that is none", "Content-Length: far\r\n\r\n", ""},
		{"a negative length", "Content-Length: -3\r\n\r\n", ""},
		{"no JSON", framed("{"), "-32700"},
		{"an empty message", framed(""), "-32700"},
		{"a list", framed("[]"), "-32600"},
		{"a text", framed(`"hut"`), "-32600"},
		{"a method that is none", framed(`{"jsonrpc":"2.0","method":3}`), "-32600"},
		{"another version", framed(`{"jsonrpc":"1.0","id":1,"method":"x"}`), "-32600"},
		{"an id that is none", framed(`{"jsonrpc":"2.0","id":{},"method":"x"}`), "-32600"},
		{"an id that is too large", framed(`{"jsonrpc":"2.0","id":99999999999,"method":"x"}`), "-32600"},
		{"an id that is null", framed(`{"jsonrpc":"2.0","id":null,"method":"x"}`), "-32600"},
		{"deep brackets", framed(strings.Repeat("[", 100_000)), "-32700"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			var out bytes.Buffer
			tr := newTransport(io.NopCloser(strings.NewReader(tt.before+framed(good))), &out)
			msg, _, err := tr.Read(t.Context())
			require.NoError(t, err)
			call, ok := msg.(*jsonrpc2.Call)
			require.True(t, ok, "%T", msg)
			assert.Equal(t, "shutdown", call.Method())
			assert.Equal(t, jsonrpc2.NewNumberID(7), call.ID())
			if tt.says == "" {
				assert.Empty(t, out.String())
			} else {
				assert.Contains(t, out.String(), tt.says)
				assert.Contains(t, out.String(), `"id":null`)
			}
			_, _, err = tr.Read(t.Context())
			assert.ErrorIs(t, err, io.EOF)
		})
	}
}

// A message that breaks off is an error, and costs no more memory than what came.
func TestHalfMessages(t *testing.T) {
	for _, half := range []string{"Content-Length: 500000000\r\n\r\n{", "Content-Length: 5", "Content-Length: 900000000000\r\n\r\n{"} {
		tr := newTransport(io.NopCloser(strings.NewReader(half)), io.Discard)
		_, _, err := tr.Read(t.Context())
		assert.ErrorIs(t, err, io.EOF, half)
	}
}

func FuzzTransport(f *testing.F) {
	f.Add([]byte(framed(`{"jsonrpc":"2.0","id":"a","method":"textDocument/hover","params":{"position":{}}}`)))
	f.Add([]byte(framed(`{"jsonrpc":"2.0","method":"exit"}`) + "junk\r\n" + framed("{}")))
	f.Add([]byte("content-length : 2\n\n{}Content-Length: 99\r\n\r\n"))
	f.Add([]byte(framed(`{"jsonrpc":"2.0","id":3,"result":[1,2,{"x":"\ud800"}]}`)))
	f.Fuzz(func(t *testing.T, data []byte) {
		var out bytes.Buffer
		tr := newTransport(io.NopCloser(bytes.NewReader(data)), &out)
		for {
			msg, _, err := tr.Read(context.Background())
			if err != nil {
				break
			}
			if _, err := tr.Write(context.Background(), msg); err != nil {
				t.Fatalf("what was read cannot be written: %v", err)
			}
		}
		again := newTransport(io.NopCloser(&out), io.Discard)
		for {
			if _, _, err := again.Read(context.Background()); err != nil {
				if err != io.EOF {
					t.Fatalf("what was written cannot be read: %v", err)
				}
				return
			}
		}
	})
}
