// Package library finds what lies outside of a project on this machine: where
// programs are installed, and with them the sources of libraries. It looks at
// what is there and runs nothing. Where a language keeps its libraries, the
// language knows.
package library

import (
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/disk/door"
)

// Machine is what lies around a project. It may be used by several goroutines.
type Machine struct {
	// Root is the absolute path of the project, Home that of the user's folder; ""
	// if there is none. Cache is where what lies in archives is unpacked; "" if that
	// is not to be done.
	Root, Home, Cache string
	// Folders are others in which the user says that libraries lie, by the names of languages.
	Folders map[string][]string
	// Builds say which build the user means, by the names of languages: its folder, and words of commands in it.
	Builds map[string][]string

	now func() time.Time

	mu    sync.Mutex
	asked time.Time       // when it was asked first for what is in there
	there map[string]bool // what was found out since
}

// fresh is how long it is taken for granted that what is there is still there, and
// what is not is not: nobody says when something was installed.
const fresh = 3 * time.Second

// New looks around the project at root.
func New(root, cache string) *Machine {
	home, _ := os.UserHomeDir() // without a home there is nothing in it
	return &Machine{Root: root, Cache: cache, Home: home, now: time.Now, there: map[string]bool{}}
}

// Of are the folders of the user's own in which libraries of a language lie, with their home written out.
func (m *Machine) Of(language string) (folders []string) {
	for name, all := range m.Folders {
		if !strings.EqualFold(name, language) {
			continue
		}
		for _, f := range all {
			if rest, ok := strings.CutPrefix(f, "~/"); ok {
				f = filepath.Join(m.Home, rest)
			}
			folders = append(folders, f)
		}
	}
	return folders
}

// Build is the folder of the build that the user means for a language, and words of the commands in it; "" where none is meant.
func (m *Machine) Build(language string) (folder string, words []string) {
	for name, said := range m.Builds {
		if strings.EqualFold(name, language) && len(said) > 0 {
			return said[0], said[1:]
		}
	}
	return "", nil
}

// Has says whether there is a file or a folder of that absolute path.
func (m *Machine) Has(p string) bool {
	now := m.now()
	m.mu.Lock()
	if now.Sub(m.asked) > fresh {
		m.asked = now
		clear(m.there)
	}
	has, known := m.there[p]
	m.mu.Unlock()
	if known {
		return has
	}
	_, err := os.Stat(filepath.FromSlash(p))
	m.mu.Lock()
	m.there[p] = err == nil
	m.mu.Unlock()
	return err == nil
}

// HasFile says whether there is a file, and no folder, of that absolute path.
func (m *Machine) HasFile(p string) bool { return m.Has(p) && !IsFolder(p) }

// Absolute is the absolute path of a file of the project.
func (m *Machine) Absolute(p string) string {
	if path.IsAbs(p) {
		return p
	}
	return path.Join(filepath.ToSlash(m.Root), p)
}

// Settings reads a small file that says something about the project or a
// library, by its absolute path.
func (m *Machine) Settings(p string) ([]byte, error) {
	return door.ReadSettings(m.Root, filepath.FromSlash(p))
}

// IsFolder says whether there is a folder of that path.
func IsFolder(p string) bool {
	info, err := os.Stat(p)
	return err == nil && info.IsDir()
}

// Installed is the folder above that of a program in the PATH, with links
// followed; "" if there is none.
func Installed(program string) string {
	p, err := exec.LookPath(program)
	if err != nil {
		return ""
	}
	if p, err = filepath.EvalSymlinks(p); err != nil {
		return ""
	}
	return filepath.Dir(filepath.Dir(p))
}

// Matching are the paths that patterns lead to, with slashes, in the order of
// the patterns; those of one pattern with the last name first, which mostly is
// the newest.
func Matching(patterns ...string) (paths []string) {
	for _, p := range patterns {
		found, _ := filepath.Glob(p) // the patterns are well formed
		slices.Sort(found)
		slices.Reverse(found)
		for _, f := range found {
			if f = filepath.ToSlash(f); !slices.Contains(paths, f) {
				paths = append(paths, f)
			}
		}
	}
	return paths
}

// Folders are those of the paths that patterns lead to which are folders.
func Folders(patterns ...string) []string {
	return slices.DeleteFunc(Matching(patterns...), func(p string) bool { return !IsFolder(p) })
}
