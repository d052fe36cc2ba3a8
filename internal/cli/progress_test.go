package cli

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Who stops a question while the project is read for it, is told that the work was not in vain.
func TestStoppedWhileReading(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	ws, err := openProject(ctx, sample(t))
	t.Cleanup(func() { assert.NoError(t, ws.Code.Close()) })
	assert.ErrorIs(t, err, errStoppedReading)
}

func TestBar(t *testing.T) {
	for _, c := range []struct {
		part, whole int
		want        string
	}{
		{0, 0, "····················"},
		{0, 7, "····················"},
		{1, 2, "■■■■■■■■■■··········"},
		{7, 7, "■■■■■■■■■■■■■■■■■■■■"},
	} {
		assert.Equal(t, c.want, bar(c.part, c.whole))
	}
}
