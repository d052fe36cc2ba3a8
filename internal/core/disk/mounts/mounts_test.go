package mounts

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatIsNotThereIsNotRemote(t *testing.T) {
	assert.False(t, Remote("/nowhere/at/all"))
}
