// Package surface is what the program and whatever lies over, beside or under the code have to do
// with each other. A surface takes keys, draws rows and says what is to be done (Intent); what it
// wants to know that takes longer than a frame it asks for (Ask), and the answer comes back to it
// alone. It knows nothing of other surfaces.
package surface

import (
	"context"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Surface is what lies over the code and takes the keys.
type Surface interface {
	// Update takes a key, or what was pasted, and says what is to be done.
	Update(msg tea.Msg) Intent
	// Resize tells how many columns and lines there are at the most.
	Resize(width, height int)
	// Rows draws it.
	Rows(p *palette.Palette) []string
	// Cursor is where the caret stands in what one types, in cells from its upper left; ok is false
	// if nothing is typed.
	Cursor() (x, y int, ok bool)
	// Form is how much of the screen it takes.
	Form() Form
	// Busy says that keys are to be kept until what is under way is done.
	Busy() bool
	// Keys are its keys, and what to call it on the page of keys. It acts on no others, but for what
	// is typed.
	Keys() (name string, all []key.Binding)
	// Closed is called when it is no longer on the screen.
	Closed()
}

// Form is how much of the screen a surface takes.
type Form uint8

// The forms.
const (
	// Sheet lies over the upper part of the code.
	Sheet Form = iota
	// Tall is a sheet that leaves less of the code to see.
	Tall
	// Taller is a sheet that leaves hardly any of it.
	Taller
	// Whole takes all of the room of the code.
	Whole
	// Line is the line above the strip, where something is asked.
	Line
	// Seek is that line, while what is found shows in the code.
	Seek
)

// Short is a sheet that may take fewer lines than there are.
type Short interface {
	// Lines is how many it takes.
	Lines() int
}

// Size is for surfaces to be made of: it keeps how large they may be, and does what most do.
type Size struct{ Width, Height int }

// Resize implements Surface.
func (s *Size) Resize(width, height int) { s.Width, s.Height = width, height }

// Cursor implements Surface for what is not typed in.
func (s *Size) Cursor() (x, y int, ok bool) { return 0, 0, false }

// Form implements Surface.
func (s *Size) Form() Form { return Sheet }

// Busy implements Surface.
func (s *Size) Busy() bool { return false }

// Closed implements Surface.
func (s *Size) Closed() {}

// Host is the program around a surface.
type Host interface {
	// Here is what is on the screen, and where its caret is.
	Here() Here
	// Asker makes an asker for a surface.
	Asker(owner Surface) *Asker
	// Way is the asker of the one question that leads elsewhere: until it is answered, keys are kept,
	// since they are meant for the place one arrives at, and Esc gives it up.
	Way() *Asker
	// Clock writes times as the user has set it.
	Clock() *sheet.Clock
}

// Here is what is on the screen and where its caret is. While something else is only looked at, it
// is what was there before.
type Here struct {
	// File is nil if none is shown.
	File *codebase.File
	// View is how it stands on the screen; its path is "" if there is none.
	View trail.View
	// Offset is that of the caret, in bytes.
	Offset int
	// Selection is empty if nothing is selected.
	Selection place.Range
	// Aside says that what is on the screen is only looked at: beneath a surface, or in a leaf.
	Aside bool
	// Crumbs are the symbols around the caret, the outermost first.
	Crumbs []codebase.Crumb
}

// Word is the name under the caret, or the one that ends at it; "" if there is none.
func (h Here) Word() string {
	if h.File == nil {
		return ""
	}
	line, col := h.File.Text.Position(h.Offset)
	data := h.File.Text.Line(line)
	start, end := text.WordAround(data, min(col-1, len(data)))
	return string(data[start:end])
}

// Lack is the intent to say what the file that is shown does not have, or that none is shown.
func (h Here) Lack(words string) Intent {
	if h.View.Place.Path == "" {
		return Say("no file is shown; {scout} finds one")
	}
	return Say("%s", words)
}

// Walks makes guided walks of what there is.
type Walks interface {
	Start(make func(ctx context.Context) *walk.Walk) Intent
	Export(file string, make func(ctx context.Context) *walk.Walk) Intent
}

// Commands are what a surface does when it is asked to, whether it is open or not.
type Commands map[keymap.Action]func() Intent

// Standing is what a command would do just now.
type Standing struct {
	// On is what it would act on, in a few words; "" if that goes without saying.
	On string
	// Lack says why it cannot be done; "" if it can.
	Lack string
}

// Reopened is a surface with a list that can be shown again.
type Reopened interface {
	// Left is what brings the list back as it is now; nil if there is nothing to bring back.
	Left() *resume.Last
	// Again shows the list again that was left so.
	Again(last resume.Last) Intent
}

// Impatient is a surface that waits for something better, and takes what is there when Enter is
// pressed once more.
type Impatient interface {
	Now() Intent
}

// Keeper is who keeps places that are found again as the text of their file changes.
type Keeper interface {
	// In are the places in a file; nil if there are none.
	In(path string) Kept
}

// Kept are copies of the places of a keeper in one file.
type Kept interface {
	// Locate finds them in their file, beside the screen. was is the text that was edited to be what
	// the file is now; nil if it was not made of it here.
	Locate(ctx context.Context, was *text.Document, f *codebase.File)
	// Located takes over where they are now.
	Located() Intent
}
