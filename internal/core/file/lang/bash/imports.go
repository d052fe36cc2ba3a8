package bash

import (
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// imports finds the scripts that others read. A path may begin with what the
// shell alone knows, as in "$here/lib.sh"; what is behind that is looked for
// beside the script and in the folders above it.
type imports struct {
	lang.Flat
	project lang.Project
}

// Module implements lang.Imports.
func (i imports) Module(file string, imp facts.Imported) string {
	written := imp.Path
	if at := strings.LastIndexAny(written, "$`)}"); at >= 0 {
		_, rest, ok := strings.Cut(written[at:], "/")
		if !ok {
			return ""
		}
		written = rest
	}
	for dir := range lang.FoldersUp(file) {
		if p := path.Join(dir, written); p != file && i.project.Has(p) {
			return p
		}
	}
	return ""
}
