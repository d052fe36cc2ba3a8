// Package radio reads what the huts send. The protocol is described in
// docs/radio-protocol.md.
package radio

import (
	"encoding/binary"
	"errors"
)

const (
	start     = 0x7E
	frameSize = 12
)

// Kind is what a frame reports.
type Kind byte

// The kinds of frames.
const (
	KindWeather Kind = 1
	KindSnow    Kind = 2
	KindHello   Kind = 3
)

// Frame is one report of a hut.
type Frame struct {
	Kind Kind
	Hut  uint16
	// Temperature is in degrees, Wind in metres per second, Snow in
	// millimetres.
	Temperature float64
	Wind        float64
	Snow        int
}

// The ways in which a frame can be wrong.
var (
	ErrShort    = errors.New("frame too short")
	ErrStart    = errors.New("no start byte")
	ErrChecksum = errors.New("wrong checksum")
)

// Decode reads the frame at the beginning of b.
func Decode(b []byte) (Frame, error) {
	switch {
	case len(b) < frameSize:
		return Frame{}, ErrShort
	case b[0] != start:
		return Frame{}, ErrStart
	case Checksum(b[:10]) != binary.BigEndian.Uint16(b[10:]):
		return Frame{}, ErrChecksum
	}
	return Frame{
		Kind:        Kind(b[1]),
		Hut:         binary.BigEndian.Uint16(b[2:]),
		Temperature: tenths(b[4:]),
		Wind:        tenths(b[6:]),
		Snow:        int(binary.BigEndian.Uint16(b[8:])),
	}, nil
}

// tenths reads a signed number of tenths.
func tenths(b []byte) float64 {
	return float64(int16(binary.BigEndian.Uint16(b))) / 10
}

// Checksum adds the bytes up, turning the sum by a bit before each.
func Checksum(b []byte) uint16 {
	var sum uint16
	for _, c := range b {
		sum = sum<<1 | sum>>15
		sum += uint16(c)
	}
	return sum
}

// Encode writes a frame as a hut would send it.
func Encode(f Frame) []byte {
	b := make([]byte, frameSize)
	b[0], b[1] = start, byte(f.Kind)
	binary.BigEndian.PutUint16(b[2:], f.Hut)
	binary.BigEndian.PutUint16(b[4:], uint16(int16(f.Temperature*10)))
	binary.BigEndian.PutUint16(b[6:], uint16(int16(f.Wind*10)))
	binary.BigEndian.PutUint16(b[8:], uint16(f.Snow))
	binary.BigEndian.PutUint16(b[10:], Checksum(b[:10]))
	return b
}
