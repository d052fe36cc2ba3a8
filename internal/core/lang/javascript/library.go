package javascript

import (
	"encoding/json"
	"path"
	"path/filepath"
	"strings"

	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/library"
)

// settings are what a project says about modules in its tsconfig.json or
// jsconfig.json.
type settings struct {
	folder string // of the file, relative to the root
	base   string // "" if it is not said
	paths  map[string][]string
}

// paths are the paths that the settings around a file let an import stand
// for, relative to the root and without an ending, in the order in which they
// are tried.
func (i *imports) paths(m *library.Machine, file, imported string) (found []string) {
	s := i.settingsOf(m, path.Dir(file))
	if s == nil {
		return nil
	}
	base := s.base
	if base == "" {
		base = "."
	}
	best := -1
	for pattern, targets := range s.paths {
		front, back, wild := strings.Cut(pattern, "*")
		if !wild && pattern != imported || wild && (!strings.HasPrefix(imported, front) || !strings.HasSuffix(imported, back) || len(imported) < len(front)+len(back)) {
			continue
		}
		if len(front) <= best {
			continue
		}
		best, found = len(front), nil
		middle := ""
		if wild {
			middle = imported[len(front) : len(imported)-len(back)]
		}
		for _, t := range targets {
			found = append(found, path.Join(s.folder, base, strings.Replace(t, "*", middle, 1)))
		}
	}
	if s.base != "" {
		found = append(found, path.Join(s.folder, s.base, imported))
	}
	return found
}

// settingsOf are those of the nearest folder upwards that has any.
func (i *imports) settingsOf(m *library.Machine, dir string) *settings {
	i.mu.Lock()
	defer i.mu.Unlock()
	var passed []string
	for {
		s, known := i.settings[dir]
		if !known {
			passed = append(passed, dir)
			for _, name := range []string{"tsconfig.json", "jsconfig.json"} {
				if s = readSettings(m, path.Join(dir, name), 0); s != nil {
					break
				}
			}
		}
		if s != nil || known || dir == "." || dir == "/" {
			for _, p := range passed {
				i.settings[p] = s
			}
			return s
		}
		dir = path.Dir(dir)
	}
}

// deepestSettings bounds how far settings extend others.
const deepestSettings = 8

// readSettings reads a file and those it extends; nil if it is not there.
func readSettings(m *library.Machine, file string, depth int) *settings {
	data, err := m.Settings(m.Absolute(file))
	if err != nil || depth > deepestSettings {
		return nil
	}
	var raw struct {
		Extends         json.RawMessage
		CompilerOptions struct {
			BaseURL string `json:"baseUrl"`
			Paths   map[string][]string
		}
	}
	if json.Unmarshal(withoutComments(data), &raw) != nil {
		return nil // what is malformed says nothing
	}
	s := &settings{folder: path.Dir(file), base: raw.CompilerOptions.BaseURL, paths: raw.CompilerOptions.Paths}
	var extended string
	if json.Unmarshal(raw.Extends, &extended) == nil && strings.HasPrefix(extended, ".") {
		if path.Ext(extended) == "" {
			extended += ".json"
		}
		if above := readSettings(m, path.Join(path.Dir(file), extended), depth+1); above != nil && s.paths == nil && s.base == "" {
			return above
		}
	}
	return s
}

// withoutComments takes comments and commas before a closing bracket out of
// JSON, as these files may have them.
func withoutComments(data []byte) []byte {
	var out []byte
	inString := false
	for i := 0; i < len(data); i++ {
		b := data[i]
		switch {
		case inString:
			if b == '\\' && i+1 < len(data) {
				out = append(out, b)
				i++
				b = data[i]
			} else if b == '"' {
				inString = false
			}
		case b == '"':
			inString = true
		case b == '/' && i+1 < len(data) && data[i+1] == '/':
			for i < len(data) && data[i] != '\n' {
				i++
			}
			continue
		case b == '/' && i+1 < len(data) && data[i+1] == '*':
			end := strings.Index(string(data[i+2:]), "*/")
			if end < 0 {
				return out
			}
			i += end + 3
			continue
		case b == '}' || b == ']':
			for j := len(out) - 1; j >= 0; j-- {
				if c := out[j]; c == ',' {
					out = append(out[:j], out[j+1:]...)
				} else if c == ' ' || c == '\n' || c == '\t' || c == '\r' {
					continue
				}
				break
			}
		}
		out = append(out, b)
	}
	return out
}

// installed is the file, an absolute path, that an installed package offers under a name such as react or @hut/board/map:
// what declares its types, if it has that. "" if it is not installed.
func installed(m *library.Machine, file, imported string) string {
	name, rest := splitPackage(imported)
	root := filepath.ToSlash(m.Root)
	for dir := range lang.FoldersUp(file) {
		modules := path.Join(root, dir, modulesFolder)
		for _, folder := range []string{path.Join(modules, name), path.Join(modules, "@types", strings.ReplaceAll(strings.TrimPrefix(name, "@"), "/", "__"))} {
			if !m.Has(folder) {
				continue
			}
			if p := entry(m, folder, rest); p != "" {
				return p
			}
		}
	}
	return ""
}

// splitPackage takes the name of a package off the front of a path.
func splitPackage(imported string) (name, rest string) {
	parts := strings.SplitN(imported, "/", 3)
	if strings.HasPrefix(imported, "@") && len(parts) > 1 {
		return parts[0] + "/" + parts[1], strings.Join(parts[2:], "/")
	}
	return parts[0], strings.Join(parts[1:], "/")
}

// entry is the file that a package offers, as a whole or under a path below it.
func entry(m *library.Machine, folder, rest string) string {
	var candidates []string
	if rest == "" {
		var raw struct{ Types, Typings, Module, Main string }
		if data, err := m.Settings(path.Join(folder, "package.json")); err == nil {
			_ = json.Unmarshal(data, &raw) // what is malformed says nothing
		}
		for _, p := range []string{raw.Types, raw.Typings, "index.d.ts", raw.Module, raw.Main, "index.js"} {
			if p != "" {
				candidates = append(candidates, path.Join(folder, p))
			}
		}
	} else {
		candidates = []string{path.Join(folder, rest)}
	}
	for _, c := range candidates {
		for _, end := range []string{"", ".d.ts", ".ts", ".tsx", ".js", ".mjs", "/index.d.ts", "/index.ts", "/index.js"} {
			if p := c + end; path.Ext(p) != "" && m.HasFile(p) {
				return p
			}
		}
	}
	return ""
}
