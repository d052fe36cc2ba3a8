package library

import (
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/door"
)

// rustLibraries are where the source of Rust's own crates lies, as its installers
// and systems put it.
func (f *Finder) rustLibraries() []string {
	patterns := []string{filepath.Join(f.home, ".rustup/toolchains/*/lib/rustlib/src/rust/library"), "/usr/lib/rustlib/src/rust/library", "/usr/src/rustc-*/library"}
	if home := os.Getenv("RUSTUP_HOME"); home != "" {
		patterns = append([]string{filepath.Join(home, "toolchains/*/lib/rustlib/src/rust/library")}, patterns...)
	}
	if base := installed("rustc"); base != "" {
		patterns = append([]string{filepath.Join(base, "lib/rustlib/src/rust/library")}, patterns...)
	}
	return globAll(patterns)
}

// rustPackages are the folders in which the sources of other crates lie, each in
// one named after it and its version.
func (f *Finder) rustPackages() []string {
	home := os.Getenv("CARGO_HOME")
	if home == "" {
		home = filepath.Join(f.home, ".cargo")
	}
	return globAll([]string{filepath.Join(f.root, "vendor"), filepath.Join(home, "registry/src/*"), "/usr/share/cargo/registry"})
}

// globAll are the folders that patterns lead to, those of each pattern with the last
// name first, which mostly is the newest.
func globAll(patterns []string) (folders []string) {
	for _, p := range patterns {
		found, _ := filepath.Glob(p) // the patterns are well formed
		slices.Sort(found)
		slices.Reverse(found)
		for _, dir := range found {
			if dir = filepath.ToSlash(dir); isFolder(dir) && !slices.Contains(folders, dir) {
				folders = append(folders, dir)
			}
		}
	}
	return folders
}

// RustCrate is the file with which a crate begins that a file names: one of Rust's
// own, or one that was fetched, in the version that the lock file above the file
// says, or else the last one there is. It is "" if it is not on the machine.
func (f *Finder) RustCrate(file, name string) string {
	f.rust.Do(func() { f.rustFolders = [2][]string{f.rustLibraries(), f.rustPackages()} })
	for _, dir := range f.rustFolders[0] {
		if p := path.Join(dir, name, "src/lib.rs"); rustOwn[name] && f.Has(p) {
			return p
		}
	}
	if rustOwn[name] {
		return ""
	}
	locked := f.lockedCrates(file)
	for _, dir := range f.rustFolders[1] {
		for _, n := range []string{name, strings.ReplaceAll(name, "_", "-")} {
			if v := locked[n]; v != "" {
				if p := path.Join(dir, n+"-"+v, "src/lib.rs"); f.Has(p) {
					return p
				}
			}
			if p := path.Join(dir, n, "src/lib.rs"); f.Has(p) {
				return p
			}
			if p := f.lastVersion(dir, n); p != "" {
				return p
			}
		}
	}
	return ""
}

var rustOwn = map[string]bool{"std": true, "core": true, "alloc": true, "proc_macro": true, "test": true}

// lastVersion is the crate of that name with the highest version in a folder.
func (f *Finder) lastVersion(dir, name string) string {
	f.mu.Lock()
	listed, known := f.rustVersions[dir]
	f.mu.Unlock()
	if !known {
		entries, _ := os.ReadDir(dir) // what cannot be listed holds nothing
		listed = map[string]string{}
		for _, e := range entries {
			if stem, version, ok := cutVersion(e.Name()); ok && listed[stem] < version {
				listed[stem] = version
			}
		}
		f.mu.Lock()
		f.rustVersions[dir] = listed
		f.mu.Unlock()
	}
	if v := listed[name]; v != "" {
		if p := path.Join(dir, name+"-"+v, "src/lib.rs"); f.Has(p) {
			return p
		}
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

// lockedCrates are the versions of crates that the lock file above a file says.
func (f *Finder) lockedCrates(file string) map[string]string {
	for dir := path.Dir(file); ; dir = path.Dir(dir) {
		lock := path.Join(filepath.ToSlash(f.root), dir, "Cargo.lock")
		if path.IsAbs(dir) {
			lock = path.Join(dir, "Cargo.lock")
		}
		if f.Has(lock) {
			f.mu.Lock()
			defer f.mu.Unlock()
			if f.requires[lock] == nil {
				f.requires[lock] = f.readLock(lock)
			}
			return f.requires[lock]
		}
		if dir == "." || dir == "/" {
			return nil
		}
	}
}

func (f *Finder) readLock(file string) map[string]string {
	versions := map[string]string{}
	data, err := door.ReadSettings(f.root, filepath.FromSlash(file))
	if err != nil {
		return versions
	}
	name := ""
	for line := range strings.Lines(string(data)) {
		key, value, ok := strings.Cut(line, "=")
		if !ok {
			continue
		}
		switch value = strings.Trim(strings.TrimSpace(value), `"`); strings.TrimSpace(key) {
		case "name":
			name = value
		case "version":
			versions[name] = value
		}
	}
	return versions
}
