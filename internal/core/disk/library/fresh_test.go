package library

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is installed while the program runs is noticed.
func TestWhatIsInstalledMeanwhile(t *testing.T) {
	m := New(t.TempDir(), "")
	now := time.Now()
	m.now = func() time.Time { return now }
	p := filepath.ToSlash(filepath.Join(m.Root, "snow"))
	assert.False(t, m.Has(p))
	require.NoError(t, os.Mkdir(p, 0o755))
	assert.False(t, m.Has(p), "the disk is not asked again and again")
	now = now.Add(fresh + time.Second)
	assert.True(t, m.Has(p))
	require.NoError(t, os.Remove(p))
	now = now.Add(fresh + time.Second)
	assert.False(t, m.Has(p))
}
