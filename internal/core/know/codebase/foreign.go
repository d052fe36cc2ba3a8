package codebase

import (
	"path/filepath"
	"slices"
	"strings"
)

// isForeign says whether a file is not the project's own: it lies outside of it, also by way of a
// link, or in a folder into which something was installed, or in that of git. Such a file is not to be changed by
// mistake. It asks the disk.
func (b *Base) isForeign(p string) bool {
	if b.IsOutside(p) || b.languages.IsInstalled(p) || slices.Contains(strings.Split(p, "/"), ".git") {
		return true
	}
	abs := b.Absolute(p)
	real, err := filepath.EvalSymlinks(abs)
	if err != nil {
		if real, err = filepath.EvalSymlinks(filepath.Dir(abs)); err != nil {
			return false // it is not there, and cannot be changed
		}
	}
	root, err := filepath.EvalSymlinks(b.root)
	if err != nil {
		root = b.root
	}
	return real != root && !strings.HasPrefix(real, strings.TrimSuffix(root, "/")+"/")
}
