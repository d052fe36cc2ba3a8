package surface_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// Work is done in its order, one piece at a time, and goes on after one that fails.
func TestOneAfterTheOther(t *testing.T) {
	host := &uitest.Host{}
	q := surface.NewQueue(host.Asker(nil))
	var did []string
	first := q.Add(func() error { did = append(did, "a"); return errors.New("no space") })
	assert.Nil(t, q.Add(func() error { did = append(did, "b"); return nil }), "it waits for the first")
	assert.Empty(t, did)
	said := uitest.Last(uitest.Carry(surface.Begin(first)))
	assert.Equal(t, []string{"a", "b"}, did)
	assert.Equal(t, "no space", said.Say)
	uitest.Carry(surface.Begin(q.Add(func() error { did = append(did, "c"); return nil })))
	assert.Equal(t, []string{"a", "b", "c"}, did)
}
