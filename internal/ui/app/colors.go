package app

import (
	"github.com/charmbracelet/colorprofile"

	"rooktrail/internal/ui/palette"
)

// colors chooses the palette that suits the terminal, unless one was asked for.
type colors struct {
	use   palette.Palette
	light bool
	fixed bool
	few   colorprofile.Profile // what the terminal can do, if less than 256 colours
}

// fix takes a palette by name; "" leaves the choice open.
func (c *colors) fix(name string) error {
	c.use = palette.Peat
	if name == "" {
		return nil
	}
	p, err := palette.ByName(name)
	c.use, c.fixed = p, true
	return err
}

func (c *colors) choose() {
	switch {
	case c.fixed:
	case c.few == colorprofile.ANSI:
		c.use = palette.Sixteen
	case c.few != 0:
		c.use = palette.Plain
	case c.light:
		c.use = palette.Chalk
	default:
		c.use = palette.Peat
	}
}

// profile takes in what the terminal can show.
func (c *colors) profile(p colorprofile.Profile) {
	c.few = 0
	if p < colorprofile.ANSI256 {
		c.few = p
	}
	c.choose()
}

// dark takes in whether the terminal's own ground is dark.
func (c *colors) dark(dark bool) {
	c.light = !dark
	c.choose()
}

// toggle goes from the dark to the light palette or back, and names it.
func (c *colors) toggle() string {
	c.fixed = true
	if c.use.Name == palette.Peat.Name {
		c.use = palette.Chalk
	} else {
		c.use = palette.Peat
	}
	return c.use.Name
}
