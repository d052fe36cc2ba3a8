package report_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"
	"testing/iotest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/report"
)

func read(t *testing.T, s string) *report.Report {
	t.Helper()
	got, err := report.Read(strings.NewReader(s))
	require.NoError(t, err)
	return got
}

const sarifReport = `{"$schema":"https://example.org/sarif-2.1.0.json","version":"2.1.0","runs":[{
  "artifacts":[{"location":{"uri":"a.go"},"contents":{"text":"left {[\" out"}}],
  "originalUriBaseIds":{"SRC":{"uri":"dispatch/","uriBaseId":"ROOT"},"ROOT":{"uri":"file:///w/"}},
  "results":[
   {"ruleId":"unused","level":"warning","message":{"text":"crew is not used"},
    "locations":[{"physicalLocation":{"artifactLocation":{"uri":"ro%20ster.go","uriBaseId":"SRC"},"region":{"startLine":4,"startColumn":2,"endColumn":6}}}],
    "fixes":[{"description":{"text":"take it out"},"artifactChanges":[{"artifactLocation":{"uri":"board/map.ts"},"replacements":[{"deletedRegion":{"startLine":4,"startColumn":2,"endLine":5,"endColumn":1},"insertedContent":{"text":"x"}}]}]}]},
   {"message":{"text":"let be"},"suppressions":[{"kind":"inSource"}],"locations":[{"physicalLocation":{"artifactLocation":{"uri":"a.go"}}}]},
   {"message":{"text":"all of it"},"locations":[{"physicalLocation":{"artifactLocation":{"uri":"a.go"}}}]}],
  "columnKind":"utf16CodeUnits","tool":{"driver":{"name":"ridge"}}}]}`

func TestReadingSARIF(t *testing.T) {
	got := read(t, sarifReport)
	assert.Equal(t, report.SARIF, got.Form)
	assert.Empty(t, got.Broken)
	assert.Equal(t, report.UTF16, got.Columns)
	assert.Equal(t, []report.Finding{
		{Path: "/w/dispatch/ro ster.go", Line: 4, Col: 2, EndLine: 4, EndCol: 6, Text: "crew is not used", By: "ridge", Rule: "unused",
			Fixes: []report.Fix{{Title: "take it out", Edits: []report.Edit{{Path: "board/map.ts", Line: 4, Col: 2, EndLine: 5, EndCol: 1, Text: "x"}}}}},
		{Path: "a.go", Line: 1, Col: 1, Text: "all of it", By: "ridge"},
	}, got.Findings)
}

// What the program writes, it reads.
func TestReadingItsOwnReport(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, problem.WriteSARIF(&out, []problem.Problem{{Path: "a b.go", Line: 3, Col: 2, EndLine: 3, EndCol: 5, Kind: problem.Name, Text: "nothing defines crew"}}))
	got := read(t, out.String())
	require.Len(t, got.Findings, 1)
	assert.Equal(t, report.CodePoints, got.Columns)
	assert.Equal(t, "a b.go", got.Findings[0].Path)
	assert.Equal(t, "nothing defines crew", got.Findings[0].Text)
}

func TestReadingJUnit(t *testing.T) {
	got := read(t, `<?xml version="1.0" encoding="ISO-8859-1"?>
<testsuites><testsuite name="risk"><properties><property name="x"/></properties>
<testcase classname="tests.test_model.TestSlope" name="test_steep[h`+"\xfc"+`tte]" time="0.25"/>
<testcase classname="tests.test_model" name="test_flat" file="tests/test_model.py" line="3"><failure message="assert 2 == 3">def test_flat():
&gt;       assert 2 == 3
tests/test_model.py:12: AssertionError</failure></testcase>
<testcase name="test_later"><skipped message="not yet"/></testcase>
</testsuite></testsuites>`)
	assert.Equal(t, report.JUnit, got.Form)
	assert.Empty(t, got.Broken)
	require.Len(t, got.Results, 3)
	assert.Equal(t, report.Result{Suite: "tests.test_model.TestSlope", Name: []string{"test_steep[hütte]"}, Outcome: report.Passed, Took: 250 * time.Millisecond}, got.Results[0])
	failed := got.Results[1]
	assert.Equal(t, []any{report.Failed, "tests/test_model.py", 3, 12}, []any{failed.Outcome, failed.File, failed.Line, failed.Places[0].Line})
	assert.Contains(t, failed.Text, "assert 2 == 3")
	assert.Equal(t, "assert 2 == 3", failed.Why())
	assert.Equal(t, []any{report.Skipped, "risk", "not yet"}, []any{got.Results[2].Outcome, got.Results[2].Suite, got.Results[2].Text})
}

func TestReadingTAP(t *testing.T) {
	got := read(t, `TAP version 13
# Subtest: roster
    # Subtest: assigns
    ok 1 - assigns
      ---
      duration_ms: 1.5
      type: 'test'
      ...
    # Subtest: refuses
    not ok 2 - refuses
      ---
      duration_ms: 2
      location: '/w/board/roster.test.js:9:3'
      error: |-
        Expected values to be strictly equal
      expected: 2
      actual: 3
      stack: |-
        TestContext.<anonymous> (file:///w/board/roster.test.js:11:12)
      ...
    1..2
not ok 1 - roster
ok 2 - later # SKIP no snow
1..2
`)
	assert.Equal(t, report.TAP, got.Form)
	var names []string
	for _, r := range got.Results {
		names = append(names, r.Title()+" "+string(r.Outcome))
	}
	assert.Equal(t, []string{"roster › assigns passed", "roster › refuses failed", "roster failed", "later skipped"}, names)
	failed := got.Results[1]
	assert.Equal(t, []any{"/w/board/roster.test.js", 9}, []any{failed.File, failed.Line})
	assert.Contains(t, failed.Text, "expected: 2\nactual: 3")
	assert.Equal(t, "Expected values to be strictly equal (expected 2, got 3)", failed.Why())
	assert.Equal(t, 11, failed.Places[len(failed.Places)-1].Line)
}

func TestReadingGoTests(t *testing.T) {
	got := read(t, `{"Action":"start","Package":"tarnwell/dispatch"}
{"Action":"output","Package":"tarnwell/dispatch","Test":"TestAssign/none","Output":"=== RUN   TestAssign/none\n"}
{"Action":"output","Package":"tarnwell/dispatch","Test":"TestAssign/none","Output":"    roster_test.go:12: got 2, want 3\n"}
{"Action":"output","Package":"tarnwell/dispatch","Test":"TestAssign/none","Output":"--- FAIL: TestAssign/none (0.00s)\n"}
{"Action":"fail","Package":"tarnwell/dispatch","Test":"TestAssign/none","Elapsed":0.5}
{"Action":"pass","Package":"tarnwell/dispatch","Test":"TestFree","Elapsed":0}
{"Action":"output","Package":"tarnwell/dispatch","Test":"TestPanics","Output":"\t/w/dispatch/desk.go:7 +0x1d\n"}
{"Action":"fail","Package":"tarnwell/dispatch"}
# tarnwell/relay
{"ImportPath":"tarnwell/relay","Action":"build-output","Output":"relay/radio.go:3:2: undefined: Crew\n"}
{"ImportPath":"tarnwell/relay","Action":"build-fail"}
`)
	assert.Equal(t, report.GoTest, got.Form)
	require.Len(t, got.Results, 3)
	first := got.Results[0]
	assert.Equal(t, []any{"TestAssign › none", report.Failed, "roster_test.go:12: got 2, want 3", 12, "tarnwell/dispatch"},
		[]any{first.Title(), first.Outcome, first.Text, first.Places[0].Line, first.Places[0].In})
	assert.Equal(t, "got 2, want 3", first.Why())
	assert.Equal(t, report.Passed, got.Results[1].Outcome)
	assert.Equal(t, []any{report.Failed, 7}, []any{got.Results[2].Outcome, got.Results[2].Places[0].Line}, "it never ended")
	assert.Equal(t, []report.Finding{{Path: "relay/radio.go", In: "tarnwell/relay", Line: 3, Col: 2, Text: "undefined: Crew", By: "go"}}, got.Findings)
}

// A report that is cut off, or wrong, says so, and what could be read of it is there.
func TestBrokenReports(t *testing.T) {
	cut := sarifReport[:strings.Index(sarifReport, `{"message":{"text":"all of it"`)]
	got := read(t, cut)
	assert.Len(t, got.Findings, 1)
	assert.Equal(t, "it ends in the middle", got.Broken)
	got = read(t, `<testsuite><testcase name="a"/><testcase name="b"><failure>`)
	assert.Len(t, got.Results, 1)
	assert.Equal(t, "it ends in the middle", got.Broken)
	assert.Contains(t, read(t, `{"version":"2.1.0","runs":{"a":1}}`).Broken, "stands where")
	assert.Contains(t, read(t, `<coverage/>`).Broken, "<coverage>")
	assert.Contains(t, read(t, `<testsuite><testcase name="&nope;"/></testsuite>`).Broken, "entity")
	assert.Equal(t, "the tests were given up: no snow", read(t, "1..3\nok 1 - a\nBail out! no snow\n").Broken)
	assert.Equal(t, report.Lines, read(t, "").Form)
	_, err := report.Read(iotest.ErrReader(errors.New("no disk")))
	assert.ErrorContains(t, err, "no disk")
}

// A line of many megabytes takes no more memory than its beginning.
func TestALineWithoutEnd(t *testing.T) {
	got := read(t, "a.go:1: "+strings.Repeat("x", 10<<20)+"\nb.go:2: y\n")
	require.Len(t, got.Findings, 2)
	assert.Less(t, len(got.Findings[0].Text), 100<<10)
	assert.Equal(t, "b.go", got.Findings[1].Path)
}
