package work_test

import (
	"context"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/work"
)

func TestWaitForAll(t *testing.T) {
	var g work.Group
	var n atomic.Int32
	for range 20 {
		g.Go(func() { n.Add(1) })
	}
	g.Wait()
	assert.EqualValues(t, 20, n.Load())
	assert.Nil(t, g.End())
}

// The failure of one reaches whoever waits, and stops the others.
func TestFailureReachesTheOwner(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	g := work.Group{Failed: func(*work.Panic) { cancel() }}
	g.Go(func() { <-ctx.Done() })
	g.Go(func() { lostRope() })
	failed := work.Try(g.Wait)
	require.NotNil(t, failed)
	assert.Equal(t, "the rope is lost", failed.Error())
	assert.Contains(t, string(failed.Stack), "lostRope", "the report says where it was, not where it was waited for")
	assert.Same(t, failed, g.End())
}

func lostRope() { panic("the rope is lost") }

func TestAPauseEndsWithItsContext(t *testing.T) {
	assert.True(t, work.Pause(t.Context(), time.Microsecond))
	ctx, end := context.WithCancel(t.Context())
	end()
	assert.False(t, work.Pause(ctx, time.Hour))
}
