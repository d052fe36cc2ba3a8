package java

import (
	"os"
	"path/filepath"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// imports finds the sources of Java's own library. What is in the project is
// found by the packages its files say.
type imports struct {
	lang.Flat
	project lang.Project

	once    sync.Once
	sources *library.Archive // nil if there is none on this machine
}

// Module implements lang.Imports.
func (*imports) Module(string, facts.Imported) string { return "" }

// Type implements lang.Imports.
func (i *imports) Type(pkg, name string) string {
	m := i.project.Machine()
	if m == nil || m.Cache == "" || pkg == "" {
		return ""
	}
	i.once.Do(func() { i.look(m) })
	if i.sources == nil {
		return ""
	}
	return i.sources.Unpacked(m, strings.ReplaceAll(pkg, ".", "/")+"/"+name+".java")
}

// look finds the source archive of a development kit.
func (i *imports) look(m *library.Machine) {
	var patterns []string
	for _, home := range append(m.Of("Java"), os.Getenv("JAVA_HOME"), library.Installed("java")) {
		if home != "" {
			patterns = append(patterns, filepath.Join(home, "lib", "src.zip"), filepath.Join(home, "src.zip"))
		}
	}
	patterns = append(patterns, "/usr/lib/jvm/*/lib/src.zip", "/usr/lib/jvm/*/src.zip", "/Library/Java/JavaVirtualMachines/*/Contents/Home/lib/src.zip",
		filepath.Join(m.Home, ".sdkman/candidates/java/*/lib/src.zip"))
	for _, p := range library.Matching(patterns...) {
		if file, err := filepath.EvalSymlinks(p); err == nil {
			kit := strings.TrimSuffix(filepath.Dir(file), string(filepath.Separator)+"lib")
			i.sources = &library.Archive{File: file, Name: filepath.Base(kit), Ending: ".java", Key: withoutModule}
			return
		}
	}
}

// withoutModule takes the module off the path of a file, with which it begins in
// newer kits.
func withoutModule(inside string) string {
	if module, rest, ok := strings.Cut(inside, "/"); ok && strings.Contains(module, ".") {
		return rest
	}
	return inside
}
