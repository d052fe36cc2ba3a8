// Package resume keeps how the program was set in a project when it was left,
// so that it begins as it ended. It lies in a small file in the user's data
// folder.
package resume

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"github.com/google/renameio/v2"
)

// State is how the program was set. The zero State is how it begins the first
// time.
type State struct {
	// Text is how the text of the files is searched.
	Text Text `json:"text"`
}

// Text are the toggles of the search in texts.
type Text struct {
	Word   bool `json:"word"`
	Case   bool `json:"case"`
	Regexp bool `json:"regexp"`
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
		err = os.MkdirAll(filepath.Dir(file), 0o700)
	}
	if err == nil {
		err = renameio.WriteFile(file, data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping how the program is set: %w", err)
	}
	return nil
}
