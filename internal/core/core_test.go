// Package core_test checks a rule that holds for all of the core.
package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The core is computation; whatever knows of terminals belongs to the screens.
func TestCoreKnowsNoTerminal(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "./...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		for _, forbidden := range []string{"charm.land/", "charmbracelet/", "rooktrail/internal/ui", "rooktrail/internal/cli", "golang.org/x/term", "spf13/cobra"} {
			assert.NotContains(t, p, forbidden)
		}
	}
}
