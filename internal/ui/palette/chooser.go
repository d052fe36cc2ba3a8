package palette

import (
	"github.com/charmbracelet/colorprofile"
)

// Chooser chooses the palette that suits the terminal, unless one was asked for.
type Chooser struct {
	use   Palette
	light bool
	fixed bool
	asked bool                 // by name, when the program was started
	own   map[string]string    // colours of the user's own
	can   colorprofile.Profile // what the terminal can show
}

// Fix takes a palette by name; "" leaves the choice open.
func (c *Chooser) Fix(name string) error {
	c.use = Peat
	if name == "" {
		return nil
	}
	p, err := ByName(name)
	c.use, c.fixed, c.asked = p, true, true
	return err
}

// Prefer takes what the user has set: a palette by its name, "auto" for one that suits the terminal, and
// colours of their own in it. A palette that was asked for when the program was started stays.
func (c *Chooser) Prefer(name string, own map[string]string) {
	c.own = own
	if !c.asked {
		c.fixed = false
		if p, err := ByName(name); err == nil {
			c.use, c.fixed = p, true
		}
	}
	c.choose()
}

func (c *Chooser) choose() {
	asked := c.use.Name
	if !c.fixed {
		asked = Peat.Name
		if c.light {
			asked = Chalk.Name
		}
		switch {
		case c.can == colorprofile.ANSI:
			asked = Sixteen.Name
		case c.can != 0 && c.can < colorprofile.ANSI:
			asked = Plain.Name
		}
	}
	c.use = c.named(asked).with(c.own)
}

// named is the palette of a name in the form that the terminal can show.
func (c *Chooser) named(name string) Palette {
	few := c.can == colorprofile.ANSI256
	for _, p := range []Palette{PeatOf256, ChalkOf256} {
		if few && p.Name == name {
			return p
		}
	}
	p, err := ByName(name)
	switch {
	case err != nil:
		return Peat
	case name == Sixteen.Name && c.light:
		return SixteenOnLight
	}
	return p
}

// Profile takes in what the terminal can show.
func (c *Chooser) Profile(p colorprofile.Profile) {
	c.can = p
	c.choose()
}

// Dark takes in whether the terminal's own ground is dark.
func (c *Chooser) Dark(dark bool) {
	c.light = !dark
	c.choose()
}

// Toggle goes from the dark to the light palette or back, and names it.
func (c *Chooser) Toggle() string {
	name := Peat.Name
	if other, is := map[string]string{Peat.Name: Chalk.Name, Slate.Name: Sand.Name, Sand.Name: Slate.Name}[c.use.Name]; is {
		name = other
	}
	c.use, c.fixed = c.named(name).with(c.own), true
	return name
}

// Use is the palette in use.
func (c *Chooser) Use() *Palette { return &c.use }
