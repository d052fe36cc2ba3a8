package javascript

import (
	"cmp"
	"encoding/json"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/lang"
)

// settings are what a project says about modules in its tsconfig.json or
// jsconfig.json.
type settings struct {
	Extends         json.RawMessage // a path, or a list of them
	CompilerOptions struct {
		BaseURL string `json:"baseUrl"` // "" if it is not said
		Paths   map[string][]string
	}
}

func readSettings(text []byte) (*settings, error) {
	s := &settings{}
	return s, json.Unmarshal(withoutComments(text), s)
}

// paths are the paths that the settings around a file let an import stand
// for, relative to the root and without an ending, in the order in which they
// are tried.
func (i *imports) paths(file, imported string) (found []string) {
	folder, s, ok := i.settings.Above(i.project, file, readSettings, "tsconfig.json", "jsconfig.json")
	if !ok {
		return nil
	}
	folder, s = i.extended(folder, s, 0)
	base, best := cmp.Or(s.CompilerOptions.BaseURL, "."), -1
	for pattern, targets := range s.CompilerOptions.Paths {
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
			found = append(found, path.Join(folder, base, strings.Replace(t, "*", middle, 1)))
		}
	}
	if s.CompilerOptions.BaseURL != "" {
		found = append(found, path.Join(folder, base, imported))
	}
	return found
}

// deepestSettings bounds how far settings extend others.
const deepestSettings = 8

// extended are the settings in a folder, or those that they extend, if they say
// nothing about modules themselves, with the folder of these.
func (i *imports) extended(folder string, s *settings, depth int) (string, *settings) {
	var others []string
	if o := s.CompilerOptions; o.Paths != nil || o.BaseURL != "" || depth > deepestSettings {
		return folder, s
	}
	if json.Unmarshal(s.Extends, &others) != nil {
		var other string
		_ = json.Unmarshal(s.Extends, &other) // what is none of both is nothing to follow
		others = []string{other}
	}
	for _, other := range slices.Backward(others) { // the last one counts most
		if !strings.HasPrefix(other, ".") {
			continue
		}
		if path.Ext(other) == "" {
			other += ".json"
		}
		file := path.Join(folder, other)
		if above, ok := i.settings.Of(i.project, file, readSettings); ok {
			if in, found := i.extended(path.Dir(file), above, depth+1); found.CompilerOptions.Paths != nil || found.CompilerOptions.BaseURL != "" {
				return in, found
			}
		}
	}
	return folder, s
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
	if path.IsAbs(file) { // one of a package itself, which needs others
		root = ""
	}
	untyped := ""
	for dir := range lang.FoldersUp(file) {
		modules := path.Join(root, dir, modulesFolder)
		if path.Base(dir) == modulesFolder {
			modules = path.Join(root, dir)
		}
		for _, folder := range []string{path.Join(modules, name), path.Join(modules, "@types", strings.ReplaceAll(strings.TrimPrefix(name, "@"), "/", "__"))} {
			if !m.Has(folder) {
				continue
			}
			if p := entry(m, folder, rest); strings.Contains(path.Base(p), ".d.") || strings.HasSuffix(p, ".ts") || strings.HasSuffix(p, ".tsx") {
				return p
			} else if untyped == "" {
				untyped = p
			}
		}
	}
	return untyped
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
