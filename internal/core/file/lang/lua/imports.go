package lua

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// imports finds the files of modules in the folder of the file that needs them
// and in all above it.
type imports struct {
	lang.Flat
	project lang.Project
}

// Module implements lang.Imports.
func (i imports) Module(file string, imp facts.Imported) string {
	rel := strings.ReplaceAll(imp.Path, ".", "/")
	for dir := range lang.FoldersUp(file) {
		for _, below := range []string{"", "lua", "src", "lib"} {
			for _, end := range []string{".lua", "/init.lua"} {
				if p := path.Join(dir, below, rel+end); i.project.Has(p) {
					return p
				}
			}
		}
	}
	return ""
}

// returned is how a module gives a table to those who need it.
var returned = regexp.MustCompile(`return[ \t]+([A-Za-z_]\w*)[ \t;]*$`)

// given is the name of the table that a module gives, in its last line that says
// something.
func given(text []byte) string {
	text = bytes.TrimSpace(text)
	if m := returned.FindSubmatch(text[bytes.LastIndexByte(text, '\n')+1:]); m != nil {
		return string(m[1])
	}
	return ""
}
