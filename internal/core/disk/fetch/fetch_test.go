package fetch_test

import (
	"bytes"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/fetch"
)

var quick = fetch.Fetcher{Pause: time.Millisecond}

// A transfer that is broken off again and again goes on where it was.
func TestWhatIsBrokenOffGoesOn(t *testing.T) {
	body := bytes.Repeat([]byte("snow on the slope "), 100_000)
	asked := 0
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if asked++; asked < 4 {
			w = &broken{ResponseWriter: w, left: len(body) / 5}
		}
		http.ServeContent(w, r, "index.pack", time.Unix(7, 0), bytes.NewReader(body))
	}))
	defer server.Close()
	folder := t.TempDir()
	file, err := quick.Get(t.Context(), server.URL+"/index.pack", folder, 1<<30)
	require.NoError(t, err)
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, body, got)
	assert.Equal(t, 4, asked)
	_, err = quick.Get(t.Context(), server.URL+"/index.pack", folder, 1<<30)
	require.NoError(t, err, "all of it is there")
}

// broken ends the connection after some bytes.
type broken struct {
	http.ResponseWriter
	left int
}

func (b *broken) Write(data []byte) (int, error) {
	if b.left -= len(data); b.left < 0 {
		panic(http.ErrAbortHandler)
	}
	return b.ResponseWriter.Write(data)
}

func TestWhatCannotBeFetched(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/large":
			_, _ = w.Write(make([]byte, 5000))
		case "/busy":
			w.WriteHeader(http.StatusServiceUnavailable)
		default:
			w.WriteHeader(http.StatusNotFound)
		}
	}))
	defer server.Close()
	for path, says := range map[string]string{"/large": "larger than any", "/busy": "503", "/none": "404"} {
		_, err := quick.Get(t.Context(), server.URL+path, t.TempDir(), 1000)
		assert.ErrorContains(t, err, says)
	}
	_, err := quick.Get(t.Context(), "http:///x", t.TempDir(), 1000)
	assert.ErrorContains(t, err, "no address")
	assert.True(t, fetch.Is("https://tarnwell.example/x"))
	assert.False(t, fetch.Is(strings.Repeat("x", 3)))
}
