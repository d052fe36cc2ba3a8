package branches

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
)

func TestSqueezed(t *testing.T) {
	line, at := squeezed("teams   []Team\t // all", place.Range{Start: 8, End: 14})
	assert.Equal(t, "teams []Team // all", line)
	assert.Equal(t, "[]Team", line[at.Start:at.End])
	line, at = squeezed("", place.Range{})
	assert.Equal(t, []any{"", place.Range{}}, []any{line, at})
}
