package report_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/report"
)

func TestReadingLists(t *testing.T) {
	for _, c := range []struct {
		line string
		want report.Finding
	}{
		{"dispatch/roster.go:42:18: undefined: Crew", report.Finding{Path: "dispatch/roster.go", Line: 42, Col: 18, Text: "undefined: Crew"}},
		{"./dispatch/roster.go:42: declared and not used", report.Finding{Path: "./dispatch/roster.go", Line: 42, Text: "declared and not used"}},
		{"    roster_test.go:12: got 2, want 3", report.Finding{Path: "roster_test.go", Line: 12, Text: "got 2, want 3"}},
		{"  File \"risk/model.py\", line 33, in estimate", report.Finding{Path: "risk/model.py", Line: 33, Text: "in estimate"}},
		{"board/src/map.ts(12,5): error TS2304: Cannot find name 'hut'.", report.Finding{Path: "board/src/map.ts", Line: 12, Col: 5, Text: "error TS2304: Cannot find name 'hut'."}},
		{"board/src/map.ts:12:5 - error TS2304: nothing", report.Finding{Path: "board/src/map.ts", Line: 12, Col: 5, Text: "- error TS2304: nothing"}},
		{"gateway/Radio.java:9: error: ';' expected", report.Finding{Path: "gateway/Radio.java", Line: 9, Text: "error: ';' expected"}},
		{"[ERROR] /w/gateway/Radio.java:[9,14] ';' expected", report.Finding{Path: "/w/gateway/Radio.java", Line: 9, Col: 14, Text: "';' expected"}},
		{"   --> src/main.rs:3:5", report.Finding{Path: "src/main.rs", Line: 3, Col: 5}},
		{"\x1b[1mstation/sensor.c:7:2:\x1b[0m \x1b[31mwarning:\x1b[0m unused", report.Finding{Path: "station/sensor.c", Line: 7, Col: 2, Text: "warning: unused"}},
		{"\tat tarnwell.Radio.send(Radio.java:44)", report.Finding{Path: "Radio.java", Line: 44, Text: "at tarnwell.Radio.send"}},
		{"    at render (board/src/map.js:3:9)", report.Finding{Path: "board/src/map.js", Line: 3, Col: 9, Text: "at render"}},
		{"docs/my notes.md:4:1: a note", report.Finding{Path: "docs/my notes.md", Line: 4, Col: 1, Text: "a note"}},
		{"a.go:3:no blank", report.Finding{Path: "a.go", Line: 3, Text: "no blank"}},
	} {
		got, err := report.Read(strings.NewReader(c.line + "\n"))
		require.NoError(t, err)
		require.Len(t, got.Findings, 1, c.line)
		assert.Equal(t, c.want, got.Findings[0])
		assert.Zero(t, got.Others)
	}
	got, err := report.Read(strings.NewReader("ok  \ttarnwell/dispatch\t0.01s\n\nFAIL\n" + strings.Repeat("x", 200_000) + "\na.go:1: last, without a line end"))
	require.NoError(t, err)
	assert.Equal(t, 3, got.Others)
	assert.Equal(t, []report.Finding{{Path: "a.go", Line: 1, Text: "last, without a line end"}}, got.Findings)
}

func FuzzReading(f *testing.F) {
	f.Add("a.go:1:2: x\n")
	f.Add("  File \"a.py\", line 3\n\x1b[31mb.c(4,5): y")
	f.Add("a.go:99999999999999999999: z")
	f.Add(`{"version":"2.1.0","runs":[{"results":[{"message":{"text":"x"},"locations":[{"physicalLocation":{"artifactLocation":{"uri":"a.go"},"region":{"startLine":3}}}]}]}]}`)
	f.Add(`<testsuite><testcase name="a"><failure message="x">a.go:3: y</failure></testcase></testsuite>`)
	f.Add("TAP version 13\nnot ok 1 - a\n  ---\n  location: 'a.js:3:1'\n  ...\n1..1\n")
	f.Add(`{"Action":"output","Package":"a","Test":"T","Output":"a.go:3: x\n"}` + "\n" + `{"Action":"fail","Package":"a","Test":"T"}`)
	f.Fuzz(func(t *testing.T, list string) {
		got, err := report.Read(strings.NewReader(list))
		require.NoError(t, err)
		for _, p := range got.Findings {
			if p.Line < 1 || p.Col < 0 || p.Path == "" {
				t.Fatalf("%q gives %+v", list, p)
			}
		}
	})
}

func TestAListOfMoreThanAnybodyWorksThrough(t *testing.T) {
	got, err := report.Read(strings.NewReader(strings.Repeat("a.go:1: x\n", report.Most+3) + "nothing\n"))
	require.NoError(t, err)
	assert.Len(t, got.Findings, report.Most)
	assert.Equal(t, []int{3, 1}, []int{got.More, got.Others})
}
