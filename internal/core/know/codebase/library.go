package codebase

import (
	"context"
	"io/fs"
	"os"
	"path"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
)

// KnowLibraries lets questions lead to the sources of libraries on this machine,
// outside the project; what lies in archives is unpacked into the folder cache.
// It is to be called before anything is asked.
func (b *Base) KnowLibraries(cache string) { b.machine = library.New(b.root, cache) }

// KnowFolders tells where else libraries lie, and which builds are meant (see library.Machine.Builds), by the names of languages;
// after KnowLibraries, and before anything is asked.
func (b *Base) KnowFolders(folders, builds map[string][]string) {
	b.machine.Folders, b.machine.Builds = folders, builds
}

// NameLanguages has files whose names match patterns be in languages, by the names of those. It is to be called
// before anything is read. It says which languages there are not.
func (b *Base) NameLanguages(byPattern map[string]string) (problems []string) {
	b.languages, problems = b.languages.With(byPattern)
	b.checks = b.newChecks()
	return problems
}

// Machine implements lang.Project.
func (b *Base) Machine() *library.Machine { return b.machine }

// Languages implements resolve.Code.
func (b *Base) Languages() *lang.Set { return b.languages }

// Disk implements lang.Project.
func (b *Base) Disk() fs.FS { return door.Below(b.root) }

// Text implements lang.Project. What was read of a file is kept until files change on
// disk.
func (b *Base) Text(p string) []byte {
	if u := b.unsaved.get(p); u != nil {
		return u.Text.Bytes()
	}
	b.mu.RLock()
	data, known := b.settings[p]
	said := b.said
	b.mu.RUnlock()
	if known {
		return data
	}
	var err error
	if path.IsAbs(p) {
		if b.machine == nil {
			return nil
		}
		data, err = b.machine.Settings(p)
	} else {
		data, err = door.ReadWithin(b.root, p, door.LargestSettings)
	}
	if err != nil {
		data = nil // what cannot be read says nothing
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if said == b.said {
		if b.settings == nil {
			b.settings = map[string][]byte{}
		}
		b.settings[p] = data
	}
	return data
}

// forgetSettings has the files read again that say something about the project, also
// those that are being read just now. It is called with the lock held.
func (b *Base) forgetSettings() {
	b.settings = nil
	b.said++
}

// NamedIn implements resolve.Code. The files of a folder outside the project are
// read when it is first asked about.
func (b *Base) NamedIn(folder, name string) []index.Symbol {
	b.mu.Lock()
	symbols := b.outside[folder]
	if symbols == nil {
		symbols = &outsideFolder{}
		b.outside[folder] = symbols
	}
	b.mu.Unlock()
	symbols.once.Do(func() { b.readOutside(folder, symbols) })
	return symbols.index.Named(name)
}

// readOutside takes in the symbols of the files in a folder outside. That is for all questions
// to come, so it does not end with the one that asked first.
func (b *Base) readOutside(folder string, symbols *outsideFolder) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return // then nothing is known of it
	}
	for _, e := range entries {
		p := path.Join(folder, e.Name())
		if e.IsDir() || b.languages.Of(p) == nil || b.languages.IsTest(p) {
			continue
		}
		if f, err := b.Load(context.Background(), p); err == nil && f.Facts != nil {
			_ = symbols.index.Put(p, index.Summarise(f.Text.Bytes(), f.Facts)) // it was made just now, so it is sound
		}
	}
}

// IsOutside says whether a path, as the project writes it, leads out of it.
func (b *Base) IsOutside(p string) bool {
	return path.IsAbs(project.Relative(b.root, p)) && path.IsAbs(p)
}
