package radio

import (
	"bytes"
	"errors"
	"io"
	"testing"
)

func TestEncodeDecode(t *testing.T) {
	f := Frame{Kind: KindSnow, Hut: 7, Temperature: -12.5, Wind: 18.2, Snow: 340}
	got, err := Decode(Encode(f))
	if err != nil || got != f {
		t.Fatalf("got %+v, %v", got, err)
	}
	broken := Encode(f)
	broken[5]++
	if _, err := Decode(broken); !errors.Is(err, ErrChecksum) {
		t.Fatalf("got %v", err)
	}
}

func TestReaderSkipsNoiseAndRepetitions(t *testing.T) {
	f := Encode(Frame{Kind: KindHello, Hut: 3})
	noise := []byte{1, 2, start, 4}
	r := NewReader(bytes.NewReader(bytes.Join([][]byte{noise, f, f, f}, nil)))
	if got, err := r.Next(); err != nil || got.Hut != 3 {
		t.Fatalf("got %+v, %v", got, err)
	}
	if _, err := r.Next(); !errors.Is(err, io.EOF) {
		t.Fatalf("got %v", err)
	}
	if r.Dropped != len(noise) {
		t.Fatalf("dropped %d bytes", r.Dropped)
	}
}
