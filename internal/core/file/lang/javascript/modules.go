package javascript

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// modulesFolder is where packages are installed.
const modulesFolder = "node_modules"

// imports finds the files of modules: by their paths, by the settings of the
// project, among what is installed.
type imports struct {
	lang.Flat
	project  lang.Project
	settings lang.Settings[*settings]
}

// Imports finds what the scripts of a page import.
func Imports(p lang.Project) lang.Imports {
	return &imports{project: p}
}

// endings are tried, in this order, behind the path of a module.
var endings = []string{"", ".ts", ".tsx", ".d.ts", ".js", ".jsx", ".mjs", ".cjs", ".mts", ".cts",
	"/index.ts", "/index.tsx", "/index.d.ts", "/index.js", "/index.jsx", "/index.mjs"}

// modules are the endings of files that are modules.
var modules = []string{".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".mts", ".cts", ".json", ".vue", ".svelte"}

// Module implements lang.Imports.
func (i *imports) Module(file string, imp facts.Imported) string {
	if strings.HasPrefix(imp.Path, ".") {
		return i.file(path.Join(path.Dir(file), imp.Path))
	}
	if !path.IsAbs(file) {
		for _, at := range i.paths(file, imp.Path) {
			if p := i.file(at); p != "" {
				return p
			}
		}
	}
	if m := i.project.Machine(); m != nil {
		return installed(m, file, imp.Path)
	}
	return ""
}

// file is that of a module whose path may lack its ending.
func (i *imports) file(at string) string {
	for _, end := range endings {
		if p := at + end; slices.Contains(modules, path.Ext(p)) && i.project.Has(p) {
			return p
		}
	}
	// TypeScript is imported under the name that its output will have.
	if stem, ok := strings.CutSuffix(at, ".js"); ok {
		for _, end := range []string{".ts", ".tsx", ".d.ts"} {
			if i.project.Has(stem + end) {
				return stem + end
			}
		}
	}
	// A sheet, a picture or data may be imported as it is, perhaps with a word on how behind it.
	if at, _, _ = strings.Cut(at, "?"); path.Ext(at) != "" && i.project.Has(at) {
		return at
	}
	return ""
}

// given is the name of what a module is as a whole, as export = Hut says.
func given(text []byte) string {
	i := bytes.Index(text, []byte("export = "))
	if i < 0 || i > 0 && text[i-1] != '\n' {
		return ""
	}
	rest := text[i+len("export = "):]
	end := bytes.IndexAny(rest, ";\r\n")
	if end < 0 {
		end = len(rest)
	}
	return string(bytes.TrimSpace(rest[:end]))
}
