package workspace

import (
	"rooktrail/internal/core/change/history"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
)

// KnowHistory keeps what can be undone, and what was copied, in a folder.
func (w *Workspace) KnowHistory(folder string) { w.history = history.NewStore(folder) }

// KeepHistory keeps what was done to the text of a file, which is on disk as it is now.
func (w *Workspace) KeepHistory(p string, doc *text.Document, h *write.History) error {
	if w.history == nil {
		return nil
	}
	return w.history.Keep(p, doc, h)
}

// History is what was done to the text of a file, if that is still as it was left; nil if that is
// not known.
func (w *Workspace) History(p string, doc *text.Document) *write.History {
	if w.history == nil || !doc.Whole() || doc.Binary() {
		return nil
	}
	return w.history.Find(p, doc)
}

// KeepCopies keeps what was cut or copied, the latest first; Copies gives it back.
func (w *Workspace) KeepCopies(all []string) error {
	if w.history == nil {
		return nil
	}
	return w.history.KeepCopies(all)
}

// Copies are what was cut or copied, the latest first.
func (w *Workspace) Copies() []string {
	if w.history == nil {
		return nil
	}
	return w.history.Copies()
}
