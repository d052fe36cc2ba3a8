package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
)

// What is wrong, and what would mend it, is kept with the record.
func TestFaultsAreKept(t *testing.T) {
	r := &check.Record{Head: check.Head{Folder: "hut"}, Files: []check.File{{Base: "hut.go", Faults: []check.Fault{
		{Start: 3, End: 5, By: "assign", Text: "self-assignment", Fixes: []check.Fix{{Title: "take it out", Edits: []check.FixEdit{{Start: 3, End: 9, New: "x"}, {Start: 20, End: 20}}}, {Title: "nothing"}}},
		{Start: 9, Text: "gone is not on this machine", Import: true},
	}}}}
	back, err := check.Decode(r.Encode())
	require.NoError(t, err)
	assert.Equal(t, r.Files[0].Faults, back.Files[0].Faults)
	for n := range r.Encode() {
		_, _ = check.Decode(r.Encode()[:n]) // what is cut off is an error, and no more than that
	}
}
