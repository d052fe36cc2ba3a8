package draw

import "fmt"

// Color is one of red, green and blue, each of eight bits.
type Color uint32

func (c Color) String() string { return fmt.Sprintf("#%06x", uint32(c)) }

func (c Color) parts() (r, g, b int) { return int(c >> 16 & 255), int(c >> 8 & 255), int(c & 255) }

// Theme are the colours of a drawing in a file.
type Theme struct {
	Ground, Box, Band, Rule, Text, Quiet, Here, Link, Edit, Marked Color
	// Series are those of the parts of a bar.
	Series []Color
}

// Light and Dark are the themes, in the colours of the program.
var (
	Light = Theme{
		Ground: 0xf6f4ea, Box: 0xfffdf4, Band: 0xebe8da, Rule: 0xc9c5b2, Text: 0x2b302d, Quiet: 0x5c655e, Here: 0x8a5a00, Link: 0x00695c,
		Edit: 0x8a3f78, Marked: 0xa8401a, Series: []Color{0x00695c, 0x8c501c, 0x2c5490, 0x8a3f78, 0x4d6a1c, 0x6d5b12},
	}
	Dark = Theme{
		Ground: 0x151a1b, Box: 0x1d2425, Band: 0x1a2021, Rule: 0x33403f, Text: 0xd6dacf, Quiet: 0x8f9a93, Here: 0xe3b04b, Link: 0x7fc8b2,
		Edit: 0xcf9ac0, Marked: 0xe08a66, Series: []Color{0x7fc8b2, 0xdcae82, 0x93b4dc, 0xcf9ac0, 0xadc48a, 0xd9c793},
	}
)

// of is the colour of a box's frame or a line.
func (t *Theme) of(l Look) Color {
	switch l {
	case Present:
		return t.Here
	case Marked:
		return t.Marked
	case Edited:
		return t.Edit
	case Faint:
		return t.Rule
	}
	return t.Quiet
}
