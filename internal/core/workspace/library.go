package workspace

import (
	"context"
	"os"
	"path"

	"rooktrail/internal/core/index"
	"rooktrail/internal/core/library"
	"rooktrail/internal/core/project"
)

// KnowLibraries lets questions lead to the sources of libraries on this machine,
// outside the project; what lies in archives is unpacked into the folder cache.
// It is to be called before anything is asked.
func (w *Workspace) KnowLibraries(cache string) { w.library = library.New(w.root, cache) }

// Library implements resolve.Code.
func (w *Workspace) Library() *library.Finder { return w.library }

// NamedIn implements resolve.Code. The files of a folder outside the project are
// read when it is first asked about.
func (w *Workspace) NamedIn(folder, name string) []index.Symbol {
	w.mu.Lock()
	symbols := w.outside[folder]
	if symbols == nil {
		symbols = &outsideFolder{}
		w.outside[folder] = symbols
	}
	w.mu.Unlock()
	symbols.once.Do(func() { w.readOutside(folder, symbols) })
	return symbols.index.Named(name)
}

// readOutside takes in the symbols of the files in a folder outside.
func (w *Workspace) readOutside(folder string, symbols *outsideFolder) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return // then nothing is known of it
	}
	for _, e := range entries {
		p := path.Join(folder, e.Name())
		if e.IsDir() || w.languages.Of(p) == nil || IsTest(p) {
			continue
		}
		if f, err := w.Load(context.Background(), p); err == nil && f.Facts != nil {
			_ = symbols.index.Put(p, index.Summarise(f.Text.Bytes(), f.Facts)) // it was made just now, so it is sound
		}
	}
}

// IsOutside says whether a path, as the project writes it, leads out of it.
func (w *Workspace) IsOutside(p string) bool {
	return path.IsAbs(project.Relative(w.root, p)) && path.IsAbs(p)
}
