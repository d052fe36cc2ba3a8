package lsif

import (
	"bytes"
	"context"
	"testing"

	"github.com/stretchr/testify/require"
)

// Whatever a dump says, no place of it lies outside a text, and what is kept of it reads as it was.
func FuzzDump(f *testing.F) {
	f.Add([]byte(`{"id":1,"type":"vertex","label":"metaData","projectRoot":"file:///p"}
{"id":2,"type":"vertex","label":"document","uri":"file:///p/a.go"}
{"id":3,"type":"vertex","label":"range","start":{"line":0,"character":8},"end":{"line":0,"character":9}}
{"id":"x","type":"vertex","label":"range","start":{"line":1,"character":8},"end":{"line":1,"character":9}}
{"id":4,"type":"edge","label":"contains","outV":2,"inVs":[3,"x"]}
{"id":5,"type":"vertex","label":"definitionResult"}
{"id":6,"type":"edge","label":"textDocument/definition","outV":"x","inV":5}
{"id":7,"type":"edge","label":"item","outV":5,"inVs":[3]}`))
	f.Add([]byte(`{"id":1,"type":"vertex","label":"metaData","projectRoot":"file:///p","positionEncoding":"utf-8"}
{"id":2,"type":"vertex","label":"document","uri":"file:///p/%61.go","contents":"YSA9IGE="}`))
	f.Add([]byte{0x1f, 0x8b, 8, 0})
	text := []byte("package a // \U0001d6fc a\nvar b = a\r\n")
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := read(context.Background(), bytes.NewReader(data))
		if err != nil {
			return
		}
		all, _, err := d.convert(context.Background(), func(string) []byte { return text })
		require.NoError(t, err)
		for _, s := range all {
			for _, u := range s.uses {
				require.LessOrEqual(t, int(u.at+u.length), len(s.text))
			}
			again, err := decode(s.encode())
			require.NoError(t, err)
			require.Equal(t, s, again)
		}
	})
}

// What is damaged is refused, or reads as something else, but does not fail.
func FuzzDecode(f *testing.F) {
	f.Add((&said{text: []byte("a = a"), targets: []string{"a.go"}, uses: []use{{4, 1, 0, 0}}}).encode())
	f.Fuzz(func(t *testing.T, data []byte) {
		s, err := decode(data)
		if err != nil {
			return
		}
		for _, u := range s.uses {
			require.Less(t, int(u.target), len(s.targets))
		}
	})
}
