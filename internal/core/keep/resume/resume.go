// Package resume keeps how the program was set in a project when it was left,
// so that it begins as it ended. It lies in a small file in the user's data
// folder.
package resume

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"time"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
)

// State is how the program was set. The zero State is how it begins the first
// time.
type State struct {
	// Text is how the text of the files is searched.
	Text Text `json:"text"`
	// Screen is what was on it; nil if that is not known.
	Screen *Screen `json:"screen,omitempty"`
	// Folds are what was folded, by file.
	Folds map[string][]fold.Mark `json:"folds,omitempty"`
	// Last is the list that one saw last; nil if there was none.
	Last *Last `json:"last,omitempty"`
	// Commands are the command lines that were run, the latest first.
	Commands []Command `json:"commands,omitempty"`
}

// Command is a command line that was run.
type Command struct {
	// Line is the command line, Dir the folder in which it was run, from the root of the project.
	Line string `json:"line"`
	Dir  string `json:"dir"`
	// Begun is when it was, Took how long it took, Outcome what became of it, in a few words.
	Begun   time.Time     `json:"begun"`
	Took    time.Duration `json:"took"`
	Outcome string        `json:"outcome"`
}

// Screen is what was on the screen.
type Screen struct {
	// Sides are where code was shown, as they divided the screen; Present is the
	// number of the side with the caret, counted from 0.
	Sides   Sides `json:"sides"`
	Present int   `json:"present"`
	// Closed are the views that were closed, the latest last.
	Closed []View `json:"closed,omitempty"`
	// Quiet hides everything but the code, Full all sides but the present one;
	// Outline shows the outline beside the code.
	Quiet   bool `json:"quiet,omitempty"`
	Full    bool `json:"full,omitempty"`
	Outline bool `json:"outline,omitempty"`
	// Signpost is how much of the signpost is shown: "" for all of it, else "narrow" or
	// "line".
	Signpost string `json:"signpost,omitempty"`
	// Column is the width of what stands beside the code, in cells; 0 if it was
	// not chosen.
	Column int `json:"column,omitempty"`
}

// Sides is one side with its open files, or a division into two.
type Sides struct {
	Parts   []Sides `json:"parts,omitempty"` // none or two
	Stacked bool    `json:"stacked,omitempty"`
	Share   float64 `json:"share,omitempty"`
	// Views are the files open in a side; Shown is the number of the one on the
	// screen, counted from 0.
	Views []View `json:"views,omitempty"`
	Shown int    `json:"shown,omitempty"`
}

// View is an open file: where the caret was, and the first line and column that
// were shown.
type View struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Col  int    `json:"col"`
	Top  int    `json:"top"`
	Left int    `json:"left,omitempty"`
}

// Text are the toggles of the search in texts.
type Text struct {
	Word   bool `json:"word"`
	Case   bool `json:"case"`
	Regexp bool `json:"regexp"`
}

// State is how the file stood on the screen.
func (v View) State() trail.View {
	return trail.View{Place: place.Place{Path: v.Path, Line: v.Line, Col: v.Col}, Top: v.Top, Left: v.Left}
}

// Load reads a state; one that is not there is the zero State. With an error,
// too, the State is good to go on with.
func Load(file string) (State, error) {
	var s State
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return s, nil
	}
	if err == nil {
		err = json.Unmarshal(data, &s)
	}
	if err != nil {
		return State{}, fmt.Errorf("reading how the program was set from %s: %w", file, err)
	}
	return s, nil
}

// Save keeps a state in place of the one before.
func Save(file string, s State) error {
	data, err := json.MarshalIndent(s, "", " ")
	if err == nil {
		err = atomicfile.Write(file, data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping how the program is set: %w", err)
	}
	return nil
}
