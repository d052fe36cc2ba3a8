package rust

import (
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"golang.org/x/mod/semver"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/lang"
)

// ownFolders are where the sources of Rust's own crates lie, as its installers and
// systems put them.
func ownFolders(m *library.Machine) []string {
	patterns := []string{filepath.Join(m.Home, ".rustup/toolchains/*/lib/rustlib/src/rust/library"), "/usr/lib/rustlib/src/rust/library", "/usr/src/rustc-*/library"}
	if home := os.Getenv("RUSTUP_HOME"); home != "" {
		patterns = append([]string{filepath.Join(home, "toolchains/*/lib/rustlib/src/rust/library")}, patterns...)
	}
	if base := library.Installed("rustc"); base != "" {
		patterns = append([]string{filepath.Join(base, "lib/rustlib/src/rust/library")}, patterns...)
	}
	return library.Folders(patterns...)
}

// installedFolders are those in which the sources of other crates lie, each in
// one named after it and its version.
func installedFolders(m *library.Machine) []string {
	home := os.Getenv("CARGO_HOME")
	if home == "" {
		home = filepath.Join(m.Home, ".cargo")
	}
	return library.Folders(append(m.Of("Rust"), filepath.Join(m.Root, "vendor"), filepath.Join(home, "registry/src/*"), "/usr/share/cargo/registry")...)
}

// onMachine is the file with which a crate begins that a file names: one of Rust's
// own, or one that was fetched, in the version that the lock file above the file
// says, or else the last one there is. It is "" if it is not on the machine.
func (i *imports) onMachine(m *library.Machine, file, name string) string {
	i.once.Do(func() { i.own, i.installed = ownFolders(m), installedFolders(m) })
	if ownCrates[name] {
		for _, dir := range i.own {
			if p := path.Join(dir, name, "src/lib.rs"); m.Has(p) {
				return p
			}
		}
		return ""
	}
	asking, neededBy := file, ""
	if path.IsAbs(file) {
		asking = lockFile // what the project chose holds for what it needs, too
	}
	if own, ok := i.manifest(i.Package(file)); ok {
		neededBy = own.Package.Name
	}
	_, locked, known := i.locks.Above(i.project, asking, readLock, lockFile)
	for _, dir := range i.installed {
		for _, n := range slices.Compact([]string{name, strings.ReplaceAll(name, "_", "-")}) {
			if known {
				if p := i.begins(path.Join(dir, n+"-"+locked.version(n, neededBy))); p != "" {
					return p
				}
			}
			if p := i.begins(path.Join(dir, n)); p != "" {
				return p
			}
			if p := i.lastVersion(dir, n); p != "" {
				return p
			}
		}
	}
	return ""
}

// begins is the file with which the library of the package in a folder outside begins; "" if there
// is none.
func (i *imports) begins(folder string) string {
	m, ok := i.manifest(folder)
	if !ok {
		m = &manifest{}
	}
	return i.library(folder, m)
}

// ownCrates are those of Rust itself.
var ownCrates = lang.WordsOf("std core alloc proc_macro test")

// lastVersion is the crate of that name with the highest version in a folder.
func (i *imports) lastVersion(dir, name string) string {
	i.mu.Lock()
	defer i.mu.Unlock()
	listed, known := i.versions[dir]
	if !known {
		entries, _ := os.ReadDir(dir) // what cannot be listed holds nothing
		listed = map[string]string{}
		for _, e := range entries {
			if stem, version, ok := cutVersion(e.Name()); ok && semver.Compare("v"+listed[stem], "v"+version) < 0 {
				listed[stem] = version
			}
		}
		if i.versions == nil {
			i.versions = map[string]map[string]string{}
		}
		i.versions[dir] = listed
	}
	if v := listed[name]; v != "" {
		return i.begins(path.Join(dir, name+"-"+v))
	}
	return ""
}

// cutVersion parts the name of a folder such as serde-1.0.152.
func cutVersion(folder string) (name, version string, ok bool) {
	for i := 0; i+1 < len(folder); i++ {
		if folder[i] == '-' && folder[i+1] >= '0' && folder[i+1] <= '9' {
			return folder[:i], folder[i+1:], true
		}
	}
	return "", "", false
}
