package workspace

import (
	"context"
	"errors"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
)

// Save writes a text to its file. Unless more was written meanwhile, the file counts again as it
// is on disk.
func (w *Workspace) Save(ctx context.Context, p string, doc *text.Document, how desk.Saving) (text.Stamp, error) {
	save := text.Save
	if how.InPlace {
		save = text.SaveInPlace
	}
	was := how.Was
	now, err := save(text.System{}, w.Code.Absolute(p), doc, was)
	if errors.Is(err, text.ErrChanged) && how.Base != nil {
		touched := w.Code.Stamp(p)
		if disk, loadErr := text.Load(w.Code.Absolute(p)); loadErr == nil && text.Same(disk, how.Base) {
			now, err = save(text.System{}, w.Code.Absolute(p), doc, touched)
		}
	}
	if err != nil {
		return was, err
	}
	w.Code.Settle(ctx, p, doc)
	return now, nil
}

// KnowRecovery keeps texts that are not saved in a folder, for after a crash.
func (w *Workspace) KnowRecovery(folder string) { w.recovery = recovery.NewStore(folder) }

// Recovery is where they are kept; nil if they are not.
func (w *Workspace) Recovery() *recovery.Store { return w.recovery }

// StyleOf is how a file is written: its comments by its language, its indentation
// by its text. languages say in what language it is.
func StyleOf(languages *lang.Set, p string, doc *text.Document) write.Style {
	var s write.Style
	signs := languages.Signs(p)
	if signs != nil {
		if len(signs.Line) > 0 {
			s.Line = signs.Line[0]
		}
		if len(signs.Block) > 0 {
			s.Open, s.Close = signs.Block[0][0], signs.Block[0][1]
		}
	}
	s.Indent = write.IndentOf(doc, signs != nil && signs.Tabs)
	return s
}
