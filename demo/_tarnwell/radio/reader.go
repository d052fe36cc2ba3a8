package radio

import (
	"bufio"
	"errors"
	"io"
)

// Reader finds frames in what comes over the radio, noise and repetitions
// included.
type Reader struct {
	in   *bufio.Reader
	last map[uint16]Frame
	// Dropped counts the bytes that belonged to no frame.
	Dropped int
}

// NewReader reads from a radio.
func NewReader(r io.Reader) *Reader {
	return &Reader{in: bufio.NewReader(r), last: map[uint16]Frame{}}
}

// Next returns the next frame that is not a repetition of the one before from
// the same hut.
func (r *Reader) Next() (Frame, error) {
	for {
		b, err := r.in.Peek(frameSize)
		if err != nil {
			if errors.Is(err, io.EOF) && len(b) > 0 {
				r.Dropped += len(b)
			}
			return Frame{}, err
		}
		f, err := Decode(b)
		if err != nil {
			r.skip(1)
			r.Dropped++
			continue
		}
		r.skip(frameSize)
		if r.last[f.Hut] == f {
			continue
		}
		r.last[f.Hut] = f
		return f, nil
	}
}

// skip passes over bytes that were peeked at, and so are there.
func (r *Reader) skip(n int) { _, _ = r.in.Discard(n) }
