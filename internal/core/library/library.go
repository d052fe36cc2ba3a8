// Package library finds the sources of what a project uses but does not hold:
// the standard libraries of languages and the packages installed beside them,
// where they lie on this machine. It looks at what is there and runs nothing.
package library

import (
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/door"
)

// Finder finds sources. What it found out about the machine it keeps; make a new
// one to look again. It may be used by several goroutines.
type Finder struct {
	root  string
	cache string // where what lies in archives is unpacked
	home  string

	golang, python, java, rust sync.Once
	goRoot, goModules          string
	pythonPaths                []string
	jdk                        archive
	rustFolders                [2][]string                  // of its own crates, and of others
	rustVersions               map[string]map[string]string // by folder, the last version of each crate

	mu       sync.Mutex
	there    map[string]bool
	requires map[string]map[string]string // by go.mod or Cargo.lock, the versions of modules
	scripts  map[string]*scriptSettings   // by folder
}

// New makes a finder for the project at root, an absolute path. What has to be
// unpacked goes to a folder below cache; without one, archives are not looked
// into.
func New(root, cache string) *Finder {
	home, _ := os.UserHomeDir() // without a home there is nothing in it
	return &Finder{root: root, cache: cache, home: home, there: map[string]bool{}, requires: map[string]map[string]string{}, scripts: map[string]*scriptSettings{}, rustVersions: map[string]map[string]string{}}
}

// Has says whether there is a file or a folder of that absolute path.
func (f *Finder) Has(p string) bool {
	f.mu.Lock()
	has, known := f.there[p]
	f.mu.Unlock()
	if known {
		return has
	}
	_, err := os.Stat(filepath.FromSlash(p))
	f.mu.Lock()
	f.there[p] = err == nil
	f.mu.Unlock()
	return err == nil
}

// isFolder says whether there is a folder of that path.
func isFolder(p string) bool {
	info, err := os.Stat(p)
	return err == nil && info.IsDir()
}

// installed is the folder above that of a program in the PATH, with links
// followed; "" if there is none.
func installed(program string) string {
	p, err := exec.LookPath(program)
	if err != nil {
		return ""
	}
	if p, err = filepath.EvalSymlinks(p); err != nil {
		return ""
	}
	return filepath.Dir(filepath.Dir(p))
}

// GoPackage is the folder of a Go package that a file of the project imports;
// file is relative to the root, and "" comes back if it is not on the machine.
func (f *Finder) GoPackage(file, imported string) string {
	f.golang.Do(f.findGo)
	if f.goRoot != "" {
		for _, below := range []string{"src", "src/vendor"} {
			if dir := path.Join(f.goRoot, below, imported); f.Has(dir) {
				return dir
			}
		}
	}
	if f.goModules == "" {
		return ""
	}
	versions := f.versions(file)
	for module := imported; module != "." && module != "/"; module = path.Dir(module) {
		if v := versions[module]; v != "" {
			dir := path.Join(f.goModules, escape(module)+"@"+escape(v), strings.TrimPrefix(imported, module))
			if f.Has(dir) {
				return dir
			}
		}
	}
	return ""
}

func (f *Finder) findGo() {
	for _, dir := range []string{os.Getenv("GOROOT"), installed("go"), "/usr/local/go", "/usr/lib/go"} {
		if dir != "" && isFolder(filepath.Join(dir, "src", "fmt")) {
			f.goRoot = filepath.ToSlash(dir)
			break
		}
	}
	gopath, _, _ := strings.Cut(os.Getenv("GOPATH"), string(filepath.ListSeparator))
	if gopath == "" {
		gopath = filepath.Join(f.home, "go")
	}
	for _, dir := range []string{os.Getenv("GOMODCACHE"), filepath.Join(gopath, "pkg", "mod")} {
		if dir != "" && isFolder(dir) {
			f.goModules = filepath.ToSlash(dir)
			break
		}
	}
}

// escape writes capitals as the module cache does.
func escape(s string) string {
	var b strings.Builder
	for _, r := range s {
		if 'A' <= r && r <= 'Z' {
			b.WriteByte('!')
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}

// versions are those of the modules that the module around a file requires.
func (f *Finder) versions(file string) map[string]string {
	for dir := path.Dir(file); ; dir = path.Dir(dir) {
		mod := path.Join(filepath.ToSlash(f.root), dir, "go.mod")
		if f.Has(mod) {
			f.mu.Lock()
			defer f.mu.Unlock()
			if f.requires[mod] == nil {
				f.requires[mod] = f.readRequires(mod)
			}
			return f.requires[mod]
		}
		if dir == "." || dir == "/" {
			return nil
		}
	}
}

func (f *Finder) readRequires(mod string) map[string]string {
	versions := map[string]string{}
	data, err := door.ReadSettings(f.root, filepath.FromSlash(mod))
	if err != nil {
		return versions
	}
	for line := range strings.Lines(string(data)) {
		words := strings.Fields(strings.TrimPrefix(strings.TrimSpace(line), "require "))
		if len(words) >= 2 && strings.HasPrefix(words[1], "v") {
			versions[words[0]] = words[1]
		}
	}
	return versions
}

// PythonPaths are the folders in which Python looks for modules, those of the
// project's own environment first.
func (f *Finder) PythonPaths() []string {
	f.python.Do(func() {
		patterns := []string{
			filepath.Join(f.root, ".venv/lib/python3*/site-packages"), filepath.Join(f.root, "venv/lib/python3*/site-packages"),
			filepath.Join(f.root, "env/lib/python3*/site-packages"),
		}
		if env := os.Getenv("VIRTUAL_ENV"); env != "" {
			patterns = append(patterns, filepath.Join(env, "lib/python3*/site-packages"))
		}
		for _, base := range []string{installed("python3"), "/usr/local", "/usr", filepath.Join(f.home, ".pyenv/versions/3*"), filepath.Join(f.home, ".local")} {
			if base == "" {
				continue
			}
			patterns = append(patterns, filepath.Join(base, "lib/python3*"), filepath.Join(base, "lib/python3*/site-packages"), filepath.Join(base, "lib/python3*/dist-packages"))
		}
		for _, p := range patterns {
			found, _ := filepath.Glob(p) // the patterns are well formed
			slices.Sort(found)
			slices.Reverse(found) // the newest version first
			for _, dir := range found {
				if dir = filepath.ToSlash(dir); isFolder(dir) && !slices.Contains(f.pythonPaths, dir) {
					f.pythonPaths = append(f.pythonPaths, dir)
				}
			}
		}
	})
	return f.pythonPaths
}

// headerFolders are where the headers of the system lie.
var headerFolders = []string{"/usr/local/include", "/usr/include", "/usr/include/*-linux-*", "/usr/lib/gcc/*/*/include", "/usr/include/c++/*",
	"/opt/homebrew/include", "/Library/Developer/CommandLineTools/SDKs/MacOSX.sdk/usr/include"}

// Header is the file of a header of the system; "" if it is not there.
func (f *Finder) Header(included string) string {
	for _, pattern := range headerFolders {
		folders := []string{pattern}
		if strings.Contains(pattern, "*") {
			folders, _ = filepath.Glob(pattern) // the patterns are well formed
		}
		for _, dir := range folders {
			if p := path.Join(filepath.ToSlash(dir), included); f.Has(p) && !isFolder(p) {
				return p
			}
		}
	}
	return ""
}
