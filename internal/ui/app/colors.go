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
	can   colorprofile.Profile // what the terminal can show
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
	asked := c.use.Name
	if !c.fixed {
		asked = palette.Peat.Name
		if c.light {
			asked = palette.Chalk.Name
		}
		switch {
		case c.can == colorprofile.ANSI:
			asked = palette.Sixteen.Name
		case c.can != 0 && c.can < colorprofile.ANSI:
			asked = palette.Plain.Name
		}
	}
	c.use = c.named(asked)
}

// named is the palette of a name in the form that the terminal can show.
func (c *colors) named(name string) palette.Palette {
	few := c.can == colorprofile.ANSI256
	for _, p := range []palette.Palette{palette.PeatOf256, palette.ChalkOf256} {
		if few && p.Name == name {
			return p
		}
	}
	p, err := palette.ByName(name)
	switch {
	case err != nil:
		return palette.Peat
	case name == palette.Sixteen.Name && c.light:
		return palette.SixteenOnLight
	}
	return p
}

// profile takes in what the terminal can show.
func (c *colors) profile(p colorprofile.Profile) {
	c.can = p
	c.choose()
}

// dark takes in whether the terminal's own ground is dark.
func (c *colors) dark(dark bool) {
	c.light = !dark
	c.choose()
}

// toggle goes from the dark to the light palette or back, and names it.
func (c *colors) toggle() string {
	name := palette.Peat.Name
	if c.use.Name == name {
		name = palette.Chalk.Name
	}
	c.use, c.fixed = c.named(name), true
	return name
}
