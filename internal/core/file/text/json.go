package text

import (
	"bytes"
	"encoding/json"
	"fmt"
	"unicode/utf16"
	"unicode/utf8"
)

// JSON writes a value as JSON, ended by a line end and indented as json.MarshalIndent does unless
// indent is "". What would steer a terminal or the eye stands as an escape in it: the same value
// to whoever reads it, and harmless to whoever looks at it.
func JSON(v any, indent string) ([]byte, error) {
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", indent)
	if err := enc.Encode(v); err != nil {
		return nil, err
	}
	return escaped(b.Bytes()), nil
}

// escaped writes the hidden runes of JSON, which stand within its strings, as escapes.
func escaped(in []byte) []byte {
	clean := true
	for i := 0; i < len(in) && clean; i++ {
		clean = in[i] < utf8.RuneSelf && in[i] != 0x7f
	}
	if clean {
		return in
	}
	out := make([]byte, 0, len(in)+16)
	for i := 0; i < len(in); {
		r, size := utf8.DecodeRune(in[i:])
		switch {
		case r < utf8.RuneSelf && r != 0x7f || !hidden(r):
			out = append(out, in[i:i+size]...)
		case r > 0xFFFF:
			high, low := utf16.EncodeRune(r)
			out = fmt.Appendf(out, `\u%04x\u%04x`, high, low)
		default:
			out = fmt.Appendf(out, `\u%04x`, r)
		}
		i += size
	}
	return out
}
