package javascript

import (
	"bytes"
	"context"
	"encoding/json"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// importing changes what files import, by a grammar.
func importing(g *syntax.Grammar) lang.Importing {
	return changing{&lang.ImportLines{
		Read: func(ctx context.Context, text []byte) ([]lang.ImportLine, int, error) {
			return readImports(ctx, g, text)
		},
		Write:  writeImport,
		Name:   nameIn,
		Module: func(i facts.Imported) string { return i.Path },
		Key:    func(s *lang.ImportLine, _ string) string { return far(s.Module) + strings.ToLower(s.Module) },
		Kind: func(module string) int {
			if strings.HasPrefix(module, ".") {
				return 1
			}
			return 0
		},
	}, g}
}

type changing struct {
	*lang.ImportLines
	grammar *syntax.Grammar
}

// Change implements lang.Importing: what is written follows the habits of the file, as to quotes and semicolons.
func (c changing) Change(ctx context.Context, text []byte, drop []place.Range, add []facts.Imported) ([]byte, error) {
	w := *c.ImportLines
	quote, end := habits(ctx, c.grammar, text)
	w.Write = func(i facts.Imported) string {
		s := writeImport(i)
		if quote == '"' {
			s = strings.ReplaceAll(s, "'", `"`)
		}
		return s + end
	}
	return w.Change(ctx, text, drop, add)
}

// habits are the quotes of a file and what ends its statements.
func habits(ctx context.Context, g *syntax.Grammar, text []byte) (quote byte, end string) {
	quote, end = '"', ";"
	if bytes.Count(text, []byte("'")) > bytes.Count(text, []byte(`"`)) {
		quote = '\''
	}
	tree, err := syntax.Parse(ctx, g, text)
	if err != nil {
		return quote, end
	}
	with, without := 0, 0
	for n := range tree.Root().NamedChildren() {
		switch n.Type() {
		case "import_statement":
			quote = n.Part("source").Text()[0]
			fallthrough
		case "expression_statement", "lexical_declaration":
			if strings.HasSuffix(n.Text(), ";") {
				with++
			} else {
				without++
			}
		}
	}
	if without > with {
		end = ""
	}
	return quote, end
}

// far orders modules: packages, then what lies further up, then what lies beside.
func far(module string) string {
	switch {
	case strings.HasPrefix(module, ".."):
		return "1"
	case strings.HasPrefix(module, "."):
		return "2"
	}
	return "0"
}

func writeImport(i facts.Imported) string {
	switch i.Name {
	case "":
		return "import * as " + i.Alias + " from '" + i.Path + "'"
	case DefaultExport:
		return "import " + i.Alias + " from '" + i.Path + "'"
	}
	return "import { " + nameIn(i) + " } from '" + i.Path + "'"
}

// nameIn is how a name is written in braces; "" for what stands outside of them.
func nameIn(i facts.Imported) string {
	switch {
	case i.Name == "" || i.Name == DefaultExport:
		return ""
	case i.Alias != "" && i.Alias != i.Name:
		return i.Name + " as " + i.Alias
	}
	return i.Name
}

// readImports finds the imports at the top of a text.
func readImports(ctx context.Context, g *syntax.Grammar, text []byte) (all []lang.ImportLine, first int, err error) {
	tree, err := syntax.Parse(ctx, g, text)
	if err != nil {
		return nil, 0, err
	}
	for n := range tree.Root().NamedChildren() {
		if n.Type() == "hash_bang_line" || n.Type() == "expression_statement" && strings.HasPrefix(strings.TrimLeft(n.Text(), `'"`), "use ") {
			first = int(n.Range().End)
			for first < len(text) && text[first-1] != '\n' {
				first++
			}
			continue
		}
		if n.Type() != "import_statement" {
			continue
		}
		l := lang.ImportLine{At: n.Range(), Module: strings.Trim(n.Part("source").Text(), "'\"`")}
		clause := n.First("import_clause")
		l.Fixed = !clause.OK()
		alone := true
		for c := range clause.NamedChildren() {
			if c.Type() != "named_imports" {
				alone = false
			}
			for s := range c.NamedChildren() {
				if s.Type() == "import_specifier" {
					l.Names = append(l.Names, s.Range())
				}
			}
		}
		if !alone || n.Has("type") { // what stands outside of the braces goes with all of it
			l.Names = nil
		}
		l.Lines(text)
		l.Above(text, func(line string) bool { return strings.HasPrefix(line, "//") && len(all) > 0 })
		all = append(all, l)
	}
	return all, first, nil
}

// Wanted implements lang.Importing.
func (changing) Wanted(u facts.Use, _ bool) bool { return u.Role != facts.Write }

// Stays implements lang.Importing: elements need what makes them, though they do not name it.
func (changing) Stays(i facts.Imported, name string, text []byte) bool {
	if name == "" || i.Name == "*" {
		return true
	}
	return (name == "React" || name == "h") && elements.Match(text)
}

// elements finds what looks like an element in code.
var elements = regexp.MustCompile(`</|/>`)

// Reach implements lang.Imports: what a file exports is imported by the path from one to the other.
func (i *imports) Reach(file, definer, name string) (facts.Imported, bool) {
	if definer == file || !exported(i.project.Text(definer), name) {
		return facts.Imported{}, false
	}
	rel, err := filepath.Rel(path.Dir(file), definer)
	if err != nil {
		return facts.Imported{}, false
	}
	rel = filepath.ToSlash(rel)
	if !strings.HasPrefix(rel, ".") {
		rel = "./" + rel
	}
	ending := path.Ext(rel)
	rel = strings.TrimSuffix(strings.TrimSuffix(rel, ending), ".d")
	if stem := strings.TrimSuffix(rel, "/index"); stem != "." && stem != ".." {
		rel = stem
	}
	for _, written := range relative.FindAllSubmatch(i.project.Text(file), -1) {
		if end := path.Ext(string(written[1])); slices.Contains(modules, end) && end != ".json" { // the file writes endings
			rel = strings.TrimSuffix(rel, "/index") + end
			break
		}
	}
	imp := facts.Imported{Path: rel, Name: name, Alias: name}
	if regexp.MustCompile(`(?m)^export\s+default\s+(abstract\s+)?(async\s+)?(class|function\*?|interface)?\s*` + regexp.QuoteMeta(name) + `\b`).Match(i.project.Text(definer)) {
		imp.Name = DefaultExport
	}
	return imp, true
}

// relative finds the paths that a file imports beside it.
var relative = regexp.MustCompile(`(?m)^import[^'"]*['"](\.[^'"]*)['"]`)

// exported says whether a text exports something of a name.
func exported(text []byte, name string) bool {
	q := regexp.QuoteMeta(name)
	return regexp.MustCompile(`(?m)^export\s+(default\s+)?(declare\s+)?(abstract\s+)?(async\s+)?(class|function\*?|interface|type|enum|const enum|const|let|var|namespace)\s+` + q + `\b|^export\s*\{[^}]*\b` + q + `\b[^}]*\}\s*;?\s*$|^export\s+default\s+` + q + `\b`).Match(text)
}

// Known implements lang.Imports: what the packages that the project needs export.
func (i *imports) Known(file, name, _ string) (all []facts.Imported) {
	for dir := range lang.FoldersUp(file) {
		raw := i.project.Text(path.Join(dir, "package.json"))
		if raw == nil {
			continue
		}
		var p struct {
			Dependencies, DevDependencies, PeerDependencies map[string]string
		}
		if json.Unmarshal(raw, &p) != nil {
			continue
		}
		for _, needs := range []map[string]string{p.Dependencies, p.PeerDependencies, p.DevDependencies} {
			for pkg := range needs {
				if strings.HasPrefix(pkg, "@types/") {
					continue
				}
				at := i.Module(file, facts.Imported{Path: pkg})
				if at != "" && exported(i.project.Text(at), name) {
					all = append(all, facts.Imported{Path: pkg, Name: name, Alias: name})
				}
			}
		}
		break
	}
	slices.SortFunc(all, func(a, b facts.Imported) int { return strings.Compare(a.Path, b.Path) })
	return all
}
