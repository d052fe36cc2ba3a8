package palette_test

import (
	"testing"

	"github.com/charmbracelet/colorprofile"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/palette"
)

func TestPalettes(t *testing.T) {
	var c palette.Chooser
	require.NoError(t, c.Fix(""))
	for _, step := range []struct {
		profile colorprofile.Profile
		dark    bool
		want    string
	}{
		{colorprofile.TrueColor, true, "peat"}, {colorprofile.TrueColor, false, "chalk"}, {colorprofile.ANSI256, false, "chalk"},
		{colorprofile.ANSI, true, "sixteen"}, {colorprofile.ASCII, true, "plain"},
	} {
		c.Profile(step.profile)
		c.Dark(step.dark)
		assert.Equal(t, step.want, c.Use().Name)
	}
	c.Profile(colorprofile.TrueColor)
	assert.Equal(t, "chalk", c.Toggle())
	c.Dark(true)
	assert.Equal(t, "chalk", c.Use().Name, "what was asked for stays")
	assert.Error(t, c.Fix("granite"))
}
