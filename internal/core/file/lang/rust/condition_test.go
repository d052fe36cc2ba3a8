package rust

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestConditions(t *testing.T) {
	for condition, holds := range map[string]bool{
		`(unix)`: true, `(windows)`: false, `(test)`: false, `(not(test))`: true, `(feature = "std")`: true,
		`(target_os = "linux")`: true, `(target_os = "macos")`: false,
		`(all(unix, target_pointer_width = "64"))`: true, `(all(unix, windows))`: false,
		`(any(windows, target_arch = "x86_64",))`: true, `(any())`: false, `(all())`: true,
		`(not(any(miri, loom)))`: true, `(`: true, ``: true, `(any(windows`: false,
	} {
		assert.Equal(t, holds, builtWith(condition), condition)
	}
}
