package surface

import (
	"context"
	"fmt"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/ui/keymap"
)

// Intent is what is to be done: by the program for a surface. The zero Intent is nothing. What is
// filled in is done in the order of the fields.
type Intent struct {
	// Say stands in the line above the strip until the next key.
	Say string
	// Wait is said, too, but only until one arrives.
	Wait string
	// Close takes the surface away and puts back what was on the screen before it.
	Close bool
	// Leave takes the surface away, to go on elsewhere; if nothing comes of that, what was there
	// before is put back.
	Leave bool
	// Stay takes the surface away and leaves the code as it is beneath.
	Stay bool
	// Uncover takes away what lies over a list, and brings that back; Press is a key that is then pressed there,
	// "" for none.
	Uncover bool
	Press   string
	// Open lays another surface over the code.
	Open Surface
	// LookBack shows beneath the surface what was there before it.
	LookBack bool
	// Look shows a place beneath the surface; the trail does not notice.
	Look *Visit
	// Go takes the surface away and goes to a place.
	Go *Visit
	// Quit leaves the program.
	Quit bool
	// Do carries out an action, "" for none; Named says that it was asked for by its name.
	Do    keymap.Action
	Named bool
	// Did is an action that was carried out by its key already, "" for none.
	Did keymap.Action
	// Steps are done one after the other, each as soon as one has arrived where the one before leads.
	Steps []Step
	// Copy goes to the clipboard.
	Copy *Copy
	// Edit hands a file to the user's editor, and Desktop to the program that the desktop has for it;
	// "" for none.
	Edit, Desktop string
	// Moved is a file or folder that has another path now.
	Moved filing.Moved
	// Follow is how the file on the screen is to stand now: the caret stays with its line.
	Follow *trail.View
	// Keep has it kept on disk how the program stands.
	Keep bool
	// Through says that other places are gone through from now on than those found in the file.
	Through bool
	// Caret says that the caret was moved, or what it stands in has changed.
	Caret bool
	// Slid says that other lines are in sight.
	Slid bool
	// Arrange says that the screen is divided in another way now.
	Arrange bool
	// Unkey says that keys that were pressed ahead are not to be done.
	Unkey bool
	// Folder is to be shown among the folders; "" for none.
	Folder string
	// Anew has the places that are kept looked for in the files on the screen, since there are others.
	Anew bool
	// Marked has the margins drawn anew, since places that are kept have changed.
	Marked bool
	// Cmd is work that was begun.
	Cmd tea.Cmd
	// Then says what is to be done when all this is done; nil for nothing.
	Then func() Intent
}

// Step is an action to be carried out, or else a key to be pressed.
type Step struct {
	Do    keymap.Action
	Press string
}

// Copy is a text for the clipboard, and what to call it.
type Copy struct{ Text, What string }

// And is what is to be done in one after the other: what both say counts as the later says it.
func (i Intent) And(j Intent) Intent {
	if j.Say != "" {
		i.Say = j.Say
	}
	if j.Wait != "" {
		i.Wait = j.Wait
	}
	if j.Open != nil {
		i.Open = j.Open
	}
	if j.Look != nil || j.LookBack {
		i.Look, i.LookBack = j.Look, j.LookBack
	}
	if j.Go != nil {
		i.Go = j.Go
	}
	if j.Do != "" {
		i.Do, i.Named = j.Do, j.Named
	}
	if j.Did != "" {
		i.Did = j.Did
	}
	i.Steps = append(i.Steps, j.Steps...)
	if j.Copy != nil {
		i.Copy = j.Copy
	}
	if j.Edit != "" {
		i.Edit = j.Edit
	}
	if j.Desktop != "" {
		i.Desktop = j.Desktop
	}
	if j.Follow != nil {
		i.Follow = j.Follow
	}
	if j.Moved.From != "" {
		i.Moved = j.Moved
	}
	if j.Folder != "" {
		i.Folder = j.Folder
	}
	i.Close, i.Leave, i.Keep, i.Quit = i.Close || j.Close, i.Leave || j.Leave, i.Keep || j.Keep, i.Quit || j.Quit
	i.Stay, i.Slid, i.Unkey = i.Stay || j.Stay, i.Slid || j.Slid, i.Unkey || j.Unkey
	i.Through = i.Through || j.Through
	i.Caret, i.Arrange = i.Caret || j.Caret, i.Arrange || j.Arrange
	i.Marked, i.Anew = i.Marked || j.Marked, i.Anew || j.Anew
	i.Cmd = tea.Batch(i.Cmd, j.Cmd)
	i.Then = both(i.Then, j.Then)
	return i
}

func both(a, b func() Intent) func() Intent {
	if a == nil || b == nil {
		if a == nil {
			return b
		}
		return a
	}
	return func() Intent { return a().And(b()) }
}

// Say is the intent to say something.
func Say(format string, args ...any) Intent {
	return Intent{Say: fmt.Sprintf(keymap.Marked(format), args...)}
}

// Around says that a question was about what the caret is in, or was before one went elsewhere.
func Around(around string, gone bool) string {
	if gone {
		return "of " + around + ", which the caret was in"
	}
	return "of " + around + ", which the caret is in"
}

// Begin is the intent that is nothing but work that was begun.
func Begin(cmd tea.Cmd) Intent { return Intent{Cmd: cmd} }

// Close is the intent to put everything back as it was.
func Close() Intent { return Intent{Close: true} }

// Go is the intent to go to a place.
func Go(v Visit) Intent { return Intent{Go: &v} }

// Look is the intent to show a place beneath.
func Look(v Visit) Intent { return Intent{Look: &v} }

// LookBack is the intent to show beneath what was there before.
func LookBack() Intent { return Intent{LookBack: true} }

// Visit is a place to go to, or to look at.
type Visit struct {
	Path string
	// Line and Col count from 1; 0 is the beginning.
	Line, Col int
	// Name is a name to go to and point out, in bytes.
	Name place.Range
	// Length is how many bytes at Line and Col to point out instead.
	Length int
	// How says how one came there, for the trail; Symbol is what one goes to.
	How, Symbol string
	// TextOf gives, beside the screen, what the file is shown to read instead of what it does; nil for that. Such a file
	// is only looked at.
	TextOf func(ctx context.Context) (*text.Document, error)
	// View is how to show it, instead of Line and Col; nil for the usual.
	View *trail.View
	// Memory is by what the place of View is found again; nil for none.
	Memory *place.Memory
	// Near says that a look at a name in the file that is there anyway scrolls no farther than it must.
	Near bool
	// Along moves on the trail, instead of making a stop; nil for nothing.
	Along func()
	// Lead takes the present stop along, if one came to it in the same way.
	Lead bool
	// Turn says that it goes to a view that is open, not to anything new.
	Turn bool
	// After is what to say when one is there; "" for nothing.
	After string
}

// To is the visit to a place of a list.
func To(a answer.Answer, how string) Visit {
	return Visit{Path: a.Path, Line: a.Line, Col: a.Col, Name: a.At, How: how, Symbol: a.Symbol}
}

// ToDefinition is the visit to a definition.
func ToDefinition(a answer.Answer) Visit { return To(a, "definition of "+a.Name) }

// SayError is the intent to say what went wrong; nothing if err is nil.
func SayError(err error) Intent {
	if err == nil {
		return Intent{}
	}
	return Say("%s", err)
}
