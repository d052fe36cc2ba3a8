package c

import (
	"path"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// imports finds headers: beside the file that includes them, in a folder above,
// in one of the folders where headers are kept, or else the nearest of that path
// anywhere in the project; then among those of the system.
type imports struct {
	lang.Flat
	project lang.Project
	build   *build
	system  *system
}

// system are the headers of the system, as they were found.
type system struct {
	mu         sync.Mutex
	generation int // of the code; what was found holds as long as that is the same
	folders    []string
	found      map[string]string // by how they are included
}

// Module implements lang.Imports.
func (i imports) Module(file string, imp facts.Imported) string {
	included := imp.Path
	if at := path.Join(path.Dir(file), included); !path.IsAbs(file) && !strings.HasPrefix(at, "..") && i.project.Has(at) {
		return at
	}
	if !path.IsAbs(file) {
		if at := i.build.of(file).header(i.project, included); at != "" {
			return at
		}
	}
	for dir := range lang.FoldersUp(file) {
		for _, sub := range []string{"", "include", "src", "inc"} {
			if p := path.Join(dir, sub, included); !path.IsAbs(p) && !strings.HasPrefix(p, "..") && i.project.Has(p) {
				return p
			}
		}
	}
	best := ""
	for _, p := range i.project.FilesNamed(path.Base(included)) {
		if !strings.HasSuffix("/"+p, "/"+strings.TrimLeft(path.Clean(included), "./")) {
			continue
		}
		if best == "" || place.Distance(file, p) < place.Distance(file, best) {
			best = p
		}
	}
	m := i.project.Machine()
	if best != "" || m == nil {
		return best
	}
	if p := path.Join(path.Dir(file), included); path.IsAbs(file) && i.project.Has(p) {
		return p
	}
	return i.system.of(i.project, included)
}

// headerFolders are where the headers of the system lie.
var headerFolders = []string{"/usr/local/include", "/usr/include", "/usr/include/*-linux-*", "/usr/lib/gcc/*/*/include", "/usr/include/c++/*",
	"/opt/homebrew/include", "/Library/Developer/CommandLineTools/SDKs/MacOSX.sdk/usr/include"}

// of is the file of a header of the system; "" if it is not there. What was found is not looked for again until the code changes.
func (s *system) of(p lang.Project, included string) string {
	m, generation := p.Machine(), p.Generation()
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.found == nil || s.generation != generation {
		s.generation, s.found = generation, map[string]string{}
		s.folders = library.Matching(append(append(m.Of("C"), m.Of("C++")...), headerFolders...)...)
	}
	found, known := s.found[included]
	if known {
		return found
	}
	for _, dir := range s.folders {
		if at := path.Join(dir, included); m.HasFile(at) {
			found = at
			break
		}
	}
	s.found[included] = found
	return found
}
