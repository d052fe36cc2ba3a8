package palette

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/ui/ink"
)

// Roles are the names of the colours of a palette, as one writes them in the settings.
func Roles() []string {
	var p Palette
	var names []string
	for _, r := range p.roles() {
		names = append(names, r.name)
	}
	return names
}

// role is a colour of a palette by its name; ground says that it lies beneath the others.
type role struct {
	name   string
	color  *ink.Color
	ground bool
}

func (p *Palette) roles() []role {
	return []role{
		{"ground", &p.Ground, true}, {"present", &p.Present, true}, {"sheet", &p.Sheet, true}, {"chosen", &p.Chosen, true}, {"rule", &p.Rule, false},
		{"text", &p.Text, false}, {"quiet", &p.Quiet, false}, {"here", &p.Here, false}, {"way", &p.Way, false}, {"edit", &p.Edit, false},
		{"changed", &p.Changed, false}, {"problem", &p.Problem, false}, {"keyword", &p.Keyword, false}, {"string", &p.String, false},
		{"number", &p.Number, false}, {"comment", &p.Comment, false}, {"type", &p.Type, false}, {"function", &p.Function, false},
	}
}

// with is the palette with colours of the user's own, by role: "#d6dacf", or a number of the 256 of
// terminals. What is no colour or no role changes nothing.
func (p Palette) with(own map[string]string) Palette {
	for _, r := range p.roles() {
		if c, ok := colorOf(own[r.name]); ok {
			*r.color = c
		}
	}
	return p
}

func colorOf(s string) (c ink.Color, ok bool) {
	if hex, is := strings.CutPrefix(s, "#"); is {
		n, err := strconv.ParseUint(hex, 16, 24)
		return ink.RGB(uint32(n)), err == nil && len(hex) == 6
	}
	n, err := strconv.ParseUint(s, 10, 8)
	return ink.ANSI(uint8(n)), err == nil
}

// Warnings say which of the user's own colours are none of the palette's, and which can hardly be read on
// its grounds: text needs a contrast of 4.5 to 1.
func (c *Chooser) Warnings() (all []string) {
	known := Roles()
	for name := range c.own {
		if !slices.Contains(known, name) {
			all = append(all, fmt.Sprintf("look.colors: there is no colour %q; they are %s", name, strings.Join(known, ", ")))
		}
	}
	p := c.use
	for _, r := range p.roles() {
		if r.ground || r.name == "rule" || c.own[r.name] == "" && c.own["ground"] == "" && c.own["sheet"] == "" {
			continue
		}
		for _, g := range []role{{name: "ground", color: &p.Ground}, {name: "sheet", color: &p.Sheet}} {
			if ratio, ok := ink.Contrast(*r.color, *g.color); ok && ratio < leastContrast && (c.own[r.name] != "" || c.own[g.name] != "") {
				all = append(all, fmt.Sprintf("look.colors: %s on %s has a contrast of %.1f to 1; below %.1f it is hard to read", r.name, g.name, ratio, leastContrast))
			}
		}
	}
	slices.Sort(all)
	return all
}

const leastContrast = 4.5
