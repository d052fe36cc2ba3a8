package system

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhetherAShellIsAround(t *testing.T) {
	for name, c := range map[string]struct {
		all  map[int]process
		want bool
	}{
		"from a shell":               {map[int]process{9: {5, 9, 5}, 5: {3, 5, 5}}, true},
		"by make, from a shell":      {map[int]process{9: {8, 8, 5}, 8: {5, 8, 5}, 5: {3, 5, 5}}, true},
		"by a terminal":              {map[int]process{9: {3, 9, 9}, 3: {1, 3, 1}}, false},
		"by a script of a terminal":  {map[int]process{9: {8, 8, 8}, 8: {3, 8, 8}, 3: {1, 3, 1}}, false},
		"by the init of a container": {map[int]process{9: {1, 9, 1}, 1: {0, 1, 1}}, false},
		"as that itself":             {map[int]process{9: {0, 9, 9}}, false},
		"its parent is not told of":  {map[int]process{9: {5, 9, 5}}, false},
	} {
		assert.Equal(t, c.want, shellAround(9, func(pid int) (process, bool) { p, ok := c.all[pid]; return p, ok }), name)
	}
}
