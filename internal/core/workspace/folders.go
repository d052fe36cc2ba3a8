package workspace

import (
	"cmp"
	"context"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/know/project"
)

// KnowTrash says where deleted files go: a folder laid out as desktops do it.
// Without one nothing can be deleted. It is to be called before anything else.
func (w *Workspace) KnowTrash(folder string) { w.filing = filing.New(w.Code.Root(), folder) }

// Entry is a file or folder as it is on disk.
type Entry struct {
	Name, Path string
	Folder     bool
	// Ignored says that it is no part of the project.
	Ignored bool
	// Note says what else it is, such as a link; mostly "".
	Note string
}

// Browse lists what is in a folder, folders first, ignored things included.
func (w *Workspace) Browse(folder string) ([]Entry, error) {
	list, err := os.ReadDir(w.Code.Absolute(folder))
	if err != nil {
		return nil, fmt.Errorf("looking into %s: %w", folder, project.WithoutPath(err))
	}
	all := make([]Entry, 0, len(list))
	for _, e := range list {
		if e.Name() == ".git" {
			continue
		}
		p := path.Join(folder, e.Name())
		entry := Entry{Name: e.Name(), Path: p, Folder: e.IsDir(), Ignored: !w.Code.Has(p)}
		switch t := e.Type(); {
		case t&fs.ModeSymlink != 0:
			target, err := os.Readlink(w.Code.Absolute(p))
			if err != nil {
				target = "nothing"
			}
			entry.Note = "link to " + target
			if info, err := os.Stat(w.Code.Absolute(p)); err == nil {
				entry.Folder = info.IsDir()
			}
		case !t.IsDir() && !t.IsRegular():
			entry.Note = "no file to read"
		}
		if entry.Folder && entry.Ignored { // an empty folder is not ignored
			entry.Ignored = !w.empty(p)
		}
		all = append(all, entry)
	}
	slices.SortStableFunc(all, func(a, b Entry) int {
		if a.Folder != b.Folder {
			return map[bool]int{true: -1, false: 1}[a.Folder]
		}
		return cmp.Or(cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), cmp.Compare(a.Name, b.Name))
	})
	return all, nil
}

func (w *Workspace) empty(folder string) bool {
	f, err := os.Open(w.Code.Absolute(folder))
	if err != nil {
		return false
	}
	defer f.Close()
	names, _ := f.Readdirnames(1)
	return len(names) == 0
}

// Below counts the files below a folder, ignored ones included, and how many of
// them differ from the last commit. It stops counting at most, an honest "at
// least" from there on.
func (w *Workspace) Below(ctx context.Context, folder string, most int) (files, changed int) {
	differing, _ := w.Code.Differing(ctx)
	_ = filepath.WalkDir(w.Code.Absolute(folder), func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() { // what cannot be read is not counted
			files++
			if differing[w.Code.Relative(p)] {
				changed++
			}
		}
		if files >= most || ctx.Err() != nil {
			return fs.SkipAll
		}
		return nil
	})
	return files, changed
}

// Create makes an empty file, or a folder if the path ends with a slash.
func (w *Workspace) Create(ctx context.Context, p string) (string, error) {
	rel, err := w.filing.Create(p)
	w.filed(ctx, err)
	return rel, err
}

// Move proposes to give a file or folder another path, with all that refers to it; see rename.Renamer.
func (w *Workspace) Move(ctx context.Context, from, to string) (*proposal.Proposal, error) {
	return w.Changes.Move(ctx, from, to)
}

// Rename gives a file or folder another path in the project.
func (w *Workspace) Rename(ctx context.Context, from, to string) (string, error) {
	rel, err := w.filing.Rename(from, to)
	w.filed(ctx, err)
	return rel, err
}

// Delete moves a file or folder to the trash.
func (w *Workspace) Delete(ctx context.Context, p string) error {
	err := w.filing.Delete(p)
	w.filed(ctx, err)
	return err
}

// Undo takes back the latest of these; see filing.Filing.
func (w *Workspace) Undo(ctx context.Context) (did string, moved filing.Moved, err error) {
	did, moved, err = w.filing.Undo()
	w.filed(ctx, err)
	return did, moved, err
}

// filed takes in that files have come, gone or moved.
func (w *Workspace) filed(ctx context.Context, err error) {
	if err != nil {
		return
	}
	w.Code.ForgetChanges()
	w.Code.Refresh(ctx)
}
