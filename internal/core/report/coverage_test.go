package report_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/report"
)

func TestReadingCoverage(t *testing.T) {
	for _, c := range []struct {
		name, text, form string
		want             map[string]map[int]int
	}{
		{"go", "mode: count\ntarnwell/a.go:3.20,5.10 2 4\ntarnwell/a.go:5.10,7.2 1 0\nnonsense\ntarnwell/a.go:x.1,2.2 1 1\n", "a cover profile of Go",
			map[string]map[int]int{"tarnwell/a.go": {3: 4, 4: 4, 5: 4, 6: 0}}},
		{"lcov", "TN:\nSF:/w/map.js\nDA:1,2\nDA:2,0\nDA:x,1\nend_of_record\nDA:9,9\n", "LCOV", map[string]map[int]int{"/w/map.js": {1: 2, 2: 0}}},
		{"cobertura", `<?xml version="1.0"?><coverage><sources><source>/w/risk</source></sources><packages><package><classes>
			<class filename="slope.py"><methods/><lines><line number="1" hits="1"/><line number="4" hits="0"/></lines></class></classes></package></packages></coverage>`,
			"Cobertura XML", map[string]map[int]int{"/w/risk/slope.py": {1: 1, 4: 0}}},
	} {
		got, err := report.ReadCoverage(strings.NewReader(c.text))
		require.NoError(t, err, c.name)
		assert.Equal(t, c.form, got.Form)
		assert.Equal(t, c.want, got.Files, c.name)
		assert.Empty(t, got.Broken)
	}
	got, err := report.ReadCoverage(strings.NewReader(`<coverage><class filename="a.py"><line number="1" hits="1"/>`))
	require.NoError(t, err)
	assert.Equal(t, "it ends in the middle", got.Broken)
	for text, why := range map[string]string{"hello": "no report of coverage", "mode: set\n": "no line is in it", "<testsuite/>": "<testsuite>", "": "no report"} {
		_, err := report.ReadCoverage(strings.NewReader(text))
		assert.ErrorContains(t, err, why)
	}
}

func FuzzReadingCoverage(f *testing.F) {
	f.Add("mode: set\na.go:1.2,3.4 1 0\n")
	f.Add("SF:a.js\nDA:1,2\n")
	f.Add(`<coverage><class filename="a.py"><line number="1" hits="0"/></class></coverage>`)
	f.Fuzz(func(t *testing.T, text string) {
		got, err := report.ReadCoverage(strings.NewReader(text))
		if err != nil {
			return
		}
		for file, lines := range got.Files {
			for n := range lines {
				if n < 1 {
					t.Fatalf("%q has line %d in %q", text, n, file)
				}
			}
		}
	})
}
