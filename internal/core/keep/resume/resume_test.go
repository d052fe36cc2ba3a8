package resume_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/resume"
)

func TestItBeginsAsItEnded(t *testing.T) {
	file := filepath.Join(t.TempDir(), "in", "state.json")
	s, err := resume.Load(file)
	require.NoError(t, err)
	assert.Zero(t, s)
	s.Text.Word = true
	require.NoError(t, resume.Save(file, s))
	again, err := resume.Load(file)
	require.NoError(t, err)
	assert.Equal(t, s, again)
	require.NoError(t, os.WriteFile(file, []byte("{"), 0o600))
	again, err = resume.Load(file)
	require.ErrorContains(t, err, "reading how the program was set")
	assert.Zero(t, again)
	assert.ErrorContains(t, resume.Save(filepath.Join(file, "below a file"), s), "keeping how the program is set")
}
