package shared

import (
	"bytes"
	"path"
	"slices"
	"strings"
	"unicode"

	"rooktrail/internal/core/file/facts"
)

// members notes the members that are such names: the classes of a sheet that is imported, what lies in a data set, variables of
// the environment.
func (s *scanner) members(f *facts.File) {
	sheets := s.sheetsOf(f)
	for i := range f.Uses {
		u := &f.Uses[i]
		if u.Base == facts.NoExpr {
			continue
		}
		base := &f.Exprs[u.Base]
		switch {
		case base.Name == "env" && base.Kind == facts.Member && variable.MatchString(u.Name):
			s.add(facts.Environment, u.Name, int(u.At.Start), int(u.At.End), false)
		case base.Name == "dataset" && base.Kind == facts.Member:
			s.add(facts.Data, "data-"+dashed(u.Name), int(u.At.Start), int(u.At.End), u.Role == facts.Write)
		case base.Kind == facts.Name && sheets[base.Name] > 0:
			for _, name := range []string{u.Name, dashed(u.Name)} {
				s.found = append(s.found, facts.Shared{Realm: facts.StyleClass, Name: name, At: u.At, Import: sheets[base.Name]})
			}
		}
	}
}

// sheetsOf are the names under which a file imports style sheets, with the numbers of the imports.
func (s *scanner) sheetsOf(f *facts.File) map[string]int {
	var sheets map[string]int
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Kind != facts.Import || d.Import == 0 {
			continue
		}
		p, _, _ := strings.Cut(f.Imports[d.Import-1].Path, "?")
		if slices.Contains(s.sheets, strings.ToLower(path.Ext(p))) {
			if sheets == nil {
				sheets = map[string]int{}
			}
			sheets[d.Name] = d.Import
		}
	}
	return sheets
}

// dashed writes a name in small letters, with lines between its words.
func dashed(name string) string {
	var b strings.Builder
	for i, r := range name {
		if unicode.IsUpper(r) && i > 0 {
			b.WriteByte('-')
		}
		b.WriteRune(unicode.ToLower(r))
	}
	return b.String()
}

// mostEntries is how many keys of one file are noted.
const mostEntries = 5000

// InSettings is the Reader of the languages of configuration: its keys are used there, and given where a field takes them.
// Those in capitals below what says so are variables of the environment.
func InSettings(text []byte, f *facts.File) (all []facts.Shared) {
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Kind != facts.Key && d.Kind != facts.Table || d.At.Len() == 0 || len(all) >= mostEntries {
			continue
		}
		last := d.Name[strings.LastIndexByte(d.Name, '.')+1:]
		if d.Parent != facts.NoDef && setsEnvironment[f.Defs[d.Parent].Name] && variable.MatchString(d.Name) {
			all = append(all, facts.Shared{Realm: facts.Environment, Name: d.Name, At: d.At, Given: true})
			continue
		}
		all = append(all, facts.Shared{Realm: facts.Entry, Name: last, At: d.At})
	}
	return all
}

var setsEnvironment = set("environment", "env", "variables", "environments", "data")

// InShell is the Reader of shells, whose variables in capitals are those of the environment. Where a file is no more than a
// list of them, as what is read at the start of a program, they are given there as well.
func InShell(_ []byte, f *facts.File) (all []facts.Shared) {
	for i := range f.Defs {
		if d := &f.Defs[i]; d.Kind == facts.Variable && variable.MatchString(d.Name) {
			all = append(all, facts.Shared{Realm: facts.Environment, Name: d.Name, At: d.At, Given: true})
		}
	}
	for i := range f.Uses {
		if u := &f.Uses[i]; u.Base == facts.NoExpr && variable.MatchString(u.Name) {
			all = append(all, facts.Shared{Realm: facts.Environment, Name: u.Name, At: u.At, Given: u.Role == facts.Write})
		}
	}
	return all
}

// InImages is the Reader of the making of images, which sets variables of the environment.
func InImages(text []byte, _ *facts.File) []facts.Shared {
	s, at := &scanner{text: text}, 0
	for line := range bytes.Lines(text) {
		rest := bytes.TrimLeft(line, " \t")
		if word, _, _ := bytes.Cut(rest, []byte(" ")); strings.EqualFold(string(word), "env") || strings.EqualFold(string(word), "arg") {
			for _, w := range words(at+len(line)-len(rest)+len(word), rest[len(word):], nil) {
				name, _, _ := strings.Cut(w.name, "=")
				if variable.MatchString(name) {
					s.add(facts.Environment, name, w.start, w.start+len(name), true)
				}
			}
		}
		at += len(line)
	}
	return s.found
}
