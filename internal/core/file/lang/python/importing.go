package python

import (
	"bytes"
	"context"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/syntax"
)

// importing changes what files import.
var importing lang.Importing = changing{&lang.ImportLines{
	Read:   readImports,
	Write:  writeImport,
	Name:   nameIn,
	Module: module,
	Key: func(s *lang.ImportLine, written string) string {
		if strings.HasPrefix(written[strings.LastIndexByte(written, '\n')+1:], "import ") || strings.HasPrefix(written, "import ") {
			return "0" + strings.ToLower(s.Module)
		}
		return "1" + strings.ToLower(s.Module)
	},
	Kind: func(module string) int {
		switch first, _, _ := strings.Cut(module, "."); {
		case module == "__future__":
			return 0
		case first == "":
			return 3
		case standard[first]:
			return 1
		}
		return 2
	},
}}

// standard are the modules that come with Python and are imported most; where none of them is meant, the others of a group
// say where a module goes.
var standard = lang.WordsOf(`abc argparse array ast asyncio base64 bisect calendar cmath codecs collections concurrent configparser contextlib copy csv
	ctypes dataclasses datetime decimal difflib dis email enum errno fnmatch fractions functools gc getpass gettext glob gzip hashlib heapq hmac html http
	importlib inspect io ipaddress itertools json keyword locale logging lzma math mimetypes multiprocessing numbers operator os pathlib pickle pkgutil platform
	pprint queue random re select shelve shlex shutil signal site smtplib socket sqlite3 ssl stat statistics string struct subprocess sys tarfile tempfile
	textwrap threading time timeit token tokenize traceback types typing unicodedata unittest urllib uuid venv warnings weakref xml zipfile zlib zoneinfo`)

type changing struct{ *lang.ImportLines }

// module is how the module of an import is written.
func module(i facts.Imported) string { return strings.Repeat(".", i.Level) + i.Path }

func writeImport(i facts.Imported) string {
	switch {
	case i.Name != "":
		return "from " + module(i) + " import " + nameIn(i)
	case i.Alias != "":
		return "import " + i.Path + " as " + i.Alias
	}
	return "import " + i.Path
}

// nameIn is how a name is written in the list of a statement; "" for a module.
func nameIn(i facts.Imported) string {
	if i.Alias != "" && i.Alias != i.Name && i.Name != "" {
		return i.Name + " as " + i.Alias
	}
	return i.Name
}

// readImports finds the imports at the top of a text.
func readImports(ctx context.Context, text []byte) (all []lang.ImportLine, first int, err error) {
	tree, err := syntax.Parse(ctx, grammar, text)
	if err != nil {
		return nil, 0, err
	}
	begun := false
	for n := range tree.Root().NamedChildren() {
		switch n.Type() {
		case "comment":
			if !begun && len(all) == 0 {
				first = lineEnd(text, n.Range().End)
			}
		case "expression_statement":
			if !begun && firstChild(n).Type() == "string" {
				first = lineEnd(text, n.Range().End)
			}
			begun = true
		case "import_statement", "import_from_statement", "future_import_statement":
			begun = true
			l := lang.ImportLine{At: n.Range()}
			l.Shared = bytes.Contains(text[l.At.End:lineEnd(text, l.At.End)], []byte(";"))
			l.Fixed = l.Shared
			l.Module = strings.TrimSpace(n.Part("module_name").Text())
			if n.Type() == "future_import_statement" {
				l.Module = "__future__"
			}
			for c := range n.NamedChildren() {
				if c.FieldName() == "name" && n.Type() == "import_from_statement" {
					l.Names = append(l.Names, c.Range())
				} else if c.FieldName() == "name" && l.Module == "" {
					l.Module = strings.Fields(c.Text())[0]
				}
			}
			l.Lines(text)
			l.Above(text, func(line string) bool { return strings.HasPrefix(line, "#") && len(all) > 0 })
			all = append(all, l)
		default:
			begun = true
		}
	}
	return all, first, nil
}

func firstChild(n syntax.Node) syntax.Node {
	for c := range n.NamedChildren() {
		return c
	}
	return syntax.Node{}
}

func lineEnd(text []byte, at uint32) int {
	for int(at) < len(text) && text[at] != '\n' {
		at++
	}
	return min(int(at)+1, len(text))
}

// Wanted implements lang.Importing.
func (changing) Wanted(u facts.Use, _ bool) bool { return u.Role != facts.Write }

// Stays implements lang.Importing: what a text names may be a type, or what a module hands on.
func (changing) Stays(i facts.Imported, name string, text []byte) bool {
	if i.Name == "*" || name == "" || i.Path == "__future__" || name == "_" || strings.HasPrefix(name, "__") || i.Alias != "" && i.Alias == i.Name && regexp.MustCompile(`import[^\n]*\b`+regexp.QuoteMeta(name)+` as `+regexp.QuoteMeta(name)+`\b`).Match(text) {
		return true
	}
	end := lineEnd(text, i.At.End)
	if strings.Contains(string(text[i.At.End:end]), "noqa") {
		return true
	}
	quoted := regexp.MustCompile(`["'][^"'\n]*\b` + regexp.QuoteMeta(name) + `\b[^"'\n]*["']`)
	return quoted.Match(text) || regexp.MustCompile(`#\s*type:.*\b`+regexp.QuoteMeta(name)+`\b`).Match(text)
}

// Reach implements lang.Imports: what a module defines is imported from it by its path from the outermost package.
func (i *imports) Reach(file, definer, name string) (facts.Imported, bool) {
	if definer == file || path.Ext(definer) != ".py" {
		return facts.Imported{}, false
	}
	stem := strings.TrimSuffix(definer, ".py")
	stem = strings.TrimSuffix(stem, "/__init__")
	top := path.Dir(stem)
	for top != "." && i.project.Has(path.Join(top, packageFile)) {
		top = path.Dir(top)
	}
	for _, base := range i.bases(file, facts.Imported{}) {
		if base == top || base == "." && top == "." {
			break
		}
		if rest, ok := strings.CutPrefix(stem, base+"/"); ok && len(base) < len(top) {
			return facts.Imported{Path: strings.ReplaceAll(rest, "/", "."), Name: name, Alias: name}, true // packages without a file of their own
		}
	}
	rest := stem
	if top != "." {
		rest = strings.TrimPrefix(stem, top+"/")
	}
	imp := facts.Imported{Path: strings.ReplaceAll(rest, "/", "."), Name: name, Alias: name}
	if i.Module(file, imp) != definer {
		imp.Path = strings.ReplaceAll(stem, "/", ".")
	}
	return imp, i.Module(file, imp) == definer
}

// Known implements lang.Imports: modules of that name, and what modules of the library define.
func (i *imports) Known(_, name, member string) (all []facts.Imported) {
	m := i.project.Machine()
	if m == nil {
		return nil
	}
	for _, dir := range i.onMachine(m) {
		at := i.file(path.Join(dir, name))
		if at == "" && standard[name] {
			at = dir
		}
		if at != "" {
			return []facts.Imported{{Path: name}}
		}
	}
	if member != "" && name == strings.ToLower(name) {
		return nil
	}
	defined := regexp.MustCompile(`(?m)^(class|def|async def) ` + regexp.QuoteMeta(name) + `\b|^` + regexp.QuoteMeta(name) + ` *(:[^=\n]*)?= `)
	for _, dir := range i.onMachine(m) {
		if strings.Contains(dir, "-packages") {
			continue
		}
		all = append(all, definers(dir, defined, name)...)
		if len(all) > 0 {
			break
		}
	}
	return all
}

// definers are the modules in a folder that define something at their top, those first that are imported most.
func definers(dir string, defined *regexp.Regexp, name string) (all []facts.Imported) {
	files, err := filepath.Glob(filepath.Join(dir, "*.py"))
	if err != nil {
		return nil
	}
	inside, _ := filepath.Glob(filepath.Join(dir, "*", packageFile))
	for _, f := range append(files, inside...) {
		mod := strings.TrimSuffix(filepath.Base(f), ".py")
		if mod == "__init__" {
			mod = filepath.Base(filepath.Dir(f))
		}
		if strings.HasPrefix(mod, "_") || !standard[mod] {
			continue
		}
		if text, err := os.ReadFile(f); err == nil && defined.Match(text) {
			all = append(all, facts.Imported{Path: mod, Name: name, Alias: name})
		}
	}
	slices.SortFunc(all, func(a, b facts.Imported) int { return strings.Compare(a.Path, b.Path) })
	return all
}
