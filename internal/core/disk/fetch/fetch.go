// Package fetch gets files from other machines, by addresses that the user has given.
package fetch

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"
)

const (
	// tries is how often a transfer that was broken off is gone on with, pause how long it waits before that.
	tries = 5
	// silence is after how long without an answer a machine is given up.
	silence = 30 * time.Second
)

// Is says whether what the user has written is an address rather than the name of a file.
func Is(from string) bool {
	return strings.HasPrefix(from, "http://") || strings.HasPrefix(from, "https://")
}

// Fetcher gets files. The zero Fetcher waits a moment between tries.
type Fetcher struct {
	// Pause is how long it waits before it tries again; 0 for a second.
	Pause time.Duration
}

// Get gets what is at an address, of at most so many bytes, and returns the name of the file in a folder in which it is. What was got of it
// before it was broken off, also in an earlier run, is not got again. Whoever calls removes the file.
func (f Fetcher) Get(ctx context.Context, from, folder string, most int64) (file string, err error) {
	at, err := url.Parse(from)
	if err != nil || at.Host == "" {
		return "", fmt.Errorf("fetching %s: it is no address such as https://tarnwell.example/index.pack", from)
	}
	name := sha256.Sum256([]byte(from))
	file = filepath.Join(folder, hex.EncodeToString(name[:8])+".part")
	pause := f.Pause
	if pause == 0 {
		pause = time.Second
	}
	for try := 0; ; try++ {
		again, err := part(ctx, from, file, most)
		if err == nil {
			return file, nil
		}
		if !again || try+1 == tries || ctx.Err() != nil {
			return "", fmt.Errorf("fetching %s: %w", at.Redacted(), err)
		}
		select {
		case <-time.After(pause << try):
		case <-ctx.Done():
		}
	}
}

var errTooLarge = errors.New("it is larger than any that is taken")

// part gets what is lacking of a file; again says that it may go on later.
func part(ctx context.Context, from, file string, most int64) (again bool, err error) {
	out, err := os.OpenFile(file, os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return false, err
	}
	defer func() { err = errors.Join(err, out.Close()) }()
	have, err := out.Seek(0, io.SeekEnd)
	if err != nil {
		return false, err
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	asked, err := http.NewRequestWithContext(ctx, http.MethodGet, from, nil)
	if err != nil {
		return false, err
	}
	if have > 0 {
		asked.Header.Set("Range", "bytes="+strconv.FormatInt(have, 10)+"-")
	}
	quiet := time.AfterFunc(silence, stop)
	defer quiet.Stop()
	answer, err := http.DefaultClient.Do(asked)
	if err != nil {
		return true, err
	}
	defer answer.Body.Close()
	switch {
	case answer.StatusCode == http.StatusPartialContent && strings.HasPrefix(answer.Header.Get("Content-Range"), fmt.Sprintf("bytes %d-", have)):
	case answer.StatusCode == http.StatusOK: // from the beginning
		if err := out.Truncate(0); err != nil {
			return false, err
		}
		if have, err = out.Seek(0, io.SeekStart); err != nil {
			return false, err
		}
	case answer.StatusCode == http.StatusRequestedRangeNotSatisfiable && strings.HasSuffix(answer.Header.Get("Content-Range"), fmt.Sprintf("/%d", have)):
		return false, nil // all of it is there
	case answer.StatusCode == http.StatusRequestedRangeNotSatisfiable, answer.StatusCode == http.StatusPartialContent:
		return true, errors.Join(errors.New("the machine has another file now"), out.Truncate(0))
	default:
		return answer.StatusCode >= 500, fmt.Errorf("the machine answers %s", answer.Status)
	}
	n, err := io.Copy(out, io.LimitReader(heard{answer.Body, quiet}, most-have+1))
	switch {
	case err != nil:
		return true, err
	case have+n > most:
		return false, errors.Join(errTooLarge, out.Truncate(0))
	}
	return false, nil
}

// heard notes that something comes.
type heard struct {
	io.Reader
	quiet *time.Timer
}

// Read implements io.Reader.
func (h heard) Read(b []byte) (int, error) {
	h.quiet.Reset(silence)
	return h.Reader.Read(b)
}
