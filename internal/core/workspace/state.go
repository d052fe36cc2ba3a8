package workspace

import (
	"reflect"

	"rooktrail/internal/core/keep/resume"
)

// KnowState begins as the program was left, as kept in a file. It is to be
// called before State; what goes wrong is told in the notes.
func (w *Workspace) KnowState(file string) {
	state, err := resume.Load(file)
	if err != nil {
		w.Code.Note(err.Error())
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	w.state, w.stateFile = state, file
}

// State is how the program is set in this project.
func (w *Workspace) State() resume.State {
	w.mu.Lock()
	defer w.mu.Unlock()
	return w.state
}

// SetState changes how the program is set, and keeps it.
func (w *Workspace) SetState(s resume.State) error {
	w.mu.Lock()
	was, file := w.state, w.stateFile
	w.state = s
	w.mu.Unlock()
	if file == "" || reflect.DeepEqual(was, s) {
		return nil
	}
	return resume.Save(file, s)
}
