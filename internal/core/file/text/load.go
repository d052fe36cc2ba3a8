package text

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"

	"rooktrail/internal/core/disk/door"
)

// headSize is how much of a large file is read before it is first shown.
const headSize = 4 << 20

// mostGrown is how many bytes more than its size said are read of a file: it may grow meanwhile,
// but some that the system makes up say nothing of their size, and never end.
const mostGrown = 64 << 20

// ErrEndless is wrapped by the error for a file that goes on and on.
var ErrEndless = errors.New("it does not end where its size says")

// ErrNotRegular is wrapped by the error for a pipe, socket or device, which
// is not opened since reading it could wait for ever.
var ErrNotRegular = errors.New("not a regular file")

// ErrFolder is wrapped by the error for a folder.
var ErrFolder = errors.New("it is a folder")

// Load reads a whole file.
func Load(path string) (*Document, error) {
	f, info, err := open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	raw, err := readAll(io.LimitReader(f, headSize), nil, min(info.Size(), headSize))
	if err == nil && len(raw) == headSize {
		if d := newDocument(raw); d.binary { // the rest is not shown either
			d.whole, d.onDisk = true, info.Size()
			return d, nil
		}
		raw, err = readAll(io.LimitReader(f, info.Size()+mostGrown+1-headSize), raw, info.Size())
	}
	if err == nil && int64(len(raw)) > info.Size()+mostGrown {
		err = ErrEndless
	}
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", path, err)
	}
	return NewDocument(raw), nil
}

// LoadHead reads the beginning of a file, so that a large one can be shown
// before all of it is there. The document says whether it is Whole; if not, it
// ends with a complete line where there is one.
func LoadHead(path string) (*Document, error) {
	f, info, err := open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	raw, err := readAll(io.LimitReader(f, headSize+1), nil, min(info.Size(), headSize+1))
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", path, err)
	}
	if len(raw) <= headSize {
		return NewDocument(raw), nil
	}
	raw = raw[:headSize]
	if i := lastLineEnd(raw); i > 0 {
		raw = raw[:i+1]
	}
	d := newDocument(raw)
	d.whole, d.onDisk = d.binary, info.Size()
	return d, nil
}

func open(path string) (*os.File, fs.FileInfo, error) {
	info, err := os.Stat(path)
	switch {
	case err != nil:
		return nil, nil, fmt.Errorf("opening %s: %w", path, err)
	case info.IsDir():
		return nil, nil, fmt.Errorf("opening %s: %w", path, ErrFolder)
	case !info.Mode().IsRegular():
		return nil, nil, fmt.Errorf("opening %s: %w", path, ErrNotRegular)
	}
	f, info, err := door.Open(path)
	if errors.Is(err, door.ErrNotRegular) {
		err = ErrNotRegular // by now
	}
	if err != nil {
		return nil, nil, fmt.Errorf("opening %s: %w", path, err)
	}
	return f, info, nil
}

// readAll reads to the end behind what was read already, with room for size bytes in all; the
// file may have grown or shrunk since its size was asked for.
func readAll(r io.Reader, before []byte, size int64) ([]byte, error) {
	buf := append(make([]byte, 0, max(size, int64(len(before)))+1), before...)
	for {
		n, err := r.Read(buf[len(buf):cap(buf)])
		buf = buf[:len(buf)+n]
		if err == io.EOF {
			return buf, nil
		}
		if err != nil {
			return buf, err
		}
		if len(buf) == cap(buf) {
			buf = append(buf, 0)[:len(buf)]
		}
	}
}

func lastLineEnd(raw []byte) int {
	for i := len(raw) - 1; i >= 0; i-- {
		if raw[i] == '\n' {
			return i
		}
	}
	return -1
}
