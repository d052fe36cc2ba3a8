package library

import (
	"archive/zip"
	"io"
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"

	"github.com/google/renameio/v2"
)

// archive is the source archive of a Java development kit.
type archive struct {
	mu      sync.Mutex
	file    string
	name    string
	entries map[string]*zip.File // by the path without the module
}

// largestEntry bounds what is unpacked of one source file, in bytes.
const largestEntry = 8 << 20

// JavaType is the file of a class of the Java library, such as java/util/List;
// "" if its source is not on the machine. Sources lie in an archive, out of
// which the one file is unpacked.
func (f *Finder) JavaType(name string) string {
	if f.cache == "" {
		return ""
	}
	f.java.Do(f.findJava)
	a := &f.jdk
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.file == "" {
		return ""
	}
	if a.entries == nil {
		a.read()
	}
	entry := a.entries[name+".java"]
	if entry == nil {
		return ""
	}
	target := filepath.Join(f.cache, a.name, filepath.FromSlash(name)+".java")
	if _, err := os.Stat(target); err != nil && unpack(entry, target) != nil {
		return ""
	}
	return filepath.ToSlash(target)
}

func (f *Finder) findJava() {
	patterns := []string{"/usr/lib/jvm/*/lib/src.zip", "/usr/lib/jvm/*/src.zip", "/Library/Java/JavaVirtualMachines/*/Contents/Home/lib/src.zip", filepath.Join(f.home, ".sdkman/candidates/java/*/lib/src.zip")}
	for _, home := range []string{installed("java"), os.Getenv("JAVA_HOME")} {
		if home != "" {
			patterns = append([]string{filepath.Join(home, "lib", "src.zip"), filepath.Join(home, "src.zip")}, patterns...)
		}
	}
	for _, p := range patterns {
		found, _ := filepath.Glob(p) // the patterns are well formed
		for i := len(found) - 1; i >= 0; i-- {
			if file, err := filepath.EvalSymlinks(found[i]); err == nil {
				f.jdk.file = file
				home := filepath.Dir(strings.TrimSuffix(filepath.Dir(file), string(filepath.Separator)+"lib"))
				f.jdk.name = filepath.Base(strings.TrimSuffix(filepath.Dir(file), string(filepath.Separator)+"lib"))
				if f.jdk.name == "." || f.jdk.name == "" {
					f.jdk.name = filepath.Base(home)
				}
				return
			}
		}
	}
}

// read lists the archive. In newer kits each path begins with a module.
func (a *archive) read() {
	a.entries = map[string]*zip.File{}
	r, err := zip.OpenReader(a.file) // stays open as long as the program runs
	if err != nil {
		return
	}
	for _, e := range r.File {
		name := e.Name
		if module, rest, ok := strings.Cut(name, "/"); ok && strings.Contains(module, ".") {
			name = rest
		}
		if path.Ext(name) == ".java" && a.entries[name] == nil && !strings.Contains(name, "..") {
			a.entries[name] = e
		}
	}
}

func unpack(entry *zip.File, target string) error {
	r, err := entry.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, largestEntry))
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(target), 0o755); err != nil {
		return err
	}
	return renameio.WriteFile(target, data, 0o444)
}
