package rust

import (
	"path"
	"slices"
	"strings"

	"github.com/pelletier/go-toml/v2"
)

// manifestFile is the file at the top of a package, lockFile the one that says which
// versions of others were chosen.
const (
	manifestFile = "Cargo.toml"
	lockFile     = "Cargo.lock"
)

// manifest is what a package says of itself.
type manifest struct {
	Package struct{ Name string }
	Lib     struct{ Name, Path string }
	needs
	Target    map[string]needs // by conditions
	Workspace struct{ Dependencies map[string]any }
}

// needs are the other packages that one needs, by the names that its code has for
// them: a version, or a table.
type needs struct {
	Dependencies map[string]any
	ForTests     map[string]any `toml:"dev-dependencies"`
	ToBuild      map[string]any `toml:"build-dependencies"`
}

func readManifest(text []byte) (*manifest, error) {
	m := &manifest{}
	return m, toml.Unmarshal(text, m)
}

// inCode is how code writes the name of a package.
func inCode(name string) string { return strings.ReplaceAll(name, "-", "_") }

// crate is the name by which code knows the library of the package.
func (m *manifest) crate() string {
	if m.Lib.Name != "" {
		return inCode(m.Lib.Name)
	}
	return inCode(m.Package.Name)
}

// library is the file with which the library of the package begins, from its folder.
func (m *manifest) library() string {
	if m.Lib.Path != "" {
		return path.Clean(m.Lib.Path)
	}
	return "src/lib.rs"
}

// need is a package that another one needs: its own name, the folder it lies in, "" if
// that is not said, and whether the package around several says the rest.
type need struct {
	name, folder string
	shared       bool
}

// needed is what is known by a name in the code of the package.
func (m *manifest) needed(name string) (n need, ok bool) {
	for _, all := range append(slices.Collect(m.targets()), m.needs) {
		for _, some := range []map[string]any{all.Dependencies, all.ForTests, all.ToBuild} {
			if n, ok = among(some, name); ok {
				return n, true
			}
		}
	}
	return need{}, false
}

// targets are what the package needs on some machines only.
func (m *manifest) targets() func(yield func(needs) bool) {
	return func(yield func(needs) bool) {
		for _, n := range m.Target {
			if !yield(n) {
				return
			}
		}
	}
}

// among is the need of that name among some.
func among(some map[string]any, name string) (need, bool) {
	for key, said := range some {
		if inCode(key) != name {
			continue
		}
		n := need{name: key}
		table, _ := said.(map[string]any)
		if other, _ := table["package"].(string); other != "" {
			n.name = other
		}
		n.folder, _ = table["path"].(string)
		n.shared, _ = table["workspace"].(bool)
		return n, true
	}
	return need{}, false
}

// lock is which versions of packages were chosen.
type lock struct {
	Package []struct {
		Name, Version string
		Dependencies  []string // each a name, with the version if there are several
	}
}

func readLock(text []byte) (*lock, error) {
	l := &lock{}
	return l, toml.Unmarshal(text, l)
}

// version is that of a package, as another one needs it; "" if it is not known. That
// one is "" if it is not known either.
func (l *lock) version(name, neededBy string) (version string) {
	for _, p := range l.Package {
		if p.Name == neededBy {
			for _, d := range p.Dependencies {
				if said, _ := strings.CutPrefix(d, name+" "); said != d {
					version, _, _ = strings.Cut(said, " ")
					return version
				}
			}
		}
		if p.Name == name {
			version = p.Version
		}
	}
	return version
}
