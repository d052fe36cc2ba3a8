package workspace

import (
	"context"
	"os"
	"path"

	"rooktrail/internal/core/door"
	"rooktrail/internal/core/index"
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/library"
	"rooktrail/internal/core/project"
)

// KnowLibraries lets questions lead to the sources of libraries on this machine,
// outside the project; what lies in archives is unpacked into the folder cache.
// It is to be called before anything is asked.
func (w *Workspace) KnowLibraries(cache string) { w.machine = library.New(w.root, cache) }

// Machine implements lang.Project.
func (w *Workspace) Machine() *library.Machine { return w.machine }

// Languages implements resolve.Code.
func (w *Workspace) Languages() *lang.Set { return w.languages }

// Text implements lang.Project. What was read of a file is kept until the code
// changes.
func (w *Workspace) Text(p string) []byte {
	if u := w.unsaved.get(p); u != nil {
		return u.Text.Bytes()
	}
	w.mu.RLock()
	data, known := w.settings[p]
	generation := w.generation.Load()
	w.mu.RUnlock()
	if known {
		return data
	}
	var err error
	if path.IsAbs(p) {
		if w.machine == nil {
			return nil
		}
		data, err = w.machine.Settings(p)
	} else {
		data, err = door.ReadWithin(w.root, p, door.LargestSettings)
	}
	if err != nil {
		data = nil // what cannot be read says nothing
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	if generation == w.generation.Load() {
		if w.settings == nil {
			w.settings = map[string][]byte{}
		}
		w.settings[p] = data
	}
	return data
}

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
		if e.IsDir() || w.languages.Of(p) == nil || w.languages.IsTest(p) {
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
