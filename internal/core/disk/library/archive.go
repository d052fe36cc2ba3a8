package library

import (
	"archive/zip"
	"io"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/atomicfile"
)

// Archive is a packed file with sources in it.
type Archive struct {
	// File is its path. Name is the folder below the machine's cache into which it
	// is unpacked.
	File, Name string
	// Ending is that of the files in it that count.
	Ending string
	// Key is by which name a file in it is asked for, given its path there.
	Key func(inside string) string

	mu      sync.Mutex
	entries map[string]*zip.File
}

// largestEntry bounds what is unpacked of one source file, in bytes.
const largestEntry = 8 << 20

// Unpacked is the file of that name, which is unpacked when it is first asked
// for; "" if the archive has none.
func (a *Archive) Unpacked(m *Machine, name string) string {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.entries == nil {
		a.read()
	}
	entry := a.entries[name]
	if entry == nil || m.Cache == "" {
		return ""
	}
	target := filepath.Join(m.Cache, a.Name, filepath.FromSlash(name))
	if _, err := os.Stat(target); err != nil && unpack(entry, target) != nil {
		return ""
	}
	return filepath.ToSlash(target)
}

// Named are the files in it that have a name, whatever folder they are in, by the names by which they are asked for.
func (a *Archive) Named(base string) (all []string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.entries == nil {
		a.read()
	}
	for name := range a.entries {
		if path.Base(name) == base {
			all = append(all, name)
		}
	}
	slices.Sort(all)
	return all
}

// read lists the archive.
func (a *Archive) read() {
	a.entries = map[string]*zip.File{}
	r, err := zip.OpenReader(a.File) // stays open as long as the program runs
	if err != nil {
		return
	}
	for _, e := range r.File {
		if name := a.Key(e.Name); path.Ext(name) == a.Ending && a.entries[name] == nil && !strings.Contains(name, "..") {
			a.entries[name] = e
		}
	}
}

func unpack(entry *zip.File, target string) error {
	r, err := entry.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, largestEntry))
	if err != nil {
		return err
	}
	return atomicfile.Write(target, data, 0o444)
}
