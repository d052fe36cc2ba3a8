package java

import (
	"bytes"
	"context"
	"path"
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
	Write:  func(i facts.Imported) string { return "import " + i.Path + ";" },
	Name:   func(facts.Imported) string { return "" },
	Module: func(i facts.Imported) string { return i.Path },
	Key:    func(s *lang.ImportLine, _ string) string { return s.Module },
	Kind: func(module string) int {
		switch {
		case strings.HasPrefix(module, static):
			return 3
		case strings.HasPrefix(module, "java."):
			return 0
		case strings.HasPrefix(module, "javax."):
			return 1
		}
		return 2
	},
}}

// static is what stands in front of the path of what is imported out of a type.
const static = "static "

type changing struct{ *lang.ImportLines }

// readImports finds the imports of a text.
func readImports(ctx context.Context, text []byte) (all []lang.ImportLine, first int, err error) {
	tree, err := syntax.Parse(ctx, grammar, text)
	if err != nil {
		return nil, 0, err
	}
	for n := range tree.Root().NamedChildren() {
		switch n.Type() {
		case "package_declaration":
			first = int(n.Range().End)
			for first < len(text) && text[first] != '\n' {
				first++
			}
			first = min(first+1, len(text))
		case "import_declaration":
			l := lang.ImportLine{At: n.Range()}
			if n.Has("static") {
				l.Module = static
			}
			l.Module += strings.TrimSpace(strings.TrimSuffix(strings.TrimPrefix(strings.TrimSpace(strings.TrimPrefix(n.Text(), "import")), "static"), ";"))
			l.Module = strings.Replace(l.Module, static+" ", static, 1)
			l.Lines(text)
			l.Above(text, func(line string) bool { return strings.HasPrefix(line, "//") })
			all = append(all, l)
		}
	}
	return all, first, nil
}

// Wanted implements lang.Importing.
func (changing) Wanted(u facts.Use, _ bool) bool {
	return u.Name != "" && u.Name[0] >= 'A' && u.Name[0] <= 'Z' && strings.ToUpper(u.Name) != u.Name
}

// Stays implements lang.Importing: what documentation names is imported for that, and annotations stand where the grammar does not
// know them.
func (changing) Stays(i facts.Imported, name string, text []byte) bool {
	if i.Name == "*" || strings.HasSuffix(i.Path, "*") || name == "" || hasWord(text, "@", name) {
		return true
	}
	return slices.ContainsFunc(links.FindAll(text, -1), func(link []byte) bool { return hasWord(link, "", name) })
}

// links are what names things in documentation.
var links = regexp.MustCompile(`\{@(?:link|linkplain|value)\b[^}]*\}|@(?:see|throws|exception)\b[^\n]*`)

// hasWord says whether a word stands in a text behind something, and is not a part of another.
func hasWord(text []byte, behind, word string) bool {
	for from := 0; ; {
		n := bytes.Index(text[from:], []byte(behind+word))
		if n < 0 {
			return false
		}
		start, end := from+n, from+n+len(behind)+len(word)
		if (behind != "" || start == 0 || !wordByte(text[start-1])) && (end == len(text) || !wordByte(text[end])) {
			return true
		}
		from = end
	}
}

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
}

// Reach implements lang.Imports: a type is imported by the package that its file says.
func (i *imports) Reach(file, definer, name string) (facts.Imported, bool) {
	pkg := packageOf(i.project.Text(definer))
	if pkg == "" || pkg == packageOf(i.project.Text(file)) || strings.TrimSuffix(path.Base(definer), ".java") != name {
		return facts.Imported{}, false
	}
	return facts.Imported{Path: pkg + "." + name}, true
}

// packageOf is the package that a text says it belongs to.
func packageOf(text []byte) string {
	for line := range strings.SplitSeq(string(text), "\n") {
		if rest, ok := strings.CutPrefix(strings.TrimSpace(line), "package "); ok {
			name, _, _ := strings.Cut(rest, ";")
			return strings.TrimSpace(name)
		}
	}
	return ""
}

// Known implements lang.Imports: the types of the library.
func (i *imports) Known(_, name, _ string) (all []facts.Imported) {
	m := i.project.Machine()
	if m == nil {
		return nil
	}
	i.once.Do(func() { i.look(m) })
	if i.sources == nil {
		return nil
	}
	for _, file := range i.sources.Named(name + ".java") {
		if strings.HasPrefix(file, "java/") && !strings.HasPrefix(file, "java/lang/"+name) || strings.HasPrefix(file, "javax/") {
			all = append(all, facts.Imported{Path: strings.ReplaceAll(strings.TrimSuffix(file, ".java"), "/", ".")})
		}
	}
	rank := func(i facts.Imported) int {
		return slices.IndexFunc([]string{"java.util.", "java.io.", "java.nio.", "java.time.", "java.", ""}, func(p string) bool { return strings.HasPrefix(i.Path, p) })
	}
	slices.SortFunc(all, func(a, b facts.Imported) int {
		if r := rank(a) - rank(b); r != 0 {
			return r
		}
		return strings.Compare(a.Path, b.Path)
	})
	return all
}
