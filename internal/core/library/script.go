package library

import (
	"encoding/json"
	"path"
	"path/filepath"
	"strings"

	"rooktrail/internal/core/door"
)

// scriptSettings are what a project says about the modules of JavaScript and
// TypeScript in its tsconfig.json or jsconfig.json.
type scriptSettings struct {
	folder string // of the file, relative to the root
	base   string // "" if it is not said
	paths  map[string][]string
}

// ScriptPaths are the paths that the settings around a file let an import stand
// for, relative to the root and without an ending, in the order in which they
// are tried.
func (f *Finder) ScriptPaths(file, imported string) (found []string) {
	s := f.settings(path.Dir(file))
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

// settings are those of the nearest folder upwards that has any.
func (f *Finder) settings(dir string) *scriptSettings {
	f.mu.Lock()
	defer f.mu.Unlock()
	var passed []string
	for {
		s, known := f.scripts[dir]
		if !known {
			passed = append(passed, dir)
			for _, name := range []string{"tsconfig.json", "jsconfig.json"} {
				if s = f.readSettings(path.Join(dir, name), 0); s != nil {
					break
				}
			}
		}
		if s != nil || known || dir == "." || dir == "/" {
			for _, p := range passed {
				f.scripts[p] = s
			}
			return s
		}
		dir = path.Dir(dir)
	}
}

// deepestSettings bounds how far settings extend others.
const deepestSettings = 8

// readSettings reads a file and those it extends; nil if it is not there.
func (f *Finder) readSettings(file string, depth int) *scriptSettings {
	data, err := door.ReadSettings(f.root, filepath.Join(f.root, filepath.FromSlash(file)))
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
	s := &scriptSettings{folder: path.Dir(file), base: raw.CompilerOptions.BaseURL, paths: raw.CompilerOptions.Paths}
	var extended string
	if json.Unmarshal(raw.Extends, &extended) == nil && strings.HasPrefix(extended, ".") {
		if path.Ext(extended) == "" {
			extended += ".json"
		}
		if above := f.readSettings(path.Join(path.Dir(file), extended), depth+1); above != nil && s.paths == nil && s.base == "" {
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

// ScriptPackage is the file, an absolute path, that an installed package of
// JavaScript or TypeScript offers under a name such as react or @hut/board/map:
// what declares its types, if it has that. "" if it is not installed.
func (f *Finder) ScriptPackage(file, imported string) string {
	name, rest := splitPackage(imported)
	root := filepath.ToSlash(f.root)
	for dir := path.Dir(file); ; dir = path.Dir(dir) {
		modules := path.Join(root, dir, "node_modules")
		for _, folder := range []string{path.Join(modules, name), path.Join(modules, "@types", strings.ReplaceAll(strings.TrimPrefix(name, "@"), "/", "__"))} {
			if !f.Has(folder) {
				continue
			}
			if p := f.entry(folder, rest); p != "" {
				return p
			}
		}
		if dir == "." || dir == "/" {
			return ""
		}
	}
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
func (f *Finder) entry(folder, rest string) string {
	var candidates []string
	if rest == "" {
		var raw struct{ Types, Typings, Module, Main string }
		if data, err := door.ReadSettings(f.root, filepath.Join(filepath.FromSlash(folder), "package.json")); err == nil {
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
			if p := c + end; path.Ext(p) != "" && f.Has(p) && !isFolder(p) {
				return p
			}
		}
	}
	return ""
}
