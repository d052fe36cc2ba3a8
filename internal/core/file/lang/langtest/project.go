// Package langtest helps to test what is known of languages.
package langtest

import (
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/library"
)

// Project is a folder of files; it implements lang.Project.
type Project struct {
	Root    string
	Outside *library.Machine
}

// New lays files into a folder, by their paths, and looks at what is around it
// on the machine.
func New(t *testing.T, files map[string]string) *Project {
	t.Helper()
	p := &Project{Root: t.TempDir()}
	Lay(t, p.Root, files)
	p.Outside = library.New(p.Root, t.TempDir())
	return p
}

// Lay writes files below a folder.
func Lay(t *testing.T, root string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		p := filepath.Join(root, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
}

// Has implements lang.Project.
func (p *Project) Has(file string) bool {
	if path.IsAbs(file) {
		return p.Outside != nil && p.Outside.Has(file)
	}
	_, err := os.Stat(filepath.Join(p.Root, filepath.FromSlash(file)))
	return err == nil
}

// FilesNamed implements lang.Project.
func (p *Project) FilesNamed(base string) (found []string) {
	_ = fs.WalkDir(os.DirFS(p.Root), ".", func(file string, d fs.DirEntry, err error) error { // what cannot be listed is not there
		if err == nil && !d.IsDir() && path.Base(file) == base {
			found = append(found, file)
		}
		return nil
	})
	return found
}

// Disk implements lang.Project.
func (p *Project) Disk() fs.FS { return os.DirFS(p.Root) }

// Text implements lang.Project.
func (p *Project) Text(file string) []byte {
	if !path.IsAbs(file) {
		file = filepath.Join(p.Root, filepath.FromSlash(file))
	}
	data, err := os.ReadFile(file)
	if err != nil {
		return nil
	}
	return data
}

// Machine implements lang.Project.
func (p *Project) Machine() *library.Machine { return p.Outside }

// Generation implements lang.Project.
func (p *Project) Generation() int { return 1 }
