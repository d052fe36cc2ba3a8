package sweep_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/sweep"
)

func TestReadingLists(t *testing.T) {
	for _, c := range []struct {
		line string
		want sweep.Listed
	}{
		{"dispatch/roster.go:42:18: undefined: Crew", sweep.Listed{Path: "dispatch/roster.go", Line: 42, Col: 18, Text: "undefined: Crew"}},
		{"./dispatch/roster.go:42: declared and not used", sweep.Listed{Path: "./dispatch/roster.go", Line: 42, Text: "declared and not used"}},
		{"    roster_test.go:12: got 2, want 3", sweep.Listed{Path: "roster_test.go", Line: 12, Text: "got 2, want 3"}},
		{"  File \"risk/model.py\", line 33, in estimate", sweep.Listed{Path: "risk/model.py", Line: 33, Text: "in estimate"}},
		{"board/src/map.ts(12,5): error TS2304: Cannot find name 'hut'.", sweep.Listed{Path: "board/src/map.ts", Line: 12, Col: 5, Text: "error TS2304: Cannot find name 'hut'."}},
		{"board/src/map.ts:12:5 - error TS2304: nothing", sweep.Listed{Path: "board/src/map.ts", Line: 12, Col: 5, Text: "- error TS2304: nothing"}},
		{"gateway/Radio.java:9: error: ';' expected", sweep.Listed{Path: "gateway/Radio.java", Line: 9, Text: "error: ';' expected"}},
		{"[ERROR] /w/gateway/Radio.java:[9,14] ';' expected", sweep.Listed{Path: "/w/gateway/Radio.java", Line: 9, Col: 14, Text: "';' expected"}},
		{"   --> src/main.rs:3:5", sweep.Listed{Path: "src/main.rs", Line: 3, Col: 5}},
		{"\x1b[1mstation/sensor.c:7:2:\x1b[0m \x1b[31mwarning:\x1b[0m unused", sweep.Listed{Path: "station/sensor.c", Line: 7, Col: 2, Text: "warning: unused"}},
		{"\tat tarnwell.Radio.send(Radio.java:44)", sweep.Listed{Path: "Radio.java", Line: 44, Text: "at tarnwell.Radio.send"}},
		{"    at render (board/src/map.js:3:9)", sweep.Listed{Path: "board/src/map.js", Line: 3, Col: 9, Text: "at render"}},
		{"docs/my notes.md:4:1: a note", sweep.Listed{Path: "docs/my notes.md", Line: 4, Col: 1, Text: "a note"}},
		{"a.go:3:no blank", sweep.Listed{Path: "a.go", Line: 3, Text: "no blank"}},
	} {
		got, _, others, err := sweep.Read(strings.NewReader(c.line + "\n"))
		require.NoError(t, err)
		require.Len(t, got, 1, c.line)
		assert.Equal(t, c.want, got[0])
		assert.Zero(t, others)
	}
	got, _, others, err := sweep.Read(strings.NewReader("ok  \ttarnwell/dispatch\t0.01s\n\nFAIL\n" + strings.Repeat("x", 200_000) + "\na.go:1: last, without a line end"))
	require.NoError(t, err)
	assert.Equal(t, 3, others)
	assert.Equal(t, []sweep.Listed{{Path: "a.go", Line: 1, Text: "last, without a line end"}}, got)
}

func FuzzReadingLists(f *testing.F) {
	f.Add("a.go:1:2: x\n")
	f.Add("  File \"a.py\", line 3\n\x1b[31mb.c(4,5): y")
	f.Add("a.go:99999999999999999999: z")
	f.Fuzz(func(t *testing.T, list string) {
		places, _, _, err := sweep.Read(strings.NewReader(list))
		require.NoError(t, err)
		for _, p := range places {
			if p.Line < 1 || p.Col < 0 || p.Path == "" {
				t.Fatalf("%q gives %+v", list, p)
			}
		}
	})
}

func TestAListOfMoreThanAnybodyWorksThrough(t *testing.T) {
	places, more, others, err := sweep.Read(strings.NewReader(strings.Repeat("a.go:1: x\n", sweep.Most+3) + "nothing\n"))
	require.NoError(t, err)
	assert.Len(t, places, sweep.Most)
	assert.Equal(t, []int{3, 1}, []int{more, others})
}
