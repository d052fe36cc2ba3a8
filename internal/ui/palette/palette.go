// Package palette is the colours of the program, by what they say. Nothing is
// told by colour alone: bold, underline, words and marks say the same, so that
// a terminal with sixteen colours or none loses nothing.
package palette

import (
	"fmt"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/ui/ink"
)

// Palette gives every role its colour.
type Palette struct {
	Name string
	// The grounds: of the code, of the line the caret is on, of sheets, and of
	// the chosen row of a sheet.
	Ground, Present, Sheet, Chosen ink.Color
	Rule                           ink.Color

	Text, Quiet, Here, Way, Edit, Changed, Problem   ink.Color
	Keyword, String, Number, Comment, Type, Function ink.Color
}

// Peat is the palette for dark rooms.
var Peat = Palette{
	Name: "peat", Ground: ink.RGB(0x151a1b), Present: ink.RGB(0x1b2223), Sheet: ink.RGB(0x1d2425), Chosen: ink.RGB(0x2a3536), Rule: ink.RGB(0x33403f),
	Text: ink.RGB(0xd6dacf), Quiet: ink.RGB(0x95a099), Here: ink.RGB(0xe3b04b), Way: ink.RGB(0x7fc8b2), Edit: ink.RGB(0xcf9ac0),
	Changed: ink.RGB(0x9fc46c), Problem: ink.RGB(0xe08a66), Keyword: ink.RGB(0x93b4dc), String: ink.RGB(0xadc48a),
	Number: ink.RGB(0xdcae82), Comment: ink.RGB(0x829089), Type: ink.RGB(0xd9c793), Function: ink.RGB(0xece8d6),
}

// Chalk is the palette for bright rooms.
var Chalk = Palette{
	Name: "chalk", Ground: ink.RGB(0xf6f4ea), Present: ink.RGB(0xf0edde), Sheet: ink.RGB(0xebe8da), Chosen: ink.RGB(0xdfdbc6), Rule: ink.RGB(0xc9c5b2),
	Text: ink.RGB(0x2b302d), Quiet: ink.RGB(0x535c55), Here: ink.RGB(0x7a4c00), Way: ink.RGB(0x005f53), Edit: ink.RGB(0x833872),
	Changed: ink.RGB(0x3f6619), Problem: ink.RGB(0x9a3a16), Keyword: ink.RGB(0x2c5490), String: ink.RGB(0x47641a),
	Number: ink.RGB(0x834a19), Comment: ink.RGB(0x5a635c), Type: ink.RGB(0x665511), Function: ink.RGB(0x1d211f),
}

// Clear is for those who need more contrast: all text has at least 7 to 1, and no two roles differ only as
// red and green do.
var Clear = Palette{
	Name: "clear", Ground: ink.RGB(0x000000), Present: ink.RGB(0x161616), Sheet: ink.RGB(0x0c0c0c), Chosen: ink.RGB(0x2b2b2b), Rule: ink.RGB(0x8a8a8a),
	Text: ink.RGB(0xffffff), Quiet: ink.RGB(0xcccccc), Here: ink.RGB(0xffd75f), Way: ink.RGB(0x7fd4ff), Edit: ink.RGB(0xffb8e4),
	Changed: ink.RGB(0xa8e6d8), Problem: ink.RGB(0xffb080), Keyword: ink.RGB(0xa6ceff), String: ink.RGB(0xf0e08a),
	Number: ink.RGB(0xffc894), Comment: ink.RGB(0xc4c4c4), Type: ink.RGB(0xb4ecdf), Function: ink.RGB(0xffffff),
}

// Slate and Sand are for those to whom red and green look alike: the one for dark rooms, the other for bright ones.
// All that means something is told apart by them, as by everybody else.
var (
	Slate = Palette{
		Name: "slate", Ground: ink.RGB(0x14171c), Present: ink.RGB(0x1b1f26), Sheet: ink.RGB(0x1d222a), Chosen: ink.RGB(0x2b323d), Rule: ink.RGB(0x39424f),
		Text: ink.RGB(0xd7dadf), Quiet: ink.RGB(0x9ca5af), Here: ink.RGB(0xf2c14e), Way: ink.RGB(0x6fa6fc), Edit: ink.RGB(0xd6b7f2),
		Changed: ink.RGB(0x3fb8ad), Problem: ink.RGB(0xff714d), Keyword: ink.RGB(0x8ab4f0), String: ink.RGB(0xede078),
		Number: ink.RGB(0xf0a868), Comment: ink.RGB(0x9aa4b0), Type: ink.RGB(0xb9d3ea), Function: ink.RGB(0xf3efe2),
	}
	Sand = Palette{
		Name: "sand", Ground: ink.RGB(0xf5f4ef), Present: ink.RGB(0xeeecdf), Sheet: ink.RGB(0xeae8dc), Chosen: ink.RGB(0xdddac9), Rule: ink.RGB(0xc6c3b4),
		Text: ink.RGB(0x2a2d33), Quiet: ink.RGB(0x525a63), Here: ink.RGB(0x6f2806), Way: ink.RGB(0x056098), Edit: ink.RGB(0x43248c),
		Changed: ink.RGB(0x00636a), Problem: ink.RGB(0x984400), Keyword: ink.RGB(0x1f4f9e), String: ink.RGB(0x495610),
		Number: ink.RGB(0xaf1a19), Comment: ink.RGB(0x555c64), Type: ink.RGB(0x004d6c), Function: ink.RGB(0x17191d),
	}
)

// PeatOf256 and ChalkOf256 are the same for terminals with 256 colours, chosen by
// hand: the nearest of the 256 to a muted colour is often a gaudy one.
var (
	PeatOf256 = Palette{
		Name: "peat", Ground: ink.ANSI(233), Present: ink.ANSI(234), Sheet: ink.ANSI(235), Chosen: ink.ANSI(238), Rule: ink.ANSI(240),
		Text: ink.ANSI(253), Quiet: ink.ANSI(249), Here: ink.ANSI(179), Way: ink.ANSI(115), Edit: ink.ANSI(182),
		Changed: ink.ANSI(149), Problem: ink.ANSI(216), Keyword: ink.ANSI(110), String: ink.ANSI(144),
		Number: ink.ANSI(180), Comment: ink.ANSI(247), Type: ink.ANSI(187), Function: ink.ANSI(230),
	}
	ChalkOf256 = Palette{
		Name: "chalk", Ground: ink.ANSI(255), Present: ink.ANSI(254), Sheet: ink.ANSI(254), Chosen: ink.ANSI(230), Rule: ink.ANSI(249),
		Text: ink.ANSI(235), Quiet: ink.ANSI(238), Here: ink.ANSI(58), Way: ink.ANSI(23), Edit: ink.ANSI(53),
		Changed: ink.ANSI(22), Problem: ink.ANSI(88), Keyword: ink.ANSI(24), String: ink.ANSI(22),
		Number: ink.ANSI(52), Comment: ink.ANSI(240), Type: ink.ANSI(58), Function: ink.ANSI(233),
	}
)

// Sixteen is for terminals with sixteen colours, whose grounds are left as the
// user has set them.
var Sixteen = Palette{
	Name: "sixteen", Here: ink.ANSI(3), Way: ink.ANSI(6), Edit: ink.ANSI(5), Changed: ink.ANSI(2), Problem: ink.ANSI(1),
	Keyword: ink.ANSI(5), String: ink.ANSI(2), Type: ink.ANSI(6),
}

// SixteenOnLight is the same where the terminal's own ground is light, on which
// yellow cannot be read.
var SixteenOnLight = Palette{
	Name: "sixteen", Here: ink.ANSI(1), Way: ink.ANSI(4), Edit: ink.ANSI(5), Changed: ink.ANSI(2), Problem: ink.ANSI(1),
	Keyword: ink.ANSI(4), String: ink.ANSI(2), Type: ink.ANSI(5),
}

// Plain has no colours at all.
var Plain = Palette{Name: "plain"}

// ByName returns the palette of a name.
func ByName(name string) (Palette, error) {
	for _, p := range []Palette{Peat, Chalk, Clear, Slate, Sand, Sixteen, Plain} {
		if p.Name == name {
			return p, nil
		}
	}
	return Palette{}, fmt.Errorf("there is no palette %q; choose peat, chalk, clear, slate, sand, sixteen or plain", name)
}

// On is a style in one of the palette's colours on one of its grounds.
func On(fore, ground ink.Color) ink.Style { return ink.Style{Fore: fore, Back: ground} }

// Code is the style of a part of the code.
func (p *Palette) Code(role highlight.Role, ground ink.Color) ink.Style {
	switch role {
	case highlight.Keyword:
		return On(p.Keyword, ground)
	case highlight.String:
		return On(p.String, ground)
	case highlight.Number:
		return On(p.Number, ground)
	case highlight.Comment:
		return On(p.Comment, ground)
	case highlight.Type:
		return On(p.Type, ground)
	case highlight.Function:
		return On(p.Function, ground)
	case highlight.Defined:
		return On(p.Function, ground).Strong()
	}
	return On(p.Text, ground)
}

// Selected is the style of code that is selected.
func (p *Palette) Selected(s ink.Style) ink.Style {
	if p.Chosen == ink.None {
		s.Inverse = true
		return s
	}
	return s.On(p.Chosen)
}
