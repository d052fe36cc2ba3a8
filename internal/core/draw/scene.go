// Package draw lays out drawings of boxes, lines between them and groups around them, and writes them: in characters, as
// SVG and PDF, and as text, Markdown, DOT and JSON.
//
// A Scene says what is to be drawn. Lay makes a Picture of it, in cells, of which one is as wide as a letter and as high
// as a line. All that is written comes from the same picture.
package draw

import (
	"strconv"

	"rooktrail/internal/core/file/place"
)

// Scene is what is to be drawn.
type Scene struct {
	Title string
	// Notes are said below it, such as what was left out, and how to get it.
	Notes []string
	// Down says that it goes from top to bottom; else it goes from left to right.
	Down  bool
	Boxes []Box
	Lines []Line
	// Groups are bands along which boxes stand, in this order; none if there are no groups.
	Groups []string
	// Floors are titles of layers, by their numbers from 0, for scenes whose layers mean something.
	Floors map[int]string
	// Legend tells what the looks of lines and boxes mean, as far as they occur.
	Legend []Meaning
}

// Meaning is an entry of a legend.
type Meaning struct {
	Look  Look
	Line  bool // of a line, else of a box
	Words string
}

// Look is how a box or line looks; what it means, the scene says.
type Look uint8

// Looks. Each differs by more than colour.
const (
	Usual    Look = iota
	Present       // what was asked about
	Marked        // what is to be seen, such as what goes in a circle, or is new
	Faint         // what is there besides, such as what belongs to a library
	Indirect      // what is not said outright, such as a call through an interface
	Edited        // where something was changed
)

// Box is one thing in a scene.
type Box struct {
	// ID tells it from all others, and is the same when the scene is made again.
	ID string
	// Kind says in a word what it is, Name what it is called, Where in short where it is.
	Kind, Name, Where string
	// Details are further lines, which stand in it where there is room.
	Details []string
	Look    Look
	// Badge is a short remark behind its name.
	Badge string
	// Group is the one it stands in, by its number in the scene; -1 for none.
	Group int
	// Layer is the layer in which it has to stand, counted from 0; -1 if that follows from the lines.
	Layer int
	// Place is where it leads to; its path is "" if it leads nowhere. Symbol is what is there, as it is called on the trail.
	Place  place.Place
	Symbol string
	// Hidden is how many boxes could be shown behind it; -1 if there are some, and it is not known how many.
	Hidden int
	// Open says that what is behind it is shown.
	Open bool
}

// At is the place of a box as it is written, or "".
func (b *Box) At() string {
	switch {
	case b.Place.Path == "":
		return ""
	case b.Place.Line == 0:
		return b.Place.Path
	}
	return b.Place.Path + ":" + strconv.Itoa(b.Place.Line)
}

// Line leads from one box to another.
type Line struct {
	From, To int
	Look     Look
	// Label is a word or two on it; "" for none.
	Label string
}
