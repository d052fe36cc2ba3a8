package workspace

import (
	"path/filepath"
	"strings"
)

// installed are the folders in which the tools of a language put what others have written, and
// the one in which git keeps its own files.
var installed = map[string]bool{"node_modules": true, "site-packages": true, "dist-packages": true, ".git": true}

// IsForeign says whether a file is not the project's own: it lies outside of it, also by way of a
// link, or in a folder into which something was installed. Such a file is not to be changed by
// mistake. It asks the disk.
func (w *Workspace) IsForeign(p string) bool {
	if w.IsOutside(p) {
		return true
	}
	for part := range strings.SplitSeq(p, "/") {
		if installed[part] {
			return true
		}
	}
	abs := w.Absolute(p)
	real, err := filepath.EvalSymlinks(abs)
	if err != nil {
		if real, err = filepath.EvalSymlinks(filepath.Dir(abs)); err != nil {
			return false // it is not there, and cannot be changed
		}
	}
	root, err := filepath.EvalSymlinks(w.root)
	if err != nil {
		root = w.root
	}
	return real != root && !strings.HasPrefix(real, strings.TrimSuffix(root, "/")+"/")
}
