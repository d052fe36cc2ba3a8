package index

import "encoding/binary"

func appendText(b []byte, text string) []byte {
	return append(binary.AppendUvarint(b, uint64(len(text))), text...)
}

// byteReader reads numbers and texts as they were appended. Behind the end, and
// from the first that is malformed on, it gives nothing.
type byteReader struct {
	left   []byte
	failed bool
}

func (r *byteReader) take(n uint64) []byte {
	if r.failed || n > uint64(len(r.left)) {
		r.failed = true
		return nil
	}
	b := r.left[:n:n]
	if r.left = r.left[n:]; n == 0 {
		return nil
	}
	return b
}

func (r *byteReader) number() int64 {
	n, size := binary.Varint(r.left)
	if size <= 0 {
		r.failed = true
		return 0
	}
	r.take(uint64(size))
	return n
}

func (r *byteReader) count() uint64 {
	n, size := binary.Uvarint(r.left)
	if size <= 0 {
		r.failed = true
		return 0
	}
	r.take(uint64(size))
	return n
}

func (r *byteReader) text() []byte { return r.take(r.count()) }
